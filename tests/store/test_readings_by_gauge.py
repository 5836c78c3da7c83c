"""Readings by the gauge's id: what earlier versions stored is given its gauge once, and files go out and in."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest

from rough_draw.api.runs import view
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.store import job_files, jobs
from rough_draw.store.database import open_database


@pytest.fixture(autouse=True)
def _file(tmp_path: Path) -> None:
    open_database(tmp_path / "r.sqlite3")


def two() -> Job:
    job = Job()
    rig = rig_edit.add(job.rig, {"kind": "gauge", "id": "gauge-2", "on": "pump", "at": "side", "name": "By the pump"})
    return job.model_copy(update={"rig": rig})


def rows(name: str, count: int, part: str | None = None) -> list[jobs.NewReading]:
    return [jobs.NewReading(name, 1000.0 + k, 50.0 + k, part=part) for k in range(count)]


def test_the_gauge_that_is_read_is_known_by_its_id_whatever_it_is_called() -> None:
    key = jobs.create(two()).key
    jobs.add_readings(key, rows("System, nearest", 50, "gauge-2"), "gauge")
    jobs.add_readings(key, rows("pump manifold dial", 5, "gauge"), "gauge")
    main = view(key).main()
    assert main is not None
    assert main.part == "gauge"
    assert main.at.size == 5
    other = view(key).of("gauge-2")
    assert other is not None
    assert other.at.size == 50


def test_a_gauge_that_was_renamed_goes_on_as_the_same_series() -> None:
    key = jobs.create(two()).key
    jobs.add_readings(key, rows("Old name", 3, "gauge"), "gauge")
    later = [jobs.NewReading("New name", 2000.0 + k, 40.0, part="gauge") for k in range(3)]
    jobs.add_readings(key, later, "gauge")
    series = jobs.readings(key)
    assert len(series) == 1
    assert series[0].at.size == 6
    assert series[0].gauge == "New name"


def test_what_nobody_said_of_is_the_longest_series() -> None:
    key = jobs.create(two()).key
    jobs.add_readings(key, rows("a", 3), "import")
    jobs.add_readings(key, rows("b", 9), "import")
    main = view(key).main()
    assert main is not None
    assert main.gauge == "b"


def test_a_file_goes_out_and_in_with_whose_readings_they_are() -> None:
    key = jobs.create(two()).key
    jobs.add_readings(key, rows("x", 4, "gauge-2"), "gauge")
    jobs.add_readings(key, rows("y", 4), "import")
    out = job_files.dump(key)
    copy = job_files.load(out, again=True)
    assert {(s.gauge, s.part) for s in jobs.readings(copy)} == {("x", "gauge-2"), ("y", None)}


def test_an_older_file_says_nothing_of_gauges_and_is_given_them() -> None:
    key = jobs.create(two()).key
    jobs.add_readings(key, rows("By the pump", 4), "gauge")
    jobs.add_readings(key, rows("typed", 7), "typed")
    older = job_files.dump(key).model_dump()
    for s in older["readings"]:
        del s["part"]
    copy = job_files.load(job_files.JobFile.model_validate(older), again=True)
    assert {(s.gauge, s.part) for s in jobs.readings(copy)} == {("By the pump", "gauge-2"), ("typed", "gauge")}


def test_readings_of_an_earlier_version_are_given_their_gauge_once(tmp_path: Path) -> None:
    """A database as the version before left it: taken back by one step, then opened again."""
    path = tmp_path / "old.sqlite3"
    open_database(path)
    key = jobs.create(two(), "old").key
    bare = jobs.create(Job(), "bare").key
    jobs.add_readings(key, rows("Gauge at the pump", 30), "gauge")
    jobs.add_readings(key, rows("Gauge 1", 10), "gauge")
    jobs.add_readings(bare, rows("typed", 3), "typed")
    with sqlite3.connect(path) as db:
        db.execute("UPDATE reading SET part = NULL")
        db.execute("ALTER TABLE reading DROP COLUMN part")
        table = next(n for (n,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'") if "migr" in n)
        db.execute(f"DELETE FROM {table} WHERE name LIKE '0007%'")
    open_database(tmp_path / "elsewhere.sqlite3")
    open_database(path)
    found = {s.gauge: s.part for s in jobs.readings(key)}
    assert found == {"Gauge 1": "gauge", "Gauge at the pump": "at-pump"}
    assert [s.part for s in jobs.readings(bare)] == ["gauge"]
