"""Backups taken, checked and put back."""

from __future__ import annotations

import shutil
import sqlite3
from pathlib import Path

import pytest
from peewee import SqliteDatabase

from rough_draw.cli.main import main
from rough_draw.store import backup, jobs


def test_a_backup_is_whole_and_comes_back(key: str, tmp_path: Path) -> None:
    out = tmp_path / "copy" / "all.sqlite3"
    found = backup.take(out)
    assert found["job"] == 1
    assert found["reading"] == 200
    assert backup.check(out) == found
    jobs.delete(key)
    assert jobs.listing() == []
    assert backup.restore(out)["reading"] == 200
    assert len(jobs.readings(key)[0].at) == 200
    assert Path(str(backup.here()) + ".before").exists()


def test_what_is_no_backup_is_refused_and_nothing_changes(key: str, tmp_path: Path) -> None:
    zipped = tmp_path / "a.sqlite3"
    zipped.write_bytes(b"PK\x03\x04 not a database at all")
    other = tmp_path / "b.sqlite3"
    with sqlite3.connect(other) as db:
        db.execute("CREATE TABLE cats (name TEXT)")
    short = tmp_path / "backup-unread"
    backup.take(short)
    whole = short.read_bytes()
    short.write_bytes(whole[: len(whole) // 2])
    for path, says in (
        (zipped, "backup-no-database"),
        (other, "backup-not-ours"),
        (short, "backup-unread"),
        (tmp_path / "d", "backup-unread"),
    ):
        with pytest.raises(backup.BackupFault, match=says):
            backup.restore(path)
    assert len(jobs.listing()) == 1


def test_backup_and_restore_by_the_command_line(
    key: str, tmp_path: Path, capsys: pytest.CaptureFixture[str], db: SqliteDatabase
) -> None:
    source = str(backup.here())
    assert main(["backup", "--db", source, "--out", str(tmp_path / "out.sqlite3")]) == 0
    assert "1 in job" in capsys.readouterr().out
    target = tmp_path / "elsewhere.sqlite3"
    shutil.copy(source, target)
    assert main(["restore", str(tmp_path / "out.sqlite3"), "--db", str(target)]) == 0
    assert "1 jobs, 200 readings" in capsys.readouterr().out
    assert main(["backup", "--db", str(tmp_path / "none"), "--out", "x"]) == 2
    assert main(["restore", str(tmp_path / "none"), "--db", str(target)]) == 2
