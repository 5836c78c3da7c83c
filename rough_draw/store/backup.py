"""The whole database out and in again, while it is in use: checked before it is trusted."""

from __future__ import annotations

import os
import sqlite3
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from rough_draw.core.message import Fault, message
from rough_draw.store.models import database
from rough_draw.store.reading_cache import forget_all

MAGIC = b"SQLite format 3\x00"
NEEDED = ("job", "touch", "reading", "revision", "kit", "setting")


class BackupFault(Fault):
    """The file is no backup of ours, or is not whole; the message says why."""


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


def restore(path: Path, into: Path | None = None) -> dict[str, int]:
    """Put a backup in the place of the open database (or of the file ``into``), all or nothing. Raises BackupFault.

    What stood there before is kept beside it, with ``.before`` to its name.
    """
    found = check(path)
    target = into or here()
    if target.exists():
        with _open(target) as old, _open(target.with_name(target.name + ".before")) as kept:
            old.backup(kept)
    with _open(path) as source, _open(target) as live:
        source.backup(live)
    forget_all()
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
