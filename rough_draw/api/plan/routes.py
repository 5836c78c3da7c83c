"""What is computed ahead: the system from its scope, the plan from the rig, and what forms choose from."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, get_args

from fastapi import APIRouter, Query, Request

from rough_draw import __version__
from rough_draw.api import runs
from rough_draw.api.deps import Key, range_out
from rough_draw.api.plan.conversion import plan_out, saves_of, system_out
from rough_draw.api.plan.schemas import (
    ChangesOut,
    ChecksOut,
    Choice,
    PlanOut,
    ShareOut,
    StepOut,
    SystemOut,
    UnknownOut,
    UpgradeOut,
)
from rough_draw.api.preparing import HealthOut
from rough_draw.api.settings.schemas import CatalogueOut, HabitOut, KitOut
from rough_draw.core.advice.cord import WIRES
from rough_draw.core.catalogue import rig_parts
from rough_draw.core.catalogue.fluids import OILS, REFRIGERANTS
from rough_draw.core.catalogue.systems import LINKS
from rough_draw.core.catalogue.tube import SIZES
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.orders import Step, full_order, order
from rough_draw.core.interlock.release import done_steps, release_goal
from rough_draw.core.message import message
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.habits import QUESTIONS
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Condition, SectionKind
from rough_draw.core.sheet.steps import OnPart, OnRun, read_step
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.store import jobs, shelf

router = APIRouter(tags=["plan"])

CONDITIONS: tuple[Condition, ...] = get_args(Condition)
SECTION_KINDS: tuple[SectionKind, ...] = get_args(SectionKind)


def _choices(of: str, values: Iterable[str]) -> list[Choice]:
    """Choices that are named by the messages of one kind: ``of``-value, its note as an attribute."""
    return [Choice(value=v, label=message(f"{of}-{v}"), note=message(f"{of}-{v}.about")) for v in values]


@router.get("/health")
async def health(asked: Request) -> HealthOut:
    """Whether the server answers, and what it still prepares."""
    return HealthOut(status="ok", version=__version__, preparing=asked.app.state.preparing.said())


@router.get("/catalogue")
def catalogue() -> CatalogueOut:
    """Everything a form offers to choose from."""
    links = [Choice(value=k, label=message(f"link-{k}"), note=message(f"opened-{k}")) for k in ("joint", *LINKS)]
    return CatalogueOut(
        templates=[Choice(value=t.key, label=t.name, note=t.about) for t in TEMPLATES.values()],
        section_kinds=_choices("section-kind", SECTION_KINDS),
        link_kinds=links,
        port_sizes=list(rig_parts.PORT_BORE),
        tube_sizes=list(SIZES),
        refrigerants=[Choice(value=r.name, label=r.name, note=r.safety) for r in REFRIGERANTS.values()],
        oils=[
            Choice(value=o.name, label=o.name, note=message("oil-hygroscopic") if o.hygroscopic else "")
            for o in OILS.values()
        ],
        conditions=_choices("condition", CONDITIONS),
        hose_sizes=list(rig_parts.HOSE_SIZES),
        tool_bores=list(rig_parts.TOOL_BORE),
        manifolds=list(rig_parts.MANIFOLD_BORE),
        gauges=[
            Choice(value=g, label=message(f"gauge-class-{g}"), note=message(f"gauge-class-{g}.about"))
            for g in rig_parts.GAUGES
        ],
        pumps_cfm=list(rig_parts.PUMPS_CFM),
        wires=list(WIRES),
        schools=[Choice(value=c.key, label=c.name, note=c.about) for c in criteria.STANDARDS.values()],
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
    kind = s.touch.text if s.touch is not None else ""
    logged = isinstance(read_step(kind), OnRun | OnPart)
    return StepOut(
        value=s.key, label=s.title, note=s.why or "", care=[c.whole for c in s.care], kind=kind if logged else ""
    )


@router.get("/jobs/{key}/checks")
def checks(key: Key) -> ChecksOut:
    """The steps of Release that apply to this job, in their order, and how far they are done."""
    run = runs.view(key)
    found = full_order(run.job, release_goal(run.job))
    return ChecksOut(
        steps=[step_out(s) for s in found.steps],
        done=list(done_steps(run.job, run.state)),
        missing=[m.code for m in found.missing],
        lacking=[StepOut(value=f"missing:{m.code}", label=m.words, note=m.why) for m in found.missing],
    )


@router.get("/jobs/{key}/orders/{goal}")
def derived_order(key: Key, goal: GoalKey, on: Annotated[str, Query(max_length=40)] = "") -> list[StepOut]:
    """The order of steps to a goal, derived for the rig, what is missing first. ``on``: the part it is about."""
    return [step_out(s) for s in order(jobs.get(key).job, goal, on)]


@router.get("/jobs/{key}/system")
def system(key: Key) -> SystemOut:
    """Volumes, water, criterion, cautions and charge that follow from the scope."""
    return system_out(jobs.get(key).job)


@router.get("/jobs/{key}/plan")
def plan(key: Key, first: bool = False) -> PlanOut:
    """The predicted draw of a stored sheet. ``first``: by a few draws at once, where the whole is not there yet."""
    return plan_out(jobs.get(key).job, first)


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
            UnknownOut(unknown=i.unknown, name=i.name, low_s=i.low, high_s=i.high, measure=i.measure)
            for i in runs.unknowns_for(job)
        ],
        saves=saves_of(job),
        shares=[
            ShareOut(taker=s.taker, name=s.name, about=s.about, seconds=s.seconds, endless=s.endless)
            for s in runs.shares_for(job)
        ],
    )
