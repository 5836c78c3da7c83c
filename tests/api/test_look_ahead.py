"""Who watches a draw that strikes the eye has the answer before asking why; nobody else pays for it."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api.app import create_app
from rough_draw.api.diagnosis import cases
from rough_draw.core.diagnosis.diagnosis import look_into
from tests.api.test_live import drawing
from tests.browser.waits import until


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(create_app(tmp_path / "ahead.sqlite3", warm=False)) as client:
        yield client


@pytest.fixture
def looks(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """In which thread each look was made; what draws of other tests had wished for is out of the way."""
    cases._beforehand.submit(lambda: None).result(120)
    made: list[str] = []

    def counted(*given: Any) -> Any:
        found = look_into(*given)
        made.append(threading.current_thread().name)
        return found

    monkeypatch.setattr(cases, "look_into", counted)
    return made


def test_it_is_looked_into_while_it_is_watched(api: TestClient, looks: list[str]) -> None:
    key, _ = drawing(api, "ballast", minutes=20)
    assert api.get(f"/api/jobs/{key}/live").json()["sign"]
    until(lambda: len(looks), lambda n: n == 1)
    assert looks[0].startswith("look")
    assert api.get(f"/api/jobs/{key}/why").json()["suspects"]
    api.get(f"/api/jobs/{key}/live")
    assert len(looks) == 1
    # Who asks for a fresh look gets one.
    assert api.delete(f"/api/jobs/{key}/why/answers").status_code == 200
    assert len(looks) == 2


def test_a_sound_draw_and_the_yard_start_none(api: TestClient, looks: list[str]) -> None:
    sound, _ = drawing(api, minutes=4)
    assert api.get(f"/api/jobs/{sound}/live").json()["sign"] is None
    drawing(api, "ballast", minutes=20)
    assert len(api.get("/api/jobs").json()) == 2
    cases._beforehand.submit(lambda: None).result(20)
    assert looks == []


def test_a_job_that_cannot_be_looked_into_ends_nothing(api: TestClient, looks: list[str]) -> None:
    key, _ = drawing(api, "ballast", minutes=20)
    run = cases.runs.view(key)
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-off"})
    cases.ahead(key, cases.runs.view(key))
    cases._beforehand.submit(lambda: None).result(20)
    assert looks == []
    cases.ahead(key, run)
    until(lambda: len(looks), lambda n: n == 1)
