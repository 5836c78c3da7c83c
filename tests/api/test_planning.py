"""The planning bench over HTTP: edits of the rig, fixes, templates, files, the day, settings."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.core.sheet.setups import PATTERNS
from rough_draw.scenarios.van import KIT
from rough_draw.store import shelf
from tests.builders import usual_job
from tests.one_app import app_on


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    """An application with the demo's kit and no jobs."""
    app = app_on(tmp_path / "t.sqlite3")
    for kind, name, values in KIT:
        shelf.add_kit(kind, name, values)
    with TestClient(app) as client:
        yield client


def made(api: TestClient, **job: Any) -> str:
    return str(api.post("/api/jobs", json={"scope": {"condition": "new-dry"}, **job}).json()["key"])


def edit(api: TestClient, key: str, **body: Any) -> Any:
    version = api.get(f"/api/jobs/{key}").json()["version"]
    return api.post(f"/api/jobs/{key}/rig", json={"version": version, **body})


def part(api: TestClient, key: str, name: str) -> dict[str, Any]:
    parts = api.get(f"/api/jobs/{key}").json()["job"]["rig"]["parts"]
    return next(p for p in parts if p["id"] == name)


def test_a_rig_from_pattern_to_finish(api: TestClient) -> None:
    key = made(api)
    for pattern in PATTERNS:
        answer = edit(api, key, op="pattern", part=pattern)
        assert answer.status_code == (422 if pattern == "commercial" else 200), pattern
    edit(api, key, op="pattern", part="one-hose-bare-gauge")
    assert edit(api, key, op="swap", part="hose-a", fields={"length_m": 0.9}).status_code == 200
    number = next(k.id for k in shelf.kit() if k.kind == "pump" and "8 CFM" in k.name)
    assert edit(api, key, op="kit", part="pump", kit=number).status_code == 200
    assert part(api, key, "pump")["name"] == "Pump 1, 8 CFM"
    assert edit(api, key, op="core", port="suction", fields={"in": True}).status_code == 200
    assert edit(api, key, op="at-port", part="gauge", fields={"kind": "tool"}).status_code == 200
    assert part(api, key, "gauge")["on"] == "tool-b"
    assert edit(api, key, op="way", port="liquid").status_code == 200
    assert edit(api, key, op="insert", part="hose-a", fields={"kind": "valve"}).status_code == 200
    assert edit(api, key, op="move", part="gauge", on="pump", at="side").status_code == 200
    assert edit(api, key, op="add", on="tool-a", at="side", fields={"kind": "gauge"}).status_code == 200
    assert edit(api, key, op="cord", fields={"length_m": 30, "wire": "16 AWG", "volts": 120}).status_code == 200
    plan = api.get(f"/api/jobs/{key}/plan").json()
    assert plan["cord"]["verdict"] in ("good", "usable", "no")
    assert {w["port"] for w in plan["drawing"]["ways"]} == {"suction", "liquid"}
    assert edit(api, key, op="remove", part="hose-b").status_code == 200
    api.post(f"/api/jobs/{key}/undo")
    assert api.get(f"/api/jobs/{key}/plan").json()["drawing"]["ways"] == plan["drawing"]["ways"]


BAD: list[tuple[dict[str, Any], str]] = [
    ({"op": "pattern", "part": "nonsense"}, "no setup"),
    ({"op": "swap", "part": "ghost", "fields": {}}, "no part ghost"),
    ({"op": "swap", "part": "hose-a", "fields": {"length_m": 900}}, "less than or equal to 60"),
    ({"op": "remove", "part": "pump"}, "exchange it instead"),
    ({"op": "add", "on": "pump", "at": "ceiling", "fields": {"kind": "gauge"}}, "no outlet ceiling"),
    ({"op": "add", "on": "pump", "at": "end", "fields": {"kind": "hose"}}, "same outlet"),
    ({"op": "add", "fields": {"kind": "pump"}}, "two pumps"),
    ({"op": "add", "on": "pump", "at": "side", "fields": {"kind": "balloon"}}, "balloon"),
    ({"op": "way", "port": "attic"}, "no port attic"),
    ({"op": "way", "port": "suction"}, "already"),
    ({"op": "at-port", "part": "hose-a", "fields": {"kind": "tool"}}, "is not on a port"),
    ({"op": "insert", "part": "tool-a", "fields": {"kind": "gauge"}}, "Nothing can be connected"),
    ({"op": "kit", "part": "hose-a", "kit": 1}, "is a pump"),
    ({"op": "cord", "fields": {"length_m": -1}}, "greater than 0"),
]


@pytest.mark.parametrize(("body", "says"), BAD, ids=[f"{b['op']}-{n}" for n, (b, _) in enumerate(BAD)])
def test_a_refused_edit_says_why_and_changes_nothing(api: TestClient, body: dict[str, Any], says: str) -> None:
    key = made(api)
    before = api.get(f"/api/jobs/{key}").json()["job"]["rig"]
    r = edit(api, key, **body)
    assert r.status_code == 422, r.text
    assert says in r.json()["detail"]
    assert r.json()["faults"][0]["place"].startswith("rig")
    assert api.get(f"/api/jobs/{key}").json()["job"]["rig"] == before


def test_an_edit_over_an_old_version_is_a_conflict(api: TestClient) -> None:
    key = made(api)
    edit(api, key, op="swap", part="hose-a", fields={"length_m": 0.9})
    late = api.post(f"/api/jobs/{key}/rig", json={"version": 1, "op": "remove", "part": "gauge"})
    assert late.status_code == 409


def test_fixes_changes_and_rigs_set_aside_are_taken_by_key(api: TestClient) -> None:
    key = made(api)
    edit(api, key, op="pattern", part="four-port-sensor")
    plan = api.get(f"/api/jobs/{key}/plan").json()
    assert any(f["key"] == "gauge-near-pump" and f["fix"] for f in plan["findings"])

    def take(name: str) -> int:
        version = api.get(f"/api/jobs/{key}").json()["version"]
        return api.post(f"/api/jobs/{key}/apply", json={"version": version, "key": name}).status_code

    assert take("gauge-near-pump") == 200
    keys = {f["key"] for f in api.get(f"/api/jobs/{key}/plan").json()["findings"]}
    assert "gauge-near-pump" not in keys
    assert take("no-manifold") == 200
    assert take("best") == 200
    assert take("aside-0") == 404
    assert take("no such thing") == 404
    stored = api.get(f"/api/jobs/{key}").json()
    stored["job"]["aside"] = [{"name": "other", "rig": stored["job"]["rig"]}]
    api.put(f"/api/jobs/{key}", json={"version": stored["version"], "job": stored["job"]})
    edit(api, key, op="pattern", part="low-side-dial")
    compared = api.get(f"/api/jobs/{key}/compare").json()
    assert [c["name"] for c in compared] == ["This rig", "other"]
    assert take("aside-0") == 200
    now = api.get(f"/api/jobs/{key}").json()["job"]
    assert now["aside"][0]["rig"]["pattern"] == "low-side-dial"


def test_four_rigs_one_of_them_broken(api: TestClient) -> None:
    key = made(api)
    stored = api.get(f"/api/jobs/{key}").json()
    rig = stored["job"]["rig"]
    broken = {**rig, "parts": [{**p, "port": "attic"} if p.get("port") else p for p in rig["parts"][:3]]}
    stored["job"]["aside"] = [{"name": "b", "rig": rig}, {"name": "c", "rig": broken}, {"name": "d", "rig": rig}]
    api.put(f"/api/jobs/{key}", json={"version": stored["version"], "job": stored["job"]})
    found = api.get(f"/api/jobs/{key}/compare").json()
    assert [c["plan"] is not None for c in found] == [True, True, False, True]
    assert "no port attic" in found[2]["fault"]


def test_templates_of_ones_own(api: TestClient) -> None:
    key = made(api)
    version = api.get(f"/api/jobs/{key}").json()["version"]
    taken = api.post(f"/api/jobs/{key}/template", json={"version": version, "key": "freezer"}).json()
    assert taken["job"]["scope"]["low_temperature"] is True
    assert taken["job"]["scope"]["ambient_c"] == 18
    assert api.get(f"/api/jobs/{key}/plan").json()["left_out"] == ["liquid line", "receiver"]
    kept = api.post("/api/templates", json={"name": "Mine", "job": key}).json()
    again = api.post("/api/templates", json={"name": "Mine", "job": key}).json()
    assert kept["id"] == again["id"]
    other = made(api)
    body = {"version": 1, "own": kept["id"]}
    assert len(api.post(f"/api/jobs/{other}/template", json=body).json()["job"]["scope"]["sections"]) == 10
    assert api.delete(f"/api/templates/{kept['id']}").status_code == 204
    assert api.delete(f"/api/templates/{kept['id']}").status_code == 404
    assert api.post(f"/api/jobs/{other}/template", json={"version": 2, "own": 99}).status_code == 404
    assert api.post(f"/api/jobs/{other}/template", json={"version": 2, "key": "balloon"}).status_code == 404


FILES: list[tuple[bytes, str]] = [
    (b"{", "Line 1, column 2"),
    (b"\xff\xfe\x00", "not text in UTF-8"),
    (b"[]", "rough-draw/rig"),
    (b'{"format": "rough-draw/rig", "version": 7}', "rough-draw/rig"),
    (b'{"format": "rough-draw/rig", "parts": [{"kind": "pump", "id": "a"}, {"kind": "pump", "id": "b"}]}', "two pumps"),
    (b'{"format": "rough-draw/rig", "parts": [{"kind": "pump", "id": "a", "plate_cfm": 1e9}]}', "plate_cfm"),
    (b" " * 300_000, "kB"),
]


@pytest.mark.parametrize(("data", "says"), FILES, ids=[str(n) for n in range(len(FILES))])
def test_a_rig_file_that_cannot_be_read_says_where(api: TestClient, data: bytes, says: str) -> None:
    key = made(api)
    r = api.post(f"/api/jobs/{key}/rig-file", files={"file": ("rig.json", data)})
    assert r.status_code == 422
    assert says in r.json()["detail"]


def test_a_rig_goes_out_and_comes_back(api: TestClient) -> None:
    key, other = made(api), made(api)
    edit(api, key, op="pattern", part="cylinder-ready")
    data = api.get(f"/api/jobs/{key}/rig.json").content
    assert json.loads(data)["format"] == "rough-draw/rig"
    back = api.post(f"/api/jobs/{other}/rig-file", files={"file": ("rig.json", data)})
    assert back.json()["job"]["rig"] == api.get(f"/api/jobs/{key}").json()["job"]["rig"]
    assert api.get(f"/api/jobs/{key}/rig.svg").text.startswith("<svg")


def test_the_day_and_its_calendar(api: TestClient) -> None:
    keys = [made(api, party={"customer": name}) for name in ("Alder", "Beech")]
    body = {"keys": keys, "day_start": 1_800_000_000}
    fitted = api.post("/api/day/fit", json=body).json()
    starts = [j["start_at"] for j in fitted["jobs"]]
    assert fitted["conflicts"] == []
    assert len(set(starts)) == 2
    assert api.get(f"/api/jobs/{keys[0]}").json()["job"]["plans"]["start_at"] == min(starts)
    text = api.get("/api/day.ics").text
    assert text.count("BEGIN:VEVENT") == sum(len(j["touches"]) for j in fitted["jobs"])
    assert "SUMMARY:Isolate\\, then stop the pump · Alder" in text.replace("\r\n ", "")
    one = api.get(f"/api/jobs/{keys[0]}/day?start=1800000000").json()
    assert one["touches"][0]["at"]["value"] < 1_800_000_000
    assert api.get(f"/api/jobs/{keys[0]}/day.ics").headers["content-type"].startswith("text/calendar")


def test_settings_are_kept_and_checked(api: TestClient) -> None:
    assert api.get("/api/settings").json()["settings"]["pressure"] == "micron"
    kept = api.put("/api/settings", json={"pressure": "mbar", "hourly_rate": 80}).json()
    assert kept["settings"]["pressure"] == "mbar"
    assert api.get("/api/settings").json() == kept
    assert api.put("/api/settings", json={"pressure": "fathoms"}).status_code == 422
    assert api.put("/api/settings", json={"hourly_rate": -1}).status_code == 422
    made(api)
    found = api.get("/api/purchases").json()
    assert found["hourly_rate"] == 80
    assert all(p["money"] == pytest.approx(p["seconds"] / 3600 * 80) for p in found["purchases"])


def test_a_dial_is_asked_back(api: TestClient) -> None:
    found = api.post("/api/dial", json={"text": "-30 psi"}).json()
    assert "cannot be" in found["asked"]
    assert api.post("/api/dial", json={"text": "rather low"}).status_code == 422


def test_moments_of_the_plan_hold_together(api: TestClient) -> None:
    key = made(api)
    plan = api.get(f"/api/jobs/{key}/plan").json()
    ats = [m["at"] for m in plan["moments"]]
    assert ats == sorted(set(ats))
    for m in plan["moments"]:
        assert sum(m["resistance"].values()) == pytest.approx(1.0, abs=0.06)
        assert plan["gauge_node"] in m["pa"]
    assert plan["moments"][-1]["pa"]["pump"] < plan["moments"][0]["pa"]["pump"] / 100
    assert set(plan["isolate_valves"]) <= set(plan["valves"])
    assert {s["part"] for s in plan["slots"]} == {
        p["id"] for p in api.get(f"/api/jobs/{key}").json()["job"]["rig"]["parts"]
    }


def test_a_hose_changed_in_the_middle_is_in_the_log_with_both_names(api: TestClient) -> None:
    shelf = api.get("/api/catalogue").json()["kit"]
    hoses = [k for k in shelf if k["kind"] == "hose"]
    if not hoses:
        for name in ("green hose", "blue hose"):
            api.post("/api/kit", json={"kind": "hose", "name": name, "values": {"size": "3/8 in", "length_m": 1.5}})
        hoses = [k for k in api.get("/api/catalogue").json()["kit"] if k["kind"] == "hose"]
    key = made(api)
    part = next(p["id"] for p in api.get(f"/api/jobs/{key}").json()["job"]["rig"]["parts"] if p["kind"] == "hose")

    def take(n: int) -> None:
        version = api.get(f"/api/jobs/{key}").json()["version"]
        edit = {"version": version, "op": "kit", "part": part, "kit": hoses[n]["id"]}
        assert api.post(f"/api/jobs/{key}/rig", json=edit).status_code == 200

    take(0)
    assert api.get(f"/api/jobs/{key}/touches").json() == [], "before the draw it is only the rig"
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})
    take(1)
    last = api.get(f"/api/jobs/{key}/touches").json()[-1]
    assert last["kind"] == f"put-on:{part}"
    assert hoses[0]["name"] in last["note"]
    assert hoses[1]["name"] in last["note"]


@pytest.mark.parametrize("wire", ["", "\u0000", "14", "14 AWG AWG", "-3 AWG", "1e400 mm²", "¼ mm²", "x" * 200])
def test_a_cord_whose_wire_nobody_can_read_takes_no_page_down(api: TestClient, wire: str) -> None:
    job = usual_job("one-hose-valved-gauge").model_dump(mode="json")
    job["rig"]["cord"] = {"length_m": 20.0, "wire": wire, "volts": 120.0}
    planned = api.post("/api/plan", json=job)
    assert planned.status_code == 200, planned.text
    assert planned.json()["cord"] is None
    key = api.post("/api/jobs", json=job).json()["key"]
    for path in ("plan", "live", "checks", "carry", "prove"):
        assert api.get(f"/api/jobs/{key}/{path}").status_code < 500, path
    # Asked for by itself it is told.
    asked = api.post("/api/notes/cord", json={"wire": wire, "length_m": 20})
    assert 400 <= asked.status_code < 500
