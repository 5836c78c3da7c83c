"""What sits on a port, and where: the piece at the end of its core tool, what hangs on its side, its plunger."""

from __future__ import annotations

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.sheet.rig import GaugePart, HosePart, Part, Rig, ToolPart

PLUNGER = ".plunger"
"""What a plunger is called, after its tool."""


def end_piece(rig: Rig, tool: ToolPart) -> Part | None:
    """What is screwed on the hose end of a core tool: a hose, a valve, an adapter, a gauge; None where it is free."""
    if tool.on is not None and rig.port_under(tool) is not None:
        return rig.get(tool.on)
    return next((c for c in rig.children(tool.id) if c.at == "end"), None)


def side_pieces(rig: Rig, tool: ToolPart) -> list[Part]:
    """What hangs on the side port of a core tool and comes off by itself: gauges, hoses, also behind a second tool."""
    found: list[Part] = []
    for c in rig.children(tool.id):
        if c.at == "side":
            found += [x for x in (*rig.children(c.id), c) if isinstance(x, HosePart | GaugePart)]
    return found


def port_tool(board: Board, port: str) -> ToolPart | None:
    """The core tool that works on a port, adapters between or not; None where there is none."""
    return board.job.rig.tool_at(port.removeprefix("port:"))


def end_free(board: Board, state: State, tool: ToolPart) -> bool:
    """Whether the hose end of a port's tool stands free: what was screwed on it is off, or nothing was."""
    piece = end_piece(board.job.rig, tool)
    return piece is None or piece.id in state.off


def wants_plunger(board: Board, tool: ToolPart) -> bool:
    """Whether the plunger has to go where something was screwed on: else it stands on the tool all the time."""
    return tool.plunger == "hose-end" and end_piece(board.job.rig, tool) is not None


def in_the_way(board: Board, state: State, port: str) -> str | None:
    """The part that sits where the plunger of a port's core tool goes, while it is on; None where the way is free."""
    tool = port_tool(board, port)
    if tool is None or tool.plunger == "own":
        return None
    piece = end_piece(board.job.rig, tool)
    return piece.id if piece is not None and piece.id not in state.off else None
