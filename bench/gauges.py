"""Fifty gauges at one reading a second on one server: what is lost, how late a reading comes, what memory does."""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import json
import statistics
import tempfile
import time
from itertools import pairwise
from pathlib import Path

import httpx

from bench.server import served

PORT = 8077
WARM_S = 20.0


def memory_mb(pid: int) -> float:
    """Memory of a process and of those it has started, MB; what several share counts once."""
    found = 0.0
    with contextlib.suppress(OSError):
        for row in Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines():
            if row.startswith("Pss:"):
                found += int(row.split()[1]) / 1024.0
        for thread in Path(f"/proc/{pid}/task").iterdir():
            for child in (thread / "children").read_text().split():
                found += memory_mb(int(child))
    return found


async def listen(client: httpx.AsyncClient, key: str, until: float, late: list[float], stamps: list[float]) -> None:
    """Take a job's stream until ``until`` (epoch s): how late each reading is, and its stamp."""
    async with client.stream("GET", f"/api/jobs/{key}/stream", timeout=None) as r:
        async for row in r.aiter_lines():
            if time.time() > until:
                return
            if not row.startswith("data:"):
                continue
            message = json.loads(row[5:])
            if message.get("kind") == "readings":
                now = time.time()
                late += [now - at for at in message["at"]]
                stamps += message["at"]


async def measure(count: int, seconds: float, pid: int) -> dict[str, float]:
    """Run ``count`` gauges for ``seconds``."""
    base = f"http://127.0.0.1:{PORT}"
    limits = httpx.Limits(max_connections=2 * count + 10)
    async with httpx.AsyncClient(base_url=base, timeout=60.0, limits=limits) as client:
        keys = []
        for _ in range(count):
            key = (await client.post("/api/jobs", json={})).json()["key"]
            await client.post(f"/api/jobs/{key}/standin", json={"speed": 1})
            await client.post(f"/api/jobs/{key}/touches", json={"kind": "pump-on"})
            keys.append(key)
        await asyncio.sleep(WARM_S)
        first = memory_mb(pid)
        begun = time.time()
        late: dict[str, list[float]] = {k: [] for k in keys}
        stamps: dict[str, list[float]] = {k: [] for k in keys}
        await asyncio.gather(*(listen(client, k, begun + seconds, late[k], stamps[k]) for k in keys))
        last = memory_mb(pid)
        lost = kept = 0
        for k in keys:
            series = (await client.get(f"/api/jobs/{k}/readings")).json()[0]["at"]
            on_disk = [t for t in series if min(stamps[k]) <= t <= max(stamps[k])]
            # Each gauge counts its own seconds: a step of two is a reading that never came.
            lost += sum(round(b - a) - 1 for a, b in pairwise(on_disk) if b - a > 1.5)
            lost += len(set(stamps[k]) - set(on_disk))
            kept += len(on_disk)
    every = sorted(x for v in late.values() for x in v)
    return {
        "readings": float(kept),
        "lost": float(lost),
        "median_ms": 1e3 * statistics.median(every),
        "p99_ms": 1e3 * every[int(0.99 * len(every))],
        "memory_mb": last,
        "grown_mb": last - first,
    }


def run(count: int, seconds: float) -> dict[str, float]:
    """Start a server on a database of its own, measure, stop it."""
    with tempfile.TemporaryDirectory() as d, served(f"{d}/bench.sqlite3", PORT) as server:
        return asyncio.run(measure(count, seconds, server.pid))


if __name__ == "__main__":
    p = argparse.ArgumentParser(description=__doc__)
    p.add_argument("--gauges", type=int, default=50)
    p.add_argument("--minutes", type=float, default=10.0)
    a = p.parse_args()
    for name, value in run(a.gauges, a.minutes * 60.0).items():
        print(f"{name:<12}{value:>12.1f}")
