"""The hold begins when the last valve that shuts the system off is shut, whoever shut it, and ends when one opens."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch, fold
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.standins.world import Truth, World

VALVES = ("tool-a", "tool-b")


def told(*kinds: str) -> list[Touch]:
    return [Touch(kind, 10.0 * (n + 1)) for n, kind in enumerate(kinds)]


def test_it_begins_with_the_last_of_them_and_not_before() -> None:
    one = fold(told("pump-on", "shut:tool-a"), VALVES)
    assert one.isolated_at is None
    both = fold(told("pump-on", "shut:tool-a", "shut:tool-b"), VALVES)
    assert both.isolated_at == 30.0
    assert fold(told("pump-on", "shut:tool-a", "shut:tool-b")).isolated_at is None, "without the rig nobody knows"


def test_what_is_shut_before_the_pump_runs_is_no_hold() -> None:
    before = told("shut:tool-a", "shut:tool-b", "pump-on")
    assert fold(before, VALVES).isolated_at is None
    after = [*before, *(Touch(k, 100.0 + n) for n, k in enumerate(("open:tool-a", "open:tool-b", "shut:tool-a")))]
    assert fold(after, VALVES).isolated_at is None
    assert fold([*after, Touch("shut:tool-b", 200.0)], VALVES).isolated_at == 200.0


def test_opened_with_the_pump_on_it_is_drawn_again() -> None:
    state = fold(told("pump-on", "shut:tool-a", "shut:tool-b", "open:tool-a"), VALVES)
    assert state.isolated_at is None
    assert state.opened_at is None


def test_opened_with_the_pump_off_the_hold_is_over_and_stands() -> None:
    state = fold(told("pump-on", "isolate", "pump-off", "open:tool-a", "open:tool-b"), VALVES)
    assert state.isolated_at == 20.0
    assert state.opened_at == 40.0


def test_the_pump_started_on_an_opened_system_draws_anew() -> None:
    opened = told("pump-on", "isolate", "pump-off", "open:tool-a", "pump-on")
    assert fold(opened, VALVES).isolated_at is None
    shut = told("pump-on", "isolate", "pump-off", "pump-on")
    assert fold(shut, VALVES).isolated_at == 20.0


def test_one_step_for_all_and_one_for_each_are_the_same() -> None:
    whole = fold(told("pump-on", "isolate"), VALVES)
    single = fold(told("pump-on", "shut:tool-b", "shut:tool-a"), VALVES)
    assert whole.shut == single.shut == set(VALVES)
    assert fold(told("pump-on", "isolate", "reopen"), VALVES).shut == frozenset()


def test_a_rig_without_valves_is_never_isolated_by_them() -> None:
    assert fold(told("pump-on", "shut:tool-a"), ()).isolated_at is None


MOVES = (
    "pump-on",
    "pump-off",
    "isolate",
    "reopen",
    *(f"{m}:{v}" for m in ("shut", "open") for v in (*VALVES, "other")),
)


@given(st.lists(st.sampled_from(MOVES), max_size=14))
def test_shut_and_isolated_never_contradict_each_other(kinds: list[str]) -> None:
    state = fold(told(*kinds), VALVES)
    if state.isolated_at is not None and state.opened_at is None:
        assert set(VALVES) <= state.shut
    if state.opened_at is not None:
        assert state.isolated_at is not None
        assert state.opened_at >= state.isolated_at


@pytest.mark.parametrize("pattern", [k for k in PATTERNS if fits(k, Scope())])
def test_the_simulated_world_and_the_log_agree(pattern: str) -> None:
    """Valve by valve the world is shut off as the log says, and opened again by one step."""
    job = Job(scope=Scope(condition="new-dry"), rig=rig_from(pattern, Scope()))
    a = assemble(job)
    valves = isolation(job, a).valves
    if not valves:
        return
    world = World(job, Truth())
    touches = [Touch("pump-on", 0.0)]
    world.touch("pump-on")
    world.advance(60.0)
    for n, v in enumerate(valves):
        touches.append(Touch(f"shut:{v}", 60.0 + n))
        world.touch(f"shut:{v}")
    assert fold(touches, valves).isolated_at == 60.0 + len(valves) - 1
    start = next(iter(sorted(a.pumped)))
    assert "pump" not in world._compiled.network.connected(start)
    world.touch("reopen")
    assert "pump" in world._compiled.network.connected(start)
