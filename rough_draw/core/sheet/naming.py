"""What things are called: a person's own name for one, or what it is."""

from __future__ import annotations

from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import flow, hose_length
from rough_draw.core.physics.units import CFM_M3_S
from rough_draw.core.sheet.rig import HosePart, Part, PumpPart, Rig, ToolPart
from rough_draw.core.sheet.scope import Link, Port, Scope


def hose_size(hose: HosePart) -> Message:
    """A hose by its bore and length."""
    return message("hose-size", size=hose.size, length=hose_length(hose.length_m))


def pump_size(cfm: float) -> Message:
    """A pump by its plate."""
    return message("pump-size", flow=flow(cfm * CFM_M3_S))


def pump_name(pump: PumpPart) -> Name:
    """A pump by its name, or by its plate."""
    return pump.name or pump_size(pump.plate_cfm)


def part_name(part: Part) -> Name:
    """A part by its own name, or by what it is, without an article."""
    return part.called()


def port_of(rig: Rig, scope: Scope, part: Part) -> Port | None:
    """The port a part leads to, where it is just one."""
    ports = {p.port for p in (part, *rig.below(part.id)) if p.port}
    return scope.port(ports.pop()) if len(ports) == 1 else None


def hose_name(rig: Rig, scope: Scope, hose: HosePart) -> Name:
    """A hose by the port it leads to, or by its own name."""
    port = port_of(rig, scope, hose)
    if port is not None:
        return message("hose-to-port", port=port.words())
    return message("hose-named", name=hose.name) if hose.name else message("hose-at-pump")


def tool_name(rig: Rig, scope: Scope, tool: ToolPart) -> Name:
    """A core tool by its port, or by the gauge on it."""
    if tool.port is not None:
        port = scope.port(tool.port)
        return message("tool-at-port", port=port.words() if port else tool.port)
    if any(c.kind == "gauge" for c in rig.children(tool.id)):
        return message("tool-under-gauge")
    return tool.name or message("tool-named", name=part_name(tool))


def opened_words(link: Link) -> Message:
    """A valve inside the system, and how it is opened."""
    if link.note:
        return message("check-opened-by-note", link=link.words(), note=link.note)
    return message(f"check-open-{link.kind}", link=link.words())
