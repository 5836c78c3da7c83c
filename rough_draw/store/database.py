"""The database file: opening, settings for safety, and versioned migrations."""

from __future__ import annotations

from pathlib import Path

from peewee import SqliteDatabase
from playhouse.migrations import Runner

from rough_draw.core.message import Telling, message
from rough_draw.store import models

MIGRATIONS = Path(__file__).parent / "migrations"


class TooNew(Telling, RuntimeError):
    """The file was written by a later version of the application."""


def open_database(path: str | Path) -> SqliteDatabase:
    """Open (and make or migrate) the database at ``path``.

    Write-ahead log with full synchronisation: what has been acknowledged is on disk. Raises TooNew.
    """
    Path(path).parent.mkdir(parents=True, exist_ok=True)
    db = SqliteDatabase(
        str(path),
        pragmas={"journal_mode": "wal", "synchronous": "full", "foreign_keys": 1, "busy_timeout": 5000},
    )
    models.database.initialize(db)
    with db.connection_context():
        bring_up(db, str(path))
    return db


def bring_up(db: SqliteDatabase, name: str) -> None:
    """Bring a database to this version; of an empty file make one. Raises TooNew for what a later version wrote."""
    runner = Runner(db, str(MIGRATIONS))
    known = {m.name for m in runner.migrations()}
    later = sorted(set(runner.applied()) - known)
    if later:
        raise TooNew(message("database-too-new", file=name, version=later[-1]))
    runner.up()
