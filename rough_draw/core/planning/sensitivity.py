"""Which unknown moves the time to target most, and what measurement would narrow it."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.model.ensemble import FIELDS
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.planning.plan import HORIZON, time_to_target
from rough_draw.core.sheet.job import Job

EDGE = 1.2816

MEASURES = {
    "volume": "measure the volume: by the early draw or by expansion from a known cylinder",
    "water": "weigh what drains, or read the plateau while it boils off",
    "core": "pull the cores, or compare two gauges across one",
    "pump": "read the pump's blank-off, running",
    "hose": "prove the hoses alone: capped, isolated, timed",
    "release": "warm the coldest spot; a check-hold near the target shows how fast water comes off",
}


@dataclass(frozen=True)
class Influence:
    """One unknown: seconds to target at its low and high end, and what would narrow it."""

    unknown: str
    low: float
    high: float
    measure: str

    @property
    def span(self) -> float:
        """Seconds between the two ends."""
        return abs(self.high - self.low)


def influences(job: Job) -> list[Influence]:
    """Every unknown at its 10 % and 90 % end, the others at their best guess; the widest first."""
    found = []
    for field in FIELDS:
        ends = []
        for z in (-EDGE, EDGE):
            taken = time_to_target(job, Unknowns(**{field: z}))
            ends.append(taken if taken is not None else HORIZON)
        found.append(Influence(field, ends[0], ends[1], MEASURES[field]))
    return sorted(found, key=lambda i: -i.span)
