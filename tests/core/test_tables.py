"""Figures and times as people write them; conductance against the handbook formula over a grid."""

from __future__ import annotations

import itertools

import pytest

from rough_draw.core.engine.kernels import pool_heat, pool_temperature
from rough_draw.core.message import Fault
from rough_draw.core.physics import conductance as c
from rough_draw.core.physics.gas import M_AIR, M_WATER, mean_speed, viscosity_air, viscosity_water
from rough_draw.core.readings.table_layout import Clock, guess_delimiter, number

NUMBERS = [
    # written, decimal comma, value
    ("612", False, 612.0),
    ("612.5", False, 612.5),
    ("18,290", False, 18_290.0),
    ("1,018,290.5", False, 1_018_290.5),
    (" 42 ", False, 42.0),
    ("1'250", False, 1250.0),
    ("4e3", False, 4000.0),
    ("+7", False, 7.0),
    ("-3.5", False, -3.5),
    ("\u22123.5", False, -3.5),
    (".5", False, 0.5),
    ("1013,25", True, 1013.25),
    ("1.013,25", True, 1013.25),
    ("0,66", True, 0.66),
    ("12", True, 12.0),
    ("1.234.567", True, 1_234_567.0),
]

NOT_NUMBERS = ["abc", "", "12abc", "1..2", "--", "1,2,3", "nan", "inf", "0x10", "1 2"]

TIMES = [
    # kind, written in order, seconds from the first
    ("seconds", ["0", "10", "20.5"], [0, 10, 20.5]),
    ("minutes", ["0", "1", "2.5"], [0, 60, 150]),
    ("m:ss", ["0:00", "0:16", "1:05", "40:00"], [0, 16, 65, 2400]),
    ("clock", ["13:34", "13:40", "14:00"], [0, 360, 1560]),
    ("clock", ["13:34:05", "13:34:07"], [0, 2]),
    ("clock", ["23:59:50", "00:00:10"], [0, 20]),
    ("clock", ["11:59:59 PM", "12:00:01 AM"], [0, 2]),
    ("clock", ["11:59:59 AM", "12:00:01 PM"], [0, 2]),
    ("clock", ["23:00", "01:00", "23:00", "01:00"], [0, 7200, 86_400, 93_600]),
    ("datetime", ["2026-09-14T13:34:05+02:00", "2026-09-14T13:34:10+02:00"], [0, 5]),
    ("datetime", ["2026-09-14T13:34:05Z", "2026-09-14T13:35:05Z"], [0, 60]),
    ("datetime", ["14/09/2026 01:34:05 PM", "14/09/2026 01:34:08 PM"], [0, 3]),
    ("datetime", ["14.09.2026 23:59:59", "15.09.2026 00:00:01"], [0, 2]),
    ("datetime", ["2026-09-14 13:34", "2026-09-14 13:36"], [0, 120]),
]

BAD_TIMES = [
    ("seconds", "noon", "table-time"),
    ("seconds", "", "table-no-time"),
    ("clock", "13.34", "table-time"),
    ("clock", "13:75", "table-time-59"),
    ("clock", "13:34:61", "table-time-59"),
    ("m:ss", "4:99", "table-time-59"),
    ("datetime", "yesterday", "table-time"),
]


@pytest.mark.parametrize(("written", "comma", "value"), NUMBERS)
def test_numbers(written: str, comma: bool, value: float) -> None:
    assert number(written, comma) == pytest.approx(value)


@pytest.mark.parametrize("written", NOT_NUMBERS)
def test_what_is_not_a_number(written: str) -> None:
    with pytest.raises(Fault, match="table-number"):
        number(written, False)


@pytest.mark.parametrize(("kind", "written", "seconds"), TIMES)
def test_times(kind: str, written: list[str], seconds: list[float]) -> None:
    clock = Clock(kind)
    found = [clock.seconds(w) for w in written]
    assert [f - found[0] for f in found] == pytest.approx(seconds)


@pytest.mark.parametrize(("kind", "written", "says"), BAD_TIMES)
def test_what_is_not_a_time(kind: str, written: str, says: str) -> None:
    with pytest.raises(Fault, match=f"^{says}$"):
        Clock(kind).seconds(written)


@pytest.mark.parametrize(
    ("text", "delimiter"),
    [
        ("a,b\n1,2\n3,4", ","),
        ("a;b\n1,5;2\n3,4;5", ";"),
        ("a\tb\n1\t2", "\t"),
        ("title\n\na,b,c\n1,2,3\n4,5,6", ","),
        ("single\ncolumn", ","),
    ],
)
def test_separators(text: str, delimiter: str) -> None:
    assert guess_delimiter(text) == delimiter


def handbook(d_cm: float, l_cm: float, p_mbar: float) -> float:
    """Knudsen's formula for air at 20 °C, l/s, with the handbook's rounded constants."""
    viscous = 135.0 * d_cm**4 / l_cm * p_mbar
    molecular = 12.1 * d_cm**3 / l_cm * (1 + 192 * d_cm * p_mbar) / (1 + 237 * d_cm * p_mbar)
    return viscous + molecular


GRID = list(itertools.product((0.3, 0.55, 0.87, 1.27), (50, 150, 500), (1e-3, 1e-2, 0.1, 1.0, 10.0)))


@pytest.mark.parametrize(("d", "length", "p"), GRID)
def test_the_handbook_formula_over_a_grid(d: float, length: float, p: float) -> None:
    mine = 1e3 * c.knudsen_long_tube(d / 100, length / 100, p * 100)
    assert mine == pytest.approx(handbook(d, length, p), rel=0.012)


@pytest.mark.parametrize("p", [0.01, 1.0, 10.0, 66.0, 300.0, 5000.0])
def test_the_entrance_only_ever_takes_away(p: float) -> None:
    for bore, length in ((0.002, 0.01), (0.008, 0.09), (0.0087, 1.5)):
        whole = c.tube_conductance(bore, length, p * 1.1, p * 0.9)
        assert 0 < whole <= c.knudsen_long_tube(bore, length, p) * 1.0001


def test_water_vapour_passes_1_27_times_as_fast_in_molecular_flow() -> None:
    ratio = mean_speed(M_WATER, 293.15) / mean_speed(M_AIR, 293.15)
    assert ratio == pytest.approx(1.27, abs=0.005)


def test_water_vapour_is_thinner_so_it_flows_faster_in_viscous_flow() -> None:
    air = c.viscous_tube(0.01, 1.0, 1000, viscosity_air(293.15))
    vapour = c.viscous_tube(0.01, 1.0, 1000, viscosity_water(293.15))
    assert vapour / air == pytest.approx(1.87, rel=0.02)


POOLS = [
    # kg, K
    (0.01, 293.15),
    (0.05, 278.0),
    (0.02, 273.16),
    (0.02, 268.0),
    (0.0, 285.0),
]


@pytest.mark.parametrize(("mass", "t"), POOLS)
def test_heat_and_temperature_of_standing_water_agree(mass: float, t: float) -> None:
    assert pool_temperature(mass, pool_heat(mass, t, 50.0), 50.0) == pytest.approx(t, abs=1e-9)


def test_freezing_keeps_the_temperature() -> None:
    liquid = pool_heat(0.01, 273.16, 50.0)
    for share in (0.1, 0.5, 0.9):
        assert pool_temperature(0.01, liquid - share * 0.01 * 333_550, 50.0) == pytest.approx(273.16)
