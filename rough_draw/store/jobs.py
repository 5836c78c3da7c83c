"""Reading and writing jobs, touches and readings. Callers hold a connection; every write is one transaction."""

from __future__ import annotations

import json
import secrets
import sqlite3
import threading
import time
from collections.abc import Collection, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any

import numpy as np
from peewee import SQL, OperationalError, fn

from rough_draw.core.message import Name, Telling, message
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.store.at_once import at_once
from rough_draw.store.columns import is_number, number
from rough_draw.store.models import ChainRow, JobRow, PhotoRow, Revision, TouchRow, WeightRow, database
from rough_draw.store.moments import moment
from rough_draw.store.reading_cache import Readings, all_readings, forget
from rough_draw.store.sheets import read_sheet

KEEP_REVISIONS = 200
TOUCHES_OF = f"SELECT kind, at, note, hand FROM touch WHERE job_id = ? AND {is_number('at')} ORDER BY at, id"
"""In words: everybody who looks asks it for every job, and putting it together costs five times what it takes."""
ADD_READING = (
    "INSERT OR IGNORE INTO reading (job_id, gauge, at, pa, source, client_key, part) VALUES (?, ?, ?, ?, ?, ?, ?)"
)
"""In words too, for a log of a hundred thousand rows."""
LISTED = (
    "SELECT key, version, document, created_at, updated_at, sealed_at, EXISTS (SELECT 1 FROM revision WHERE "
    "job_id = key) FROM job WHERE ?1 IS NULL OR key IN (SELECT value FROM json_each(?1)) ORDER BY updated_at DESC"
)
"""In words as well: whoever looks at all jobs lists them, some every second."""
MARKS = (
    "SELECT key, (SELECT count(*) FROM touch WHERE job_id = key), (SELECT max(id) FROM reading WHERE job_id = key) "
    "FROM job"
)
"""At once for all: the Yard looks at every job, and two questions for each of them were half of what it took."""


_turn = threading.RLock()


@contextmanager
def writing() -> Iterator[None]:
    """A transaction that takes the write lock at once, so that two writers wait instead of failing half way.

    Writers of this process take turns first: the file's own lock is asked for again and again, by chance and no longer
    than its time, and on a busy day somebody is passed over until that is up.
    """
    with _turn, database.atomic("IMMEDIATE"):
        yield


class NotFound(Telling, LookupError):
    """There is no such job, or another thing asked for; the message says what."""


class Conflict(Telling, RuntimeError):
    """The sheet was changed meanwhile; ``current`` is its version now."""

    def __init__(self, current: int) -> None:
        super().__init__(message("problem-changed-meanwhile", version=current))
        self.current = current


class Sealed(Telling, RuntimeError):
    """The record is closed: nothing in it changes any more."""

    def __init__(self, at: float) -> None:
        super().__init__(message("problem-sealed-on", day=day(at)))
        self.at = at


class NothingToUndo(Telling, RuntimeError):
    """The sheet has no earlier state."""


class Unreadable(Telling):
    """A job is there, and what is stored of it cannot be read: a later version wrote it, or the file is damaged."""


@dataclass(frozen=True, kw_only=True)
class StoredJob:
    """A job with its version and times. ``fault``: why its sheet cannot be read; ``job`` then says only whose it is."""

    key: str
    version: int
    job: Job
    created_at: float
    updated_at: float
    can_undo: bool
    sealed_at: float | None = None
    fault: Name = ""


@dataclass(frozen=True)
class NewReading:
    """A reading to add: gauge, epoch seconds, Pa or None for over range, and the sender's own key.

    ``part``: the id of the gauge on the sheet that it is of, where that is known.
    """

    gauge: str
    at: float
    pa: float | None
    client_key: str | None = None
    part: str | None = None


def _kept(row: JobRow) -> StoredJob:
    """A job as it stands, whether its sheet can be read or not."""
    undo = Revision.select().where(Revision.job == row.key).exists()
    return _listed(row.key, row.version, row.document, row.created_at, row.updated_at, row.sealed_at, undo)


def _listed(
    key: str, version: Any, document: Any, created_at: Any, updated_at: Any, sealed_at: Any, undo: Any
) -> StoredJob:
    """A job by its row as the file has it."""
    read = read_sheet(document)
    return StoredJob(
        key=key,
        version=int(number(version, "job.version") or 0),
        job=read.job,
        created_at=number(created_at, "job.created_at") or 0.0,
        updated_at=number(updated_at, "job.updated_at") or 0.0,
        can_undo=bool(undo),
        sealed_at=number(sealed_at, "job.sealed_at"),
        fault=read.fault,
    )


def _stored(row: JobRow) -> StoredJob:
    """A job whose sheet can be read. Raises Unreadable."""
    found = _kept(row)
    if found.fault:
        raise Unreadable(found.fault)
    return found


def _row(key: str) -> JobRow:
    row = JobRow.get_or_none(JobRow.key == key)
    if row is None:
        raise NotFound(message("no-job", key=key[:40]))
    return row


def day(at: float) -> str:
    """A day and time of this machine's clock, as people write it."""
    return moment(at).strftime("%Y-%m-%d %H:%M")


def must_be_open(key: str) -> str:
    """The key of a job that may still change. Raises NotFound, or Sealed. Asked for every reading: in words."""
    found = database.execute_sql("SELECT sealed_at FROM job WHERE key = ?", (key,)).fetchone()
    if found is None:
        raise NotFound(message("no-job", key=key[:40]))
    at = number(found[0], "job.sealed_at")
    if at is not None:
        raise Sealed(at)
    return key


def _open_row(key: str) -> JobRow:
    must_be_open(key)
    return _row(key)


def create(job: Job, key: str | None = None, at: float | None = None, written: str | None = None) -> StoredJob:
    """Add a job. ``key`` is made up where none is given; ``written``: its sheet as an earlier version wrote it."""
    now = at if at is not None else time.time()
    key = key or secrets.token_hex(4)
    with writing():
        row = JobRow.create(key=key, document=written or job.model_dump_json(), created_at=now, updated_at=now)
    return _stored(row)


def get(key: str) -> StoredJob:
    """A job by key; raises NotFound, Unreadable."""
    return _stored(_row(key))


def kept(key: str) -> StoredJob:
    """A job by key, whether its sheet can be read or not; raises NotFound."""
    return _kept(_row(key))


def document(key: str) -> Any:
    """A sheet as it stands in the store, whichever version wrote it: an object; its text where it is none. Raises
    NotFound.
    """
    written = _row(key).document
    try:
        found = json.loads(written)
    except (ValueError, RecursionError):
        return written
    return found if isinstance(found, dict) else written


def listing(only: Collection[str] | None = None, unreadable: bool = False) -> list[StoredJob]:
    """All jobs, or those of these keys that are there; latest change first. With ``unreadable``, those too of which
    only the names can be told.
    """
    asked = None if only is None else json.dumps(list(only))
    found = (_listed(*row) for row in at_once(LISTED, 7, (asked,), long=2))
    return [x for x in found if unreadable or not x.fault]


def save(key: str, version: int, job: Job) -> StoredJob:
    """Replace a sheet if it is still at ``version``; raises Conflict otherwise. The old state is kept for undo.

    What stands there already is no conflict, at whatever version: it is sent again where the answer was lost.
    """
    with writing():
        row = _open_row(key)
        document = job.model_dump_json()
        if document == row.document:
            return _stored(row)
        if row.version != version:
            raise Conflict(row.version)
        now = time.time()
        Revision.create(job=row.key, version=row.version, document=row.document, at=now)
        old = (
            Revision.select(Revision.id).where(Revision.job == key).order_by(Revision.id.desc()).offset(KEEP_REVISIONS)
        )
        Revision.delete().where(Revision.id.in_([r.id for r in old])).execute()
        row.document, row.version, row.updated_at = document, row.version + 1, now
        row.save()
    return _stored(row)


def undo(key: str, version: int | None = None) -> StoredJob:
    """Go back to the sheet's state before the last edit. ``version``: the one that is meant to be taken back, where it
    is known. Raises NothingToUndo, and Conflict where the sheet has moved on from it.
    """
    with writing():
        row = _open_row(key)
        if version is not None and row.version != version:
            raise Conflict(row.version)
        last = Revision.select().where(Revision.job == key).order_by(Revision.id.desc()).first()
        if last is None:
            raise NothingToUndo(message("problem-no-undo"))
        row.document, row.version, row.updated_at = last.document, row.version + 1, time.time()
        row.save()
        last.delete_instance()
    return _stored(row)


def delete(key: str) -> None:
    """Remove a job with all it holds. Raises Sealed: a closed record stays."""
    with writing():
        must_be_open(key)
        ChainRow.delete().where(ChainRow.job == key).execute()
        WeightRow.delete().where(WeightRow.job == key).execute()
        PhotoRow.delete().where(PhotoRow.job == key).execute()
        _row(key).delete_instance(recursive=True)
    forget(key)


def add_touch(key: str, kind: str, at: float, note: str = "", client_key: str | None = None, hand: str = "") -> Touch:
    """Log a touch, with whose ``hand`` it was; one whose client key is known already is returned as it was."""
    with writing():
        job = must_be_open(key)
        known = touch_of(job, client_key) if client_key else None
        if known is not None:
            return known
        TouchRow.create(job=job, kind=kind, at=at, note=note, client_key=client_key, hand=hand)
    return Touch(kind, at, note, hand)


def touch_of(key: str, client_key: str) -> Touch | None:
    """The touch that was sent with this client key, if it came."""
    row = TouchRow.get_or_none((TouchRow.job == key) & (TouchRow.client_key == client_key))
    return Touch(row.kind, row.at, row.note, row.hand) if row is not None else None


def last_touch_at(key: str) -> float | None:
    """When the last touch of a job was made, epoch s; None where there is none."""
    found = TouchRow.select(fn.MAX(TouchRow.at)).where(TouchRow.job == key, SQL(is_number("at"))).scalar()
    return float(found) if found is not None else None


def touches(key: str) -> list[Touch]:
    """All touches of a job in their order."""
    return [Touch(*r) for r in at_once(TOUCHES_OF, 4, (key,))]


def marks() -> dict[str, tuple[int, int]]:
    """How far each job has come: how many touches it has, and the number of its last reading (0 without any). Another
    one each time its run moves or a reading is added.
    """
    return {key: (touched, read or 0) for key, touched, read in at_once(MARKS, 3)}


def mark() -> tuple[object, ...]:
    """What differs once any sheet or step has come, gone or changed; what rests on those alone holds as long."""
    (found,) = database.execute_sql(
        "SELECT (SELECT count(*) FROM job), (SELECT max(updated_at) FROM job), (SELECT max(sealed_at) FROM job), "
        "(SELECT count(*) FROM touch), (SELECT max(id) FROM touch)"
    )
    return tuple(found)


def add_readings(key: str, readings: Sequence[NewReading], source: str) -> int:
    """Add readings in one transaction; returns how many were new. A client key already seen is passed over."""
    with writing():
        job = must_be_open(key)
        to = database.connection()
        before = to.total_changes
        try:
            to.executemany(ADD_READING, [(job, r.gauge, r.at, r.pa, source, r.client_key, r.part) for r in readings])
        except sqlite3.OperationalError as e:
            # Past the mapper, which tells it so everywhere else.
            raise OperationalError(*e.args) from e
        return int(to.total_changes - before)


def add_all(batches: Sequence[tuple[str, Sequence[NewReading], str]]) -> list[bool]:
    """Add readings of many jobs (key, readings, source) in one transaction; says of each whether its job is there."""
    known = []
    with writing():
        for key, readings, source in batches:
            try:
                add_readings(key, readings, source)
                known.append(True)
            except (NotFound, Sealed):
                known.append(False)
    return known


def readings(key: str, since: float = -1.0, bench: bool = False) -> list[Readings]:
    """Readings by gauge, in time order, from ``since`` (epoch seconds, exclusive) on; or those of the ``bench``."""
    found = all_readings(key, bench)
    if since < 0:
        return found
    kept = [(r, int(np.searchsorted(r.at, since, side="right"))) for r in found]
    return [r.pick(slice(n, None)) for r, n in kept if n < r.at.size]
