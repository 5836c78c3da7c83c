"""Jobs: the Yard, one sheet, saving and undoing."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request, Response, UploadFile
from pydantic import TypeAdapter

from rough_draw.api import runs
from rough_draw.api.deps import HubDep, Key, job_out
from rough_draw.api.devices.hub import Hub, bench_name
from rough_draw.api.each_job import each_job, title_of
from rough_draw.api.jobs import rows
from rough_draw.api.jobs.schemas import JobIn, NewJobIn, ProposalOut, PumpOut, StageState, UndoIn, YardRow
from rough_draw.api.people.browser import person_here
from rough_draw.api.rig_log import log_rig_change
from rough_draw.api.schemas import JobOut
from rough_draw.api.sharing import Shared
from rough_draw.core.planning import pump_use
from rough_draw.core.planning.new_job import propose
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job
from rough_draw.store import job_files, jobs, kit_log, people, shelf
from rough_draw.store.reading_cache import readings_of
from rough_draw.text import say
from rough_draw.text.reader import reader

router = APIRouter(tags=["jobs"])
ROWS = TypeAdapter(list[YardRow])

SHARED_S = 1.0
"""How old the readings in a row of the Yard may be, s."""


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
    asked = None if only is None else only.split(",")
    marks = jobs.marks()
    read = readings_of([key for key in hub.links if asked is None or key in asked])
    given = each_job(lambda s: rows.row_of(s, hub, marks.get(s.key, (0, 0)), read.get(s.key)), asked)
    found = [g.value if g.value is not None else rows.faulty(g.stored, g.fault) for g in given]
    return ROWS.dump_json(sorted(found, key=lambda r: r.rank))


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
    return rows.states(rows.stages_of(runs.view(key)))


@router.post("/job-files", status_code=201)
def import_job(file: UploadFile, again: bool = False) -> JobOut:
    """Import a job file (JSON, or ZIP with its pictures): a whole job, or a sheet alone; one that is here unchanged
    only ``again``, as a copy.
    """
    document, pictures = job_files.unpacked(file.file.read(job_files.MOST_BYTES + 1))
    return job_out(jobs.get(job_files.load(job_files.parse(document), again, pictures)))
