"""Two gauges on one job: what the difference between them means, while it is drawn and while it is held."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import rise, vacuum
from rough_draw.core.planning.plan import Plan

ALIKE = 1.15
"""Ratio of two gauges up to which they agree: their own errors, and what any joint holds back (estimate)."""
MORE = 1.6
"""How many times the plan's ratio theirs must be before something else is said to be in the way (estimate)."""
FASTER = 2.0
"""How many times as fast one must rise in a hold before its side is named (estimate)."""

Kind = Literal["agree", "as-planned", "more", "less", "turned", "rig-rises", "system-rises", "even"]


@dataclass(frozen=True, kw_only=True)
class Seen:
    """A gauge's last figure: its id, its name, Pa, and its rate Pa/s where that is known."""

    gauge: str
    name: Name
    pa: float
    rate: float | None = None


@dataclass(frozen=True, kw_only=True)
class Difference:
    """What two gauges say together: ``far`` is the one farther from the pump by the plan."""

    kind: Kind
    far: Seen
    near: Seen
    planned: float

    @property
    def words(self) -> Message:
        """In words."""
        return message(
            f"gauges-{self.kind}",
            far=self.far.name,
            near=self.near.name,
            apart=vacuum(abs(self.far.pa - self.near.pa)),
            planned=vacuum(abs(self.planned)),
            rate=rise(abs(self.near.rate or 0.0)),
            other=rise(abs(self.far.rate or 0.0)),
        )


def drawing(plan: Plan, at: float, one: Seen, other: Seen) -> Difference:
    """The difference of two gauges while the pump draws, against what the plan has between them at ``at`` s.

    The plan is taken where its own far gauge shows what this one does, so that a draw ahead or behind is not laid to
    the way between them.
    """
    far, near = _ordered(plan, at, one, other)
    curve, beside = plan.gauges[far.gauge][1], plan.gauges[near.gauge][1]
    i = int(np.argmin(np.abs(np.log(curve) - np.log(max(far.pa, 1e-3)))))
    ratio, planned = far.pa / max(near.pa, 1e-3), float(curve[i] / max(beside[i], 1e-3))
    kind: Kind
    if ratio < 1.0 / ALIKE:
        kind = "turned"
    elif ratio > MORE * max(planned, 1.0):
        kind = "more"
    elif ratio <= ALIKE and planned <= ALIKE * MORE:
        kind = "agree"
    elif ratio * MORE < planned:
        kind = "less"
    else:
        kind = "as-planned"
    return Difference(kind=kind, far=far, near=near, planned=float(curve[i] - beside[i]))


def holding(plan: Plan, at: float, one: Seen, other: Seen) -> Difference:
    """The difference of two gauges in a hold: the side that rises faster is the one that leaks or gives off gas."""
    far, near = _ordered(plan, at, one, other)
    a, b = far.rate or 0.0, near.rate or 0.0
    kind: Kind = "even"
    if b > FASTER * max(a, 0.0) and b > 0.0:
        kind = "rig-rises"
    elif a > FASTER * max(b, 0.0) and a > 0.0:
        kind = "system-rises"
    return Difference(kind=kind, far=far, near=near, planned=0.0)


def _ordered(plan: Plan, at: float, one: Seen, other: Seen) -> tuple[Seen, Seen]:
    """Which of two is farther from the pump: the one that stands higher by the plan."""

    def level(s: Seen) -> float:
        return float(np.interp(at, plan.times, plan.gauges[s.gauge][1]))

    return (one, other) if level(one) >= level(other) else (other, one)
