"""The steps ahead of a run, what holds the isolating back, and how the pump is stopped after it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from rough_draw.api import runs
from rough_draw.api.run.fits import CONTRADICTS, outlook_by
from rough_draw.api.run.now import Now, sections_of
from rough_draw.api.run.schemas import (
    NextOut,
)
from rough_draw.core.diagnosis.live_fit import Answer
from rough_draw.core.interlock.orders import full_order
from rough_draw.core.message import Value
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.planning.next_step import (
    CHECK_AT,
    FLUSH_AT,
    HeldBack,
    NextTouch,
    Outlook,
    ballast_at,
    next_touches,
)
from rough_draw.core.planning.progress import PATIENCE_S, by_trend
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.readings.steady import steady
from rough_draw.core.sheet.criteria import Criterion

STOPPING: dict[tuple[str, str], str] = {
    ("vent-pump", ""): "vent-pump",
    ("shut", "pump"): "close-pump",
    ("pump-off", ""): "stop-pump",
}
"""Steps by which the pump is stopped after isolating, by their sentences."""
FAR = 1.2
"""Times the target that the far side may stand at when the gauge is there."""


def _planned(n: Now, criterion: Criterion) -> Outlook:
    """When the levels of the next steps come, by the plan."""
    here = n.planned_at

    def ahead(level: float) -> float | None:
        at = time_at_level(n.plan.times, n.plan.gauge_band[1], level)
        return max(0.0, at - here) if at is not None else None

    return Outlook(
        ahead(ballast_at(n.run.job) or 0.0),
        ahead(FLUSH_AT * criterion.target),
        n.stand.to_target.value if n.stand.to_target else None,
        ahead(criterion.check or CHECK_AT),
    )


def next_steps(n: Now, criterion: Criterion, answer: Answer | None) -> list[NextOut]:
    """The steps ahead, as they are said."""
    return [
        NextOut(
            kind=t.kind,
            title=t.title,
            why=t.why,
            caution=t.caution,
            first=t.first,
            due_at=None if t.due is None else n.now + t.due,
        )
        for t in steps_ahead(n, criterion, answer)
    ]


def steps_ahead(n: Now, criterion: Criterion, answer: Answer | None) -> list[NextTouch]:
    """The steps ahead, by the fit's outlook where it has one."""
    job, state = n.run.job, n.run.state
    outlook = _planned(n, criterion)
    trend = by_trend(*n.recent(), criterion.target) if answer is not None else None
    if contradicts(answer):
        # What contradicts the plan has no honest time to any level.
        outlook = Outlook(None, None, None)
    elif answer is not None and n.started is not None:
        outlook = outlook_by(answer, n.now - n.started, ballast_at(job) or 0.0, criterion)
        if outlook.target == 0.0:
            # By the fit it should be there, and it is not: how it falls says when.
            outlook = replace(outlook, target=_in_time(trend, outlook.target))
    view_state = state if n.begun is None else replace(state, isolated_at=n.begun)
    where = runs.isolation_for(job).where
    held = _held_back(n, criterion, answer, trend)
    ahead = next_touches(job, view_state, criterion, n.level, n.level is None, outlook, n.now, where, held)
    return _after_isolating(n, ahead)


def _in_time(seconds: float | None, unknown: float | None) -> float | None:
    """A trend's seconds where it gets there in time; ``unknown`` where there is no trend."""
    if seconds is None:
        return unknown
    return seconds if seconds <= PATIENCE_S else None


def contradicts(answer: Answer | None) -> bool:
    """Whether the readings are too far off what the plan could be."""
    return answer is not None and answer.off > CONTRADICTS


def _held_back(n: Now, criterion: Criterion, answer: Answer | None, trend: float | None) -> HeldBack | None:
    """Why the system is not to be isolated yet; None where nothing speaks against it."""
    if n.phase != "draw":
        return None
    if contradicts(answer):
        return HeldBack("unexplained")
    if n.level is not None and n.level > criterion.target and _levelled(n, answer, trend):
        stuck: dict[str, Value] = {"level": vacuum(criterion.target), "stands": vacuum(n.level)}
        return HeldBack("stuck", None, tuple(stuck.items()))
    sections = {s.id: s for s in n.run.job.scope.sections}
    stands = [(pa, sections[name]) for name, pa in sections_of(n).items() if name in sections]
    worst, where = max(stands, key=lambda x: x[0], default=(0.0, None))
    # A gauge as far off as this reads the rig; what little is left evens out in the hold.
    if where is not None and n.level is not None and worst > FAR * criterion.target:
        values: dict[str, Value] = {"level": vacuum(criterion.target), "section": where.words(), "there": vacuum(worst)}
        return HeldBack("far", None, tuple(values.items()))
    left = _dwell_left(n, criterion)
    if left > 0.0:
        told: dict[str, Value] = {"left": duration(left), "level": vacuum(criterion.target), "standard": criterion.name}
        return HeldBack("dwell", left, tuple(told.items()))
    return None


def _levelled(n: Now, answer: Answer | None, trend: float | None) -> bool:
    """Whether the draw will not come to the target as it goes: by the readings' trend, and by what the fit makes of
    them. Water that boils off stands level too, and gets there: the fit knows it."""
    if answer is None or n.started is None or trend is None or trend <= PATIENCE_S:
        return False
    return answer.target_at is None or answer.target_at.value <= n.now - n.started


def _dwell_left(n: Now, criterion: Criterion) -> float:
    """Seconds of the standard's dwell that are left: since the gauge came under the target for good, the pump on."""
    if not criterion.dwell or n.main is None or not n.main.at.size:
        return 0.0
    over = np.flatnonzero(~(steady(n.main.at, n.main.pa) <= criterion.target))
    under = n.main.at[over[-1] + 1 :] if over.size else n.main.at
    since = float(under[0]) if under.size else n.now
    pumped = max((t.at for t in n.run.made if t.kind in ("pump-on", "reopen")), default=since)
    return max(0.0, criterion.dwell * 60.0 - (n.now - max(since, pumped)))


def _after_isolating(n: Now, ahead: list[NextTouch]) -> list[NextTouch]:
    """The steps ahead, the pump's stop as the planner has it: vented or behind its own valve first."""
    found: list[NextTouch] = []
    for t in ahead:
        if t.kind == "pump-off" and n.phase == "hold":
            steps = [s.touch for s in full_order(n.run.job, "hold").steps if s.touch is not None]
            rest = [x for x in steps if (x.kind, x.on) in STOPPING and not _done_since(n, x.text)]
            found += [replace(t, kind=x.text, told=STOPPING[x.kind, x.on]) for x in rest]
        else:
            found.append(t)
    return found


def _done_since(n: Now, kind: str) -> bool:
    return kind in n.run.state.after or (kind.startswith("shut:") and kind.removeprefix("shut:") in n.run.state.shut)
