"""The driver: speaks the gauge's line protocol over TCP, stores each reading, tells whoever listens.

It knows the protocol and nothing of the simulation behind it.
"""

from __future__ import annotations

import asyncio
import json
import logging
import time
from dataclasses import dataclass, field

from rough_draw.api.devices.reading_writer import Keeper
from rough_draw.api.news.listeners import Listeners
from rough_draw.core.readings.bounds import pressure, seconds
from rough_draw.store import jobs
from rough_draw.store.reading_cache import SIMULATED

log = logging.getLogger("rough_draw.gauge")
GATHER_S = 0.04
"""Seconds in which lines that come together are gathered into one transaction."""
READY_S = 3.0
"""Seconds a touch waits for a line that is not up; after that it is told as soon as the line is."""
ANSWER_S = 15.0
"""Seconds a simulated world may take to come to a touch: logged at another moment it would contradict its readings."""
LOOPBACK = "127.0.0.1"
MOST_LINE = 64 * 1024
MOST_A_SECOND = 100
"""Readings that are taken of a gauge in a second at the most."""
AHEAD_S = 60.0
"""A stamp of a gauge outside that is farther ahead of its arrival than this, s, is by a clock that is wrong."""
STALE_AFTER = 5.0
"""Seconds without a line after which a gauge counts as stale."""


@dataclass(kw_only=True)
class Link:
    """A connection to one gauge on behalf of one job: ``opens`` is the gauge's name on the line,
    ``at`` the place of a second one. ``obeys``: whether what it reads follows the steps, as a simulated world does; of
    a gauge outside that is known once it has said so.

    ``source`` is kept with its readings, ``told`` names them in the job's stream. ``part``: its id on the
    sheet.
    """

    key: str
    port: int
    host: str = LOOPBACK
    obeys: bool = True
    listeners: Listeners
    keeper: Keeper
    gauge: str = "gauge"
    opens: str = ""
    at: str = ""
    source: str = "gauge"
    part: str | None = None
    told: str = "readings"
    last_line: float = 0.0
    faults: int = 0
    flooded: int = 0
    ahead: int = 0
    greeted: bool = False
    battery: float | None = None
    _room: float = 0.0
    _counted: float = 0.0
    _writer: asyncio.StreamWriter | None = None
    _untold: list[str] = field(default_factory=list)
    _ready: asyncio.Event = field(default_factory=asyncio.Event)
    _task: asyncio.Task[None] | None = None
    _over: bool = False
    _answers: dict[str, asyncio.Future[float]] = field(default_factory=dict)

    @property
    def stale(self) -> bool:
        """Whether nothing has been heard for a while."""
        return time.monotonic() - self.last_line > STALE_AFTER

    def start(self) -> None:
        """Connect, and keep connecting."""
        self._task = asyncio.create_task(self._run())

    async def stop(self) -> None:
        """Hang up."""
        self._over = True
        if self._task is not None:
            self._task.cancel()
            await asyncio.gather(self._task, return_exceptions=True)

    async def touch(self, kind: str) -> float | None:
        """Tell the world of a touch; returns the world's time of it, or None if it did not answer.

        A gauge that reads a real system has nothing to obey: it is not told, and not waited for.
        """
        if not self.obeys:
            if not self.greeted:
                self._untold.append(kind)
            return None
        try:
            # Just attached, or hung up for a moment: a touch is not lost for that.
            async with asyncio.timeout(READY_S):
                await self._ready.wait()
        except TimeoutError:
            self._untold.append(kind)
            return None
        if self._writer is None:
            self._untold.append(kind)
            return None
        answer: asyncio.Future[float] = asyncio.get_running_loop().create_future()
        self._answers[kind] = answer
        self._writer.write(json.dumps({"touch": kind}).encode() + b"\n")
        try:
            async with asyncio.timeout(ANSWER_S):
                return await answer
        except TimeoutError:
            return None
        finally:
            self._answers.pop(kind, None)

    def set_speed(self, speed: int) -> None:
        """Ask for another pace."""
        if self._writer is not None:
            self._writer.write(json.dumps({"speed": speed}).encode() + b"\n")

    async def _run(self) -> None:
        wait = 0.2
        # What fails while hanging up would else be taken for a line gone dead, and called again.
        while True:
            try:
                await self._session()
                wait = 0.2
            except (ConnectionError, OSError, TimeoutError):
                pass
            except Exception:
                # Whatever a gauge says, the line to it is never given up.
                log.exception("gauge %s: the line fell and is called again", self.gauge)
            self._writer = None
            self._ready.clear()
            if self._over:
                return
            await asyncio.sleep(wait)
            wait = min(5.0, wait * 2)

    async def _session(self) -> None:
        async with asyncio.timeout(READY_S):
            reader, self._writer = await asyncio.open_connection(self.host, self.port, limit=MOST_LINE)
        pending: list[jobs.NewReading] = []
        try:
            opening = {"open": self.opens or self.key, "at": self.at}
            self._writer.write(json.dumps({k: v for k, v in opening.items() if v}).encode() + b"\n")
            if self.obeys:
                self._tell()
            self._ready.set()
            first = time.monotonic()
            while True:
                try:
                    # Not `wait_for`: that one loses a hanging up which comes together with a line.
                    async with asyncio.timeout(GATHER_S if pending else 10.0):
                        line = await reader.readline()
                except TimeoutError:
                    line = b" "
                except ValueError:
                    # A line longer than any gauge has something to say: what is left of it is passed over.
                    self.faults += 1
                    continue
                if not line:
                    return
                if not pending:
                    first = time.monotonic()
                self._take(line, pending)
                if pending and (time.monotonic() - first > GATHER_S or line == b" "):
                    batch, pending = pending, []
                    await self._store(batch)
        finally:
            # What was heard before the line went dead is kept too.
            if pending:
                await self._store(pending)
            self._writer.close()

    def _tell(self) -> None:
        """Tell the world what it was not told while the line was down."""
        for kind in self._untold:
            if self._writer is not None:
                self._writer.write(json.dumps({"touch": kind}).encode() + b"\n")
        self._untold.clear()

    def _too_fast(self) -> bool:
        """Whether a gauge says more than anybody reads: a second's worth is kept, the rest passed over and counted."""
        now = time.monotonic()
        self._room = min(float(MOST_A_SECOND), self._room + (now - self._counted) * MOST_A_SECOND)
        self._counted = now
        if self._room < 1.0:
            self.flooded += 1
            return True
        self._room -= 1.0
        return False

    def _take(self, line: bytes, pending: list[jobs.NewReading]) -> None:
        if not line.strip():
            return
        try:
            message = json.loads(line)
            if not isinstance(message, dict):
                raise ValueError("no object")
            if "hello" in message:
                self.gauge = str(message.get("gauge", "gauge"))[:60]
                self.greeted = True
                if message.get("simulated") is True and self.source == "gauge":
                    self.source = SIMULATED
                    self.obeys = True
                if self.obeys:
                    self._tell()
                self._untold.clear()
                self._battery(message)
            elif "touched" in message:
                answer = self._answers.get(str(message["touched"]))
                if answer is not None and not answer.done():
                    answer.set_result(float(message["at"]))
            elif "at" in message:
                self._battery(message)
                at = self._in_time(seconds(float(message["at"])))
                pa = pressure(None if message.get("over") else float(message["pa"]))
                if self._too_fast():
                    return
                pending.append(jobs.NewReading(self.gauge, at, pa, part=self.part))
            self.last_line = time.monotonic()
        except (ValueError, KeyError, TypeError, RecursionError, OverflowError):
            self.faults += 1
            log.warning("gauge %s: a line that is not understood was passed over", self.gauge)

    def _in_time(self, at: float) -> float:
        """A stamp that is ahead of its arrival would stand as the last for as long: it counts from its arrival. A
        simulated world may run ahead.
        """
        now = time.time()
        if self.obeys or at <= now + AHEAD_S:
            return at
        self.ahead += 1
        return now

    def _battery(self, message: dict[str, object]) -> None:
        """Charge in %, where the gauge says it; what is no charge is passed over."""
        value = message.get("battery")
        if isinstance(value, int | float) and 0 <= value <= 100:
            self.battery = float(value)

    async def _store(self, pending: list[jobs.NewReading]) -> None:
        rows = list(pending)
        if not await self.keeper.store(self.key, rows, self.source):
            raise asyncio.CancelledError
        shown = {"at": [r.at for r in rows], "pa": [r.pa for r in rows]}
        marked = {"simulated": True} if self.source == SIMULATED else {}
        self.listeners.tell(self.key, {"kind": self.told, "gauge": self.gauge, "part": self.part, **shown, **marked})
