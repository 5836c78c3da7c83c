"""The way through practice: what each job trains, how somebody stands in it, and what to try next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.sheet.steps import OnRun, read_step

Stretch = Literal["rig", "prove", "draw", "hold", "release", "diagnosis"]
PATH: tuple[Stretch, ...] = ("rig", "prove", "draw", "hold", "release", "diagnosis")
"""In the order of a job; diagnosis goes through all of it."""
ON_THE_PORT = ("core", "seat", "half-open")
"""What stands where the rig meets the system."""
ON_THE_RIG = ("wet-oil", "worn-pump", "slow-pump", "fouled", "dirty-hose", "hose-leak", "jumping", *ON_THE_PORT)
"""What a rig that is proved beforehand would have shown."""
IN_THE_SYSTEM = ("water", "ice", "refrigerant", "open", "oil-carried")
"""What a draw shows by how it goes."""
TOLD_BY_HOLD = ("system-leak", "water", "ice", "refrigerant", "open", "seat", "hose-leak")
"""What a hold has to tell apart."""
LATELY = 8
"""Jobs that a mean is taken over."""
GOOD = 75.0
"""Points from which a job counts as done well."""


def trained(s: Scenario) -> tuple[Stretch, ...]:
    """The stretches of the path that a scenario asks something of; at least one."""
    kinds = [kind_of(f.key) for f in s.hidden.faults]
    steps = [read_step(b.kind) for b in s.before]
    ballast = any(step == OnRun("ballast-open") for step in steps)
    asked: dict[Stretch, bool] = {
        "rig": not s.rigged or bool(s.sheet.rig.cores_in) or any(k in ON_THE_PORT for k in kinds),
        "prove": bool(s.hidden.found) or any(k in ON_THE_RIG for k in kinds),
        "draw": ballast or bool(s.hidden.shut) or any(k in IN_THE_SYSTEM for k in kinds),
        "hold": any(k in TOLD_BY_HOLD for k in kinds),
        "release": s.ends == "release",
        "diagnosis": len(kinds) + len(s.hidden.shut) + ballast >= 2,
    }
    found = tuple(x for x in PATH if asked[x])
    return found or ("draw", "hold")


@dataclass(frozen=True, kw_only=True)
class Standing:
    """How somebody stands in a stretch: the mean of their last jobs that train it, None before the first; how many of
    the jobs that train it they have done well; and the easiest of the others.
    """

    stretch: Stretch
    score: float | None
    well: int
    of: int
    next: str | None


@dataclass(frozen=True)
class Result:
    """A job that was ended: its key, its points, what it trained."""

    key: str
    points: float
    trained: tuple[Stretch, ...]


def standings(jobs: Sequence[Scenario], results: Sequence[Result]) -> list[Standing]:
    """The whole path over the jobs there are. ``results``: the latest first; jobs made from a number count as well."""
    best: dict[str, float] = {}
    for r in results:
        best[r.key] = max(r.points, best.get(r.key, r.points))
    trains = {s.key: trained(s) for s in jobs}
    found = []
    for stretch in PATH:
        mine = sorted((s for s in jobs if stretch in trains[s.key]), key=lambda s: s.level)
        points = [r.points for r in results if stretch in r.trained][:LATELY]
        left = [s for s in mine if best.get(s.key, 0.0) < GOOD]
        found.append(
            Standing(
                stretch=stretch,
                score=sum(points) / len(points) if points else None,
                well=len(mine) - len(left),
                of=len(mine),
                next=left[0].key if left else None,
            )
        )
    return found


def weakest(path: Sequence[Standing]) -> Standing | None:
    """Where most is to be gained and something is left to try, the untried first; None where all is done well."""
    left = [x for x in path if x.next is not None]
    return min(left, key=lambda x: -1.0 if x.score is None else x.score, default=None)
