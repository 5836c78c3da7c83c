"""From the core's answers to the API's types, for the planning bench."""

from __future__ import annotations

from threading import Lock

from cachetools import LRUCache, cached

from rough_draw.api import runs
from rough_draw.api.deps import floats, range_out
from rough_draw.api.plan.schemas import (
    CautionOut,
    ChargeOut,
    Choice,
    CriterionOut,
    FindingOut,
    GaugePlanOut,
    LinkOut,
    MomentOut,
    PartOut,
    PlanOut,
    SectionOut,
    SlotOut,
    SystemOut,
)
from rough_draw.api.schemas import RangeOut
from rough_draw.core.advice.cord import check_of
from rough_draw.core.advice.drawing import draw, gauge_place
from rough_draw.core.advice.finding import Finding
from rough_draw.core.advice.job_check import findings_of
from rough_draw.core.advice.setup_check import answers
from rough_draw.core.catalogue.systems import LINKS
from rough_draw.core.charging.cautions import caution, caution_keys, ticked
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.message import message
from rough_draw.core.model.assemble import Assembly, assemble
from rough_draw.core.model.ensemble import run_all
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.system import ScopeError, build_system
from rough_draw.core.physics.units import kelvin
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.planning.bottlenecks import limits
from rough_draw.core.planning.plan import HORIZON, Plan, seconds_to_target
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import free
from rough_draw.core.sheet.rig import GaugePart
from rough_draw.store import shelf
from rough_draw.text import say

MOMENTS = 28


def system_out(job: Job) -> SystemOut:
    """What follows from the scope; with the rig at hand, also what it does not reach."""
    model = build_system(job.scope)
    try:
        pumped: frozenset[str] | None = assemble(job).pumped
    except ScopeError:
        pumped = None  # the rig does not fit this system yet; the Rig stage says how
    left: list[str] = []
    sections = []
    for s in model.sections:
        state = "charge" if not s.evacuated else "pumped"
        if s.evacuated and pumped is not None and f"system.{s.name}" not in pumped:
            state = "left-out"
            left.append(s.name)
        sections.append(SectionOut(name=s.name, label=s.label, volume_m3=range_out(s.volume), state=state))
    charge = charge_to_weigh(job.scope)
    school, reason = criteria.default_school(job.scope)
    watched = criteria.watched(job.criterion)
    dial = next((c for c in watched if c.dial), None)
    volume = model.volume()
    return SystemOut(
        sections=sections,
        links=[
            LinkOut(
                name=x.id,
                label=x.words(),
                kind=x.kind,
                open=x.open,
                valve=x.kind in LINKS and x.kind not in ("capillary", "filter-drier", "check-valve"),
                opened=x.note or message(f"opened-{x.kind}"),
            )
            for x in job.scope.links
        ],
        left_out=left,
        volume_m3=range_out(volume),
        water_kg=range_out(model.water_total()),
        water_place=model.labels[model.water.place],
        atmosphere_pa=model.atmosphere,
        water_boils_pa=saturation_pressure(model.coldest),
        default_school=school,
        default_reason=reason,
        criteria=[
            CriterionOut(key=c.key, name=c.name, about=c.about, rule=c.rule(), target_pa=c.target) for c in watched
        ],
        dial=criteria.dial_blind(dial, model.atmosphere, volume.value, kelvin(job.scope.coldest_c)) if dial else None,
        cautions=[
            CautionOut(
                key=k,
                words=caution(k, job.scope.refrigerant),
                ticked=ticked(k, job.scope.refrigerant, job.closing.acknowledged),
            )
            for k in caution_keys(job.scope)
        ],
        charge=ChargeOut(kg=charge.to_weigh, words=charge.words) if charge else None,
    )


def finding_out(f: Finding) -> FindingOut:
    """A finding without the job that its fix would make."""
    return FindingOut(
        key=f.key, severity=f.severity, place=f.place, title=f.title, why=f.why, fix=f.fix.words if f.fix else None
    )


@cached(LRUCache(32), key=runs.plan_key, lock=Lock())
def saves_of(job: Job) -> dict[str, float]:
    """Seconds that each finding's fix saves, by the finding's key; against a day where the target is out of reach."""
    plan = runs.plan_for(job)
    base = plan.time_to_target.value if plan.time_to_target else HORIZON
    fixes = [(f.key, f.fix.job) for f in findings_of(job, plan) if f.fix is not None]

    def after(fixed: Job) -> float:
        try:
            return seconds_to_target(fixed)
        except (ScopeError, NetworkError):
            return base

    times = run_all(after, [j for _, j in fixes])
    return {key: base - taken for (key, _), taken in zip(fixes, times, strict=True) if base - taken > 1.0}


def _moments(plan: Plan) -> list[MomentOut]:
    run = plan.nominal
    end = float(run.time[-1])
    picked = [0.0, *(2.0 * (max(end, 4.0) / 2.0) ** (k / (MOMENTS - 1)) for k in range(MOMENTS))]
    found = []
    for m in limits(plan.assembly, run, picked):
        i = int(abs(run.time - m.time).argmin())
        pa = {n.name: float(f"{run.pressure[i, k].sum():.4g}") for k, n in enumerate(run.network.nodes)}
        found.append(
            MomentOut(
                at=m.time,
                pa=pa,
                resistance={k: round(v, 3) for k, v in m.resistance.items() if v >= 0.004},
                sources={say(message(f"feed-{k}")): round(v, 3) for k, v in m.sources.items()},
                words=m.words,
            )
        )
    return [m for n, m in enumerate(found) if n == 0 or m.at > found[n - 1].at]


def _shut(assembly: Assembly) -> list[str]:
    """Valves that the sheet has shut; those of sections that keep their charge stand in no network and are shut."""
    is_open = {t.name for t in assembly.network.tubes if t.open}
    return [v.name for v in assembly.valves.values() if v.tube not in is_open]


def _slots(job: Job) -> list[SlotOut]:
    rig = job.rig
    kit = shelf.fitting()
    kept = {s.id for s in job.scope.sections if s.holds_charge}
    ports = [p for p in job.scope.ports if rig.on_port(p.id) is None and p.section not in kept]
    open_ports = [Choice(value=p.id, label=p.words(), note=p.size) for p in ports]
    found = []
    for part in rig.parts:
        taken = {c.at for c in rig.children(part.id)}
        outlets = [o for o in part.outlets() if o not in taken]
        if part.port is not None:
            outlets = [o for o in outlets if o != "end" or part.on is None]
        here = free(kit, rig, part.kind)
        found.append(
            SlotOut(
                part=part.id,
                free_outlets=outlets,
                free_ports=open_ports,
                kit=[Choice(value=str(k.id), label=k.name) for k in here],
                removable=part.kind != "pump",
            )
        )
    return found


def _gauge_plan(job: Job, gauge: GaugePart, plan: Plan) -> GaugePlanOut:
    low, mid, high = (floats(row) for row in plan.gauges[gauge.id])
    name = gauge.name or message("part-gauge")
    reads = gauge is job.rig.gauge
    return GaugePlanOut(id=gauge.id, name=name, place=gauge_place(job, gauge), low=low, mid=mid, high=high, reads=reads)


def plan_out(job: Job, first: bool = False) -> PlanOut:
    """The plan of a sheet as the API says it; ``first``: what is there at once."""
    whole = not first or runs.plan_ready(job)
    plan = runs.plan_for(job) if whole else runs.first_plan(job)
    assembly: Assembly = plan.assembly
    shut = isolation(job, assembly)
    span = plan.time_to_target
    cores = {t.name for t in assembly.network.tubes if t.kind == "core"}
    return PlanOut(
        target_pa=plan.target,
        time_to_target_s=RangeOut(low=span.low, value=span.value, high=span.high) if span else None,
        share_reaching=plan.share_reaching,
        limit=plan.limit,
        speed_at_target_m3_s=plan.steady.speed,
        port_speed_m3_s=plan.steady.port_speed,
        pump_share=plan.steady.pump_share,
        gauge_error_pa=plan.gauge_error,
        gauge_node=assembly.gauge_node,
        parts=[
            PartOut(
                name=p.name,
                label=p.label,
                kind=p.kind,
                side=p.side,
                core=p.name in cores,
                conductance_m3_s=p.conductance,
                share=p.share,
            )
            for p in plan.steady.parts
        ],
        times=floats(plan.times),
        gauge_low=floats(plan.gauge_band[0]),
        gauge_mid=floats(plan.gauge_band[1]),
        gauge_high=floats(plan.gauge_band[2]),
        system_mid=floats(plan.system_band[1]),
        moments=_moments(plan),
        isolate_valves=list(shut.valves),
        isolate_where=shut.where,
        isolate_inside=shut.inside,
        gauge_inside=shut.gauge_inside,
        valves={v.name: v.label for v in assembly.valves.values()},
        shut=_shut(assembly),
        left_out=[assembly.system.labels[s] for s in plan.left_out],
        questions=answers(job, assembly, shut),
        findings=[finding_out(f) for f in findings_of(job, plan)],
        gauges=[_gauge_plan(job, g, plan) for g in job.rig.gauges],
        inside_pa=plan.inside,
        deciding=message(f"unknown-{plan.deciding}") if plan.deciding else None,
        measure=message(f"unknown-{plan.deciding}.measure") if plan.deciding else None,
        whole=whole,
        cord=check_of(job.rig.cord, job.rig.pump),
        slots=_slots(job),
        drawing=draw(job, assembly),
        run_drawing=draw(job, assembly, whole=False),
    )
