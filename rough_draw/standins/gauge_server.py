"""The gauge stand-in: worlds on a TCP port of the loopback, one JSON object a line. See docs/formats.md."""

from __future__ import annotations

import asyncio
import contextlib
import json
import time
from dataclasses import dataclass, field

from rough_draw.standins.world import Playable

PROTOCOL = "rough-draw-gauge/1"
SPEEDS = (1, 10, 60, 300)
"""Times real time at which what is simulated may run."""


@dataclass(kw_only=True)
class RunningWorld:
    """A world with its clock: ``base_at`` epoch seconds of the world when the wall clock stood at ``base_wall``.

    ``others``: further gauges of the rig by their ids, with their names.
    """

    world: Playable
    start_at: float
    base_at: float
    speed: float
    name: str
    others: dict[str, str] = field(default_factory=dict)
    base_wall: float = field(default_factory=time.monotonic)
    lock: asyncio.Lock = field(default_factory=asyncio.Lock)

    def now(self) -> float:
        """The world's clock, epoch seconds."""
        return self.base_at + (time.monotonic() - self.base_wall) * self.speed

    async def advance(self, at: float) -> None:
        """Run the world on to ``at`` (epoch seconds), off the event loop; one caller at a time."""
        async with self.lock:
            await asyncio.to_thread(self.world.advance, at - self.start_at)

    async def touch(self, kind: str) -> float:
        """Bring the world to now, then obey a touch; returns when it took place."""
        await self.advance(self.now())
        async with self.lock:
            self.world.touch(kind)
            # The reader of readings may have brought the world further meanwhile: the touch took place where it stood.
            return self.start_at + self.world.time

    def set_speed(self, speed: float) -> None:
        """Change the pace without a jump of the clock."""
        self.base_at, self.base_wall, self.speed = self.now(), time.monotonic(), speed

    def interval(self) -> float:
        """Seconds of world time between readings: one a second, thinned when time is sped up."""
        return {1: 1.0, 10: 2.0, 60: 6.0, 300: 30.0}.get(int(self.speed), 1.0)


class GaugeServer:
    """Serves worlds by name. One task per connection; a world advances as it is read."""

    def __init__(self) -> None:
        self.worlds: dict[str, RunningWorld] = {}
        self._server: asyncio.Server | None = None
        self.port = 0

    async def start(self, port: int = 0) -> None:
        """Listen on a port of the loopback; 0 takes a free one. Raises OSError if it is taken."""
        self._server = await asyncio.start_server(self._serve, "127.0.0.1", port)
        self.port = self._server.sockets[0].getsockname()[1]

    async def stop(self) -> None:
        """Stop listening."""
        if self._server is not None:
            self._server.close()

    async def _serve(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        def send(message: dict[str, object]) -> None:
            writer.write(json.dumps(message).encode() + b"\n")

        try:
            async with asyncio.timeout(5.0):
                opening = json.loads(await reader.readline())
            running = self.worlds.get(str(opening.get("open")))
            if running is None:
                send({"error": "no such gauge"})
                return
            at = str(opening.get("at", ""))
            name = running.others.get(at) or (f"Gauge at the {at}" if at else running.name)
            unit = getattr(running.world, "unit", "pa")
            send({"hello": PROTOCOL, "gauge": name[:60], "unit": unit, "battery": 87, "simulated": True})
            commands = asyncio.create_task(self._commands(reader, running, send))
            try:
                await self._stream(running, at, writer, send)
            finally:
                commands.cancel()
        except (ConnectionError, TimeoutError, json.JSONDecodeError, AttributeError, asyncio.CancelledError):
            pass
        finally:
            writer.close()
            with contextlib.suppress(ConnectionError):
                await writer.wait_closed()

    async def _stream(self, running: RunningWorld, at: str, writer: asyncio.StreamWriter, send) -> None:  # type: ignore[no-untyped-def]
        due = max(running.now(), running.start_at + running.world.time)
        while not writer.is_closing():
            # Slowed down, it reads as often as it then does: what was due at the old pace may be far off.
            due = min(due, running.now() + running.interval())
            wait = (due - running.now()) / running.speed
            if wait > 0:
                await asyncio.sleep(min(wait, 0.5))
                continue
            await running.advance(due)
            value = running.world.read(at)
            stamp = round(due, 3)
            unit = getattr(running.world, "unit", "pa")
            send({"at": stamp, "over": True} if value is None else {"at": stamp, unit: round(value, 5)})
            await writer.drain()
            due += running.interval()

    async def _commands(self, reader: asyncio.StreamReader, running: RunningWorld, send) -> None:  # type: ignore[no-untyped-def]
        while line := await reader.readline():
            try:
                message = json.loads(line)
            except json.JSONDecodeError:
                send({"error": "not JSON"})
                continue
            if "touch" in message:
                at = await running.touch(str(message["touch"]))
                send({"touched": message["touch"], "at": round(at, 3)})
            elif isinstance(message, dict) and message.get("speed") in SPEEDS:
                running.set_speed(float(message["speed"]))
                send({"speed": message["speed"]})
