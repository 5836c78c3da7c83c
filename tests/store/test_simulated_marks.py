"""What a simulated gauge gave is marked so in the table, in the job file, in the seal, and after every way round."""

from __future__ import annotations

import json
from dataclasses import replace
from importlib import import_module
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from peewee import SqliteDatabase

from rough_draw.core.readings.csv_table import read_table
from rough_draw.core.sheet.job import Job, Party
from rough_draw.store import csv_tables, job_files, jobs, sealing
from rough_draw.store.database import open_database
from rough_draw.store.models import ReadingRow
from tests.depth import drawn


def filled(sources: list[str], gauge: str = "Gauge 1") -> str:
    key = jobs.create(Job(party=Party(customer="Saltmarsh", unit="Ice store"))).key
    for n, source in enumerate(sources):
        jobs.add_readings(key, [jobs.NewReading(gauge, 1000.0 + n, 200.0 - n, part="gauge")], source)
    return key


def marks(key: str) -> list[tuple[float, bool]]:
    return [(float(a), bool(s)) for r in jobs.readings(key) for a, s in zip(r.at, r.simulated, strict=True)]


@given(st.lists(st.sampled_from(["simulated", "typed", "gauge", "import"]), min_size=2, max_size=40))
@settings(max_examples=drawn(15))
def test_the_mark_survives_file_seal_and_table(tmp_path_factory: pytest.TempPathFactory, sources: list[str]) -> None:
    opened = open_database(tmp_path_factory.mktemp("marks") / "m.sqlite3")
    try:
        key = filled(sources)
        wanted = [(1000.0 + n, s == "simulated") for n, s in enumerate(sources)]
        assert marks(key) == wanted
        sealing.seal(key, {"by": "Mara Tollivet"}, None)
        assert sealing.faults(key) == []
        text = job_files.text_of(job_files.dump(key))
        assert job_files.verify(json.loads(text))[1] == []
        copy = job_files.load(job_files.parse(text.encode()), again=True)
        assert marks(copy) == wanted
        assert sealing.faults(copy) == []
        read = read_table(csv_tables.readings_csv(key).encode())
        assert read.main().simulated == ("simulated" in sources)
        assert ("source" in csv_tables.readings_csv(key).splitlines()[0]) == ("simulated" in sources)
    finally:
        opened.close()


@pytest.mark.parametrize("how", ["database", "file"])
def test_a_mark_that_was_taken_off_a_sealed_record_is_found(db: SqliteDatabase, how: str) -> None:
    key = filled(["typed", "simulated", "simulated"])
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    if how == "file":
        document: dict[str, Any] = json.loads(job_files.text_of(job_files.dump(key)))
        for s in document["readings"]:
            s["simulated"] = False
        assert job_files.verify(document)[1]
        return
    other = job_files.load(job_files.dump(key), again=True)
    ReadingRow.update(source="typed").where(ReadingRow.job == other).execute()
    assert sealing.faults(other)


@pytest.mark.parametrize("version", [1, 2])
def test_an_earlier_file_with_a_simulated_gauge_passes_nothing_for_real(db: SqliteDatabase, version: int) -> None:
    file = job_files.dump(filled(["gauge", "gauge"])).model_copy(update={"version": version, "key": "older"})
    real = job_files.load(file.model_copy(update={"key": "real"}))
    assert not any(m for _, m in marks(real))
    made = [job_files.FileTouch(kind="gauge-attached", at=1000.0, note="{}")]
    assert all(m for _, m in marks(job_files.load(file.model_copy(update={"touches": made}))))


def test_readings_of_an_earlier_database_are_marked_by_the_gauge_they_came_from(db: SqliteDatabase) -> None:
    """As the store was before: one kind of line for both."""
    played, real = filled(["gauge", "typed"]), filled(["gauge", "typed"])
    jobs.add_touch(played, "gauge-attached", 1000.0, "{}")
    step = import_module("rough_draw.store.migrations.0008_marks_hands_photos")
    step.down(None, db)
    step.up(None, db)
    assert marks(played) == [(1000.0, True), (1001.0, False)]
    assert marks(real) == [(1000.0, False), (1001.0, False)]


def test_part_of_a_series_keeps_its_marks(db: SqliteDatabase) -> None:
    key = filled(["typed", "simulated", "typed", "simulated"])
    late = jobs.readings(key, since=1001.0)[0]
    assert late.simulated.tolist() == [False, True]
    assert replace(late).pick(late.simulated).at.tolist() == [1003.0]
