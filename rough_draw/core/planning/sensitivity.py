"""Which unknown moves the time to target most, and what measurement would narrow it."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.message import Message, message
from rough_draw.core.model.ensemble import FIELDS
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.planning.plan import seconds_to_target
from rough_draw.core.sheet.job import Job

EDGE = 1.2816


@dataclass(frozen=True)
class Influence:
    """One unknown: seconds to target at its low and high end."""

    unknown: str
    low: float
    high: float

    @property
    def name(self) -> Message:
        """The unknown in words."""
        return message(f"unknown-{self.unknown}")

    @property
    def measure(self) -> Message:
        """What would narrow it."""
        return message(f"unknown-{self.unknown}.measure")

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
            ends.append(seconds_to_target(job, Unknowns(**{field: z})))
        found.append(Influence(field, ends[0], ends[1]))
    return sorted(found, key=lambda i: -i.span)
