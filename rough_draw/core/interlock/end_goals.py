"""Left under vacuum: a recovery cylinder, a hose set, a spare section closed, tagged, the rig taken off."""

from __future__ import annotations

from collections.abc import Iterator

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.disassembly import at_port
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.port_parts import end_piece, port_tool
from rough_draw.core.interlock.reachability import pumped
from rough_draw.core.model.isolation import valves_between


def end_cylinder_goal() -> Goal:
    """Left under vacuum: every valve closed, the rig off behind them, tagged."""

    def left(board: Board, state: State) -> int:
        ports = sum(at_port_kept(board, state, n) is not None for n in board.ports)
        pump = (not state.vented) + state.pump
        return _open_to_rig(board, state) + pump + ports + ("tag" not in state.done) + ("pump-care" not in state.done)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        if _open_to_rig(board, state):
            yield from (Touch("shut", n) for n in _still_open(board, state)[:1])
        elif not state.vented:
            yield Touch("vent-pump")
        elif state.pump:
            yield Touch("pump-off")
        else:
            for n in sorted(board.ports):
                touch = at_port_kept(board, state, n)
                if touch is not None:
                    yield touch
                    break
            else:
                yield Touch("tag") if "tag" not in state.done else Touch("pump-care")

    return Goal("end-cylinder", (left,), moves)


def at_port_kept(board: Board, state: State, port: str) -> Touch | None:
    """The next step at a port of something that stays under vacuum: its own valve, its core, or the core tool's ball
    keeps it; the hose comes off, and a cap goes on."""
    tool = port_tool(board, port)
    if tool is None or f"port:{port}" not in board.cored:
        touch = at_port(board, state, port)
        return None if touch is not None and touch.kind == "check-port" else touch
    piece = end_piece(board.job.rig, tool)
    if tool.id in state.opened:
        return Touch("shut", tool.id)
    if piece is not None and piece.id not in state.off and piece.id in board.ends:
        return Touch("take-off", piece.id)
    return None if port in state.capped else Touch("cap", port)


def _shutting(board: Board) -> list[str]:
    """What closes the evacuated part off: its own valves at the ports, else the valve of the rig next to each."""
    stems = [f"port:{n}" for n in board.ports if f"port:{n}" not in board.cored and f"port:{n}" not in board.sprung]
    ways = [valves_between(board.job, board.assembly, p.port or "") for p in board.job.rig.pumped()]
    return stems or list(dict.fromkeys(w[0] for w in ways if w))


def _still_open(board: Board, state: State) -> list[str]:
    """What is to be closed yet; last of all the pump's own valve, where there is one."""
    return [n for n in (*_shutting(board), "pump") if n in board.gates and n in state.opened]


def _open_to_rig(board: Board, state: State) -> int:
    rooms = {r for r, x in enumerate(board.rooms) if x.system}
    return sum(n in state.opened for n in _shutting(board)) + bool(pumped(board, state) & rooms)
