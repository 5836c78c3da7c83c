"""Two holds of one job side by side: a leak keeps its rate, whatever is given off inside gives off less each time."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.hold.result import Verdict

SAME, FALLEN = 0.75, 0.5
"""Shares of the earlier rise from which one counts as the same, or as fallen."""


@dataclass(frozen=True)
class Before:
    """An earlier hold: when it began (epoch s), whether it was a check-hold on the way, and what it said."""

    start: float
    check: bool
    verdict: Verdict


def compared(now: Verdict, before: Before) -> str:
    """What the two rises say together, in a sentence; the rate where each ended, µ/s."""
    then, here = before.verdict.slope.value, now.slope.value
    if not now.readings or not before.verdict.readings:
        return "one of the two cannot be judged"
    rates = f"rose {then:.2f} µ/s then, {max(here, 0.0):.2f} now"
    if then < 0.05:
        return f"{rates}: it hardly rose then" if here < 0.1 else f"{rates}: something has opened since"
    if here <= FALLEN * then:
        return f"{rates}: less each time, as vapour does; a leak would not fall"
    if here >= SAME * then:
        return f"{rates}: the same each time, as a leak does; vapour would fall"
    return f"{rates}: a little less; another hold would tell"
