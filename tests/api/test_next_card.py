"""What the card says next: never to isolate what is not ready, and the pump stopped as the planner has it."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient

from rough_draw.core.interlock.orders import order
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.setups import rig_from
from rough_draw.standins.world import Truth, World
from tests.builders import scope
from tests.one_app import app_on

M = MICRON_PA


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "card.sqlite3")) as client:
        yield client


def stored(api: TestClient, job: Job) -> str:
    made = api.post("/api/jobs", content=job.model_dump_json(), headers={"content-type": "application/json"})
    assert made.status_code == 201, made.text
    return str(made.json()["key"])


def sheet(pattern: str = "one-hose-valved-gauge", school: str = "single-deep", **choice: Any) -> Job:
    on = scope("cooler", opened=True, condition="new-dry")
    criterion = CriterionChoice(school=school, **choice)  # type: ignore[arg-type]
    return Job(scope=on, rig=rig_from(pattern, on), criterion=criterion)


def drawn(api: TestClient, job: Job, minutes: float, until: float | None = None, truth: Truth | None = None) -> str:
    """A draw that has gone as its world goes; ``until`` micron: readings end where they come under it."""
    key = stored(api, job)
    world = World(job, truth or Truth(seed=3))
    world.touch("pump-on")
    rows: list[dict[str, Any]] = []
    for t in np.arange(5.0, minutes * 60.0, 5.0):
        world.advance(float(t))
        pa = world.read()
        rows.append({"at": float(t), "pa": pa, "key": f"{t:.0f}"})
        if until is not None and pa is not None and pa < until * M:
            break
    start = time.time() - rows[-1]["at"]
    for r in rows:
        r["at"] += start
    for kind in ("pump-on", "valve-flush"):
        api.post(f"/api/jobs/{key}/touches", json={"kind": kind, "at": start})
    assert api.post(f"/api/jobs/{key}/readings", json={"gauge": "Gauge 1", "readings": rows}).status_code < 300
    return key


def card(api: TestClient, key: str) -> list[dict[str, Any]]:
    return list(api.get(f"/api/jobs/{key}/live").json()["next"])


def rung(api: TestClient, key: str) -> list[str]:
    """What rings for a job; a look is shared for a second by all who ask."""
    time.sleep(1.1)
    return [r["key"] for r in api.get("/api/alarms").json() if r["job"] == key]


def test_a_dwell_is_kept_before_the_hold_may_begin(api: TestClient) -> None:
    key = drawn(api, sheet(target_micron=600, dwell_min=30), 40, until=590)
    kinds = [n["kind"] for n in card(api, key)]
    assert kinds[0] == "wait"
    isolate = next(n for n in card(api, key) if n["kind"] == "isolate")
    now = api.get(f"/api/jobs/{key}/live").json()["now"]
    assert 25 * 60 < isolate["due_at"] - now <= 30 * 60
    assert "due-isolate" not in rung(api, key)
    without = drawn(api, sheet(target_micron=600, dwell_min=0), 40, until=590)
    assert card(api, without)[0]["kind"] == "isolate"
    assert "due-isolate" in rung(api, without)


def sent(api: TestClient, key: str, micron: list[float]) -> float:
    """Readings a second apart, the last of them now, as a gauge sends them; the time of the last."""
    # None may come before those that are there.
    last = max(time.time(), api.get(f"/api/jobs/{key}/live").json()["reading_at"] + len(micron))
    rows = [{"at": last - n, "pa": x * M, "key": f"s{last - n}"} for n, x in enumerate(reversed(micron))]
    assert api.post(f"/api/jobs/{key}/readings", json={"gauge": "Gauge 1", "readings": rows}).status_code < 300
    return last


def due(api: TestClient, key: str) -> bool:
    """Whether the card calls to isolate now."""
    live = api.get(f"/api/jobs/{key}/live").json()
    first = live["next"][0]
    return first["kind"] == "isolate" and first["due_at"] is not None and first["due_at"] <= live["now"] + 1


def test_a_single_bad_reading_turns_no_step_round(api: TestClient) -> None:
    key = drawn(api, sheet(target_micron=600, dwell_min=0), 40, until=590)
    sent(api, key, [588, 587, 586, 585, 4700])
    # It is shown as it was read.
    assert api.get(f"/api/jobs/{key}/live").json()["pa"] == pytest.approx(4700 * M)
    assert due(api, key)
    # Two of three are a change.
    sent(api, key, [4700])
    assert not due(api, key)


def test_a_single_low_reading_calls_nobody_to_isolate(api: TestClient) -> None:
    key = drawn(api, sheet(target_micron=400, dwell_min=0), 40, until=900)
    sent(api, key, [880, 878, 876, 874, 30])
    assert not due(api, key)
    assert "due-isolate" not in rung(api, key)


def test_a_single_bad_reading_does_not_begin_the_dwell_anew(api: TestClient) -> None:
    key = drawn(api, sheet(target_micron=600, dwell_min=30), 40, until=590)

    def ends() -> float:
        return next(float(n["due_at"]) for n in card(api, key) if n["kind"] == "isolate")

    before = ends()
    sent(api, key, [588, 587, 586, 4700, 585, 584])
    assert ends() == pytest.approx(before, abs=3.0)
    last = sent(api, key, [4700, 4700, 583, 582, 581])
    assert last + 29.5 * 60 < ends() <= last + 30.5 * 60


def test_readings_that_the_plan_cannot_explain_are_not_isolated_on(api: TestClient) -> None:
    """Down in seconds: a closed tool, a core left in. No plan of this system does that."""
    key = stored(api, sheet())
    start = time.time() - 300.0
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on", "at": start})
    rows = [
        {"at": start + t, "pa": max(40.0, 20_000.0 * np.exp(-t / 2.0)) * M, "key": str(t)} for t in range(2, 299, 2)
    ]
    assert api.post(f"/api/jobs/{key}/readings", json={"gauge": "Gauge 1", "readings": rows}).status_code < 300
    end = time.monotonic() + 30
    while time.monotonic() < end and not api.get(f"/api/jobs/{key}/live").json()["fit"]:
        time.sleep(0.2)
    found = card(api, key)
    assert "wait" in [n["kind"] for n in found]
    assert next(n for n in found if n["kind"] == "isolate")["due_at"] is None
    assert "due-isolate" not in rung(api, key)


def fitted(api: TestClient, key: str) -> dict[str, Any]:
    """Where a run stands, once its readings are fitted."""
    end = time.monotonic() + 30
    while not (live := dict(api.get(f"/api/jobs/{key}/live").json()))["fit"]:
        assert time.monotonic() < end, "no fit"
        time.sleep(0.2)
    return live


@pytest.mark.parametrize("leak", [3e-3, 8e-3])
def test_a_draw_that_levels_off_above_its_target_is_not_promised_one(api: TestClient, leak: float) -> None:
    """It said "about" a moment that moved on with the clock, for as long as one waited."""
    truth = Truth(seed=3, unknowns=Unknowns(extra_leak=leak))
    live = fitted(api, drawn(api, sheet(school="deep-and-flat"), 40, truth=truth))
    assert live["pa"] > live["target_pa"]
    kinds = [n["kind"] for n in live["next"]]
    assert kinds[kinds.index("isolate") - 1] == "wait"
    assert next(n for n in live["next"] if n["kind"] == "isolate")["due_at"] is None


def test_water_that_boils_off_stands_level_and_is_waited_for(api: TestClient) -> None:
    job = sheet(school="deep-and-flat")
    wet = job.model_copy(update={"scope": job.scope.model_copy(update={"free_water_g": 40.0})})
    live = fitted(api, drawn(api, wet, 25))
    assert live["pa"] > 5 * live["target_pa"]
    assert "wait" not in [n["kind"] for n in live["next"]]


def test_a_gauge_by_the_pump_does_not_speak_for_the_far_side(api: TestClient) -> None:
    job = sheet("four-port-sensor", target_micron=900)
    job = job.model_copy(update={"rig": job.rig.model_copy(update={"cores_in": ("suction", "liquid")})})
    parts = [p.model_copy(update={"depressor": True}) if p.kind == "hose" else p for p in job.rig.parts]
    key = drawn(api, job.model_copy(update={"rig": job.rig.with_parts(parts)}), 30, until=880)
    live = api.get(f"/api/jobs/{key}/live").json()
    far = max(live["section_pa"].values(), default=0.0)
    assert far > 1.2 * 900 * M
    assert "wait" in [n["kind"] for n in live["next"]]
    assert "due-isolate" not in rung(api, key)


def test_a_standards_own_check_is_prompted_whatever_the_habit(api: TestClient) -> None:
    key = drawn(api, sheet(school="two-limit"), 60, until=950)
    found = card(api, key)
    assert "check-hold" in [n["kind"] for n in found]


@pytest.mark.parametrize("pattern", ["one-hose-valved-gauge", "two-hoses", "four-port-sensor"])
def test_the_pump_is_stopped_as_the_planner_has_it(api: TestClient, pattern: str) -> None:
    for valve in (True, False):
        job = sheet(pattern)
        parts = [p.model_copy(update={"valve": valve}) if p.kind == "pump" else p for p in job.rig.parts]
        job = job.model_copy(update={"rig": job.rig.with_parts(parts)})
        key = stored(api, job)
        start = time.time() - 1800.0
        for n, kind in enumerate(("pump-on", "isolate")):
            api.post(f"/api/jobs/{key}/touches", json={"kind": kind, "at": start + 900.0 * n})
        planned = [s.key for s in order(job, "hold")]
        made = []
        while (first := card(api, key)[0])["kind"] != "read-hold":
            made.append(first["kind"])
            assert api.post(f"/api/jobs/{key}/touches", json={"kind": first["kind"]}).status_code == 201
            assert len(made) < 5
        assert made == planned[-len(made) :]
        assert made[-1] == "pump-off"


def test_a_step_that_is_taken_back_counts_nowhere(api: TestClient) -> None:
    """Fit, hold and card go by what was done, and not by a press too much."""
    key = drawn(api, sheet(school="deep-and-flat"), 30)
    before = fitted(api, key)
    at = before["reading_at"] - 600.0
    for kind in ("ballast-open", "undo:ballast-open", "isolate", "undo:isolate"):
        assert api.post(f"/api/jobs/{key}/touches", json={"kind": kind, "at": at}).status_code == 201
        at += 5.0
    after = fitted(api, key)
    assert not after["ballast_open"]
    assert after["isolated_at"] is None
    assert after["fit"]["off"] == pytest.approx(before["fit"]["off"], abs=0.02)
    assert [n["kind"] for n in after["next"]] == [n["kind"] for n in before["next"]]
    assert api.get(f"/api/jobs/{key}/verdict").json() is None
