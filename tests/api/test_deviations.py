"""No evacuation, no silent seal: what a job lacks is listed, and each wants a reason before the record is closed."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api.record import routes
from rough_draw.core.records.deviation import Facts, deviations, without_reason
from rough_draw.core.sheet.job import Job, Party
from rough_draw.core.sheet.scope import Scope
from rough_draw.store.report.record import Record
from tests import builders
from tests.core.test_hold import hold
from tests.one_app import app_on


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "deviations.sqlite3")) as client:
        yield client


def made(api: TestClient, **changes: Any) -> str:
    job = Job(
        party=Party(customer="Ferry terminal", unit="Ice store"),
        scope=Scope(condition="new-dry", coldest_c=16, ambient_c=18),
        rig=builders.one_hose(),
        **changes,
    )
    r = api.post("/api/jobs", content=job.model_dump_json(), headers={"content-type": "application/json"})
    return str(r.json()["key"])


def keys(api: TestClient, key: str) -> set[str]:
    return {d["key"] for d in api.get(f"/api/jobs/{key}/seal").json()["deviations"]}


def drawn_and_held(api: TestClient, key: str, minutes: float = 15, leak: float = 0.0) -> None:
    start = time.time() - 5000.0
    t, p = hold(minutes=minutes, start=150, settle=40, leak=leak)
    for kind, at in (("pump-on", start), ("isolate", start + 600), ("pump-off", start + 604)):
        api.post(f"/api/jobs/{key}/touches", json={"kind": kind, "at": at})
    rows = [{"at": start + 600 + float(a), "pa": float(b), "key": f"{a}"} for a, b in zip(t, p, strict=True)]
    api.post(f"/api/jobs/{key}/readings", json={"gauge": "Gauge 1", "readings": rows})


def test_an_empty_job_cannot_be_sealed_in_silence(api: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    key = made(api)
    found = keys(api, key)
    assert {"no-draw", "no-readings", "no-hold", "steps", "cautions"} <= found
    assert any(k.startswith("check:") for k in found)
    said = api.get(f"/api/jobs/{key}/seal").json()["what"]
    assert "No draw" in said
    assert "No hold test" in said
    refused = api.post(f"/api/jobs/{key}/seal", json={"by": "Ola Brandt"})
    assert refused.status_code == 409
    assert "never started" in refused.json()["detail"]
    # A reason of two letters is none, and one for some is none for the rest.
    some = dict.fromkeys(found, "xx")
    assert api.post(f"/api/jobs/{key}/seal", json={"by": "Ola Brandt", "reasons": some}).status_code == 409
    some = dict.fromkeys(sorted(found)[1:], "the unit was scrapped")
    assert api.post(f"/api/jobs/{key}/seal", json={"by": "Ola Brandt", "reasons": some}).status_code == 409
    assert api.get(f"/api/jobs/{key}/seal").json()["sealed_at"] is None
    whole = dict.fromkeys(found, "the unit was scrapped")
    sealed = api.post(f"/api/jobs/{key}/seal", json={"by": "Ola Brandt", "reasons": whole})
    assert sealed.status_code == 201
    kept = sealed.json()["deviations"]
    assert {d["key"] for d in kept} == found
    assert {d["reason"] for d in kept} == {"the unit was scrapped"}
    assert sealed.json()["whole"]
    # The report leads with them, as they were sealed.
    printed: list[Record] = []
    monkeypatch.setattr(routes, "render", lambda r: printed.append(r) or b"%PDF")
    assert api.get(f"/api/jobs/{key}/record.pdf").status_code == 200
    assert {reason for _, reason in printed[0].deviations} == {"the unit was scrapped"}


def test_each_step_that_is_done_takes_its_deviation_away(api: TestClient) -> None:
    key = made(api)
    before = keys(api, key)
    drawn_and_held(api, key)
    after = keys(api, key)
    assert before - after >= {"no-draw", "no-readings", "no-hold"}
    assert not any(k.startswith("verdict:") for k in after)
    job = api.get(f"/api/jobs/{key}").json()
    cautions = [c["key"] for c in api.get(f"/api/jobs/{key}/system").json()["cautions"]]
    job["job"]["closing"]["acknowledged"] = cautions
    api.put(f"/api/jobs/{key}", json={"version": job["version"], "job": job["job"]})
    assert "cautions" not in keys(api, key)


def test_a_leak_a_short_hold_and_a_failed_standard_are_deviations(api: TestClient) -> None:
    key = made(api)
    drawn_and_held(api, key, minutes=8, leak=4.0)
    found = keys(api, key)
    assert "verdict:leak" in found
    assert {"short-hold", "standard"} <= found


def test_readings_of_the_simulated_gauge_are_a_deviation(api: TestClient) -> None:
    key = made(api)
    assert api.post(f"/api/jobs/{key}/standin", json={"speed": 60}).status_code == 200
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})
    assert "simulated" in keys(api, key)


def test_so_are_simulated_readings_that_came_in_by_a_table(api: TestClient) -> None:
    """A table taken out of another job carries its marks; no simulated gauge was ever put on this one."""
    key = made(api)
    table = "time,µm Hg,source\n" + "\n".join(f"2026-03-02T09:0{n}:00Z,{900 - n},simulated" for n in range(9))
    r = api.post(f"/api/jobs/{key}/import?commit=true", files={"file": ("t.csv", table.encode(), "text/csv")})
    assert r.status_code == 200, r.text
    assert api.get(f"/api/jobs/{key}/readings").json()[0]["simulated"]
    assert "simulated" in keys(api, key)


def test_a_dial_job_is_a_deviation_whatever_the_needle_did(api: TestClient) -> None:
    rig = builders.one_hose()
    rig = rig.model_copy(update={"parts": tuple(p for p in rig.parts if p.kind != "gauge")})
    job = Job(party=Party(customer="Quay", unit="Store"), scope=Scope(condition="new-dry"), rig=rig)
    r = api.post("/api/jobs", content=job.model_dump_json(), headers={"content-type": "application/json"})
    key = str(r.json()["key"])
    start = time.time() - 4000.0
    for kind, at in (("pump-on", start - 900), ("isolate", start), ("pump-off", start + 4)):
        api.post(f"/api/jobs/{key}/touches", json={"kind": kind, "at": at})
    rows = [{"at": start + t, "pa": None, "dial": "-29.5 inHg", "key": f"{t}"} for t in (5.0, 1900.0)]
    api.post(f"/api/jobs/{key}/readings", json={"gauge": "dial", "part": "dial", "readings": rows})
    assert {"verdict:unverified", "standard"} <= keys(api, key)


SOUND = Facts(
    checks={},
    drawn=True,
    read=True,
    isolated=True,
    held=900.0,
    needed=600.0,
    verdict="tight-and-dry",
    headline="",
    standard="Code minimum",
    standard_passed=True,
    standard_reason="",
    simulated=False,
    off_kg=None,
    steps_left=(),
    cautions_left=(),
)


def test_a_job_that_lacks_nothing_has_none() -> None:
    assert deviations(SOUND) == ()
    assert without_reason((), {}) == ()


def test_a_step_against_a_stop_is_a_deviation_until_it_is_taken_back(api: TestClient) -> None:
    key = made(api)
    for kind in ("pump-on", "isolate", "vent-pump", "pump-off", "reopen"):
        assert api.post(f"/api/jobs/{key}/touches", json={"kind": kind}).status_code == 201
    assert "against-stops" in keys(api, key)
    said = next(
        d["words"] for d in api.get(f"/api/jobs/{key}/seal").json()["deviations"] if d["key"] == "against-stops"
    )
    assert "against a stop" in said
    api.post(f"/api/jobs/{key}/touches", json={"kind": "undo:reopen"})
    assert "against-stops" not in keys(api, key)
