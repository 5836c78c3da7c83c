"""Steps that are foreseen together are foreseen as if each were asked for and made in its turn."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.api.test_any_rig import GOALS
from tests.depth import drawn
from tests.one_app import app_on

RUN = ["pump-on", "isolate", "pump-off", "ballast-open", "break", "energise"]


@pytest.fixture(scope="module")
def api(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    path: Path = tmp_path_factory.mktemp("all") / "all.sqlite3"
    with TestClient(app_on(path)) as client:
        yield client


def clear(api: TestClient, key: str, kinds: list[str]) -> int:
    found = api.get(f"/api/jobs/{key}/foresee-all", params={"kind": kinds})
    assert found.status_code == 200, found.text
    return int(found.json()["clear"])


def one_by_one(api: TestClient, key: str, kinds: list[str]) -> int:
    for n, kind in enumerate(kinds):
        seen = api.get(f"/api/jobs/{key}/foresee", params={"kind": kind})
        if seen.status_code == 200 and seen.json()["stop"]:
            return n
        assert api.post(f"/api/jobs/{key}/touches", json={"kind": kind}).status_code in (201, seen.status_code)
    return len(kinds)


@settings(max_examples=drawn(12), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(data=st.data())
def test_together_or_each_in_its_turn(api: TestClient, data: st.DataObject) -> None:
    key = api.post("/api/jobs", json={}).json()["key"]
    goal = data.draw(st.sampled_from(GOALS))
    steps = api.get(f"/api/jobs/{key}/orders/{goal}").json()
    # Some, as what is done with nitrogen, are no steps of the run's log: logged they are refused, and change nothing.
    ordered = [s["kind"] for s in steps if s["kind"]]
    before = data.draw(st.lists(st.sampled_from(["pump-on", "isolate", "shut:pump"]), max_size=2, unique=True))
    for kind in before:
        api.post(f"/api/jobs/{key}/touches", json={"kind": kind})
    kinds = data.draw(st.lists(st.sampled_from([*ordered, *RUN[:-1]]), min_size=1, max_size=6)) or ordered
    kinds = data.draw(st.sampled_from([kinds, ordered or kinds]))
    found = clear(api, key, kinds)
    assert found == clear(api, key, kinds), "to foresee is not to do"
    assert found == one_by_one(api, key, kinds)


def test_the_first_that_is_against_a_stop_is_named(api: TestClient) -> None:
    key = api.post("/api/jobs", json={}).json()["key"]
    valves = api.get(f"/api/jobs/{key}/plan").json()["isolate_valves"]
    shut = [f"shut:{v}" for v in valves]
    assert clear(api, key, ["pump-on", "pump-off", "pump-on"]) == 1
    assert clear(api, key, ["pump-on", *shut, "pump-off"]) == len(shut) + 2


def test_what_cannot_be_asked_is_said(api: TestClient) -> None:
    key = api.post("/api/jobs", json={}).json()["key"]
    assert clear(api, key, ["kick-it", "pump-on", "shut:nothing", "pump-off"]) == 3
    for kinds in ([], ["pump-on"] * 300, ["x" * 80]):
        found = api.get(f"/api/jobs/{key}/foresee-all", params={"kind": kinds})
        assert found.status_code == 422, kinds
        assert found.json()["detail"]
    assert api.get("/api/jobs/none/foresee-all", params={"kind": ["pump-on"]}).status_code == 404
