"""The order in which a rig is proved: hose by hose from the pump out, then the core tools; how each comes in."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.message import Message, Name, message
from rough_draw.core.sheet.naming import hose_size
from rough_draw.core.sheet.rig import HosePart, ManifoldPart, Part, Rig, ToolPart
from rough_draw.core.sheet.scope import Scope


@dataclass(frozen=True)
class Opened:
    """What a stage opens: its key, what it is, of which part, what to do, and the parts that come in with it."""

    key: str
    short: Message
    of: Name | None
    do: Message
    parts: list[str]
    optional: bool = False


def hoses_opened(rig: Rig, scope: Scope) -> list[Opened]:
    """Stages after the pump alone: hose by hose, with the manifold where it stands."""
    found: list[Opened] = []
    waiting: list[str] = []

    def walk(part: Part) -> None:
        nonlocal waiting
        for child in rig.children(part.id):
            if child.kind in ("gauge", "cylinder", "nitrogen", "tool"):
                continue
            waiting.append(child.id)
            if isinstance(child, HosePart | ManifoldPart):
                found.append(Opened(child.id, _short(rig, scope, child), _of(child), _do(rig, part, child), waiting))
                waiting = []
            walk(child)

    walk(rig.pump)
    return found


def tools_opened(rig: Rig, scope: Scope, before: frozenset[str]) -> list[Opened]:
    """Stages of the core tools, the gauge's among them, after ``before`` is open: the core still in the port, or a cap
    on the tool. Whoever has pulled the core already has only the hold to tell a tool from the system by.
    """
    found: list[Opened] = []

    def walk(part: Part, between: list[str]) -> None:
        for child in rig.children(part.id):
            if child.kind in ("gauge", "cylinder", "nitrogen"):
                continue
            passed = [] if child.id in before else [*between, child.id]
            if isinstance(child, ToolPart):
                gauges = [c.id for c in rig.children(child.id) if c.kind == "gauge"]
                found.append(_tool(scope, child, [*passed, *gauges], bool(gauges)))
                passed = []
            walk(child, passed)

    walk(rig.pump, [])
    return found


def _tool(scope: Scope, tool: ToolPart, parts: list[str], gauge: bool) -> Opened:
    port = scope.port(tool.port) if tool.port else None
    if port is not None:
        short, end = message("stage-tool-at", port=port.words()), "core"
    else:
        short, end = message("stage-gauge-tool" if gauge else "stage-tool"), "gauge" if gauge else "cap"
    return Opened(tool.id, short, tool.name or None, message("bring-in-tool", end=end), parts, optional=True)


def _short(rig: Rig, scope: Scope, part: HosePart | ManifoldPart) -> Message:
    if isinstance(part, ManifoldPart):
        return message("stage-manifold")
    ends = [part, *rig.children(part.id)]
    port = next((scope.port(p.port) for p in ends if p.port), None)
    return message("stage-hose-to", port=port.words()) if port else message("stage-hose")


def _of(part: HosePart | ManifoldPart) -> Name | None:
    """A part by its own name; a hose without one by its size."""
    if part.name:
        return part.name
    return hose_size(part) if isinstance(part, HosePart) else None


def _do(rig: Rig, on: Part, part: HosePart | ManifoldPart) -> Message:
    """How a part is brought in, and how its far end is closed."""
    way = message("bring-in-connect")
    if isinstance(on, ManifoldPart) and on.valved(part.at):
        way = message("bring-in-open", port=part.at)
    if isinstance(part, ManifoldPart):
        return message("bring-in-manifold", way=way)
    below = rig.children(part.id)
    if part.ball_end:
        end = "ball"
    elif any(c.kind == "tool" for c in below):
        end = "tool"
    else:
        end = "next" if below else "cap"
    return message("bring-in-hose", way=way, end=end)
