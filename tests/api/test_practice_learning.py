"""Practice that teaches: a job gone on with from a mistake, whose jobs are whose, why an expert does what it does."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient

from rough_draw.api.practice import sessions
from tests.api.test_practice import api, begun, do

__all__ = ["api"]
POOR = ("look:power", "look:pressure", "isolate", "pump-off", "verdict:tight", "end:release")


def debrief(api: TestClient, key: str) -> dict[str, Any]:
    r = api.get(f"/api/practice/runs/{key}/debrief")
    assert r.status_code == 200, r.text
    found: dict[str, Any] = r.json()
    return found


def played(api: TestClient, scenario: str, *kinds: str) -> dict[str, Any]:
    key = begun(api, scenario)
    do(api, key, *kinds)
    return {"key": key, **debrief(api, key)}


def somebody(api: TestClient, name: str) -> int:
    made = api.post("/api/people", json={"name": name, "licence": ""})
    assert made.status_code == 201, made.text
    number = int(made.json()["id"])
    is_here(api, number)
    return number


def is_here(api: TestClient, number: int) -> None:
    assert api.post(f"/api/people/{number}/here").status_code == 200


def test_a_job_is_gone_on_with_from_before_a_mistake_and_counts_for_nothing(api: TestClient) -> None:
    old = played(api, "gauge-on-the-wrong-side", *POOR)
    wrong = next(d for d in old["deeds"] if d["kind"] == "verdict:tight")
    assert wrong["right"] != "right"
    r = api.post(f"/api/practice/runs/{old['key']}/replays", json={"before": wrong["number"]})
    assert r.status_code == 201, r.text
    again = r.json()
    assert again["key"] != old["key"]
    assert [d["kind"] for d in again["done"]] == list(POOR[: wrong["number"]])
    # The clock stands where that deed was begun, and all that was read till then is there.
    assert again["time"] == pytest.approx(wrong["at"], abs=180)
    assert again["time"] <= wrong["at"]
    first = api.get(f"/api/practice/runs/{old['key']}/readings").json()
    second = api.get(f"/api/practice/runs/{again['key']}/readings").json()
    assert second["pa"] == first["pa"][: len(second["pa"])]
    # It outlives a restart as any other.
    sessions._open.clear()
    assert api.get(f"/api/practice/runs/{again['key']}").json()["done"] == again["done"]
    do(api, again["key"], "verdict:rig", "end:later")
    assert debrief(api, again["key"])["replay"] is True
    page = api.get("/api/practice").json()
    card = next(s for s in page["scenarios"] if s["key"] == "down-in-a-quarter-of-an-hour")
    assert (card["tries"], card["best"]) == (1, pytest.approx(old["total"]))
    assert all(s["of"] <= 1 for s in page["skills"])
    assert sorted(r["replay"] for r in page["runs"]) == [False, True]


@pytest.mark.parametrize("before", [6, 99, 10_000])
def test_from_a_step_that_was_not_made_nothing_goes_on(api: TestClient, before: int) -> None:
    old = played(api, "gauge-on-the-wrong-side", *POOR)
    assert api.post(f"/api/practice/runs/{old['key']}/replays", json={"before": before}).status_code == 409
    assert api.post("/api/practice/runs/abcdef/replays", json={"before": 0}).status_code == 404


def test_everybody_has_their_own_path_and_the_class_shows_all(api: TestClient) -> None:
    assert api.get("/api/practice/class").json() == []
    mara = somebody(api, "Mara Tollivet")
    played(api, "gauge-on-the-wrong-side", *POOR)
    assert api.get("/api/practice").json()["who"] == "Mara Tollivet"
    somebody(api, "Jory Penhallick")
    page = api.get("/api/practice").json()
    assert page["runs"] == []
    assert all(s["best"] is None for s in page["scenarios"])
    played(api, "wet-oil", "pump-on", "end:later")
    played(api, "gauge-on-the-wrong-side", *POOR)
    is_here(api, mara)
    assert len(api.get("/api/practice").json()["runs"]) == 1
    found = {x["name"]: x for x in api.get("/api/practice/class").json()}
    assert sorted(found) == ["Jory Penhallick", "Mara Tollivet"]
    assert (found["Mara Tollivet"]["jobs"], found["Jory Penhallick"]["jobs"]) == (1, 2)
    prove = next(x for x in found["Jory Penhallick"]["path"] if x["stretch"] == "prove")
    assert prove["score"] is not None
    # Who has left the list is nobody in particular; what they did stays.
    assert api.delete(f"/api/people/{mara}").status_code == 204
    assert sum(x["jobs"] for x in api.get("/api/practice/class").json()) == 3


def test_an_expert_says_why_at_each_step_and_a_made_job_has_its_lesson(api: TestClient) -> None:
    d = played(api, "made-2-7", "end:later")
    mine = [x for x in d["expert"] if not x["before"]]
    assert mine
    assert all(x["reason"] for x in mine), [x["kind"] for x in mine if not x["reason"]]
    assert len({x["reason"] for x in mine}) >= 4
    assert all(not x["reason"] for x in d["deeds"])
    assert d["lessons"]
    assert all(d["lessons"])
