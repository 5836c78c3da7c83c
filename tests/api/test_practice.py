"""Practice by the API: begun, done, left, gone on with after a restart, debriefed; scenarios composed and shared."""

from __future__ import annotations

import json
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise
from pathlib import Path
from threading import Barrier
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api.practice import sessions
from tests.one_app import app_on


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "practice.sqlite3")) as client:
        yield client
    sessions._open.clear()


def begun(api: TestClient, scenario: str) -> str:
    r = api.post("/api/practice/runs", json={"scenario": scenario})
    assert r.status_code == 201, r.text
    return str(r.json()["key"])


def do(api: TestClient, key: str, *kinds: str) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for kind in kinds:
        r = api.post(f"/api/practice/runs/{key}/deeds", json={"kind": kind})
        assert r.status_code == 201, r.text
        found = r.json()
    return found


def at_once(*works: Callable[[], object]) -> None:
    """All of it begun in the same moment; what one of them raises is raised."""
    start = Barrier(len(works))
    with ThreadPoolExecutor(len(works)) as pool:
        for done in [pool.submit(lambda work=work: (start.wait(), work())) for work in works]:
            done.result()


def test_what_is_hidden_is_not_said(api: TestClient) -> None:
    page = api.get("/api/practice").json()
    assert len(page["scenarios"]) >= 20
    assert page["next"] == page["scenarios"][0]["key"]
    key = begun(api, "ballast-forgotten")
    said = json.dumps(api.get(f"/api/practice/runs/{key}").json()["done"])
    assert said == "[]", "that somebody opened the ballast is for the learner to see"
    assert "hidden" not in json.dumps(page)


def test_the_clock_stands_until_a_pace_is_chosen_and_then_runs(api: TestClient) -> None:
    key = begun(api, "wet-oil")
    do(api, key, "pump-on")
    stood = api.get(f"/api/practice/runs/{key}").json()["time"]
    time.sleep(0.3)
    assert api.get(f"/api/practice/runs/{key}").json()["time"] == stood
    assert api.post(f"/api/practice/runs/{key}/pace", json={"speed": 300}).json()["speed"] == 300
    time.sleep(0.3)
    now = api.get(f"/api/practice/runs/{key}").json()["time"]
    assert 30 < now - stood < 2000
    assert api.post(f"/api/practice/runs/{key}/pace", json={"speed": 7}).status_code == 422


def test_readings_come_in_pieces_without_gaps_or_doubles(api: TestClient) -> None:
    key = begun(api, "wet-oil")
    do(api, key, "pump-on", "test:oil")
    first = api.get(f"/api/practice/runs/{key}/readings").json()
    do(api, key, "test:thumb", "test:second")
    more = api.get(f"/api/practice/runs/{key}/readings", params={"since": first["at"][-1]}).json()
    both = first["at"] + more["at"]
    assert both == api.get(f"/api/practice/runs/{key}/readings").json()["at"]
    assert all(b - a == pytest.approx(2.0) for a, b in pairwise(both))


def test_a_session_goes_on_after_a_restart(api: TestClient) -> None:
    key = begun(api, "wet-oil")
    do(api, key, "look:power", "pump-on", "test:oil", "cause:wet-oil")
    before = api.get(f"/api/practice/runs/{key}").json()
    readings = api.get(f"/api/practice/runs/{key}/readings").json()
    sessions._open.clear()
    after = api.get(f"/api/practice/runs/{key}").json()
    assert after["time"] == before["time"]
    assert after["done"] == before["done"]
    assert api.get(f"/api/practice/runs/{key}/readings").json() == readings
    assert do(api, key, "test:ballast")["done"][-1]["showed"] == "No"


def test_two_who_open_a_session_at_once_have_the_same(api: TestClient) -> None:
    key = begun(api, "wet-oil")
    look = lambda: api.get(f"/api/practice/runs/{key}").json()["done"]  # noqa: E731
    for n in range(3):
        sessions._open.clear()
        at_once(look, lambda: do(api, key, "look:power"), lambda: do(api, key, "look:pressure"))
        assert len(look()) == 2 * (n + 1)
    sessions._open.clear()
    assert len(look()) == 6


def test_what_is_done_while_many_are_opened_is_done(api: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    """A session that is put away between two deeds, or while one waits for its turn, loses none."""
    monkeypatch.setattr(sessions, "MOST_OPEN", 1)
    keys = [begun(api, "wet-oil") for _ in range(2)]
    at_once(*[lambda key=key: do(api, key, *["look:power"] * 3) for key in keys for _ in range(2)])
    assert len(sessions._open) <= 4
    for key in keys:
        assert len(api.get(f"/api/practice/runs/{key}").json()["done"]) == 6
    begun(api, "wet-oil")
    assert len(sessions._open) == 1


def test_one_in_use_is_not_put_away(api: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sessions, "MOST_OPEN", 1)
    key = begun(api, "wet-oil")
    with sessions.held(key) as found:
        with ThreadPoolExecutor(1) as beside:
            assert beside.submit(begun, api, "wet-oil").result() != key
        assert sessions.session(key) is found


def test_a_debrief_tells_the_truth_beside_the_gauge_and_keeps_the_score(api: TestClient) -> None:
    key = begun(api, "gauge-on-the-wrong-side")
    early = api.get(f"/api/practice/runs/{key}/debrief")
    assert early.status_code == 409
    assert "end it first" in early.json()["detail"]
    do(api, key, "look:power", "look:pressure", "isolate", "pump-off", "verdict:tight", "end:release")
    d = api.get(f"/api/practice/runs/{key}/debrief").json()
    isolated = next(x for x in d["deeds"] if x["kind"] == "isolate")
    assert isolated["highest_pa"] > 1.3 * isolated["shown_pa"], "the manifold's gauge flatters"
    assert any(x["kind"].startswith("rig:") for x in d["expert"])
    assert len(d["own_path"]["at"]) == len(d["own_path"]["highest"]) > 100
    assert {m["skill"] for m in d["marks"]} == {"safety", "rig", "reading", "diagnosis", "economy"}
    page = api.get("/api/practice").json()
    card = next(s for s in page["scenarios"] if s["key"] == "down-in-a-quarter-of-an-hour")
    assert card["best"] == pytest.approx(d["total"])
    assert card["tries"] == 1
    assert next(s for s in page["skills"] if s["skill"] == "safety")["of"] == 1
    assert page["runs"][0]["total"] == pytest.approx(d["total"])
    assert api.delete(f"/api/practice/runs/{key}").status_code == 204
    assert api.get(f"/api/practice/runs/{key}").status_code == 404


def test_a_rig_is_chosen_from_the_van(api: TestClient) -> None:
    key = begun(api, "your-own-rig")
    rigs = api.get(f"/api/practice/runs/{key}/rigs").json()
    three = next(r for r in rigs["rigs"] if r["pattern"] == "three-tools")
    parts: dict[str, int] = {}
    for s in three["slots"]:
        parts[s["slot"]] = next(
            v["id"] for v in rigs["van"] if v["kind"] == s["kind"] and v["id"] not in parts.values()
        )
    body = {"kind": "rig:three-tools", "choice": {"pattern": "three-tools", "parts": parts}}
    r = api.post(f"/api/practice/runs/{key}/deeds", json=body)
    assert r.status_code == 201
    assert r.json()["rigged"]
    assert len(api.get(f"/api/practice/runs/{key}/plan").json()["isolate_valves"]) == 2
    wrong = {"kind": "rig:three-tools", "choice": {"pattern": "three-tools", "parts": {"pump": 999}}}
    r = api.post(f"/api/practice/runs/{key}/deeds", json=wrong)
    assert r.status_code == 409
    assert "not a pump" in r.json()["detail"]


def test_a_scenario_is_composed_shared_and_read_again(api: TestClient) -> None:
    sheet = {"scope": {"template": "cooler", "condition": "new-dry"}}
    possible = api.post("/api/practice/possible", json=sheet).json()
    assert {"wet-oil", "system-leak", "fouled"} < {f["value"] for f in possible["faults"]}
    assert possible["links"][0]["value"] == "metering"
    body = {"key": "mine", "title": "Mine", "level": 4, "sheet": sheet, "hidden": {"faults": [{"key": "fouled"}]}}
    assert api.post("/api/practice/scenarios", json=body).json()["key"] == "mine"
    shared = api.get("/api/practice/scenarios/mine.json")
    assert "attachment" in shared.headers["content-disposition"]
    again = api.post("/api/practice/scenario-files", files={"file": ("mine.json", shared.content)})
    assert again.status_code == 201, again.text
    assert again.json()["key"] == "mine-2"
    assert begun(api, "mine-2")
    assert api.delete("/api/practice/scenarios/mine-2").status_code == 204
    assert api.delete("/api/practice/scenarios/mine-2").status_code == 404


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"\xff\xfe", "not text in UTF-8"),
        (b"[]", "A scenario has"),
        (b'{"format": "rough-draw/job"}', "A scenario has"),
        (b'{"format": "rough-draw/scenario", "level": 9}', "level"),
        (b'{"format": "rough-draw/scenario", "hidden": {"faults": [{"key": "x"}]}}', "no fault x"),
        (b" " * 600_000, "far smaller"),
    ],
)
def test_a_bad_scenario_file_says_what_is_wrong(api: TestClient, content: bytes, words: str) -> None:
    r = api.post("/api/practice/scenario-files", files={"file": ("x.json", content)})
    assert r.status_code == 422
    assert words in r.json()["detail"]


def test_unknown_scenarios_and_deeds_are_refused(api: TestClient) -> None:
    assert api.post("/api/practice/runs", json={"scenario": "nowhere"}).status_code == 404
    assert api.post("/api/practice/runs", json={"scenario": "made-9-1"}).status_code == 404
    assert begun(api, "made-2-77")
    key = begun(api, "wet-oil")
    r = api.post(f"/api/practice/runs/{key}/deeds", json={"kind": "verdict:tight"})
    assert r.status_code == 409
    assert "Nothing is isolated" in r.json()["detail"]
