"""Taking the rig off, port by port: what is left of it, and which step comes next."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.interlock.port_parts import PLUNGER, end_piece, port_tool, side_pieces, wants_plunger
from rough_draw.core.interlock.reachability import valves_of
from rough_draw.core.sheet.rig import HosePart, ToolPart


def rig_left(board: Board, state: State) -> int:
    """How many steps are left until nothing of the rig is on a port and every port is capped and checked."""
    steps = 0
    for port in sorted(board.ports):
        here = state
        while (touch := at_port(board, here, port)) is not None and steps < 400:
            here = _after(here, touch)
            steps += 1
    return steps + (not state.seen) + ("pump-care" not in state.done)


def _after(state: State, t: Touch) -> State:
    """The state with a step's own mark, whatever it means for the gas: to count with."""
    match t.kind:
        case "take-off":
            return replace(state, off=state.off | {t.on})
        case "put-on":
            return replace(state, plunged=state.plunged | {t.on.removesuffix(PLUNGER)})
        case "open":
            return replace(state, through=state.through | {t.on})
        case "shut" | "core-in":
            name = t.on if t.kind == "shut" else f"port:{t.on}"
            return replace(state, opened=state.opened - {name})
        case "cap":
            return replace(state, capped=state.capped | {t.on})
        case _:
            return state.with_done(t.text)


def at_port(board: Board, state: State, port: str) -> Touch | None:
    """The next step of taking off what stands on a port; None once it is capped and checked."""
    part = board.job.rig.get(board.ports[port])
    if part is None:
        return None
    if part.id not in state.off:
        tool = port_tool(board, port)
        if tool is not None:
            touch = _at_tool(board, state, port, tool)
        else:
            touch = _shut_here(board, state, part.id) or _stem(board, state, port)
        return touch or (Touch("take-off", part.id) if part.id in board.ends else None)
    if port not in state.capped:
        return Touch("cap", port)
    return None if f"check-port:{port}" in state.done else Touch("check-port", port)


def _at_tool(board: Board, state: State, port: str, tool: ToolPart) -> Touch | None:
    """Ball closed, what is on it off, plunger and core on, ball open, core home; then what hangs on its side."""
    rig = board.job.rig
    piece = end_piece(rig, tool)
    if piece is not None and piece.id not in state.off and piece.id in board.ends:
        return _shut_here(board, state, tool.id) or _shut_here(board, state, piece.id) or Touch("take-off", piece.id)
    if f"port:{port}" in board.cored and f"port:{port}" in state.opened:
        if wants_plunger(board, tool) and tool.id not in state.plunged:
            return Touch("put-on", f"{tool.id}{PLUNGER}")
        if wants_plunger(board, tool) and tool.id not in state.through:
            return Touch("open", tool.id)
        return Touch("core-in", port)
    stem = _stem(board, state, port)
    if stem is not None:
        return stem
    hanging = next((p.id for p in side_pieces(rig, tool) if p.id not in state.off and p.id in board.ends), None)
    return Touch("take-off", hanging) if hanging is not None else None


def _shut_here(board: Board, state: State, name: str) -> Touch | None:
    """A valve of this name closed first, where there is one and it is open."""
    return Touch("shut", name) if name in board.gates and name in state.opened else None


def _stem(board: Board, state: State, port: str) -> Touch | None:
    """A port without a core closed by its own stem."""
    name = f"port:{port}"
    shuts = name in state.opened and name not in board.cored and name not in board.sprung
    return Touch("shut", name) if shuts else None


def unrig(board: Board, state: State) -> Iterator[Touch]:
    """Taking the rig off one port after the other, hoses first, the gauge's port last; then the pump cared for."""
    if not state.seen:
        yield Touch("see-pressure")
        return
    for port in _in_turn(board):
        touch = at_port(board, state, port)
        if touch is not None:
            yield touch
            return
    if "pump-care" not in state.done:
        yield Touch("pump-care")


def _in_turn(board: Board) -> list[str]:
    """Ports in the order in which they are cleared: those with hoses, then those with the gauge alone."""
    rig = board.job.rig

    def gauge_only(port: str) -> bool:
        part = rig.get(board.ports[port])
        on_it = [part, *rig.below(part.id)] if part is not None else []
        tool = port_tool(board, port)
        piece = end_piece(rig, tool) if tool is not None else None
        return not any(isinstance(p, HosePart) for p in (*on_it, piece))

    return sorted(board.ports, key=lambda n: (gauge_only(n), n))


def shut_off(board: Board, state: State) -> Iterator[Touch]:
    """Valves of the rig that are still open: shut before refrigerant comes."""
    for v in valves_of(board):
        if v in state.opened:
            yield Touch("shut", v)
