"""A server that is started for the first time answers at once, and says what it still makes."""

from __future__ import annotations

import threading
import time
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api import app, runs
from rough_draw.api.app import create_app
from rough_draw.api.preparing import Preparation
from rough_draw.store import jobs
from tests.browser.waits import until
from tests.builders import usual_job


def preparing(api: TestClient) -> Any:
    return api.get("/api/health").json()["preparing"]


def gone(api: TestClient) -> None:
    until(lambda: preparing(api), lambda p: p is None, 20)


TABLE = "time (s),micron\n" + "\n".join(f"{t},{180 + t / 60:.1f}" for t in range(0, 1200, 10))
HOLD = {"text": TABLE, "volume_l": 8, "isolated_at_s": 0}


def test_the_engine_is_made_beside_and_what_needs_it_is_to_be_asked_for_again(tmp_path: Path) -> None:
    go = threading.Event()
    before = [Preparation("engine", lambda: go.wait(20) and None, 60.0)]
    with TestClient(create_app(tmp_path / "x.sqlite3", warm=False, before=before)) as api:
        until(lambda: preparing(api), lambda p: p is not None and p["what"] == "engine")
        assert preparing(api)["usual_s"] == 60.0
        # What needs no engine works; what does says why not, and when.
        assert api.get("/api/catalogue").status_code == 200
        key = api.post("/api/jobs", json=usual_job("one-hose-valved-gauge").model_dump(mode="json")).json()["key"]
        for answer in (api.get(f"/api/jobs/{key}/plan"), api.post("/api/hold", json=HOLD)):
            assert answer.status_code == 503, answer.text
            assert answer.headers["content-type"].startswith("application/problem+json")
        # A job that cannot be worked out yet keeps nobody from the Yard.
        assert [r["key"] for r in api.get("/api/jobs").json()] == [key]
        go.set()
        gone(api)
        assert api.get(f"/api/jobs/{key}/plan?first=true").status_code == 200
        assert api.post("/api/hold", json=HOLD).status_code == 200


def test_the_demo_comes_after_it_and_what_fails_keeps_nothing_back(tmp_path: Path) -> None:
    order: list[str] = []

    def fails() -> None:
        order.append("engine")
        raise OSError("no compiler")

    def made() -> None:
        order.append("demo")
        jobs.create(usual_job("one-hose-valved-gauge"), key="made")

    with TestClient(
        create_app(
            tmp_path / "x.sqlite3",
            warm=False,
            before=[Preparation("engine", fails, 1.0), Preparation("demo", made, 1.0)],
        )
    ) as api:
        gone(api)
        assert order == ["engine", "demo"]
        assert [r["key"] for r in api.get("/api/jobs").json()] == ["made"]
        assert api.post("/api/hold", json=HOLD).status_code == 200


def test_with_nothing_to_prepare_all_is_ready_at_once(tmp_path: Path) -> None:
    with TestClient(create_app(tmp_path / "x.sqlite3", warm=False)) as api:
        assert preparing(api) is None


def test_a_server_that_has_ended_works_nothing_out_any_more(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    begun = threading.Event()

    def slow(stored: jobs.StoredJob) -> Any:
        begun.set()
        time.sleep(0.5)
        return runs.RunView(stored.job, [], runs.state_of(stored.job, []), [])

    monkeypatch.setattr(app.runs, "view_of", slow)
    made = create_app(tmp_path / "x.sqlite3")
    for n in range(3):
        jobs.create(usual_job("one-hose-valved-gauge"), key=f"job-{n}")
    with TestClient(made) as api:
        assert begun.wait(60), "it looks through the jobs once its engine is loaded"
        assert api.get("/api/health").status_code == 200
    assert [t.name for t in threading.enumerate() if t.name == app.WARMING] == []
