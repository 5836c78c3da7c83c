"""One job that cannot be read or worked out: every shared page answers for the others and names it, and nothing of it
is lost."""

from __future__ import annotations

import json
import sqlite3
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api import each_job
from rough_draw.store import jobs, kit_log, shelf
from rough_draw.store.models import database
from tests.one_app import app_on
from tests.worlds import ODD_SHEETS

SHARED = ("jobs", "day", "day.ics", "pumps", "ahead", "alarms", "history", "kit", "settings")


@pytest.fixture
def two(client: TestClient) -> tuple[str, str]:
    """A job that is to go wrong, and another."""
    bad, good = (
        client.post("/api/jobs", json={"party": {"customer": name, "unit": "Room"}}).json()["key"]
        for name in ("Torn Lane", "Whole Lane")
    )
    return bad, good


def spoilt(key: str, document: str) -> None:
    with database.atomic():
        database.execute_sql("UPDATE job SET document = ? WHERE key = ?", (document, key))


@pytest.mark.parametrize("document", ODD_SHEETS)
def test_a_sheet_that_cannot_be_read_takes_no_page_down(
    client: TestClient, two: tuple[str, str], document: str
) -> None:
    bad, good = two
    spoilt(bad, document)
    for path in SHARED:
        answer = client.get(f"/api/{path}")
        assert answer.status_code == 200, (path, answer.text)
    rows = {r["key"]: r for r in client.get("/api/jobs").json()}
    assert set(rows) == {bad, good}
    assert "cannot be read" in rows[bad]["words"]
    assert "cannot be read" not in rows[good]["words"]
    assert client.get(f"/api/jobs/{good}").status_code == 200
    # Its own pages say it too, and none of them falls.
    for path in ("", "/stages", "/live", "/plan", "/verdict", "/record.pdf", "/rig", "/why"):
        answer = client.get(f"/api/jobs/{bad}{path}")
        assert answer.status_code in (404, 409), (path, answer.text)
        assert answer.headers["content-type"] == "application/problem+json"


@pytest.mark.parametrize("document", ODD_SHEETS)
def test_nothing_of_it_is_lost(client: TestClient, two: tuple[str, str], document: str) -> None:
    bad, _ = two
    reading = {"at": time.time(), "pa": 30.0, "key": "one"}
    posted = client.post(f"/api/jobs/{bad}/readings", json={"gauge": "typed", "readings": [reading]})
    assert posted.status_code == 201, posted.text
    before = client.get(f"/api/jobs/{bad}").json()
    changed = before["job"] | {"title": "Changed"}
    assert client.put(f"/api/jobs/{bad}", json={"version": before["version"], "job": changed}).is_success
    spoilt(bad, document)
    out = client.get(f"/api/jobs/{bad}/job.json").json()
    assert out["readings"][0]["pa"] == [30.0]
    # As an object where it is one, and in its own characters where it is none.
    assert out["job"] == document or out["job"] == json.loads(document)
    assert client.post(f"/api/jobs/{bad}/undo").status_code == 200
    assert client.get(f"/api/jobs/{bad}").json()["job"] == before["job"]
    spoilt(bad, document)
    assert client.delete(f"/api/jobs/{bad}").status_code == 204
    assert bad not in {r["key"] for r in client.get("/api/jobs").json()}


def test_it_is_still_known_by_its_names(client: TestClient, two: tuple[str, str]) -> None:
    bad, _ = two
    spoilt(bad, json.dumps({"party": {"customer": "Torn Lane", "unit": "Room"}, "scope": {"sections": 5}}))
    row = next(r for r in client.get("/api/jobs").json() if r["key"] == bad)
    assert (row["customer"], row["unit"]) == ("Torn Lane", "Room")


def drawn(client: TestClient, key: str) -> None:
    """A draw with a simulated gauge, and an alarm set on it."""
    found = client.get(f"/api/jobs/{key}").json()
    job = found["job"] | {"alarms": [{"kind": "under", "micron": 5}]}
    assert client.put(f"/api/jobs/{key}", json={"version": found["version"], "job": job}).is_success
    assert client.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"}).is_success
    assert client.post(f"/api/jobs/{key}/standin", json={"speed": 60}).is_success


def failing(key: str, real: Callable[..., Any]) -> Callable[..., Any]:
    """What reads a job's rows, as it is where the file is damaged there."""

    def read(asked: str, *more: Any, **named: Any) -> Any:
        if asked == key:
            raise sqlite3.DatabaseError("database disk image is malformed")
        return real(asked, *more, **named)

    return read


def test_who_set_an_alarm_on_a_job_that_fails_is_called(
    client: TestClient, two: tuple[str, str], monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    bad, good = two
    for key in two:
        drawn(client, key)
    each_job._logged.clear()
    monkeypatch.setattr(jobs, "readings", failing(bad, jobs.readings))
    end = time.monotonic() + 30.0
    rings: list[Any] = []
    while not rings and time.monotonic() < end:
        rings = client.get("/api/alarms").json()
        time.sleep(0.2)
    assert [(r["job"], r["key"]) for r in rings] == [(bad, "unwatched")]
    rows = {r["key"]: r for r in client.get("/api/jobs").json()}
    assert "cannot be worked out" in rows[bad]["words"]
    assert rows[good]["live"]
    # Looked at again and again, it stands in the log once.
    time.sleep(1.2)
    client.get("/api/alarms")
    assert [r.getMessage() for r in caplog.records].count(f"job {bad} cannot be worked out") == 1


def test_after_a_restart_the_gauges_of_the_others_are_read_again(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "r.sqlite3"
    with TestClient(app_on(path), base_url="http://localhost") as client:
        bad, good = (client.post("/api/jobs", json={}).json()["key"] for _ in range(2))
        for key in (bad, good):
            drawn(client, key)
    monkeypatch.setattr(jobs, "touches", failing(bad, jobs.touches))
    with TestClient(app_on(path), base_url="http://localhost") as client:
        end = time.monotonic() + 60.0
        while not client.get(f"/api/jobs/{good}/live").json()["standin"]:
            assert time.monotonic() < end, "the gauge of the good job is not read again"
            time.sleep(0.1)


@pytest.mark.parametrize("at", [-7.0, 1e308, 253_402_300_800.0])
def test_a_stamp_that_an_earlier_version_let_in_stops_no_page_and_no_file(
    client: TestClient, two: tuple[str, str], at: float
) -> None:
    bad, _ = two
    client.post(f"/api/jobs/{bad}/touches", json={"kind": "pump-on"})
    reading = {"at": time.time(), "pa": 30.0, "key": "one"}
    posted = client.post(f"/api/jobs/{bad}/readings", json={"gauge": "typed", "readings": [reading]})
    assert posted.status_code == 201, posted.text
    with database.atomic():
        database.execute_sql("UPDATE touch SET at = ? WHERE job_id = ?", (at, bad))
        database.execute_sql("UPDATE reading SET at = ? WHERE job_id = ?", (at, bad))
    for path in SHARED:
        assert client.get(f"/api/{path}").status_code == 200, path
    for path in ("job.json", "readings.csv", "record.pdf", "page.pdf", "live", "stages"):
        assert client.get(f"/api/jobs/{bad}/{path}").status_code == 200, path
    out = client.get(f"/api/jobs/{bad}/job.json").json()
    assert (out["touches"][0]["at"], out["readings"][0]["at"]) == (at, [at])


def test_an_event_of_the_kit_without_its_figure_is_passed_over(client: TestClient) -> None:
    number = shelf.add_kit("pump", "Old Bess", {"id": "pump", "kind": "pump"})
    with database.atomic():
        for document in ("{}", "[]", "7", '{"micron": "low"}', '{"micron": 40.0}'):
            database.execute_sql(
                "INSERT INTO kit_event (kit, kind, job, at, document, verdict, words) VALUES (?, ?, ?, ?, ?, ?, ?)",
                (number, "blank-off", f"job-{document}", 1.7e9, document, "good", ""),
            )
    assert client.get("/api/kit").status_code == 200
    assert len(kit_log.history([number])[number]) == 1
