"""Refrigerants and oils: what the vacuum side of the job needs of them."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.physics.quantity import Quantity


@dataclass(frozen=True)
class Refrigerant:
    """``pressure_40c`` Pa absolute at 40 °C (bubble point of blends), ``molar_mass`` kg/mol, ISO 817 safety class."""

    name: str
    safety: str
    molar_mass: float
    pressure_40c: Quantity
    zeotropic: bool


def _r(name: str, safety: str, m: float, bar: float, zeotropic: bool = False) -> Refrigerant:
    p = Quantity(bar * 1e5, bar * 0.97e5, bar * 1.03e5, "Pa", "estimate: rounded from published saturation tables")
    return Refrigerant(name, safety, m * 1e-3, p, zeotropic)


REFRIGERANTS: dict[str, Refrigerant] = {
    r.name: r
    for r in (
        _r("R-134a", "A1", 102.0, 10.2),
        _r("R-513A", "A1", 108.4, 10.7),
        _r("R-1234yf", "A2L", 114.0, 10.2),
        _r("R-404A", "A1", 97.6, 18.3, True),
        _r("R-407C", "A1", 86.2, 17.5, True),
        _r("R-410A", "A1", 72.6, 24.2, True),
        _r("R-448A", "A1", 86.3, 18.6, True),
        _r("R-449A", "A1", 87.2, 18.5, True),
        _r("R-32", "A2L", 52.0, 24.8),
        _r("R-454B", "A2L", 62.6, 23.2, True),
        _r("R-454C", "A2L", 90.8, 16.6, True),
        _r("R-455A", "A2L", 87.5, 19.2, True),
        _r("R-290", "A3", 44.1, 13.7),
        _r("R-600a", "A3", 58.1, 5.3),
    )
}


AMBIENT_SHARE = Quantity(
    0.6, 0.45, 0.8, "1", "estimate: saturation at 15 to 30 °C over that at 40 °C, common refrigerants"
)
"""Pressure of a cylinder or a kept charge at a usual ambient, as a share of ``pressure_40c``."""


@dataclass(frozen=True, kw_only=True)
class Oil:
    """How an oil takes and gives up water. ``ppm_hour``: mass ppm per hour open to air at 100 % humidity."""

    name: str
    hygroscopic: bool
    ppm_start: Quantity
    ppm_hour: Quantity
    ppm_most: Quantity
    tau: Quantity


_HOURS = 3600.0

OILS: dict[str, Oil] = {
    "POE": Oil(
        name="POE",
        hygroscopic=True,
        ppm_start=Quantity(60, 30, 120, "ppm", "estimate: sealed ester oil"),
        ppm_hour=Quantity(45, 15, 120, "ppm/h", "estimate: uptake of ester oil, still surface"),
        ppm_most=Quantity(2000, 1200, 2500, "ppm", "estimate: ester oil in equilibrium with moist air"),
        tau=Quantity(2.5 * _HOURS, 1.0 * _HOURS, 7.0 * _HOURS, "s", "estimate: release of water from ester oil"),
    ),
    "PVE": Oil(
        name="PVE",
        hygroscopic=True,
        ppm_start=Quantity(80, 40, 160, "ppm", "estimate: sealed polyvinyl ether oil"),
        ppm_hour=Quantity(90, 30, 220, "ppm/h", "estimate: uptake of polyvinyl ether oil"),
        ppm_most=Quantity(6000, 4000, 8000, "ppm", "estimate: polyvinyl ether in equilibrium with moist air"),
        tau=Quantity(
            2.0 * _HOURS, 0.8 * _HOURS, 6.0 * _HOURS, "s", "estimate: release of water from polyvinyl ether oil"
        ),
    ),
    "mineral": Oil(
        name="mineral",
        hygroscopic=False,
        ppm_start=Quantity(25, 15, 40, "ppm", "estimate: sealed mineral oil"),
        ppm_hour=Quantity(3, 1, 8, "ppm/h", "estimate: uptake of mineral oil"),
        ppm_most=Quantity(80, 50, 120, "ppm", "estimate: mineral oil in equilibrium with moist air"),
        tau=Quantity(0.8 * _HOURS, 0.3 * _HOURS, 2.0 * _HOURS, "s", "estimate: release of water from mineral oil"),
    ),
    "alkylbenzene": Oil(
        name="alkylbenzene",
        hygroscopic=False,
        ppm_start=Quantity(30, 15, 50, "ppm", "estimate: sealed alkylbenzene oil"),
        ppm_hour=Quantity(5, 2, 12, "ppm/h", "estimate: uptake of alkylbenzene oil"),
        ppm_most=Quantity(150, 90, 220, "ppm", "estimate: alkylbenzene in equilibrium with moist air"),
        tau=Quantity(0.9 * _HOURS, 0.3 * _HOURS, 2.5 * _HOURS, "s", "estimate: release of water from alkylbenzene oil"),
    ),
}
