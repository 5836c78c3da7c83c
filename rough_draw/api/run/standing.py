"""Where a run stands now: what is stored of it, put beside the plan and the live fit."""

from __future__ import annotations

import time
from dataclasses import replace

import numpy as np

from rough_draw.api import runs
from rough_draw.api.devices.hub import Hub, second_name
from rough_draw.api.diagnosis.cases import sign_of
from rough_draw.api.hold import holds
from rough_draw.api.run.fits import CONTRADICTS, fit_out, fitted, outlook_by
from rough_draw.api.run.schemas import (
    GaugeOut,
    LiveOut,
    NextOut,
)
from rough_draw.api.schemas import RangeOut
from rough_draw.core.advice.drawing import gauge_place
from rough_draw.core.diagnosis.live_fit import goal_of
from rough_draw.core.planning.next_step import CHECK_AT, FLUSH_AT, Outlook, ballast_at, next_touches
from rough_draw.core.planning.progress import standing
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet import criteria
from rough_draw.store import jobs


def live_of(key: str, run: runs.RunView, hub: Hub) -> LiveOut:
    """Where a run stands now, from what is stored and the plan."""
    job, state = run.job, run.state
    criterion = criteria.chosen(job.criterion)
    clock = hub.clock(key)
    now = clock if clock is not None else time.time()
    link = hub.links.get(key)
    main = run.main()
    pa, over, reading_at = None, False, None
    if main is not None and main.at.size:
        reading_at = float(main.at[-1])
        last = float(main.pa[-1])
        over = bool(np.isnan(last))
        pa = None if over else last
    started = state.started_at
    if started is None and main is not None and main.at.size:
        started = float(main.at[0])
    gauge = job.rig.gauge
    plan = runs.plan_for(job)
    shut = runs.isolation_for(job)
    elapsed = max(0.0, now - started) if started is not None else 0.0
    times, values = np.array([]), np.array([])
    if main is not None:
        good = np.isfinite(main.pa) & (main.at >= now - 900)
        times, values = main.at[good], main.pa[good]
    stand = standing(plan, elapsed, times, values)
    begun = holds.hold_start(run)
    phase = "hold" if begun is not None else ("draw" if started is not None else "before")
    here = stand.plan_time if stand.plan_time is not None else elapsed

    def ahead(level: float) -> float | None:
        at = time_at_level(plan.times, plan.gauge_band[1], level)
        return max(0.0, at - here) if at is not None else None

    outlook = Outlook(
        ahead(ballast_at(job) or 0.0),
        ahead(FLUSH_AT * criterion.target),
        stand.to_target.value if stand.to_target else None,
        ahead(criterion.check or CHECK_AT),
    )
    view_state = state if begun is None else replace(state, isolated_at=begun)
    touches = next_touches(job, view_state, criterion, pa, over, outlook, now, shut.where)
    target_at = None
    if stand.to_target is not None and phase != "hold":
        r = stand.to_target
        target_at = RangeOut(low=now + r.low, value=now + r.value, high=now + r.high)
    answer = fitted(key, run) if phase == "draw" else None
    if answer is not None:
        # What contradicts the plan has no honest time to the target: why comes first.
        r = answer.target_at if answer.off <= CONTRADICTS else None
        target_at = RangeOut(low=started + r.low, value=started + r.value, high=started + r.high) if r else None
        if r is not None:
            outlook = outlook_by(answer, now - started, ballast_at(job) or 0.0, criterion)
            touches = next_touches(job, view_state, criterion, pa, over, outlook, now, shut.where)
    goal, _ = goal_of(job, run.touches, state.started_at or 0.0)
    words = stand.words if phase == "draw" else ""
    if state.broken_at is not None:
        words = "nitrogen in the system"
    elif criterion.breaks and phase == "draw":
        words = f"draw {state.breaks + 1} of {len(criterion.breaks) + 1}"
    sections = {}
    if phase == "draw" and stand.plan_time is not None:
        nominal = plan.nominal
        scale = pa / max(float(nominal.at(plan.assembly.gauge_node, [stand.plan_time])[0]), 1e-3) if pa else 1.0
        for node in nominal.network.nodes:
            value = float(nominal.at(node.name, [stand.plan_time])[0]) * scale
            sections[node.name.removeprefix("system.")] = float(f"{value:.4g}")
    return LiveOut(
        now=now,
        started_at=started,
        phase=phase,
        pump_on=state.pump_on,
        ballast_open=state.ballast_open,
        isolated_at=begun,
        breaks=state.breaks,
        broken=state.broken_at is not None,
        goal_pa=goal,
        pa=pa,
        over_range=over,
        reading_at=reading_at,
        gauge=main.gauge if main else (gauge.name if gauge and gauge.name else "no gauge yet"),
        gauge_place=gauge_place(job, gauge).capitalize() if gauge else "Dial only",
        rate_micron_s=stand.rate,
        words=words,
        target_at=target_at,
        fit=fit_out(answer, started) if answer is not None and started is not None else None,
        sign=found.words if (found := sign_of(run)) is not None else None,
        battery_pct=link.battery if link is not None else None,
        target_pa=criterion.target,
        limit_pa=criterion.limit,
        hold_ends_at=begun + criterion.minutes * 60.0 if begun is not None else None,
        next=[
            NextOut(
                kind=t.kind,
                title=t.title,
                why=t.why,
                caution=t.caution,
                first=t.first,
                due_at=None if t.due is None else now + t.due,
            )
            for t in touches
        ],
        section_pa=sections,
        shut=sorted(state.shut),
        opened=sorted(state.opened),
        standin=link is not None,
        second=second_name(key) in hub.links,
        gauges=_gauges(run, main),
        speed=hub.speed(key),
        stale=link.stale if link is not None else False,
    )


def _gauges(run: runs.RunView, main: jobs.Readings | None) -> list[GaugeOut]:
    """The last figure of every gauge but the one that is judged by."""
    found = []
    for s in run.series:
        if s is not main and s.at.size:
            last = float(s.pa[-1])
            found.append(GaugeOut(gauge=s.gauge, at=float(s.at[-1]), pa=None if np.isnan(last) else last))
    return found
