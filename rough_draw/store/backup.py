"""The whole database out and in again, while it is in use: checked before it is trusted."""

from __future__ import annotations

import itertools
import os
import sqlite3
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from peewee import PeeweeException, SqliteDatabase

from rough_draw.core.message import Fault, message
from rough_draw.store import models
from rough_draw.store.database import TooNew, bring_up
from rough_draw.store.models import Table, database
from rough_draw.store.reading_cache import forget_all
from rough_draw.store.sheets import read_sheet

MAGIC = b"SQLite format 3\x00"
NEEDED = ("job", "touch", "reading", "revision", "kit")
"""Tables that every version has had."""
TABLES: tuple[type[Table], ...] = tuple(
    m for m in vars(models).values() if isinstance(m, type) and issubclass(m, Table) and m is not Table
)

MOST_NAMED = 6
"""Jobs that are named where their sheets cannot be read."""


class BackupFault(Fault):
    """The file is no backup of ours, or is not whole; the message says why."""


class SheetsUnread(BackupFault):
    """Sheets of a backup cannot be read, and all else in it can: it may be put back all the same."""


def here() -> Path:
    """The database file that is open."""
    return Path(str(database.obj.database))


def take(out: Path) -> dict[str, int]:
    """Copy the open database to ``out`` while it is in use, check the copy, and count what it holds.

    SQLite's own online backup: a state of one moment, whatever is written meanwhile. Raises BackupFault.
    """
    out.parent.mkdir(parents=True, exist_ok=True)
    part = out.with_name(out.name + ".part")
    part.unlink(missing_ok=True)
    with _open(here()) as source, _open(part) as copy:
        source.backup(copy)
        copy.execute("PRAGMA journal_mode = DELETE")
    found = check(part)
    os.replace(part, out)
    return found


def check(path: Path) -> dict[str, int]:
    """Rows of each table of a backup. Raises BackupFault where it is none of ours or not whole."""
    try:
        with path.open("rb") as f:
            head = f.read(16)
    except OSError as e:
        raise BackupFault(message("backup-unread", file=path.name, fault=str(e.strerror or e))) from None
    if head != MAGIC:
        raise BackupFault(message("backup-no-database", file=path.name))
    try:
        with _open(path) as db:
            said = db.execute("PRAGMA integrity_check").fetchone()[0]
            if said != "ok":
                raise BackupFault(message("backup-damaged", file=path.name, fault=str(said)[:200]))
            tables = {row[0] for row in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            missing = [t for t in NEEDED if t not in tables]
            if missing:
                raise BackupFault(message("backup-not-ours", file=path.name, table=missing[0]))
            return {t: db.execute(f'SELECT count(*) FROM "{t}"').fetchone()[0] for t in NEEDED}
    except sqlite3.DatabaseError as e:
        raise BackupFault(message("backup-unread", file=path.name, fault=str(e))) from None


def restore(path: Path, into: Path | None = None, anyway: bool = False) -> dict[str, int]:
    """Put a backup in the place of the open database (or of the file ``into``), all or nothing; counts what it holds.

    What stood there before is kept beside it, with ``.before`` to its name and a number where that is taken. Passphrase
    and sessions stay. Raises BackupFault; SheetsUnread where sheets cannot be read, unless it is to be put back
    ``anyway``: every page lives with such a sheet, and says why.
    """
    with prepared(path, into, anyway) as put:
        return put()


@contextmanager
def prepared(path: Path, into: Path | None = None, anyway: bool = False) -> Iterator[Callable[[], dict[str, int]]]:
    """A backup looked through, and what puts it in its place: nothing has changed before that is called.

    A copy is brought to this version and looked through; only then is it put in the place of what is here, by one
    transaction of SQLite's: whenever it is cut off, the old or the new stands there whole. Raises as `restore` does.
    """
    check(path)
    target = into or here()
    with tempfile.TemporaryDirectory(dir=target.parent if target.parent.exists() else None) as d:
        ready = Path(d) / "ready.sqlite3"
        with _open(path) as source, _open(ready) as copy:
            source.backup(copy)
        _made_ours(ready, path.name, anyway)
        found = check(ready)
        yield lambda: _put(ready, target, found)


def _put(ready: Path, target: Path, found: dict[str, int]) -> dict[str, int]:
    if target.exists():
        _keep_door(target, ready)
        before = _free(target)
        part = before.with_name(before.name + ".part")
        part.unlink(missing_ok=True)
        with _open(target) as old, _open(part) as kept:
            old.backup(kept)
            kept.execute("PRAGMA journal_mode = DELETE")
        os.replace(part, before)
    with _open(ready) as source, _open(target) as live:
        source.backup(live)
    forget_all()
    return found


def _free(target: Path) -> Path:
    """A name beside a database for what it was: none that was kept before is written over."""
    name = f"{target.name}.before"
    taken = itertools.chain([name], (f"{name}-{n}" for n in itertools.count(2)))
    return next(p for p in (target.with_name(x) for x in taken) if not p.exists())


def _keep_door(here_now: Path, ready: Path) -> None:
    """Who may come in stays as it is now: a backup brings neither an old passphrase nor sessions that were ended."""
    with _open(ready) as db:
        db.execute("ATTACH ? AS here", (str(here_now),))
        db.execute("DELETE FROM setting WHERE key = 'passphrase'")
        db.execute("DELETE FROM session")
        if db.execute("SELECT 1 FROM here.sqlite_master WHERE name = 'session'").fetchone() is not None:
            db.execute("INSERT INTO setting SELECT * FROM here.setting WHERE key = 'passphrase'")
            db.execute("INSERT INTO session SELECT * FROM here.session")
        db.commit()
        db.execute("DETACH here")


def _made_ours(path: Path, name: str, anyway: bool) -> None:
    """Bring a copy to this version, and see that it has what this version asks for. Raises BackupFault."""
    db = SqliteDatabase(str(path), pragmas={"foreign_keys": 1})
    try:
        with db.connection_context():
            bring_up(db, name)
            for model in TABLES:
                table = model._meta.table_name
                there = {c.name for c in db.get_columns(table)} if db.table_exists(table) else set()
                lacking = [c for c in model._meta.columns if c not in there]
                if lacking:
                    raise BackupFault(message("backup-not-ours", file=name, table=f"{table}.{lacking[0]}"))
            if db.execute_sql("PRAGMA foreign_key_check").fetchone() is not None:
                raise BackupFault(message("backup-damaged", file=name, fault="foreign_key_check"))
            unread = [] if anyway else _unread(db)
            if unread:
                more = len(unread) - MOST_NAMED
                raise SheetsUnread(message("backup-sheets", jobs="; ".join(unread[:MOST_NAMED]), more=max(0, more)))
    except TooNew as e:
        raise BackupFault(e.told) from None
    except (PeeweeException, sqlite3.DatabaseError, ValueError, KeyError, TypeError) as e:
        if isinstance(e, BackupFault):
            raise
        raise BackupFault(message("backup-unread", file=name, fault=str(e)[:200])) from None
    finally:
        db.close()


def _unread(db: SqliteDatabase) -> list[str]:
    """Jobs whose sheet cannot be read, by whose they are where that can be told."""
    found = []
    for key, document in db.execute_sql("SELECT key, document FROM job ORDER BY key").fetchall():
        read = read_sheet(document)
        if read.fault:
            names = ", ".join(x for x in (read.job.party.customer, read.job.party.unit) if x)
            found.append(f"{names} ({key})" if names else str(key))
    return found


@contextmanager
def temporary(data: bytes) -> Iterator[Path]:
    """Bytes as a file for as long as they are looked at."""
    with tempfile.TemporaryDirectory() as d:
        path = Path(d) / "backup.sqlite3"
        path.write_bytes(data)
        yield path


@contextmanager
def _open(path: Path) -> Iterator[sqlite3.Connection]:
    db = sqlite3.connect(path, timeout=10.0)
    try:
        with db:
            yield db
    finally:
        db.close()
