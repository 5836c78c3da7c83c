"""A gauge outside: whatever it says, it is read on; it is read again after a restart, and stays off once taken off."""

from __future__ import annotations

import asyncio
import json
import socketserver
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.api.devices import gauge_driver, hub
from rough_draw.api.devices.gauge_driver import Link
from rough_draw.api.devices.reading_writer import Keeper
from rough_draw.api.news.listeners import Listeners
from rough_draw.core.sheet.job import Job
from rough_draw.store import jobs
from tests.browser.waits import until
from tests.depth import drawn
from tests.one_app import app_on

HELLO = b'{"hello": "rough-draw-gauge/1", "gauge": "Bridge 1", "unit": "pa"}\n'
ODD = [
    b'"hello"\n',
    b'["hello"]\n',
    b"[" * 50_000 + b"\n",
    b"1" * 400 + b"\n",
    b'{"at": 1' + b"0" * 400 + b', "pa": 5}\n',
    b"x" * 100_000 + b"\n",
    b"\xff\xfe\x00\n",
    b'{"touched": {"a": 1}, "at": "soon"}\n',
    b'{"at": null, "pa": []}\n',
    b'{"hello": {}, "gauge": [1, 2], "battery": "full"}\n',
    b"null\n",
    b"{}\n",
    b'{"at": 1, "pa": NaN}\n',
    b'{"at": 1, "pa": -3}\n',
]


@contextmanager
def bridge(*lines: bytes, then: float = 30.0) -> Iterator[tuple[int, list[bytes]]]:
    """A bridge that says these lines to whoever opens it, and goes on with a reading a tenth of a second."""
    heard: list[bytes] = []
    stop = threading.Event()

    class Handler(socketserver.StreamRequestHandler):
        def handle(self) -> None:
            heard.append(self.rfile.readline())
            try:
                for line in lines:
                    self.wfile.write(line)
                end = time.monotonic() + then
                while time.monotonic() < end and not stop.is_set():
                    self.wfile.write(json.dumps({"at": time.time(), "pa": 26.6}).encode() + b"\n")
                    time.sleep(0.1)
            except OSError:
                return

    class Server(socketserver.ThreadingTCPServer):
        allow_reuse_address = True
        daemon_threads = True

    with Server(("127.0.0.1", 0), Handler) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        try:
            yield server.server_address[1], heard
        finally:
            stop.set()
            server.shutdown()


@pytest.fixture
def api(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(app_on(tmp_path / "api.sqlite3")) as client:
        yield client


def made(api: TestClient) -> str:
    sent = api.post("/api/jobs", content=Job().model_dump_json(), headers={"content-type": "application/json"})
    return str(sent.json()["key"])


def count(api: TestClient, key: str) -> int:
    return sum(s["total"] for s in api.get(f"/api/jobs/{key}/readings").json())


def connected(api: TestClient, key: str, port: int) -> dict[str, Any]:
    answer = api.post(f"/api/jobs/{key}/gauge", json={"host": "127.0.0.1", "port": port, "opens": "cold room"})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def test_no_line_silences_a_gauge_and_what_is_passed_over_is_counted(api: TestClient) -> None:
    key = made(api)
    with bridge(HELLO, *ODD) as (port, heard):
        live = connected(api, key, port)
        assert live["outside"] == f"127.0.0.1:{port}"
        until(lambda: count(api, key), lambda n: n >= 3)
        live = api.get(f"/api/jobs/{key}/live").json()
        assert live["passed_over"] >= 10
        assert not live["stale"]
        assert json.loads(heard[0]) == {"open": "cold room"}
    (series,) = api.get(f"/api/jobs/{key}/readings").json()
    assert series["simulated"] == []
    assert series["part"]


@given(st.lists(st.one_of(st.binary(max_size=200), st.sampled_from(ODD)), max_size=30))
@settings(max_examples=drawn(40))
def test_any_lines_are_taken_without_falling(lines: list[bytes]) -> None:
    link = Link(key="k", port=1, listeners=Listeners(), keeper=Keeper())
    pending: list[jobs.NewReading] = []
    for line in lines:
        link._take(line, pending)
    link._take(b'{"at": 5.0, "pa": 20.0}', pending)
    assert pending[-1].pa == 20.0


def test_a_gauge_that_floods_is_held_to_a_rate(api: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    key = made(api)
    flood = [json.dumps({"at": 1.7e9 + n, "pa": 20.0}).encode() + b"\n" for n in range(20_000)]
    with bridge(HELLO, *flood, then=0.0) as (port, _):
        connected(api, key, port)
        until(lambda: api.get(f"/api/jobs/{key}/live").json()["passed_over"], lambda n: n > 15_000)
    assert 0 < count(api, key) < 4_000


def test_a_fault_in_a_session_calls_again(monkeypatch: pytest.MonkeyPatch) -> None:
    async def main() -> int:
        tries = 0
        link = Link(key="k", port=1, listeners=Listeners(), keeper=Keeper())

        async def falls(self: Link) -> None:
            nonlocal tries
            tries += 1
            raise (RecursionError, AttributeError, OverflowError)[tries % 3]("odd")

        monkeypatch.setattr(gauge_driver.Link, "_session", falls)
        monkeypatch.setattr(gauge_driver.asyncio, "sleep", _no_time)
        link.start()
        while tries < 6:
            await _no_time(0)
        await link.stop()
        return tries

    assert asyncio.run(main()) >= 6


async def _no_time(_: float) -> None:
    loop = asyncio.get_running_loop()
    ready = loop.create_future()
    loop.call_soon(ready.set_result, None)
    await ready


def test_a_real_gauge_is_told_no_step_and_not_waited_for(api: TestClient) -> None:
    key = made(api)
    with bridge(HELLO) as (port, _):
        connected(api, key, port)
        until(lambda: count(api, key), lambda n: n >= 1)
        begun = time.monotonic()
        assert api.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"}).status_code == 201
        assert time.monotonic() - begun < gauge_driver.READY_S


def test_it_is_read_again_after_a_restart_and_stays_off_once_taken_off(tmp_path: Path) -> None:
    path = tmp_path / "again.sqlite3"
    with bridge(HELLO) as (port, _):
        with TestClient(app_on(path)) as api:
            key = made(api)
            connected(api, key, port)
            until(lambda: count(api, key), lambda n: n >= 1)
        with TestClient(app_on(path)) as api:
            before = count(api, key)
            until(lambda: api.get(f"/api/jobs/{key}/live").json()["outside"], lambda a: a == f"127.0.0.1:{port}")
            until(lambda: count(api, key), lambda n: n > before)
            off = api.delete(f"/api/jobs/{key}/standin").json()
            assert off["outside"] == ""
            assert not off["standin"]
        with TestClient(app_on(path)) as api:
            time.sleep(1.5)
            assert not api.get(f"/api/jobs/{key}/live").json()["standin"]


def test_a_simulated_gauge_that_was_taken_off_stays_off(tmp_path: Path) -> None:
    path = tmp_path / "off.sqlite3"
    with TestClient(app_on(path)) as api:
        key = made(api)
        assert api.post(f"/api/jobs/{key}/standin", json={"speed": 10}).json()["standin"]
        api.delete(f"/api/jobs/{key}/standin")
    with TestClient(app_on(path)) as api:
        # What is to be read again is put on beside the first answers.
        time.sleep(1.5)
        assert not api.get(f"/api/jobs/{key}/live").json()["standin"]
        assert api.post(f"/api/jobs/{key}/standin", json={"speed": 10}).json()["standin"]
    with TestClient(app_on(path)) as api:
        until(lambda: api.get(f"/api/jobs/{key}/live").json()["standin"], bool)


@pytest.mark.parametrize("host", ["", "-x", "a b", "http://x", "x/../y", "x\n", "a" * 300])
def test_an_address_that_is_none_is_refused(api: TestClient, host: str) -> None:
    answer = api.post(f"/api/jobs/{made(api)}/gauge", json={"host": host, "port": 8060})
    assert answer.status_code == 422


def test_a_step_made_while_a_gauge_is_put_on_is_obeyed(api: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    """A world takes a while to make: whoever presses meanwhile presses on it."""
    key = made(api)
    making = threading.Event()
    built = hub.World

    def slow(*given: Any) -> Any:
        making.set()
        time.sleep(0.6)
        return built(*given)

    monkeypatch.setattr(hub, "World", slow)
    putting = threading.Thread(target=lambda: api.post(f"/api/jobs/{key}/standin", json={"speed": 60}))
    putting.start()
    assert making.wait(20)
    assert api.post(f"/api/jobs/{key}/touches", json={"kind": "ballast-open"}).status_code == 201
    putting.join()
    world = api.app.state.hub.server.worlds[key].world  # type: ignore[attr-defined]
    assert world.ballast
    at = next(t["at"] for t in api.get(f"/api/jobs/{key}/touches").json() if t["kind"] == "ballast-open")
    assert at >= api.app.state.hub.server.worlds[key].start_at  # type: ignore[attr-defined]


def test_a_gauge_put_on_many_times_at_once_reads_once(api: TestClient) -> None:
    key = made(api)
    ways = [lambda: api.post(f"/api/jobs/{key}/standin", json={"speed": 60}) for _ in range(6)]
    threads = [threading.Thread(target=way) for way in ways]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    until(lambda: count(api, key), lambda n: n >= 8, 40)
    at = [x for s in api.get(f"/api/jobs/{key}/readings").json() for x in s["at"]]
    assert len(at) == len(set(at))
    marks = [t for t in jobs.touches(key) if t.kind == "gauge-attached"]
    assert len(marks) == 1


def test_a_gauge_whose_clock_is_ahead_or_in_milliseconds_stands_at_the_moment_it_came(api: TestClient) -> None:
    """A stamp of next year would be the last one for a year: the live figure would stand still."""
    key = made(api)
    now = time.time()
    lines = [
        json.dumps({"at": at, "pa": pa}).encode() + b"\n"
        for at, pa in ((now + 3.2e7, 90.0), (1000 * (now - 5), 80.0), (now - 60, 70.0))
    ]
    with bridge(HELLO, *lines) as (port, _):
        connected(api, key, port)
        until(lambda: count(api, key), lambda n: n >= 6)
        live = api.get(f"/api/jobs/{key}/live").json()
        series = api.get(f"/api/jobs/{key}/readings").json()[0]
    assert live["ahead"] == 1
    assert live["pa"] == pytest.approx(26.6)
    at = dict(zip(series["pa"], series["at"], strict=True))
    assert at[90.0] == pytest.approx(now, abs=30)
    assert at[80.0] == pytest.approx(now - 5, abs=0.01)
    assert at[70.0] == pytest.approx(now - 60, abs=0.01)
