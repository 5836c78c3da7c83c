"""One writer for the readings of all gauges: what comes together goes to disk together, and nobody waits for a lock."""

from __future__ import annotations

import asyncio
import logging
from dataclasses import dataclass, field

from peewee import OperationalError

from rough_draw.store import jobs

log = logging.getLogger("rough_draw.gauge")
AGAIN_S = 0.25
"""Seconds before a write is tried again where something else holds the file."""


@dataclass
class _Waiting:
    key: str
    rows: list[jobs.NewReading]
    source: str
    done: asyncio.Future[bool] = field(default_factory=lambda: asyncio.get_running_loop().create_future())


class Keeper:
    """Gathers readings and writes them, many gauges in one transaction."""

    def __init__(self) -> None:
        self._waiting: list[_Waiting] = []
        self._wake = asyncio.Event()
        self._task: asyncio.Task[None] | None = None

    def start(self) -> None:
        """Begin to write."""
        self._task = asyncio.create_task(self._run())

    async def stop(self) -> None:
        """Write what is left, then stop."""
        if self._task is None:
            return
        for _ in range(500):
            if not self._waiting:
                break
            await asyncio.sleep(0.02)
        self._task.cancel()
        await asyncio.gather(self._task, return_exceptions=True)

    async def store(self, key: str, rows: list[jobs.NewReading], source: str) -> bool:
        """Return once the readings are on disk; False where the job is gone."""
        item = _Waiting(key, rows, source)
        self._waiting.append(item)
        self._wake.set()
        return await item.done

    async def _run(self) -> None:
        while True:
            await self._wake.wait()
            self._wake.clear()
            batch = list(self._waiting)
            if not batch:
                continue
            try:
                kept = await asyncio.to_thread(jobs.add_all, [(w.key, w.rows, w.source) for w in batch])
            except OperationalError as e:
                log.warning("readings wait for the file: %s", e)
                await asyncio.sleep(AGAIN_S)
                self._wake.set()
                continue
            except Exception as e:
                # Whoever waits is told, and hangs up and comes again; the others' readings go on being kept.
                log.exception("readings could not be kept")
                self._answer(batch, OSError(f"readings could not be kept: {e}"))
                continue
            self._answer(batch, kept)

    def _answer(self, batch: list[_Waiting], kept: list[bool] | OSError) -> None:
        del self._waiting[: len(batch)]
        if self._waiting:
            self._wake.set()
        for n, w in enumerate(batch):
            if w.done.done():
                continue
            if isinstance(kept, OSError):
                w.done.set_exception(kept)
            else:
                w.done.set_result(kept[n])
