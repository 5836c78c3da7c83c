"""Sheets of version 1, the dial, the schools, units on screen, refrigerants from the library."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from rough_draw.core.catalogue import tube
from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.charging.charge import charge_to_weigh, line_adder
from rough_draw.core.model.assemble import assemble
from rough_draw.core.physics import refrigerant
from rough_draw.core.physics.dial import read_dial
from rough_draw.core.physics.display_units import DISPLAY, FOLLOWS
from rough_draw.core.physics.units import MICRON_PA, PA_PER
from rough_draw.core.planning.plan import plan_job
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.settings import Settings
from rough_draw.text import say
from tests.told import keys

OLD_HOSE = {"size": "1/4 in", "length_m": 1.5, "kind": "pressure", "depressor": True}
OLD: list[tuple[dict[str, Any], set[str], str]] = [
    ({"version": 1}, {"pump", "hose-a", "tool-a", "tool-g", "gauge"}, "cooler"),
    ({"version": 1, "scope": {"system": "packaged", "receiver_l": 4}}, {"tool-a"}, "packaged"),
    (
        {"version": 1, "scope": {"system": "line-set"}, "rig": {"paths": [{}, {"port": "liquid"}]}},
        {"tee", "hose-b"},
        "line-set",
    ),
    ({"version": 1, "scope": {"system": "cylinder", "volume_l": 27}}, {"tool-a"}, "cylinder"),
    (
        {
            "rig": {
                "manifold": "two-valve",
                "paths": [{"core": "in", "tool": False, "hose": OLD_HOSE}],
                "gauge": {"place": "manifold", "own_valve": False},
            }
        },
        {"manifold", "hose-p", "hose-a"},
        "cooler",
    ),
]


@pytest.mark.parametrize(("old", "parts", "template"), OLD, ids=[str(n) for n in range(len(OLD))])
def test_a_sheet_of_version_1_opens_and_is_planned(old: dict[str, Any], parts: set[str], template: str) -> None:
    job = Job.model_validate(old)
    assert job.version == 2
    assert job.scope.template == template
    assert parts <= {p.id for p in job.rig.parts}
    assert assemble(job).pumped
    assert Job.model_validate_json(job.model_dump_json()) == job


def test_version_1_keeps_its_figures() -> None:
    old = {
        "version": 1,
        "scope": {"suction": {"size": "1-1/8 in", "length_m": 31}, "capacity_kw": 17, "ambient_c": 22},
        "rig": {"pump": {"plate_cfm": 8, "blank_off_micron": 30}, "gauge": {"place": "pump"}},
        "party": {"customer": "Larkspur"},
    }
    job = Job.model_validate(old)
    line = job.scope.section("suction")
    assert (line.size, line.length_m) == ("1-1/8 in", 31)
    assert job.scope.section("evaporator").capacity_kw == 17
    assert job.rig.pump.blank_off_micron == 30
    assert job.rig.gauge is not None
    assert job.rig.gauge.on == "pump"
    assert job.party.customer == "Larkspur"


@pytest.mark.parametrize(
    ("old", "says"),
    [
        ({"version": 1, "rig": {"paths": [{"tool": False}]}}, "wrong-v1-core-out"),
        ({"version": 1, "rig": {"paths": "none"}}, "wrong-v1-list"),
        ({"version": 1, "rig": {"paths": [{}] * 3}}, "wrong-v1-two-ways"),
        ({"version": 1, "scope": {"system": "balloon"}}, "wrong-v1-system"),
        ({"version": 1, "scope": []}, "wrong-v1-objects"),
        ({"version": 1, "scope": {"ambient_c": 900}}, "ambient_c"),
    ],
)
def test_a_broken_sheet_of_version_1_says_where(old: dict[str, Any], says: str) -> None:
    with pytest.raises(ValidationError) as caught:
        Job.model_validate(old)
    assert says in str(caught.value)


@pytest.mark.parametrize(
    ("text", "inhg", "asks"),
    [
        ("29.9", 29.9, False),
        ("29,9 inHg", 29.9, False),
        ("-14.2 psi", 28.91, False),
        ("−30 psi", 29.92, True),
        ("-28 psig", 28.0, True),
        ("31 inHg", 29.92, True),
    ],
)
def test_a_dial_is_understood_and_what_cannot_be_is_asked_back(text: str, inhg: float, asks: bool) -> None:
    found = read_dial(text, 101_325.0)
    assert found.inhg == pytest.approx(inhg, abs=0.01)
    assert bool(found.asked) == asks
    assert found.pa == pytest.approx(101_325 - found.inhg * PA_PER["inhg"], abs=0.1)


@given(st.text(max_size=20))
def test_a_dial_never_reads_below_nothing(text: str) -> None:
    try:
        found = read_dial(text, 84_000.0)
    except ValueError:
        return
    assert 0.0 <= found.pa <= 84_000.0


def test_a_dial_only_job_says_what_it_could_have_missed() -> None:
    # ±1 % of 30 inHg is 7,620 µ = 1,016 Pa; in 30 min on 10 l: 1,016 · 0.01/1800 = 5.64e-3 Pa·m³/s.
    c = criteria.STANDARDS["dial-only"]
    blind = criteria.dial_blind(c, 101_325.0, 0.010, 293.15)
    assert blind.blind_pa / MICRON_PA == pytest.approx(7620, abs=5)
    assert blind.leak == pytest.approx(5.64e-3, rel=5e-3)
    assert blind.water_g == pytest.approx(1015.9 * 0.01 * 18.015 / (8.314463 * 293.15), rel=1e-3)
    assert blind.inhg == pytest.approx(29.90, abs=0.005)
    assert criteria.dial_blind(c, 84_000.0, 0.010, 293.15).inhg < 25.0  # the same vacuum on a mountain


def test_schools_carry_their_rules_in_words() -> None:
    rules = {k: say(c.rule()) for k, c in criteria.STANDARDS.items()}
    assert rules["triple"].startswith("2 × down to 1,500 µ and broken with nitrogen, then pull to 500 µ")
    assert "proves little" in rules["dial-only"]
    own = criteria.chosen(
        CriterionChoice(school="makers-own", target_micron=350, limit_micron=600, hold_min=45, dwell_min=15)
    )
    assert say(own.rule()) == "pull to 350 µ, keep it there 15 min, hold 45 min, stay at or under 600 µ"
    two = criteria.watched(CriterionChoice(school="triple", also="deep-and-flat"))
    assert [c.key for c in two] == ["triple", "deep-and-flat"]


def test_the_default_school_knows_the_custom_of_the_country() -> None:
    assert criteria.default_school(Scope(oil="mineral", custom="bar"))[0] == "single-deep"
    assert criteria.default_school(Scope(oil="POE", custom="bar"))[0] == "deep-and-flat"
    assert criteria.default_school(Scope(oil_kg=0))[1].key == "proposed-no-oil"


def test_units_on_screen_by_hand() -> None:
    by_key = {(d, u.key): u for d, units in DISPLAY.items() for u in units}
    assert 66.661 * by_key["pressure", "torr"].factor == pytest.approx(0.5, rel=1e-4)
    assert 270 * by_key["pressure", "mbar"].factor == pytest.approx(2.7)
    assert 20 * by_key["temperature", "f"].factor + by_key["temperature", "f"].offset == pytest.approx(68)
    assert 2.83e-3 * by_key["flow", "cfm"].factor == pytest.approx(6.0, rel=2e-3)
    assert 2.5e-3 * by_key["flow", "m3-h"].factor == pytest.approx(9.0)
    assert by_key["mass", "lb-oz"].factor == pytest.approx(2.20462, rel=1e-5)
    settings = Settings().model_dump()
    assert all((d, settings[FOLLOWS.get(d, d)]) in by_key for d in DISPLAY)
    assert 17.58 * by_key["capacity", "tons"].factor == pytest.approx(5.0, rel=1e-3)
    assert 1013.25 * by_key["barometer", "inhg"].factor == pytest.approx(29.921, rel=1e-4)
    assert 60 * by_key["adder", "lb-oz"].factor == pytest.approx(0.645, rel=1e-3)


# Saturation at 40 °C, bar: published tables (bubble point of blends).
PUBLISHED = {"R-134a": 10.166, "R-32": 24.78, "R-290": 13.69, "R-600a": 5.31, "R-410A": 24.26, "R-404A": 18.3}


@pytest.mark.parametrize("name", sorted(REFRIGERANTS))
def test_the_library_and_the_catalogue_agree(name: str) -> None:
    q = REFRIGERANTS[name].pressure_40c
    if refrigerant.hottest(name) < 313.15:
        # Past its critical point there is no boiling: what a system is built for is well above that point's pressure.
        assert q.value > 1.2 * refrigerant.saturated(name, refrigerant.hottest(name)).bubble
        return
    s = refrigerant.saturated(name, 313.15)
    assert s.bubble == pytest.approx(q.value, rel=0.05)
    assert s.dew <= s.bubble * 1.0001
    if name in PUBLISHED:
        assert s.bubble / 1e5 == pytest.approx(PUBLISHED[name], rel=3e-3)
    # Zeotropic blends glide; the catalogue says which.
    assert (s.bubble / s.dew > 1.002) == REFRIGERANTS[name].zeotropic
    with pytest.raises(ValueError, match="outside"):
        refrigerant.saturated(name, 500.0)


def test_an_adder_is_the_liquid_that_the_line_holds() -> None:
    per_m = line_adder("R-134a", "3/8 in")
    bore = tube.bore("3/8 in")
    assert per_m == pytest.approx(refrigerant.saturated("R-134a", 308.15).liquid_density * math.pi / 4 * bore**2)
    assert 0.05 < per_m < 0.06
    scope = Scope(refrigerant="R-134a", nameplate_kg=2.0, adder_g_per_m=None, included_length_m=2.0, accessories_g=150)
    charge = charge_to_weigh(scope)
    assert charge is not None
    # The unit keeps its charge: the nameplate is in it, and is not weighed in again.
    assert charge.to_weigh == pytest.approx(10.0 * per_m + 0.15)
    drained = tuple(x.model_copy(update={"holds_charge": False}) for x in scope.sections)
    empty = charge_to_weigh(scope.model_copy(update={"sections": drained}))
    assert empty is not None
    assert empty.to_weigh == pytest.approx(2.0 + 10.0 * per_m + 0.15)
    assert "adder-by-density" in keys(charge.words)


def test_a_typed_barometer_wins_over_the_elevation() -> None:
    low = Scope(elevation_m=2000, barometer_hpa=1013.25, condition="new-dry")
    assert plan_job(Job(scope=low), 2).assembly.system.atmosphere == pytest.approx(101_325)
