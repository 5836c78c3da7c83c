"""Where to look for a leak in this rig and system: what is shut in with the hold, the likeliest places first."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.model.isolation import Isolation
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import GaugePart, HosePart, ManifoldPart, Part, ToolPart
from rough_draw.core.sheet.scope import Scope

SOAP = "soap under nitrogen"
BOTH = "soap under nitrogen; electronic where soap does not get, with a trace of refrigerant in it"


@dataclass(frozen=True)
class Place:
    """A place to look at, and how."""

    where: str
    how: str


def places(job: Job, held: Isolation) -> tuple[Place, ...]:
    """Places inside of what is held, the cheapest to look at first.

    The rig's own joints come before the system's: they are made anew at every job, and a leak there is none of the
    system's.
    """
    rig = [p for part in job.rig.parts if (p := _of_part(part, held)) is not None]
    return (*rig, *_of_system(job.scope, {p.port for p in job.rig.parts if p.port is not None}))


def _of_part(part: Part, held: Isolation) -> Place | None:
    plain = part.id.replace("-", " ")
    name = part.name or (f"core {plain}" if isinstance(part, ToolPart) else plain)
    if isinstance(part, ToolPart) and part.port is not None:
        return Place(f"{name}: its ball, and the seal of its plunger", "wipe, seat its gaskets; change it, hold again")
    if isinstance(part, GaugePart) and held.gauge_inside:
        return Place(f"the joint under {name}", "a drop of lubricant on its gasket, hand tight, hold again")
    if isinstance(part, HosePart) and part.id in held.hoses:
        return Place(f"{name}: both ends, and the hose itself", "hold again with it closed off at the tool")
    if isinstance(part, ManifoldPart) and held.hoses:
        return Place(f"{name}: stems, sight glass, blind ports", "cap what is not used; hold again without it")
    return None


def _of_system(scope: Scope, taken: set[str]) -> list[Place]:
    kept = {s.id for s in scope.sections if s.holds_charge}
    names = {s.id: s.name or s.id for s in scope.sections}
    found = [
        Place(f"the {p.words()}: nothing is on it", "soap on its core; cap it with its gasket")
        for p in scope.ports
        if p.id not in taken and p.section not in kept
    ]
    for link in scope.links:
        between = f"{link.words()}, {names[link.a]} to {names[link.b]}"
        if link.kind == "service-valve":
            behind = "; its charge stands behind it, so electronic too" if {link.a, link.b} & kept else ""
            found.append(Place(f"{between}: stem, packing, cap", f"{SOAP}{behind}"))
    for link in scope.links:
        if link.kind != "service-valve" and not {link.a, link.b} <= kept:
            found.append(Place(f"{link.words()}, {names[link.a]} to {names[link.b]}: flares or brazed ends", SOAP))
    found += [
        Place(f"{names[s.id]}: its joints and bends", BOTH)
        for s in scope.sections
        if s.id not in kept and s.kind in ("line", "evaporator", "condenser", "reheat")
    ]
    return list(dict.fromkeys(found))
