"""Nitrogen: where a slow flow goes, how long it has to run, and the orders that send it through every section."""

from __future__ import annotations

import pytest
from hypothesis import assume, given, settings

from rough_draw.core.engine.network import Tube
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import before_the_draw, total
from rough_draw.core.interlock.nitrogen import never_swept, tap_of, ways, with_nitrogen
from rough_draw.core.interlock.orders import order
from rough_draw.core.interlock.sweep import LEAST_MINUTES, LEAST_SHARE, _solved, flow_shares, joints, minutes
from rough_draw.core.interlock.transition import play
from rough_draw.core.message import Figure
from rough_draw.core.message.figure import duration
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from tests.builders import jobs, scope
from tests.depth import drawn

HERE = scope("cooler", opened=True)


def board_of(pattern: str, template: str = "cooler") -> Board:
    on = scope(template, opened=True)
    return with_nitrogen(Job(scope=on, rig=rig_from(pattern, on)))


def test_flow_divides_by_the_fourth_power_of_the_bore() -> None:
    """Hagen and Poiseuille: of two ways of one length, twice the bore takes sixteen times the flow."""
    tubes = [
        Tube(name="wide", a="in", b="out", bore=8e-3, length=1.0),
        Tube(name="narrow", a="in", b="out", bore=4e-3, length=1.0),
    ]
    wide, narrow = _solved(tubes, "in", frozenset({"out"}))
    assert wide / narrow == pytest.approx(16.0)


def test_ways_in_series_add_their_resistances() -> None:
    tubes = [
        Tube(name="a", a="in", b="mid", bore=5e-3, length=1.0),
        Tube(name="b", a="mid", b="out", bore=5e-3, length=3.0),
        Tube(name="c", a="in", b="out", bore=5e-3, length=4.0),
    ]
    a, b, c = _solved(tubes, "in", frozenset({"out"}))
    assert a == pytest.approx(b)
    assert a == pytest.approx(c)


def test_a_manifold_open_straight_across_sends_the_flow_the_short_way() -> None:
    board = board_of("four-port-tool-gauge")
    tap = board.taps[tap_of(board)]
    every = frozenset(board.gates)
    out = frozenset({"tool-a.port-side"})
    across = flow_shares(board, every, tap, out)
    assert across["hose-a.b"] > 0.6
    assert across["system.evaporator"] < 0.4
    shut = flow_shares(board, every - {"manifold.low"}, tap, out)
    assert shut["system.evaporator"] == pytest.approx(1.0)
    assert shut.get("hose-a.b", 0.0) < 1e-6


def test_what_hangs_beside_the_flow_is_not_swept() -> None:
    board = board_of("one-hose-bare-gauge")
    near = next(j for j in joints(board) if j.node == "tool-a.port-side")
    shares = flow_shares(board, frozenset(board.gates), board.taps[tap_of(board)], frozenset({near.node}))
    assert shares["hose-a.b"] == pytest.approx(1.0)
    assert "system.evaporator" not in shares


def test_a_check_valve_is_only_passed_forward() -> None:
    tubes = [
        Tube(name="check", a="out", b="mid", bore=8e-3, length=0.1, one_way=True),
        Tube(name="a", a="in", b="mid", bore=5e-3, length=1.0),
    ]
    board = board_of("two-hoses")
    object.__setattr__(
        board.assembly.network, "tubes", (*tubes, Tube(name="b", a="in", b="out", bore=2e-3, length=1.0))
    )
    shares = flow_shares(board, frozenset(), "in", frozenset({"out"}))
    assert "mid" not in shares


def test_a_sweep_runs_for_three_volumes() -> None:
    """60 l at 0.15 l/s is changed once in 400 s: three changes take 20 minutes."""
    board = board_of("two-hoses", "chiller")
    nodes = tuple(n for n in board.assembly.network.nodes if n.name == "system.receiver")
    object.__setattr__(board.assembly.network, "nodes", nodes)
    object.__setattr__(nodes[0], "volume", 0.060)
    assert minutes(board, {"system.receiver": 1.0}) == pytest.approx(20.0)
    assert minutes(board, {"system.receiver": 0.5}) == pytest.approx(40.0)
    assert minutes(board, {"system.receiver": LEAST_SHARE / 2}) == LEAST_MINUTES


@settings(max_examples=drawn(25))
@given(jobs())
def test_shares_lie_between_nothing_and_all(job: Job) -> None:
    try:
        board = with_nitrogen(job)
    except ScopeError:
        board = None
    assume(board is not None)
    assert board is not None
    tap = board.taps[tap_of(board)]
    for joint in joints(board):
        shares = flow_shares(board, frozenset(board.gates), tap, frozenset({joint.node}))
        assert all(0.0 < s <= 1.0 for s in shares.values())
        if shares:
            assert shares[joint.node] == pytest.approx(1.0)


@pytest.mark.parametrize("pattern", list(PATTERNS))
def test_every_pattern_sweeps_every_section(pattern: str) -> None:
    board = board_of(pattern, "cooler" if fits(pattern, HERE) else "chiller")
    assert never_swept(board) == frozenset()
    passed = frozenset().union(*(w.passed for w in ways(board, False)))
    assert {f"system.{s.id}" for s in board.job.scope.sections if not s.holds_charge} <= passed
    lines = [s.title.key.removesuffix("-port") for s in order(board.job, "sweep")]
    assert lines[0] == "step-to-nitrogen"
    assert lines[-1] == "step-to-pump"
    assert lines.count("step-loosen") == lines.count("step-tighten") >= 1
    assert lines.index("step-open-nitrogen") > lines.index("step-loosen")


def test_the_sweep_of_the_usual_rig_is_read_through() -> None:
    job = Job(scope=HERE, rig=rig_from("three-tools", HERE))
    steps = order(job, "sweep")
    assert [s.key for s in steps] == [
        "to-nitrogen",
        "shut:tool-c",
        "open:tool-b",
        "loosen:tool-a.port-side",
        "open:nitrogen",
        "sweep:nitrogen",
        "shut:nitrogen",
        "tighten:tool-a.port-side",
        "loosen:hose-a.end",
        "open:nitrogen~2",
        "sweep:nitrogen~2",
        "shut:nitrogen~2",
        "tighten:hose-a.end",
        "open:tool-c",
        "to-pump",
    ]
    assert [s.title["time"] for s in steps if s.key.startswith("sweep")][1:] == [duration(120.0)]
    # Three changes of all that lies on the way, one behind the other: 11.5 l of system and the hose at 9 l/min.
    took = next(s.title["time"] for s in steps if s.key == "sweep:nitrogen")
    assert isinstance(took, Figure)
    assert 150 < took.value < 300


@pytest.mark.parametrize("pattern", list(PATTERNS))
def test_a_break_ends_in_a_new_draw(pattern: str) -> None:
    on = HERE if fits(pattern, HERE) else scope("chiller", opened=True)
    lines = [s.title.key for s in order(Job(scope=on, rig=rig_from(pattern, on)), "nitrogen-break")]
    stop, there = lines.index("step-pump-off"), lines.index("step-to-nitrogen")
    crack = lines.index("step-crack-nitrogen")
    back = lines.index("step-to-pump")
    assert stop < there < lines.index("step-purge-nitrogen") < crack < back
    assert lines.index("step-pump-on") > back
    assert lines[-1] == "step-open"


def test_nitrogen_with_nowhere_to_go_presses_on_the_gauge() -> None:
    board = board_of("one-hose-bare-gauge")
    tap = tap_of(board)
    _, said = play(board, before_the_draw(board), Touch("open", tap))
    assert "gauge-pressed-gauge" in {c.key for c in said}
    loose, _ = play(board, before_the_draw(board), Touch("loosen", "system.liquid"))
    after, said = play(board, loose, Touch("open", tap))
    assert said == []
    assert total(after.gas[board.gauges["gauge"]]) == pytest.approx(board.atmosphere)
    swept, _ = play(board, after, Touch("sweep", tap))
    assert swept.gas[board.places["system.evaporator"]] == (0.0, board.atmosphere, 0.0)
    _, said = play(board, before_the_draw(board), Touch("sweep", tap))
    assert [c.key for c in said] == ["no-flow"]


def test_a_diaphragm_gauge_is_kept_from_nitrogen_it_does_not_stand() -> None:
    rig = rig_from("one-hose-bare-gauge", HERE)
    parts = [p.model_copy(update={"stands_kpa": 200.0}) if p.kind == "gauge" else p for p in rig.parts]
    board = with_nitrogen(Job(scope=HERE, rig=rig.with_parts(parts)))
    _, said = play(board, before_the_draw(board), Touch("open", tap_of(board)))
    assert "gauge-burst-gauge" in {c.key for c in said if c.severity == "stop"}


def test_a_joint_is_not_loosened_on_refrigerant_or_vacuum() -> None:
    from rough_draw.core.interlock.board_builder import make_board
    from rough_draw.core.interlock.gas_state import drawn_down

    board = make_board(board_of("three-tools").job)
    _, said = play(board, drawn_down(board), Touch("loosen", "system.liquid"))
    assert {c.key for c in said if c.severity == "stop"} >= {"air-in"}
    full, _ = play(board, before_the_draw(board), Touch("open", "system.suction-service"))
    _, said = play(board, full, Touch("loosen", "system.liquid"))
    assert "venting" in {c.key for c in said if c.severity == "stop"}
