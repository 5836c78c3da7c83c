"""Who watches a draw that strikes the eye has the answer before asking why; nobody else pays for it."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api.diagnosis import cases
from rough_draw.core.diagnosis.diagnosis import look_into
from tests.api.test_beside import drained, held_up
from tests.api.test_live import drawing
from tests.browser.waits import until
from tests.depth import whole
from tests.one_app import app_on


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "ahead.sqlite3")) as client:
        yield client


@pytest.fixture
def looks(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """In which thread each look was made; what draws of other tests had wished for is out of the way."""
    drained(cases._beforehand)
    monkeypatch.setattr(cases, "_looks", cases._Looks())
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
    drained(cases._beforehand)
    assert looks == []


def test_a_job_that_cannot_be_looked_into_ends_nothing(api: TestClient, looks: list[str]) -> None:
    key, _ = drawing(api, "ballast", minutes=20)
    run = cases.runs.view(key)
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-off"})
    cases.ahead(key, cases.runs.view(key))
    drained(cases._beforehand)
    assert looks == []
    cases.ahead(key, run)
    until(lambda: len(looks), lambda n: n == 1)


def test_a_look_that_breaks_rests_as_any(api: TestClient, looks: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    key, _ = drawing(api, "ballast", minutes=20)

    def breaks(*given: Any) -> Any:
        time.sleep(0.2)
        raise RuntimeError("broken")

    monkeypatch.setattr(cases, "look_into", breaks)
    begun = time.monotonic()
    cases.ahead(key, cases.runs.view(key))
    drained(cases._beforehand)
    assert cases._looks.rest_until > begun + 0.2 * (1.0 + cases.REST)


@whole
def test_looks_that_nobody_asked_for_rest_between_and_are_not_made_again(api: TestClient, looks: list[str]) -> None:
    """Of many draws that strike the eye: they are looked into in turn, in no more than their share of the time."""
    keys = [drawing(api, "ballast", minutes=20)[0] for _ in range(3)]
    for key in keys:
        api.get(f"/api/jobs/{key}/live")
    until(lambda: cases._looks.rest_until, lambda at: at > time.monotonic())
    drained(cases._beforehand)
    made = len(looks)
    cases._looks.rest_until = time.monotonic() + 600.0
    late, _ = drawing(api, "ballast", minutes=20)
    for key in (*keys, late):
        api.get(f"/api/jobs/{key}/live")
    drained(cases._beforehand)
    assert len(looks) == made, "they rest"
    # Whoever asks why is answered all the same.
    assert api.get(f"/api/jobs/{late}/why").json()["suspects"]
    assert len(looks) == made + 1
    # A case that had to make room is not looked into again for nothing.
    cases._looks.rest_until = 0.0
    cases._places.clear()
    api.get(f"/api/jobs/{keys[0]}/live")
    drained(cases._beforehand)
    assert len(looks) == made + 1


def test_wishes_that_wait_are_few(api: TestClient, looks: list[str]) -> None:
    key, _ = drawing(api, "ballast", minutes=20)
    run, go = cases.runs.view(key), held_up(cases._beforehand)
    for n in range(20):
        cases.ahead(f"wish-{n}", run)
    cases.ahead("asked", run, asked=True)
    # Of one that waits the latest run counts, and here is nothing to look into.
    empty = cases.runs.RunView(run.job, [], cases.runs.state_of(run.job, []), [])
    for key in ("wish-0", "wish-1", "wish-2", "asked"):
        cases.ahead(key, empty)
    assert cases._beforehand.waiting() == ["wish-0", "wish-1", "wish-2", "asked"]
    go.set()
    drained(cases._beforehand)
    assert looks == []
