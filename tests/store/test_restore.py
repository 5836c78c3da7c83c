"""Backups put back: an older one is brought up, a newer or foreign one refused, and a cut leaves the old or the new."""

from __future__ import annotations

import multiprocessing
import shutil
import sqlite3
import time
from collections.abc import Callable
from pathlib import Path

import pytest
from peewee import SqliteDatabase

from rough_draw.cli.main import main
from rough_draw.core.message import Message
from rough_draw.core.sheet.job import Job, Party
from rough_draw.store import access, backup, jobs
from rough_draw.store.database import open_database

EARLIER = Path(__file__).parent / "earlier" / "sealed-0.1.sql"


@pytest.fixture
def key(db: SqliteDatabase) -> str:
    stored = jobs.create(Job(party=Party(customer="Larkspur", unit="Cold room 1")))
    jobs.add_readings(stored.key, [jobs.NewReading("Gauge 2", float(n), 100.0) for n in range(50)], "typed")
    return stored.key


def unchanged(key: str) -> None:
    assert [s.key for s in jobs.listing()] == [key]
    assert len(jobs.readings(key)[0].at) == 50


def test_a_backup_of_an_earlier_version_is_brought_up(key: str, tmp_path: Path) -> None:
    older = tmp_path / "older.sqlite3"
    with sqlite3.connect(older) as made:
        made.executescript(EARLIER.read_text())
    kept = older.read_bytes()
    found = backup.restore(older)
    assert older.read_bytes() == kept, "the backup itself stays as it is"
    assert found["job"] == len(jobs.listing()) >= 1
    for stored in jobs.listing():
        assert stored.key != key
        jobs.touches(stored.key)
    # What stood here before lies beside it, whole.
    assert backup.check(Path(f"{backup.here()}.before"))["reading"] == 50


def test_who_may_come_in_stays_and_nothing_kept_is_written_over(key: str, tmp_path: Path) -> None:
    out = tmp_path / "old.sqlite3"
    access.set_passphrase("the old words")
    token = access.begin()
    backup.take(out)
    access.set_passphrase("the new words")
    fresh = access.begin()
    for _ in range(3):
        backup.restore(out)
    assert access.right("the new words")
    assert not access.right("the old words")
    assert access.find(fresh) is not None
    assert access.find(token) is None, "a session that was ended does not come back with a backup"
    kept = sorted(p.name for p in Path(backup.here()).parent.glob("*.before*"))
    name = backup.here().name
    assert kept == [f"{name}.before", f"{name}.before-2", f"{name}.before-3"]
    unchanged(key)


def _newer(db: sqlite3.Connection) -> None:
    table = next(t for (t,) in db.execute("SELECT name FROM sqlite_master WHERE type='table'") if "migrat" in t)
    columns = [c[1] for c in db.execute(f'PRAGMA table_info("{table}")')]
    last = db.execute(f'SELECT * FROM "{table}" ORDER BY rowid DESC LIMIT 1').fetchone()
    values = [
        99999 if c == "id" else "9999_of_tomorrow" if c == "name" else v for c, v in zip(columns, last, strict=True)
    ]
    db.execute(f'INSERT INTO "{table}" VALUES ({", ".join("?" * len(values))})', values)


def _foreign(db: sqlite3.Connection) -> None:
    db.execute("DROP TABLE kit")
    db.execute("CREATE TABLE kit (id INTEGER PRIMARY KEY, saddle TEXT)")


def _no_sheet(db: sqlite3.Connection) -> None:
    db.execute("UPDATE job SET document = '{\"scope\": 7}'")


def _orphan(db: sqlite3.Connection) -> None:
    db.execute("INSERT INTO reading (job_id, gauge, at, pa, source) VALUES ('nobody', 'g', 1, 1, 'typed')")


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (_newer, "database-too-new"),
        (_foreign, "backup-not-ours"),
        (_no_sheet, "backup-sheets"),
        (_orphan, "backup-damaged"),
    ],
)
def test_what_cannot_be_used_is_refused_and_nothing_is_touched(
    key: str, tmp_path: Path, spoil: Callable[[sqlite3.Connection], None], says: str
) -> None:
    out = tmp_path / "copy.sqlite3"
    backup.take(out)
    with sqlite3.connect(out) as made:
        spoil(made)
    with pytest.raises(backup.BackupFault, match=says):
        backup.restore(out)
    unchanged(key)
    assert not Path(f"{backup.here()}.before").exists()


def test_sheets_that_cannot_be_read_are_named_and_keep_nothing_else_from_coming_back(
    key: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    others = [jobs.create(Job(party=Party(customer=f"Shed {n}"))).key for n in range(9)]
    torn = '{"party": {"customer": "Larkspur"}, "rig": {"parts": [{"kind": "warp-drive"}]}}'
    out = tmp_path / "copy.sqlite3"
    backup.take(out)
    with sqlite3.connect(out) as made:
        made.execute("UPDATE job SET document = ? WHERE key = ?", (torn, key))
        made.executemany("UPDATE job SET document = '[]' WHERE key = ?", [(k,) for k in others[:8]])
    with pytest.raises(backup.SheetsUnread) as refused:
        backup.restore(out)
    told = refused.value.told
    assert isinstance(told, Message)
    assert told["more"] == 9 - backup.MOST_NAMED
    assert all(k in str(told["jobs"]) for k in sorted([key, *others[:8]])[: backup.MOST_NAMED])
    assert len(jobs.listing()) == 10
    assert main(["restore", str(out), "--db", str(tmp_path / "other.sqlite3")]) == 2
    assert "--anyway" in capsys.readouterr().err
    assert backup.restore(out, anyway=True)["job"] == 10
    unread = [s.key for s in jobs.listing(unreadable=True) if s.fault]
    assert sorted(unread) == sorted([key, *others[:8]])
    assert [s.key for s in jobs.listing()] == [others[8]]
    assert jobs.document(key)["rig"], "it stays as it is"
    assert len(jobs.readings(key)[0].at) == 50
    assert main(["restore", str(out), "--db", str(tmp_path / "other.sqlite3"), "--anyway"]) == 0


def _over_and_over(target: str, sources: list[str]) -> None:
    open_database(target)
    while True:
        for s in sources:
            backup.restore(Path(s))


def test_a_restore_that_is_cut_off_leaves_the_old_or_the_new(tmp_path: Path) -> None:
    sizes = (300, 4000)
    sources = []
    for n in sizes:
        path = tmp_path / f"{n}.sqlite3"
        opened = open_database(path)
        k = jobs.create(Job(party=Party(customer=str(n)))).key
        jobs.add_readings(k, [jobs.NewReading("g", float(i), 1.0) for i in range(n)], "typed")
        out = tmp_path / f"out-{n}.sqlite3"
        backup.take(out)
        opened.close()
        sources.append(str(out))
    target = tmp_path / "live.sqlite3"
    shutil.copy(sources[0], target)
    seen = set()
    for n in range(8):
        child = multiprocessing.get_context("fork").Process(target=_over_and_over, args=(str(target), sources))
        child.start()
        time.sleep(0.12 + 0.037 * n)
        child.kill()
        child.join()
        opened = open_database(target)
        (stored,) = jobs.listing()
        count = len(jobs.readings(stored.key)[0].at)
        assert stored.job.party.customer == str(count)
        seen.add(count)
        assert opened.execute_sql("PRAGMA integrity_check").fetchone()[0] == "ok"
        opened.close()
    assert seen <= set(sizes)
