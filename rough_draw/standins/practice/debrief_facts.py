"""What was so in a practice job: the facts that its debrief is scored on, and what goes beside the gauge's figures."""

from __future__ import annotations

import math
from collections.abc import Sequence

from rough_draw.core.advice.setup_check import answers
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.model.system import ScopeError
from rough_draw.core.planning.plan import time_to_target
from rough_draw.core.practice.action_kinds import CallVerdict, PutRigOn
from rough_draw.core.practice.scoring import Act, Facts
from rough_draw.core.sheet.criteria import chosen
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.best_choice import Best
from rough_draw.standins.practice.session_log import Done


def facts(bay: Bay, expert: Bay, best: Best | None) -> Facts:
    """The facts of a finished (or broken off) job beside a sound hand's."""
    criterion = chosen(bay.scenario.sheet.criterion)
    mine = [d for d in bay.done if not d.before]
    acts = tuple(
        Act(
            d.at,
            d.kind,
            d.said,
            d.hold.verdicts(criterion.limit) if d.hold is not None else (),
            d.before,
        )
        for d in bay.done
    )
    judged = [d.at for d in mine if isinstance(d.action, CallVerdict)]
    until = judged[-1] if judged else bay.time
    since, opened = held_between(bay.done, until)
    deep = bay.track.value(bay.track.highest, since) if since is not None else math.nan
    shown = bay.track.value(bay.track.shown, since) if since is not None else math.nan
    held = min(until, opened) - since if since is not None else 0.0
    begun = [d.at for d in bay.done if d.kind == "pump-on"]
    asked = not bay.scenario.rigged or any(isinstance(d.action, PutRigOn) for d in [*mine, *expert.done])
    return Facts(
        acts=acts,
        faults=to_name(bay),
        target=criterion.target,
        limit=criterion.limit,
        hold_s=criterion.minutes * 60.0,
        spent=bay.time - bay.scenario.arrive_s,
        expert=expert.time - bay.scenario.arrive_s,
        own_rig=_seconds(bay) if asked and begun else None,
        best_rig=best.seconds if asked and best is not None else None,
        answers=_answers(bay) if asked else (),
        at_isolation=None if math.isnan(deep) else deep,
        shown_at_isolation=None if math.isnan(shown) else shown,
        charged=bay.charged,
        expert_end=expert.ended,
        steep=since is not None and _steep(bay, since, since + held, criterion.limit),
        falling=since is not None and _falls(bay, since, criterion.target),
        truth_at_end=_truth(bay, mine),
        end=bay.ended,
        ballast_left=bay.ballast,
        held_s=max(0.0, held),
        left_unsafe=bay.left_unsafe(),
    )


LATELY_S, FELL = 300.0, 0.95
"""Over so many seconds a gauge that has levelled off keeps at least this share of its reading."""
DEEP = 1.3
"""Times the target within which it is deep enough to be held."""


STEEP = 3.0
"""Times the reading at isolating, over the limit, that a leak has to rise to be called before its time."""


def _steep(bay: Bay, since: float, until: float, limit: float) -> bool:
    """Whether the gauge ran away between two moments (s): over its range, or far over what it showed and the limit."""
    begun, ended = (bay.track.value(bay.track.shown, t) for t in (since, until))
    if math.isnan(ended):
        return not math.isnan(begun)
    return ended > limit and ended > STEEP * begun


def _falls(bay: Bay, at: float, target: float) -> bool:
    """Whether the gauge was over the target at a moment (s), and still fell: over its range it tells nothing else."""
    now, then = (bay.track.value(bay.track.shown, t) for t in (at, at - LATELY_S))
    if now <= DEEP * target:
        return False
    return math.isnan(now) or math.isnan(then) or now < FELL * then


def held_between(done: Sequence[Done], until: float) -> tuple[float | None, float]:
    """When the system was last parted from a pump that had run, by whatever valves, and when it was opened to it again
    (s): None where it never was, infinity where it stays.
    """
    since, opened = None, math.inf
    pumped = before = False
    for d in done:
        if d.at > until:
            break
        pumped = pumped or d.kind == "pump-on"
        if pumped and d.apart and not before:
            since, opened = d.at, math.inf
        elif before and not d.apart:
            opened = min(opened, d.at)
        before = d.apart
    return since, opened


def to_name(bay: Bay) -> tuple[str, ...]:
    """What was the matter, as keys that can be named."""
    # What left with a rig before it was looked at need not be named.
    found = [f.key for f in bay.scenario.hidden.faults if f.key not in bay.taken_off]
    if bay.scenario.hidden.shut:
        found.append("section-shut")
    if any(b.kind == "ballast-open" for b in bay.scenario.before) and "ballast-shut" not in [
        b.kind for b in bay.scenario.before
    ]:
        found.append("ballast")
    if bay.scenario.sheet.rig.cores_in and bay.scenario.rigged:
        found.append("core-in")
    return tuple(found)


def _truth(bay: Bay, mine: list[Done]) -> tuple[str, ...]:
    holds = [d.hold for d in mine if d.hold is not None]
    return holds[-1].verdicts(chosen(bay.scenario.sheet.criterion).limit) if holds else ()


def _seconds(bay: Bay) -> float | None:
    try:
        return time_to_target(bay.told) or 24 * 3600.0
    except (ScopeError, NetworkError):
        return 24 * 3600.0


def _answers(bay: Bay) -> tuple[str, ...]:
    return tuple(a.says for a in answers(bay.told, bay.assembly, bay.isolation) if a.letter in "abcd")
