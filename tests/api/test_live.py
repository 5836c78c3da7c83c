"""The live run by the API: why it is slow, alarms, breaks with nitrogen, more gauges than one."""

from __future__ import annotations

import asyncio
import contextlib
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient

from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.standalone import serve
from rough_draw.standins.world import Truth, World
from rough_draw.store import jobs
from tests.api.test_api import made, wait_for
from tests.one_app import app_on

M = MICRON_PA


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "live.sqlite3")) as client:
        yield client


def drawing(api: TestClient, fault: str = "", minutes: float = 12.0, step: float = 4.0) -> tuple[str, float]:
    """A job whose draw has run for a while in a world with a fault; returns key and start (epoch s)."""
    key = made(api)
    job = jobs.get(key).job
    world = World(job, Truth(seed=4, fault=fault))
    world.touch("pump-on")
    start = time.time() - minutes * 60.0
    rows = []
    for t in np.arange(step, minutes * 60.0, step):
        world.advance(float(t))
        rows.append({"at": start + float(t), "pa": world.read(), "key": f"{t:.0f}"})
    api.post(f"/api/jobs/{key}/touches", json={"kind": "ballast-open", "at": start})
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on", "at": start})
    assert api.post(f"/api/jobs/{key}/readings", json={"gauge": "Gauge 1", "readings": rows}).status_code < 300
    return key, start


def test_a_forgotten_ballast_is_found_by_looking(api: TestClient) -> None:
    key, _ = drawing(api, "ballast")
    why = api.get(f"/api/jobs/{key}/why").json()
    # Two may be at work at once, so odds of single causes may sum to more than one; none is above it.
    assert all(0.0 <= s["odds"] <= 1.0 for s in why["suspects"])
    assert "ballast" in [s["key"] for s in why["suspects"]]
    assert why["sign"]
    test = next(t for t in why["tests"] if t["key"] == "ballast")
    assert {o["key"] for o in test["outcomes"]} == {"yes", "no"}
    after = api.post(f"/api/jobs/{key}/why/answers", json={"test": "ballast", "outcome": "yes"})
    assert after.status_code == 201
    assert after.json()["suspects"][0]["key"] == "ballast"
    assert after.json()["settled"]
    assert after.json()["answered"] == [{"test": "ballast", "do": test["do"], "found": "yes"}]
    # It is in the log, in words, and stays after a restart of the page.
    log = api.get(f"/api/jobs/{key}/touches").json()
    assert log[-1]["words"] == "Looked:"
    assert "ballast" in log[-1]["note"]
    assert api.get(f"/api/jobs/{key}/why").json()["answered"]
    # Closing it is the cure: the finding no longer stands.
    api.post(f"/api/jobs/{key}/touches", json={"kind": "ballast-shut"})
    assert api.get(f"/api/jobs/{key}/why").json()["answered"] == []


def test_findings_can_be_set_aside(api: TestClient) -> None:
    key, _ = drawing(api, "ballast")
    api.post(f"/api/jobs/{key}/why/answers", json={"test": "oil", "outcome": "no"})
    again = api.delete(f"/api/jobs/{key}/why/answers")
    assert again.status_code == 200
    assert again.json()["answered"] == []


def test_asking_why_too_early_or_wrongly_is_told_plainly(api: TestClient) -> None:
    key = made(api)
    early = api.get(f"/api/jobs/{key}/why")
    assert early.status_code == 409
    assert "does not draw" in early.json()["detail"]
    key, _ = drawing(api, "ballast")
    for body, words in (
        ({"test": "x-ray", "outcome": "yes"}, "There is no test x-ray"),
        ({"test": "oil", "outcome": "blue"}, "does not turn out blue"),
    ):
        r = api.post(f"/api/jobs/{key}/why/answers", json=body)
        assert r.status_code == 422
        assert words in r.json()["detail"]
    assert api.post("/api/jobs/none/why/answers", json={"test": "oil", "outcome": "no"}).status_code == 404


def test_the_fit_is_in_what_is_live_and_says_when_it_is_contradicted(api: TestClient) -> None:
    key, _ = drawing(api, minutes=3)
    fit = fitted(api, key)["fit"]
    assert fit["low"][-1] <= fit["mid"][-1] <= fit["high"][-1]
    assert len(fit["at"]) == len(fit["mid"])
    key, _ = drawing(api, "ballast", minutes=25)
    live = fitted(api, key)
    # The log leaves the ballast open, and that explains it: with it open the target is out of reach.
    assert not live["fit"]["contradicts"]
    assert live["sign"].startswith("Stuck near")
    assert live["target_at"] is None, "there is no honest time to a target that is out of reach"
    assert live["next"][0]["kind"] == "ballast-shut"


def fitted(api: TestClient, key: str) -> dict[str, Any]:
    """What is live once the fit beside it has its first answer."""
    return wait_for(lambda: (r := api.get(f"/api/jobs/{key}/live").json())["fit"] and r)  # type: ignore[no-any-return]


def set_alarms(api: TestClient, key: str, alarms: list[dict[str, Any]]) -> int:
    sheet = api.get(f"/api/jobs/{key}").json()
    sheet["job"]["alarms"] = alarms
    return api.put(f"/api/jobs/{key}", json={"version": sheet["version"], "job": sheet["job"]}).status_code


def ringing(api: TestClient, key: str) -> list[dict[str, Any]]:
    time.sleep(1.1)
    return [r for r in api.get("/api/alarms").json() if r["job"] == key]


def test_an_alarm_names_its_job_and_is_silenced_until_it_comes_back(api: TestClient) -> None:
    key, _ = drawing(api, minutes=8)
    last = api.get(f"/api/jobs/{key}/live").json()["pa"] / M
    assert set_alarms(api, key, [{"kind": "under", "micron": last + 50}]) == 200
    (ring,) = ringing(api, key)
    assert ring["title"] == "Hollow Bank, Room 1"
    assert ring["words"].startswith("Under")
    assert not ring["silenced"]
    assert api.post(f"/api/jobs/{key}/alarms/silence", json={"key": ring["key"]}).status_code == 204
    assert ringing(api, key)[0]["silenced"]
    # Over the level it ends; under it again, it rings anew.
    for pa in ((last + 500) * M, last * M):
        # Two readings that agree: a single one calls nobody.
        rows = [{"at": time.time() + n / 10, "pa": pa, "key": f"late-{pa:.0f}-{n}"} for n in range(2)]
        time.sleep(0.2)
        api.post(f"/api/jobs/{key}/readings", json={"gauge": "Gauge 1", "readings": rows})
        found = ringing(api, key)
    assert not found[0]["silenced"]
    assert set_alarms(api, key, [{"kind": "under"}]) == 422
    assert set_alarms(api, key, []) == 200
    assert ringing(api, key) == []


def test_a_new_sheet_calls_when_the_next_touch_is_due(api: TestClient) -> None:
    key, _ = drawing(api, minutes=8)
    assert [r["words"] for r in ringing(api, key)] == ["Close the gas ballast."]


def test_breaks_are_weighed_for_a_sheet(api: TestClient) -> None:
    job = Job(scope=Scope(condition="flooded", free_water_g=4), criterion=CriterionChoice(school="triple"))
    key = jobs.create(job).key
    found = api.get(f"/api/jobs/{key}/breaks").json()
    assert found["asked"] == 2
    assert found["wet"]
    assert [c["breaks"] for c in found["cycles"]] == [0, 1, 2, 3]
    assert found["share"] == pytest.approx(1_500 * M / 101_325, rel=0.02)


def test_a_triple_evacuation_by_touches(api: TestClient) -> None:
    job = Job(scope=Scope(condition="new-dry"), criterion=CriterionChoice(school="triple"))
    key = jobs.create(job).key
    goals = []
    api.post(f"/api/jobs/{key}/standin", json={"speed": 60})
    for kind in ("pump-on", "break", "break-end", "break", "break-end"):
        api.post(f"/api/jobs/{key}/touches", json={"kind": kind})
        live = api.get(f"/api/jobs/{key}/live").json()
        goals.append((live["breaks"], live["broken"], round(live["goal_pa"] / M)))
        if live["broken"]:
            # Nitrogen lifts the gauge over its range, by the simulated world.
            wait_for(lambda: api.get(f"/api/jobs/{key}/live").json()["over_range"] or None)
    assert goals == [(0, False, 1500), (1, True, 1500), (1, False, 1500), (2, True, 500), (2, False, 500)]
    assert live["words"] == f"pull 3 of {len(chosen(job.criterion).breaks) + 1}"
    api.delete(f"/api/jobs/{key}/standin")


def test_a_simulated_gauge_that_is_put_on_late_reads_the_draw_as_it_has_gone(api: TestClient) -> None:
    """What hands did before it was on has happened in its world, and goes on there after it is put on again."""
    key = made(api)
    began = time.time() - 1800
    for kind in ("ballast-open", "pump-on"):
        api.post(f"/api/jobs/{key}/touches", json={"kind": kind, "at": began})
    api.post(f"/api/jobs/{key}/standin", json={"speed": 60})
    first = wait_for(lambda: api.get(f"/api/jobs/{key}/live").json()["pa"])
    # A world that began only now stands at the atmosphere; what half an hour leaves differs from world to world.
    assert first < 10_000 * M
    series = api.get(f"/api/jobs/{key}/readings").json()
    assert series[0]["at"][0] >= began + 1700, "it reads from when it was put on"
    api.delete(f"/api/jobs/{key}/standin")
    api.post(f"/api/jobs/{key}/standin", json={"speed": 60})
    seen = len(api.get(f"/api/jobs/{key}/readings").json()[0]["at"])
    again = wait_for(lambda: (s := api.get(f"/api/jobs/{key}/readings").json()[0])["total"] > seen and s)
    assert again["pa"][-1] == pytest.approx(first, rel=0.8)
    assert again["pa"][-1] < 10_000 * M
    api.delete(f"/api/jobs/{key}/standin")


def test_a_second_gauge_is_read_on_the_same_clock_and_judges_nothing(api: TestClient) -> None:
    key = made(api)
    out = api.post(f"/api/jobs/{key}/standin", json={"speed": 60, "second": True}).json()
    assert out["second"]
    api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})

    def both() -> list[dict[str, Any]] | None:
        series = api.get(f"/api/jobs/{key}/readings").json()
        return series if len(series) == 2 and all(s["total"] > 12 for s in series) else None

    series = {s["gauge"]: s for s in wait_for(both)}
    live = api.get(f"/api/jobs/{key}/live").json()
    assert live["gauge"] != "Gauge at the pump"
    assert [g["gauge"] for g in live["gauges"]] == ["Gauge at the pump"]
    pump, main = series["Gauge at the pump"], series[live["gauge"]]
    assert abs(pump["at"][-1] - main["at"][-1]) < 30
    api.delete(f"/api/jobs/{key}/standin")


def test_a_gauge_that_runs_by_itself_is_read_by_its_protocol(
    api: TestClient, capsys: pytest.CaptureFixture[str]
) -> None:
    key = made(api)
    world = World(jobs.get(key).job, Truth(seed=9))
    held: list[Any] = []

    async def main() -> None:
        held.extend((asyncio.get_running_loop(), asyncio.current_task()))
        await serve(world, "bench", 0, 10)

    def turn() -> None:
        with contextlib.suppress(asyncio.CancelledError):
            asyncio.run(main())

    thread = threading.Thread(target=turn)
    thread.start()
    printed = wait_for(lambda: capsys.readouterr().out or None)
    port = int(printed.split("127.0.0.1:")[1].split(",")[0])
    try:
        assert api.post(f"/api/jobs/{key}/standin", json={"port": port, "opens": "bench"}).json()["standin"]
        api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})
        wait_for(lambda: api.get(f"/api/jobs/{key}/readings").json() or None)
        assert world.pump_on
        assert api.post(f"/api/jobs/{key}/standin", json={"port": 99999}).status_code == 422
    finally:
        api.delete(f"/api/jobs/{key}/standin")
        held[0].call_soon_threadsafe(held[1].cancel)
        thread.join(10)


def test_a_job_that_draws_is_in_the_day_with_what_is_left_of_it(api: TestClient) -> None:
    key, start = drawing(api, minutes=4)
    fitted(api, key)
    rows = {j["key"]: j for j in api.get("/api/day").json()["jobs"]}
    row = rows[key]
    assert row["running"]
    assert row["start_at"] == pytest.approx(start)
    kinds = [t["kind"] for t in row["touches"]]
    assert "pump-on" not in kinds
    assert "ballast-shut" in kinds
    live = api.get(f"/api/jobs/{key}/live").json()
    isolate = next(t for t in row["touches"] if t["kind"] == "isolate")
    assert isolate["at"]["value"] == pytest.approx(live["target_at"]["value"], abs=120)
    api.post(f"/api/jobs/{key}/touches", json={"kind": "isolate"})
    assert key not in {j["key"] for j in api.get("/api/day").json()["jobs"]}


def test_a_wet_system_is_warmed_before_its_pump_starts(api: TestClient) -> None:
    key = jobs.create(Job(scope=Scope(condition="flooded", free_water_g=4))).key
    assert [n["kind"] for n in api.get(f"/api/jobs/{key}/live").json()["next"][:2]] == ["warm-up", "pump-on"]
    api.post(f"/api/jobs/{key}/touches", json={"kind": "warm-up"})
    assert api.get(f"/api/jobs/{key}/live").json()["next"][0]["kind"] == "pump-on"


def test_readings_of_a_span_are_whole_where_the_draw_is_thinned(api: TestClient) -> None:
    key = made(api)
    start = 1_000_000.0
    rows = [jobs.NewReading("Gauge 1", start + n, 100.0 + n % 7) for n in range(9_000)]
    jobs.add_readings(key, rows, "gauge")
    (whole,) = api.get(f"/api/jobs/{key}/readings").json()
    assert whole["thinned"]
    assert whole["total"] == 9_000
    (part,) = api.get(f"/api/jobs/{key}/readings?since={start + 99.5}&until={start + 200}").json()
    assert not part["thinned"]
    assert part["at"] == [start + n for n in range(100, 201)]
