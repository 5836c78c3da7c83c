"""Demo data: computed readings for the demo's sheets. Made anew only where there is no demo yet."""

from __future__ import annotations

import json
import time
from dataclasses import dataclass

from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.proving.pump_oil import OilRule
from rough_draw.core.sheet.job import Job, Party, Plans
from rough_draw.demo.proof import file_past, proved
from rough_draw.demo.sheets import (
    BRASK,
    bait_store,
    blast_freezer,
    casing_room,
    ice_store,
    larkspur,
    leaking_and_wet,
    shed,
    spawn_room,
)
from rough_draw.scenarios.van import KIT, NUMBER, two_hoses
from rough_draw.standins.scripted_run import play
from rough_draw.standins.world import Truth
from rough_draw.store import jobs, kit_log, sealing, shelf
from rough_draw.store.reading_cache import SIMULATED


@dataclass(frozen=True, kw_only=True)
class DemoJob:
    """A job of the demo: sheet, hidden truth, and how far it has gone."""

    key: str
    job: Job
    truth: Truth | None = None
    hold_min: float | None = None
    stop_at: float | None = None
    ended_min_ago: float = 0.0
    live: bool = False
    signed: bool = False
    below: float = 1.0
    start_in_h: float | None = None
    forgets: bool = False
    before_min: float | None = None


def demo_jobs() -> list[DemoJob]:
    """The jobs of the demo, each in another stage."""
    room3 = proved(larkspur("Cold room 3", condition="open-hours", open_hours=5, humidity_pct=70, free_water_g=6))
    room1 = proved(larkspur("Cold room 1", condition="new-dry"))
    fourth = larkspur("Cold room 4", condition="new-dry")
    room4 = proved(fourth.model_copy(update={"rig": two_hoses(fourth.scope, "Pump 1, 8 CFM")}))
    kiosk = Party(customer="Saltmarsh Ferry Terminal", site="Quay 1", **BRASK)
    return [
        DemoJob(
            key="larkspur-3",
            job=room3,
            truth=Truth(unknowns=Unknowns(water=0.4, pump=0.3, release=0.2), seed=11),
            stop_at=700,
            live=True,
        ),
        DemoJob(
            key="larkspur-4",
            job=room4,
            truth=Truth(unknowns=Unknowns(water=-0.3, pump=0.2), seed=15),
            stop_at=1500,
            live=True,
            forgets=True,
        ),
        DemoJob(
            key="larkspur-1",
            job=room1,
            truth=Truth(unknowns=Unknowns(water=-0.5, extra_leak=1.3e-3), seed=12),
            hold_min=20,
            ended_min_ago=4,
        ),
        DemoJob(
            key="larkspur-2",
            job=proved(leaking_and_wet()),
            truth=Truth(unknowns=Unknowns(water=1.0, oil=-2.0, extra_leak=0.01), seed=21),
            hold_min=30,
            ended_min_ago=12,
        ),
        DemoJob(
            key="hollow-2",
            job=proved(shed()),
            truth=Truth(unknowns=Unknowns(water=0.1, oil=-2.0), seed=13),
            hold_min=30,
            ended_min_ago=35,
            before_min=15,
        ),
        DemoJob(
            key="hollow-7",
            job=proved(casing_room()),
            truth=Truth(unknowns=Unknowns(water=-1.5, oil=-1.5), seed=22, fault="refrigerant", severity=0.5),
            hold_min=45,
            ended_min_ago=20,
        ),
        DemoJob(
            key="saltmarsh-bait",
            job=bait_store(),
            truth=Truth(unknowns=Unknowns(water=-2.0, hose=0.0, oil=-1.0), seed=23),
            hold_min=30,
            ended_min_ago=50,
        ),
        DemoJob(
            key="saltmarsh-ice",
            job=ice_store(),
            truth=Truth(unknowns=Unknowns(water=-2.0), seed=14),
            hold_min=25,
            ended_min_ago=1500,
            signed=True,
            below=0.5,
        ),
        DemoJob(key="hollow-5", job=spawn_room(), start_in_h=1.0),
        DemoJob(key="saltmarsh-fish", job=blast_freezer(), start_in_h=1.5),
        DemoJob(key="saltmarsh-kiosk", job=Job(title="Saltmarsh · Kiosk", party=kiosk)),
    ]


def build() -> None:
    """Write the demo into an empty database."""
    now = time.time()
    with jobs.writing():
        for kind, name, values in KIT:
            shelf.add_kit(kind, name, values)
        file_past(NUMBER, now)
        for d in reversed(demo_jobs()):
            add(d, now)


def add(d: DemoJob, now: float) -> None:
    job = d.job
    told = {"stop_at": d.stop_at, "below": d.below, "forgets": d.forgets, "before_min": d.before_min}
    played = play(job, d.truth, d.hold_min, **told) if d.truth else None  # type: ignore[arg-type]
    end = now - d.ended_min_ago * 60.0
    if d.signed:
        stamp = jobs.day(end + 3000)
        job = job.model_copy(update={"closing": job.closing.model_copy(update={"signed_at": stamp})})
    if d.start_in_h is not None:
        # On the quarter of an hour, as people say it.
        at = (now + d.start_in_h * 3600.0) // 900.0 * 900.0
        job = job.model_copy(update={"plans": Plans(start_at=at)})
    jobs.create(job, d.key, at=end)
    kit_log.file_proof(d.key, job, OilRule(), end - 3600.0)
    if played is None or d.truth is None:
        return
    start = end - played.readings[-1][0]
    if d.live:
        jobs.add_touch(d.key, "gauge-attached", start, json.dumps(d.truth.as_dict()))
    for t in played.touches:
        jobs.add_touch(d.key, t.kind, start + t.at, t.note)
    name, part = (job.rig.gauge.name, job.rig.gauge.id) if job.rig.gauge else ("Dial", None)
    rows = [jobs.NewReading(name, start + t, p, part=part) for t, p in played.readings]
    jobs.add_readings(d.key, rows, SIMULATED if d.live else "gauge")
    if d.signed:
        by = job.closing.signed_by
        sealing.seal(d.key, {"by": by, "acknowledged": list(job.closing.acknowledged)}, None, end + 3060)
