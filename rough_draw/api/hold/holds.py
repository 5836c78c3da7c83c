"""Holds of a stored run: where they begin and end, their readings, their verdicts. Kept while the inputs stay the
same."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from threading import Lock

import numpy as np
from cachetools import LRUCache, cached
from numpy.typing import NDArray

from rough_draw.api import runs
from rough_draw.api.run.volume import judged_on
from rough_draw.core.diagnosis.volume_seen import VolumeSeen
from rough_draw.core.hold.compare import Before
from rough_draw.core.hold.context import circumstances
from rough_draw.core.hold.needle import Needle, judge_needle
from rough_draw.core.hold.result import Circumstances, Verdict
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.message import Message
from rough_draw.core.model.isolation import Isolation
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import kelvin
from rough_draw.core.readings.series import Series, find_hold
from rough_draw.core.sheet import criteria

FloatArray = NDArray[np.float64]
BEGINS = ("isolate", "check-hold")
ENDS = ("reopen", "check-end", "break")
LATE_S = 60.0
"""A first reading later than this, s, begins what has been read; an earlier one stands for the moment of isolation."""
FLOOD_S = 20.0
"""Before a gauge leaves its range, what rushed in has been seen already: so much of the hold is left out."""


@dataclass(frozen=True, kw_only=True)
class Judged:
    """A verdict with what it rests on."""

    verdict: Verdict
    start: float
    isolation: Isolation
    volume: Quantity
    criterion: criteria.Criterion
    known: Circumstances
    inputs_hash: str
    needle: Needle | None = None
    seen: VolumeSeen | None = None

    @property
    def about_volume(self) -> tuple[Message, ...]:
        """The volume that it was judged on, where the draw has shown another than the sheet's."""
        return (self.seen.judged,) if self.seen is not None else ()


_verdicts: LRUCache[tuple[str, bool], Judged] = LRUCache(runs.KEPT)
_guard = Lock()


def hold_start(run: runs.RunView) -> float | None:
    """When the hold began: the touch that isolated it, or, with readings but no touches, what the curve shows."""
    if run.state.isolated_at is not None:
        return run.state.isolated_at
    main = run.main()
    if main is None or run.state.started_at is not None or main.at.size < 8:
        return None
    found = find_hold(Series(main.at - main.at[0], main.pa))
    return float(main.at[0] + found) if found is not None else None


def readings_between(run: runs.RunView, start: float, end: float) -> tuple[FloatArray, FloatArray]:
    """Readings in range of the main gauge, times from ``start``; cut off where the gauge leaves its range for good."""
    main = run.main()
    if main is None:
        return np.zeros(0), np.zeros(0)
    keep = (main.at >= start) & (main.at <= end)
    at, pa = main.at[keep], main.pa[keep]
    seen = np.isfinite(pa)
    if seen.any():
        last = int(np.nonzero(seen)[0][-1])
        if last + 3 < at.size:
            # Over range ever after: something was let in, and the hold was over before that.
            cut = at < at[last] - FLOOD_S
            at, pa, seen = at[cut], pa[cut], seen[cut]
    return at[seen] - start, pa[seen]


def hold_data(run: runs.RunView) -> tuple[float, FloatArray, FloatArray] | None:
    """Start of the hold (epoch s), times since then and pressures, in range only; None if there is no hold."""
    start = hold_start(run)
    # A needle's hold is one without a single reading of it too: unverified as it is.
    if start is None or (run.main() is None and not run.by_needle()):
        return None
    ends = [t.at for t in run.made if t.kind == "reopen" and t.at > start]
    if run.state.opened_at is not None:
        ends.append(run.state.opened_at)
    return start, *readings_between(run, start, min(ends, default=np.inf))


def _digest(run: runs.RunView, start: float, t: FloatArray, p: FloatArray) -> str:
    """Of all that a verdict rests on: the sheet, the touches made in the hold, the readings."""
    end = start + float(t[-1]) if t.size else start
    touched = [f"{x.kind}@{x.at:.3f}" for x in run.made if x.at <= end]
    head = f"{start}|{run.by_needle()}|{runs.plan_key(run.job)}|{'|'.join(touched)}"
    return hashlib.sha256(head.encode() + t.tobytes() + p.tobytes()).hexdigest()


def judged_ready(run: runs.RunView) -> Judged | None:
    """The verdict if it has been computed already."""
    data = hold_data(run)
    if data is None:
        return None
    with _guard:
        return _verdicts.get((_digest(run, *data), True))


def judge(run: runs.RunView) -> Judged | None:
    """The verdict on the run's hold, or None if there is no hold."""
    data = hold_data(run)
    return _judged(run, *data) if data is not None else None


def _judged(run: runs.RunView, start: float, t: FloatArray, p: FloatArray, find_sound: bool = True) -> Judged:
    digest = _digest(run, start, t, p)

    @cached(_verdicts, key=lambda: (digest, find_sound), lock=_guard)
    def made() -> Judged:
        job = run.job
        held, sheet = runs.isolated(job)
        volume, seen = judged_on(run, sheet)
        criterion = criteria.chosen(job.criterion)
        end = start + float(t[-1]) if t.size else start
        known = circumstances(job, held, run.state, run.made, start, end, runs.plan_for(job).assembly)
        needle = None
        if run.by_needle():
            warm = kelvin(job.scope.ambient_c)
            verdict, needle = judge_needle(t, p, volume, known.atmosphere, warm, criterion)
        else:
            coldest = kelvin(job.scope.coldest_c)
            verdict = judge_hold(t, p, volume, coldest, criterion, known, find_sound=find_sound)
        return Judged(
            verdict=verdict,
            start=start,
            isolation=held,
            volume=volume,
            criterion=criterion,
            known=known,
            inputs_hash=digest,
            needle=needle,
            seen=seen,
        )

    return made()


def earlier(run: runs.RunView, before: float) -> list[Before]:
    """Holds and check-holds that were ended before the one that began at ``before``."""
    found = []
    begun: tuple[str, float] | None = None
    for t in run.made:
        if t.kind in BEGINS and begun is None:
            begun = (t.kind, t.at)
        elif t.kind in ENDS and begun is not None:
            kind, start = begun
            begun = None
            times, pressures = readings_between(run, start, t.at)
            if start < before - 1.0 and times.size >= 6 and times[-1] >= 60.0:
                v = _judged(run, start, times, pressures, find_sound=False).verdict
                found.append(Before(start, kind == "check-hold", v))
    return found


def hold_span(run: runs.RunView) -> float:
    """Seconds of hold that have been read."""
    data = hold_data(run)
    if data is None or data[1].size < 2:
        # One figure at the end says nothing of the minutes before it.
        return 0.0
    t = data[1]
    return float(t[-1] - (t[0] if t[0] > LATE_S else 0.0))
