"""Bench notes, pumps and the page's own files over the wire."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api.front import STATIC
from rough_draw.store import kit_log, shelf
from rough_draw.store.kit_log import NewEvent
from tests.one_app import app_on

MICRON = 101_325 / 760_000


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "notes.sqlite3")) as client:
        yield client


def note(api: TestClient, path: str, **body: Any) -> Any:
    r = api.post(f"/api/notes/{path}", json=body)
    assert r.status_code == 200, r.text
    return r.json()


def test_a_pressure_and_a_boiling_point_are_each_others_way_back(api: TestClient) -> None:
    there = note(api, "pressure", boils_c=20)
    assert there["pa"] == pytest.approx(2339, rel=1e-3)
    back = note(api, "pressure", pa=there["pa"])
    assert back["boils_c"] == pytest.approx(20, abs=1e-3)
    assert back["units"]["micron"] == pytest.approx(17_546, rel=1e-3)
    r = api.post("/api/notes/pressure", json={})
    assert r.status_code == 422
    assert "Give a pressure" in r.json()["detail"]


def test_the_curve_has_ice_first(api: TestClient) -> None:
    curve = api.get("/api/notes/water").json()
    assert len(curve["c"]) == len(curve["pa"]) == 161
    assert curve["ice"] == 60
    assert curve["pa"] == sorted(curve["pa"])


def test_hoses_are_answered_in_their_order(api: TestClient) -> None:
    rows = [{"size": "1/4 in", "length_m": 1.5, "cores_in": True}, {"size": "1/2 in", "length_m": 0.9, "count": 2}]
    slow, fast = note(api, "hoses", rows=rows, cfm=5, volume_l=20, target_pa=26.66)
    assert fast["speed_m3_s"] > 10 * slow["speed_m3_s"]
    assert fast["seconds"] < slow["seconds"]
    assert 0 < slow["worst_share"] <= 1
    for wrong in ([], [{"size": "2 in"}], [{"length_m": 0}], [{}] * 7):
        assert api.post("/api/notes/hoses", json={"rows": wrong}).status_code == 422


def test_nitrogen_cord_altitude_leak_and_lines(api: TestClient) -> None:
    assert note(api, "nitrogen", low_pa=200, high_pa=100_000, times=3)["left"] == pytest.approx([2e-3, 4e-6, 8e-9])
    assert api.post("/api/notes/nitrogen", json={"low_pa": 1000, "high_pa": 100}).status_code == 422
    good = note(api, "cord", length_m=5, wire="10 AWG", volts=230, cfm=5)
    poor = note(api, "cord", length_m=60, wire="18 AWG", volts=120, cfm=8)
    assert (good["verdict"], poor["verdict"]) == ("good", "no")
    assert api.post("/api/notes/cord", json={"wire": "string"}).status_code == 422
    high = note(api, "altitude", elevation_m=1600, target_pa=66.66)
    assert high["atmosphere_pa"] == pytest.approx(83_524, rel=1e-3)
    assert note(api, "altitude", barometer_hpa=1013.25, target_pa=66.66)["least_psi"] == pytest.approx(14.70, abs=0.01)
    leak = note(api, "leak", value=0.5, form="micron-s", volume_l=8, refrigerant="R-134a")
    assert leak["pa_m3_s"] == pytest.approx(5.333e-4, rel=1e-3)
    assert leak["g_year"]["low"] < leak["g_year"]["high"]
    assert api.post("/api/notes/leak", json={"refrigerant": "water"}).status_code == 422
    lines = note(api, "lines", rows=[{"size": "7/8 in", "length_m": 10}, {"size": "3/8 in", "length_m": 10}])
    assert lines["total"]["value"] == pytest.approx(sum(v["value"] for v in lines["each"]))
    assert lines["total"]["low"] < lines["total"]["value"] < lines["total"]["high"]


def test_words_schools_cautions_and_physics(api: TestClient) -> None:
    pages = api.get("/api/notes/pages").json()
    assert len(pages["schools"]) == 7
    assert len({w["term"] for w in pages["glossary"]}) == len(pages["glossary"]) >= 30
    assert "licensed practice" in pages["cautions"][-1]
    assert api.get("/api/notes/physics").json()["text"].startswith("# Physics")


def test_pumps_say_what_they_do_and_retired_ones_are_gone(api: TestClient) -> None:
    one = shelf.add_kit("pump", "Pump 1", {"plate_cfm": 8})
    shelf.add_kit("pump", "Pump 2", {"plate_cfm": 5})
    assert [(p["pump"], p["doing"]) for p in api.get("/api/pumps").json()] == [("Pump 1", "free"), ("Pump 2", "free")]
    made = api.post("/api/jobs", json={"party": {"customer": "Larkspur", "unit": "Room 1"}}).json()
    rig = made["job"]["rig"]
    for part in rig["parts"]:
        if part["kind"] == "pump":
            part["name"] = "Pump 2"
    job = {**made["job"], "rig": rig}
    assert api.put(f"/api/jobs/{made['key']}", json={"version": made["version"], "job": job}).status_code == 200
    api.post(f"/api/jobs/{made['key']}/touches", json={"kind": "pump-on", "at": 1000})
    (first, _) = api.get("/api/pumps").json()
    assert (first["pump"], first["doing"], first["title"], first["at"]) == ("Pump 2", "runs", "Larkspur, Room 1", 1000)
    api.post(f"/api/jobs/{made['key']}/touches", json={"kind": "pump-off", "at": 1600})
    assert {p["pump"]: p["doing"] for p in api.get("/api/pumps").json()} == {"Pump 1": "free", "Pump 2": "stands"}
    kit_log.file("", [NewEvent(one, "retired", {}, "", "sold")])
    assert "Pump 1" not in [p["pump"] for p in api.get("/api/pumps").json()]


def test_the_yard_has_who_with_which_pump_and_when(api: TestClient) -> None:
    body = {"party": {"customer": "Hollow", "technician": "Odo Brask"}, "plans": {"start_at": 2e9}}
    api.post("/api/jobs", json=body)
    (row,) = api.get("/api/jobs").json()
    assert row["technician"] == "Odo Brask"
    assert row["pump"]
    assert (row["next_title"], row["next_at"]) == ("Start the pump", 2e9)


@pytest.mark.skipif(not (STATIC / "sw.js").exists(), reason="the front end is not built")
def test_the_worker_and_its_manifest_are_served_and_never_go_stale(api: TestClient) -> None:
    for name, kind in (("sw.js", "javascript"), ("manifest.webmanifest", "manifest"), ("icon-192.png", "image/png")):
        r = api.get(f"/{name}")
        assert r.status_code == 200, name
        assert kind in r.headers["content-type"], name
        assert r.headers["cache-control"] == "no-cache"
    worker = (STATIC / "sw.js").read_text()
    assert "/^\\/api\\//" in worker, "no answer of the API is kept by the worker"
