"""Sealed records: the chain of a closed job, its amendments, and what a sealed job refuses."""

from __future__ import annotations

import json
import math
import time
from collections.abc import Mapping, Sequence
from typing import Any

from rough_draw.core.message import Telling, message
from rough_draw.core.records.hash_chain import Break, Entry, append, check, closing_of, sealed
from rough_draw.store import jobs
from rough_draw.store.models import ChainRow, JobRow


class NotSealed(Telling, RuntimeError):
    """The record is open: there is nothing to amend yet."""


def chain_of(key: str) -> list[Entry]:
    """The chain of a job; empty while it is open."""
    rows = ChainRow.select().where(ChainRow.job == key).order_by(ChainRow.number)
    return [
        Entry(number=r.number, kind=r.kind, at=r.at, body=json.loads(r.body), before=r.before, hash=r.hash)
        for r in rows
    ]


def as_values(e: Entry) -> dict[str, Any]:
    """An entry as plain values, as the job file has it."""
    return {"number": e.number, "kind": e.kind, "at": e.at, "body": dict(e.body), "before": e.before, "hash": e.hash}


def entry_of(values: Mapping[str, Any]) -> Entry:
    """Inverse of `as_values`; raises KeyError or TypeError for what is no entry."""
    return Entry(
        number=int(values["number"]),
        kind=str(values["kind"]),
        at=float(values["at"]),
        body=dict(values["body"]),
        before=str(values["before"]),
        hash=str(values["hash"]),
    )


def plain_touches(key: str) -> list[dict[str, Any]]:
    """Touches as the chain and the job file have them."""
    return [{"kind": t.kind, "at": t.at, "note": t.note} for t in jobs.touches(key)]


def plain_readings(key: str) -> list[tuple[str, list[float], list[float | None]]]:
    """Readings as the chain and the job file have them: gauge, epoch seconds, Pa with None for over range."""
    return [
        (r.gauge, [float(x) for x in r.at], [None if math.isnan(p) else float(p) for p in r.pa])
        for r in jobs.readings(key)
    ]


def seal(
    key: str, signature: Mapping[str, Any], verdict: Mapping[str, Any] | None, at: float | None = None
) -> list[Entry]:
    """Close a job for good: its chain is made of what it holds now. Raises NotFound; Sealed where it is closed."""
    now = at if at is not None else time.time()
    with jobs.writing():
        jobs.must_be_open(key)
        sheet = jobs.document(key)
        chain = sealed(sheet, plain_touches(key), plain_readings(key), verdict, signature, now)
        _keep(key, chain)
        JobRow.update(sealed_at=now).where(JobRow.key == key).execute()
    return chain


def _keep(key: str, entries: Sequence[Entry]) -> None:
    for e in entries:
        body = json.dumps(dict(e.body), ensure_ascii=False)
        ChainRow.create(job=key, number=e.number, kind=e.kind, at=e.at, body=body, before=e.before, hash=e.hash)


def amend(key: str, body: Mapping[str, Any], at: float | None = None) -> Entry:
    """Add a correction to a sealed record: what it said and what it should say stay both. Raises NotSealed."""
    with jobs.writing():
        jobs.get(key)
        chain = chain_of(key)
        if not chain:
            raise NotSealed(message("problem-still-open"))
        entry = append(chain, "amendment", at if at is not None else time.time(), body)
        _keep(key, [entry])
    return entry


def keep_imported(key: str, entries: Sequence[Entry]) -> None:
    """Take over the chain of an imported record, as it is: whether it holds is for `faults` to say."""
    closed = closing_of(entries)
    _keep(key, entries)
    if closed is not None:
        JobRow.update(sealed_at=closed.at).where(JobRow.key == key).execute()


def faults(key: str) -> list[Break]:
    """What is wrong with a sealed record as it is stored now; nothing where it is whole."""
    # The sheet as it was stored, and not as a later version reads it: what is new has no part in what was sealed.
    return check(chain_of(key), jobs.document(key), plain_touches(key), plain_readings(key))
