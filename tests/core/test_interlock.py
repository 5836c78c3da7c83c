"""The interlock: what a touch does, and the derived orders, on every pattern and on any rig."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal, get_args

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import PUMPED, State, before_the_draw, drawn_down, held, settle
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.goals import goal_for, start_of
from rough_draw.core.interlock.itinerary import Leg, route
from rough_draw.core.interlock.orders import full_order, order
from rough_draw.core.interlock.planner import derive
from rough_draw.core.interlock.preview import foresee, touches_on
from rough_draw.core.interlock.release import release_goal, release_steps
from rough_draw.core.interlock.transition import play
from rough_draw.core.message.figure import gauge_pressure
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job, Release
from rough_draw.core.sheet.rig import Rig, ToolPart
from rough_draw.core.sheet.run_state import RunState, fold
from rough_draw.core.sheet.run_state import Touch as Made
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from tests.builders import CHARGING_HOSE, hose, jobs, scope, usual_job
from tests.depth import drawn
from tests.routes import check_route

GOALS: tuple[GoalKey, ...] = get_args(GoalKey)
HERE = scope("cooler", opened=True)
FITTING = [p for p in PATTERNS if fits(p, HERE)]


def sheet(pattern: str, **release: str) -> Job:
    return Job(scope=HERE, rig=rig_from(pattern, HERE), release=Release(**release))  # type: ignore[arg-type]


def stops(board: Board, state: State, *touches: tuple[str, str]) -> list[str]:
    """Keys of the stops of the last of some touches."""
    said = []
    for kind, on in touches:
        state, found = play(board, state, Touch(kind, on))  # type: ignore[arg-type]
        said = [c.key for c in found if c.severity == "stop"]
    return said


def after_hold(board: Board) -> State:
    return held(board, isolation(board.job, board.assembly).valves)


DRAWING: list[tuple[str, str, str]] = [
    ("pump-off", "", "off-before-isolated"),
    ("core-in", "suction", "core-in-vacuum"),
    ("take-off", "tool-a", "air-in"),
    ("take-off", "hose-a", "air-in"),
    ("vent-pump", "", "air-in"),
    ("see-pressure", "", "no-pressure"),
]


@pytest.mark.parametrize(("kind", "on", "key"), DRAWING)
def test_what_must_not_be_done_in_the_draw(kind: str, on: str, key: str) -> None:
    board = make_board(sheet("three-tools"))
    found = stops(board, drawn_down(board), (kind, on))
    assert set(found) & set(key.split("|")), found


def test_the_same_touches_are_harmless_in_their_place() -> None:
    board = make_board(sheet("three-tools"))
    s = drawn_down(board)
    assert stops(board, s, ("shut", "tool-a"), ("shut", "tool-b"), ("pump-off", "")) == []
    assert stops(board, after_hold(board), ("vent-pump", "")) == []
    full = [("shut", "tool-c"), ("crack", "system.suction-service"), ("see-pressure", "")]
    there = [*full, ("take-off", "hose-a"), ("put-on", "tool-a.plunger"), ("open", "tool-a"), ("core-in", "suction")]
    assert stops(board, after_hold(board), *there) == []
    assert stops(board, after_hold(board), *there[:4], ("core-in", "suction")) == ["no-plunger"]
    assert stops(board, after_hold(board), *there[:5], ("core-in", "suction")) == ["ball-closed"]
    assert stops(board, after_hold(board), *there[:4], ("open", "tool-a")) == ["venting"]
    # The hose sits where the plunger goes; on a tool whose plunger has its own place it may stay.
    assert stops(board, after_hold(board), *full, ("core-in", "suction")) == ["core-behind-hose"]
    job = sheet("three-tools")
    parts = [p.model_copy(update={"plunger": "own"}) if p.id == "tool-a" else p for p in job.rig.parts]
    own = make_board(job.model_copy(update={"rig": job.rig.with_parts(parts)}))
    assert stops(own, after_hold(own), *full, ("core-in", "suction")) == []


def test_a_service_valve_opened_with_the_pump_on_the_system_is_a_stop() -> None:
    board = make_board(sheet("three-tools"))
    found = stops(board, drawn_down(board), ("open", "system.suction-service"))
    assert "pressure-into-pump" in found


def test_refrigerant_destroys_a_sensor_that_does_not_stand_it() -> None:
    job = sheet("three-tools")
    gauge = job.rig.gauge
    assert gauge is not None
    parts = [p.model_copy(update={"stands_kpa": 500.0}) if p.id == gauge.id else p for p in job.rig.parts]
    board = make_board(job.model_copy(update={"rig": job.rig.with_parts(parts)}))
    s = after_hold(board)
    assert any(k.startswith("gauge-burst") for k in stops(board, s, ("open", "system.suction-service")))
    assert stops(board, s, ("shut", "tool-c"), ("crack", "system.suction-service")) == []


def test_a_port_whose_core_is_out_may_not_stand_open() -> None:
    board = make_board(sheet("three-tools"))
    s = after_hold(board)
    way = [("shut", "tool-c"), ("crack", "system.suction-service"), ("open", "system.suction-service")]
    found = stops(board, s, *way, ("see-pressure", ""), ("take-off", "tool-a"))
    assert {"venting", "port-open"} & set(found)


def charging(pattern: str) -> Leg:
    """The last stretch of a charge from a cylinder, a charging hose in the van."""
    found = route(usual_job(pattern, hose=True), "release-cylinder")
    leg = found.stretches[-1]
    assert isinstance(leg, Leg)
    return leg


def test_liquid_by_the_suction_side_is_a_stop() -> None:
    leg = charging("cylinder-ready")
    assert "liquid-to-compressor" in stops(leg.board, leg.start, ("open", "cylinder"), ("open", "manifold.charge"))
    low = [("shut", "manifold.low"), ("open", "cylinder"), ("open", "manifold.charge")]
    assert stops(leg.board, leg.start, *low) == []


def test_a_hose_that_was_not_purged_puts_its_air_into_the_system() -> None:
    leg = charging("three-tools")
    assert "air-in" in stops(leg.board, leg.start, ("open", "cylinder"), ("open", "tool-b"))
    assert stops(leg.board, leg.start, ("purge", "cylinder"), ("open", "cylinder"), ("open", "tool-b")) == []


def test_a_hose_full_of_liquid_is_not_taken_off() -> None:
    leg = charging("three-tools")
    way = [s.touch for s in leg.sequence.steps]
    done = next(n for n, t in enumerate(way) if t.kind == "empty-hose")
    before = [(t.kind, t.on) for t in way[:done]]
    full = [*before, ("shut", "tool-b"), ("take-off", "charging-hose")]
    assert stops(leg.board, leg.start, *full) == ["liquid-out-charging-hose"]
    emptied = [*before, ("empty-hose", "cylinder"), ("shut", "tool-b"), ("take-off", "charging-hose")]
    assert stops(leg.board, leg.start, *emptied) == []


def test_a_running_system_is_emptied_into_by_its_low_side_alone() -> None:
    leg = charging("three-tools")
    way = [(s.touch.kind, s.touch.on) for s in leg.sequence.steps]
    running = way[: way.index(("start", "")) + 1]
    high = [*running, ("open", "tool-b"), ("open", "cylinder")]
    assert stops(leg.board, leg.start, *high) == ["back-to-cylinder"]
    assert stops(leg.board, leg.start, *running, ("open", "tool-b"), ("empty-hose", "cylinder")) == ["not-the-low-side"]
    assert stops(leg.board, leg.start, ("start", ""))[0] == "compressor-in-vacuum"
    closed = [*way[: way.index(("open", "system.suction-service"))], ("start", "")]
    assert stops(leg.board, leg.start, *closed) == ["service-closed"]


@given(st.lists(st.floats(0, 2e5), min_size=40, max_size=40), st.sampled_from(FITTING), st.data())
@settings(max_examples=drawn(40))
def test_evening_out_keeps_the_gas_and_is_even(pa: list[float], pattern: str, data: st.DataObject) -> None:
    """Boyle: with no source, no pump and nothing open to the air, the sum of pV stays, and joined rooms are alike."""
    board = make_board(sheet(pattern))
    own = frozenset(n for n, g in board.gates.items() if g.kind in ("valve", "port", "section"))
    opened = frozenset(data.draw(st.sets(st.sampled_from(sorted(own))))) if own else frozenset()
    gas = tuple((pa[i % 40], pa[(i + 7) % 40], pa[(i + 13) % 40]) for i in range(len(board.rooms)))
    gas = tuple(before_the_draw(board).gas[i] if r.source else gas[i] for i, r in enumerate(board.rooms))
    after = settle(board, State(opened=opened, gas=gas))

    def amount(state_gas: tuple[tuple[float, float, float], ...], k: int) -> float:
        return sum(g[k] * r.volume for g, r in zip(state_gas, board.rooms, strict=True) if not r.source)

    for k in range(3):
        assert amount(after.gas, k) == pytest.approx(amount(gas, k), rel=1e-9, abs=1e-12)
    for name in opened:
        g = board.gates[name]
        assert after.gas[g.a] == pytest.approx(after.gas[g.b])
    for was, now in zip(after.gas, settle(board, after).gas, strict=True):
        assert now == pytest.approx(was)


@pytest.mark.parametrize("goal", GOALS)
@pytest.mark.parametrize("pattern", FITTING)
def test_every_pattern_has_every_order(pattern: str, goal: GoalKey) -> None:
    job = usual_job(pattern, hose=True)
    found = route(job, goal)
    if (pattern, goal) == ("pump-on-high", "release-cylinder"):
        # Nothing closable takes a cylinder: bare hoses on both ports.
        assert found.missing == ("liquid-way",)
        return
    assert found.missing == ()
    assert all(s.sequence.found for s in found.stretches if isinstance(s, Leg))
    check_route(found)


@settings(max_examples=drawn(25))
@given(jobs(), st.sampled_from(GOALS))
def test_no_derived_order_holds_a_stop(job: Job, goal: GoalKey) -> None:
    try:
        found = route(job, goal)
    except ScopeError:
        assume(False)
    check_route(found)
    assert found.missing or found.stretches


@settings(max_examples=drawn(25))
@given(jobs(), st.sampled_from(["unit-charge", "cylinder"]))
def test_release_opens_nothing_before_positive_pressure(job: Job, way: str) -> None:
    chosen = job.model_copy(update={"release": Release(way=way)})  # type: ignore[arg-type]
    found = full_order(chosen, release_goal(chosen))
    keys = [s.key for s in found.steps]
    assert len(set(keys)) == len(keys)
    if release_goal(chosen) == "end-cylinder":
        return
    if not keys:
        assert found.missing
        return
    assert "see-pressure" in keys
    seen = keys.index("see-pressure")
    assert all(keys.index(k) > seen for k in keys if k.partition(":")[0] in ("core-in", "cap"))
    tools = [p for p in job.rig.parts if isinstance(p, ToolPart) and p.port]
    out = [p for p in tools if (q := job.scope.port(p.port or "")) and q.core and q.id not in job.rig.cores_in]
    assert sum(k.startswith("core-in:") for k in keys) == len(out)


def test_the_valve_under_the_gauge_comes_first_and_its_want_is_said() -> None:
    assert release_steps(sheet("three-tools"))[0].key == "shut:tool-c"
    bare = [c for s in release_steps(sheet("two-hoses")) for c in s.care]
    assert dict(next(c for c in bare if c.kind == "gauge-fouled").values) == {"rated": gauge_pressure(3.5e6)}


def test_a_system_without_a_charge_of_its_own_is_told_to_use_a_cylinder() -> None:
    job = usual_job("commercial", hose=True)
    assert [m.code for m in full_order(job, "release-unit").missing] == ["kept-charge"]
    assert release_goal(job) == "release-cylinder"
    assert len(order(job, "release-cylinder")) > 5


def test_oil_is_changed_with_the_vacuum_kept() -> None:
    kinds = [s.key for s in order(sheet("three-tools"), "oil-change")]
    at = kinds.index("oil-change")
    assert (
        kinds.index("shut:tool-a") < kinds.index("pump-off") < at < kinds.index("pump-on") < kinds.index("open:tool-a")
    )


def test_foresight_follows_the_run() -> None:
    job = sheet("three-tools")
    running = fold([Made("pump-on", 0)])
    assert foresee(job, running, "pump-off").stop
    apart = fold([Made("pump-on", 0), Made("shut:tool-a", 5), Made("shut:tool-b", 6)])
    assert apart.shut == {"tool-a", "tool-b"}
    assert not foresee(job, apart, "pump-off").stop
    stopped = fold([Made("pump-on", 0), Made("isolate", 5), Made("pump-off", 9)])
    assert foresee(job, stopped, "reopen").stop
    assert foresee(job, RunState(), "pump-on").consequences == ()
    assert foresee(job, running, "isolate").words.key == "move-isolate"
    with pytest.raises(KeyError):
        foresee(job, running, "open:nothing")


def test_what_can_be_done_to_a_part_follows_the_run() -> None:
    job = sheet("three-tools")
    running = fold([Made("pump-on", 0)])
    assert [o.kind for o in touches_on(job, running, "hose-a")] == ["take-off:hose-a"]
    assert {o.kind for o in touches_on(job, running, "tool-a")} == {
        "shut:tool-a",
        "core-in:suction",
        "take-off:tool-a",
    }
    assert [o.kind for o in touches_on(job, running, "pump")] == ["shut:pump", "pump-off", "ballast-open"]
    assert "open:system.suction-service" in {o.kind for o in touches_on(job, running, "suction")}
    for kind in ("take-off:hose-a", "core-in:suction", "take-off:tool-a", "open:system.suction-service"):
        assert foresee(job, running, kind).stop, kind
    off = fold([Made("pump-on", 0), Made("isolate", 5), Made("pump-off", 9), Made("take-off:hose-a", 12)])
    assert off.off == {"hose-a"}
    assert [o.kind for o in touches_on(job, off, "hose-a")] == ["put-on:hose-a"]
    assert foresee(job, off, "open:tool-a").stop
    assert fold([Made("core-in:suction", 1), Made("core-out:suction", 2)]).cores == frozenset()


def test_power_in_a_vacuum_is_a_stop_where_the_compressor_is_in_it() -> None:
    on = scope("chiller", opened=True)
    board = make_board(Job(scope=on, rig=rig_from("three-tools", on)))
    assert "compressor-in-vacuum" in stops(board, drawn_down(board), ("energise", ""))
    assert stops(board, before_the_draw(board), ("energise", "")) == []


def test_a_rig_without_a_valve_at_the_port_says_what_is_missing() -> None:
    parts = [{"kind": "pump", "id": "pump", "valve": False}, hose(port="suction", depressor=True)]
    rig = Rig.model_validate({"parts": parts, "cores_in": ["suction"]})
    bare = Job(scope=HERE, rig=rig, release=Release(way="cylinder"))
    assert [m.code for m in full_order(bare, "release-cylinder").missing] == ["charging-hose", "liquid-way"]
    brought = Rig.model_validate({**rig.model_dump(), "spares": [CHARGING_HOSE]})
    spare = bare.model_copy(update={"rig": brought})
    assert [m.code for m in full_order(spare, "release-cylinder").missing] == ["liquid-way"]


def test_a_pumped_room_is_what_the_pump_leaves() -> None:
    board = make_board(sheet("three-tools"))
    s = drawn_down(board)
    assert all(s.gas[r] == PUMPED for r, room in enumerate(board.rooms) if room.system)
    assert replace(s, pump=False).key(101_325.0) != s.key(101_325.0)


def touches(job: Job, goal: GoalKey, habits: Habits) -> list[Touch]:
    board = make_board(job)
    found = derive(board, start_of(board, goal), goal_for(goal, board, habits))
    assert found.found
    return [s.touch for s in found.steps]


@pytest.mark.parametrize("first", ["suction", "liquid"])
def test_which_service_valve_is_cracked_first_is_a_habit(first: Literal["suction", "liquid"]) -> None:
    made = touches(sheet("three-tools"), "release-unit", Habits(first=first))
    cracked = next(t for t in made if t.kind == "crack")
    assert cracked.on == f"system.{first}-service"
    opened = [t.on for t in made if t.kind == "open"]
    assert opened[0] == cracked.on


@pytest.mark.parametrize(("ballast", "opened"), [("5000", True), ("seconds", True), ("never", False)])
def test_the_ballast_is_a_habit(ballast: Literal["5000", "seconds", "never"], opened: bool) -> None:
    kinds = [t.kind for t in touches(sheet("two-hoses"), "draw", Habits(ballast=ballast))]
    assert ("ballast-open" in kinds) is opened
    assert kinds.index("pump-on") < kinds.index("read-floor") < kinds.index("open")


def test_a_caution_stays_only_where_no_other_order_avoids_it() -> None:
    for pattern in FITTING:
        board = make_board(sheet(pattern))
        found = derive(board, start_of(board, "release-unit"), goal_for("release-unit", board))
        fouled = any(c.key.startswith("gauge-fouled") for c in found.cautions)
        gauge = board.job.rig.gauge
        guarded = gauge is None or any(s.touch.kind == "shut" for s in found.steps)
        # Either a valve keeps refrigerant from the gauge, or it is said that none does.
        assert fouled or guarded, pattern
