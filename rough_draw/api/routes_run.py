"""The run: readings, touches, where it stands, the verdict, the stand-in, the stream."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator
from dataclasses import replace

import numpy as np
from fastapi import APIRouter, HTTPException, Query, UploadFile
from sse_starlette import EventSourceResponse, ServerSentEvent

from rough_draw.api import holds, runs
from rough_draw.api.cases import sign_of
from rough_draw.api.deps import HubDep, Key, maybe
from rough_draw.api.fits import CONTRADICTS, fit_out, fitted, outlook_by
from rough_draw.api.hub import ATTACHED, SECOND, Hub, second_name
from rough_draw.api.schemas import (
    Added,
    ColumnOut,
    GaugeOut,
    ImportOut,
    LiveOut,
    NextOut,
    RangeOut,
    ReadingsIn,
    SeriesOut,
    StandinIn,
)
from rough_draw.core import criteria, readings_csv
from rough_draw.core.decimate import decimate
from rough_draw.core.drawing import gauge_place
from rough_draw.core.live import standing
from rough_draw.core.livefit import goal_of
from rough_draw.core.procedure import CHECK_AT, FLUSH_AT, Outlook, ballast_at, next_touches
from rough_draw.core.series import find_hold, noted_isolation, time_at_level
from rough_draw.core.system import atmosphere_of
from rough_draw.standins.gauge_server import SPEEDS
from rough_draw.store import jobs

router = APIRouter(tags=["run"])

MOST_POINTS = 3000


def live_of(key: str, run: runs.RunView, hub: Hub) -> LiveOut:
    """Where a run stands now, from what is stored and the plan."""
    job, state = run.job, run.state
    criterion = criteria.chosen(job.criterion)
    clock = hub.clock(key)
    now = clock if clock is not None else time.time()
    link = hub.links.get(key)
    main = run.main()
    pa, over, reading_at = None, False, None
    if main is not None and main.at.size:
        reading_at = float(main.at[-1])
        last = float(main.pa[-1])
        over = bool(np.isnan(last))
        pa = None if over else last
    started = state.started_at
    if started is None and main is not None and main.at.size:
        started = float(main.at[0])
    gauge = job.rig.gauge
    plan = runs.plan_for(job)
    shut = runs.isolation_for(job)
    elapsed = max(0.0, now - started) if started is not None else 0.0
    times, values = np.array([]), np.array([])
    if main is not None:
        good = np.isfinite(main.pa) & (main.at >= now - 900)
        times, values = main.at[good], main.pa[good]
    stand = standing(plan, elapsed, times, values)
    begun = holds.hold_start(run)
    phase = "hold" if begun is not None else ("draw" if started is not None else "before")
    here = stand.plan_time if stand.plan_time is not None else elapsed

    def ahead(level: float) -> float | None:
        at = time_at_level(plan.times, plan.gauge_band[1], level)
        return max(0.0, at - here) if at is not None else None

    outlook = Outlook(
        ahead(ballast_at(job) or 0.0),
        ahead(FLUSH_AT * criterion.target),
        stand.to_target.value if stand.to_target else None,
        ahead(criterion.check or CHECK_AT),
    )
    view_state = state if begun is None else replace(state, isolated_at=begun)
    touches = next_touches(job, view_state, criterion, pa, over, outlook, now, shut.where)
    target_at = None
    if stand.to_target is not None and phase != "hold":
        r = stand.to_target
        target_at = RangeOut(low=now + r.low, value=now + r.value, high=now + r.high)
    answer = fitted(key, run) if phase == "draw" else None
    if answer is not None:
        # What contradicts the plan has no honest time to the target: why comes first.
        r = answer.target_at if answer.off <= CONTRADICTS else None
        target_at = RangeOut(low=started + r.low, value=started + r.value, high=started + r.high) if r else None
        if r is not None:
            outlook = outlook_by(answer, now - started, ballast_at(job) or 0.0, criterion)
            touches = next_touches(job, view_state, criterion, pa, over, outlook, now, shut.where)
    goal, _ = goal_of(job, run.touches, state.started_at or 0.0)
    words = stand.words if phase == "draw" else ""
    if state.broken_at is not None:
        words = "nitrogen in the system"
    elif criterion.breaks and phase == "draw":
        words = f"draw {state.breaks + 1} of {len(criterion.breaks) + 1}"
    sections = {}
    if phase == "draw" and stand.plan_time is not None:
        nominal = plan.nominal
        scale = pa / max(float(nominal.at(plan.assembly.gauge_node, [stand.plan_time])[0]), 1e-3) if pa else 1.0
        for node in nominal.network.nodes:
            value = float(nominal.at(node.name, [stand.plan_time])[0]) * scale
            sections[node.name.removeprefix("system.")] = float(f"{value:.4g}")
    return LiveOut(
        now=now,
        started_at=started,
        phase=phase,
        pump_on=state.pump_on,
        ballast_open=state.ballast_open,
        isolated_at=begun,
        breaks=state.breaks,
        broken=state.broken_at is not None,
        goal_pa=goal,
        pa=pa,
        over_range=over,
        reading_at=reading_at,
        gauge=main.gauge if main else (gauge.name if gauge and gauge.name else "no gauge yet"),
        gauge_place=gauge_place(job, gauge).capitalize() if gauge else "Dial only",
        rate_micron_s=stand.rate,
        words=words,
        target_at=target_at,
        fit=fit_out(answer, started) if answer is not None and started is not None else None,
        sign=found.words if (found := sign_of(run)) is not None else None,
        battery_pct=link.battery if link is not None else None,
        target_pa=criterion.target,
        limit_pa=criterion.limit,
        hold_ends_at=begun + criterion.minutes * 60.0 if begun is not None else None,
        next=[
            NextOut(
                kind=t.kind,
                title=t.title,
                why=t.why,
                caution=t.caution,
                first=t.first,
                due_at=None if t.due is None else now + t.due,
            )
            for t in touches
        ],
        section_pa=sections,
        shut=sorted(state.shut),
        opened=sorted(state.opened),
        standin=link is not None,
        second=second_name(key) in hub.links,
        gauges=_gauges(run, main),
        speed=hub.speed(key),
        stale=link.stale if link is not None else False,
    )


def _gauges(run: runs.RunView, main: jobs.Readings | None) -> list[GaugeOut]:
    """The last figure of every gauge but the one that is judged by."""
    found = []
    for s in run.series:
        if s is not main and s.at.size:
            last = float(s.pa[-1])
            found.append(GaugeOut(gauge=s.gauge, at=float(s.at[-1]), pa=None if np.isnan(last) else last))
    return found


@router.get("/jobs/{key}/live")
def live(key: Key, hub: HubDep) -> LiveOut:
    """Where the run stands now: figure, rate, next touch, when the target comes."""
    return live_of(key, runs.view(key), hub)


@router.get("/jobs/{key}/readings")
def read_readings(
    key: Key, since: float = Query(-1.0, ge=-1, le=4e9), until: float = Query(5e9, ge=0, le=5e9)
) -> list[SeriesOut]:
    """Readings by gauge, after ``since`` and up to ``until``; long runs are thinned, extremes of every piece kept."""
    jobs.get(key)
    found = []
    for s in jobs.readings(key, since):
        end = int(np.searchsorted(s.at, until, side="right"))
        at, pa = decimate(s.at[:end], s.pa[:end], MOST_POINTS)
        found.append(
            SeriesOut(
                gauge=s.gauge,
                at=[round(float(x), 3) for x in at],
                pa=maybe(pa),
                total=end,
                thinned=at.size < end,
            )
        )
    return found


@router.post("/jobs/{key}/readings", status_code=201)
def add_readings(key: Key, body: ReadingsIn) -> Added:
    """Add typed readings. Once this has answered they are on disk; sent again, they are not stored twice."""
    rows = [jobs.NewReading(body.gauge, r.at, r.pa, r.key) for r in body.readings]
    added = jobs.add_readings(key, rows, "typed")
    return Added(added=added)


@router.post("/jobs/{key}/import")
def import_readings(key: Key, file: UploadFile, commit: bool = False) -> ImportOut:
    """Read a table of readings. Without ``commit`` it only says what it would bring; faults bring nothing."""
    job = jobs.get(key).job
    data = file.file.read(readings_csv.MOST_BYTES + 1)
    found = readings_csv.read_table(data, atmosphere=atmosphere_of(job.scope))
    main = found.main()
    hold = find_hold(main)
    if commit:
        touches = jobs.touches(key)
        start = max([time.time() - float(main.time[-1]), *(t.at + 1.0 for t in touches)])
        with jobs.writing():
            for n, s in enumerate(found.series):
                label = (s.label or f"gauge {n + 1}")[:60]
                rows = [
                    jobs.NewReading(label, start + float(t), None if np.isnan(p) else float(p))
                    for t, p in zip(s.time, s.pressure, strict=True)
                ]
                jobs.add_readings(key, rows, "import")
            for t, text in main.notes:
                jobs.add_touch(key, "note", start + t, text[:500])
            noted = noted_isolation(main)
            if noted is not None:
                jobs.add_touch(key, "isolate", start + noted, "noted in the imported readings")
    return ImportOut(
        committed=commit,
        rows=found.rows,
        over_range=found.over,
        span_s=float(main.time[-1]),
        time_kind=found.mapping.time_kind,
        columns=[
            ColumnOut(label=s.label, unit=c.unit) for s, c in zip(found.series, found.mapping.pressures, strict=True)
        ],
        guesses=list(found.guesses),
        preview=[list(r) for r in found.preview],
        hold_from_s=hold,
    )


@router.post("/jobs/{key}/standin")
async def attach(key: Key, body: StandinIn, hub: HubDep) -> LiveOut:
    """Attach the simulated gauge to this job, or change its pace."""
    if body.speed not in SPEEDS:
        raise HTTPException(422, f"speed {body.speed} is not offered; use 1, 10 or 60")
    run = await asyncio.to_thread(_view, key)
    if body.port is not None:
        await hub.detach(key)
        hub.attach_outside(key, body.port, body.opens)
        return await asyncio.to_thread(_live, key, hub)
    last = max((float(s.at[-1]) for s in run.series if s.at.size), default=None)
    if key not in hub.links and run.series and not any(t.kind == ATTACHED for t in run.touches):
        raise HTTPException(409, "this job has readings of its own; open a new job to use the simulated gauge")
    fresh = not any(t.kind == ATTACHED for t in run.touches)
    truth = await hub.attach(key, run.job, run.touches, last, body.speed)
    if body.second and not any(t.kind == SECOND for t in run.touches):
        await asyncio.to_thread(jobs.add_touch, key, SECOND, hub.server.worlds[key].now())
        hub.attach_second(key)
    if fresh:
        start = hub.server.worlds[key].start_at

        def write() -> None:
            jobs.add_touch(key, ATTACHED, start, json.dumps(truth.as_dict()))

        await asyncio.to_thread(write)
    return await asyncio.to_thread(_live, key, hub)


@router.delete("/jobs/{key}/standin")
async def detach(key: Key, hub: HubDep) -> LiveOut:
    """Take the simulated gauge off."""
    await hub.detach(key)
    return await asyncio.to_thread(_live, key, hub)


def _view(key: str) -> runs.RunView:
    return runs.view(key)


def _live(key: str, hub: Hub) -> LiveOut:
    return live_of(key, runs.view(key), hub)


@router.get("/jobs/{key}/stream", response_class=EventSourceResponse)
async def stream(key: Key, hub: HubDep) -> EventSourceResponse:
    """Server-sent events: readings and touches of a job as they are stored."""

    async def events() -> AsyncIterator[ServerSentEvent]:
        yield ServerSentEvent(data=json.dumps({"kind": "hello"}))
        async for message in hub.listeners.listen(key):
            yield ServerSentEvent(data=json.dumps(message))

    return EventSourceResponse(events(), ping=15)
