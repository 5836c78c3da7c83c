"""Breaking the vacuum: the order of steps for this rig and the chosen way."""

from __future__ import annotations

from collections import Counter

from rough_draw.core.charging.charge import keeps_charge
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.orders import Step, full_order
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import RunState
from rough_draw.core.sheet.scope import Scope


def stays_evacuated(scope: Scope) -> bool:
    """Whether there is nothing to charge: an empty recovery cylinder, a hose set, a spare section."""
    return all(s.kind in ("cylinder", "vessel") for s in scope.sections)


def release_goal(job: Job) -> GoalKey:
    """The goal that ends this job: left under vacuum, by a cylinder, or by the unit's own charge."""
    if stays_evacuated(job.scope):
        return "end-cylinder"
    if job.release.way == "cylinder":
        return "release-cylinder"
    return "release-unit" if keeps_charge(job.scope) else "release-cylinder"


def release_steps(job: Job) -> list[Step]:
    """Steps in their order. Positive pressure comes before any core goes back or any part comes off a port."""
    return list(full_order(job, release_goal(job)).steps)


def release_kinds(job: Job) -> frozenset[str]:
    """Texts of the steps that this release is made of, as a run logs them."""
    return frozenset(s.kind for s in release_steps(job))


def done_steps(job: Job, run: RunState) -> tuple[str, ...]:
    """Keys of the steps of the release that are done: ticked, or logged as steps since the hold began."""
    left = Counter(run.after)
    found = []
    for s in release_steps(job):
        if s.key in job.release.steps_done or left[s.kind] > 0:
            found.append(s.key)
            left[s.kind] -= 1
    return tuple(found)
