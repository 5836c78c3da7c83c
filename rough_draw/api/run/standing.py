"""Where a run stands now: what is stored of it, put beside the plan and the live fit."""

from __future__ import annotations

import numpy as np

from rough_draw.api import runs
from rough_draw.api.devices.hub import Hub, second_name
from rough_draw.api.diagnosis.cases import sign_of
from rough_draw.api.run.fits import CONTRADICTS, fit_out, fitted, fitted_beside
from rough_draw.api.run.next_card import next_steps, steps_ahead
from rough_draw.api.run.now import Now, look, sections_of
from rough_draw.api.run.schemas import (
    GaugeOut,
    LiveOut,
)
from rough_draw.api.run.volume import seen_in
from rough_draw.api.schemas import RangeOut
from rough_draw.core.advice.drawing import gauge_place
from rough_draw.core.diagnosis.live_fit import Answer, goal_of
from rough_draw.core.message import Message, Name, message
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning import gauge_difference
from rough_draw.core.planning.gauge_difference import Seen
from rough_draw.core.planning.progress import rate_of
from rough_draw.core.readings.steady import known_since, level_of
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.criteria import Criterion
from rough_draw.store import jobs
from rough_draw.text import say

TOGETHER_S = 60.0
"""Two gauges' last figures that are no farther apart, s, are compared."""
RATE_S = 120.0
"""Time, s, over which a gauge's rate is taken when two are compared."""


def _target_at(n: Now, answer: Answer | None) -> RangeOut | None:
    """When the target comes (epoch s): by the fit where there is one, else by the plan.

    What contradicts the plan has no honest time to the target: why comes first.
    """
    if answer is not None and n.started is not None:
        r = answer.target_at if answer.off <= CONTRADICTS else None
        origin = n.started
    elif n.phase == "hold":
        return None
    else:
        r, origin = n.stand.to_target, n.now
    return RangeOut(low=origin + r.low, value=origin + r.value, high=origin + r.high) if r is not None else None


def _words(n: Now, criterion: Criterion) -> Name:
    state = n.run.state
    if state.broken_at is not None:
        return message("run-nitrogen-in")
    if criterion.breaks and n.phase == "draw":
        return message("run-draw", number=state.breaks + 1, count=len(criterion.breaks) + 1)
    if n.phase != "draw":
        return ""
    return message("pace-over-range" if n.over and n.stand.pace == "no-reading" else f"pace-{n.stand.pace}")


def live_of(key: str, run: runs.RunView, hub: Hub) -> LiveOut:
    """Where a run stands now, from what is stored and the plan, for a page that watches it."""
    n = look(key, run, hub)
    job, state = run.job, run.state
    criterion = criteria.chosen(job.criterion)
    link = hub.links.get(key)
    answer = fitted(key, run) if n.phase == "draw" else None
    goal, _ = goal_of(job, run.made, state.started_at or 0.0)
    gauge = job.rig.gauge
    sign = sign_of(run)
    seen = seen_in(run)
    return LiveOut(
        now=n.now,
        started_at=n.started,
        phase=n.phase,
        pump_on=state.pump_on,
        ballast_open=state.ballast_open,
        isolated_at=n.begun,
        breaks=state.breaks,
        broken=state.broken_at is not None,
        goal_pa=goal,
        pa=n.pa,
        over_range=n.over,
        reading_at=n.reading_at,
        gauge=n.main.gauge if n.main else (gauge.name if gauge and gauge.name else say(message("run-no-gauge"))),
        gauge_place=message("run-gauge-place", place=gauge_place(job, gauge)) if gauge else message("run-dial-only"),
        pace=n.stand.pace if n.phase == "draw" else None,
        rate_micron_s=n.stand.rate,
        words=_words(n, criterion),
        target_at=_target_at(n, answer),
        fit=fit_out(answer, n.started) if answer is not None and n.started is not None else None,
        sign=sign.words if sign is not None else None,
        volume=seen.words if seen is not None else None,
        volume_how=seen.how if seen is not None else None,
        battery_pct=link.battery if link is not None else None,
        target_pa=criterion.target,
        limit_pa=criterion.limit,
        hold_ends_at=n.begun + criterion.minutes * 60.0 if n.begun is not None else None,
        next=next_steps(n, criterion, answer),
        section_pa=sections_of(n),
        shut=sorted(state.shut),
        opened=sorted(state.opened),
        standin=link is not None,
        outside=hub.address(key),
        ahead=link.ahead if link is not None else 0,
        passed_over=link.faults + link.flooded if link is not None else 0,
        second=second_name(key) in hub.links,
        gauges=_gauges(n),
        between=_between(n),
        speed=hub.speed(key),
        stale=link.stale if link is not None else False,
    )


def hand_wanted(key: str, run: runs.RunView, hub: Hub) -> tuple[Name, float | None] | None:
    """The next step of a run under way and when it is due (epoch s), as nobody watches it; None where there is none."""
    n = look(key, run, hub)
    if n.phase == "before":
        return None
    answer = fitted(key, run, watched=False) if n.phase == "draw" else None
    ahead = steps_ahead(n, criteria.chosen(run.job.criterion), answer)
    return (ahead[0].title, None if ahead[0].due is None else n.now + ahead[0].due) if ahead else None


def _gauges(n: Now) -> list[GaugeOut]:
    """Every gauge but the one that is judged by: its last figure, its place, what the plan has there, its own fit."""
    found = []
    job = n.run.job
    fits = fitted_beside(n.key) if n.phase == "draw" else {}
    for s in n.run.series:
        if s is n.main or not s.at.size:
            continue
        last = float(s.pa[-1])
        gauge = next((g for g in job.rig.gauges if g.id == s.part), None)
        band = n.plan.gauges.get(s.part or "")
        planned = None
        if band is not None and n.phase == "draw":
            low, mid, high = (float(np.interp(n.planned_at, n.plan.times, row)) for row in band)
            planned = RangeOut(low=low, value=mid, high=high)
        answer = fits.get(s.part or "")
        found.append(
            GaugeOut(
                gauge=s.gauge,
                part=s.part,
                at=float(s.at[-1]),
                pa=None if np.isnan(last) else last,
                # One held to the pump says where it is by its name.
                place=message("run-gauge-place", place=gauge_place(job, gauge)) if gauge else "",
                planned=planned,
                fit=fit_out(answer, n.started) if answer is not None and n.started is not None else None,
            )
        )
    return found


def _between(n: Now) -> Message | None:
    """What the difference of two gauges means, where both were read within the last minute."""
    read = n.run.job.rig.gauge
    if read is None or n.level is None or n.main is None or n.phase == "before":
        return None
    others = [s for s in n.run.series if s is not n.main and s.part in n.plan.gauges]
    beside = next(((s, level) for s in others if (level := level_of(s.at, s.pa)) is not None), None)
    if beside is None or abs(float(beside[0].at[-1]) - float(n.main.at[-1])) > TOGETHER_S:
        return None
    other, level = beside
    one = Seen(gauge=read.id, name=n.main.gauge, pa=n.level, rate=_rate(n.main))
    two = Seen(gauge=other.part or "", name=other.gauge, pa=level, rate=_rate(other))
    if n.phase == "hold":
        return gauge_difference.holding(n.plan, n.elapsed, one, two).words
    found = gauge_difference.drawing(n.plan, n.elapsed, one, two)
    if found.kind in ("less", "agree") and n.run.state.ballast_open:
        return message("gauges-ballast", near=found.near.name)
    return found.words


def _rate(s: jobs.Readings) -> float | None:
    """Pa/s over its last minutes."""
    rate = rate_of(*known_since(s.at, s.pa, float(s.at[-1]) - RATE_S), RATE_S)
    return rate * MICRON_PA if rate is not None else None
