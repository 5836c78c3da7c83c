"""The stand-in world of each job that has one: made, resumed, and linked to the application."""

from __future__ import annotations

import asyncio
import json
import time

from rough_draw.api.devices.gauge_driver import Link
from rough_draw.api.devices.reading_writer import Keeper
from rough_draw.api.devices.scale_driver import ScaleLink, scale_name
from rough_draw.api.each_job import each_job
from rough_draw.api.news.listeners import Listeners
from rough_draw.core.message import message
from rough_draw.core.sheet.gauge_owner import AT_PUMP
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.standins.gauge_server import GaugeServer, RunningWorld
from rough_draw.standins.proof_bench import BenchWorld
from rough_draw.standins.scale import ScaleTruth, ScaleWorld
from rough_draw.standins.world import Truth, World, random_truth
from rough_draw.store import jobs
from rough_draw.store.reading_cache import BENCH
from rough_draw.text import say

ATTACHED = "gauge-attached"
"""Touch that records a stand-in: its note holds the hidden truth, so that a restart resumes the same world."""


CONNECTED = "gauge-connected"
"""Touch that records a gauge outside: its note holds where it is read, so that a restart reads it again."""
DETACHED = "gauge-detached"
"""Touch that records that a gauge was taken off: a restart leaves it off."""


def bench_name(key: str) -> str:
    """The line's name of the gauge on a job's bench."""
    return f"{key}/bench"


SECOND = "gauge-second"
"""Touch that records a second gauge at the pump, so that a restart resumes it."""


def second_name(key: str) -> str:
    """The line's name of the second gauge of a job."""
    return f"{key}/pump"


Resumable = tuple[str, Job, list[Touch], float | None]
"""A job whose gauge is read again: its key, its sheet, its touches, and when it was last read."""


class Hub:
    """Stand-ins by job key."""

    def __init__(self) -> None:
        self.listeners = Listeners()
        self.keeper = Keeper()
        self.server = GaugeServer()
        self.links: dict[str, Link] = {}
        self._locks: dict[str, asyncio.Lock] = {}

    def lock(self, key: str) -> asyncio.Lock:
        """One at a time puts a gauge on a job, takes it off, or makes a step in it: a world is never made twice, and a
        step that comes while it is made is obeyed by it.
        """
        return self._locks.setdefault(key, asyncio.Lock())

    async def start(self) -> None:
        """Start the stand-ins' server."""
        self.keeper.start()
        await self.server.start()

    async def stop(self) -> None:
        """Hang up everything."""
        for link in self.links.values():
            await link.stop()
        await self.keeper.stop()
        await self.server.stop()

    def clock(self, key: str) -> float | None:
        """The job's clock if a stand-in drives it, epoch seconds."""
        running = self.server.worlds.get(key)
        return running.now() if running is not None else None

    def speed(self, key: str) -> float:
        """The pace of a job's stand-in; 1 without one."""
        running = self.server.worlds.get(key)
        return running.speed if running is not None else 1.0

    async def attach(self, key: str, job: Job, touches: list[Touch], last_reading: float | None, speed: int) -> Truth:
        """Make (or rebuild from its touches) the world of a job, and connect the driver to it."""
        if key in self.links and key not in self.server.worlds:
            await self.detach(key)
        if key in self.links:
            self.server.worlds[key].set_speed(float(speed))
            return self.server.worlds[key].world.truth
        known = [t for t in touches if t.kind == ATTACHED]
        if known:
            truth = Truth.from_dict(json.loads(known[0].note))
            start = known[0].at
        else:
            truth = random_truth(sum(key.encode()))
            # What hands have done before the gauge was put on has happened in its world.
            start = min([time.time(), *(t.at for t in touches if t.kind != "note")])
        world = await asyncio.to_thread(World, job, truth)
        now = max([start, *([last_reading] if last_reading else []), *(t.at for t in touches)])

        def replay() -> None:
            for t in touches:
                if t.at >= start:
                    world.advance(t.at - start)
                    world.touch(t.kind)
            world.advance(now - start)

        await asyncio.to_thread(replay)
        base = now if known else time.time()
        name = job.rig.gauge.name or "Gauge 1" if job.rig.gauge else "Dial"
        others = {g.id: g.name or f"Gauge {n}" for n, g in enumerate(job.rig.gauges[1:], 2)}
        self.server.worlds[key] = RunningWorld(
            world=world, start_at=start, base_at=base, speed=float(speed), name=name, others=others
        )
        first = job.rig.gauge.id if job.rig.gauge else None
        self._read(key, key, name, first, "")
        for gauge, called in others.items():
            self._read(f"{key}/{gauge}", key, called, gauge, gauge)
        if any(t.kind == SECOND for t in touches):
            self.attach_second(key)
        return truth

    def _read(self, name: str, key: str, gauge: str, part: str | None, at: str) -> None:
        """A line to one gauge of a job's world."""
        link = Link(
            key=key,
            port=self.server.port,
            listeners=self.listeners,
            keeper=self.keeper,
            gauge=gauge,
            opens=key,
            at=at,
            part=part,
        )
        self.links[name] = link
        link.start()

    def attach_outside(self, key: str, host: str, port: int, opens: str, part: str | None) -> None:
        """Read a gauge that runs by itself, or the bridge to one: nothing is known of it but its protocol."""
        link = Link(
            key=key,
            port=port,
            host=host,
            obeys=False,
            listeners=self.listeners,
            keeper=self.keeper,
            opens=opens,
            part=part,
        )
        self.links[key] = link
        link.start()

    def attach_second(self, key: str) -> None:
        """Put a second gauge on at the pump of a job whose world runs: both are read on one clock."""
        name = second_name(key)
        if name in self.links or key not in self.server.worlds:
            return
        self._read(name, key, say(message("gauge-second-name")), AT_PUMP, "pump")

    async def attach_bench(self, key: str, job: Job, speed: int) -> None:
        """Put the rig of a job on the bench: a simulated one, with faults of its own, from the beginning."""
        name = bench_name(key)
        if name in self.links:
            self.server.worlds[name].set_speed(float(speed))
            return
        world = await asyncio.to_thread(BenchWorld, job, random_truth(sum(key.encode())))
        now = time.time()
        called = (job.rig.gauge.name if job.rig.gauge else "") or message("gauge-alone")
        gauge = say(message("gauge-on-pump", gauge=called))
        self.server.worlds[name] = RunningWorld(
            world=world, start_at=now, base_at=now, speed=float(speed), name=gauge[:60]
        )
        link = Link(
            key=key,
            port=self.server.port,
            listeners=self.listeners,
            keeper=self.keeper,
            gauge=gauge[:60],
            opens=name,
            at=BENCH,
            source="bench",
        )
        self.links[name] = link
        link.start()

    def attach_scale(self, key: str, truth: ScaleTruth, speed: int) -> None:
        """Put a cylinder on a simulated scale beside a job, or change its pace."""
        name = scale_name(key)
        if name in self.links:
            self.server.worlds[name].set_speed(float(speed))
            return
        now = self.clock(key) or time.time()
        self.server.worlds[name] = RunningWorld(
            world=ScaleWorld(truth),  # type: ignore[arg-type]
            start_at=now,
            base_at=now,
            speed=float(speed),
            name="Scale 1",
        )
        link = ScaleLink(
            key=key,
            port=self.server.port,
            listeners=self.listeners,
            keeper=self.keeper,
            gauge="Scale 1",
            opens=name,
            told="weight",
        )
        self.links[name] = link
        link.start()

    async def detach_scale(self, key: str) -> None:
        """Take the scale off."""
        link = self.links.pop(scale_name(key), None)
        if link is not None:
            await link.stop()
        self.server.worlds.pop(scale_name(key), None)

    async def detach(self, key: str) -> None:
        """Take the stand-in off a job."""
        await self.detach_scale(key)
        for name in [n for n in self.links if n == key or (n.startswith(f"{key}/") and n != bench_name(key))]:
            link = self.links.pop(name, None)
            if link is not None:
                await link.stop()
        self.server.worlds.pop(key, None)

    def address(self, key: str) -> str:
        """Where the gauge of a job is read, if it is one outside: host and port; empty for the simulated one."""
        link = self.links.get(key)
        return f"{link.host}:{link.port}" if link is not None and key not in self.server.worlds else ""

    def resumable(self) -> list[Resumable]:
        """Jobs that had a stand-in attached and were still running when the server stopped."""
        return [given.value for given in each_job(_resumable) if given.value is not None]

    async def resume(self, key: str, job: Job, touches: list[Touch], last_reading: float | None) -> None:
        """Read a job's gauge again as before the server stopped."""
        if on_now(touches) != CONNECTED:
            await self.attach(key, job, touches, last_reading, 1)
            return
        kept = json.loads(next(t.note for t in reversed(touches) if t.kind == CONNECTED))
        part = job.rig.gauge.id if job.rig.gauge else None
        self.attach_outside(key, str(kept["host"]), int(kept["port"]), str(kept["opens"]), part)


def _resumable(stored: jobs.StoredJob) -> Resumable | None:
    if stored.sealed_at is not None or stored.job.closing.signed_by:
        return None
    touches = jobs.touches(stored.key)
    if on_now(touches) not in (ATTACHED, CONNECTED):
        return None
    last = max((float(s.at[-1]) for s in jobs.readings(stored.key) if s.at.size), default=None)
    return stored.key, stored.job, touches, last


def on_now(touches: list[Touch]) -> str:
    """The step by which a gauge was last put on or taken off; empty where none ever was."""
    return next((t.kind for t in reversed(touches) if t.kind in (ATTACHED, CONNECTED, DETACHED)), "")
