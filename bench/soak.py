"""An hour of trouble: gauges, pages and hands on one server that is killed now and then, and what it loses of it.

Acknowledged are a typed reading or a touch that was answered, and a gauge's reading that the stream of news has told
of: each must be on disk once, whatever was killed since. What a gauge says while there is no server is lost, and is not
counted. The server's clock is stepped and its disk is slow (`bench.rough_server`).

How long things take is asked of the last part, in which nothing is killed. Beside it runs a process that does nothing
but sleep for a moment and look at the clock (`bench.stalls`): where that was not woken either, the machine itself
stood, or its host had given its cores to another, and what was under way then is told apart.
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import json
import math
import random
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path

import httpx

from bench.gauges import memory_mb
from bench.rough_server import STEPS
from bench.stalls import Span, Stalls, share_of

PORT, FARM = 8081, 8082
KILL_S = 60.0
MEMORY_S = 120.0
"""How often memory is looked at in peace, s."""
LATE_S = 0.3
"""Readings that took longer to the stream, s, are told by the minute in which they came."""


def even(at: float) -> float:
    """A moment at an even millisecond, as every gauge has them; hands have the odd ones. What a gauge and a hand say of
    one moment would else be taken for one reading that is there twice: an hour has a few of them by chance.
    """
    return 2 * math.floor(500.0 * at) / 1000.0


async def farm(port: int) -> None:
    """Gauges outside: any number on one port, each at one reading a second in the documented protocol."""

    async def gauge(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        with contextlib.suppress(OSError, json.JSONDecodeError):
            name = json.loads(await reader.readline())["open"]
            rng = random.Random(name)
            writer.write(json.dumps({"hello": "rough-draw-gauge/1", "gauge": name, "unit": "pa"}).encode() + b"\n")
            await asyncio.sleep(rng.random())
            while True:
                line = {"at": even(time.time()), "pa": round(20.0 + 5.0 * rng.random(), 2)}
                writer.write(json.dumps(line).encode() + b"\n")
                await writer.drain()
                await asyncio.sleep(1.0)

    server = await asyncio.start_server(gauge, "127.0.0.1", port)
    await server.serve_forever()


@dataclass
class Told:
    """What was acknowledged, by job; and how long things took."""

    typed: dict[str, set[float]] = field(default_factory=dict)
    heard: dict[str, set[float]] = field(default_factory=dict)
    touched: dict[str, set[str]] = field(default_factory=dict)
    late: list[Span] = field(default_factory=list)
    answers: list[Span] = field(default_factory=list)
    yard: list[Span] = field(default_factory=list)
    faults: Counter[str] = field(default_factory=Counter)
    twice: list[str] = field(default_factory=list)
    kills: int = 0
    steps: int = 0
    _last: float = 0.0

    def moment(self) -> float:
        """Now, at an odd millisecond, and never twice: hands that wake together would type at one moment."""
        self._last = max(round(even(time.time()) + 0.001, 3), round(self._last + 0.002, 3))
        return self._last

    def heard_of(self, what: str, answer: httpx.Response) -> httpx.Response:
        """The answer; one that was none is kept with what was asked and what it says."""
        if answer.status_code >= 500:
            self.faults[f"{answer.status_code} {what}: {answer.text[:200]}"] += 1
        return answer


async def follow(client: httpx.AsyncClient, key: str, told: Told) -> None:
    """A page that follows a gauge: what the stream tells of is acknowledged."""
    while True:
        with contextlib.suppress(httpx.HTTPError):
            async with client.stream("GET", f"/api/jobs/{key}/stream", timeout=None) as r:
                async for line in r.aiter_lines():
                    if not line.startswith("data:"):
                        continue
                    message = json.loads(line[5:])
                    if message.get("kind") == "readings":
                        now, wall = time.monotonic(), time.time()
                        told.heard.setdefault(key, set()).update(message["at"])
                        told.late += [(now - (wall - at), now) for at in message["at"]]
        await asyncio.sleep(0.5)


async def work(client: httpx.AsyncClient, keys: list[str], live: list[str], told: Told, rng: random.Random) -> None:
    """A page with a hand at it: looks, types, logs; what is not answered is sent again with the same key."""
    n = 0
    while True:
        n += 1
        await asyncio.sleep(rng.uniform(0.5, 2.5))
        key = rng.choice(keys)
        at = told.moment()
        mark = f"{id(told)}-{rng.getrandbits(60)}"
        choice = rng.random()
        try:
            begun = time.monotonic()
            if choice < 0.35:
                told.heard_of("the Yard", await client.get("/api/jobs")).raise_for_status()
                told.yard.append((begun, time.monotonic()))
                continue
            if choice < 0.6:
                found = await client.get(f"/api/jobs/{rng.choice(live)}/live")
                told.heard_of("live", found)
                told.answers.append((begun, time.monotonic()))
                continue
        except httpx.HTTPError:
            continue
        typed = choice < 0.9
        path = f"/api/jobs/{key}/{'readings' if typed else 'touches'}"
        body = (
            {"gauge": "typed", "readings": [{"at": at, "pa": 30.0, "key": mark}]}
            if typed
            else {"kind": "note", "note": mark, "at": at, "key": mark}
        )
        for _ in range(60):
            begun = time.monotonic()
            try:
                answer = await client.post(path, json=body)
            except httpx.HTTPError:
                await asyncio.sleep(1.0)
                continue
            told.heard_of(path.rpartition("/")[2], answer)
            if answer.status_code == 201:
                told.answers.append((begun, time.monotonic()))
                if typed:
                    told.typed.setdefault(key, set()).add(at)
                else:
                    told.touched.setdefault(key, set()).add(mark)
            break


class Servers:
    """The server and the gauges, started and killed."""

    def __init__(self, db: str) -> None:
        self.db, self.steps = db, f"{db}.steps"
        # Killed each minute, a server that has to build its engine first would never come to it.
        subprocess.run([sys.executable, "-m", "rough_draw.cli.warm"], check=True)
        self.step(0.0)
        self.server = self._server()
        self.gauges = self._farm()

    def _server(self) -> subprocess.Popen[bytes]:
        command = [
            sys.executable,
            "-m",
            "bench.rough_server",
            self.steps,
            "serve",
            "--db",
            self.db,
            "--port",
            str(PORT),
        ]
        return subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)

    def _farm(self) -> subprocess.Popen[bytes]:
        return subprocess.Popen([sys.executable, "-m", "bench.soak", "--farm"])

    def step(self, seconds: float) -> None:
        """The server's clock that much off."""
        Path(self.steps).write_text(str(seconds))

    def kill(self, rng: random.Random) -> None:
        """One of them, without a word; it is started again at once."""
        if rng.random() < 0.5:
            self.gauges.send_signal(signal.SIGKILL)
            self.gauges.wait()
            self.gauges = self._farm()
        else:
            self.server.send_signal(signal.SIGKILL)
            self.server.wait()
            self.server = self._server()

    def stop(self) -> None:
        """Both."""
        for process in (self.server, self.gauges):
            process.terminate()
            process.wait(20)


async def up(client: httpx.AsyncClient) -> None:
    """Until the server answers."""
    while True:
        with contextlib.suppress(httpx.HTTPError):
            if (await client.get("/api/health")).is_success:
                return
        await asyncio.sleep(0.2)


async def measure(
    servers: Servers, stalls: Stalls, gauges: int, pages: int, count: int, seconds: float, peace: float
) -> dict[str, float]:
    """Trouble, and ``peace`` for the last of the ``seconds``, in which memory is looked at; then what is on disk."""
    told = Told()
    limits = httpx.Limits(max_connections=2 * gauges + 4 * pages)
    async with httpx.AsyncClient(base_url=f"http://127.0.0.1:{PORT}", timeout=30.0, limits=limits) as client:
        await up(client)
        keys = [(await client.post("/api/jobs", json={})).json()["key"] for _ in range(count)]
        live = keys[:gauges]
        for key in live:
            await client.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})
            await client.post(f"/api/jobs/{key}/gauge", json={"host": "127.0.0.1", "port": FARM, "opens": f"g-{key}"})
        tasks = [asyncio.create_task(follow(client, k, told)) for k in live]
        hands = [asyncio.create_task(work(client, keys, live, told, random.Random(n))) for n in range(pages)]
        await trouble(servers, client, told, seconds - peace)
        for spans in (told.late, told.answers, told.yard):
            spans.clear()
        stalls.begin()
        memory = [memory_mb(servers.server.pid)]
        for _ in range(parts := max(1, round(peace / MEMORY_S))):
            await asyncio.sleep(peace / parts)
            memory.append(memory_mb(servers.server.pid))
        for t in hands:
            t.cancel()
        await asyncio.sleep(2.0)
        for t in tasks:
            t.cancel()
        await asyncio.gather(*tasks, *hands, return_exceptions=True)
        kept, lost = await on_disk(client, keys, told)
    return {
        "kills": told.kills,
        "steps of the clock": told.steps,
        "readings on disk": kept,
        "lost": lost,
        **figures(told, stalls),
        "memory, MB": memory[-1],
        "grown, %": 100.0 * (memory[-1] - memory[0]) / memory[0],
        **{f"  after {n * peace / parts / 60.0:.1f} min, MB": mb for n, mb in enumerate(memory)},
    }


async def trouble(servers: Servers, client: httpx.AsyncClient, told: Told, seconds: float) -> None:
    """Kill one server after another and step the clock, for so long; then let all of it come back."""
    rng = random.Random(7)
    begun = time.monotonic()
    while time.monotonic() - begun < seconds:
        await asyncio.sleep(rng.uniform(0.5, 1.5) * KILL_S)
        await asyncio.to_thread(servers.kill, rng)
        told.kills += 1
        await up(client)
        servers.step(rng.choice(STEPS))
        told.steps += 1
    servers.step(0.0)
    await asyncio.sleep(20.0)


async def on_disk(client: httpx.AsyncClient, keys: list[str], told: Told) -> tuple[int, int]:
    """How many readings are kept, and how many of all that was acknowledged are not; what is there twice is told."""
    lost = kept = 0
    for key in keys:
        whole = (await client.get(f"/api/jobs/{key}/job.json")).json()
        stamps = {t for s in whole["readings"] for t in s["at"]}
        wanted = told.typed.get(key, set()) | told.heard.get(key, set())
        lost += len(wanted - stamps)
        # Two gauges may read at one moment; the same gauge does not.
        for s in whole["readings"]:
            for at in [t for t, n in Counter(s["at"]).items() if n > 1]:
                pa = [p for t, p in zip(s["at"], s["pa"], strict=True) if t == at]
                told.twice.append(f"{key} {s['gauge']} at {at:.3f}: {pa} Pa")
        notes = Counter(t["note"] for t in whole["touches"] if t["kind"] == "note")
        marks = told.touched.get(key, set())
        lost += len(marks - set(notes))
        told.twice += [f"{key} note {m}" for m in marks if notes[m] > 1]
        kept += sum(len(s["at"]) for s in whole["readings"])
    return kept, lost


def figures(told: Told, stalls: Stalls) -> dict[str, float]:
    """What was acknowledged and what went wrong, and how long who waited has waited."""

    def share(spans: list[Span], at: float) -> float:
        return share_of(stalls.clear(spans), at)

    late = Counter(int((b - stalls.since) / 60.0) for a, b in stalls.clear(told.late) if b - a > LATE_S)
    return {
        "acknowledged": sum(len(x) for of in (told.typed, told.heard, told.touched) for x in of.values()),
        "doubled": len(told.twice),
        "answers of 5xx": sum(told.faults.values()),
        "reading to stream, median ms": share(told.late, 0.5),
        "reading to stream, p99 ms": share(told.late, 0.99),
        "the same, stalls and all": share_of(told.late, 0.99),
        "API p95 ms": share(told.answers, 0.95),
        "Yard p95 ms": share(told.yard, 0.95),
        "the Yard, stalls and all": share_of(told.yard, 0.95),
        "machine stood or not whole, %": stalls.percent(),
        "20,000 additions took, ms": stalls.work_ms(),
        **{f"  late in minute {minute}": n for minute, n in sorted(late.items())},
        **{f"  {words}": n for words, n in told.faults.items()},
        **{f"  twice: {words}": 2 for words in told.twice},
    }


def main() -> None:
    """Run it, and say what came of it."""
    p = argparse.ArgumentParser(description=__doc__)
    p.add_argument("--farm", action="store_true", help=argparse.SUPPRESS)
    p.add_argument("--minutes", type=float, default=60.0)
    p.add_argument("--peace", type=float, help="minutes at the end without kills (default a third)")
    p.add_argument("--gauges", type=int, default=50)
    p.add_argument("--pages", type=int, default=20)
    p.add_argument("--jobs", type=int, default=200)
    a = p.parse_args()
    if a.farm:
        asyncio.run(farm(FARM))
        return
    with tempfile.TemporaryDirectory() as d:
        servers, stalls = Servers(f"{d}/soak.sqlite3"), Stalls()
        try:
            seconds = 60.0 * a.minutes
            peace = max(20.0, seconds / 3 if a.peace is None else 60.0 * a.peace)
            found = asyncio.run(measure(servers, stalls, a.gauges, a.pages, a.jobs, seconds, peace))
        finally:
            servers.stop()
            stalls.stop()
    for name, value in found.items():
        print(f"{name:<30}{value:>12.1f}")
    if found["lost"] or found["doubled"] or found["answers of 5xx"]:
        raise SystemExit(1)


if __name__ == "__main__":
    main()
