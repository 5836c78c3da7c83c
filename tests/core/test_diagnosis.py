"""Why a draw is slow: labelled faults are found, signs are read, tests tell causes apart."""

from __future__ import annotations

import random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bench.faults import Score, one
from bench.simulated import HEALTHY, KINDS, labelled
from rough_draw.core.diagnosis.causes import causes
from rough_draw.core.diagnosis.curve_signs import jumps, rising_since, signature
from rough_draw.core.diagnosis.diagnosis import Case, look_into
from rough_draw.core.diagnosis.draws import Further, Readings
from rough_draw.core.diagnosis.faults import keys_of
from rough_draw.core.diagnosis.opinion import ACTED_ON, opinion
from rough_draw.core.interlock.goal_key import GOAL_KEYS
from rough_draw.core.model.assemble import assemble
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.steps import Answered
from rough_draw.standins.world import Truth, World
from tests import builders
from tests.depth import first, whole

M = MICRON_PA
BOILS = 12_000 * M


def sheet() -> Job:
    return Job(scope=Scope(condition="new-dry"), rig=builders.one_hose())


def drawn(fault: str, minutes: float = 20.0, at: float = 0.0, severity: float = 0.0) -> tuple[World, Readings]:
    job = sheet()
    world = World(job, Truth(seed=4, fault=fault, severity=severity, fault_at=at))
    world.touch("pump-on")
    times = np.arange(4.0, minutes * 60.0, 4.0)
    shown = []
    for t in times:
        world.advance(float(t))
        p = world.read()
        shown.append(np.nan if p is None else p)
    return world, Readings(times, np.array(shown), 20_000 * M)


def test_every_kind_of_fault_is_a_cause_on_some_rig() -> None:
    job = sheet()
    keys = {c.key.partition(":")[0] for c in causes(job, assemble(job))}
    # A manifold, a second hose and a tool under the gauge are not on this rig.
    assert keys >= set(KINDS) - {"core", "cores", "manifold-leak", "all-hoses", "gauge-shut", HEALTHY}
    assert len(keys) >= 12
    every = causes(job, assemble(job))
    assert len({c.key for c in every}) == len(every)
    assert all(0 < c.prior < 1 and c.words and c.cure for c in every)


def test_a_forgotten_ballast_is_found() -> None:
    _, readings = drawn("ballast")
    case = look_into(sheet(), [Touch("ballast-open", 0.0), Touch("pump-on", 0.0)], 0.0, readings)
    assert sum(case.odds.values()) == pytest.approx(1.0)
    first = opinion(case)
    assert "ballast" in [s.key for s in first.suspects[:3]]
    assert "ballast" in [t.key for t in first.every]
    seen = opinion(case, [Answered("ballast", "yes")])
    assert seen.suspects[0].key == "ballast"
    assert seen.suspects[0].odds > 0.9
    ruled_out = opinion(case, [Answered("ballast", "no")])
    assert ruled_out.suspects[0].key != "ballast"
    assert "ballast" not in [t.key for t in ruled_out.tests]


def test_an_answer_that_is_not_known_changes_nothing() -> None:
    _, readings = drawn("worn-pump")
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, readings)
    assert opinion(case, [Answered("no-such", "yes"), Answered("oil", "purple")]).suspects == opinion(case).suspects


def test_likelihoods_of_every_test_are_probabilities_for_every_cause() -> None:
    _, readings = drawn("system-leak")
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, readings)
    for test in opinion(case).every:
        assert set(test.likelihood) == set(case.odds)
        for p in test.likelihood.values():
            assert len(p) == len(test.outcomes)
            assert sum(p) == pytest.approx(1.0, abs=0.02)
            assert min(p) >= 0.0


def test_a_leak_that_opens_in_the_middle_is_laid_to_what_can_begin_late() -> None:
    _, readings = drawn("system-leak", minutes=25, at=700.0, severity=1.0)
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, readings)
    assert case.onset is not None
    assert 500 < case.onset < 900
    assert "worn-pump" not in case.odds
    assert max(case.odds, key=lambda k: case.odds[k]) != "none"


def test_a_hold_at_the_tools_tells_a_leaking_system_from_a_worn_pump() -> None:
    _, readings = drawn("system-leak", severity=0.5)
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, readings)
    hold = next(t for t in opinion(case).every if t.key in ("hold", "pump-valve"))
    rises = [o.key for o in hold.outcomes].index("rises")
    assert hold.likelihood["system-leak"][rises] > 0.6
    assert hold.likelihood["worn-pump"][rises] < 0.3


@whole
def test_labelled_faults_are_found_with_their_tests() -> None:
    rng, score = random.Random(21), Score()
    for case in labelled(21, 2, ("ballast", "water")):
        one(case, rng, score)
    # The whole table is the bench's: 85 % come first there, and 97 % are among the first two.
    assert score.asked == score.first == score.second == 2


@pytest.mark.parametrize(
    ("curve", "key"),
    [
        (lambda t: np.full(t.size, np.nan), "never"),
        (lambda t: 400 * M * np.exp(np.maximum(t - 900, 0) / 300), "rises"),
        (lambda t: 4_600 * M + 0 * t, "ice"),
        (lambda t: 11_500 * M + 0 * t, "boils"),
        (lambda t: 1_500 * M + 0 * t, "stuck"),
        (lambda t: 1_500 * M * np.exp(0.3 * np.sin(7.3 * t) * np.cos(2.9 * t)), "jumps"),
    ],
)
def test_the_signs_of_the_trade_are_read_off_the_curve(curve, key: str) -> None:  # type: ignore[no-untyped-def]
    t = np.arange(5.0, 1500.0, 5.0)
    found = signature(t, curve(t), BOILS)
    assert found is not None
    assert found.key == key


def test_a_draw_that_goes_well_has_no_sign() -> None:
    t = np.arange(5.0, 900.0, 5.0)
    assert signature(t, 20_000 * M * np.exp(-t / 200), BOILS) is None
    assert signature(np.array([]), np.array([]), BOILS) is None


def test_over_range_after_in_range_is_a_rise() -> None:
    t = np.arange(0.0, 200.0, 5.0)
    p = np.where(t < 100, 900 * M, np.nan)
    since = rising_since(t, p)
    assert since is not None
    assert since <= 100


@given(st.floats(0.1, 3.0), st.integers(0, 1000))
def test_ordinary_scatter_is_not_taken_for_jumping(percent: float, seed: int) -> None:
    rng = np.random.default_rng(seed)
    assert not jumps(500 * M * (1 + 0.01 * percent * rng.normal(size=60)))


def test_who_has_reached_the_target_accuses_nobody() -> None:
    """A dry room at 42 to 68 µ: valves closed lift it a little, and that is no leak."""
    at = np.arange(5.0, 1500.0, 5.0)
    pa = 20_000 * M * np.exp(-at / 60) + 55 * M
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, Readings(at, pa, 20_000 * M))
    found = opinion(case)
    assert [s.key for s in found.suspects] == ["none"]
    assert found.tests == ()


@pytest.mark.parametrize("seed", first(1, range(3)))
def test_a_sound_draw_on_its_way_is_not_accused(seed: int) -> None:
    job = sheet()
    world = World(job, Truth(seed=seed))
    world.touch("pump-on")
    at = np.arange(4.0, 90.0, 4.0)
    shown = []
    for t in at:
        world.advance(float(t))
        p = world.read()
        shown.append(np.nan if p is None else p)
    found = opinion(look_into(job, [Touch("pump-on", 0.0)], 0.0, Readings(at, np.array(shown), 20_000 * M)))
    top = found.suspects[0]
    assert top.key == "none" or top.odds < 0.5


def test_a_rise_is_judged_by_what_a_sound_rig_does() -> None:
    _, readings = drawn("worn-pump")
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, readings)
    test = next(t for t in opinion(case).every if t.tubes)
    falls, stays, far = test.levels
    now = float(np.median(readings.pa[-5:]))
    assert falls < now < stays < far
    assert [test.outcome_at(x) for x in (0.5 * falls, now, 0.5 * (stays + far), 2 * far)] == [
        o.key for o in test.outcomes
    ]
    # What nothing wrong does when it is shut in counts as staying.
    n = [o.key for o in test.outcomes].index("stays")
    assert test.likelihood["none"][n] > 0.5


def test_a_glance_at_what_is_likely_comes_before_a_test_that_tells_more() -> None:
    """Nobody shuts tools for a minute while the ballast most likely stands open."""
    _, readings = drawn("ballast")
    touches = [Touch("pump-on", 0.0), Touch("ballast-open", 0.0)]
    found = opinion(look_into(sheet(), touches, 0.0, readings))
    assert found.suspects[0].key == "ballast"
    assert found.suspects[0].odds >= ACTED_ON
    assert found.tests[0].key == "ballast"


def test_a_second_gauge_tells_the_gauges_own_joint_from_a_hose() -> None:
    """A leak at the gauge lifts the gauge alone; one at the pump stands at 71 µ beside it."""
    job = sheet()
    world = World(job, Truth(seed=4, fault="gauge-joint:gauge", severity=1.2))
    world.touch("pump-on")
    at = np.arange(4.0, 900.0, 4.0)
    shown, beside = [], []
    for t in at:
        world.advance(float(t))
        shown.append(world.read() or np.nan)
        beside.append(world.pressure("intake"))
    own = Readings(at, np.array(shown), 20_000 * M)
    both = Readings(at, own.pa, own.over, (Further("intake", at, np.array(beside), 20_000 * M),))
    alone, seen = (opinion(look_into(job, [Touch("pump-on", 0.0)], 0.0, r)) for r in (own, both))
    odds = [{s.key: s.odds for s in o.suspects} for o in (alone, seen)]
    rivals = [k for k in odds[1] if k.startswith("hose-leak") or k == "pump-joint"]
    assert sum(odds[1][k] for k in rivals) < 0.2
    assert odds[1]["gauge-joint:gauge"] > odds[1][rivals[0]]
    # What the second one shows is not asked again.
    assert "second" in [t.key for t in alone.every]
    assert "second" not in [t.key for t in seen.every]


def test_two_causes_at_once_are_named_together() -> None:
    job = sheet()
    world = World(job, Truth(seed=4, fault="water", severity=1.0, more=(("system-leak", 1.0, 0.0),)))
    world.touch("pump-on")
    at = np.arange(8.0, 2400.0, 8.0)
    shown = []
    for t in at:
        world.advance(float(t))
        shown.append(world.read() or np.nan)
    case = look_into(job, [Touch("pump-on", 0.0)], 0.0, Readings(at, np.array(shown), 20_000 * M))
    pairs = [k for k in case.odds if len(keys_of(k)) == 2]
    assert pairs
    assert sum(case.odds.values()) == pytest.approx(1.0)
    # Frost at the coil and a joint that answers to alcohol: neither answer takes the other's cause away.
    found = opinion(case, [Answered("frost", "yes"), Answered("joints", _of_the_system(case))])
    odds = {s.key: s.odds for s in found.suspects}
    assert odds["system-leak"] > 0.5
    assert odds["water"] + odds.get("ice", 0.0) > 0.2
    # The leak comes before the drying, whichever is likelier.
    assert found.to_do[0].key == "system-leak"


def _of_the_system(case: Case) -> str:
    joints = next(t for t in opinion(case).every if t.key == "joints")
    return next(o.key for o in joints.outcomes if o.key.startswith("in:"))


def test_a_curve_that_nothing_explains_is_not_laid_to_anything() -> None:
    """Up and down by a factor of thirty every two minutes: no cause here does that."""
    at = np.arange(5.0, 1800.0, 5.0)
    pa = np.where((at // 120) % 2 == 0, 300 * M, 9_000 * M)
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, Readings(at, pa, 20_000 * M))
    top = opinion(case).suspects
    assert top[0].key == "other" or top[0].odds < 0.5
    assert next(s.odds for s in top if s.key == "other") > 0.1


def test_where_a_test_has_found_it_stands_beside_the_cause() -> None:
    _, readings = drawn("system-leak", severity=0.5)
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, readings)
    found = opinion(case, [Answered("joints", _of_the_system(case))])
    leak = next(s for s in found.suspects if s.key == "system-leak")
    assert leak.place
    assert leak.odds > 0.5


def test_a_cure_that_is_an_order_names_its_goal() -> None:
    _, readings = drawn("worn-pump")
    case = look_into(sheet(), [Touch("pump-on", 0.0)], 0.0, readings)
    goals = {s.key: (s.goal, s.on) for s in opinion(case).suspects}
    assert goals["hose-leak:hose-a"] == ("swap-hose", "hose-a")
    assert goals["wet-oil"] == ("oil-change", "")
    assert goals["system-leak"] == ("", "")
    assert {g for g, _ in goals.values()} - {""} <= set(GOAL_KEYS)
