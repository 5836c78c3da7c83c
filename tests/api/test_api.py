"""The API: jobs, plans, runs, readings, imports, records; and problems told as problem details."""

from __future__ import annotations

import json
import time
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api.devices.gauge_driver import Link
from rough_draw.api.devices.reading_writer import Keeper
from rough_draw.api.news.listeners import Listeners
from rough_draw.core.sheet.job import CriterionChoice, Job, Party
from rough_draw.core.sheet.scope import Scope
from rough_draw.store import jobs
from tests.demo_copy import demo_copy
from tests.one_app import app_on
from tests.test_cli import table


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "api.sqlite3")) as client:
        yield client


def made(api: TestClient, **scope: Any) -> str:
    job = Job(party=Party(customer="Hollow Bank", unit="Room 1"), scope=Scope(condition="new-dry", **scope))
    r = api.post("/api/jobs", content=job.model_dump_json(), headers={"content-type": "application/json"})
    assert r.status_code == 201
    return str(r.json()["key"])


def test_health_and_headers(api: TestClient) -> None:
    r = api.get("/api/health")
    assert r.json()["status"] == "ok"
    assert "default-src 'self'" in r.headers["content-security-policy"]
    assert r.headers["x-content-type-options"] == "nosniff"


def test_catalogue_offers_what_the_sheet_accepts(api: TestClient) -> None:
    c = api.get("/api/catalogue").json()
    assert "7/8 in" in c["tube_sizes"]
    assert "22 mm" in c["tube_sizes"]
    for refrigerant in c["refrigerants"]:
        Scope(refrigerant=refrigerant["value"])
    for school in c["schools"]:
        CriterionChoice(school=school["value"])
    assert len(c["schools"]) == 7


def test_edit_conflict_undo(api: TestClient) -> None:
    key = made(api)
    sheet = api.get(f"/api/jobs/{key}").json()
    sheet["job"]["scope"]["ambient_c"] = 25
    saved = api.put(f"/api/jobs/{key}", json={"version": sheet["version"], "job": sheet["job"]})
    assert saved.json()["version"] == sheet["version"] + 1
    again = api.put(f"/api/jobs/{key}", json={"version": sheet["version"], "job": sheet["job"]})
    assert again.json() == saved.json(), "sent again, for the answer was lost: it is there"
    sheet["job"]["scope"]["ambient_c"] = 26
    late = api.put(f"/api/jobs/{key}", json={"version": sheet["version"], "job": sheet["job"]})
    assert late.status_code == 409
    assert late.headers["content-type"] == "application/problem+json"
    assert "changed meanwhile" in late.json()["detail"]
    assert api.post(f"/api/jobs/{key}/undo").json()["job"]["scope"]["ambient_c"] == 18
    assert api.post(f"/api/jobs/{key}/undo").status_code == 409


def test_a_wrong_figure_is_told_by_its_place(api: TestClient) -> None:
    key = made(api)
    sheet = api.get(f"/api/jobs/{key}").json()
    sheet["job"]["scope"]["sections"][0]["size"] = "9 in"
    r = api.put(f"/api/jobs/{key}", json={"version": sheet["version"], "job": sheet["job"]})
    assert r.status_code == 422
    assert r.json()["faults"][0]["place"] == "job.scope.sections.0.size"
    assert "No copper tube of size 9 in" in r.json()["faults"][0]["message"]


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [
        ("get", "/api/jobs/none", 404),
        ("get", "/api/jobs/none/live", 404),
        ("get", "/api/jobs/none/plan", 404),
        ("get", "/api/jobs/none/record.pdf", 404),
        ("get", "/api/jobs/BAD..KEY", 422),
        ("get", "/api/nothing", 404),
        ("post", "/api/jobs/none/undo", 404),
        ("delete", "/api/jobs/none", 404),
    ],
)
def test_what_is_not_there(api: TestClient, method: str, path: str, status: int) -> None:
    r = getattr(api, method)(path)
    assert r.status_code == status
    assert r.json()["detail"]


def test_system_and_plan(api: TestClient) -> None:
    key = made(api, nameplate_kg=5)
    s = api.get(f"/api/jobs/{key}/system").json()
    drawn = [x["volume_m3"]["value"] for x in s["sections"] if x["state"] != "charge"]
    assert sum(drawn) == pytest.approx(s["volume_m3"]["value"])
    # Its unit keeps what the nameplate says: the line alone is weighed in.
    assert 0 < s["charge"]["kg"] < 2
    p = api.get(f"/api/jobs/{key}/plan").json()
    assert len(p["times"]) == len(p["gauge_mid"])
    assert p["time_to_target_s"]["low"] <= p["time_to_target_s"]["high"]
    first = api.get(f"/api/jobs/{key}/changes").json()["upgrades"][0]
    assert first["seconds_saved"]["value"] > 0
    version = api.get(f"/api/jobs/{key}").json()["version"]
    assert api.post(f"/api/jobs/{key}/apply", json={"version": version, "key": first["key"]}).status_code == 200
    better = api.get(f"/api/jobs/{key}/plan").json()
    saved = p["time_to_target_s"]["value"] - better["time_to_target_s"]["value"]
    assert saved == pytest.approx(first["seconds_saved"]["value"], rel=0.05)


def test_a_sheet_that_cannot_be_computed_says_why(api: TestClient) -> None:
    job = json.loads(Job(scope=Scope(template="cylinder")).model_dump_json())
    job["rig"]["parts"][2]["port"] = "attic"
    r = api.post("/api/plan", json=job)
    assert r.status_code == 422
    assert "no port attic" in r.json()["detail"]
    assert r.json()["faults"][0]["place"] == "rig.parts.tool-a"


def test_typed_readings_once_and_live(api: TestClient) -> None:
    key = made(api)
    now = time.time()
    body = {
        "gauge": "typed",
        "readings": [{"at": now - 60, "pa": 800.0, "key": "a"}, {"at": now - 30, "pa": None, "key": "b"}],
    }
    assert api.post(f"/api/jobs/{key}/readings", json=body).json()["added"] == 2
    assert api.post(f"/api/jobs/{key}/readings", json=body).json()["added"] == 0
    live = api.get(f"/api/jobs/{key}/live").json()
    assert live["over_range"]
    body = {"gauge": "typed", "readings": [{"at": now, "pa": 60.0, "key": "c"}]}
    api.post(f"/api/jobs/{key}/readings", json=body)
    live = api.get(f"/api/jobs/{key}/live").json()
    assert live["pa"] == 60.0
    assert live["phase"] == "draw"
    series = api.get(f"/api/jobs/{key}/readings").json()[0]
    assert series["pa"] == [800.0, None, 60.0]
    assert api.get(f"/api/jobs/{key}/readings", params={"since": now - 1}).json()[0]["total"] == 1
    bad = api.post(f"/api/jobs/{key}/readings", json={"gauge": "g", "readings": [{"at": 1, "pa": -4, "key": "x"}]})
    assert bad.status_code == 422


def test_touches_and_the_next_one(api: TestClient) -> None:
    key = made(api)
    first = api.get(f"/api/jobs/{key}/live").json()["next"][0]
    assert first["kind"] == "pump-on"
    assert "compressor" in first["caution"]
    for kind in ("ballast-open", "pump-on", "isolate"):
        assert api.post(f"/api/jobs/{key}/touches", json={"kind": kind}).status_code == 201
    live = api.get(f"/api/jobs/{key}/live").json()
    assert live["phase"] == "hold"
    assert [n["kind"] for n in live["next"]][:2] == ["shut:pump", "pump-off"]
    assert [t["kind"] for t in api.get(f"/api/jobs/{key}/touches").json()] == ["ballast-open", "pump-on", "isolate"]
    bad = api.post(f"/api/jobs/{key}/touches", json={"kind": "kick-it"})
    assert bad.status_code == 422
    assert "kick-it" in bad.json()["detail"]


BEGAN = "2026-07-11T13:34:05+00:00"


def upload(api: TestClient, key: str, data: bytes, commit: bool = False, began: str = BEGAN) -> Any:
    asked = {"commit": commit, **({"began": began} if began else {})}
    return api.post(f"/api/jobs/{key}/import", params=asked, files={"file": ("r.csv", data)})


@pytest.mark.parametrize(
    ("rows", "began", "asks", "starts"),
    [
        ("time_s,micron\n0,900\n5,800\n9,700\n", "", "moment", None),
        ("time_s,micron\n0,900\n5,800\n9,700\n", "2026-07-11T13:34:05+02:00", "moment", "2026-07-11T11:34:05Z"),
        ("elapsed (min),micron\n0,900\n5,800\n9,700\n", "2026-07-11T13:34Z", "moment", "2026-07-11T13:34:00Z"),
        ("time,micron\n23:59:55,900\n00:00:05,800\n00:00:09,700\n", "", "day", None),
        ("time,micron\n23:59:55,900\n00:00:05,800\n00:00:09,700\n", "2026-07-11", "day", "2026-07-11T23:59:55Z"),
        ("time,micron\n1:30:05 PM,900\n1:30:09 PM,800\n1:30:19 PM,700\n", "2026-07-11", "day", "2026-07-11T13:30:05Z"),
        (
            "timestamp,micron\n2026-07-11T13:00:00+02:00,900\n2026-07-11T13:00:09+02:00,80\n",
            "",
            "",
            "2026-07-11T11:00:00Z",
        ),
        (
            "timestamp,micron\n2026-07-11T13:00:00Z,900\n2026-07-11T13:00:09Z,80\n",
            "2026-01-01",
            "",
            "2026-07-11T13:00:00Z",
        ),
        ("date,time,micron\n11.07.2026,13:00:00,900\n11.07.2026,13:00:09,80\n", "", "", "2026-07-11T13:00:00Z"),
    ],
)
def test_a_table_keeps_its_own_times_or_is_asked_for_them(
    api: TestClient, monkeypatch: pytest.MonkeyPatch, rows: str, began: str, asks: str, starts: str | None
) -> None:
    monkeypatch.setenv("TZ", "UTC")
    time.tzset()
    key = made(api)
    look = upload(api, key, rows.encode(), began=began).json()
    assert look["asks"] == asks
    taken = upload(api, key, rows.encode(), commit=True, began=began)
    if starts is None:
        assert look["starts_at"] is None
        assert taken.status_code == 422
        assert api.get(f"/api/jobs/{key}/readings").json() == []
        return
    at = datetime.fromisoformat(starts).timestamp()
    assert look["starts_at"] == at
    assert taken.status_code == 200, taken.text
    assert api.get(f"/api/jobs/{key}/readings").json()[0]["at"][0] == at


def test_a_table_of_tomorrow_is_not_taken(api: TestClient) -> None:
    later = "timestamp,micron\n2062-07-11T13:00:00Z,900\n2062-07-11T13:00:09Z,80\n"
    refused = upload(api, made(api), later.encode(), commit=True, began="")
    assert refused.status_code == 422
    assert "2062-07-11" in refused.json()["detail"]


def test_import_preview_commit_verdict_and_papers(api: TestClient, tmp_path: Path) -> None:
    key = made(api, volume_l=8, ambient_c=18, coldest_c=16)
    data = Path(table(tmp_path / "r.csv", leak=1.4)).read_bytes()
    look = upload(api, key, data).json()
    assert not look["committed"]
    assert look["hold_from_s"] == pytest.approx(900, abs=12)
    assert api.get(f"/api/jobs/{key}/readings").json() == []
    assert api.get(f"/api/jobs/{key}/verdict").json() is None
    assert upload(api, key, data, commit=True).json()["committed"]
    v = api.get(f"/api/jobs/{key}/verdict").json()
    assert v["verdict"] == "leak"
    assert v["rate_micron_s"]["low"] < 1.42
    assert v["rate_micron_s"]["high"] > 1.38
    assert v["curves"]
    assert len(v["inputs_hash"]) == 64
    pdf = api.get(f"/api/jobs/{key}/record.pdf")
    assert pdf.content.startswith(b"%PDF-")
    assert 'filename="hollow-bank-room-1.pdf"' in pdf.headers["content-disposition"]
    text = api.get(f"/api/jobs/{key}/readings.csv").text
    assert text.startswith("timestamp,elapsed_s,")
    file = api.get(f"/api/jobs/{key}/job.json").content
    assert api.post("/api/job-files", files={"file": ("j.json", file)}).status_code == 409
    copy = api.post("/api/job-files?again=true", files={"file": ("j.json", file)})
    assert copy.status_code == 201
    again = api.get(f"/api/jobs/{copy.json()['key']}/verdict").json()
    assert again["verdict"] == "leak"
    assert again["inputs_hash"] == v["inputs_hash"]


def test_faulty_imports_bring_nothing(api: TestClient) -> None:
    key = made(api)
    r = upload(api, key, b"time_s,micron\n0,900\n5,abc\n4,70\n", commit=True)
    assert r.status_code == 422
    assert [f["place"] for f in r.json()["faults"]] == ["line 3", "line 4"]
    assert api.get(f"/api/jobs/{key}/readings").json() == []
    assert api.post("/api/job-files", files={"file": ("j.json", b"{nope")}).status_code == 422


def test_yard_sorts_and_names(api: TestClient) -> None:
    key = made(api)
    api.post("/api/jobs", json={})
    rows = api.get("/api/jobs").json()
    assert {r["stage"] for r in rows} == {"scope", "prove"}
    row = next(r for r in rows if r["key"] == key)
    assert row["customer"] == "Hollow Bank"
    assert len(row["stages"]) == 7
    copy = api.post("/api/jobs", params={"copy_of": key}, json={}).json()
    assert copy["job"]["party"]["customer"] == "Hollow Bank"
    assert api.delete(f"/api/jobs/{key}").status_code == 204
    assert key not in {r["key"] for r in api.get("/api/jobs").json()}


def test_checks_follow_the_sheet(api: TestClient) -> None:
    key = made(api, refrigerant="R-290")
    c = api.get(f"/api/jobs/{key}/checks").json()
    gates = api.get(f"/api/jobs/{key}/prove").json()["gates"]
    assert any(g["key"] == "flammable" and g["state"] == "open" for g in gates)
    assert any(s["value"] == "see-pressure" for s in c["steps"])


def wait_for(what, seconds: float = 20.0):  # type: ignore[no-untyped-def]
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        found = what()
        if found:
            return found
        time.sleep(0.1)
    raise AssertionError("waited in vain")


def test_the_stand_in_draws_obeys_and_resumes(tmp_path: Path) -> None:
    path = tmp_path / "s.sqlite3"
    with TestClient(app_on(path)) as api:
        key = made(api)
        assert api.post(f"/api/jobs/{key}/standin", json={"speed": 7}).status_code == 422
        assert api.post(f"/api/jobs/{key}/standin", json={"speed": 60}).json()["standin"]
        for kind in ("ballast-open", "pump-on"):
            api.post(f"/api/jobs/{key}/touches", json={"kind": kind})
        low = wait_for(lambda: (p := api.get(f"/api/jobs/{key}/live").json()["pa"]) and p < 500 and p)
        api.post(f"/api/jobs/{key}/touches", json={"kind": "isolate"})
        api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-off"})
        assert wait_for(lambda: (p := api.get(f"/api/jobs/{key}/live").json()["pa"]) and p > 0 and p)
        assert low < 500
        last = api.get(f"/api/jobs/{key}/live").json()
    with TestClient(app_on(path)) as api:
        again = wait_for(lambda: (r := api.get(f"/api/jobs/{key}/live").json())["standin"] and r)
        assert again["now"] >= last["reading_at"] - 1
        assert again["isolated_at"] == last["isolated_at"]
        count = len(jobs.readings(key)[0].at)
        wait_for(lambda: len(jobs.readings(key)[0].at) > count)
        assert api.delete(f"/api/jobs/{key}/standin").json()["standin"] is False


def test_the_driver_survives_garbage() -> None:
    link = Link(key="k", port=0, listeners=Listeners(), keeper=Keeper())
    pending: list[jobs.NewReading] = []
    for line in (
        b"\xff\xfe\n",
        b"{half",
        b"[]\n",
        b'{"at": "soon"}\n',
        b'{"at": 5, "pa": -3}\n',
        b'{"at": 5, "pa": 1e99}\n',
        b'{"at": 5}\n',
        b'{"at": NaN, "pa": 3}\n',
    ):
        link._take(line, pending)
    assert pending == []
    assert link.faults >= 6
    link._take(b'{"at": 5, "pa": 12.5}\n', pending)
    link._take(b'{"at": 6, "over": true}\n', pending)
    assert [(r.at, r.pa) for r in pending] == [(5.0, 12.5), (6.0, None)]


def test_a_stream_that_cannot_keep_up_is_told_to_reload() -> None:
    import asyncio

    async def main() -> dict[str, object]:
        listeners = Listeners()
        stream = listeners.listen(["k"])
        assert await anext(stream) == {"kind": "hello"}
        for n in range(600):
            listeners.tell("k", {"kind": "readings", "n": n})
        return await anext(stream)

    assert asyncio.run(main())["kind"] == "reload"


def test_demo_data_is_whole(tmp_path_factory: pytest.TempPathFactory) -> None:
    with TestClient(app_on(demo_copy(tmp_path_factory))) as api:
        rows = {r["key"]: r for r in api.get("/api/jobs").json()}
        assert len(rows) == 11
        assert len({r["stage"] for r in rows.values()}) >= 4
        verdicts = {k: (api.get(f"/api/jobs/{k}/verdict").json() or {}).get("verdict") for k in rows}
        six = {"leak", "leak-and-moisture", "moisture", "refrigerant", "hose", "tight-and-dry"}
        assert six <= set(verdicts.values())
        assert verdicts["larkspur-3"] is None
        wait_for(lambda: api.get("/api/jobs/larkspur-3/live").json()["standin"])


def test_a_touch_is_foreseen_before_it_is_made(api: TestClient) -> None:
    key = made(api)
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})
    seen = api.get(f"/api/jobs/{key}/foresee", params={"kind": "pump-off"}).json()
    assert seen["stop"]
    assert seen["consequences"][0]["severity"] == "stop"
    assert "Isolate first" in seen["consequences"][0]["why"]
    for valve in api.get(f"/api/jobs/{key}/plan").json()["isolate_valves"]:
        r = api.post(f"/api/jobs/{key}/touches", json={"kind": f"shut:{valve}"})
        assert r.json()["words"].startswith("Closed the ")
    assert not api.get(f"/api/jobs/{key}/foresee", params={"kind": "pump-off"}).json()["stop"]
    assert api.get(f"/api/jobs/{key}/live").json()["shut"]


@pytest.mark.parametrize("kind", ["shut:nothing", "kick-it", "open:", ":", "shut"])
def test_a_touch_on_what_is_not_there_is_refused_with_what_is(api: TestClient, kind: str) -> None:
    key = made(api)
    for r in (
        api.get(f"/api/jobs/{key}/foresee", params={"kind": kind}),
        api.post(f"/api/jobs/{key}/touches", json={"kind": kind}),
    ):
        assert r.status_code == 422
        assert "There is no step" in r.json()["detail"] or "no valve nothing; it has" in r.json()["detail"]


def test_orders_are_derived_for_the_rig(api: TestClient) -> None:
    key = made(api)
    steps = api.get(f"/api/jobs/{key}/orders/oil-change").json()
    values = [s["value"] for s in steps]
    assert values.index("pump-off") < values.index("oil-change") < values.index("pump-on")
    assert all(s["label"] and s["note"] for s in steps)
    assert api.get(f"/api/jobs/{key}/orders/dance").status_code == 422
