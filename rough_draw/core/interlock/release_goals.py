"""Breaking the vacuum by the unit's own charge: a crack, positive pressure seen, valves opened, the rig taken off."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.disassembly import rig_left, shut_off, unrig
from rough_draw.core.interlock.gas_state import VACUUM, State, total
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.port_parts import end_piece, port_tool
from rough_draw.core.interlock.reachability import port_rooms, system_rooms, valves_of
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.rig import GaugePart, HosePart
from rough_draw.core.sheet.scope import Link


def services(board: Board, habits: Habits) -> list[str]:
    """Service valves between what keeps its charge and what was evacuated, the side that is cracked first before the
    others. One to a part that no pump reached stays closed: there is air behind it.
    """
    scope = board.job.scope
    side = {x.id: scope.section(x.b if scope.section(x.a).holds_charge else x.a).side for x in scope.links}
    return sorted(to_open(board), key=lambda n: side.get(board.gates[n].part) != habits.first)


@lru_cache(maxsize=32)
def to_open(board: Board) -> tuple[str, ...]:
    """Service valves behind which the system was evacuated."""
    drawn = set(system_rooms(board))
    return tuple(n for n in valves_of(board, "service") if {board.gates[n].a, board.gates[n].b} & drawn)


def link_of(board: Board, gate: str) -> Link | None:
    """The link that a service valve is."""
    return next((x for x in board.job.scope.links if f"system.{x.id}" == gate), None)


def not_opened(board: Board, state: State) -> int:
    """Service valves still closed, and those whose cap is not back on their stem."""
    mine = to_open(board)
    return sum((n not in state.opened) + (f"stem-cap:{n}" not in state.done) for n in mine)


def opening(board: Board, state: State, habits: Habits) -> Iterator[Touch]:
    """The next service valve opened, or its cap put back on."""
    for n in services(board, habits):
        if n not in state.opened:
            yield Touch("open", n)
            return
        if f"stem-cap:{n}" not in state.done:
            yield Touch("stem-cap", n)
            return


def _cracking(board: Board, state: State, habits: Habits) -> Iterator[Touch]:
    """A little of the unit's charge let in, where there is still a vacuum behind a service valve."""
    for n in services(board, habits):
        gate = board.gates[n]
        inner = gate.b if board.rooms[gate.a].kept else gate.a
        if n not in state.opened and total(state.gas[inner]) < 1.05 * board.atmosphere:
            yield Touch("crack", n)
            return


def early(board: Board, habits: Habits) -> list[str]:
    """Parts that come off at the first positive pressure, by habit: the gauge, the hose at the liquid port."""
    rig = board.job.rig
    found: list[str] = []
    for port, name in sorted(board.ports.items()):
        part, where = rig.get(name), board.job.scope.port(port)
        if part is None or where is None:
            continue
        if fills_for_good(board, port) or (habits.liquid_hose == "first-wisp" and where.side == "liquid"):
            tool = port_tool(board, port)
            piece = end_piece(rig, tool) if tool is not None else part
            found += [piece.id] if isinstance(piece, HosePart) and piece.id in board.ends else []
        if habits.gauge_off == "first-pressure":
            on_it = [part, *rig.below(part.id)]
            found += [p.id for p in on_it if isinstance(p, GaugePart) and p.id in board.ends]
    return found


def fills_for_good(board: Board, port: str) -> bool:
    """Whether a hose on a bare port would fill with liquid that nothing lets out again: no valve at its end."""
    part, where = board.job.rig.get(board.ports[port]), board.job.scope.port(port)
    bare = isinstance(part, HosePart) and not part.low_loss and part.id not in board.gates
    return bare and where is not None and where.side == "liquid"


def _early_left(board: Board, state: State, habits: Habits) -> int:
    return sum(p not in state.off for p in early(board, habits))


def _taking_early(board: Board, state: State, habits: Habits) -> Iterator[Touch]:
    for p in early(board, habits):
        if p not in state.off:
            valve = _valve_under(board, p) or _stem_under(board, p)
            if valve is not None and valve in state.opened:
                yield Touch("shut", valve)
            else:
                yield Touch("take-off", p)
            return


def _stem_under(board: Board, part: str) -> str | None:
    """The stem of the port that a part is on, where the port has no core of its own."""
    gate = next((f"port:{n}" for n, p in board.ports.items() if p == part), "")
    return gate if gate in board.gates and gate not in board.sprung and gate not in board.cored else None


def _valve_under(board: Board, part: str) -> str | None:
    """The valve that has to be closed before a part on a port comes off."""
    rig = board.job.rig
    found = rig.get(part)
    if part in board.gates or found is None:
        return part if part in board.gates else None
    near = [rig.get(found.on) if found.on else None, *rig.children(part)]
    return next((x.id for x in near if x is not None and x.kind in ("tool", "valve") and x.id in board.gates), None)


def release_unit_goal(habits: Habits) -> Goal:
    """The unit's own charge: a crack, positive pressure seen, its valves opened and capped, the rig taken off."""

    def let_in(board: Board, state: State) -> int:
        empty = sum(total(state.gas[r]) < VACUUM for r in port_rooms(board))
        return (not state.seen) + empty + sum(v in state.opened for v in valves_of(board) if v != "pump")

    def opened(board: Board, state: State) -> int:
        return let_in(board, state) + not_opened(board, state) + _early_left(board, state, habits)

    def off(board: Board, state: State) -> int:
        return opened(board, state) + rig_left(board, state)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        if let_in(board, state):
            still = [t for t in shut_off(board, state) if t.on != "pump"]
            if still:
                yield still[0]
                return
            yield from _cracking(board, state, habits)
            if not state.seen:
                yield Touch("see-pressure")
        elif _early_left(board, state, habits):
            yield from _taking_early(board, state, habits)
        elif not_opened(board, state):
            yield from shut_off(board, state)
            yield from opening(board, state, habits)
        else:
            yield from unrig(board, state)

    return Goal("release-unit", (let_in, opened, off), moves)
