"""The scale stand-in: a cylinder on a scale, its valve, and the system that it empties into. Everything here is
made up.

Served by the stand-ins' server like a gauge, with ``kg`` in place of ``pa``. Liquid runs into an evacuated system
fast at first and ever slower as the pressures even out; a running compressor draws the rest. The scale rounds,
scatters, drifts, and creeps for a while after a load is put on it.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass

STEP_KG = 0.005
SCATTER_KG = 0.002
DRIFT_KG_S = 2.0e-6
CREEP_KG, CREEP_S = 0.006, 90.0
FULL_FLOW = 0.03
"""kg/s into a vacuum with the valve full open."""
THROTTLED = 0.2
RUNNING_FLOW = 0.004
"""kg/s that a running compressor draws through a throttled valve."""
TICK = 0.25


@dataclass(frozen=True)
class ScaleTruth:
    """What is under the scale: the cylinder's tare and refrigerant, kg; how much the system takes by itself; a seed."""

    tare: float = 7.2
    full: float = 10.0
    inside: float = 9.4
    takes: float = 3.5
    seed: int = 1


class ScaleWorld:
    """A cylinder standing on its scale from time 0 (s). Touches: cylinder-open, -throttle, -shut, -next (another
    like it in its place, closed); compressor-on, -off; tare."""

    unit = "kg"

    def __init__(self, truth: ScaleTruth) -> None:
        self.truth = truth
        self.time = 0.0
        self.inside = truth.inside
        self.given = 0.0
        self.valve = 0.0
        self.running = False
        self.zero = 0.0
        self._rng = random.Random(truth.seed)

    def touch(self, kind: str) -> None:
        """Obey a touch; kinds without a physical effect change nothing."""
        if kind in ("cylinder-open", "cylinder-throttle", "cylinder-shut"):
            self.valve = {"cylinder-open": 1.0, "cylinder-throttle": THROTTLED, "cylinder-shut": 0.0}[kind]
        elif kind == "cylinder-next":
            self.inside, self.valve = self.truth.inside, 0.0
        elif kind in ("compressor-on", "compressor-off"):
            self.running = kind == "compressor-on"
        elif kind == "tare":
            self.zero = self.load()

    def flow(self) -> float:
        """kg/s out of the cylinder now."""
        if self.inside <= 0.0:
            return 0.0
        # A system that wants nothing takes next to nothing.
        left = max(0.0, 1.0 - self.given / max(self.truth.takes, 1e-3))
        by_itself = FULL_FLOW * self.valve * math.sqrt(left)
        drawn = RUNNING_FLOW * min(1.0, self.valve / THROTTLED) if self.running else 0.0
        return by_itself + drawn

    def advance(self, until: float) -> None:
        """Run on to ``until`` s."""
        while self.time < until:
            step = min(TICK, until - self.time)
            out = min(self.inside, self.flow() * step)
            self.inside -= out
            self.given += out
            self.time += step

    def load(self) -> float:
        """What truly stands on the scale, kg, with the slow errors of the scale on top."""
        creep = CREEP_KG * (1.0 - math.exp(-self.time / CREEP_S))
        return self.truth.tare + self.inside + creep + DRIFT_KG_S * self.time

    def read(self, at: str = "") -> float | None:
        """What the scale shows, kg."""
        shown = self.load() - self.zero + SCATTER_KG * self._rng.gauss(0.0, 1.0)
        return round(shown / STEP_KG) * STEP_KG
