"""An examination: a few unseen jobs, without hints or second tries, and whether they were passed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

JOBS = 3
"""Unseen jobs to an examination."""
MEAN, LEAST = 75.0, 60.0
"""Points that the jobs have to come to in the mean, and each by itself."""
State = Literal["open", "passed", "failed"]


@dataclass(frozen=True)
class Taken:
    """A job of it: its points, None until it is over, and how often a stop was touched."""

    points: float | None
    stops: int = 0


def passes(job: Taken) -> bool:
    """Whether a job that is over lets the whole be passed still: nobody who was told to stop and went on."""
    return job.points is not None and job.points >= LEAST and job.stops == 0


def state(taken: Sequence[Taken]) -> State:
    """How an examination stands: failed as soon as nothing can be passed any more.

    >>> state([Taken(80.0), Taken(90.0)]), state([Taken(80.0), Taken(90.0), Taken(62.0)])
    ('open', 'passed')
    >>> state([Taken(95.0, stops=1)]), state([Taken(70.0), Taken(72.0), Taken(74.0)])
    ('failed', 'failed')
    """
    over = [t for t in taken if t.points is not None]
    if not all(passes(t) for t in over):
        return "failed"
    if len(over) < JOBS:
        return "open"
    mean = sum(t.points for t in over if t.points is not None) / len(over)
    return "passed" if mean >= MEAN else "failed"
