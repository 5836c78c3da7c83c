"""Units that a person may read figures in."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.physics.units import ATMOSPHERE_PA, CFM_M3_S, FOOT_M, MICRON_PA, PA_PER, POUND_KG


@dataclass(frozen=True)
class DisplayUnit:
    """A unit a person may read: shown = value · ``factor`` + ``offset``, with ``digits`` significant figures.

    The value is in the document's own unit: Pa (``gauge``: above the air's), °C, m³/s, m, kg, l.
    """

    key: str
    label: str
    factor: float
    offset: float = 0.0
    digits: int = 3


BTU_H_PER_KW = 3412.14163
TON_KW = 12_000.0 / BTU_H_PER_KW
"""A ton of refrigeration is 12,000 BTU an hour (international table BTU of 1,055.056 J)."""

DISPLAY: dict[str, tuple[DisplayUnit, ...]] = {
    "pressure": (
        DisplayUnit("micron", "µ", 1.0 / MICRON_PA),
        DisplayUnit("pa", "Pa", 1.0),
        DisplayUnit("mbar", "mbar", 0.01),
        DisplayUnit("torr", "Torr", 760.0 / ATMOSPHERE_PA),
        # A dial counts inches of mercury downward from the air: these count up from nothing, and say so.
        DisplayUnit("inhg", "inHg abs.", 1.0 / PA_PER["inhg"], digits=4),
    ),
    "gauge": (
        DisplayUnit("psig", "psig", 1.0 / PA_PER["psi"]),
        DisplayUnit("bar", "bar gauge", 1e-5),
        DisplayUnit("kpa", "kPa gauge", 1e-3),
    ),
    "temperature": (DisplayUnit("c", "°C", 1.0), DisplayUnit("f", "°F", 1.8, 32.0)),
    "flow": (
        DisplayUnit("cfm", "CFM", 1.0 / CFM_M3_S),
        DisplayUnit("l-min", "l/min", 60_000.0),
        DisplayUnit("m3-h", "m³/h", 3600.0),
    ),
    "length": (DisplayUnit("m", "m", 1.0), DisplayUnit("ft", "ft", 1.0 / FOOT_M)),
    "mass": (DisplayUnit("kg", "kg", 1.0), DisplayUnit("lb-oz", "lb·oz", 1.0 / POUND_KG)),
    "volume": (DisplayUnit("l", "l", 1.0), DisplayUnit("ft3", "ft³", 1e-3 / FOOT_M**3)),
    "barometer": (
        DisplayUnit("hpa", "hPa", 1.0, digits=4),
        DisplayUnit("inhg", "inHg", 100.0 / PA_PER["inhg"], digits=4),
    ),
    "capacity": (
        DisplayUnit("kw", "kW", 1.0),
        DisplayUnit("tons", "tons", 1.0 / TON_KW),
        DisplayUnit("btu-h", "BTU/h", BTU_H_PER_KW),
    ),
    "step": (DisplayUnit("c", "°C", 1.0), DisplayUnit("f", "°F", 1.8)),
    "grams": (DisplayUnit("kg", "g", 1.0, digits=2), DisplayUnit("lb-oz", "oz", 16e-3 / POUND_KG, digits=2)),
    "adder": (DisplayUnit("kg", "g/m", 1.0), DisplayUnit("lb-oz", "oz/ft", 16e-3 / POUND_KG * FOOT_M)),
}
FOLLOWS = {"step": "temperature", "grams": "mass", "adder": "mass"}
"""Kinds of figure that follow another one's choice: temperature differences, small weights, charge for a length."""
"""What each kind of figure can be shown in; the first is the document's own, or the trade's (pressure, flow)."""
