"""The sandbox: one's own system and rig, anything wrong with it, nothing hidden, nothing counted."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient

SHEET = {"scope": {"template": "cooler", "condition": "new-dry"}}


def begun(client: TestClient, **more: Any) -> dict[str, Any]:
    made = client.post("/api/practice/sandboxes", json={"sheet": SHEET, **more})
    assert made.status_code == 201, made.text
    found: dict[str, Any] = made.json()
    return found


def do(client: TestClient, run: dict[str, Any], kind: str) -> dict[str, Any]:
    made = client.post(f"/api/practice/runs/{run['key']}/deeds", json={"kind": kind})
    assert made.status_code == 201, made.text
    found: dict[str, Any] = made.json()
    return found


def test_what_is_so_stands_beside_what_is_read(client: TestClient) -> None:
    run = begun(client, hidden={"faults": [{"key": "fouled", "severity": 1.0}]})
    assert [w["key"] for w in run["truth"]["wrong"]] == ["fouled"]
    do(client, run, "pump-on")
    run = do(client, run, "warm-up")
    track = client.get(f"/api/practice/runs/{run['key']}/readings").json()
    assert len(track["worst_pa"]) == len(track["at"]) > 30
    assert run["truth"]["worst_pa"] > 0
    assert run["truth"]["truly"] == "", "nothing is isolated"
    assert do(client, run, "isolate")["truth"]["truly"]


def test_anything_is_put_wrong_and_right_again_while_it_runs_and_outlives_the_server(client: TestClient) -> None:
    from rough_draw.api.practice import sessions

    run = begun(client)
    do(client, run, "pump-on")
    sound = do(client, run, "warm-up")["truth"]["worst_pa"]
    leaks = do(client, run, "wrong:system-leak=1")
    assert leaks["truth"]["wrong"] == [{"key": "system-leak", "severity": 1.0}]
    high = do(client, run, "warm-up")["truth"]["worst_pa"]
    assert high > 2 * sound
    sessions.drop(run["key"])
    again = client.get(f"/api/practice/runs/{run['key']}").json()
    assert again["truth"]["wrong"] == leaks["truth"]["wrong"]
    assert again["truth"]["worst_pa"] == high
    assert do(client, run, "wrong:system-leak=off")["truth"]["wrong"] == []
    assert do(client, run, "warm-up")["truth"]["worst_pa"] < 0.6 * high


def test_each_that_can_be_wrong_can_be_switched_on_and_off(client: TestClient) -> None:
    run = begun(client)
    do(client, run, "pump-on")
    for cause in [f["value"] for f in run["truth"]["possible"]]:
        on = do(client, run, f"wrong:{cause}=0")["truth"]
        assert cause in [w["key"] for w in on["wrong"]]
        assert do(client, run, f"wrong:{cause}=off")["truth"]["wrong"] == []


@pytest.mark.parametrize(
    "kind", ["wrong:ghost=1", "wrong:system-leak=4", "wrong:system-leak=nan", "wrong:=1", "wrong:x"]
)
def test_nonsense_is_refused(client: TestClient, kind: str) -> None:
    run = begun(client)
    assert client.post(f"/api/practice/runs/{run['key']}/deeds", json={"kind": kind}).status_code == 409


def test_in_a_job_nothing_is_shown_and_nothing_switched(client: TestClient) -> None:
    run = client.post("/api/practice/runs", json={"scenario": "a-dry-line-set"}).json()
    assert run["truth"] is None
    made = client.post(f"/api/practice/runs/{run['key']}/deeds", json={"kind": "wrong:system-leak=1"})
    assert made.status_code == 409
    assert client.get(f"/api/practice/runs/{run['key']}/readings").json()["worst_pa"] == []


def test_it_counts_for_nothing_and_cannot_be_kept_as_a_scenario_that_tells(client: TestClient) -> None:
    run = begun(client)
    do(client, run, "pump-on")
    do(client, run, "end:later")
    assert client.get(f"/api/practice/runs/{run['key']}/debrief").status_code == 200
    page = client.get("/api/practice").json()
    assert all(s["of"] == 0 for s in page["skills"])
    assert all(x["score"] is None for x in page["path"])
    kept = client.post("/api/practice/scenarios", json={"key": "mine", "sheet": SHEET, "sandbox": True}).json()
    played = client.post("/api/practice/runs", json={"scenario": kept["key"]}).json()
    assert played["truth"] is None


def test_another_rig_of_the_van_and_what_cannot_be(client: TestClient) -> None:
    choice = {"pattern": "three-tools", "parts": {"pump": 1, "hose-a": 5, "hose-b": 4, "gauge": 16}}
    assert begun(client, rig=choice)["rigged"]
    bad = {"sheet": SHEET, "rig": {"pattern": "three-tools", "parts": {"pump": 4}}}
    assert client.post("/api/practice/sandboxes", json=bad).status_code == 422
    hidden = {"faults": [{"key": "ghost"}]}
    assert client.post("/api/practice/sandboxes", json={"sheet": SHEET, "hidden": hidden}).status_code == 422
    assert client.post("/api/practice/sandboxes", json={"sheet": SHEET, "hidden": {"found": ["x"]}}).status_code == 422


def test_scenarios_are_found_by_the_names_they_had(client: TestClient) -> None:
    old = client.post("/api/practice/runs", json={"scenario": "wet-oil"}).json()
    assert old["scenario"]["key"] == "six-hundred-and-no-lower"
    for kind in ("pump-on", "end:later"):
        do(client, old, kind)
    client.get(f"/api/practice/runs/{old['key']}/debrief")
    card = next(s for s in client.get("/api/practice").json()["scenarios"] if s["key"] == "six-hundred-and-no-lower")
    assert card["tries"] == 1
