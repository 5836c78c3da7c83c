"""The database file: opening, settings for safety, and versioned migrations."""

from __future__ import annotations

from pathlib import Path

from peewee import DatabaseError, OperationalError, SqliteDatabase
from playhouse.migrations import Runner

from rough_draw.core.message import Telling, message
from rough_draw.store import models

MIGRATIONS = Path(__file__).parent / "migrations"


class TooNew(Telling, RuntimeError):
    """The file was written by a later version of the application."""


CACHE_KB = 512
"""Pages of the file that a connection keeps, kB. Every thread has a connection of its own, and by the library's default
of two megabytes forty of them kept the same pages forty times: the server grew for as long as they filled.
"""


class Unusable(Telling, RuntimeError):
    """The file cannot be opened: it may not be written, has no room, or is damaged."""


def open_database(path: str | Path) -> SqliteDatabase:
    """Open (and make or migrate) the database at ``path``.

    Write-ahead log with full synchronisation: what has been acknowledged is on disk. Raises TooNew or Unusable.
    """
    try:
        Path(path).parent.mkdir(parents=True, exist_ok=True)
    except OSError as e:
        raise Unusable(message("database-unwritable", file=str(path), fault=e.strerror or str(e))) from None
    db = SqliteDatabase(
        str(path),
        pragmas={
            "journal_mode": "wal",
            "synchronous": "full",
            "foreign_keys": 1,
            "busy_timeout": 5000,
            "cache_size": -CACHE_KB,
        },
    )
    models.database.initialize(db)
    try:
        with db.connection_context():
            bring_up(db, str(path))
    except OperationalError as e:
        raise Unusable(message("database-unwritable", file=str(path), fault=str(e))) from e
    except DatabaseError as e:
        raise Unusable(message("database-damaged", file=str(path), fault=str(e))) from e
    return db


def bring_up(db: SqliteDatabase, name: str) -> None:
    """Bring a database to this version; of an empty file make one. Raises TooNew for what a later version wrote."""
    runner = Runner(db, str(MIGRATIONS))
    known = {m.name for m in runner.migrations()}
    later = sorted(set(runner.applied()) - known)
    if later:
        raise TooNew(message("database-too-new", file=name, version=later[-1]))
    runner.up()
