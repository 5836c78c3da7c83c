"""Moments by clocks that are off: a phone's is put right and told, the server's own changes no order."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.api.run import clock
from rough_draw.api.run.clock import DOUBT_S, FOLLOWS_S, HELD_UP_S, skew_of, stamp
from rough_draw.store import jobs
from tests.builders import usual_job
from tests.one_app import app_on


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "clock.sqlite3")) as client:
        yield client


@pytest.fixture
def key(api: TestClient) -> str:
    return str(api.post("/api/jobs", json=usual_job("one-hose-valved-gauge").model_dump(mode="json")).json()["key"])


@given(off=st.floats(-1e7, 1e7), age=st.floats(0, 1e5))
def test_what_a_device_stamped_comes_out_as_long_ago_as_it_was(off: float, age: float) -> None:
    now = 1.8e9
    theirs = now + off
    made = theirs - age
    assert made + skew_of(theirs, now) == pytest.approx(now - age, abs=(DOUBT_S if off > 0 else HELD_UP_S) + 1e-3)
    assert skew_of(None, now) == 0.0


@pytest.mark.parametrize("off", [-5400.0, 240.0, -3 * 86_400.0])
def test_touches_of_two_phones_stand_in_the_order_they_were_made(api: TestClient, key: str, off: float) -> None:
    """The pump was started on a phone whose clock is off, and isolated five minutes later on one that is right."""
    now = time.time()
    wrong = now + off
    first = {"kind": "pump-on", "at": wrong - 600, "sent_at": wrong, "key": "a"}
    then = {"kind": "isolate", "at": now - 300, "sent_at": now, "key": "b"}
    for body in (then, first):
        assert api.post(f"/api/jobs/{key}/touches", json=body).status_code == 201
    told = api.get(f"/api/jobs/{key}/touches").json()
    assert [t["kind"] for t in told] == ["pump-on", "isolate"]
    assert told[0]["at"] == pytest.approx(now - 600, abs=DOUBT_S)
    assert "clock" in told[0]["note"]
    assert told[1]["note"] == ""
    # Sent again it is the one that is there, whatever the clock says by then.
    again = api.post(f"/api/jobs/{key}/touches", json={**first, "sent_at": wrong + 60}).json()
    assert again["at"] == told[0]["at"]
    assert len(api.get(f"/api/jobs/{key}/touches").json()) == 2


@pytest.mark.parametrize("held_up", [0.0, 6.0, 12.0, 25.0])
def test_what_is_held_up_on_its_way_stands_in_the_order_it_was_made(api: TestClient, key: str, held_up: float) -> None:
    """Made a quarter of a second apart without signal; the first of them was long on its way."""
    now = time.time()
    first = {"kind": "note", "note": "first", "at": now - 60, "sent_at": now - held_up, "key": "a"}
    then = {"kind": "note", "note": "then", "at": now - 59.75, "sent_at": now, "key": "b"}
    for body in (first, then):
        assert api.post(f"/api/jobs/{key}/touches", json=body).status_code == 201
    told = api.get(f"/api/jobs/{key}/touches").json()
    assert [t["note"] for t in told] == ["first", "then"]
    assert [t["at"] for t in told] == pytest.approx([now - 60, now - 59.75])


def test_readings_typed_by_a_clock_that_is_off_stand_where_they_were_read(api: TestClient, key: str) -> None:
    now = time.time()
    wrong = now - 7200
    body = {"gauge": "typed", "readings": [{"at": wrong - 60, "pa": 80.0, "key": "r"}], "sent_at": wrong}
    assert api.post(f"/api/jobs/{key}/readings", json=body).status_code == 201
    assert api.get(f"/api/jobs/{key}/readings").json()[0]["at"][0] == pytest.approx(now - 60, abs=DOUBT_S)


def test_a_server_clock_that_is_set_back_changes_no_order(
    api: TestClient, key: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    kinds = ["pump-on", "ballast-open", "ballast-shut", "isolate", "pump-off"]
    clocks = iter([1.8e9, 1.8e9 + 60, 1.8e9 - 3000, 1.8e9 - 2900, 1.8e9 + 200])
    for kind in kinds:
        now = next(clocks)
        monkeypatch.setattr(clock, "time", type("T", (), {"time": staticmethod(lambda now=now: now)}))
        assert api.post(f"/api/jobs/{key}/touches", json={"kind": kind}).status_code == 201
    assert [t["kind"] for t in api.get(f"/api/jobs/{key}/touches").json()] == kinds


def test_nothing_follows_a_log_that_is_far_ahead(api: TestClient, key: str) -> None:
    jobs.add_touch(key, "note", 1.8e9 + 2 * FOLLOWS_S)
    assert stamp(key, 1.8e9) == 1.8e9
    jobs.add_touch(key, "note", 1.8e9 - 50)
    assert stamp(key, 1.8e9) == 1.8e9
