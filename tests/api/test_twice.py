"""What is sent twice is done once: a table taken in, an edit taken back."""

from __future__ import annotations

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.builders import usual_job
from tests.one_app import app_on

TABLE = "time,micron\n" + "\n".join(f"2026-03-02 08:{m:02d}:00,{900 - 10 * m}" for m in range(60))


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "twice.sqlite3")) as client:
        yield client


@pytest.fixture
def key(api: TestClient) -> str:
    return str(api.post("/api/jobs", json=usual_job("one-hose-valved-gauge").model_dump(mode="json")).json()["key"])


def taken(api: TestClient, key: str, table: str = TABLE, **said: Any) -> dict[str, Any]:
    sent = {"file": ("t.csv", table.encode(), "text/csv")}
    answer = api.post(f"/api/jobs/{key}/import", params={"commit": True, **said}, files=sent)
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def total(api: TestClient, key: str) -> int:
    return sum(s["total"] for s in api.get(f"/api/jobs/{key}/readings").json())


def test_a_table_is_taken_once_however_often_it_is_sent(api: TestClient, key: str) -> None:
    assert not taken(api, key)["already_here"]
    assert taken(api, key)["already_here"]
    assert total(api, key) == 60
    with ThreadPoolExecutor(6) as many:
        found = list(many.map(lambda _: taken(api, key, TABLE + "\n2026-03-02 09:00:00,300"), range(6)))
    assert sum(not f["already_here"] for f in found) == 1
    assert total(api, key) == 60 + 61


def test_another_moment_is_another_table(api: TestClient, key: str) -> None:
    elapsed = "time (s),micron\n" + "\n".join(f"{60 * m},{900 - 10 * m}" for m in range(60))
    assert not taken(api, key, elapsed, began="2026-03-02T08:00:00Z")["already_here"]
    assert not taken(api, key, elapsed, began="2026-03-03T08:00:00Z")["already_here"]
    assert taken(api, key, elapsed, began="2026-03-03T08:00:00Z")["already_here"]
    assert total(api, key) == 120


def test_what_is_shown_before_it_is_taken_takes_nothing(api: TestClient, key: str) -> None:
    sent = {"file": ("t.csv", TABLE.encode(), "text/csv")}
    shown = api.post(f"/api/jobs/{key}/import", files=sent).json()
    assert (shown["committed"], shown["already_here"]) == (False, False)
    assert total(api, key) == 0


def test_two_presses_take_back_one_edit(api: TestClient, key: str) -> None:
    for title in ("one", "two"):
        found = api.get(f"/api/jobs/{key}").json()
        body = {"version": found["version"], "job": {**found["job"], "title": title}}
        assert api.put(f"/api/jobs/{key}", json=body).status_code == 200
    meant = api.get(f"/api/jobs/{key}").json()["version"]
    with ThreadPoolExecutor(4) as many:
        codes = list(
            many.map(lambda _: api.post(f"/api/jobs/{key}/undo", json={"version": meant}).status_code, range(4))
        )
    assert sorted(codes) == [200, 409, 409, 409]
    assert api.get(f"/api/jobs/{key}").json()["job"]["title"] == "one"
    # Who does not say which takes back the last, as ever.
    assert api.post(f"/api/jobs/{key}/undo").status_code == 200
    assert api.get(f"/api/jobs/{key}").json()["job"]["title"] != "one"
