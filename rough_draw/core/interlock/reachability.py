"""What a state of the board leaves joined: counts that goals are made of."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import State, joined
from rough_draw.core.model.isolation import valves_between


def valves_of(board: Board, kind: str = "valve") -> list[str]:
    """Gates of one kind, in a fixed order."""
    return sorted(n for n, g in board.gates.items() if g.kind == kind)


@lru_cache(maxsize=32)
def system_rooms(board: Board) -> tuple[int, ...]:
    """Rooms of the system from which the pump can draw, or drew, when every gate of the rig is open."""
    if board.drawn is not None:
        return tuple(sorted(board.drawn))
    opened = frozenset(n for n in board.gates if n not in board.shut) | set(valves_of(board))
    return tuple(r for r in joined(board, opened, board.pump) if board.rooms[r].system)


def pumped(board: Board, state: State) -> frozenset[int]:
    """Rooms joined to the pump."""
    return joined(board, state.opened, board.pump)


def apart(board: Board, state: State) -> int:
    """System rooms that are still joined to the pump."""
    return int(not pumped(board, state).isdisjoint(system_rooms(board)))


def together(board: Board, state: State) -> int:
    """System rooms that are not joined to the pump."""
    here = pumped(board, state)
    return sum(r not in here for r in system_rooms(board))


def turns(board: Board, state: State) -> Iterator[Touch]:
    """Turning any valve of the rig but those under gauges."""
    under = gauge_valves(board)
    for v in valves_of(board):
        if v not in under:
            yield Touch("shut" if v in state.opened else "open", v)


@lru_cache(maxsize=32)
def gauge_valves(board: Board) -> frozenset[str]:
    """Valves behind which there is nothing but gauges."""
    found = set()
    for v in valves_of(board):
        g = board.gates[v]
        rest = frozenset(board.gates) - {v}
        for end in (g.a, g.b):
            side = joined(board, rest, end)
            if (
                side & set(board.gauges.values())
                and not any(board.rooms[r].system for r in side)
                and board.pump not in side
            ):
                found.add(v)
    return frozenset(found)


def ways_shut(board: Board, state: State) -> int:
    """Valves that are shut on a way from the pump to a port."""
    return len(_ways(board) - state.opened)


@lru_cache(maxsize=32)
def _ways(board: Board) -> frozenset[str]:
    # Of the board alone, and asked in every state of a search.
    job, a = board.job, board.assembly
    return frozenset(v for p in job.rig.pumped() for v in valves_between(job, a, p.port or ""))


def evacuated(board: Board) -> list[int]:
    """Rooms of the system that are to be evacuated."""
    return [r for r, room in enumerate(board.rooms) if room.system]


@lru_cache(maxsize=32)
def port_rooms(board: Board) -> tuple[int, ...]:
    """Rooms of the system behind the ports that the rig is on, as far as the pump reaches them."""
    drawn = set(system_rooms(board))
    ends = [r for n in board.ports for r in (board.gates[f"port:{n}"].a, board.gates[f"port:{n}"].b)]
    return tuple(sorted({r for r in ends if r in drawn}))
