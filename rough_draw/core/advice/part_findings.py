"""Findings about single parts: a manifold, one small hose, narrow ends, side ports' cores, the pump's make."""

from __future__ import annotations

from rough_draw.core.advice.finding import Finding, fix_by, rig_fix
from rough_draw.core.catalogue.rig_parts import HOSE_BORE, HOSE_END_BORE, PORT_BORE, PUMP_INLET_BORE
from rough_draw.core.message import message
from rough_draw.core.message.figure import vacuum
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.habits import is_wet
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_name, hose_size, opened_words
from rough_draw.core.sheet.rig import GaugePart, HosePart, ManifoldPart, ToolPart

SINGLE_STAGE = 1_000 * MICRON_PA
"""Target, Pa, under which a single-stage pump is said to be the wrong one (estimate)."""
NARROW = 0.75
"""Share of the hose's own end under which a fitting is said to choke it."""
DRIVEN = ("solenoid", "expansion-valve", "reheat-valve")
"""Links that stand shut unless something holds them open."""


def about_parts(job: Job, assembly: Assembly) -> list[Finding]:
    """What a master sees on the rig before the pump runs."""
    return [
        *_manifolds(job),
        *_small_hose(job),
        *_narrow_ends(job),
        *_narrow_intake(job),
        *_side_cores(job, assembly),
        *_blind_gauges(job, assembly),
        *_pumps_make(job),
    ]


def _manifolds(job: Job) -> list[Finding]:
    body = next((p for p in job.rig.parts if isinstance(p, ManifoldPart)), None)
    if body is None or not any(p.port for p in job.rig.below(body.id)):
        return []
    fix = fix_by(job, message("change-no-manifold"), lambda: rig_edit.without_manifold(job.rig))
    return [Finding(kind="manifold", severity="caution", place=body.id, fix=fix)]


def _small_hose(job: Job) -> list[Finding]:
    """One hose to the system smaller than the other."""
    rig = job.rig
    hoses: list[HosePart] = []
    for part in rig.pumped():
        hose = next((p for p in rig.chain(part)[::-1] if isinstance(p, HosePart)), None)
        if hose is not None and hose not in hoses:
            hoses.append(hose)
    bore = {h.id: min(HOSE_BORE[h.size].value, HOSE_BORE[h.size_far or h.size].value) for h in hoses}
    if len(hoses) < 2 or max(bore.values()) <= min(bore.values()):
        return []
    small, large = min(hoses, key=lambda h: bore[h.id]), max(hoses, key=lambda h: bore[h.id])
    swapped = rig_edit.swap(rig, small.id, {"size": large.size, "size_far": large.size_far, "made_for": "vacuum"})
    values = {"hose": hose_name(rig, job.scope, small), "size": hose_size(small), "large": large.size}
    fix = rig_fix(job, message("fix-larger-hose", size=large.size), swapped)
    return [Finding(kind="small-hose", severity="caution", place=small.id, values=values, fix=fix)]


def _narrow_ends(job: Job) -> list[Finding]:
    found = []
    for h in job.rig.parts:
        if not isinstance(h, HosePart) or not job.rig.from_pump(h):
            continue
        ends = [(h.near_end, h.size, "near_end"), (h.far_end, h.size_far or h.size, "far_end")]
        narrow = [
            (e, field)
            for e, size, field in ends
            if e is not None and PORT_BORE[e].value < NARROW * HOSE_END_BORE[size].value
        ]
        if not narrow:
            continue
        opened = rig_edit.swap(job.rig, h.id, {field: None for _, field in narrow})
        found.append(
            Finding(
                kind="narrow-end",
                about=h.id,
                severity="caution",
                place=h.id,
                values={"hose": hose_name(job.rig, job.scope, h), "size": h.size, "end": narrow[0][0]},
                fix=rig_fix(job, message("fix-wide-ends"), opened),
            )
        )
    return found


def _narrow_intake(job: Job) -> list[Finding]:
    pump = job.rig.pump
    on_it = next((p for p in job.rig.children(pump.id) if isinstance(p, HosePart)), None)
    if on_it is None or PUMP_INLET_BORE[pump.intake].value >= NARROW * HOSE_END_BORE[on_it.size].value:
        return []
    wider = next(s for s, q in PUMP_INLET_BORE.items() if q.value >= NARROW * HOSE_END_BORE[on_it.size].value)
    rig = rig_edit.swap(job.rig, pump.id, {"intake": wider, "kit": pump.kit, "name": pump.name})
    values = {"intake": pump.intake, "size": on_it.size}
    fix = rig_fix(job, message("fix-intake", size=wider), rig)
    return [Finding(kind="narrow-intake", severity="caution", place=pump.id, values=values, fix=fix)]


def _side_cores(job: Job, assembly: Assembly) -> list[Finding]:
    """A core in a tool's side port: shut where nothing pushes it, a slot where something does."""
    found = []
    tubes = {t.name: t for t in assembly.network.tubes}
    for tool in job.rig.parts:
        tube = tubes.get(f"{tool.id}.side-core")
        if not isinstance(tool, ToolPart) or tube is None:
            continue
        rig = rig_edit.swap(job.rig, tool.id, {"side_core": False, "kit": tool.kit, "name": tool.name})
        found.append(
            Finding(
                kind="side-core",
                about=tool.id,
                severity="caution" if tube.open else "stop",
                case="" if tube.open else "shut",
                place=tool.id,
                fix=rig_fix(job, message("fix-side-core"), rig),
            )
        )
    return found


def _blind_gauges(job: Job, assembly: Assembly) -> list[Finding]:
    """A gauge that is joined to no part of the system: it pulls down in seconds and holds, whatever the system does."""
    found = []
    system = {n.name for n in assembly.network.nodes if n.group == "system"}
    opened = assembly.network.connected
    for g in job.rig.gauges:
        if opened(assembly.gauges[g.id]) & system:
            continue
        name = g.name or message("part-gauge")
        found.append(Finding(kind="blind-gauge", about=g.id, severity="stop", place=g.id, values={"gauge": name}))
    return found


def _pumps_make(job: Job) -> list[Finding]:
    pump, found = job.rig.pump, []
    target = chosen(job.criterion).target
    keep = {"kit": pump.kit, "name": pump.name}
    if pump.stages == 1 and target < SINGLE_STAGE:
        rig = rig_edit.swap(job.rig, pump.id, {"stages": 2, "blank_off_micron": None})
        fix = rig_fix(job, message("fix-two-stages"), rig)
        values = {"target": vacuum(target)}
        found.append(Finding(kind="single-stage", severity="caution", place=pump.id, values=values, fix=fix))
    if not pump.ballast and is_wet(job.scope.condition, job.scope.free_water_g):
        rig = rig_edit.swap(job.rig, pump.id, {"ballast": True, **keep})
        fix = rig_fix(job, message("fix-ballast"), rig)
        found.append(Finding(kind="no-ballast", severity="caution", place=pump.id, fix=fix))
    return found


def about_pressure(job: Job) -> list[Finding]:
    """Nothing that shows positive pressure: then nobody sees whether it is safe to open anything."""
    rig = job.rig
    dials = any(isinstance(p, ManifoldPart) and p.dials for p in rig.parts)
    shown = any(isinstance(p, GaugePart) and p.shows_kpa for p in rig.parts)
    if dials or shown:
        return []
    return [Finding(kind="no-pressure", severity="caution", place=rig.pump.id)]


def about_driven(job: Job) -> list[Finding]:
    """Valves inside the system that stand shut unless they are driven open or held by a magnet."""
    kept = {s.id for s in job.scope.sections if s.holds_charge}
    found = []
    for x in job.scope.links:
        if x.kind not in DRIVEN or not x.open or x.a in kept or x.b in kept:
            continue
        values = {"link": x.words(), "how": opened_words(x)}
        found.append(Finding(kind="driven-valve", about=x.id, severity="note", place=x.id, values=values))
    return found
