"""Holds that a needle read: typed, imported, pasted and on the command line, none of them certifies anything."""

from __future__ import annotations

import json
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient

from rough_draw.cli.main import main
from rough_draw.core.hold.needle import judge_needle
from rough_draw.core.physics.quantity import exact
from rough_draw.core.sheet.criteria import STANDARDS
from rough_draw.core.sheet.job import Job, Party
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from tests import builders
from tests.one_app import app_on

DIALS = {
    "inches": ("vacuum (inHg)", (29.4, 29.4, 29.3)),
    "signed inches": ("gauge inHg", (-29.4, -29.4, -29.4)),
    "bars": ("bar", (-0.98, -0.98, -0.98)),
    "megapascals": ("Vacuum (MPa)", (-0.098, -0.098, -0.098)),
    "centimetres": ("cmHg", (-75, -75, -74.8)),
    "kilopascals": ("kPa gauge", (-99, -99, -99)),
    "pounds": ("vacuum (psi)", (-14.4, -14.4, -14.4)),
}


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "needle.sqlite3")) as client:
        yield client


def job_with(api: TestClient, rig: Rig, **scope: object) -> str:
    sheet = Job(party=Party(customer="Ferry terminal", unit="Ice store"), scope=Scope.model_validate(scope), rig=rig)
    r = api.post("/api/jobs", content=sheet.model_dump_json(), headers={"content-type": "application/json"})
    return str(r.json()["key"])


def without_gauge() -> Rig:
    rig = builders.one_hose()
    return rig.model_copy(update={"parts": tuple(p for p in rig.parts if p.kind != "gauge")})


def held(api: TestClient, key: str, minutes: float = 40.0) -> float:
    """A draw and a hold so many minutes ago; the hold's start."""
    start = time.time() - 60.0 * minutes
    for kind, at in (("pump-on", start - 1800.0), ("isolate", start), ("pump-off", start + 5.0)):
        api.post(f"/api/jobs/{key}/touches", json={"kind": kind, "at": at})
    return start


def read(api: TestClient, key: str, rows: list[tuple[float, str]]) -> None:
    body = {
        "gauge": "typed, dial",
        "part": "dial",
        "readings": [{"at": at, "pa": None, "dial": said, "key": f"k{at}"} for at, said in rows],
    }
    r = api.post(f"/api/jobs/{key}/readings", json=body)
    assert r.status_code == 201, r.text


def table(header: str, values: tuple[float, ...]) -> str:
    """Half an hour of a needle, a row every ten minutes."""
    whole = [*values, values[-1]]
    return "\n".join([f"time_s,{header}", *(f"{600 * n},{v}" for n, v in enumerate(whole))])


@pytest.mark.parametrize("name", DIALS)
def test_a_table_read_on_a_dial_certifies_nothing_anywhere(api: TestClient, tmp_path: Path, name: str) -> None:
    header, values = DIALS[name]
    text = table(header, values)
    said = api.post("/api/hold", json={"text": text, "volume_l": 8, "school": "dial-only"}).json()["verdict"]
    assert said["verdict"] == "unverified"
    assert said["needle"]["moved"] is False
    assert said["needle"]["leak_pa_m3_s"] > 1e-3
    assert all(c["passed"] is None for c in said["criteria"])

    file = tmp_path / "dial.csv"
    file.write_text(text)
    key = job_with(api, builders.one_hose(), condition="new-dry")
    api.post(f"/api/jobs/{key}/import", params={"commit": True, "began": "2026-07-11"}, files={"file": ("d.csv", text)})
    v = api.get(f"/api/jobs/{key}/verdict").json()
    assert v is None or v["verdict"] == "unverified"
    assert {s["part"] for s in api.get(f"/api/jobs/{key}/readings").json()} == {"dial"}


@pytest.mark.parametrize("name", DIALS)
def test_the_command_line_says_so_too(tmp_path: Path, capsys: pytest.CaptureFixture[str], name: str) -> None:
    file = tmp_path / "dial.csv"
    file.write_text(table(*DIALS[name]))
    main(["hold", str(file), "--volume-l", "8", "--temp-c", "12", "--json"])
    assert json.loads(capsys.readouterr().out)["verdict"] == "unverified"


def test_a_micron_gauge_beside_the_dial_is_the_one_that_is_judged(api: TestClient) -> None:
    rows = [f"{20 * n},{180 + 12 * (1 - 2.7 ** (-n / 8)):.1f},-29.8" for n in range(80)]
    text = "\n".join(["time_s,system (micron),manifold (inHg)", *rows])
    said = api.post("/api/hold", json={"text": text, "volume_l": 8, "isolated_at_s": 0}).json()["verdict"]
    assert said["needle"] is None
    assert said["verdict"] == "tight-and-dry"


def test_positions_at_start_and_end_with_the_minutes_make_the_hold(api: TestClient) -> None:
    key = job_with(api, without_gauge(), condition="new-dry")
    start = held(api, key)
    stage = {s["key"]: s for s in api.get(f"/api/jobs/{key}/stages").json()}["hold"]
    assert not stage["done"]
    read(api, key, [(start + 1900.0, "-29.5 inHg")])
    v = api.get(f"/api/jobs/{key}/verdict").json()
    assert (v["verdict"], v["needle"]["last_pa"]) == ("unverified", None)
    assert not {s["key"]: s for s in api.get(f"/api/jobs/{key}/stages").json()}["hold"]["done"]
    read(api, key, [(start + 10.0, "-29.5 inHg")])
    v = api.get(f"/api/jobs/{key}/verdict").json()
    assert v["verdict"] == "unverified"
    assert v["needle"]["minutes"] == pytest.approx(31.5, abs=0.2)
    assert v["needle"]["first_pa"] == v["needle"]["last_pa"] == pytest.approx(101_325 - 29.5 * 3386.389, abs=1)
    assert {s["key"]: s for s in api.get(f"/api/jobs/{key}/stages").json()}["hold"]["done"]
    row = next(r for r in api.get("/api/history").json()["rows"] if r["key"] == key)
    assert row["verdict"] == "unverified"
    assert api.get(f"/api/jobs/{key}/record.pdf").status_code == 200


def test_a_needle_that_moves_fails_the_hold_and_sends_to_the_leak(api: TestClient) -> None:
    key = job_with(api, without_gauge(), condition="new-dry")
    start = held(api, key)
    read(api, key, [(start + 5.0, "-29 inHg"), (start + 1800.0, "-25 inHg")])
    v = api.get(f"/api/jobs/{key}/verdict").json()
    assert v["needle"]["moved"]
    assert "moved" in v["headline"]
    assert all(c["passed"] is False for c in v["criteria"])
    assert v["advice"]["stage"] == "prove"
    assert v["advice"]["places"]


@pytest.mark.parametrize(
    ("said", "depth"),
    [
        ("-29.5 inHg", 29.5 * 3386.389),
        ("-1 bar", 1e5),
        ("-0.1 MPa", 1e5),
        ("-76 cmHg", 101_325.0),
        ("-30 psi", 101_325.0),
    ],
)
def test_a_needle_is_read_as_it_is_said(api: TestClient, said: str, depth: float) -> None:
    key = job_with(api, without_gauge())
    read(api, key, [(time.time(), said)])
    (series,) = api.get(f"/api/jobs/{key}/readings").json()
    assert series["pa"] == [pytest.approx(max(0.0, 101_325.0 - depth), abs=1)]


def test_what_is_no_dial_reading_is_refused_with_what_to_write(api: TestClient) -> None:
    key = job_with(api, without_gauge())
    body = {
        "gauge": "d",
        "part": "dial",
        "readings": [{"at": time.time(), "pa": None, "dial": "-3 furlongs", "key": "1"}],
    }
    r = api.post(f"/api/jobs/{key}/readings", json=body)
    assert r.status_code == 422
    assert "inHg" in r.json()["detail"]


def test_a_longer_watch_misses_less_and_a_larger_system_more() -> None:
    # Straight leak under the needle: q = Δp·V/t, so it halves with twice the minutes and doubles with the volume.
    c = STANDARDS["dial-only"]
    two = np.array([500.0, 600.0])

    def missed(minutes: float, litres: float) -> float:
        t = np.array([0.0, 60.0 * minutes])
        return judge_needle(t, two, exact(1e-3 * litres, "m³", "measured"), 101_325.0, 288.0, c)[1].leak

    assert missed(15, 8) == pytest.approx(2 * missed(30, 8))
    assert missed(15, 16) == pytest.approx(2 * missed(15, 8))
    assert missed(15, 8) == pytest.approx(0.01 * 30 * 3386.389 * 8e-3 / 900.0)
