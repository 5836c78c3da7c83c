"""Columns with something in them that no version wrote: text where a number stands, kinds that nobody knows."""

from __future__ import annotations

import json
import time
from typing import Any, get_args

import numpy as np
import pytest
from fastapi.testclient import TestClient

from rough_draw.api.kit.routes import Kind
from rough_draw.core.message import message
from rough_draw.core.sheet.kit import KitItem
from rough_draw.store import jobs, models, people, shelf
from rough_draw.store.models import Table, database
from rough_draw.store.reading_cache import forget
from tests.api.test_odd_files import file as file
from tests.api.test_odd_files import paths
from tests.api.test_one_bad_job import SHARED
from tests.depth import first

NUMBERS = ("FLOAT", "INT", "REAL", "INTEGER")
BESIDE = ("people", "people/results", "practice", "practice/runs/odd", "templates", "kit.csv", "kit/labels.pdf")
TABLES = sorted(Table.__subclasses__(), key=lambda t: t._meta.table_name)


def numbers(table: type[Table]) -> list[str]:
    """Columns of a table that hold numbers, but for those it is found by."""
    return [f.column_name for f in table._meta.sorted_fields if f.field_type in NUMBERS and not f.primary_key]


def filled(client: TestClient, file: dict[str, Any]) -> str:
    """A job with readings, steps, a picture and weights; kit with events, people, sessions: a row in every table."""
    sent = {"file": ("job.json", json.dumps(file).encode())}
    found = client.post("/api/job-files?again=true", files=sent)
    assert found.is_success, found.text
    key = str(client.get("/api/jobs").json()[0]["key"])
    kit = shelf.add_kit("pump", "Pump 9", {"plate_cfm": 5})
    person = people.add("Ossi Brandt", "")
    now = time.time()
    shelf.add_template("Own", {})
    rows: list[tuple[type[Table], dict[str, Any]]] = [
        (models.KitEventRow, {"kit": kit, "kind": "run", "job": key, "at": now, "document": '{"hours": 2.0}'}),
        (models.ExamRow, {"key": "odd", "person": person.id, "name": "O", "level": 1, "seeds": "[1]", "began_at": now}),
        (models.OwnScenario, {"key": "odd", "document": "{}"}),
        (models.PracticeRun, {"key": "odd", "scenario": "odd", "document": "{}", "began_at": now, "exam": "odd"}),
        (models.Revision, {"job": key, "version": 1, "document": "{}", "at": now}),
        (models.Setting, {"key": "other", "document": "{}"}),
        (models.SignIn, {"token": "none", "person": person.id, "began_at": now, "seen_at": now}),
        (models.ChainRow, {"job": "gone", "number": 1, "kind": "x", "at": now, "body": "{}", "before": "", "hash": ""}),
    ]
    for table, values in rows:
        table.insert(**values).on_conflict_replace().execute()
    for table in TABLES:
        assert table.select().exists(), table
    return key


def looked_at(client: TestClient, key: str) -> None:
    """Every shared page, and every one of the job's own."""
    for page in (*SHARED, *BESIDE, *(p.removeprefix("/api/").replace("{key}", key) for p in paths(client))):
        if page.endswith(("/stream", "/news")):
            continue
        answer = client.get(f"/api/{page}")
        assert answer.status_code < 500, (page, answer.status_code, answer.text[:300])


@pytest.mark.parametrize("odd", first(1, ["many", b"\x00\xff", 9e999]))
def test_no_number_where_one_should_be_takes_no_page_down(
    client: TestClient, file: dict[str, Any], odd: str | bytes | float
) -> None:
    key = filled(client, file)
    for table in TABLES:
        name = table._meta.table_name
        for column in numbers(table):
            # Stored for good and put back: what is under way in one thread the server's do not see.
            before = database.execute_sql(f'SELECT "{column}", rowid FROM "{name}"').fetchall()
            database.execute_sql(f'UPDATE "{name}" SET "{column}" = ?', (odd,))
            for page in SHARED:
                answer = client.get(f"/api/{page}")
                assert answer.status_code == 200, (name, column, page, answer.text[:300])
            with database.atomic():
                for row in before:
                    database.execute_sql(f'UPDATE "{name}" SET "{column}" = ? WHERE rowid = ?', row)
    # All of them at once, on the job's own pages too.
    for table in TABLES:
        name = table._meta.table_name
        for column in numbers(table):
            database.execute_sql(f'UPDATE OR IGNORE "{name}" SET "{column}" = ?', (odd,))
    looked_at(client, key)


def test_a_reading_that_is_no_number_is_passed_over_and_not_made_up(client: TestClient, file: dict[str, Any]) -> None:
    key = filled(client, file)
    before = jobs.readings(key)[0]
    database.execute_sql("UPDATE reading SET pa = 'deep' WHERE id = (SELECT min(id) FROM reading)")
    forget(key)
    after = jobs.readings(key)[0]
    assert after.at.tolist() == before.at[1:].tolist()
    np.testing.assert_array_equal(after.pa, before.pa[1:])


def test_kinds_that_nobody_knows_take_no_page_down(client: TestClient, file: dict[str, Any]) -> None:
    key = filled(client, file)
    for table in TABLES:
        if "kind" in table._meta.fields:
            table.update(kind="warp-drive").execute()
    looked_at(client, key)
    assert "Pump 9" in client.get("/api/kit").text


@pytest.mark.parametrize("kind", get_args(Kind))
def test_every_kind_that_the_van_takes_is_called_by_its_name(kind: str) -> None:
    assert KitItem(1, kind, "One of them", {}).called == message(f"part-{kind}")


@pytest.mark.parametrize(
    ("kind", "values", "place"),
    [
        ("pump", {"speed_cfm": 5}, "values.speed_cfm"),
        ("pump", {"plate_cfm": "five"}, "values.plate_cfm"),
        ("hose", {"size": "7/8 in"}, "values.size"),
        ("hose", {"length_m": -1}, "values.length_m"),
        ("tool", {"bore_mm": 1e9}, "values.bore_mm"),
        ("gauge", {"over_micron": None}, "values.over_micron"),
    ],
)
def test_a_part_that_no_rig_could_take_is_refused_with_its_place(
    client: TestClient, kind: str, values: dict[str, Any], place: str
) -> None:
    answer = client.post("/api/kit", json={"kind": kind, "name": "Odd", "values": values})
    assert answer.status_code == 422, answer.text
    assert [f["place"] for f in answer.json()["faults"]] == [place]
    assert "inputs" not in answer.json()["detail"], "a sentence of the library's"
    assert client.get("/api/kit").json() == []


def test_a_part_that_no_rig_can_take_stays_in_the_van_and_is_proposed_nowhere(
    client: TestClient, file: dict[str, Any]
) -> None:
    key = filled(client, file)
    number = shelf.add_kit("pump", "Pump of a later year", {"speed_cfm": 5, "plate_cfm": 40})
    looked_at(client, key)
    assert "Pump of a later year" in client.get("/api/kit").text
    assert "Pump of a later year" not in client.get(f"/api/jobs/{key}/changes").text
    edited = client.post(f"/api/jobs/{key}/rig", json={"op": "kit", "part": "pump", "kit": number, "version": 1})
    assert edited.status_code in (409, 422), edited.text
