"""Where a running draw stands against its plan."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.plan import Plan
from rough_draw.core.readings.series import time_at_level

Pace = Literal["no-reading", "as-planned", "slower", "faster"]
FloatArray = NDArray[np.float64]


@dataclass(frozen=True)
class Standing:
    """Rate µ/s (falling is negative), how it compares, seconds to the target, and the plan's pressures now."""

    rate: float | None
    pace: Pace
    to_target: Range | None
    plan_time: float | None


def rate_of(times: FloatArray, pressures: FloatArray, window: float = 30.0) -> float | None:
    """Rate of change, µ/s, over the last ``window`` s: least squares line through at least three readings."""
    if times.size < 3:
        return None
    keep = times >= times[-1] - window
    if int(keep.sum()) < 3:
        keep = np.zeros(times.size, dtype=bool)
        keep[-3:] = True
    t = times[keep] - times[keep].mean()
    spread = float(t @ t)
    return float(t @ pressures[keep]) / spread / MICRON_PA if spread > 0 else None


TREND_S = 600.0
"""Readings of as many seconds make a trend; what falls no more over them has levelled off."""
PATIENCE_S = 2 * 3600.0
"""A target that is farther off than this, s, by the trend of the readings is not waited for."""


def by_trend(times: FloatArray, pressures: FloatArray, target: float) -> float | None:
    """Seconds to ``target`` Pa if it went on falling as over the last ten minutes, straight in log pressure.

    Times s ascending, pressures Pa, both (n,). Infinite where nothing falls; 0 at or under the target; None where
    the readings do not reach back far enough for a trend.
    """
    if times.size < 10 or times[-1] - times[0] < 0.9 * TREND_S:
        return None
    keep = times >= times[-1] - TREND_S
    t, p = times[keep] - times[-1], np.log(np.maximum(pressures[keep], 1e-9))
    slope, now = np.polyfit(t, p, 1)
    above = float(now) - float(np.log(target))
    if above <= 1e-9:
        return 0.0
    return above / -float(slope) if slope < 0.0 else float("inf")


def standing(plan: Plan, elapsed: float, times: FloatArray, pressures: FloatArray) -> Standing:
    """Compare a run at ``elapsed`` s since the pump started with its plan.

    Each of the band's curves is slid along time until it passes through the last reading; what is then left to
    the target is the estimate, and the band its spread.
    """
    if pressures.size == 0:
        ahead = [time_at_level(plan.times, c, plan.target) for c in plan.gauge_band]
        known = [a - elapsed for a in ahead if a is not None]
        to = (
            Range(max(0.0, min(known)), max(0.0, sorted(known)[len(known) // 2]), max(0.0, max(known)))
            if known
            else None
        )
        return Standing(None, "no-reading", to, elapsed)
    now = float(pressures[-1])
    left: list[float] = []
    for curve in plan.gauge_band:
        here = time_at_level(plan.times, curve, now)
        there = time_at_level(plan.times, curve, plan.target)
        if here is not None and there is not None:
            left.append(max(0.0, there - here))
    low, _, high = (np.interp(elapsed, plan.times, c) for c in plan.gauge_band)
    pace: Pace = "as-planned"
    if now > high * 1.05:
        pace = "slower"
    elif now < low * 0.95:
        pace = "faster"
    to_target = Range(min(left), sorted(left)[len(left) // 2], max(left)) if left else None
    return Standing(rate_of(times, pressures), pace, to_target, time_at_level(plan.times, plan.gauge_band[1], now))
