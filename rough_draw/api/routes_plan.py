"""What is computed ahead: the system from its scope, the plan from the rig, and what forms choose from."""

from __future__ import annotations

from fastapi import APIRouter

from rough_draw import __version__
from rough_draw.api import runs
from rough_draw.api.deps import Key, floats, range_out
from rough_draw.api.schemas import (
    CatalogueOut,
    ChargeOut,
    Choice,
    KitOut,
    PartOut,
    PlanOut,
    RangeOut,
    SectionOut,
    SystemOut,
    UpgradeOut,
)
from rough_draw.core import criteria
from rough_draw.core.catalogue import rigparts
from rough_draw.core.catalogue.fluids import OILS, REFRIGERANTS
from rough_draw.core.catalogue.tube import SIZES
from rough_draw.core.charge import cautions, charge_to_weigh
from rough_draw.core.isolation import isolation
from rough_draw.core.job import Job
from rough_draw.core.release import release_steps
from rough_draw.core.stages import gates_for
from rough_draw.core.system import build_system
from rough_draw.core.units import MICRON_PA
from rough_draw.core.water import saturation_pressure
from rough_draw.store import jobs

router = APIRouter(tags=["plan"])

SYSTEMS = (
    Choice(value="remote-condensing-unit", label="Remote condensing unit", note="lines and evaporator"),
    Choice(value="packaged", label="Packaged unit", note="the whole circuit"),
    Choice(value="line-set", label="Bare line set", note="two lines joined at the far end"),
    Choice(value="cylinder", label="Empty cylinder", note="a recovery cylinder before use"),
)
CONDITIONS = (
    Choice(value="new-dry", label="New and dry", note="kept capped, brazed under nitrogen"),
    Choice(value="open-hours", label="Open for hours", note="opened for a repair"),
    Choice(value="leak-drawn-air", label="Drew air through a leak", note="ran in vacuum"),
    Choice(value="compressor-burnt", label="Compressor burnt", note="acid and water"),
    Choice(value="flooded", label="Water got in", note="a burst coil or pipe"),
)


@router.get("/health")
def health() -> dict[str, str]:
    """Whether the server answers."""
    return {"status": "ok", "version": __version__}


@router.get("/catalogue")
def catalogue() -> CatalogueOut:
    """Everything a form offers to choose from."""
    kit = [KitOut.model_validate(k) for k in jobs.kit()]
    return CatalogueOut(
        systems=list(SYSTEMS),
        tube_sizes=list(SIZES),
        refrigerants=[Choice(value=r.name, label=r.name, note=r.safety) for r in REFRIGERANTS.values()],
        oils=[Choice(value=o.name, label=o.name, note="hygroscopic" if o.hygroscopic else "") for o in OILS.values()],
        conditions=list(CONDITIONS),
        hose_sizes=list(rigparts.HOSE_SIZES),
        pumps_cfm=list(rigparts.PUMPS_CFM),
        schools=[Choice(value=c.key, label=c.name, note=c.rule()) for c in criteria.SCHOOLS.values()],
        kit=kit,
        micron_pa=MICRON_PA,
        version=__version__,
    )


@router.get("/jobs/{key}/checks")
def checks(key: Key) -> dict[str, list[Choice]]:
    """The gates of Prove and the steps of Release that apply to this job, in their order."""
    job = jobs.get(key).job
    return {
        "gates": [Choice(value=g.key, label=g.title, note=g.why) for g in gates_for(job)],
        "steps": [Choice(value=s.key, label=s.title, note=s.why) for s in release_steps(job)],
    }


@router.get("/jobs/{key}/system")
def system(key: Key) -> SystemOut:
    """Volumes, water, criterion, cautions and charge that follow from the scope."""
    job = jobs.get(key).job
    model = build_system(job.scope)
    charge = charge_to_weigh(job.scope)
    school, reason = criteria.default_school(job.scope)
    return SystemOut(
        sections=[SectionOut(name=s.name, label=s.label, volume_m3=range_out(s.volume)) for s in model.sections],
        volume_m3=range_out(model.volume()),
        water_kg=range_out(model.water_total()),
        water_place=model.water.place,
        atmosphere_pa=model.atmosphere,
        water_boils_pa=saturation_pressure(model.coldest),
        default_school=school,
        default_reason=reason,
        cautions=cautions(job.scope),
        charge=ChargeOut(kg=charge.to_weigh, words=charge.words) if charge else None,
        has_liquid_port="liquid" in model.ports,
    )


def plan_out(job: Job) -> PlanOut:
    """The plan of a sheet as the API says it."""
    plan = runs.plan_for(job)
    shut = isolation(job, plan.assembly)
    span = plan.time_to_target
    return PlanOut(
        target_pa=plan.target,
        time_to_target_s=RangeOut(low=span.low, value=span.value, high=span.high) if span else None,
        share_reaching=plan.share_reaching,
        limit=plan.limit,
        speed_at_target_m3_s=plan.steady.speed,
        pump_share=plan.steady.pump_share,
        gauge_error_pa=plan.gauge_error,
        parts=[
            PartOut(name=p.name, label=p.label, kind=p.kind, side=p.side, conductance_m3_s=p.conductance, share=p.share)
            for p in plan.steady.parts
        ],
        upgrades=[
            UpgradeOut(
                key=u.change.key,
                change=u.change.words,
                seconds_saved=u.seconds_saved,
                time_to_target_s=u.time_to_target,
                job=u.change.job,
            )
            for u in plan.upgrades
        ],
        times=floats(plan.times),
        gauge_low=floats(plan.gauge_band[0]),
        gauge_mid=floats(plan.gauge_band[1]),
        gauge_high=floats(plan.gauge_band[2]),
        system_mid=floats(plan.system_band[1]),
        isolate_where=shut.where,
        isolate_inside=shut.inside,
        gauge_inside=shut.gauge_inside,
    )


@router.get("/jobs/{key}/plan")
def plan(key: Key) -> PlanOut:
    """The predicted draw of a stored sheet."""
    return plan_out(jobs.get(key).job)


@router.post("/plan")
def plan_sheet(job: Job) -> PlanOut:
    """The predicted draw of a sheet that is not stored."""
    return plan_out(job)
