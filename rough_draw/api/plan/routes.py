"""What is computed ahead: the system from its scope, the plan from the rig, and what forms choose from."""

from __future__ import annotations

from fastapi import APIRouter

from rough_draw import __version__
from rough_draw.api import runs
from rough_draw.api.deps import Key, range_out
from rough_draw.api.plan.conversion import plan_out, system_out
from rough_draw.api.plan.schemas import (
    ChangesOut,
    ChecksOut,
    Choice,
    PlanOut,
    StepOut,
    SystemOut,
    UnknownOut,
    UpgradeOut,
)
from rough_draw.api.settings.schemas import CatalogueOut, HabitOut, KitOut
from rough_draw.core.advice.cord import WIRES
from rough_draw.core.catalogue import rig_parts
from rough_draw.core.catalogue.fluids import OILS, REFRIGERANTS
from rough_draw.core.catalogue.systems import LINKS
from rough_draw.core.catalogue.tube import SIZES
from rough_draw.core.interlock.goals import GoalKey
from rough_draw.core.interlock.orders import Step, order
from rough_draw.core.interlock.release import release_steps
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.habits import QUESTIONS
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.store import jobs, shelf
from rough_draw.text import say, say_all

router = APIRouter(tags=["plan"])

CONDITIONS = (
    Choice(value="new-dry", label="New and dry", note="kept capped, brazed under nitrogen"),
    Choice(value="open-hours", label="Open for hours", note="opened for a repair"),
    Choice(value="leak-drawn-air", label="Drew air through a leak", note="ran in vacuum"),
    Choice(value="compressor-burnt", label="Compressor burnt", note="acid and water"),
    Choice(value="flooded", label="Water got in", note="a burst coil or pipe"),
)
SECTION_KINDS = (
    Choice(value="line", label="Line", note="size and length"),
    Choice(value="evaporator", label="Evaporator", note="by capacity"),
    Choice(value="condenser", label="Condenser", note="by capacity"),
    Choice(value="reheat", label="Reheat coil", note="by capacity"),
    Choice(value="compressor", label="Compressor", note="by capacity; holds the oil"),
    Choice(value="vessel", label="Vessel", note="receiver, accumulator, header"),
    Choice(value="drier", label="Filter-drier"),
    Choice(value="cylinder", label="Cylinder", note="by volume"),
)


@router.get("/health")
def health() -> dict[str, str]:
    """Whether the server answers."""
    return {"status": "ok", "version": __version__}


@router.get("/catalogue")
def catalogue() -> CatalogueOut:
    """Everything a form offers to choose from."""
    joint = Choice(value="joint", label="joint", note="always open")
    links = [Choice(value=k, label=k.replace("-", " "), note=c.opened) for k, c in LINKS.items()]
    return CatalogueOut(
        templates=[Choice(value=t.key, label=t.name, note=t.words) for t in TEMPLATES.values()],
        section_kinds=list(SECTION_KINDS),
        link_kinds=[joint, *links],
        port_sizes=list(rig_parts.PORT_BORE),
        tube_sizes=list(SIZES),
        refrigerants=[Choice(value=r.name, label=r.name, note=r.safety) for r in REFRIGERANTS.values()],
        oils=[Choice(value=o.name, label=o.name, note="hygroscopic" if o.hygroscopic else "") for o in OILS.values()],
        conditions=list(CONDITIONS),
        hose_sizes=list(rig_parts.HOSE_SIZES),
        tool_bores=list(rig_parts.TOOL_BORE),
        manifolds=list(rig_parts.MANIFOLD_BORE),
        gauges=[Choice(value=g.name, label=g.name, note=g.words) for g in rig_parts.GAUGES.values()],
        pumps_cfm=list(rig_parts.PUMPS_CFM),
        wires=list(WIRES),
        schools=[Choice(value=c.key, label=c.name, note=c.rule()) for c in criteria.SCHOOLS.values()],
        habits=[
            HabitOut(
                field=q.field,
                words=q.words,
                options=[Choice(value=o.value, label=o.label, note=o.why) for o in q.options],
            )
            for q in QUESTIONS
        ],
        kit=[KitOut(id=k.id, kind=k.kind, name=k.name, values=k.values) for k in shelf.kit()],
        micron_pa=MICRON_PA,
        version=__version__,
    )


def step_out(s: Step) -> StepOut:
    """A step for the wire."""
    note = say(s.why) if s.why is not None else ""
    return StepOut(value=s.key, label=say(s.title), note=note, care=say_all(c.whole for c in s.care))


@router.get("/jobs/{key}/checks")
def checks(key: Key) -> ChecksOut:
    """The steps of Release that apply to this job, in their order."""
    job = jobs.get(key).job
    return ChecksOut(
        steps=[step_out(s) for s in release_steps(job)],
    )


@router.get("/jobs/{key}/orders/{goal}")
def derived_order(key: Key, goal: GoalKey) -> list[StepOut]:
    """The order of touches to a goal, derived for the rig; one step says what is missing where there is none."""
    return [step_out(s) for s in order(jobs.get(key).job, goal)]


@router.get("/jobs/{key}/system")
def system(key: Key) -> SystemOut:
    """Volumes, water, criterion, cautions and charge that follow from the scope."""
    return system_out(jobs.get(key).job)


@router.get("/jobs/{key}/plan")
def plan(key: Key) -> PlanOut:
    """The predicted draw of a stored sheet."""
    return plan_out(jobs.get(key).job)


@router.post("/plan")
def plan_sheet(job: Job) -> PlanOut:
    """The predicted draw of a sheet that is not stored."""
    return plan_out(job)


@router.get("/jobs/{key}/changes")
def changes(key: Key) -> ChangesOut:
    """Every single change to the rig ranked by the time it saves, and which unknown moves the time most."""
    job = jobs.get(key).job
    return ChangesOut(
        upgrades=[
            UpgradeOut(
                key=u.change.key,
                change=u.change.words,
                source=u.change.source,
                seconds_saved=range_out(u.seconds_saved),
                time_to_target_s=u.time_to_target,
            )
            for u in runs.upgrades_for(job)
        ],
        unknowns=[
            UnknownOut(unknown=i.unknown, low_s=i.low, high_s=i.high, measure=i.measure) for i in runs.unknowns_for(job)
        ],
    )
