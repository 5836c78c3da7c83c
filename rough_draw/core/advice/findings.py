"""What is wrong or worth knowing about a rig on its system, each with why, and the fix one touch away."""

from __future__ import annotations

from rough_draw.core.advice.finding import RANK, Finding, Fix, fix_by, rig_fix
from rough_draw.core.advice.part_findings import about_driven, about_parts, about_pressure
from rough_draw.core.advice.rig_findings import about_gauge, about_hold, about_hoses, about_pump, about_sight
from rough_draw.core.catalogue.systems import CHECK_CRACK, LINKS
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import vacuum
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.isolation import Isolation, behind_check, left_out, shut
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import opened_words
from rough_draw.core.sheet.rig import Part, Rig, ToolPart
from rough_draw.core.sheet.scope import Port


def findings(job: Job, assembly: Assembly, isolation: Isolation, gauge_error: float, target: float) -> list[Finding]:
    """Everything to say about this rig on this system, the gravest first. Pressures Pa."""
    found = [
        *_sections(job, assembly),
        *_ways(job, assembly),
        *_ports(job),
        *about_hoses(job, target),
        *_tools(job),
        *about_gauge(job, assembly, gauge_error, target),
        *about_hold(job, isolation),
        *about_sight(job, assembly, isolation, chosen(job.criterion).limit),
        *about_pump(job),
        *about_parts(job, assembly),
        *about_pressure(job),
        *about_driven(job),
    ]
    return sorted(found, key=lambda f: RANK[f.severity])


def _link_fix(link: str, job: Job, is_open: bool, words: Message) -> Fix:
    links = tuple(x.model_copy(update={"open": is_open}) if x.id == link else x for x in job.scope.links)
    return Fix(words, job.model_copy(update={"scope": job.scope.model_copy(update={"links": links})}))


def _opens(job: Job, assembly: Assembly, section: str) -> str | None:
    """A shut link of the system that, opened, joins ``section`` to what is pumped."""
    shut_links = [x for x in job.scope.links if not x.open]
    kept = {s.id for s in job.scope.sections if s.holds_charge}
    for x in shut_links:
        if x.a in kept or x.b in kept:
            continue
        net = shut(assembly.network, (f"system.{x.id}",), is_open=True)
        if f"system.{section}" in net.connected("pump"):
            return x.id
    return None


def _sections(job: Job, assembly: Assembly) -> list[Finding]:
    found = []
    labels = assembly.system.labels
    links = {x.id: x for x in job.scope.links}
    for name in left_out(assembly):
        link = _opens(job, assembly, name)
        fix = None
        how = message("left-out-open-or-port")
        if link is not None:
            x = links[link]
            how = message("left-out-link-closed", how=opened_words(x)) if x.kind in LINKS else how
            fix = _link_fix(link, job, True, message("fix-open-link", link=x.words()))
        found.append(
            Finding(
                kind="left-out",
                about=name,
                severity="stop",
                place=name,
                values={"section": labels[name], "how": how},
                fix=fix,
            )
        )
    for name in behind_check(assembly):
        found.append(
            Finding(
                kind="check-valve",
                about=name,
                severity="caution",
                place=name,
                values={"section": labels[name], "held": vacuum(CHECK_CRACK.value)},
            )
        )
    for x in job.scope.links:
        ends = [job.scope.section(e).holds_charge for e in (x.a, x.b)]
        if x.open and ends[0] != ends[1]:
            kept = job.scope.section(x.a if ends[0] else x.b)
            found.append(
                Finding(
                    kind="charge-open",
                    about=x.id,
                    severity="stop",
                    place=x.id,
                    values={"section": kept.words(), "link": x.words()},
                    fix=_link_fix(x.id, job, False, message("fix-close-link", link=x.words())),
                )
            )
    return found


def _ways(job: Job, assembly: Assembly) -> list[Finding]:
    """Ports whose core nothing pushes: shut, though a hose is on them."""
    found = []
    for tube in assembly.network.tubes:
        if tube.kind == "core" and not tube.open:
            port = job.scope.port(tube.name.removesuffix(".port"))
            part = job.rig.on_port(port.id) if port else None
            if port is None or part is None:
                continue
            under = isinstance(part, ToolPart)

            def pulled(p: Port = port, at: str = part.id, under: bool = under) -> Rig:
                bare = job.rig.with_core(p.id, False)
                return bare if under else rig_edit.put_at_port(bare, at, {"kind": "tool", "fits": p.size})

            words = message("fix-pull-core" if under else "fix-core-tool", port=port.words())
            found.append(
                Finding(
                    kind="core-under-tool" if under else "core-shut",
                    about=port.id,
                    severity="stop",
                    place=part.id,
                    values={"port": port.words()},
                    fix=fix_by(job, words, pulled),
                )
            )
    return found


def _ports(job: Job) -> list[Finding]:
    found = []
    for part in job.rig.parts:
        port = job.scope.port(part.port) if part.port else None
        fits = getattr(part, "fits", None)
        if port is None or fits is None:
            continue
        if fits != port.size:

            def fitting(p: Port = port, at: Part = part) -> Rig:
                if isinstance(at, ToolPart):
                    return rig_edit.swap(job.rig, at.id, {"fits": p.size})
                return rig_edit.put_at_port(job.rig, at.id, {"kind": "adapter", "fits": p.size, "depressor": p.core})

            found.append(
                Finding(
                    kind="fit",
                    about=port.id,
                    severity="stop",
                    place=part.id,
                    values={"end": fits, "size": port.size, "port": port.words()},
                    fix=fix_by(
                        job,
                        message("fix-tool-size" if isinstance(part, ToolPart) else "fix-adapter", size=port.size),
                        fitting,
                    ),
                )
            )
        if port.cramped and isinstance(part, ToolPart):
            found.append(
                Finding(
                    kind="cramped",
                    about=port.id,
                    severity="note",
                    place=part.id,
                    values={"port": port.words()},
                )
            )
    return found


def _tools(job: Job) -> list[Finding]:
    rig = job.rig
    found = []
    for part in rig.parts:
        if isinstance(part, ToolPart) and not part.vacuum_rated:
            fixed = rig_edit.swap(rig, part.id, {"vacuum_rated": True})
            found.append(
                Finding(
                    kind="tool",
                    about=part.id,
                    severity="caution",
                    place=part.id,
                    fix=rig_fix(job, message("fix-vacuum-tool"), fixed),
                )
            )
    for part in rig.pumped():
        port = job.scope.port(part.port or "")
        if port is None or not rig.keeps_core(port) or isinstance(part, ToolPart):
            continue
        if part.on is not None and "end" not in part.outlets():
            # Nothing can be screwed between such a part, a gauge, and its port.
            continue

        def tooled(p: Port = port, at: str = part.id) -> Rig:
            return rig_edit.core_tool_under(rig, at, p)

        found.append(
            Finding(
                kind="no-valve",
                about=port.id,
                severity="caution",
                place=part.id,
                values={"port": port.words()},
                fix=fix_by(job, message("fix-core-tool", port=port.words()), tooled),
            )
        )
    return found
