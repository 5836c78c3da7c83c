"""The gauge's line protocol over TCP, and the driver that speaks it."""

from __future__ import annotations

import asyncio
import itertools
import json
import time
from collections.abc import Awaitable, Callable
from pathlib import Path
from typing import Any

import pytest
from peewee import OperationalError

from rough_draw.api.devices import gauge_driver
from rough_draw.api.devices.gauge_driver import Link
from rough_draw.api.devices.reading_writer import Keeper
from rough_draw.api.news.listeners import Listeners
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.gauge_server import PROTOCOL, GaugeServer, RunningWorld
from rough_draw.standins.world import World, random_truth
from rough_draw.store import jobs
from rough_draw.store.database import open_database

Talk = Callable[[asyncio.StreamReader, asyncio.StreamWriter, RunningWorld], Awaitable[Any]]


def talk(conversation: Talk, opening: bytes = b'{"open":"w"}\n', speed: float = 60.0) -> Any:
    """Serve one world and hold a conversation with it."""

    async def main() -> Any:
        server = GaugeServer()
        await server.start()
        now = time.time()
        running = RunningWorld(
            world=World(Job(scope=Scope(condition="new-dry")), random_truth(3)),
            start_at=now,
            base_at=now,
            speed=speed,
            name="Gauge 7",
        )
        server.worlds["w"] = running
        reader, writer = await asyncio.open_connection("127.0.0.1", server.port)
        writer.write(opening)
        try:
            return await asyncio.wait_for(conversation(reader, writer, running), 20)
        finally:
            writer.close()
            await server.stop()

    return asyncio.run(main())


async def line(reader: asyncio.StreamReader) -> dict[str, Any]:
    return json.loads(await reader.readline())  # type: ignore[no-any-return]


async def until(reader: asyncio.StreamReader, key: str) -> dict[str, Any]:
    while True:
        message = await line(reader)
        if key in message:
            return message


def test_hello_then_readings_in_order() -> None:
    async def conversation(r: asyncio.StreamReader, w: asyncio.StreamWriter, world: RunningWorld) -> None:
        hello = await line(r)
        assert hello["hello"] == PROTOCOL
        assert hello["gauge"] == "Gauge 7"
        assert hello["unit"] == "pa"
        readings = [await line(r) for _ in range(5)]
        times = [m["at"] for m in readings]
        assert times == sorted(times)
        assert all(b - a == pytest.approx(6.0, abs=0.01) for a, b in itertools.pairwise(times))
        assert all(m.get("over") for m in readings), "it stands at the atmosphere, over range"

    talk(conversation)


def test_touches_are_obeyed_and_answered() -> None:
    async def conversation(r: asyncio.StreamReader, w: asyncio.StreamWriter, world: RunningWorld) -> None:
        w.write(b'{"touch":"pump-on"}\n')
        answer = await until(r, "touched")
        assert answer["touched"] == "pump-on"
        assert answer["at"] >= world.start_at
        assert world.world.pump_on
        first = await until(r, "pa")
        for _ in range(6):
            last = await until(r, "pa")
        assert last["pa"] < first["pa"]

    talk(conversation)


def test_speed_changes_without_a_jump_of_the_clock() -> None:
    async def conversation(r: asyncio.StreamReader, w: asyncio.StreamWriter, world: RunningWorld) -> None:
        await line(r)
        before = world.now()
        w.write(b'{"speed":1}\n')
        assert (await until(r, "speed"))["speed"] == 1
        assert 0 <= world.now() - before < 60
        assert world.interval() == 1.0
        w.write(b'{"speed":999}\n{"speed":10}\n')
        assert (await until(r, "speed"))["speed"] == 10

    talk(conversation)


def test_slowed_down_it_reads_as_often_as_it_then_does() -> None:
    async def conversation(r: asyncio.StreamReader, w: asyncio.StreamWriter, world: RunningWorld) -> None:
        w.write(b'{"touch":"pump-on"}\n{"speed":300}\n')
        assert (await until(r, "speed"))["speed"] == 300
        w.write(b'{"speed":1}\n')
        assert (await until(r, "speed"))["speed"] == 1
        slowed = world.now()
        # At the old pace the next one would have been up to half a minute off.
        reading = await until(r, "at")
        assert reading["at"] <= slowed + 2.0

    talk(conversation)


def test_garbage_is_answered_and_survived() -> None:
    async def conversation(r: asyncio.StreamReader, w: asyncio.StreamWriter, world: RunningWorld) -> None:
        await line(r)
        w.write(b'{half a line\n{"unheard": 1}\n{"touch":"pump-on"}\n')
        assert (await until(r, "error"))["error"] == "not JSON"
        assert (await until(r, "touched"))["touched"] == "pump-on"

    talk(conversation)


def test_an_unknown_gauge_is_refused() -> None:
    async def conversation(r: asyncio.StreamReader, w: asyncio.StreamWriter, world: RunningWorld) -> None:
        assert (await line(r))["error"] == "no such gauge"
        assert await r.readline() == b""

    talk(conversation, b'{"open":"elsewhere"}\n')


@pytest.mark.parametrize("opening", [b"\n", b"{nope\n", b"[1,2]\n", b"\xff\xff\n"])
def test_a_faulty_opening_is_hung_up_on(opening: bytes) -> None:
    async def conversation(r: asyncio.StreamReader, w: asyncio.StreamWriter, world: RunningWorld) -> None:
        async with asyncio.timeout(5.0):
            said = await r.read()
        assert r.at_eof(), "the line is closed"
        assert b'"pa"' not in said, "no reading goes to whom nobody knows"

    talk(conversation, opening)


def test_the_driver_stores_reconnects_and_marks_stale(tmp_path: Path) -> None:
    open_database(tmp_path / "p.sqlite3")
    key = jobs.create(Job(), "w").key

    async def main() -> None:
        hangups = 0

        async def device(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
            nonlocal hangups
            await reader.readline()
            writer.write(b'{"hello":"rough-draw-gauge/1","gauge":"Bench","unit":"pa"}\n')
            base = 1000.0 + 10 * hangups
            for k in range(4):
                writer.write(json.dumps({"at": base + k, "pa": 50.0 - k}).encode() + b"\n")
            writer.write(b'garbage\n{"at": 5')
            hangups += 1
            await writer.drain()
            writer.close()

        server = await asyncio.start_server(device, "127.0.0.1", 0)
        keeper = Keeper()
        keeper.start()
        link = Link(key=key, port=server.sockets[0].getsockname()[1], listeners=Listeners(), keeper=keeper)
        assert link.stale
        link.start()
        for _ in range(100):
            await asyncio.sleep(0.1)
            found = await asyncio.to_thread(jobs.readings, key)
            if found and found[0].at.size >= 8:
                break
        assert not link.stale
        await link.stop()
        await keeper.stop()
        server.close()
        assert hangups >= 2, "it came back after the device hung up"
        assert link.faults >= 2
        assert found[0].gauge == "Bench"
        assert found[0].at[:4].tolist() == [1000.0, 1001.0, 1002.0, 1003.0]
        link.last_line -= 60
        assert link.stale

    asyncio.run(main())


def test_a_touch_without_an_answer_is_told_as_none() -> None:
    async def main() -> None:
        link = Link(key="k", port=1, listeners=Listeners(), keeper=Keeper())
        assert await link.touch("isolate") is None

    asyncio.run(main())


def test_readings_wait_for_a_file_that_is_held_and_are_not_lost(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    open_database(tmp_path / "k.sqlite3")
    keys = [jobs.create(Job(), k).key for k in ("a", "b")]
    tries: list[int] = []
    write = jobs.add_all

    def held(batches: Any) -> list[bool]:
        tries.append(len(batches))
        if len(tries) < 3:
            raise OperationalError("database is locked")
        return write(batches)

    monkeypatch.setattr(jobs, "add_all", held)

    async def main() -> list[bool]:
        keeper = Keeper()
        keeper.start()
        rows = [jobs.NewReading("g", 1.0, 5.0)]
        done = await asyncio.wait_for(asyncio.gather(*(keeper.store(k, rows, "gauge") for k in (*keys, "gone"))), 10)
        await keeper.stop()
        return done

    assert asyncio.run(main()) == [True, True, False]
    assert len(tries) == 3
    assert [jobs.readings(k)[0].at.size for k in keys] == [1, 1]


def test_a_touch_before_the_line_is_up_is_told_when_it_is(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(gauge_driver, "READY_S", 0.05)
    open_database(tmp_path / "t.sqlite3")
    heard: list[dict[str, Any]] = []

    async def main() -> None:
        async def device(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
            while row := await reader.readline():
                heard.append(json.loads(row))
            writer.close()

        server = await asyncio.start_server(device, "127.0.0.1", 0)
        link = Link(key="k", port=server.sockets[0].getsockname()[1], listeners=Listeners(), keeper=Keeper())
        assert await link.touch("ballast-open") is None
        link.start()
        for _ in range(50):
            await asyncio.sleep(0.05)
            if len(heard) > 1:
                break
        await link.stop()
        server.close()

    asyncio.run(main())
    assert heard[:2] == [{"open": "k"}, {"touch": "ballast-open"}]


def test_hanging_up_in_the_middle_of_a_flood_of_lines(db: Any) -> None:
    """A hanging up that comes together with a line is a hanging up."""
    key = jobs.create(Job()).key

    async def flood(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        await reader.readline()
        for n in itertools.count():
            writer.write(json.dumps({"at": 1000.0 + n, "pa": 50.0}).encode() + b"\n")
            await asyncio.sleep(0)
            if writer.is_closing():
                return

    async def main() -> None:
        server = await asyncio.start_server(flood, "127.0.0.1", 0)
        port = server.sockets[0].getsockname()[1]
        keeper = Keeper()
        keeper.start()
        for n in range(40):
            link = Link(key=key, port=port, listeners=Listeners(), keeper=keeper)
            link.start()
            await asyncio.sleep(0.004 + 0.0007 * n)
            # What hangs hangs for ever; a loaded machine is slow.
            async with asyncio.timeout(60.0):
                await link.stop()
            assert link._task is not None
            assert link._task.done(), "hung up is hung up"

        def kept() -> int:
            return sum(s.at.size for s in jobs.readings(key))

        async with asyncio.timeout(60.0):
            # What had come before the hanging up may still be on its way to the disk; it ends, as the flood does not.
            whole = -1
            while kept() != whole:
                whole = kept()
                await asyncio.sleep(0.3)
        assert whole > 0, "some of the flood was kept"
        await asyncio.sleep(0.3)
        assert kept() == whole, "nothing comes after hanging up"
        server.close()
        await keeper.stop()

    asyncio.run(main())


def test_readings_that_cannot_be_kept_are_told_and_the_next_are_kept(db: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    key = jobs.create(Job()).key
    real, fails = jobs.add_all, iter([ValueError("made up")])

    def add_all(batches: Any) -> list[bool]:
        for e in fails:
            raise e
        return real(batches)

    monkeypatch.setattr(jobs, "add_all", add_all)

    async def main() -> None:
        keeper = Keeper()
        keeper.start()
        async with asyncio.timeout(5.0):
            with pytest.raises(OSError, match="made up"):
                await keeper.store(key, [jobs.NewReading("g", 1.0, 2.0)], "gauge")
            assert await keeper.store(key, [jobs.NewReading("g", 3.0, 4.0)], "gauge")
            assert not await keeper.store("nobody", [jobs.NewReading("g", 3.0, 4.0)], "gauge")
        await keeper.stop()

    asyncio.run(main())
    (series,) = jobs.readings(key)
    assert list(series.at) == [3.0]
