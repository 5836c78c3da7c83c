"""What has changed is told to every open page: whoever changed it, by whichever route."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.api.news import listeners as module
from rough_draw.api.news.listeners import Listeners
from tests.one_app import app_on


@pytest.fixture(autouse=True)
def quick(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "SOON_S", 0.01)
    monkeypatch.setattr(module, "READINGS_S", 0.01)


async def heard(stream: AsyncIterator[dict[str, Any]]) -> dict[str, Any]:
    return await asyncio.wait_for(anext(stream), 5)


def test_many_changes_in_a_moment_are_one_piece_of_news() -> None:
    async def main() -> dict[str, Any]:
        told = Listeners()
        stream = told.listen([], everything=True)
        assert (await heard(stream))["kind"] == "hello"
        for _ in range(50):
            told.changed(job="quay", by="p1")
        told.changed(group="kit")
        return await heard(stream)

    assert asyncio.run(main()) == {
        "kind": "changed",
        "jobs": [{"job": "quay", "by": "p1"}],
        "groups": [{"group": "kit", "by": ""}],
    }


@given(st.lists(st.tuples(st.sampled_from("abc"), st.integers(1, 3)), max_size=12), st.sets(st.sampled_from("abc")))
def test_readings_come_to_who_watches_and_their_news_to_all(told: list[tuple[str, int]], watched: set[str]) -> None:
    async def main() -> tuple[list[Any], set[str]]:
        listeners = Listeners()
        stream = listeners.listen(watched, everything=True)
        await heard(stream)
        for job, n in told:
            listeners.tell(job, {"kind": "readings", "at": [n]})
        got, read = [], set()
        while len(got) < sum(job in watched for job, _ in told) or read != {job for job, _ in told}:
            message = await heard(stream)
            if message["kind"] == "read":
                read |= set(message["jobs"])
            else:
                got.append((message["job"], message["at"][0]))
        return got, read

    got, read = asyncio.run(main())
    assert got == [(job, n) for job, n in told if job in watched]
    assert read == {job for job, _ in told}


def test_nobody_listens_nothing_is_kept() -> None:
    async def main() -> None:
        told = Listeners()
        told.changed(job="quay")
        told.tell("quay", {"kind": "readings"})
        told.changed_from_thread(job="quay")
        stream = told.listen(["quay"], everything=True)
        await heard(stream)
        with pytest.raises(TimeoutError):
            await asyncio.wait_for(anext(stream), 0.1)

    asyncio.run(main())


CHANGES = [
    ("post", "/api/jobs", {}, ("", "jobs")),
    ("post", "/api/jobs/{key}/touches", {"kind": "pump-on"}, ("{key}", "")),
    (
        "post",
        "/api/jobs/{key}/readings",
        {"gauge": "G", "readings": [{"at": 1.8e9, "pa": 50.0, "key": "k"}]},
        ("{key}", ""),
    ),
    ("post", "/api/kit", {"kind": "pump", "name": "Pump 9"}, ("", "kit")),
    ("post", "/api/people", {"name": "Ines Varga"}, ("", "people")),
    ("delete", "/api/jobs/{key}", None, ("{key}", "")),
]


def test_every_change_is_told_with_the_page_that_made_it(tmp_path: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    said: list[tuple[str, str, str]] = []

    def changed(self: Listeners, job: str = "", group: str = "", by: str = "") -> None:
        said.append((job, group, by))

    monkeypatch.setattr(Listeners, "changed", changed)
    with TestClient(app_on(tmp_path / "news.sqlite3")) as api:
        key = api.post("/api/jobs", json={}).json()["key"]
        for method, path, body, (job, group) in CHANGES:
            said.clear()
            more = {"json": body} if body is not None else {}
            r = api.request(method, path.replace("{key}", key), headers={"X-Page": "p7"}, **more)  # type: ignore[arg-type]
            assert r.status_code < 300, r.text
            assert said == [(job.replace("{key}", key), group, "p7")]
        said.clear()
        # What was refused changed nothing, and a name that is none is passed over.
        assert api.post("/api/kit", json={"kind": "anvil", "name": "?"}).status_code == 422
        assert api.get("/api/jobs").status_code == 200
        assert said == []
        api.post("/api/jobs", json={}, headers={"X-Page": "<script>"})
        assert said == [("", "jobs", "")]


def test_the_yard_gives_the_rows_that_are_asked_for(tmp_path: Any) -> None:
    with TestClient(app_on(tmp_path / "rows.sqlite3")) as api:
        keys = [api.post("/api/jobs", json={}).json()["key"] for _ in range(4)]
        whole = {r["key"]: r for r in api.get("/api/jobs").json()}
        some = api.get("/api/jobs", params={"only": f"{keys[2]},{keys[0]},not-there"}).json()
        assert {r["key"]: r for r in some} == {k: whole[k] for k in (keys[0], keys[2])}
        assert api.get("/api/jobs", params={"only": "../x"}).status_code == 422


def test_alarms_that_begin_and_gauges_that_fall_silent_are_told() -> None:
    from rough_draw.api.news.watcher import Watcher

    class Ring:
        job, key, silenced = "quay", "stale", False

    class Link:
        key, stale = "quay", False

    class Hub:
        def __init__(self) -> None:
            self.listeners = Listeners()
            self.links = {"quay": Link()}

    class Rings:
        def __init__(self) -> None:
            self.now: list[Any] = []

        def look(self, hub: Any) -> list[Any]:
            return self.now

    async def main() -> list[dict[str, Any]]:
        hub, rings = Hub(), Rings()
        watcher = Watcher(hub, rings)  # type: ignore[arg-type]
        stream = hub.listeners.listen([], everything=True)
        await heard(stream)
        await watcher._look()
        first = await heard(stream)  # The link is new.
        rings.now, hub.links["quay"].stale = [Ring()], True
        await watcher._look()
        second = await heard(stream)
        await watcher._look()
        with pytest.raises(TimeoutError):
            await asyncio.wait_for(anext(stream), 0.1)
        return [first, second]

    first, second = asyncio.run(main())
    assert (first["jobs"], first["groups"]) == ([{"job": "quay", "by": ""}], [])
    assert (second["jobs"], second["groups"]) == ([{"job": "quay", "by": ""}], [{"group": "alarms", "by": ""}])
