"""Two holds of one job side by side: a leak keeps its rate, whatever is given off inside gives off less each time."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.hold.result import Verdict
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import rise
from rough_draw.core.physics.units import MICRON_PA

SAME, FALLEN = 0.75, 0.5
"""Shares of the earlier rise from which one counts as the same, or as fallen."""


@dataclass(frozen=True)
class Before:
    """An earlier hold: when it began (epoch s), whether it was a check-hold on the way, and what it said."""

    start: float
    check: bool
    verdict: Verdict


def compared(now: Verdict, before: Before) -> Message:
    """What the two rises say together; the rates where each ended."""
    then, here = before.verdict.slope.value, now.slope.value
    if not now.readings or not before.verdict.readings:
        return message("compared-unjudged")
    if then < 0.05:
        case = "little-then" if here < 0.1 else "opened-since"
    elif here <= FALLEN * then:
        case = "less-each-time"
    elif here >= SAME * then:
        case = "same-each-time"
    else:
        case = "little-less"
    return message(f"compared-{case}", then=rise(then * MICRON_PA), now=rise(max(here, 0.0) * MICRON_PA))
