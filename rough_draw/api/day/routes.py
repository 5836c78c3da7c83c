"""The day: when a hand is needed on each job, what clashes, a proposal of starts, and the calendar file."""

from __future__ import annotations

import time
from dataclasses import replace

from fastapi import APIRouter, Query, Response

from rough_draw.api import runs
from rough_draw.api.deps import HubDep, Key
from rough_draw.api.devices.hub import Hub
from rough_draw.api.each_job import each_job
from rough_draw.api.run.fits import fitted
from rough_draw.api.schemas import RangeOut
from rough_draw.api.settings.schemas import ComingOut, DayFit, DayJob, DayOut, DayTouchOut
from rough_draw.core.message import Name, message
from rough_draw.core.planning.pump_use import mark_of, name_of
from rough_draw.core.planning.schedule import Planned, conflicts, fit, touches, underway
from rough_draw.store import calendar, jobs, shelf
from rough_draw.text import say

router = APIRouter(tags=["day"])

MOST_AHEAD = 8
_DONE = {"check-end": "check-hold"}
Start = Query(None, ge=0, le=4e9, description="when the pump starts, epoch s; the planned start, or now, if left out")


def _planned(stored: jobs.StoredJob, start: float | None = None) -> Planned:
    job = stored.job
    name = mark_of(job.rig.pump)
    title = " · ".join(x for x in (job.party.customer, job.party.unit) if x) or job.title or say(message("job-unnamed"))
    at = start if start is not None else job.plans.start_at
    return Planned(stored.key, title, name, at, touches(job, runs.plan_for(job)))


def _out(p: Planned, unit: str, fault: Name = "", running: bool = False) -> DayJob:
    start = p.start
    found = []
    for t in p.touches if start is not None else ():
        at = RangeOut(low=start + t.at.low, value=start + t.at.value, high=start + t.at.high)
        found.append(DayTouchOut(kind=t.kind, title=t.title, at=at, hands_s=t.hands))
    return DayJob(
        key=p.key,
        title=p.title,
        unit=unit,
        pump=name_of(p.pump) if p.pump else "",
        start_at=start,
        touches=found,
        fault=fault,
        running=running,
    )


def _running(stored: jobs.StoredJob, hub: Hub) -> Planned | None:
    """A job that draws now, its touches by its readings; None where it is isolated or its pump stands."""
    run = runs.view_of(stored)
    state = run.state
    if state.started_at is None or not state.pump_on or state.isolated_at is not None:
        return None
    now = (hub.clock(stored.key) or time.time()) - state.started_at
    answer = fitted(stored.key, run, watched=False)
    done = frozenset(_DONE.get(t.kind, t.kind) for t in run.made) | {f"break-{n + 1}" for n in range(state.breaks)}
    planned = _planned(stored, state.started_at)
    return replace(planned, touches=underway(planned.touches, done, now, answer.target_at if answer else None))


def _of_day(stored: jobs.StoredJob, hub: Hub) -> tuple[Planned, bool] | None:
    """A job as the day has it, and whether it draws now; None where it is not of the day."""
    if stored.job.closing.signed_by:
        return None
    if any(t.kind == "pump-on" for t in jobs.touches(stored.key)):
        running = _running(stored, hub)
        return (running, True) if running is not None else None
    return _planned(stored), False


def _not_planned(stored: jobs.StoredJob, fault: Name) -> DayJob:
    """A job that cannot be worked out, with why."""
    job = stored.job
    title = job.party.customer or job.title or say(message("job-unnamed"))
    start = job.plans.start_at
    return DayJob(key=stored.key, title=title, unit=job.party.unit, pump="", start_at=start, touches=[], fault=fault)


def _day(hub: Hub) -> tuple[list[DayJob], list[Planned]]:
    rows, planned = [], []
    for given in each_job(lambda s: _of_day(s, hub)):
        if given.fault:
            rows.append(_not_planned(given.stored, given.fault))
        elif given.value is not None:
            p, running = given.value
            planned.append(p)
            rows.append(_out(p, given.stored.job.party.unit, running=running))
    return sorted(rows, key=lambda r: (r.start_at is None, r.start_at or 0.0, r.title)), planned


@router.get("/day")
def day(hub: HubDep) -> DayOut:
    """Jobs that draw or have not begun, with the touches of those that have a start, and what clashes."""
    rows, planned = _day(hub)
    return DayOut(jobs=rows, conflicts=conflicts(planned, shelf.settings().travel_min * 60.0))


def _coming(stored: jobs.StoredJob, hub: Hub) -> list[ComingOut]:
    """The next steps of a job that draws now or has a start."""
    job = stored.job
    if job.closing.signed_by or not runs.plan_ready(job):
        return []
    begun = any(t.kind == "pump-on" for t in jobs.touches(stored.key))
    if not begun and job.plans.start_at is None:
        return []
    p = _running(stored, hub) if begun else _planned(stored)
    if p is None or p.start is None:
        return []
    now = hub.clock(stored.key) or time.time()
    where = job.party.unit or p.title
    return [
        ComingOut(at=p.start + t.at.value, title=t.title, where=where, job=stored.key)
        for t in p.touches
        if p.start + t.at.value > now - 60.0
    ]


@router.get("/ahead")
def ahead(hub: HubDep) -> list[ComingOut]:
    """The next touches over all jobs, by the clock: of those that draw now or have a start. No plan is waited for."""
    found = [t for given in each_job(lambda s: _coming(s, hub)) for t in given.value or []]
    return sorted(found, key=lambda t: t.at)[:MOST_AHEAD]


@router.post("/day/fit")
def fit_day(body: DayFit, hub: HubDep) -> DayOut:
    """Give these jobs starts that fit pumps and one person, and keep them on their sheets."""
    _, planned = _day(hub)
    by_key = {p.key: p for p in planned}
    wanted = set(body.keys)
    pool = [p if p.key not in wanted else Planned(p.key, p.title, p.pump, None, p.touches) for p in by_key.values()]
    order = {k: n for n, k in enumerate(body.keys)}
    pool = [p for p in pool if p.start is not None or p.key in wanted]
    pool.sort(key=lambda p: order.get(p.key, -1))
    for p in fit(pool, body.day_start, shelf.settings().travel_min * 60.0):
        if p.key in wanted:
            stored = jobs.get(p.key)
            plans = stored.job.plans.model_copy(update={"start_at": p.start})
            jobs.save(p.key, stored.version, stored.job.model_copy(update={"plans": plans}))
    return day(hub)


@router.get("/day.ics", response_class=Response)
def day_calendar(hub: HubDep) -> Response:
    """The day as a calendar file."""
    _, planned = _day(hub)
    return _calendar(planned)


@router.get("/jobs/{key}/day")
def job_day(key: Key, start: float | None = Start) -> DayJob:
    """The touches of one job if its pump starts at ``start``."""
    stored = jobs.get(key)
    at = start if start is not None else stored.job.plans.start_at
    return _out(_planned(stored, at if at is not None else time.time()), stored.job.party.unit)


@router.get("/jobs/{key}/day.ics", response_class=Response)
def job_calendar(key: Key, start: float | None = Start) -> Response:
    """The touches of one job as a calendar file."""
    stored = jobs.get(key)
    at = start if start is not None else stored.job.plans.start_at
    return _calendar([_planned(stored, at if at is not None else time.time())])


def _calendar(planned: list[Planned]) -> Response:
    headers = {"Content-Disposition": 'attachment; filename="steps.ics"'}
    return Response(calendar.ics(planned), media_type="text/calendar; charset=utf-8", headers=headers)
