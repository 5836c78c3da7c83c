"""Prove by the API: gates, the simulated bench, what goes on file with the kit, and touches asked about beforehand."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.store import jobs, shelf
from tests.api.test_api import made, wait_for
from tests.one_app import app_on


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "prove.sqlite3")) as client:
        yield client


def edited(api: TestClient, key: str, **changes: Any) -> dict[str, Any]:
    """Save a sheet with parts of its Prove changed."""
    sheet = api.get(f"/api/jobs/{key}").json()
    sheet["job"]["prove"] |= changes
    r = api.put(f"/api/jobs/{key}", json={"version": sheet["version"], "job": sheet["job"]})
    assert r.status_code == 200, r.text
    return r.json()["job"]


def gate(api: TestClient, key: str, name: str) -> dict[str, Any]:
    return next(g for g in api.get(f"/api/jobs/{key}/prove").json()["gates"] if g["key"] == name)


def test_a_pressure_test_is_judged_as_it_is_typed(api: TestClient) -> None:
    key = made(api)
    assert gate(api, key, "pressure-test")["state"] == "open"
    half = {"test_start_kpa": 3000, "test_start_c": 21, "test_end_c": 17, "test_minutes": 60}
    edited(api, key, **half)
    assert "pressure at the end" in gate(api, key, "pressure-test")["words"]
    edited(api, key, test_end_kpa=2958)
    found = api.get(f"/api/jobs/{key}/prove").json()["test"]
    assert found["verdict"] == "tight"
    assert found["drop_pa"]["low"] < 0 < found["drop_pa"]["high"]
    edited(api, key, test_end_kpa=2700)
    assert gate(api, key, "pressure-test")["state"] == "failed"


def with_kit(api: TestClient) -> tuple[str, dict[str, int]]:
    """A job whose pump, hose and gauge are in the kit."""
    number = {
        "pump": shelf.add_kit("pump", "Pump 1", {"plate_cfm": 5}),
        "hose-a": shelf.add_kit("hose", "Hose 1", {"size": "3/8 in", "length_m": 1.5}),
        "gauge": shelf.add_kit("gauge", "Gauge 1", {}),
    }
    key = made(api)
    sheet = api.get(f"/api/jobs/{key}").json()
    for part in sheet["job"]["rig"]["parts"]:
        part["kit"] = number.get(part["id"], part["kit"])
    r = api.put(f"/api/jobs/{key}", json={"version": sheet["version"], "job": sheet["job"]})
    assert r.status_code == 200
    return key, number


def card(api: TestClient, number: int) -> dict[str, Any]:
    return next(k for k in api.get("/api/kit").json() if k["id"] == number)


def test_results_go_on_file_with_each_part(api: TestClient) -> None:
    key, number = with_kit(api)
    stages = {
        "pump": {"settled_micron": 26, "after_s": 120},
        "hose-a": {"settled_micron": 30, "after_s": 120, "from_micron": 40, "to_micron": 30_000, "rise_s": 60},
    }
    edited(api, key, stages=stages, gauge={"in_air": "over", "battery_pct": 12})
    pump, hose, gauge = (card(api, number[n]) for n in ("pump", "hose-a", "gauge"))
    assert (pump["state"], pump["events"][0]["micron"]) == ("good", 26)
    assert hose["state"] == "bad"
    assert hose["events"][0]["inflow_pa_m3_s"] > 1e-3
    assert gauge["state"] == "doubtful"
    edited(api, key, stages={**stages, "pump": {"settled_micron": 28, "after_s": 120}})
    assert [e["micron"] for e in card(api, number["pump"])["events"]] == [28], "one event of a kind for each job"


def test_a_pump_is_judged_against_its_own_past(api: TestClient) -> None:
    first, number = with_kit(api)
    edited(api, first, stages={"pump": {"settled_micron": 22, "after_s": 120}})
    second = made(api)
    sheet = api.get(f"/api/jobs/{second}").json()
    next(p for p in sheet["job"]["rig"]["parts"] if p["kind"] == "pump")["kit"] = number["pump"]
    api.put(f"/api/jobs/{second}", json={"version": sheet["version"], "job": sheet["job"]})
    edited(api, second, stages={"pump": {"settled_micron": 49, "after_s": 120}})
    found = api.get(f"/api/jobs/{second}/prove").json()["blank_off"]
    assert found["before_micron"] == [22]
    assert found["verdict"] == "usable"


def test_hours_are_on_file_when_the_pump_stops(api: TestClient) -> None:
    key, number = with_kit(api)
    for kind, at in (("pump-on", 1000.0), ("isolate", 8000.0), ("pump-off", 8200.0)):
        assert api.post(f"/api/jobs/{key}/touches", json={"kind": kind, "at": at}).status_code == 201
    assert card(api, number["pump"])["events"][0]["hours"] == pytest.approx(2.0)


def test_the_oil_rule_is_the_firm_s(api: TestClient) -> None:
    key = made(api)
    edited(api, key, oil="amber", oil_level="right")
    assert gate(api, key, "oil")["state"] == "passed"
    settings = api.get("/api/settings").json()["settings"]
    settings["oil_rule"]["each_use"] = True
    assert api.put("/api/settings", json=settings).status_code == 200
    assert gate(api, key, "oil")["state"] == "doubtful"


def test_a_new_sheet_takes_the_habits_of_the_firm(api: TestClient) -> None:
    settings = api.get("/api/settings").json()["settings"]
    settings["habits"]["ballast"] = "1500"
    api.put("/api/settings", json=settings)
    assert api.post("/api/jobs", json={}).json()["job"]["habits"]["ballast"] == "1500"


def test_the_bench_runs_obeys_and_is_no_part_of_the_draw(api: TestClient) -> None:
    key = made(api)
    idle = api.get(f"/api/jobs/{key}/bench").json()
    assert (idle["attached"], idle["next"]) == (False, "pump-on")
    assert api.post(f"/api/jobs/{key}/bench", json={"speed": 7}).status_code == 422
    assert api.post(f"/api/jobs/{key}/bench", json={"speed": 60}).json()["attached"]
    for kind in ("ballast-open", "stage:nothing"):
        assert api.post(f"/api/jobs/{key}/bench/touches", json={"kind": kind}).status_code == 422
    touch = f"/api/jobs/{key}/bench/touches"
    assert api.post(touch, json={"kind": "pump-on"}).json()["pump_on"]
    alone = wait_for(lambda: (b := api.get(f"/api/jobs/{key}/bench").json())["next"] == "keep" and b)
    assert alone["pa"] < 15
    assert len(alone["low"]) == len(alone["times"]) > 50
    assert api.post(touch, json={"kind": "stage:hose-a"}).json()["stage"] == "hose-a"
    wait_for(lambda: api.get(f"/api/jobs/{key}/bench").json()["next"] == "valve-shut")
    assert not api.post(touch, json={"kind": "valve-shut"}).json()["valve_open"]
    done = wait_for(lambda: (b := api.get(f"/api/jobs/{key}/bench").json())["next"] == "keep" and b)
    assert done["reading"]["to_micron"] > done["reading"]["from_micron"]
    assert jobs.readings(key) == []
    assert sum(s.at.size for s in jobs.readings(key, bench=True)) > 10
    assert api.get(f"/api/jobs/{key}/touches").json() == []
    edited(api, key, stages={"hose-a": done["reading"]})
    stage = next(s for s in api.get(f"/api/jobs/{key}/prove").json()["stages"] if s["key"] == "hose-a")
    assert stage["verdict"] in ("good", "doubtful", "bad")
    assert stage["own_pa_m3_s"]["value"] > 0
    assert api.delete(f"/api/jobs/{key}/bench").json()["attached"] is False


def test_what_can_be_done_to_a_part_is_offered_foreseen_and_logged(api: TestClient) -> None:
    key = made(api)
    offers = api.get(f"/api/jobs/{key}/offers/hose-a").json()
    assert [o["kind"] for o in offers] == ["take-off:hose-a"]
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})
    seen = api.get(f"/api/jobs/{key}/foresee", params={"kind": "take-off:hose-a"}).json()
    assert seen["stop"]
    assert "Air" in seen["consequences"][0]["words"]
    assert api.post(f"/api/jobs/{key}/touches", json={"kind": "take-off:hose-a"}).status_code == 201
    assert api.get(f"/api/jobs/{key}/offers/hose-a").json()[0]["kind"] == "put-on:hose-a"
    for kind in ("take-off:anvil", "core-in:nowhere"):
        assert api.post(f"/api/jobs/{key}/touches", json={"kind": kind}).status_code == 422
    assert api.get(f"/api/jobs/{key}/offers/nothing-here").json() == []
    goals = ("sweep", "purge", "nitrogen-break", "valve-flush")
    assert all(api.get(f"/api/jobs/{key}/orders/{g}").json() for g in goals)
