"""A rig that is changed while its job runs: every way of changing it leaves what it was and what it is in the log."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.core.sheet.job import Job
from tests import builders
from tests.one_app import app_on


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "rig.sqlite3")) as client:
        yield client


def running(api: TestClient, job: Job | None = None) -> str:
    """A job whose pump has been started."""
    made = api.post("/api/jobs", json=(job or Job(rig=builders.one_hose())).model_dump(mode="json")).json()
    api.post(f"/api/jobs/{made['key']}/touches", json={"kind": "pump-on"})
    return str(made["key"])


def log(api: TestClient, key: str) -> list[dict[str, Any]]:
    return [t for t in api.get(f"/api/jobs/{key}/touches").json() if t["kind"] != "pump-on"]


def sheet(api: TestClient, key: str) -> dict[str, Any]:
    found: dict[str, Any] = api.get(f"/api/jobs/{key}").json()
    return found


def hose_of(document: dict[str, Any]) -> dict[str, Any]:
    return next(p for p in document["job"]["rig"]["parts"] if p["kind"] == "hose")


def by_swap(api: TestClient, key: str) -> None:
    at = sheet(api, key)
    body = {"version": at["version"], "op": "swap", "part": hose_of(at)["id"], "fields": {"length_m": 7.5}}
    assert api.post(f"/api/jobs/{key}/rig", json=body).status_code == 200


def by_kit(api: TestClient, key: str) -> None:
    made = api.post("/api/kit", json={"kind": "hose", "name": "Long one"}).json()
    at = sheet(api, key)
    body = {"version": at["version"], "op": "kit", "part": hose_of(at)["id"], "kit": made["number"]}
    assert api.post(f"/api/jobs/{key}/rig", json=body).status_code == 200


def by_saving(api: TestClient, key: str) -> None:
    at = sheet(api, key)
    hose_of(at)["length_m"] = 7.5
    assert api.put(f"/api/jobs/{key}", json={"version": at["version"], "job": at["job"]}).status_code == 200


def by_file(api: TestClient, key: str) -> None:
    rig = api.get(f"/api/jobs/{key}/rig.json").json()
    next(p for p in rig["parts"] if p["kind"] == "hose")["length_m"] = 7.5
    file = {"file": ("rig.json", json.dumps(rig).encode(), "application/json")}
    r = api.post(f"/api/jobs/{key}/rig-file", files=file)
    assert r.status_code == 200, r.text


WAYS = [by_swap, by_kit, by_saving, by_file]


@pytest.mark.parametrize("way", WAYS)
def test_another_hose_is_in_the_log_with_the_one_before_it(api: TestClient, way: Any) -> None:
    key = running(api)
    name = hose_of(sheet(api, key))["id"]
    way(api, key)
    (touch,) = log(api, key)
    assert touch["kind"] == f"put-on:{name}"
    before, after = sheet(api, running(api)), sheet(api, key)
    assert hose_of(before) != hose_of(after)
    assert "in the place of" in touch["note"]
    api.post(f"/api/jobs/{key}/undo")
    again = log(api, key)
    # Taken back is changed again, the other way round.
    new, old = touch["note"].split(" in the place of ")
    assert again[-1]["note"] == f"{old} in the place of {new}"
    assert [t["at"] for t in again] == sorted(t["at"] for t in again)


@pytest.mark.parametrize("way", WAYS)
def test_before_the_pump_runs_a_rig_is_only_planned(api: TestClient, way: Any) -> None:
    key = api.post("/api/jobs", json=Job(rig=builders.one_hose()).model_dump(mode="json")).json()["key"]
    way(api, key)
    assert log(api, key) == []


def test_what_comes_and_goes_is_noted_and_what_stays_is_not(api: TestClient) -> None:
    key = running(api, Job(rig=builders.poor_rig()))
    at = sheet(api, key)
    body = {"version": at["version"], "op": "pattern", "part": "three-tools"}
    r = api.post(f"/api/jobs/{key}/rig", json=body)
    assert r.status_code == 200, r.text
    before = {p["id"] for p in at["job"]["rig"]["parts"]}
    after = {p["id"] for p in r.json()["job"]["rig"]["parts"]}
    kinds = [t["kind"] for t in log(api, key)]
    assert kinds.count("note") == len(before ^ after)
    assert {k.removeprefix("put-on:") for k in kinds if k != "note"} <= before & after
    # The cord, an edit of the sheet that leaves the rig alone, and a save of the same add nothing.
    count = len(kinds)
    again = sheet(api, key)
    again["job"]["scope"]["ambient_c"] = 19.0
    assert api.put(f"/api/jobs/{key}", json={"version": again["version"], "job": again["job"]}).status_code == 200
    assert len(log(api, key)) == count
