"""Nitrogen by hand, in one go: the system put under test pressure and let down, or swept. What the hand meets in it."""

from __future__ import annotations

from dataclasses import replace

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, air_in, compare, gravest_first, stop
from rough_draw.core.interlock.gas_state import State, joined
from rough_draw.core.interlock.reachability import port_rooms


def reached_by(board: Board, state: State) -> frozenset[int]:
    """Rooms that nitrogen let in at the ports comes to over what is open: not what has a supply of its own."""
    group = frozenset().union(*(joined(board, state.opened, r) for r in port_rooms(board)))
    return frozenset(r for r in group if not board.rooms[r].source)


def filled(board: Board, state: State, pa: float) -> State:
    """Nitrogen at ``pa`` absolute in all that it comes to."""
    inside = reached_by(board, state)
    gas = tuple((0.0, pa, 0.0) if r in inside else g for r, g in enumerate(state.gas))
    return replace(state, gas=gas)


def pressed(board: Board, state: State, pa: float) -> tuple[State, list[Consequence]]:
    """Nitrogen to ``pa`` absolute and let down to the air again: what stands in its way is pressed by all of it."""
    said = compare(board, state, filled(board, state, pa))
    return replace(filled(board, state, board.atmosphere), seen=True), gravest_first(said)


def swept(board: Board, state: State) -> tuple[State, list[Consequence]]:
    """Nitrogen from end to end at about the air's pressure, out at joints that are loosened and made again."""
    inside = reached_by(board, state)
    said = air_in(board, state, inside, "joint")
    if state.pump and board.pump in inside:
        said.append(stop("pressure-into-pump", "nitrogen"))
    return filled(board, state, board.atmosphere), gravest_first(said)
