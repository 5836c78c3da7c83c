"""Goals on parts of the rig: cores pulled through their tools, a hose changed in the middle of a draw."""

from __future__ import annotations

from collections.abc import Iterator

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.draw_goals import at_the_system, pulling, pulling_again
from rough_draw.core.interlock.gas_state import State, joined
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.port_parts import PLUNGER, end_piece, in_the_way, port_tool, wants_plunger
from rough_draw.core.sheet.rig import ToolPart


def cores_out_goal() -> Goal:
    """Every core that is to be out, through its tool: what sits where the plunger goes comes off first and on again."""

    def left(board: Board, state: State) -> int:
        inside = sum(n not in state.opened for n in board.cored)
        tools = [t for n in board.cored if (t := port_tool(board, n)) is not None and wants_plunger(board, t)]
        ball = sum(t.id in state.through for t in tools)
        return 4 * inside + ball + sum(t.id in state.plunged for t in tools) + len(state.off)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        for n in sorted(board.cored):
            tool = port_tool(board, n)
            if tool is not None and (touch := _core_step(board, state, n, tool)) is not None:
                yield touch
                return

    return Goal("cores-out", (left,), moves)


def _core_step(board: Board, state: State, gate: str, tool: ToolPart) -> Touch | None:
    inside = gate not in state.opened
    hose = in_the_way(board, state, gate)
    if not wants_plunger(board, tool):
        return Touch("core-out", gate.removeprefix("port:")) if inside else None
    if inside:
        if hose is not None:
            return Touch("shut", tool.id) if tool.id in state.opened else Touch("take-off", hose)
        if tool.id not in state.plunged:
            return Touch("put-on", f"{tool.id}{PLUNGER}")
        return Touch("open", tool.id) if tool.id not in state.through else Touch("core-out", gate.removeprefix("port:"))
    if tool.id in state.through:
        return Touch("shut", tool.id)
    if tool.id in state.plunged:
        return Touch("take-off", f"{tool.id}{PLUNGER}")
    piece = end_piece(board.job.rig, tool)
    again = piece.id if piece is not None and piece.id in state.off else None
    return Touch("put-on", again) if again is not None else None


def swap_goal(hose: str) -> Goal:
    """A hose changed in the draw: shut off from the system, the pump's side vented, off, on, pulled down again."""

    def shut_off(board: Board, state: State) -> int:
        if "swapped" in state.done:
            return 0
        return 3 + _joined_to_system(board, state, hose) + (not state.vented) + state.pump

    def left(board: Board, state: State) -> int:
        return shut_off(board, state) + (hose in state.off) + pulling(board, state)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        if hose in state.off:
            yield Touch("put-on", hose)
        elif "swapped" in state.done:
            yield from pulling_again(board, state)
        elif _joined_to_system(board, state, hose):
            yield from (Touch("shut", v) for v in at_the_system(board) if v in state.opened)
        elif not state.vented:
            yield Touch("vent-pump")
        elif state.pump:
            yield Touch("pump-off")
        else:
            yield Touch("take-off", hose)

    return Goal("swap-hose", (left,), moves)


def _joined_to_system(board: Board, state: State, hose: str) -> int:
    """Whether a hose is open to the system or to the pump with it, by what does not shut itself as it comes off."""
    own = {f"port:{n}" for n, p in board.ports.items() if p == hose}
    opened = state.opened - (own & board.sprung)
    rooms = {r for r, x in enumerate(board.rooms) if x.system}
    mine = joined(board, opened, board.ends[hose]) | joined(board, opened, board.pump)
    return int(bool(mine & rooms))
