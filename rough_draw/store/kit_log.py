"""Events of the kit: one of each kind for each job; a later one of the same job takes its place."""

from __future__ import annotations

import time
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, get_args

from rough_draw.core.message import Name, all_of, pack
from rough_draw.core.proving.assessment import prove
from rough_draw.core.proving.pump_oil import OilRule
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit_history import EventKind, KitEvent
from rough_draw.store import models
from rough_draw.store.jobs import writing
from rough_draw.store.stored import VALUES
from rough_draw.text import kept

TELLS: dict[EventKind, str] = {"blank-off": "micron"}
"""The figure without which an event of a kind tells nothing: one that came without it is passed over."""


@dataclass(frozen=True)
class NewEvent:
    """An event to file: the part's number in the kit, its kind, its figures, and the judgement of them."""

    kit: int
    kind: EventKind
    values: dict[str, Any]
    verdict: str = ""
    words: Name = ""


def history(numbers: Iterable[int] | None = None) -> dict[int, list[KitEvent]]:
    """Events of these parts (of all, if not given), oldest first."""
    query = models.KitEventRow.select().order_by(models.KitEventRow.at, models.KitEventRow.id)
    if numbers is not None:
        query = query.where(models.KitEventRow.kit.in_(list(numbers)))
    found: dict[int, list[KitEvent]] = {}
    for r in query:
        values = VALUES.read(r.document)
        if r.kind not in get_args(EventKind):
            # Of a later version.
            continue
        if r.kind in TELLS and not isinstance(values.get(TELLS[r.kind]), int | float):
            continue
        event = KitEvent(kind=r.kind, at=r.at, job=r.job, values=values, verdict=r.verdict, words=kept(r.words))
        found.setdefault(r.kit, []).append(event)
    return found


def file(job: str, events: Iterable[NewEvent], at: float | None = None) -> None:
    """Keep events of a job; one whose figures have not changed keeps its time."""
    now = at if at is not None else time.time()
    row = models.KitEventRow
    with writing():
        for e in events:
            document = VALUES.write(e.values)
            old = row.get_or_none(row.kit == e.kit, row.kind == e.kind, row.job == job)
            if old is None:
                row.create(
                    kit=e.kit, kind=e.kind, job=job, at=now, document=document, verdict=e.verdict, words=pack(e.words)
                )
            elif VALUES.read(old.document) != VALUES.read(document) or old.verdict != e.verdict:
                old.document, old.verdict, old.words, old.at = document, e.verdict, pack(e.words), now
                old.save()


def of_job(job: Job) -> list[int]:
    """Numbers in the kit of the parts of a rig."""
    return [p.kit for p in job.rig.parts if p.kit is not None]


def file_proof(key: str, job: Job, rule: OilRule, at: float | None = None) -> None:
    """File what a sheet has proved with the parts of its rig that are in the kit."""
    numbers = of_job(job)
    if not numbers:
        return
    found = prove(job, rule, history(numbers))
    pump, gauge = job.rig.pump, job.rig.gauge
    events: list[NewEvent] = []
    seen = job.prove.stages.get("pump")
    micron = seen.settled_micron if seen is not None else None
    if pump.kit is not None and micron is not None and found.blank_off.verdict != "open":
        blank = found.blank_off
        events.append(NewEvent(pump.kit, "blank-off", {"micron": micron, "oil": pump.oil}, blank.verdict, blank.words))
    if pump.kit is not None and job.prove.oil_changed:
        events.append(NewEvent(pump.kit, "oil-change", {}, "good", found.oil.words))
    for stage, answer in found.stages[1:]:
        part = job.rig.get(stage.key)
        if part is not None and part.kit is not None and answer.verdict != "open":
            own = answer.own.value if answer.own is not None else None
            values = {"settled_micron": job.prove.stages[stage.key].settled_micron, "inflow_pa_m3_s": own}
            events.append(NewEvent(part.kit, "rig-proof", values, answer.verdict, all_of(answer.words) or ""))
    if gauge is not None and gauge.kit is not None and found.gauge.verdict != "open":
        values = job.prove.gauge.model_dump(exclude_none=True)
        events.append(NewEvent(gauge.kit, "gauge-check", values, found.gauge.verdict, all_of(found.gauge.words) or ""))
    file(key, events, at)


def file_run(key: str, job: Job, hours: float, at: float) -> None:
    """File the hours that a job's pump has run."""
    if job.rig.pump.kit is not None and hours > 0:
        file(key, [NewEvent(job.rig.pump.kit, "run", {"hours": round(hours, 3)})], at)


def retired() -> set[int]:
    """Numbers of parts taken out of use."""
    rows = models.KitEventRow.select(models.KitEventRow.kit).where(models.KitEventRow.kind == "retired")
    return {int(r.kit) for r in rows}
