"""The low side of a working unit in practice: what its suction pressure does while it is pumped down.

A lumped low side: with the liquid valve closed a running compressor empties it exponentially; a stopped one lets it
come back through its valves until the suction valve is closed. Time constants are estimates of small units.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from rough_draw.core.catalogue.working_unit import DEEPEST, FALLS_S, RISES_S, RUNS_AT

SETTLES_S = 5.0
"""Seconds in which a running unit's suction comes to where it runs."""
ZERO = 0.97
"""Atmospheres under which the low side stands under 0 gauge: air comes in where anything leaks."""
LITTLE = 1.35
"""Atmospheres over which more than a whiff is left in what was pumped down."""


@dataclass(frozen=True, kw_only=True)
class LowSide:
    """How it stands at ``at`` s: suction pressure ``pa``, and ``still`` and ``air`` Pa: standing, the atmosphere.

    ``lowest``: the lowest it has been, Pa.
    """

    at: float
    pa: float
    still: float
    air: float
    running: bool = False
    liquid_open: bool = True
    suction_open: bool = True
    lowest: float = math.inf

    def later(self, at: float) -> LowSide:
        """The same at a later moment, nothing having been touched in between."""
        dt = max(0.0, at - self.at)
        if not self.suction_open:
            return replace(self, at=at)
        if self.running:
            fed = self.liquid_open
            goal = RUNS_AT.value * self.still if fed else DEEPEST.value * self.air
            tau = SETTLES_S if fed else FALLS_S.value
        else:
            goal, tau = self.still, RISES_S.value
        pa = goal + (self.pa - goal) * math.exp(-dt / tau)
        return replace(self, at=at, pa=pa, lowest=min(self.lowest, pa))

    @property
    def shut(self) -> bool:
        """Whether both valves are closed and it stands still."""
        return not (self.running or self.liquid_open or self.suction_open)

    @property
    def emptied(self) -> bool:
        """Whether it is pumped down: closed on both sides with no more than a whiff in it."""
        return self.shut and self.pa < LITTLE * self.air

    @property
    def below_zero(self) -> bool:
        """Whether it has been under 0 gauge."""
        return self.lowest < ZERO * self.air
