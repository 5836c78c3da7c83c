"""Volumes and water of systems by kind: estimates with ranges, for when nothing better is known."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.physics.quantity import Quantity

EVAPORATOR_PER_KW = Quantity(0.45e-3, 0.28e-3, 0.75e-3, "m³/kW", "estimate: tube volume of finned evaporators")
CONDENSER_PER_KW = Quantity(0.35e-3, 0.20e-3, 0.60e-3, "m³/kW", "estimate: tube volume of air-cooled condensers")
COMPRESSOR_PER_KW = Quantity(0.30e-3, 0.15e-3, 0.55e-3, "m³/kW", "estimate: shell space above the oil")
DRIER_VOLUME = Quantity(0.25e-3, 0.1e-3, 0.6e-3, "m³", "estimate: filter-drier and sight glass")
COIL_BORE_SHARE = Quantity(0.7, 0.5, 1.0, "of line bore", "estimate: coil header path against the suction line")
REHEAT_PER_KW = Quantity(0.30e-3, 0.18e-3, 0.50e-3, "m³/kW", "estimate: tube volume of reheat coils")
COIL_PATH = Quantity(1.5, 0.8, 3.0, "m", "estimate: header to header through many circuits side by side")
COIL_TUBE_BORE = Quantity(9e-3, 6e-3, 11e-3, "m", "estimate: tube of finned coils, for their inner wall")
VESSEL_PATH = Quantity(0.1, 0.05, 0.3, "m", "estimate: connections of a vessel")
CHECK_CRACK = Quantity(500.0, 100.0, 2000.0, "Pa", "estimate: spring of a check valve")


@dataclass(frozen=True)
class LinkClass:
    """What joins two sections: its throat and its length."""

    bore: Quantity
    length: Quantity


def _class(low: float, value: float, high: float, length_mm: float, what: str) -> LinkClass:
    bore = Quantity(value * 1e-3, low * 1e-3, high * 1e-3, "m", f"estimate: {what}")
    length = Quantity(length_mm * 1e-3, 0.6 * length_mm * 1e-3, 1.6 * length_mm * 1e-3, "m", f"estimate: {what}")
    return LinkClass(bore, length)


LINKS: dict[str, LinkClass] = {
    "service-valve": _class(6, 9, 14, 50, "open service valve"),
    "ball-valve": _class(8, 12, 20, 60, "full-bore ball valve"),
    "solenoid": _class(4, 7, 10, 60, "lifted solenoid valve"),
    "expansion-valve": _class(1.2, 2.2, 3.5, 8, "electronic valve driven open"),
    "thermostatic-valve": _class(1.2, 1.8, 3.0, 6, "thermostatic valve, bulb warm"),
    "capillary": _class(0.8, 1.3, 2.0, 900, "capillary tubes or a fixed orifice"),
    "check-valve": _class(5, 8, 14, 50, "check valve in its own direction"),
    "reheat-valve": _class(5, 8, 14, 60, "driven reheat valve"),
    "filter-drier": _class(3, 5, 8, 80, "filter-drier, its bed"),
}
OIL_LEFT_IN_COIL = Quantity(0.07, 0.03, 0.15, "of charge", "estimate: oil that stays in lines and coil")
WALL_WATER = Quantity(20e-6, 5e-6, 80e-6, "kg/m²", "estimate fitted to draws: walls that stood open, oil film and all")
WALL_DRY = 1.0 / 8.0
"""Share of `WALL_WATER` on new dry tube: estimate."""
WALL_POWER = 0.3
"""Exponent of the uptake of walls by pressure (Freundlich's law): estimate."""
WALL_TAUS = (45.0, 180.0, 12_000.0)
"""How fast thirds of it leave, s: from the bare wall, the film, and what lies deeper. Estimates."""
WALL_PACE = Quantity(1.0, 0.5, 2.0, "of that time", "estimate: warm or cold, oily or bare")
REFRIGERANT_IN_OIL = Quantity(3e-3, 0.3e-3, 20e-3, "kg/kg", "estimate: left in compressor oil of an opened system")
REFRIGERANT_TAU = Quantity(
    2.0 * 3600, 0.7 * 3600, 6.0 * 3600, "s", "estimate: how fast it leaves oil that stands still"
)

WATER_TRANSFER = Quantity(3e-3, 8e-4, 1e-2, "m³/s", "estimate: evaporation conductance of standing water, about 10 cm²")
WATER_HEAT = {
    "line": Quantity(0.10, 0.04, 0.30, "W/K", "estimate: a puddle in a line, by the wall either side of it"),
    "coil": Quantity(1.0, 0.3, 3.0, "W/K", "estimate: water in the bends of a coil, by its fins"),
    "vessel": Quantity(0.4, 0.12, 1.2, "W/K", "estimate: water at the bottom of a shell or vessel"),
}

FREE_WATER_BY_CONDITION: dict[str, Quantity] = {
    "new-dry": Quantity(0.0, 0.0, 0.0, "kg", "estimate: lines kept capped and purged while brazing"),
    "open-hours": Quantity(0.0, 0.0, 0.0005, "kg", "estimate: opened for a repair, no standing water"),
    "leak-drawn-air": Quantity(0.004, 0.001, 0.015, "kg", "estimate: ran in vacuum with a leak and drew moist air in"),
    "compressor-burnt": Quantity(0.002, 0.0005, 0.008, "kg", "estimate: burnt compressor, acids and water"),
    "flooded": Quantity(0.060, 0.020, 0.200, "kg", "estimate: water drawn through a burst coil"),
}
