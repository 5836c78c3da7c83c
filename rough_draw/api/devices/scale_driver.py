"""The driver of a scale: the gauge's line protocol, with ``kg`` in place of ``pa``."""

from __future__ import annotations

import asyncio
import json
import math
import time
from dataclasses import dataclass

from rough_draw.api.devices.gauge_driver import Link
from rough_draw.core.records.hash_chain import Weighed
from rough_draw.store import jobs, weights
from rough_draw.store.reading_cache import SIMULATED


def scale_name(key: str) -> str:
    """The line's name of the scale of a job."""
    return f"{key}/scale"


@dataclass
class ScaleLink(Link):
    """A connection to one scale on behalf of one job."""

    def _take(self, line: bytes, pending: list[jobs.NewReading]) -> None:
        try:
            message = json.loads(line) if line.strip() else {}
            if isinstance(message, dict) and "kg" in message:
                at, kg = float(message["at"]), float(message["kg"])
                if not math.isfinite(at) or not -5000.0 <= kg <= 5000.0:
                    raise ValueError("out of bounds")
                # A reading like any other on its way here; what its figure is, is known where it is stored.
                pending.append(jobs.NewReading(self.gauge, at, kg))
                self.last_line = time.monotonic()
                return
        except (ValueError, KeyError, TypeError):
            self.faults += 1
            return
        super()._take(line, pending)

    async def _store(self, pending: list[jobs.NewReading]) -> None:
        rows = [Weighed(r.at, float(r.pa or 0.0), self.source == SIMULATED) for r in pending]
        try:
            await asyncio.to_thread(weights.add, self.key, rows)
        except (jobs.NotFound, jobs.Sealed):
            raise asyncio.CancelledError from None
        self.listeners.tell(self.key, {"kind": "weight", "at": [w.at for w in rows], "kg": [w.kg for w in rows]})
