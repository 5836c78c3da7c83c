"""Jobs: the Yard, one sheet, saving and undoing."""

from __future__ import annotations

from threading import Lock
from typing import Annotated

import numpy as np
from cachetools import LRUCache, TLRUCache, TTLCache, cached
from fastapi import APIRouter, Query, Request, Response, UploadFile
from pydantic import TypeAdapter

from rough_draw.api import runs
from rough_draw.api.deps import HubDep, Key, job_out
from rough_draw.api.devices.hub import Hub, bench_name
from rough_draw.api.each_job import each_job, title_of
from rough_draw.api.hold import holds
from rough_draw.api.jobs.schemas import JobIn, NewJobIn, ProposalOut, PumpOut, StageState, UndoIn, YardRow
from rough_draw.api.people.browser import person_here
from rough_draw.api.rig_log import log_rig_change
from rough_draw.api.run.standing import hand_wanted
from rough_draw.api.schemas import JobOut
from rough_draw.api.sharing import Shared
from rough_draw.core.hold.wording import headline
from rough_draw.core.message import Name, message
from rough_draw.core.planning import pump_use
from rough_draw.core.planning.new_job import propose
from rough_draw.core.proving.stage_progress import STAGES, Stage, current, stages
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import pump_name
from rough_draw.store import job_files, jobs, kit_log, people, shelf
from rough_draw.text import say
from rough_draw.text.reader import reader

router = APIRouter(tags=["jobs"])
ROWS = TypeAdapter(list[YardRow])

SHARED_S = 1.0
"""How old the readings in a row of the Yard may be, s."""
WORKED_S = 3.0
"""How old what is worked out of readings, as what comes next, may be in a row beside the last of them, s."""
QUIET_S = 10.0
"""How old what is worked out beside, a verdict or a plan, may be in a row that nothing is read for, s."""


def _stages(run: runs.RunView) -> list[Stage]:
    needs = criteria.chosen(run.job.criterion).minutes * 60.0
    return stages(run.job, run.state, holds.hold_span(run), needs, any(s.at.size for s in run.series))


def _states(found: list[Stage]) -> list[StageState]:
    return [StageState(key=s.key, done=s.done, missing=s.missing) for s in found]


def _last(job: Job, series: list[jobs.Readings]) -> tuple[float | None, bool]:
    """What the gauge that is read says last, Pa, and whether it is over its range."""
    main = runs.main_of(job, series)
    if main is None or not main.at.size:
        return None, False
    over = bool(np.isnan(main.pa[-1]))
    return (None, True) if over else (float(main.pa[-1]), False)


def _row(stored: jobs.StoredJob, hub: Hub) -> YardRow:
    run = runs.view_of(stored)
    found = _stages(run)
    stage = current(found)
    words: Name = {s.key: s.missing for s in found}[stage]
    ended = found[-1].done
    link = hub.links.get(stored.key)
    is_live = link is not None and not link.stale
    pa, over, next_at = None, False, None
    next_title: Name = ""
    if not ended:
        pa, over = _last(run.job, run.series)
    # Plans and verdicts are shown here once they are there; the Yard does not wait for them.
    if is_live and not ended and runs.plan_ready(run.job):
        next_title, next_at = hand_wanted(stored.key, run, hub) or ("", None)
    if stage in ("release", "record") and (judged := holds.judged_ready(run)) is not None:
        if judged.verdict.verdict != "tight-and-dry" and not run.job.release.steps_done and not ended:
            stage, words = "hold", headline(judged.verdict)
        else:
            words = (
                message("yard-verdict-and", verdict=judged.verdict.sentence, missing=words)
                if words
                else judged.verdict.sentence
            )
    start_at = run.job.plans.start_at if run.state.started_at is None and not ended else None
    if start_at is not None and not next_title:
        next_title, next_at = message("day-start-pump"), start_at
    if ended:
        words = message("yard-signed", by=run.job.closing.signed_by)
    return YardRow(
        key=stored.key,
        title=stored.job.title,
        customer=stored.job.party.customer,
        unit=stored.job.party.unit,
        refrigerant=stored.job.scope.refrigerant,
        stage=stage,
        words=words,
        pa=pa,
        over_range=over,
        live=is_live,
        next_title=next_title,
        next_at=next_at,
        stages=_states(found),
        updated_at=stored.updated_at,
        technician=run.job.party.technician,
        pump=pump_name(run.job.rig.pump),
        start_at=start_at,
        rank=_rank(is_live and next_title != "", next_at, found[-1].done),
    )


def _rank(hand: bool, at: float | None, done: bool) -> float:
    """Where a row stands: a hand needed soonest first, then what is planned, then the rest, and what is done last."""
    return (0.0 if hand else 1e12) + (at if at is not None else 1e11) + (1e10 if done else 0.0)


def _faulty(stored: jobs.StoredJob, fault: Name) -> YardRow:
    """A job that cannot be worked out, with why: its sheet is where that is mended."""
    read = not stored.fault
    return YardRow(
        key=stored.key,
        title=stored.job.title,
        customer=stored.job.party.customer,
        unit=stored.job.party.unit,
        refrigerant=stored.job.scope.refrigerant if read else "",
        stage="scope",
        words=fault,
        pa=None,
        over_range=False,
        live=False,
        next_title="",
        next_at=None,
        stages=[StageState(key=key, done=False, missing=fault if key == "scope" else "") for key in STAGES],
        updated_at=stored.updated_at,
        technician=stored.job.party.technician,
        pump=pump_name(stored.job.rig.pump) if read else "",
        start_at=None,
        rank=_rank(False, None, False),
    )


def _sealed_key(stored: jobs.StoredJob, hub: Hub) -> tuple[object, ...]:
    return stored.key, stored.version, stored.updated_at, stored.sealed_at, reader()


@cached(LRUCache(4096), key=_sealed_key, lock=Lock())
def _sealed_row(stored: jobs.StoredJob, hub: Hub) -> YardRow:
    """Of sealed records, which do not change."""
    return _row(stored, hub)


def _open_key(stored: jobs.StoredJob, hub: Hub) -> tuple[object, ...]:
    link = hub.links.get(stored.key)
    heard = link is not None and not link.stale
    return stored.key, stored.version, stored.updated_at, jobs.touch_count(stored.key), heard, reader()


def _until(key: tuple[object, ...], _: YardRow, now: float) -> float:
    """A row of its own age for every job: else they would all be worked out anew at one moment."""
    return now + WORKED_S * (1.0 + (hash(key[0]) % 16) / 16.0)


@cached(TLRUCache(4096, _until), key=_open_key, lock=Lock())
def _worked_out(stored: jobs.StoredJob, hub: Hub) -> YardRow:
    """Of jobs under way. All tablets are told of new readings at once: the row is worked out for one, and shared."""
    return _row(stored, hub)


def _open_row(stored: jobs.StoredJob, hub: Hub) -> YardRow:
    """Of jobs under way, with their last readings."""
    row = _worked_out(stored, hub)
    if row.stages[-1].done:
        return row
    pa, over = _last(stored.job, jobs.readings(stored.key))
    return row.model_copy(update={"pa": pa, "over_range": over})


def _quiet_key(stored: jobs.StoredJob, hub: Hub) -> tuple[object, ...]:
    return *_open_key(stored, hub), jobs.last_reading(stored.key)


@cached(TTLCache(4096, QUIET_S), key=_quiet_key, lock=Lock())
def _quiet_row(stored: jobs.StoredJob, hub: Hub) -> YardRow:
    """Of jobs that no gauge is heard of: they change by their sheet, a step, or a reading that is typed."""
    return _row(stored, hub)


def _row_once(stored: jobs.StoredJob, hub: Hub) -> YardRow:
    if stored.sealed_at is not None:
        return _sealed_row(stored, hub)
    link = hub.links.get(stored.key)
    return _open_row(stored, hub) if link is not None else _quiet_row(stored, hub)


def _use(stored: jobs.StoredJob) -> pump_use.Use:
    """What a job does with its pump."""
    run = runs.view_of(stored)
    state = run.state
    return pump_use.Use(
        key=stored.key,
        title=say(title_of(stored)),
        pump=pump_use.mark_of(stored.job.rig.pump),
        on=state.pump_on,
        since=state.started_at if state.pump_on else state.pump_off_at,
        start=stored.job.plans.start_at,
        over=bool(stored.job.closing.signed_by),
    )


@router.get("/pumps")
def pumps() -> list[PumpOut]:
    """What each pump is doing."""
    uses = [g.value for g in each_job(_use) if g.value is not None]
    gone = kit_log.retired()
    kit = [k.name for k in shelf.kit() if k.kind == "pump" and k.id not in gone]
    return [
        PumpOut(pump=pump_use.name_of(x.pump), doing=x.doing, job=x.job, title=x.title, at=x.at, also=list(x.also))
        for x in pump_use.lines(kit, uses)
    ]


_shared: Shared[bytes] = Shared(SHARED_S)


def _yard(only: str | None, hub: Hub) -> bytes:
    given = each_job(lambda s: _row_once(s, hub), None if only is None else only.split(","))
    rows = [g.value if g.value is not None else _faulty(g.stored, g.fault) for g in given]
    return ROWS.dump_json(sorted(rows, key=lambda r: r.rank))


@router.get("/jobs", response_model=list[YardRow])
def yard(
    hub: HubDep,
    only: Annotated[str | None, Query(pattern=r"^[a-z0-9-]{1,40}(,[a-z0-9-]{1,40})*$", max_length=20_000)] = None,
) -> Response:
    """All jobs with what they wait for, those with a hand needed soonest first; ``only`` those named that are there."""
    asked = (only, hub, reader())
    body = _shared.of(asked, lambda: (hub.listeners.count, jobs.mark()), lambda: _yard(only, hub))
    return Response(body, media_type="application/json")


@router.post("/jobs", status_code=201)
def create_job(job: Job, request: Request, copy_of: str | None = Query(None, pattern=r"^[a-z0-9-]{1,40}$")) -> JobOut:
    """Open a new sheet; with ``copy_of``, system and rig are taken over from an earlier job."""
    if job.habits == Habits():
        job = job.model_copy(update={"habits": shelf.settings().habits})
    if copy_of is not None:
        old = jobs.get(copy_of).job
        job = job.model_copy(
            update={"scope": old.scope, "rig": old.rig, "criterion": old.criterion, "party": old.party}
        )
    here = {p.id: p for p in people.listing()}.get(person_here(request) or 0)
    if here is not None and not job.party.technician:
        party = job.party.model_copy(update={"technician": here.name, "licence": here.licence})
        job = job.model_copy(update={"party": party})
    return job_out(jobs.create(job))


@router.post("/proposal")
def proposal(body: NewJobIn) -> ProposalOut:
    """A sheet for a new job by a few answers, with setup and standard proposed; nothing is stored."""
    values = shelf.template_scope(body.template, body.own)
    refrigerant = {"refrigerant": body.refrigerant} if body.refrigerant else {}
    found = propose({**values, **refrigerant, "condition": body.condition}, runs.best_for)
    return ProposalOut(**vars(found))


@router.get("/jobs/{key}")
def read_job(key: Key) -> JobOut:
    """One sheet."""
    return job_out(jobs.get(key))


@router.put("/jobs/{key}")
def save_job(key: Key, body: JobIn) -> JobOut:
    """Save a sheet over the version it was read at; 409 if it was changed meanwhile."""
    before = jobs.get(key).job
    stored = jobs.save(key, body.version, body.job)
    if (before.prove, before.rig) != (body.job.prove, body.job.rig):
        kit_log.file_proof(key, body.job, shelf.settings().oil_rule)
    log_rig_change(key, before.rig, body.job.rig)
    return job_out(stored)


@router.post("/jobs/{key}/undo")
def undo_job(key: Key, body: UndoIn | None = None) -> JobOut:
    """Take the last edit back; 409 if it is no longer the one that is meant."""
    before = jobs.kept(key)
    stored = jobs.undo(key, body.version if body is not None else None)
    if not before.fault:
        log_rig_change(key, before.job.rig, stored.job.rig)
    return job_out(stored)


@router.delete("/jobs/{key}", status_code=204)
async def delete_job(key: Key, hub: HubDep) -> Response:
    """Remove a job with its readings."""
    await hub.detach(key)
    await hub.detach(bench_name(key))
    jobs.delete(key)
    return Response(status_code=204)


@router.get("/jobs/{key}/stages")
def read_stages(key: Key) -> list[StageState]:
    """The stage rail: what is done, what is missing."""
    return _states(_stages(runs.view(key)))


@router.post("/job-files", status_code=201)
def import_job(file: UploadFile, again: bool = False) -> JobOut:
    """Import a job file (JSON, or ZIP with its pictures): a whole job, or a sheet alone; one that is here unchanged
    only ``again``, as a copy.
    """
    document, pictures = job_files.unpacked(file.file.read(job_files.MOST_BYTES + 1))
    return job_out(jobs.get(job_files.load(job_files.parse(document), again, pictures)))
