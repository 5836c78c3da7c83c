"""The live fit of each running draw: kept between requests, made anew when sheet or touches change."""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass, field

import numpy as np

from rough_draw.api import runs
from rough_draw.api.cases import physical
from rough_draw.api.deps import floats, range_out
from rough_draw.api.schemas import FitOut, RangeOut
from rough_draw.core.livefit import Answer, Fit, fit, start_fit
from rough_draw.core.network import NetworkError
from rough_draw.core.system import ScopeError
from rough_draw.core.units import MICRON_PA

REFINE_S = 4.0
"""Wall seconds between two draws of new members for one job."""
LEAST = 3
MOST_JOBS = 24


@dataclass
class _Kept:
    """A fit with what it was made of, and its last answer."""

    made_of: tuple[object, ...]
    state: Fit
    lock: threading.Lock = field(default_factory=threading.Lock)
    answer: Answer | None = None
    seen: tuple[int, float] = (0, 0.0)
    refined_at: float = 0.0


_kept: dict[str, _Kept] = {}
_guard = threading.Lock()


def fitted(key: str, run: runs.RunView) -> Answer | None:
    """What the readings of a running draw say so far; None before the pump runs, in the hold, or without readings."""
    main, state = run.main(), run.state
    if main is None or state.started_at is None or state.isolated_at is not None or run.job.rig.gauge is None:
        return None
    at = main.at - state.started_at
    keep = at >= 1.0
    if int(keep.sum()) < LEAST:
        return None
    turned = physical(run.touches)
    touches = tuple((t.kind, t.at) for t in turned)
    made_of = (runs.plan_key(run.job), touches)
    with _guard:
        found = _kept.get(key)
        if found is None or found.made_of != made_of:
            try:
                made = start_fit(run.job, turned, state.started_at)
            except (ScopeError, NetworkError):
                return None
            found = _kept[key] = _Kept(made_of, made)
            while len(_kept) > MOST_JOBS:
                _kept.pop(next(iter(_kept)))
    with found.lock:
        seen = (int(keep.sum()), float(at[-1]))
        now = time.monotonic()
        due = now - found.refined_at > REFINE_S
        if found.answer is None or (seen != found.seen and due):
            over = run.job.rig.gauge.over_micron * MICRON_PA
            found.answer = fit(found.state, at[keep], np.asarray(main.pa[keep]), over, rounds=1)
            found.seen, found.refined_at = seen, now
        return found.answer


CONTRADICTS = 0.3
"""How far, in log pressure, the best explanation may be from the readings before it is none."""


def fit_out(a: Answer, started: float) -> FitOut:
    """An answer as the API says it, times as epoch s."""
    contradicts = a.off > CONTRADICTS
    if contradicts:
        words = f"Nothing the plan allows for explains it: the nearest is {np.expm1(a.off):.0%} off."
    elif a.target_at is None:
        words = "It will not get there within a day as things stand."
    else:
        words = "As the readings so far speak for it."
    return FitOut(
        at=[started + t for t in floats(a.times)],
        low=floats(a.band[0]),
        mid=floats(a.band[1]),
        high=floats(a.band[2]),
        share=a.share,
        off=a.off,
        contradicts=contradicts,
        leak_pa_m3_s=range_out(a.leak),
        water_g=RangeOut(low=1e3 * a.water.low, value=1e3 * a.water.value, high=1e3 * a.water.high),
        words=words,
    )
