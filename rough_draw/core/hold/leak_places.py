"""Where to look for a leak in this rig and system: what is shut in with the hold, the likeliest places first."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.message import Message, Value, message
from rough_draw.core.model.isolation import Isolation
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_name, part_name, tool_name
from rough_draw.core.sheet.rig import GaugePart, HosePart, ManifoldPart, Part, ToolPart
from rough_draw.core.sheet.scope import Scope


@dataclass(frozen=True)
class Place:
    """A place to look at, and how."""

    where: Message
    how: Message


def places(job: Job, held: Isolation) -> tuple[Place, ...]:
    """Places inside of what is held, the cheapest to look at first.

    The rig's own joints come before the system's: they are made anew at every job, and a leak there is none of the
    system's.
    """
    rig = [p for part in job.rig.parts if (p := _of_part(job, part, held)) is not None]
    return (*rig, *_of_system(job.scope, {p.port for p in job.rig.parts if p.port is not None}))


def _place(at: str, **values: Value) -> Place:
    """A place whose sentence ``at`` brings how to look along."""
    return Place(message(f"leak-at-{at}", **values), message(f"leak-at-{at}.how", **values))


def _of_part(job: Job, part: Part, held: Isolation) -> Place | None:
    if isinstance(part, ToolPart) and part.port is not None:
        return _place("tool", part=tool_name(job.rig, job.scope, part))
    if isinstance(part, GaugePart) and held.gauge_inside:
        return _place("gauge", part=part.name or message("the-gauge"))
    if isinstance(part, HosePart) and part.id in held.hoses:
        return _place("hose", part=hose_name(job.rig, job.scope, part))
    if isinstance(part, ManifoldPart) and held.hoses:
        return _place("manifold", part=part_name(part))
    return None


def _of_system(scope: Scope, taken: set[str]) -> list[Place]:
    kept = {s.id for s in scope.sections if s.holds_charge}
    names = {s.id: s.name or s.id for s in scope.sections}
    found = [_place("port", port=p.words()) for p in scope.ports if p.id not in taken and p.section not in kept]
    for link in scope.links:
        if link.kind == "service-valve":
            at = "valve-kept" if {link.a, link.b} & kept else "valve"
            found.append(_place(at, link=link.words(), a=names[link.a], b=names[link.b]))
    for link in scope.links:
        if link.kind != "service-valve" and not {link.a, link.b} <= kept:
            found.append(_place("link", link=link.words(), a=names[link.a], b=names[link.b]))
    found += [
        _place("section", section=names[s.id])
        for s in scope.sections
        if s.id not in kept and s.kind in ("line", "evaporator", "condenser", "reheat")
    ]
    return list(dict.fromkeys(found))
