"""The simulated world with more than one thing wrong: each comes when it is to, each goes when it is mended."""

from __future__ import annotations

import json
from dataclasses import fields, replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.world import Truth, World, gauge_of, random_truth
from tests import builders

JOB = Job(scope=Scope(condition="new-dry"), rig=builders.one_hose())


def drawn(truth: Truth, until: float) -> World:
    w = World(JOB, truth)
    w.touch("pump-on")
    w.advance(until)
    return w


def test_every_cause_at_work_adds_to_the_others() -> None:
    clean = drawn(Truth(), 1800).pressure("system.suction")
    oil = drawn(Truth(fault="wet-oil"), 1800).pressure("system.suction")
    leak = drawn(Truth(fault="system-leak"), 1800).pressure("system.suction")
    both = drawn(Truth(fault="wet-oil", more=(("system-leak", 0.0, 0.0),)), 1800).pressure("system.suction")
    assert clean < min(oil, leak)
    assert both > max(oil, leak)
    assert both == pytest.approx(oil + leak - clean, rel=0.25)


def test_a_cause_comes_when_it_is_to() -> None:
    truth = Truth(more=(("system-leak", 1.0, 900.0), ("ballast", 0.0, 1200.0)))
    w = drawn(truth, 890)
    assert w.at_work() == []
    w.advance(950)
    assert [c.key for c, _ in w.at_work()] == ["system-leak"]
    w.advance(1300)
    assert [c.key for c, _ in w.at_work()] == ["system-leak", "ballast"]
    assert w.pressure("system.suction") > 2 * drawn(Truth(), 1300).pressure("system.suction")


def test_a_cause_that_is_mended_is_gone() -> None:
    w = drawn(Truth(fault="wet-oil"), 1200)
    high = w.pressure("system.suction")
    w.mended.add("wet-oil")
    w.touch("ballast-shut")
    w.advance(2400)
    assert w.pressure("system.suction") < 0.5 * high


def test_fouling_and_jumping_are_the_gauges_own() -> None:
    fouled = drawn(Truth(fault="fouled", seed=5), 1800)
    clean = drawn(Truth(seed=5), 1800)
    assert fouled.pressure("system.suction") == pytest.approx(clean.pressure("system.suction"), rel=1e-6)
    a, b = fouled.read(), clean.read()
    assert a is not None
    assert b is not None
    assert (a - b) / MICRON_PA == pytest.approx(180, rel=0.1)
    jumping = drawn(Truth(fault="jumping", more=(("fouled", 0.0, 0.0),)), 1800)
    read = [jumping.read() or 0.0 for _ in range(60)]
    assert max(read) > 1.3 * min(read)


def test_a_service_valve_to_a_kept_charge_changes_nothing_in_the_vacuum() -> None:
    w = drawn(Truth(), 600)
    before = w.pressure("system.suction")
    for kind in ("open:system.suction-service", "shut:system.liquid-service", "open:nowhere", "dance"):
        w.touch(kind)
    assert w.pressure("system.suction") == before
    w.advance(605)


def test_time_does_not_run_back() -> None:
    w = drawn(Truth(), 600)
    before = w.pressure("pump")
    w.advance(10)
    assert w.time == 600
    assert w.pressure("pump") == before


def test_a_needle_stands_in_where_there_is_no_micron_gauge() -> None:
    bare = JOB.model_copy(update={"rig": JOB.rig.model_copy(update={"parts": JOB.rig.parts[:-1]})})
    assert bare.rig.gauge is None
    assert gauge_of(bare).resolution_micron == 7_600
    assert gauge_of(JOB).resolution_micron < 100


TRUTHS = st.builds(
    Truth,
    unknowns=st.builds(
        Unknowns,
        **{f.name: st.floats(-1.5, 1.5) for f in fields(Unknowns) if f.name != "extra_leak"},
        extra_leak=st.floats(0, 1e-2),
    ),
    seed=st.integers(1, 10**6),
    fault=st.sampled_from(["", "ballast", "ice"]),
    severity=st.floats(-2, 2),
    fault_at=st.floats(0, 4000),
    more=st.lists(
        st.tuples(st.sampled_from(["wet-oil", "fouled"]), st.floats(-2, 2), st.floats(0, 4000)), max_size=3
    ).map(tuple),
)


@given(TRUTHS)
def test_a_truth_goes_round_through_its_record(truth: Truth) -> None:
    assert Truth.from_dict(json.loads(json.dumps(truth.as_dict()))) == truth
    assert len(truth.all()) == len(truth.more) + bool(truth.fault)


@given(st.integers(0, 10**9))
def test_random_truths_are_the_same_for_the_same_seed_and_within_their_ranges(seed: int) -> None:
    one = random_truth(seed)
    assert one == random_truth(seed)
    values = [getattr(one.unknowns, n) for n in ("volume", "water", "core", "pump", "hose", "release")]
    assert all(-1.6 <= v <= 1.6 for v in values)
    assert replace(one, seed=0).unknowns == one.unknowns


def test_a_truth_that_is_none_is_refused() -> None:
    with pytest.raises(TypeError, match="unknowns"):
        Truth.from_dict({"unknowns": 3})
    with pytest.raises(TypeError):
        Truth.from_dict({"luck": 1})


@pytest.mark.parametrize("kind", ["pump-on", "ballast-open", "isolate", "shut:tool-b", "break"])
def test_what_is_taken_back_is_turned_back(kind: str) -> None:
    """A press too much and its undoing leave the world as if nobody had touched it."""
    plain, pressed = World(JOB, Truth()), World(JOB, Truth())
    for w in (plain, pressed):
        if kind != "pump-on":
            w.touch("pump-on")
        w.advance(300.0)
    pressed.touch(kind)
    pressed.touch(f"undo:{kind}")
    for w in (plain, pressed):
        w.advance(600.0)
    assert pressed.pump_on == plain.pump_on
    assert pressed.pressure("system.suction") == pytest.approx(plain.pressure("system.suction"), rel=1e-3)
