"""Two hundred jobs listed beside a thread that works something out, as the Yard does; row by row, and in one step."""

from __future__ import annotations

import tempfile
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from rough_draw.core.sheet.job import Job
from rough_draw.store import jobs
from rough_draw.store.at_once import at_once
from rough_draw.store.database import open_database
from rough_draw.store.models import database

JOBS = 200


def row_by_row() -> list[tuple[object, ...]]:
    """As the library gives them."""
    return list(database.execute_sql(jobs.LISTED, (None,)))


def in_one_step() -> list[tuple[object, ...]]:
    """The same rows."""
    return list(at_once(jobs.LISTED, 7, (None,), long=2))


@contextmanager
def stored() -> Iterator[None]:
    """A file with so many jobs."""
    with tempfile.TemporaryDirectory() as place:
        db = open_database(f"{place}/rows.sqlite3")
        for _ in range(JOBS):
            jobs.create(Job())
        yield
        db.close()


@contextmanager
def worked_beside() -> Iterator[None]:
    """A thread that never waits for anything."""
    ended = threading.Event()

    def work() -> None:
        while not ended.is_set():
            sum(range(1000))

    thread = threading.Thread(target=work, daemon=True)
    thread.start()
    yield
    ended.set()
    thread.join()
