"""Refrigerants and oils: what the vacuum side of the job needs of them."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.physics.quantity import Quantity


@dataclass(frozen=True)
class Refrigerant:
    """``pressure_40c`` Pa absolute at 40 °C (bubble point of blends; past a critical point, what a standing system is
    built for), ``molar_mass`` kg/mol, ``safety`` its class by ISO 817. ``tabled``: its saturation is known here.
    """

    name: str
    safety: str
    molar_mass: float
    pressure_40c: Quantity
    zeotropic: bool
    tabled: bool = True

    @property
    def flammable(self) -> bool:
        """Whether it burns: any class but 1."""
        return not self.safety.endswith("1")

    @property
    def toxic(self) -> bool:
        """Whether it is of the more toxic classes."""
        return self.safety.startswith("B")


def _r(name: str, safety: str, m: float, bar: float, zeotropic: bool = False) -> Refrigerant:
    p = Quantity(bar * 1e5, bar * 0.97e5, bar * 1.03e5, "Pa", "estimate: rounded from published saturation tables")
    return Refrigerant(name, safety, m * 1e-3, p, zeotropic)


UNTABLED_40C = Quantity(25e5, 5e5, 45e5, "Pa", "estimate: common refrigerants at 40 °C, without a data sheet")
"""Pressure at 40 °C of a refrigerant that was added by name without one."""
UNTABLED_LIQUID = Quantity(1050.0, 480.0, 1350.0, "kg/m³", "estimate: liquids of common refrigerants at 15 to 35 °C")
"""Liquid density of a refrigerant whose saturation is not known."""

REFRIGERANTS: dict[str, Refrigerant] = {
    r.name: r
    for r in (
        _r("R-12", "A1", 120.9, 9.6),
        _r("R-22", "A1", 86.5, 15.3),
        _r("R-23", "A1", 70.0, 65.0),
        _r("R-32", "A2L", 52.0, 24.8),
        _r("R-123", "B1", 152.9, 1.54),
        _r("R-134a", "A1", 102.0, 10.2),
        _r("R-152a", "A2", 66.1, 9.1),
        _r("R-245fa", "B1", 134.0, 2.5),
        _r("R-290", "A3", 44.1, 13.7),
        _r("R-404A", "A1", 97.6, 18.3, True),
        _r("R-407A", "A1", 90.1, 18.4, True),
        _r("R-407C", "A1", 86.2, 17.5, True),
        _r("R-407F", "A1", 82.1, 19.2, True),
        _r("R-410A", "A1", 72.6, 24.2, True),
        _r("R-417A", "A1", 106.7, 14.5, True),
        _r("R-422A", "A1", 113.6, 18.7, True),
        _r("R-422D", "A1", 109.9, 16.6, True),
        _r("R-427A", "A1", 90.4, 16.8, True),
        _r("R-448A", "A1", 86.3, 18.6, True),
        _r("R-449A", "A1", 87.2, 18.5, True),
        _r("R-450A", "A1", 108.7, 9.1, True),
        _r("R-452A", "A1", 103.5, 19.0, True),
        _r("R-452B", "A2L", 63.5, 23.3, True),
        _r("R-454A", "A2L", 80.5, 19.5, True),
        _r("R-454B", "A2L", 62.6, 23.2, True),
        _r("R-454C", "A2L", 90.8, 16.6, True),
        _r("R-455A", "A2L", 87.5, 19.2, True),
        _r("R-466A", "A1", 80.7, 23.5, True),
        _r("R-502", "A1", 111.6, 16.5),
        _r("R-507A", "A1", 98.9, 18.7),
        _r("R-513A", "A1", 108.4, 10.7),
        _r("R-600a", "A3", 58.1, 5.3),
        _r("R-717", "B2L", 17.0, 15.5),
        _r("R-744", "A1", 44.0, 90.0),
        _r("R-1233zd(E)", "A1", 130.5, 2.2),
        _r("R-1234yf", "A2L", 114.0, 10.2),
        _r("R-1234ze(E)", "A2L", 114.0, 7.7),
        _r("R-1270", "A3", 42.1, 16.5),
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
