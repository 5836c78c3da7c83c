"""Practice: scenarios, sessions, debriefs, and a trainer's own scenarios."""

from __future__ import annotations

import math
from typing import Annotated

import numpy as np
from fastapi import APIRouter, HTTPException, Path, Query, Response, UploadFile

from rough_draw.api.deps import maybe
from rough_draw.api.errors import refusal
from rough_draw.api.pace import must_be_offered
from rough_draw.api.people.browser import Here
from rough_draw.api.plan.conversion import plan_out
from rough_draw.api.plan.schemas import Choice as Option
from rough_draw.api.plan.schemas import PlanOut
from rough_draw.api.practice import sessions
from rough_draw.api.practice.conversion import card, debrief_out, rigs_out, run_out
from rough_draw.api.practice.learners import class_out, page
from rough_draw.api.practice.sandbox import sandbox
from rough_draw.api.practice.schemas import (
    BeginIn,
    DebriefOut,
    DeedIn,
    FaultOption,
    LearnerOut,
    PaceIn,
    PossibleOut,
    PracticeOut,
    ReplayIn,
    RigsOut,
    RunOut,
    SandboxIn,
    ScenarioCard,
    TrackOut,
)
from rough_draw.core.message import message
from rough_draw.core.practice.composing import check
from rough_draw.core.practice.scenario import AS_FOUND, Scenario, possible
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.setups import PATTERNS, fits
from rough_draw.standins.practice.session_log import CannotDo
from rough_draw.store import practice as store
from rough_draw.store import scenario_files
from rough_draw.text import told

router = APIRouter(tags=["practice"])
RunKey = Annotated[str, Path(pattern=r"^[a-f0-9]{4,40}$")]
ScenarioKey = Annotated[str, Path(pattern=r"^[a-z0-9-]{1,40}$")]


@router.get("/practice")
def read_practice(here: Here) -> PracticeOut:
    """Scenarios, the path, skills so far, sessions: of whoever is at this browser."""
    return page(here)


@router.get("/practice/class")
def read_class() -> list[LearnerOut]:
    """How everybody stands, for who trains them."""
    return class_out()


@router.post("/practice/runs", status_code=201)
def begin(body: BeginIn, here: Here) -> RunOut:
    """Begin a scenario."""
    return run_out(sessions.begin(sessions.scenario(body.scenario), here))


@router.post("/practice/sandboxes", status_code=201)
def begin_sandbox(body: SandboxIn, here: Here) -> RunOut:
    """A job in which what is so is seen, and changed as it goes on. It counts for nothing."""
    return run_out(sessions.begin(sandbox(body), here))


@router.post("/practice/runs/{key}/replays", status_code=201)
def replay(key: RunKey, body: ReplayIn, here: Here) -> RunOut:
    """Go on from before a deed, as if that and what followed had not been done. It counts for nothing."""
    try:
        return run_out(sessions.replay(key, body.before, here))
    except CannotDo as e:
        raise HTTPException(409, told(e)) from None


@router.get("/practice/runs/{key}")
def read_run(key: RunKey) -> RunOut:
    """A session as it stands; its clock goes on while somebody looks."""
    with sessions.held(key) as found:
        found.catch_up()
        return run_out(found)


@router.delete("/practice/runs/{key}", status_code=204)
def remove_run(key: RunKey) -> Response:
    """Take a session away; one of an examination stays, or its job could be taken once more."""
    if store.is_of_exam(key):
        raise refusal(409, "exam-stays")
    sessions.drop(key)
    store.remove(key)
    return Response(status_code=204)


@router.post("/practice/runs/{key}/pace")
def pace(key: RunKey, body: PaceIn) -> RunOut:
    """Another pace."""
    must_be_offered(body.speed, sessions.SPEEDS)
    with sessions.held(key) as found:
        found.catch_up()
        found.speed = 0 if found.bay.ended else body.speed
        return run_out(found)


@router.post("/practice/runs/{key}/deeds", status_code=201)
def do(key: RunKey, body: DeedIn) -> RunOut:
    """Do something: its minutes pass, and it is done."""
    with sessions.held(key) as found:
        try:
            found.do(body.kind, body.choice)
        except CannotDo as e:
            raise HTTPException(409, told(e)) from None
        return run_out(found)


@router.get("/practice/runs/{key}/readings")
def readings(key: RunKey, since: float = Query(-1.0, ge=-1, le=1e6)) -> TrackOut:
    """Readings after a time, thinned where they are many."""
    with sessions.held(key) as found:
        track = found.bay.track
        at = np.array(track.at)
        first = int(np.searchsorted(at, since, side="right"))
        step = max(1, math.ceil((at.size - first) / 2000))
        pick = slice(first, None, step)
        second = [p for p in track.second if p[0] > since][::step]
        return TrackOut(
            at=[float(x) for x in at[pick]],
            pa=maybe(np.array(track.shown[pick])),
            worst_pa=maybe(np.array(track.highest[pick])) if found.bay.scenario.sandbox else [],
            second_at=[t for t, _ in second],
            second_pa=[float(f"{p:.6g}") for _, p in second],
        )


@router.get("/practice/runs/{key}/plan")
def run_plan(key: RunKey) -> PlanOut:
    """The plan of the rig that stands there, on the system as the sheet tells it: for drawing it."""
    with sessions.held(key) as found:
        return plan_out(found.bay.told)


@router.get("/practice/runs/{key}/rigs")
def rigs(key: RunKey) -> RigsOut:
    """Hook-ups that the system allows, and what the van has for them."""
    with sessions.held(key) as found:
        return rigs_out(found.bay.told)


@router.get("/practice/runs/{key}/debrief")
def debrief(key: RunKey) -> DebriefOut:
    """The debrief of a finished session."""
    with sessions.held(key) as found:
        if not found.bay.ended:
            raise refusal(409, "practice-not-over")
    return debrief_out(key, sessions.debrief(key))


@router.get("/practice/scenarios/{key}.json", response_class=Response)
def export(key: ScenarioKey) -> Response:
    """A scenario as JSON, to be shared: what it hides is under a lid."""
    body = scenario_files.dump(sessions.scenario(key))
    headers = {"Content-Disposition": f'attachment; filename="{key}.json"'}
    return Response(body, media_type="application/json", headers=headers)


@router.post("/practice/scenarios", status_code=201)
def compose(body: Scenario) -> ScenarioCard:
    """Keep a scenario of one's own, if it can be played."""
    check(body)
    return card(store.save_own(body), own=True)


@router.post("/practice/scenario-files", status_code=201)
def read_file(file: UploadFile) -> ScenarioCard:
    """Read a scenario that somebody shared."""
    found = scenario_files.load(file.file.read(scenario_files.MOST_BYTES + 1))
    return card(store.save_own(found), own=True)


@router.delete("/practice/scenarios/{key}", status_code=204)
def remove_scenario(key: ScenarioKey) -> Response:
    """Take a scenario of one's own away."""
    store.remove_own(key)
    return Response(status_code=204)


@router.post("/practice/possible")
def what_can_be_hidden(body: Job) -> PossibleOut:
    """What a trainer can hide in a sheet."""
    kept = {s.id for s in body.scope.sections if s.holds_charge}
    return PossibleOut(
        faults=[FaultOption(value=c.key, label=c.words, later=c.later) for c in possible(body)],
        links=[
            Option(value=x.id, label=x.words(), note=f"{x.a} to {x.b}")
            for x in body.scope.links
            if not {x.a, x.b} & kept and x.kind not in ("joint", "capillary", "filter-drier", "check-valve")
        ],
        patterns=[Option(value=p.key, label=p.name) for p in PATTERNS.values() if fits(p.key, body.scope)],
        found=[Option(value=k, label=message(f"found-{k}")) for k in AS_FOUND],
    )
