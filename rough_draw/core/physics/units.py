"""Trade units at the edges; SI inside.

Every factor is exact by definition unless the comment says otherwise. The micron is the
trade's unit of absolute pressure: 1 µ = 1 mTorr = 101325/760000 Pa.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

ATMOSPHERE_PA = 101_325.0
"""Standard atmosphere, Pa (exact, CGPM 1954)."""

MICRON_PA = ATMOSPHERE_PA / 760_000.0
"""One micron of mercury (1 mTorr), Pa."""

PA_PER: dict[str, float] = {
    "micron": MICRON_PA,
    "pa": 1.0,
    "hpa": 100.0,
    "kpa": 1000.0,
    "mbar": 100.0,
    "bar": 100_000.0,
    "torr": ATMOSPHERE_PA / 760.0,
    "mtorr": MICRON_PA,
    "mmhg": ATMOSPHERE_PA / 760.0,
    "inhg": 3386.389,  # conventional inch of mercury at 0 °C, NIST SP 811
    "psi": 6894.757293168,  # NIST SP 811
}

_ALIASES: dict[str, str] = {
    "micron": "micron",
    "microns": "micron",
    "µ": "micron",
    "μ": "micron",
    "um": "micron",
    "µm": "micron",
    "umhg": "micron",
    "µmhg": "micron",
    "μmhg": "micron",
    "pa": "pa",
    "hpa": "hpa",
    "kpa": "kpa",
    "mbar": "mbar",
    "bar": "bar",
    "torr": "torr",
    "mtorr": "mtorr",
    "mmhg": "mmhg",
    "inhg": "inhg",
    "psi": "psi",
    "psia": "psi",
}

FOOT_M = 0.3048
INCH_M = 0.0254
CFM_M3_S = FOOT_M**3 / 60.0
"""One cubic foot per minute, m³/s (exact)."""


def pressure_unit(text: str) -> str | None:
    """Canonical unit name for a written one (``um Hg`` → ``micron``), or None if it is not one."""
    return _ALIASES.get(re.sub(r"[\s.\[\]()]+", "", text.strip().lower()))


def to_pa(value: float, unit: str) -> float:
    """Absolute pressure in Pa from ``value`` in ``unit`` (a key of `PA_PER`).

    Raises ValueError for an unknown unit.
    """
    try:
        return value * PA_PER[unit]
    except KeyError:
        raise ValueError(f"unknown pressure unit '{unit}'; use one of {', '.join(PA_PER)}") from None


def from_pa(value: float, unit: str) -> float:
    """Absolute pressure in ``unit`` from Pa."""
    return value / PA_PER[unit]


def micron(pa: float) -> float:
    """Pa to microns."""
    return pa / MICRON_PA


def atmosphere_at(elevation_m: float) -> float:
    """Standard atmospheric pressure, Pa, at ``elevation_m`` (−500 … 11 000 m).

    ISO 2533 (ISA) troposphere: p = 101325 (1 − 2.25577e-5 h)^5.25588.
    """
    if not -500.0 <= elevation_m <= 11_000.0:
        raise ValueError(f"elevation {elevation_m:g} m is outside −500 … 11,000 m")
    return float(ATMOSPHERE_PA * (1.0 - 2.25577e-5 * elevation_m) ** 5.25588)


def dial_to_absolute(reading: float, unit: str, atmosphere_pa: float) -> float:
    """Absolute pressure, Pa, from a dial (gauge) vacuum of ``reading`` below the local atmosphere.

    ``unit`` is ``inhg`` or ``psi``; the sign is ignored, as people write both. Raises ValueError
    for a vacuum deeper than the atmosphere that surrounds the dial: "−30 psi" cannot be, and
    nearly always means 30 inHg.
    """
    depth = abs(reading) * PA_PER[unit]
    if depth > atmosphere_pa * 1.005:
        most = atmosphere_pa / PA_PER[unit]
        if unit == "psi":
            hint = f" Did you mean {abs(reading):g} inHg?"
        else:
            hint = " Check the elevation or barometer, or re-zero the dial."
        raise ValueError(
            f"a dial vacuum of {abs(reading):g} {unit} cannot be: the most possible here is {most:.2f} {unit}.{hint}"
        )
    return max(0.0, atmosphere_pa - depth)


@dataclass(frozen=True)
class DisplayUnit:
    """A unit a person may read: shown = value · ``factor`` + ``offset``, with ``digits`` significant figures.

    The value is in the document's own unit: Pa, °C, m³/s, m, kg, l.
    """

    key: str
    label: str
    factor: float
    offset: float = 0.0
    digits: int = 3


DISPLAY: dict[str, tuple[DisplayUnit, ...]] = {
    "pressure": (
        DisplayUnit("micron", "µ", 1.0 / MICRON_PA),
        DisplayUnit("pa", "Pa", 1.0),
        DisplayUnit("mbar", "mbar", 0.01),
        DisplayUnit("torr", "Torr", 760.0 / ATMOSPHERE_PA),
        DisplayUnit("inhg", "inHg", 1.0 / PA_PER["inhg"], digits=4),
    ),
    "temperature": (DisplayUnit("c", "°C", 1.0), DisplayUnit("f", "°F", 1.8, 32.0)),
    "flow": (
        DisplayUnit("cfm", "CFM", 1.0 / CFM_M3_S),
        DisplayUnit("l-min", "l/min", 60_000.0),
        DisplayUnit("m3-h", "m³/h", 3600.0),
    ),
    "length": (DisplayUnit("m", "m", 1.0), DisplayUnit("ft", "ft", 1.0 / FOOT_M)),
    "mass": (DisplayUnit("kg", "kg", 1.0), DisplayUnit("lb-oz", "lb·oz", 1.0 / 0.45359237)),
    "volume": (DisplayUnit("l", "l", 1.0), DisplayUnit("ft3", "ft³", 1e-3 / FOOT_M**3)),
}
"""What each kind of figure can be shown in; the first is the document's own, or the trade's (pressure, flow)."""


_DIAL = re.compile(r"^\s*([-−+]?)\s*(\d+(?:[.,]\d+)?)\s*(in\s*hg|inhg|\"\s*hg|psi[ag]?|)\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class DialReading:
    """A dial vacuum as it was said, understood: absolute Pa, inHg below the atmosphere, and what had to be guessed."""

    pa: float
    inhg: float
    asked: str


def read_dial(text: str, atmosphere_pa: float) -> DialReading:
    """Understand a dial vacuum: ``29.9``, ``29.9 inHg``, ``-14.2 psi``, and the ``-30 psi`` that cannot be.

    The least a gauge can show is minus the atmosphere (−14.7 psi at sea level): "−30 psi" is asked back as 30 inHg
    (and as a full vacuum where even that is too deep here). Raises ValueError for what is no dial reading at all.
    """
    found = _DIAL.match(text)
    if found is None:
        raise ValueError(f"'{text.strip()[:30]}' is no dial reading; write it like 29.5 inHg or −14.2 psi")
    value = float(found[2].replace(",", "."))
    unit = "psi" if found[3].lower().startswith("psi") else "inhg"
    depth = value * PA_PER[unit]
    asked = ""
    if unit == "psi" and depth > atmosphere_pa * 1.005:
        depth = value * PA_PER["inhg"]
        least = atmosphere_pa / PA_PER["psi"]
        asked = f"−{value:g} psi cannot be: the least here is −{least:.1f} psi. Taken as {value:g} inHg; is that right?"
    if depth > atmosphere_pa * 1.005:
        most = atmosphere_pa / PA_PER["inhg"]
        extra = f"{depth / PA_PER['inhg']:g} inHg cannot be: the most here is {most:.2f} inHg. Taken as a full vacuum."
        asked = f"{asked} {extra}".strip()
    depth = min(depth, atmosphere_pa)
    return DialReading(atmosphere_pa - depth, depth / PA_PER["inhg"], asked)


ZERO_C = 273.15
"""0 °C in K."""


def kelvin(celsius: float) -> float:
    """°C to K."""
    return celsius + ZERO_C


def celsius(kelvin: float) -> float:
    """K to °C."""
    return kelvin - ZERO_C
