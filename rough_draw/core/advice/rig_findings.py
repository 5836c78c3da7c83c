"""Findings about the rig itself: its hoses, its gauge, what stays in the hold, its pump."""

from __future__ import annotations

from math import inf

from rough_draw.core.advice.cord import check_of
from rough_draw.core.advice.finding import Finding, Severity, fix_by, rig_fix
from rough_draw.core.advice.setup_check import gauge_valve
from rough_draw.core.catalogue.proving import BEYOND
from rough_draw.core.catalogue.rig_parts import HOSE_SIZES
from rough_draw.core.message import Value, listed, message
from rough_draw.core.message.figure import gauge_pressure, hose_length, rise, vacuum
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.gauge_sight import gauge_offset
from rough_draw.core.model.isolation import Isolation
from rough_draw.core.physics.units import ATMOSPHERE_PA, MICRON_PA
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.criteria import NEEDLE_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_size
from rough_draw.core.sheet.rig import GaugePart, HosePart, ManifoldPart, Rig, ToolPart
from rough_draw.core.sheet.scope import Port

FAR_OFF = 0.2
"""Share of the target from which the difference between gauge and worst spot is said."""
NEW_HOSE = 300 * MICRON_PA
"""Pa under which a new rubber hose may hold a draw back in its first hours (estimate)."""


def _each(job: Job, hoses: list[HosePart], fields: dict[str, object]) -> Rig:
    """The rig with fields of several hoses changed; they stay the kit's own."""
    rig = job.rig
    for h in hoses:
        rig = rig_edit.swap(rig, h.id, {**fields, "kit": h.kit, "name": h.name})
    return rig


def _several(hoses: list[HosePart]) -> dict[str, Value]:
    """How many they are, and of which sizes."""
    return {"count": len(hoses), "sizes": listed(list(dict.fromkeys(hose_size(h) for h in hoses)))}


def about_hoses(job: Job, target: float) -> list[Finding]:
    """Depressors left in, charging hoses, ball ends, new rubber, the larger hose on the wrong side. ``target`` Pa."""
    rig = job.rig
    found = []
    hoses = [p for p in rig.parts if isinstance(p, HosePart)]
    pins = [h for h in hoses if h.depressor and h.port is None]
    if pins:
        fix = rig_fix(job, message("fix-depressors", count=len(pins)), _each(job, pins, {"depressor": False}))
        found.append(Finding(kind="depressor", severity="caution", place=pins[0].id, values=_several(pins), fix=fix))
    rubber = [h for h in hoses if h.made_for == "pressure" and rig.from_pump(h)]
    if rubber:
        swapped = rig
        for h in rubber:
            swapped = rig_edit.swap(swapped, h.id, {"made_for": "vacuum", "age": "used"})
        fix = rig_fix(job, message("fix-vacuum-hoses", count=len(rubber)), swapped)
        found.append(
            Finding(kind="pressure-hose", severity="caution", place=rubber[0].id, values=_several(rubber), fix=fix)
        )
    balls = [h for h in rubber if h.ball_end]
    if balls:
        found.append(Finding(kind="ball-end", severity="note", place=balls[0].id))
    fresh = [h for h in hoses if h.age == "new"]
    if fresh and target < NEW_HOSE:
        values = {**_several(fresh), "low": vacuum(200 * MICRON_PA), "high": vacuum(NEW_HOSE)}
        found.append(Finding(kind="new-hose", severity="note", place=fresh[0].id, values=values))
    return [*found, *_crossed(job)]


def _crossed(job: Job) -> list[Finding]:
    """With unequal hoses, the larger belongs where the volume is: the suction side."""
    rig = job.rig
    by_side: dict[str, HosePart] = {}
    for part in rig.pumped():
        port = job.scope.port(part.port or "")
        hose = next((p for p in rig.chain(part)[::-1] if isinstance(p, HosePart)), None)
        if port is not None and hose is not None:
            by_side.setdefault(port.side, hose)
    suction = by_side.get("suction")
    other = by_side.get("liquid") or by_side.get("discharge")
    if suction is None or other is None or suction.id == other.id:
        return []
    if HOSE_SIZES.index(suction.size) >= HOSE_SIZES.index(other.size):
        return []
    shared = ("size", "length_m", "made_for", "age", "kit", "name")
    mine, theirs = ({k: getattr(h, k) for k in shared} for h in (suction, other))
    swapped = rig_edit.swap(rig_edit.swap(rig, suction.id, theirs), other.id, mine)
    return [
        Finding(
            kind="crossed-hoses",
            severity="caution",
            place=suction.id,
            fix=rig_fix(job, message("fix-exchange-hoses"), swapped),
        )
    ]


def _tools_everywhere(job: Job) -> Rig:
    """A core tool at every pumped port that has none, its core pulled, the hose's pin out."""
    rig = job.rig
    for part in rig.pumped():
        port = job.scope.port(part.port or "")
        if port is None or not rig.keeps_core(port) or isinstance(part, ToolPart):
            continue

        def tooled(p: Port = port, at: str = part.id, rig: Rig = rig) -> Rig:
            return rig_edit.core_tool_under(rig, at, p)

        # Where another part is in the way the port stays as it is.
        rig = rig_edit.attempt(tooled) or rig
    return rig


def _far_gauge(job: Job, gauge: GaugePart) -> Rig | None:
    """The gauge on a tool at a port of its own, away from the pumped ones; else on the side of a pumped tool."""
    rig = job.rig
    free = [p for p in job.scope.ports if rig.on_port(p.id) is None and not job.scope.section(p.section).holds_charge]
    rank = {"suction": 0, "other": 1, "liquid": 2, "discharge": 3}
    free.sort(key=lambda p: rank[p.side])
    if free:
        port = free[0]
        tool = rig_edit.fresh_id(rig, "tool")
        under = {"kind": "tool", "id": tool, "port": port.id, "fits": port.size}
        return rig_edit.attempt(lambda: rig_edit.move(rig_edit.add(job.rig, under), gauge.id, tool, "end", None))
    rig = _tools_everywhere(job)
    tools = [p for p in rig.pumped() if isinstance(p, ToolPart) and not any(c.at == "side" for c in rig.children(p.id))]
    if not tools:
        return None
    tool = rig_edit.fresh_id(rig, "tool")
    more = {"kind": "tool", "id": tool, "on": tools[0].id, "at": "side"}
    return rig_edit.attempt(lambda: rig_edit.move(rig_edit.add(rig, more), gauge.id, tool, "end", None))


def about_gauge(job: Job, assembly: Assembly, error: float, target: float) -> list[Finding]:
    """Where the gauge sits and by how much it is off (Pa), whether it can be shut off, what it stands, its steps."""
    gauge = job.rig.gauge
    if gauge is None:
        return [_no_gauge(job)]
    found = (
        _gauge_near_pump(job, gauge, error, target) or _gauge_not_worst(job, gauge, error, target),
        *_gauge_open_to_charge(job, assembly, gauge),
        _gauge_coarse(gauge, target),
    )
    return [f for f in found if f is not None]


def _no_gauge(job: Job) -> Finding:
    way = _far_gauge_new(job)
    return Finding(
        kind="no-gauge",
        severity="caution",
        place=job.rig.pump.id,
        values={"hidden": vacuum(NEEDLE_PA)},
        fix=rig_fix(job, message("fix-add-gauge"), way) if way else None,
    )


def _gauge_near_pump(job: Job, gauge: GaugePart, error: float, target: float) -> Finding | None:
    chain = job.rig.chain(gauge)
    if chain[0].kind != "pump" or any(isinstance(p, ToolPart) for p in chain):
        return None
    where = message("gauge-at-manifold" if any(isinstance(p, ManifoldPart) for p in chain) else "gauge-at-pump")
    moved = _far_gauge(job, gauge)
    return Finding(
        kind="gauge-near-pump",
        severity="caution",
        place=gauge.id,
        case="" if error < target else "far",
        values={
            "where": where,
            "error": vacuum(error),
            "shown": vacuum(max(0.0, target - error)),
            "target": vacuum(target),
        },
        fix=rig_fix(job, message("fix-move-gauge"), moved) if moved else None,
    )


def _gauge_not_worst(job: Job, gauge: GaugePart, error: float, target: float) -> Finding | None:
    """Any gauge that stands well under the worst spot once that is at the target, wherever it is screwed on."""
    if error <= FAR_OFF * target:
        return None
    return Finding(
        kind="gauge-not-worst",
        severity="caution",
        place=gauge.id,
        values={"error": vacuum(error), "shown": vacuum(max(0.0, target - error)), "target": vacuum(target)},
    )


def _gauge_open_to_charge(job: Job, assembly: Assembly, gauge: GaugePart) -> list[Finding]:
    """What comes on the gauge with the charge where nothing shuts it off."""
    if gauge_valve(job, assembly) is not None:
        return []
    found = []
    under = fix_by(job, message("fix-gauge-tool"), lambda: rig_edit.put_under(job.rig, gauge.id))
    chain = job.rig.chain(gauge)
    if not (chain[0].kind == "pump" and any(p.kind == "manifold" for p in chain)):
        found.append(
            Finding(
                kind="gauge-exposed",
                severity="caution",
                place=gauge.id,
                values={"rated": gauge_pressure(1e3 * gauge.stands_kpa)},
                fix=under,
            )
        )
    ref = job.scope.refrigerant
    pressure = job.scope.fluid.pressure_40c.value / 1000.0
    if gauge.stands_kpa < pressure:
        found.append(
            Finding(
                kind="gauge-burst",
                severity="stop",
                place=gauge.id,
                values={
                    "rated": gauge_pressure(1e3 * gauge.stands_kpa),
                    "refrigerant": ref,
                    "reaches": gauge_pressure(1e3 * pressure - ATMOSPHERE_PA),
                },
                fix=under,
            )
        )
    return found


def _gauge_coarse(gauge: GaugePart, target: float) -> Finding | None:
    if gauge.resolution_micron <= 0.11 * target / MICRON_PA:
        return None
    return Finding(
        kind="gauge-coarse",
        severity="note",
        place=gauge.id,
        values={"step": vacuum(gauge.resolution_micron * MICRON_PA), "target": vacuum(target)},
    )


def _far_gauge_new(job: Job) -> Rig | None:
    new = {"kind": "gauge", "id": "gauge", "on": job.rig.pump.id, "at": "side"}
    rig = rig_edit.attempt(lambda: rig_edit.add(job.rig, new))
    gauge = rig.gauge if rig is not None else None
    return _far_gauge(job.model_copy(update={"rig": rig}), gauge) if gauge else None


def about_sight(job: Job, assembly: Assembly, i: Isolation, limit: float) -> list[Finding]:
    """A gauge behind a core: in the hold it reads what hoses on its own side give off. ``limit`` Pa of the standard."""
    gauge = job.rig.gauge
    if gauge is None or not i.gauge_inside:
        return []
    offset = gauge_offset(assembly, i, limit)
    if not FAR_OFF * limit < offset < inf:
        return []
    moved = _far_gauge(job.model_copy(update={"rig": _tools_everywhere(job)}), gauge)
    return [
        Finding(
            kind="gauge-beyond-core",
            severity="stop" if offset > BEYOND * limit else "caution",
            place=gauge.id,
            values={"offset": vacuum(offset)},
            fix=rig_fix(job, message("fix-tools-and-gauge"), moved) if moved else None,
        )
    ]


def about_hold(job: Job, i: Isolation) -> list[Finding]:
    """Hoses that stay in what is judged, or nothing that shuts it off."""
    if i.complete and i.hose_m == 0:
        return []
    rate = i.inflow() / i.volume / MICRON_PA if i.volume else 0.0
    rig = _tools_everywhere(job)
    words = message("fix-tools-everywhere")
    gauge = rig.gauge
    if gauge is not None and not any(isinstance(p, ToolPart) for p in rig.chain(gauge)):
        moved = _far_gauge(job.model_copy(update={"rig": rig}), gauge)
        rig, words = (moved, message("fix-tools-and-gauge")) if moved else (rig, words)
    fix = rig_fix(job, words, rig) if rig != job.rig else None
    values = {"length": hose_length(i.hose_m), "rate": rise(rate * MICRON_PA)}
    case = "" if i.complete else "open"
    place = job.rig.pump.id
    return [Finding(kind="hoses-in-hold", severity="caution", place=place, case=case, values=values, fix=fix)]


def about_pump(job: Job) -> list[Finding]:
    """Rating for what can burn, oil, cord."""
    rig = job.rig
    pump = rig.pump
    found = []
    ref = job.scope.fluid
    mild = ref.safety.endswith("2L")
    if ref.flammable and not (pump.rated_a2l if mild else pump.rated_a3):
        found.append(
            Finding(
                kind="pump-not-rated",
                severity="stop",
                place=pump.id,
                values={"class": ref.safety, "refrigerant": ref.name},
            )
        )
    if pump.oil != "fresh":
        fields = {"oil": "fresh", "blank_off_micron": None, "kit": pump.kit, "name": pump.name}
        found.append(
            Finding(
                kind="oil-used",
                severity="caution" if pump.oil == "wet" else "note",
                place=pump.id,
                case="milky" if pump.oil == "wet" else "",
                fix=rig_fix(job, message("fix-fresh-oil"), rig_edit.swap(rig, pump.id, fields)),
            )
        )
    if rig.cord is not None and (answer := check_of(rig.cord, pump)) is not None and answer.verdict != "good":
        better = None
        if answer.better:
            cord = rig.cord.model_copy(update={"wire": answer.better})
            better = rig_fix(job, message("fix-cord", wire=answer.better), rig.model_copy(update={"cord": cord}))
        severity: Severity = "stop" if answer.verdict == "no" else "caution"
        found.append(
            Finding(
                kind="cord",
                severity=severity,
                place=pump.id,
                values={"answer": answer.words},
                fix=better,
            )
        )
    return found
