"""The store: migrations, versions, undo, append-only readings that survive, and files out and in."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from peewee import SqliteDatabase
from reportlab import rl_config

from rough_draw.core.sheet.job import Job, Party
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import rig_from
from rough_draw.standins.scripted_run import play
from rough_draw.standins.world import Truth, World, random_truth
from rough_draw.store import csv_tables, job_files, jobs
from rough_draw.store.database import TooNew, open_database
from tests.depth import drawn


def reading(at: float, pa: float | None = 30.0, key: str | None = None) -> jobs.NewReading:
    return jobs.NewReading("Gauge 1", at, pa, key)


def test_migrations_run_once_and_are_recorded(tmp_path: Path) -> None:
    path = tmp_path / "x" / "a.sqlite3"
    db = open_database(path)
    assert {"job", "reading", "touch", "revision", "kit"} <= set(db.get_tables())
    assert db.pragma("journal_mode") == "wal"
    jobs.create(Job(title="kept"), "kept")
    db.close()
    open_database(path)
    assert jobs.get("kept").job.title == "kept"


def test_a_later_database_is_refused_not_harmed(tmp_path: Path) -> None:
    path = tmp_path / "a.sqlite3"
    db = open_database(path)
    table = next(t for t in db.get_tables() if "history" in t or "migration" in t)
    columns = [c.name for c in db.get_columns(table)]
    name = next(c for c in columns if "name" in c or "migration" in c)
    db.execute_sql(f"INSERT INTO {table} SELECT * FROM {table} WHERE 0")
    row = dict(zip(columns, db.execute_sql(f"SELECT * FROM {table}").fetchone(), strict=True))
    row[name] = "9999_from_the_future"
    row.pop("id", None)
    places = ",".join("?" * len(row))
    db.execute_sql(f"INSERT INTO {table} ({','.join(row)}) VALUES ({places})", tuple(row.values()))
    db.close()
    with pytest.raises(TooNew, match="database-too-new"):
        open_database(path)


def test_versions_conflict_and_undo(db: SqliteDatabase) -> None:
    first = jobs.create(Job(title="one"))
    assert not first.can_undo
    second = jobs.save(first.key, first.version, Job(title="two"))
    with pytest.raises(jobs.Conflict) as caught:
        jobs.save(first.key, first.version, Job(title="late"))
    assert caught.value.current == second.version
    back = jobs.undo(first.key)
    assert back.job.title == "one"
    assert back.version > second.version
    with pytest.raises(jobs.NothingToUndo):
        jobs.undo(first.key)


def test_a_sheet_that_is_sent_again_is_no_conflict(db: SqliteDatabase) -> None:
    """The answer to the first was lost, or two pages of one device send what it had kept."""
    first = jobs.create(Job(title="one"))
    second = jobs.save(first.key, first.version, Job(title="two"))
    again = jobs.save(first.key, first.version, Job(title="two"))
    assert again == second
    third = jobs.save(first.key, second.version, Job(title="three"))
    with pytest.raises(jobs.Conflict):
        jobs.save(first.key, first.version, Job(title="two"))
    assert jobs.get(first.key) == third


def test_saving_the_same_sheet_changes_nothing(db: SqliteDatabase) -> None:
    s = jobs.create(Job(title="one"))
    assert jobs.save(s.key, s.version, Job(title="one")).version == s.version


def test_a_reading_sent_twice_is_stored_once(db: SqliteDatabase) -> None:
    key = jobs.create(Job()).key
    assert jobs.add_readings(key, [reading(1.0, key="a"), reading(2.0, None, "b")], "typed") == 2
    assert jobs.add_readings(key, [reading(1.0, key="a"), reading(3.0, key="c")], "typed") == 1
    found = jobs.readings(key)[0]
    assert found.at.tolist() == [1.0, 2.0, 3.0]
    assert found.pa[0] == 30.0
    assert found.pa[1] != found.pa[1]


def test_no_such_job(db: SqliteDatabase) -> None:
    for call in (lambda: jobs.get("nope"), lambda: jobs.add_touch("nope", "note", 1.0), lambda: jobs.undo("nope")):
        with pytest.raises(jobs.NotFound):
            call()


def test_deleting_takes_everything_along(db: SqliteDatabase) -> None:
    key = jobs.create(Job()).key
    jobs.add_readings(key, [reading(1.0)], "typed")
    jobs.add_touch(key, "pump-on", 1.0)
    jobs.delete(key)
    assert jobs.readings(key) == []
    assert jobs.touches(key) == []


WRITER = """
import sys
from rough_draw.core.sheet.job import Job
from rough_draw.store import jobs
from rough_draw.store.database import open_database
open_database(sys.argv[1])
key = jobs.create(Job(), "run").key
for k in range(100000):
    jobs.add_readings(key, [jobs.NewReading("g", float(k), 1.0)], "gauge")
    print(k, flush=True)
"""


@pytest.mark.parametrize("after", [0.15, 0.4, 0.9])
def test_acknowledged_readings_survive_kill_9(tmp_path: Path, after: float) -> None:
    path = tmp_path / "k.sqlite3"
    with subprocess.Popen([sys.executable, "-c", WRITER, str(path)], stdout=subprocess.PIPE, text=True) as p:
        assert p.stdout is not None
        p.stdout.readline()
        time.sleep(after)
        os.kill(p.pid, signal.SIGKILL)
        told = p.stdout.read().split()
    last = int(told[-1]) if told else 0
    open_database(path)
    stored = jobs.readings("run")[0].at
    assert stored.size >= last + 1
    assert stored[: last + 1].tolist() == [float(k) for k in range(last + 1)]


def filled() -> str:
    key = jobs.create(Job(title="t", party=Party(customer="=cmd()", unit="u"))).key
    jobs.add_readings(key, [reading(1000.0 + k, None if k < 2 else 500.0 / (k + 1)) for k in range(20)], "gauge")
    jobs.add_touch(key, "pump-on", 1000.0)
    jobs.add_touch(key, "isolate", 1010.0, "+danger")
    return key


def test_a_job_out_and_in_again_is_equal(db: SqliteDatabase) -> None:
    key = filled()
    out = job_files.dump(key)
    with pytest.raises(job_files.Duplicate, match="file-here-already"):
        job_files.load(job_files.parse(out.model_dump_json().encode()))
    copy = job_files.load(job_files.parse(out.model_dump_json().encode()), again=True)
    assert copy != key
    assert job_files.dump(copy).model_dump(exclude={"key"}) == out.model_dump(exclude={"key"})
    jobs.delete(key)
    assert job_files.load(job_files.parse(out.model_dump_json().encode())) == key


def test_readings_csv_reads_back_with_its_hold(db: SqliteDatabase) -> None:
    from rough_draw.core.readings.csv_table import read_table
    from rough_draw.core.readings.series import find_hold

    text = csv_tables.readings_csv(filled())
    assert "OVER" in text
    assert not any(cell[:1] in "=+@" for line in text.splitlines() for cell in line.split(",") if cell)
    found = read_table(text.encode())
    assert found.main().time.size == 20
    assert find_hold(found.main()) == pytest.approx(10.0)
    assert csv_tables.safe_cell("=1+1") == "'=1+1"


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"{", "file-not-json"),
        (b"[]", "file-no-object"),
        (b"\xff{}", "file-not-utf8"),
        (b'{"format":"rough-draw/job","version":9}', "version"),
        (b'{"format":"rough-draw/job","scope":{"ambient_c":900}}', "scope.ambient_c"),
        (b'{"format":"rough-draw/job","surprise":1}', "surprise"),
        (b"[" * 100_000, "file-too-deep"),
    ],
)
def test_faulty_job_files_say_where(data: bytes, says: str) -> None:
    with pytest.raises(job_files.FileFault, match=says):
        job_files.parse(data)


def test_nothing_is_half_imported(db: SqliteDatabase) -> None:
    file = job_files.JobFile(key="half", job=Job(), readings=[job_files.FileSeries(gauge="g", at=[1, 2], pa=[1.0])])
    with pytest.raises(job_files.FileFault, match="file-uneven"):
        job_files.load(file)
    assert jobs.listing() == []


def test_the_published_schema_accepts_what_is_exported(db: SqliteDatabase) -> None:
    import jsonschema

    schema = json.loads((Path(__file__).parents[2] / "docs" / "job-file.schema.json").read_text())
    jsonschema.validate(json.loads(job_files.dump(filled()).model_dump_json()), schema)
    assert schema == job_files.JobFile.model_json_schema(mode="serialization")


def test_world_obeys_and_repeats(job: Job) -> None:
    def levels(seed: int) -> list[float]:
        w = World(job, Truth(unknowns=random_truth(seed).unknowns, seed=5))
        out = []
        for at, kind in ((0.0, "pump-on"), (300.0, "isolate"), (310.0, "pump-off")):
            w.advance(at)
            w.touch(kind)
            out.append(w.pressure(w.assembly.gauge_node))
        w.advance(900.0)
        return [*out, w.pressure(w.assembly.gauge_node)]

    a = levels(3)
    assert a == levels(3)
    assert a != levels(4)
    start, drawn, isolated, held = a
    assert drawn < 0.01 * start
    assert held > isolated
    assert held < 2000


def test_truth_out_and_in() -> None:
    t = random_truth(9)
    assert Truth.from_dict(json.loads(json.dumps(t.as_dict()))) == t
    with pytest.raises(TypeError):
        Truth.from_dict({"unknowns": {"nonsense": 1}})


def test_a_played_job_goes_in_order(job: Job) -> None:
    played = play(job, random_truth(2), hold_min=2)
    kinds = [t.kind for t in played.touches]
    assert kinds == ["ballast-open", "pump-on", "ballast-shut", "valve-flush", "isolate", "pump-off"]
    times = [t for t, _ in played.readings]
    assert times == sorted(times)
    assert played.reached


def test_report_is_a_pdf_of_few_pages(job: Job) -> None:
    import numpy as np

    from rough_draw.store.report.build import render
    from rough_draw.store.report.record import Record

    rl_config.pageCompression = 0
    played = play(job, random_truth(2), hold_min=4)
    at = np.array([t for t, _ in played.readings])
    pa = np.array([np.nan if p is None else p for _, p in played.readings])
    data = render(
        Record(
            job=job,
            touches=tuple(played.touches),
            at=at,
            pa=pa,
            gauge="Gauge 1",
            verdict=None,
            hold_start=None,
            inside="",
            inputs_hash="",
        )
    )
    assert data.startswith(b"%PDF-")
    assert 1 <= data.count(b"/Type /Page\n") <= 3
    empty = render(
        Record(
            job=Job(scope=Scope()),
            touches=(),
            at=None,
            pa=None,
            gauge="",
            verdict=None,
            hold_start=None,
            inside="",
            inputs_hash="",
        )
    )
    assert empty.startswith(b"%PDF-")


def test_two_writers_wait_for_each_other(db: SqliteDatabase) -> None:
    from concurrent.futures import ThreadPoolExecutor

    key = jobs.create(Job()).key

    def write(n: int) -> None:
        for k in range(20):
            jobs.add_touch(key, "note", float(n * 100 + k))
            jobs.add_readings(key, [reading(float(n * 100 + k))], "typed")

    with ThreadPoolExecutor(6) as pool:
        list(pool.map(write, range(6)))
    assert len(jobs.touches(key)) == 120
    assert jobs.readings(key)[0].at.size == 120


@settings(max_examples=drawn(12))
@given(st.integers(0, 10_000), st.sampled_from(["new-dry", "flooded", "open-hours"]))
def test_a_world_outlives_any_handling(seed: int, condition: str) -> None:
    sheet = Job(scope=Scope(condition=condition), rig=rig_from("three-tools", Scope()))  # type: ignore[arg-type]
    w = World(sheet, random_truth(seed))
    at = 0.0
    for wait, kind in (
        (2, "pump-on"),
        (60, "isolate"),
        (20, "pump-off"),
        (600, "pump-on"),
        (6, "reopen"),
        (600, "pump-off"),
        (600, "pump-on"),
        (30, "ballast-open"),
    ):
        at += wait
        w.advance(at)
        w.touch(kind)
    w.advance(at + 600)
    assert 0 < w.pressure(w.assembly.gauge_node) < 102_000
