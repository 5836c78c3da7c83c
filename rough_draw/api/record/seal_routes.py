"""Closing a record for good, amending it, and the whole database out and in again."""

from __future__ import annotations

import asyncio
import json
import tempfile
import time
from contextlib import ExitStack
from functools import reduce
from pathlib import Path

from fastapi import APIRouter, Response, UploadFile
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from rough_draw import __version__
from rough_draw.api import runs
from rough_draw.api.access import BACKUP
from rough_draw.api.deps import HubDep, Key
from rough_draw.api.devices.hub import Hub
from rough_draw.api.errors import refusal
from rough_draw.api.hold import holds
from rough_draw.api.record.deviations import deviations_of, sealed_in, sealing_words
from rough_draw.api.record.schemas import (
    AmendIn,
    AmendmentOut,
    DeviationOut,
    RestoredOut,
    SealIn,
    SealOut,
    VisitIn,
    VisitOut,
)
from rough_draw.core.hold.verdict import ALGORITHM
from rough_draw.core.message import Message, message
from rough_draw.core.records.deviation import Deviation, without_reason
from rough_draw.core.records.hash_chain import Entry, closing_of, digest, signers
from rough_draw.store import backup, jobs, sealing
from rough_draw.store.job_files import JobFile
from rough_draw.text import say

router = APIRouter(tags=["record"])


def seal_out(key: str, hub: Hub) -> SealOut:
    """How a record stands with its seal."""
    stored = jobs.get(key)
    run = runs.view_of(stored)
    chain = sealing.chain_of(key)
    closed = closing_of(chain)
    if closed is not None:
        found = [DeviationOut(key=d["key"], words=d["words"], reason=d["reason"]) for d in sealed_in(closed)]
    else:
        found = [DeviationOut(key=d.key, words=d.words, reason="") for d in deviations_of(key, run, hub)]
    faults = sealing.faults(key) if chain else []
    return SealOut(
        sealed_at=stored.sealed_at,
        by=str(closed.body.get("by", "")) if closed is not None else "",
        entries=len(chain),
        hash=chain[-1].hash if chain else "",
        whole=bool(chain) and not faults,
        faults=[f.words for f in faults],
        amendments=[_amendment(e.number, e.at, e.body) for e in chain if e.kind == "amendment"],
        visits=[_visit(e) for e in sealing.visits_of(chain)],
        signers=signers(chain),
        deviations=found,
        what="" if chain else sealing_words(run, len(found)),
    )


def _visit(e: Entry) -> VisitOut:
    kept = {k: v for k, v in e.body.items() if k in VisitOut.model_fields and k != "photos"}
    seen = [str(p["sha256"]) for p in e.body.get("photos", [])]
    return VisitOut.model_validate({**kept, "number": e.number, "at": e.at, "photos": seen})


def _amendment(number: int, at: float, body: object) -> AmendmentOut:
    values = dict(body) if isinstance(body, dict) else {}
    said = {k: str(values.get(k, "")) for k in ("by", "reason", "what", "before", "after")}
    return AmendmentOut(number=number, at=at, **said)


@router.get("/jobs/{key}/seal")
def read_seal(key: Key, hub: HubDep) -> SealOut:
    """Whether the record is sealed, and whether it is still what was sealed; what it deviates in."""
    return seal_out(key, hub)


@router.post("/jobs/{key}/seal", status_code=201)
async def close(key: Key, body: SealIn, hub: HubDep) -> SealOut:
    """Close the record for good: sheet, touches, readings and verdict go into a chain. The gauge is taken off first.

    What it deviates in is mended before, or has a reason that is sealed with it.
    """
    await asyncio.to_thread(_must_have_reasons, key, body, hub)
    await hub.detach(key)
    return await asyncio.to_thread(_close, key, body, hub)


def _must_have_reasons(key: str, body: SealIn, hub: Hub) -> tuple[Deviation, ...]:
    jobs.must_be_open(key)
    found = deviations_of(key, runs.view(key), hub)
    left = without_reason(found, body.reasons)
    if left:
        raise refusal(409, "seal-deviates", count=len(left), what=_one_after_another([d.words for d in left]))
    return found


def _close(key: str, body: SealIn, hub: Hub) -> SealOut:
    by = body.by.strip()
    found = _must_have_reasons(key, body, hub)
    stored = jobs.get(key)
    closing = stored.job.closing
    now = time.time()
    if closing.signed_by != by or not closing.signed_at:
        signed = closing.model_copy(update={"signed_by": by, "signed_at": jobs.day(now)})
        jobs.save(key, stored.version, stored.job.model_copy(update={"closing": signed}))
    judged = holds.judge(runs.view(key))
    verdict = None
    if judged is not None:
        v = judged.verdict
        verdict = {
            "verdict": v.verdict,
            "probability": round(v.probability, 6),
            "algorithm": ALGORITHM,
            "inputs": judged.inputs_hash,
        }
    signature = {
        "by": by,
        "signature": digest(stored.job.closing.signature),
        "acknowledged": list(stored.job.closing.acknowledged),
        "application": __version__,
        "deviations": [{"key": d.key, "words": say(d.words), "reason": body.reasons[d.key].strip()} for d in found],
    }
    sealing.seal(key, signature, verdict, now)
    return seal_out(key, hub)


@router.post("/jobs/{key}/amendments", status_code=201)
def amend(key: Key, body: AmendIn, hub: HubDep) -> SealOut:
    """Put something right in a sealed record: what it said and what it should say stay both."""
    sealing.amend(key, body.model_dump())
    return seal_out(key, hub)


@router.post("/jobs/{key}/visits", status_code=201)
def visit(key: Key, body: VisitIn, hub: HubDep) -> SealOut:
    """Add a follow-up visit to a sealed record: an entry of its own, what was sealed stays as it is."""
    sealing.add_visit(key, body.model_dump(mode="json"))
    return seal_out(key, hub)


@router.get("/backup", response_class=FileResponse)
def take_backup() -> FileResponse:
    """The whole database as one file, of this moment, checked."""
    folder = tempfile.mkdtemp(prefix="rough-draw-")
    path = Path(folder) / f"rough-draw-{time.strftime('%Y-%m-%d')}.sqlite3"
    backup.take(path)

    def clear() -> None:
        path.unlink(missing_ok=True)
        Path(folder).rmdir()

    return FileResponse(path, filename=path.name, background=BackgroundTask(clear))


@router.post("/restore", status_code=200)
async def put_back(file: UploadFile, hub: HubDep, anyway: bool = False) -> RestoredOut:
    """Put a backup in the place of everything here; what was here is kept in a file beside it. Gauges are taken off.

    Where sheets in it cannot be read it is put back only ``anyway``; 409 says whose they are.
    """
    data = await file.read(BACKUP + 1)
    if len(data) > BACKUP:
        raise backup.BackupFault(message("backup-too-large", most=BACKUP // 1048576))
    # No gauge is taken off for a file that cannot be put back.
    with ExitStack() as stack:
        path = stack.enter_context(backup.temporary(data))
        put = await asyncio.to_thread(stack.enter_context, backup.prepared(path, anyway=anyway))
        for key in list(hub.links):
            await hub.detach(key)
        found = await asyncio.to_thread(put)
    return RestoredOut(jobs=found["job"], readings=found["reading"])


@router.get("/job-file.schema.json", response_class=Response)
def job_file_schema() -> Response:
    """The JSON Schema of a job file, as it is published with the documents."""
    return Response(json.dumps(JobFile.model_json_schema()), media_type="application/schema+json")


def _one_after_another(deviations: list[Message]) -> Message:
    """Deviations in a row: they are no whole sentences."""
    return reduce(lambda one, two: message("deviation-and-another", one=one, two=two), deviations)
