"""Where a run stands now: what is stored of it, put beside the plan and the live fit."""

from __future__ import annotations

import time
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from rough_draw.api import runs
from rough_draw.api.devices.hub import Hub, second_name
from rough_draw.api.diagnosis.cases import sign_of
from rough_draw.api.hold import holds
from rough_draw.api.run.fits import CONTRADICTS, fit_out, fitted, fitted_beside, outlook_by
from rough_draw.api.run.schemas import (
    GaugeOut,
    LiveOut,
    NextOut,
)
from rough_draw.api.schemas import RangeOut
from rough_draw.core.advice.drawing import gauge_place
from rough_draw.core.diagnosis.live_fit import Answer, goal_of
from rough_draw.core.message import Message, Name, message
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning import gauge_difference
from rough_draw.core.planning.gauge_difference import Seen
from rough_draw.core.planning.next_step import CHECK_AT, FLUSH_AT, Outlook, ballast_at, next_touches
from rough_draw.core.planning.plan import Plan
from rough_draw.core.planning.progress import Standing, rate_of, standing
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.criteria import Criterion
from rough_draw.store import jobs
from rough_draw.text import say

TOGETHER_S = 60.0
"""Two gauges' last figures that are no farther apart, s, are compared."""
RATE_S = 120.0
"""Time, s, over which a gauge's rate is taken when two are compared."""
RECENT_S = 900.0
"""Readings older than this say nothing of how fast it falls now."""


@dataclass(frozen=True, kw_only=True)
class _Now:
    """A run looked at once: its clock, what its gauge last said, and where that stands against the plan."""

    key: str
    run: runs.RunView
    now: float
    main: jobs.Readings | None
    pa: float | None
    over: bool
    reading_at: float | None
    started: float | None
    begun: float | None
    plan: Plan
    stand: Standing
    elapsed: float

    @property
    def planned_at(self) -> float:
        """Where on the plan's clock the draw is, s: by what the gauge shows, else by the clock."""
        return self.stand.plan_time if self.stand.plan_time is not None else self.elapsed

    @property
    def phase(self) -> Literal["before", "draw", "hold"]:
        """What goes on."""
        if self.begun is not None:
            return "hold"
        return "draw" if self.started is not None else "before"


def _look(key: str, run: runs.RunView, hub: Hub) -> _Now:
    clock = hub.clock(key)
    now = clock if clock is not None else time.time()
    main = run.main()
    started, pa, over, reading_at = run.state.started_at, None, False, None
    times, values = np.array([]), np.array([])
    if main is not None and main.at.size:
        last, reading_at = float(main.pa[-1]), float(main.at[-1])
        over = bool(np.isnan(last))
        pa = None if over else last
        started = started if started is not None else float(main.at[0])
        good = np.isfinite(main.pa) & (main.at >= now - RECENT_S)
        times, values = main.at[good], main.pa[good]
    elapsed = max(0.0, now - started) if started is not None else 0.0
    plan = runs.plan_for(run.job)
    return _Now(
        key=key,
        run=run,
        now=now,
        main=main,
        pa=pa,
        over=over,
        reading_at=reading_at,
        started=started,
        begun=holds.hold_start(run),
        plan=plan,
        stand=standing(plan, elapsed, times, values),
        elapsed=elapsed,
    )


def _planned(n: _Now, criterion: Criterion) -> Outlook:
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


def _target_at(n: _Now, answer: Answer | None) -> RangeOut | None:
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


def _next(n: _Now, criterion: Criterion, answer: Answer | None) -> list[NextOut]:
    """The steps ahead, by the fit's outlook where it has one."""
    job, state = n.run.job, n.run.state
    outlook = _planned(n, criterion)
    if answer is not None and n.started is not None and answer.target_at is not None and answer.off <= CONTRADICTS:
        outlook = outlook_by(answer, n.now - n.started, ballast_at(job) or 0.0, criterion)
    view_state = state if n.begun is None else replace(state, isolated_at=n.begun)
    where = runs.isolation_for(job).where
    return [
        NextOut(
            kind=t.kind,
            title=t.title,
            why=t.why,
            caution=t.caution,
            first=t.first,
            due_at=None if t.due is None else n.now + t.due,
        )
        for t in next_touches(job, view_state, criterion, n.pa, n.over, outlook, n.now, where)
    ]


def _words(n: _Now, criterion: Criterion) -> Name:
    state = n.run.state
    if state.broken_at is not None:
        return message("run-nitrogen-in")
    if criterion.breaks and n.phase == "draw":
        return message("run-draw", number=state.breaks + 1, count=len(criterion.breaks) + 1)
    return message(f"pace-{n.stand.pace}") if n.phase == "draw" else ""


def _sections(n: _Now) -> dict[str, float]:
    """What the plan has in each section when its gauge shows what this one does, Pa."""
    if n.phase != "draw" or n.stand.plan_time is None:
        return {}
    nominal, at = n.plan.nominal, [n.stand.plan_time]
    scale = n.pa / max(float(nominal.at(n.plan.assembly.gauge_node, at)[0]), 1e-3) if n.pa else 1.0
    found = {}
    for node in nominal.network.nodes:
        value = float(nominal.at(node.name, at)[0]) * scale
        found[node.name.removeprefix("system.")] = float(f"{value:.4g}")
    return found


def live_of(key: str, run: runs.RunView, hub: Hub) -> LiveOut:
    """Where a run stands now, from what is stored and the plan."""
    n = _look(key, run, hub)
    job, state = run.job, run.state
    criterion = criteria.chosen(job.criterion)
    link = hub.links.get(key)
    answer = fitted(key, run) if n.phase == "draw" else None
    goal, _ = goal_of(job, run.touches, state.started_at or 0.0)
    gauge = job.rig.gauge
    sign = sign_of(run)
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
        battery_pct=link.battery if link is not None else None,
        target_pa=criterion.target,
        limit_pa=criterion.limit,
        hold_ends_at=n.begun + criterion.minutes * 60.0 if n.begun is not None else None,
        next=_next(n, criterion, answer),
        section_pa=_sections(n),
        shut=sorted(state.shut),
        opened=sorted(state.opened),
        standin=link is not None,
        second=second_name(key) in hub.links,
        gauges=_gauges(n),
        between=_between(n),
        speed=hub.speed(key),
        stale=link.stale if link is not None else False,
    )


def _gauges(n: _Now) -> list[GaugeOut]:
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


def _between(n: _Now) -> Message | None:
    """What the difference of two gauges means, where both were read within the last minute."""
    read = n.run.job.rig.gauge
    if read is None or n.pa is None or n.main is None or n.phase == "before":
        return None
    other = next(
        (
            s
            for s in n.run.series
            if s is not n.main and s.part in n.plan.gauges and s.at.size and np.isfinite(s.pa[-1])
        ),
        None,
    )
    if other is None or abs(float(other.at[-1]) - float(n.main.at[-1])) > TOGETHER_S:
        return None
    one = Seen(gauge=read.id, name=n.main.gauge, pa=n.pa, rate=_rate(n.main))
    two = Seen(gauge=other.part or "", name=other.gauge, pa=float(other.pa[-1]), rate=_rate(other))
    if n.phase == "hold":
        return gauge_difference.holding(n.plan, n.elapsed, one, two).words
    found = gauge_difference.drawing(n.plan, n.elapsed, one, two)
    if found.kind in ("less", "agree") and n.run.state.ballast_open:
        return message("gauges-ballast", near=found.near.name)
    return found.words


def _rate(s: jobs.Readings) -> float | None:
    """Pa/s over its last minutes."""
    recent = np.isfinite(s.pa) & (s.at >= float(s.at[-1]) - RATE_S)
    rate = rate_of(s.at[recent], s.pa[recent], RATE_S)
    return rate * MICRON_PA if rate is not None else None
