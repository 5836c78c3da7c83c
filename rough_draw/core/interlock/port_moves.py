"""What is done at a port: parts screwed off and on, the plunger of a core tool, its ball behind it, the core."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import replace

from rough_draw.core.charging.weighing import hose_holds
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, Touch, air_in, caution, note, stop
from rough_draw.core.interlock.gas_state import WHIFF, State, joined, settle, total
from rough_draw.core.interlock.port_parts import PLUNGER, end_free, end_piece, in_the_way, port_tool, wants_plunger
from rough_draw.core.message.figure import mass, volume
from rough_draw.core.sheet.rig import HosePart, ToolPart

Moved = tuple[State, list[Consequence]]
FEW_GRAMS = 5e-3
"""kg of liquid refrigerant that may get out at a joint: what a fitting holds, not what a hose does."""
LIQUID_AT = 298.15
"""K at which a hose's liquid is weighed."""


def free_tool(board: Board, state: State, name: str) -> ToolPart | None:
    """The core tool on a port whose ball is meant and whose hose end stands free; None for any other valve."""
    tool = board.job.rig.get(name)
    if not isinstance(tool, ToolPart) or name in state.off or not _works_on_a_port(board, tool):
        return None
    piece = end_piece(board.job.rig, tool)
    return tool if piece is not None and piece.id in state.off and end_free(board, state, tool) else None


def _works_on_a_port(board: Board, tool: ToolPart) -> bool:
    return any(board.job.rig.tool_at(n) is tool for n in board.ports)


def ball(board: Board, state: State, t: Touch) -> Moved:
    """The ball of a tool with nothing on its hose end: behind its plunger it lets nothing out."""
    if t.kind == "shut":
        return replace(state, through=state.through - {t.on}), []
    if t.on in state.plunged:
        return replace(state, through=state.through | {t.on}), []
    inner = board.places[f"{t.on}.port-side"]
    group = joined(board, state.opened, inner)
    said = air_in(board, state, group, "end") + _venting(board, state, group)
    return settle(board, replace(state, through=state.through | {t.on}), air_at=inner), said


def core(board: Board, state: State, t: Touch) -> Moved:
    """A core put back or pulled through its tool: by the plunger, with the ball open."""
    name = f"port:{t.on}"
    gate = board.gates[name]
    inner = gate.b if board.rooms[gate.b].system else gate.a
    tool = port_tool(board, t.on)
    if tool is None or tool.id in state.off:
        return state, [stop("core-less", what=gate.label)]
    said: list[Consequence] = []
    if t.kind == "core-in" and total(state.gas[inner]) < board.atmosphere:
        said.append(stop("core-in-vacuum"))
    elif t.kind == "core-in" and not state.seen:
        said.append(stop("not-seen", "core"))
    elif in_the_way(board, state, name) is not None:
        said.append(stop("core-behind-hose", what=gate.label))
    elif wants_plunger(board, tool) and tool.id not in state.plunged:
        said.append(stop("no-plunger", what=gate.label))
    elif wants_plunger(board, tool) and tool.id not in state.through:
        said.append(stop("ball-closed", what=gate.label))
    if t.kind == "core-in":
        return replace(state, opened=state.opened - {name}), said
    return settle(board, replace(state, opened=state.opened | {name})), said


def screwed(board: Board, state: State, t: Touch) -> Moved:
    """A part taken off or put on, or the plunger of a core tool."""
    if t.on.endswith(PLUNGER):
        return _plunger(board, state, t)
    return _take_off(board, state, t.on) if t.kind == "take-off" else _put_on(board, state, t.on)


def _plunger(board: Board, state: State, t: Touch) -> Moved:
    tool = t.on.removesuffix(PLUNGER)
    if t.kind == "take-off":
        if tool not in state.through:
            return replace(state, plunged=state.plunged - {tool}), []
        group = joined(board, state.opened, board.places[f"{tool}.port-side"])
        said = air_in(board, state, group, "end") + _venting(board, state, group)
        inner = board.places[f"{tool}.port-side"]
        return settle(board, replace(state, plunged=state.plunged - {tool}), air_at=inner), said
    port = next((n for n in board.ports if (found := port_tool(board, n)) is not None and found.id == tool), "")
    there = in_the_way(board, state, port) if port else None
    said = [stop("core-behind-hose", what=board.gates[f"port:{port}"].label)] if there else []
    return replace(state, plunged=state.plunged | {tool}), said


def _put_on(board: Board, state: State, part: str) -> Moved:
    """Screwed on again: what it is screwed on is closed to the air by it; a core that it pushes opens."""
    ports = {f"port:{n}" for n, p in board.ports.items() if p == part}
    again = state.opened | (ports & board.sprung - board.shut)
    here = replace(state, off=state.off - {part}, opened=again).with_done("swapped")
    return settle(board, here), []


def _take_off(board: Board, state: State, part: str) -> Moved:
    """Unscrew a part: where it was stands open to the air; a port whose core it pushed springs shut."""
    own = [n for n, p in board.ports.items() if p == part]
    opened = state.opened - {f"port:{n}" for n in own if f"port:{n}" in board.sprung}
    here = replace(state, opened=opened, off=state.off | {part})
    end = board.ends[part]
    group = joined(board, opened, end)
    said = air_in(board, here, group, "end") + _lost(board, here, group, part)
    if own and not state.seen and not said:
        said.append(caution("not-seen", "part"))
    for n in own:
        if f"port:{n}" in opened:
            found = board.job.scope.port(n)
            said.append(stop("port-open", port=found.words() if found else n))
    after = settle(board, here, air_at=end)
    # What was let out is no longer in the hose.
    return replace(after, liquid=after.liquid - (group if not _keeps_its_own(board, part) else set())), said


def _keeps_its_own(board: Board, part: str) -> bool:
    """Whether a hose shuts itself as it comes off."""
    hose = board.job.rig.get(part)
    return isinstance(hose, HosePart) and hose.low_loss


def _lost(board: Board, state: State, group: Set[int], part: str) -> list[Consequence]:
    """What gets out where a part comes off: refrigerant of the system, liquid of a hose, or a breath of vapour."""
    grave = _venting(board, state, group)
    if grave:
        return grave
    if _keeps_its_own(board, part):
        return [note("whiff", gas=volume(2e-6))] if state.liquid & group else []
    liquid = sum(board.rooms[r].volume for r in state.liquid & group)
    kg = hose_holds(board.job.scope.fluid, LIQUID_AT, liquid * 1e3, True) if liquid else 0.0
    if kg > FEW_GRAMS:
        return [stop("liquid-out", part=part, mass=mass(kg))]
    loss = [r for r in group if state.gas[r][2] > 0.5 * board.atmosphere and not board.rooms[r].source]
    return [note("whiff", gas=volume(sum(board.rooms[r].volume for r in loss)))] if loss else []


def _venting(board: Board, state: State, group: Set[int]) -> list[Consequence]:
    """Refrigerant of the system, or of a cylinder that is open."""
    gone = any(
        board.rooms[r].source == "refrigerant" or board.rooms[r].system for r in group if state.gas[r][2] > WHIFF
    )
    return [stop("venting", "part")] if gone else []
