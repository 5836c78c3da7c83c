"""A draw fitted to its readings as they come: its members are kept where it is reckoned, be that this process or one
beside it.
"""

from __future__ import annotations

import threading
from dataclasses import dataclass

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray

from rough_draw.core.diagnosis.live_fit import Answer, Fit, fit, start_fit
from rough_draw.core.engine.compile import EngineError
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.model.system import ScopeError
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch

FloatArray = NDArray[np.float64]
LEAST = 3
"""Readings from which a gauge has a fit."""
MOST_JOBS = 96


@dataclass(frozen=True, kw_only=True)
class Asked:
    """Readings of a draw that are to be told: times s from the pump's ``start`` (epoch s), Pa with NaN over range.

    ``key`` names the job and ``ground`` what the fit rests on but for readings: on another, a fit begins anew.
    ``beside``: further gauges' readings by their ids. ``threads``: members are reckoned on so many at once.
    """

    key: str
    ground: object
    job: Job
    touches: list[Touch]
    start: float
    ballast_stays: bool
    at: FloatArray
    pa: FloatArray
    beside: dict[str, tuple[FloatArray, FloatArray]]
    threads: int


@dataclass(frozen=True, kw_only=True)
class Told:
    """What the gauge that is read says, and what the further ones do, by their ids; or why there is no fit."""

    answer: Answer | None = None
    others: dict[str, Answer]
    fault: str = ""


_fits: LRUCache[str, tuple[object, Fit]] = LRUCache(MOST_JOBS)
_guard = threading.Lock()


def told(asked: Asked) -> Told:
    """The fit of a draw, grown by a round, and what it says. To be asked for one draw by one at a time.

    Where a sheet has no network its plan's own band stands in, and the sheet says what is wrong.
    """
    job = asked.job
    try:
        state = _state(asked)
        state.threads = asked.threads
        over = (job.rig.gauge.over_micron if job.rig.gauge else 1.0) * MICRON_PA
        answer = fit(state, asked.at, asked.pa, over, rounds=1)
        ranges = {g.id: g.over_micron * MICRON_PA for g in job.rig.gauges}
        others = {
            g: fit(state, t, p, ranges.get(g, over), gauge=g) for g, (t, p) in asked.beside.items() if t.size >= LEAST
        }
    except (ScopeError, NetworkError, EngineError) as e:
        return Told(others={}, fault=str(e))
    return Told(answer=answer, others=others)


def _state(asked: Asked) -> Fit:
    with _guard:
        kept = _fits.get(asked.key)
    if kept is not None and kept[0] == asked.ground:
        return kept[1]
    made = start_fit(asked.job, asked.touches, asked.start, asked.ballast_stays, asked.threads)
    with _guard:
        _fits[asked.key] = (asked.ground, made)
    return made
