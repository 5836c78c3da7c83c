"""Goals with the system closed off: the hold, its check, a retest, fresh oil with the vacuum kept, valves worked."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.draw_goals import pulling, pulling_again
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.reachability import apart, together, turns, valves_of, ways_shut
from rough_draw.core.model.isolation import isolation, valves_between


def isolated(board: Board, state: State) -> int:
    """Isolating valves that are still open; where the rig has none, whether the system is still joined to the pump."""
    valves = isolating(board)
    return sum(v in state.opened for v in valves) if valves else apart(board, state)


@lru_cache(maxsize=32)
def isolating(board: Board) -> tuple[str, ...]:
    """Valves that shut the system off for the hold."""
    return isolation(board.job, board.assembly).valves


def _isolation_moves(board: Board, state: State) -> Iterator[Touch]:
    yield from (Touch("shut", v) for v in isolating(board) if v in state.opened)


def own_valve(board: Board) -> bool:
    """Whether the pump has a valve of its own that is not the one that isolates."""
    return "pump" in board.gates and "pump" not in isolating(board)


def _stopped(board: Board, state: State) -> int:
    """What is left until the pump stands still and nothing comes back from it: vented, or behind its own valve."""
    quiet = state.vented or (own_valve(board) and "pump" not in state.opened)
    return (not quiet) + state.pump


def _stopping(board: Board, state: State) -> Iterator[Touch]:
    """Air into the pump's side, or its own valve closed, then the pump stopped: in this order everywhere."""
    if own_valve(board):
        if "pump" in state.opened:
            yield Touch("shut", "pump")
        elif state.pump:
            yield Touch("pump-off")
    elif not state.vented:
        yield Touch("vent-pump")
    elif state.pump:
        yield Touch("pump-off")


def _hold_moves(board: Board, state: State) -> Iterator[Touch]:
    yield from _isolation_moves(board, state) if isolated(board, state) else _stopping(board, state)


HOLD = Goal("hold", (isolated, lambda b, s: isolated(b, s) + _stopped(b, s)), _hold_moves)
CHECK_HOLD = Goal(
    "check-hold",
    (
        lambda b, s: isolated(b, s) + (not s.pump),
        lambda b, s: together(b, s) + ways_shut(b, s) + (not s.pump),
    ),
    turns,
)


def _retesting(board: Board, state: State) -> Iterator[Touch]:
    if "read-target" in state.done:
        yield from _hold_moves(board, state)
    elif pulling(board, state):
        yield from pulling_again(board, state)
    else:
        yield Touch("read-target")


def _pulled_again(board: Board, state: State) -> int:
    return 0 if "read-target" in state.done else 1 + pulling(board, state)


RETEST = Goal(
    "retest",
    (_pulled_again, lambda b, s: _pulled_again(b, s) + isolated(b, s) + _stopped(b, s)),
    _retesting,
)


def _to_work(board: Board) -> list[str]:
    """Ball valves between pump and ports, from the pump outward."""
    rig = board.job.rig
    depth = {p.id: len(rig.chain(p)) for p in rig.parts}
    ways = {v for p in rig.pumped() for v in valves_between(board.job, board.assembly, p.port or "")}
    mine = [v for v in valves_of(board) if v in ways and v != rig.pump.id]
    return sorted(mine, key=lambda v: depth.get(board.gates[v].part, 0))


VALVE_FLUSH = Goal(
    "valve-flush",
    (lambda b, s: sum(v not in s.worked for v in _to_work(b)),),
    lambda b, s: [Touch("work", v) for v in _to_work(b) if v not in s.worked][:1],
)


def _oil_moves(board: Board, state: State) -> Iterator[Touch]:
    if not state.fresh_oil:
        if isolated(board, state):
            yield from _isolation_moves(board, state)
        elif _stopped(board, state):
            yield from _stopping(board, state)
        else:
            yield Touch("oil-change")
    else:
        yield from pulling_again(board, state)


OIL_CHANGE = Goal(
    "oil-change",
    (
        lambda b, s: (not s.fresh_oil) + isolated(b, s) + _stopped(b, s),
        lambda b, s: (not s.fresh_oil) + pulling(b, s),
    ),
    _oil_moves,
)
