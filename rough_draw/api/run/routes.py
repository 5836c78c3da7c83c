"""The run: readings, touches, where it stands, the verdict, the stand-in, the stream."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator
from datetime import datetime

import numpy as np
from fastapi import APIRouter, HTTPException, Query, UploadFile
from sse_starlette import EventSourceResponse, ServerSentEvent

from rough_draw.api import runs
from rough_draw.api.deps import HubDep, Key, maybe
from rough_draw.api.devices.hub import ATTACHED, CONNECTED, DETACHED, SECOND, Hub, on_now
from rough_draw.api.diagnosis import cases
from rough_draw.api.errors import refusal
from rough_draw.api.pace import must_be_offered
from rough_draw.api.run.clock import skew_of
from rough_draw.api.run.schemas import (
    Added,
    ColumnOut,
    GaugeIn,
    ImportOut,
    LiveOut,
    ReadingsIn,
    SeriesOut,
    StandinIn,
)
from rough_draw.api.run.standing import live_of
from rough_draw.api.run.table_import import take_table
from rough_draw.api.run.table_start import asked_of, start_of
from rough_draw.core.message import Fault, all_of
from rough_draw.core.model.system import atmosphere_of
from rough_draw.core.physics.dial import read_dial
from rough_draw.core.readings import csv_table
from rough_draw.core.readings.downsampling import decimate
from rough_draw.core.readings.series import hold_begins
from rough_draw.core.readings.time_unit import TimeUnit
from rough_draw.core.sheet.gauge_owner import AT_PUMP, DIAL, owner
from rough_draw.standins.gauge_server import SPEEDS
from rough_draw.store import jobs
from rough_draw.store.reading_cache import spans
from rough_draw.text import told

router = APIRouter(tags=["run"])

MOST_POINTS = 3000
AHEAD_S = 86_400.0
"""How far a logger's clock may be ahead of this one before its times are not believed."""


@router.get("/jobs/{key}/live")
def live(key: Key, hub: HubDep) -> LiveOut:
    """Where the run stands now: figure, rate, next touch, when the target comes."""
    run = runs.view(key)
    found = live_of(key, run, hub)
    if found.sign is not None:
        # Whoever watches a draw that strikes the eye will ask why.
        cases.ahead(key, run)
    return found


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
                part=s.part,
                at=[round(float(x), 3) for x in at],
                pa=maybe(pa),
                total=end,
                thinned=at.size < end,
                simulated=spans(s.at[:end], s.simulated[:end]),
            )
        )
    return found


@router.post("/jobs/{key}/readings", status_code=201)
def add_readings(key: Key, body: ReadingsIn) -> Added:
    """Add typed readings. Once this has answered they are on disk; sent again, they are not stored twice."""
    job = jobs.get(key).job
    rig = job.rig
    known = {AT_PUMP, DIAL, *(g.id for g in rig.gauges)}
    part = body.part if body.part in known else owner(rig, body.gauge)
    part = part or (rig.gauge.id if rig.gauge is not None else None)
    rows = []
    skew = skew_of(body.sent_at)
    for r in body.readings:
        if r.dial is None:
            rows.append(jobs.NewReading(body.gauge, r.at + skew, r.pa, r.key, part))
            continue
        try:
            pa = read_dial(r.dial, atmosphere_of(job.scope)).pa
        except Fault as e:
            raise HTTPException(422, told(e)) from None
        rows.append(jobs.NewReading(body.gauge, r.at + skew, pa, r.key, DIAL))
    added = jobs.add_readings(key, rows, "typed")
    return Added(added=added)


@router.post("/jobs/{key}/import")
def import_readings(
    key: Key,
    file: UploadFile,
    commit: bool = False,
    time_unit: TimeUnit | None = None,
    day_first: bool | None = None,
    began: datetime | None = None,
) -> ImportOut:
    """Read a table of readings. Without ``commit`` it only says what it would bring; faults bring nothing.

    ``time_unit`` and ``day_first`` decide what the table does not say; left undecided it is shown, and not taken.
    ``began``: the day of clock times, or the moment at which elapsed ones begin. Times written with their date stand.
    """
    job = jobs.get(key).job
    data = file.file.read(csv_table.MOST_BYTES + 1)
    air = atmosphere_of(job.scope)
    found = csv_table.read_table(data, atmosphere=air, time_unit=time_unit, day_first=day_first)
    if commit and found.mapping.undecided:
        raise refusal(422, "import-undecided", asked=all_of(found.guesses) or "")
    main = found.main()
    hold = hold_begins(main)
    first = start_of(found.mapping.time_kind, main.start_clock, began)
    start = first.timestamp() if first is not None else None
    if commit and start is None:
        raise refusal(422, "import-when", asks=asked_of(found.mapping.time_kind))
    if start is not None and not 0 < start < time.time() + AHEAD_S:
        raise refusal(422, "import-not-yet", when=jobs.day(start))
    fresh = commit and start is not None and take_table(key, job.rig, found, main, start, data)
    return ImportOut(
        committed=commit,
        already_here=commit and not fresh,
        rows=found.rows,
        over_range=found.over,
        span_s=float(main.time[-1]),
        time_kind=found.mapping.time_kind,
        columns=[
            ColumnOut(label=s.label, unit=c.unit) for s, c in zip(found.series, found.mapping.pressures, strict=True)
        ],
        guesses=list(found.guesses),
        undecided=list(found.mapping.undecided),
        preview=[list(r) for r in found.preview],
        hold_from_s=hold,
        starts_at=start,
        asks=asked_of(found.mapping.time_kind),
    )


@router.post("/jobs/{key}/standin")
async def attach(key: Key, body: StandinIn, hub: HubDep) -> LiveOut:
    """Attach the simulated gauge to this job, or change its pace."""
    must_be_offered(body.speed, SPEEDS)
    if body.port is not None:
        return await connect(key, GaugeIn(port=body.port, opens=body.opens), hub)
    async with hub.lock(key):
        await _attach(key, body, hub)
    return await asyncio.to_thread(_live, key, hub)


async def _attach(key: str, body: StandinIn, hub: Hub) -> None:
    run = await asyncio.to_thread(_view, key)
    last = max((float(s.at[-1]) for s in run.series if s.at.size), default=None)
    if key not in hub.links and run.series and not any(t.kind == ATTACHED for t in run.touches):
        raise refusal(409, "own-readings")
    fresh = on_now(run.touches) != ATTACHED
    truth = await hub.attach(key, run.job, run.touches, last, body.speed)
    if body.second and not any(t.kind == SECOND for t in run.touches):
        await asyncio.to_thread(jobs.add_touch, key, SECOND, hub.server.worlds[key].now())
        hub.attach_second(key)
    if fresh:
        running = hub.server.worlds[key]
        # Put on again after it was taken off: the world's beginning is in the first such step, this one is of now.
        again = any(t.kind == ATTACHED for t in run.touches)
        at = running.now() if again else running.start_at
        await asyncio.to_thread(jobs.add_touch, key, ATTACHED, at, json.dumps(truth.as_dict()))


@router.post("/jobs/{key}/gauge")
async def connect(key: Key, body: GaugeIn, hub: HubDep) -> LiveOut:
    """Read a gauge, or the bridge to one, that speaks the documented protocol; it is read again after a restart."""
    run = await asyncio.to_thread(_view, key)
    note = json.dumps({"host": body.host, "port": body.port, "opens": body.opens})
    async with hub.lock(key):
        await asyncio.to_thread(jobs.add_touch, key, CONNECTED, time.time(), note)
        await hub.detach(key)
        hub.attach_outside(key, body.host, body.port, body.opens, run.job.rig.gauge.id if run.job.rig.gauge else None)
    return await asyncio.to_thread(_live, key, hub)


@router.delete("/jobs/{key}/standin")
async def detach(key: Key, hub: HubDep) -> LiveOut:
    """Take the gauge off, simulated or outside: it stays off after a restart."""
    async with hub.lock(key):
        run = await asyncio.to_thread(_view, key)
        if on_now(run.touches) in (ATTACHED, CONNECTED):
            at = max([hub.clock(key) or time.time(), *(t.at for t in run.touches)])
            await asyncio.to_thread(jobs.add_touch, key, DETACHED, at)
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
        async for heard in hub.listeners.listen([key]):
            yield ServerSentEvent(data=json.dumps(heard))

    return EventSourceResponse(events(), ping=15)
