"""Bench notes against values worked out by hand, or published."""

from __future__ import annotations

import math
import re
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from rough_draw.core.advice.calculators import (
    HoseRow,
    LineRow,
    altitude_note,
    dilution_left,
    hose_notes,
    leak_note,
    line_notes,
    pressure_note,
    water_curve,
)
from rough_draw.core.advice.glossary import GLOSSARY
from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.catalogue.rig_parts import HOSE_BORE, PUMP_SPEED_SHARE
from rough_draw.core.physics.conductance import series, tube_conductance
from rough_draw.core.physics.units import ATMOSPHERE_PA, CFM_M3_S, MICRON_PA
from tests.told import keys

PHYSICS = Path(__file__).parents[2] / "docs" / "physics.md"


@pytest.mark.parametrize(
    ("pa", "celsius"),
    [
        (101_325, 99.97),  # IAPWS: normal boiling point 373.124 K
        (2339, 20.0),  # steam tables
        (872.6, 5.0),
        (611.657, 0.01),
        (259.9, -10.0),  # over ice, IAPWS R14-08
        (103.26, -20.0),
    ],
)
def test_water_boils_where_the_tables_say(pa: float, celsius: float) -> None:
    note = pressure_note(pa)
    assert note.boils_c == pytest.approx(celsius, abs=0.02)
    assert note.state == ("boils" if celsius >= 0 else "sublimes")


def test_five_hundred_microns_in_every_unit_by_hand() -> None:
    n = pressure_note(500 * MICRON_PA)
    assert n.units["pa"] == pytest.approx(66.661, rel=1e-4)
    assert n.units["mbar"] == pytest.approx(0.66661, rel=1e-4)
    assert n.units["torr"] == pytest.approx(0.5)
    assert n.units["psi"] == pytest.approx(0.0096684, rel=1e-4)
    assert n.depth_inhg == pytest.approx(29.921 - 0.019685, abs=0.001)
    assert n.depth_psi == pytest.approx(14.696 - 0.009668, abs=0.001)


def test_no_boiling_point_outside_the_curve_and_no_pressure_under_nothing() -> None:
    assert pressure_note(0.5).boils_c is None
    assert pressure_note(150_000).boils_c is None
    with pytest.raises(ValueError, match="note-no-pressure"):
        pressure_note(0)


def test_the_curve_of_water_rises_all_the_way_and_meets_at_the_triple_point() -> None:
    curve = water_curve()
    assert curve[0][0] == -60
    assert curve[-1][0] == 100
    assert all(b[1] > a[1] for a, b in pairwise(curve))
    assert next(p for t, p, _ in curve if t == 0) == pytest.approx(611.15, rel=1e-3)
    assert [ice for _, _, ice in curve] == [t < 0 for t, _, _ in curve]


def test_the_comparer_says_what_the_trade_says() -> None:
    """A 3 CFM pump on one 1/2 in hose beats an 8 CFM pump on one 1/4 in hose."""
    small = hose_notes([HoseRow(size="1/2 in", length_m=1.5)], 3.0, 20.0, 26.66)[0]
    big = hose_notes([HoseRow(size="1/4 in", length_m=1.5)], 8.0, 20.0, 26.66)[0]
    assert small.speed > 2 * big.speed
    assert small.seconds is not None
    assert big.seconds is not None
    assert small.seconds < big.seconds
    cores = hose_notes([HoseRow(size="1/2 in"), HoseRow(size="1/2 in", cores_in=True)], 5.0, 20.0, 26.66)
    assert cores[1].speed < 0.2 * cores[0].speed
    assert keys(cores[1].worst) == ["core-in-port"]


def test_the_comparers_speed_is_the_pump_and_the_hose_in_series_by_hand() -> None:
    """With a very long hose nothing else counts: 1/S = 1/S_pump + 1/C, C at the mean pressure (Knudsen)."""
    row = HoseRow(size="3/8 in", length_m=20.0)
    target = 133.3
    note = hose_notes([row], 8.0, 20.0, target)[0]
    pump = 8.0 * CFM_M3_S * PUMP_SPEED_SHARE.value
    c = tube_conductance(HOSE_BORE["3/8 in"].value, 20.0, target, 0.05 * target)
    assert note.speed == pytest.approx(series(pump, c), rel=0.15)


def test_two_hoses_are_better_than_one_and_shorter_than_longer() -> None:
    rows = [HoseRow(count=1), HoseRow(count=2), HoseRow(length_m=0.5), HoseRow(length_m=5)]
    one, two, short, long = (n.speed for n in hose_notes(rows, 8.0, 20.0, 26.66))
    assert one < two < 2.05 * one
    assert long < one < short


def test_dilution_by_hand() -> None:
    assert dilution_left(1500 * MICRON_PA, ATMOSPHERE_PA, 2) == pytest.approx([1.9737e-3, 3.8954e-6], rel=1e-3)
    with pytest.raises(ValueError, match="note-dilution-order"):
        dilution_left(2e5, 1e5, 1)


def test_altitude_by_hand() -> None:
    """1,600 m: ISA 83,5 kPa, a dial shows about 24.65 inHg at 500 µ; one ± of 30 inHg is 7,620 µ."""
    n = altitude_note(500 * MICRON_PA, 1600.0)
    assert n.atmosphere == pytest.approx(83_524, rel=1e-3)
    assert n.dial_inhg == pytest.approx(83_524 / 3386.389 - 0.01969, abs=0.01)
    assert n.dial_blind_micron == pytest.approx(7620, rel=1e-3)
    assert n.boils_c == pytest.approx(94.7, abs=0.2)
    assert altitude_note(500 * MICRON_PA, 1600.0, ATMOSPHERE_PA).least_psi == pytest.approx(14.696, abs=0.001)


def test_a_leak_by_hand() -> None:
    """0.5 µ/s in 8 l is 5.33e-4 Pa·m³/s; 10 mbar·l/s is one Pa·m³/s."""
    n = leak_note(0.5, "micron-s", 8.0, "R-134a")
    assert n.pa_m3_s == pytest.approx(5.333e-4, rel=1e-3)
    assert n.mbar_l_s == pytest.approx(5.333e-3, rel=1e-3)
    ref = REFRIGERANTS["R-134a"]
    p = 0.6 * ref.pressure_40c.value
    # Viscous way out at the usual pressure: (p² − a²)/a² · η_air/η_ref, then grams by the gas law.
    eta = n.g_year.value / (
        5.333e-4
        * (p**2 - ATMOSPHERE_PA**2)
        / ATMOSPHERE_PA**2
        * ref.molar_mass
        / (8.314 * 293.15)
        * 1000
        * 365.25
        * 86400
    )
    assert 1.3 < eta < 1.8, "air is about half as viscous again as the vapour"
    assert n.g_year.low < n.g_year.value < n.g_year.high


@given(st.floats(1e-3, 1e3), st.sampled_from(["micron-s", "pa-m3-s", "mbar-l-s", "g-year"]), st.floats(0.1, 500))
def test_leaks_go_round_trip(value: float, form: str, volume: float) -> None:
    n = leak_note(value, form, volume, "R-448A")  # type: ignore[arg-type]
    back = {
        "micron-s": n.micron_s,
        "pa-m3-s": n.pa_m3_s,
        "mbar-l-s": n.mbar_l_s,
        "g-year": n.g_year.value,
    }
    assert back[form] == pytest.approx(value, rel=1e-9)
    for other, v in back.items():
        again = leak_note(v, other, volume, "R-448A")  # type: ignore[arg-type]
        assert again.pa_m3_s == pytest.approx(n.pa_m3_s, rel=1e-9)


def test_a_line_by_hand() -> None:
    """7/8 in ACR, 22.225 mm over walls of 1.143 mm: bore 19.94 mm; 10 m hold 3.12 l."""
    v = line_notes([LineRow(size="7/8 in", length_m=10.0)])[0]
    assert v.value == pytest.approx(math.pi / 4 * 0.01994**2 * 10, rel=2e-3)
    assert v.low < v.value < v.high
    with pytest.raises(ValidationError, match="9/9 in"):
        LineRow(size="9/9 in")
    with pytest.raises(ValidationError, match="hose"):
        HoseRow(size="2 in")


def test_every_source_named_is_a_relation_of_the_physics() -> None:
    relations = set(re.findall(r"^\| ([^|]+?) \|", PHYSICS.read_text(), re.M))
    assert len(GLOSSARY) >= 30
    for e in GLOSSARY:
        assert e.source == "" or e.source in relations, e.term


def test_every_source_that_the_page_links_to_is_there() -> None:
    relations = set(re.findall(r"^\| ([^|]+?) \|", PHYSICS.read_text(), re.M))
    linked: set[str] = set()
    for path in (PHYSICS.parents[1] / "frontend" / "src" / "notes").glob("*.tsx"):
        linked |= set(re.findall(r'relation="([^"]+)"', path.read_text()))
    assert len(linked) >= 8
    assert linked <= relations
