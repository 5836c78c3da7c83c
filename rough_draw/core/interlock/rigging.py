"""Rigging up: what is screwed on in which order, from the ports toward the pump, every valve closed after it."""

from __future__ import annotations

from dataclasses import replace

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import State, before_the_draw
from rough_draw.core.interlock.reachability import gauge_valves, valves_of
from rough_draw.core.sheet.rig import Part, ToolPart


def put_on_in_turn(board: Board) -> list[Part]:
    """Parts in the order in which they are screwed on: what stands on each port and hangs there, then toward the pump.

    The pump is where it stands; what is screwed on it comes last.
    """
    rig = board.job.rig
    found: list[Part] = []

    def put(part: Part | None) -> None:
        if part is not None and part.kind != "pump" and part not in found:
            found.append(part)

    at_ports = [rig.get(board.ports[n]) for n in sorted(board.ports)]
    for p in at_ports:
        put(p)
        if p is not None:
            for below in rig.below(p.id):
                put(below)
    for p in at_ports:
        for up in reversed(rig.chain(p)[:-1]) if p is not None else ():
            put(up)
    for p in rig.parts:
        put(p)
    return found


def rigging_touches(board: Board) -> list[tuple[Touch, State]]:
    """Touches of rigging up with the state before each: every port still closed by its core, air everywhere."""
    state = before_the_draw(board)
    closed = state.opened - board.cored - {f"port:{n}" for n in board.ports if f"port:{n}" not in board.sprung}
    parts = put_on_in_turn(board)
    off = frozenset(p.id for p in parts if p.id in board.ends)
    state = replace(state, opened=closed - board.sprung, off=off)
    found: list[tuple[Touch, State]] = []
    for p in parts:
        found.append((Touch("put-on", p.id), state))
        state = replace(state, off=state.off - {p.id})
        if isinstance(p, ToolPart) and p.id in state.opened and p.id not in gauge_valves(board):
            found.append((Touch("shut", p.id), state))
            state = replace(state, opened=state.opened - {p.id})
    for v in valves_of(board):
        if v in state.opened and v not in gauge_valves(board) and v != "pump":
            found.append((Touch("shut", v), state))
            state = replace(state, opened=state.opened - {v})
    return found
