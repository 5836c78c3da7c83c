"""Twenty tablets on the Yard, two hundred jobs, ten live gauges: what the server needs, and how soon they know."""

from __future__ import annotations

import argparse
import asyncio
import json
import statistics
import tempfile
import time
from dataclasses import dataclass, field
from pathlib import Path

import httpx

from bench.server import served

PORT = 8078
YARD_S = 3.0
"""A page asks for the rows of new readings no more often than this, s (`YARD_MS` of the front end)."""
TOUCHES = 30


def cpu_s(pid: int) -> float:
    """CPU time a process has used, s."""
    f = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
    return (int(f[11]) + int(f[12])) / 100.0


@dataclass
class Tablet:
    """A page on the Yard as the front end behaves: the stream of news, and the rows that it says have changed."""

    client: httpx.AsyncClient
    bytes: int = 0
    waits: dict[str, asyncio.Event] = field(default_factory=dict)
    dirty: set[str] = field(default_factory=set)
    asked: float = 0.0

    async def run(self) -> None:
        """Until cancelled."""
        async with self.client.stream("GET", "/api/news", timeout=None) as r:
            async for line in r.aiter_lines():
                self.bytes = self.bytes + len(line) + 2
                if not line.startswith("data:"):
                    continue
                message = json.loads(line[5:])
                if message["kind"] == "read":
                    self.dirty |= set(message["jobs"])
                    if time.monotonic() - self.asked >= YARD_S:
                        await self.ask()
                elif message["kind"] == "changed":
                    self.dirty |= {j["job"] for j in message["jobs"]}
                    await self.ask()

    async def ask(self) -> None:
        """Fetch what is old."""
        keys, self.dirty, self.asked = sorted(self.dirty), set(), time.monotonic()
        async with self.client.stream("GET", f"/api/jobs?only={','.join(keys)}") as r:
            async for raw in r.aiter_raw():
                self.bytes += len(raw)
        for key in keys:
            if key in self.waits:
                self.waits[key].set()


async def measure(tablets: int, count: int, gauges: int, seconds: float, pid: int) -> dict[str, float]:
    """Run it for ``seconds``; then touches one after another, each timed until every tablet has its row."""
    limits = httpx.Limits(max_connections=4 * tablets + 20)
    async with httpx.AsyncClient(base_url=f"http://127.0.0.1:{PORT}", timeout=60.0, limits=limits) as client:
        keys = [(await client.post("/api/jobs", json={})).json()["key"] for _ in range(count)]
        for key in keys[:gauges]:
            await client.post(f"/api/jobs/{key}/standin", json={"speed": 1})
            await client.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})
        whole = (await client.get("/api/jobs")).num_bytes_downloaded
        pages = [Tablet(client) for _ in range(tablets)]
        tasks = [asyncio.create_task(p.run()) for p in pages]
        await asyncio.sleep(20.0)
        used, moved, begun = cpu_s(pid), sum(p.bytes for p in pages), time.monotonic()
        await asyncio.sleep(seconds)
        spent = time.monotonic() - begun
        used, moved = cpu_s(pid) - used, sum(p.bytes for p in pages) - moved
        late = []
        for n in range(TOUCHES):
            key = keys[gauges + n % (count - gauges)]
            for p in pages:
                p.waits = {key: asyncio.Event()}
            at = time.monotonic()
            await client.post(f"/api/jobs/{key}/touches", json={"kind": "note", "note": f"{n}"})

            async def seen(p: Tablet, key: str = key, at: float = at) -> float:
                await p.waits[key].wait()
                return time.monotonic() - at

            late += await asyncio.gather(*(seen(p) for p in pages))
        for t in tasks:
            t.cancel()
        await asyncio.gather(*tasks, return_exceptions=True)
    late.sort()
    return {
        "first Yard, kB": whole / 1e3,
        "server, % of a core": 100.0 * used / spent,
        "MB a tablet-hour": moved / tablets / 1e6 * 3600.0 / spent,
        "change to page, median ms": 1e3 * statistics.median(late),
        "change to page, p99 ms": 1e3 * late[int(0.99 * len(late))],
    }


def run(tablets: int = 20, count: int = 200, gauges: int = 10, seconds: float = 60.0) -> dict[str, float]:
    """Start a server on a database of its own, measure, stop it."""
    with tempfile.TemporaryDirectory() as d, served(f"{d}/bench.sqlite3", PORT) as server:
        return asyncio.run(measure(tablets, count, gauges, seconds, server.pid))


if __name__ == "__main__":
    p = argparse.ArgumentParser(description=__doc__)
    p.add_argument("--tablets", type=int, default=20)
    p.add_argument("--jobs", type=int, default=200)
    p.add_argument("--gauges", type=int, default=10)
    p.add_argument("--seconds", type=float, default=60.0)
    a = p.parse_args()
    for name, value in run(a.tablets, a.jobs, a.gauges, a.seconds).items():
        print(f"{name:<28}{value:>10.1f}")
