"""The live fit of each running draw: kept between requests, made anew when sheet or touches change."""

from __future__ import annotations

import logging
import threading
import time
from dataclasses import dataclass, field
from functools import partial

import numpy as np
from cachetools import LRUCache

from rough_draw.api import runs
from rough_draw.api.apart import Apart, Gone
from rough_draw.api.beside import Beside
from rough_draw.api.deps import floats, range_out
from rough_draw.api.diagnosis.cases import MadeOf, made_of, physical
from rough_draw.api.run.fitting import LEAST, MOST_JOBS, Asked, Told, told
from rough_draw.api.run.schemas import FitOut
from rough_draw.api.schemas import RangeOut
from rough_draw.core.diagnosis.live_fit import Answer, ballast_stays
from rough_draw.core.message import message
from rough_draw.core.message.figure import number, share
from rough_draw.core.planning.next_step import CHECK_AT, FLUSH_AT, Outlook
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet.criteria import Criterion

log = logging.getLogger("rough_draw.fit")
REFINE_S = 4.0
"""Wall seconds between two draws of new members for one job."""
UNWATCHED_S = 120.0
"""The same for a job that no page shows: the Yard and the alarms look at every one, every second."""

_MadeOf = tuple[MadeOf, bool]


@dataclass(kw_only=True)
class _Kept:
    """The latest answer of a job's draw, and of what it was made."""

    made_of: _MadeOf
    answer: Answer | None = None
    others: dict[str, Answer] = field(default_factory=dict)
    seen: tuple[int, float] = (0, 0.0)
    refined_at: float = 0.0


_kept: LRUCache[str, _Kept] = LRUCache(MOST_JOBS)
_guard = threading.Lock()
# One after the other: an answer may be a little late, but a touch never waits for it; and who watches a draw does not
# wait for those of fifty that nobody watches.
_watched = Beside("live fit")
# Fifty that nobody watches take half of one core at most: answers, and readings on their way, have the rest.
_unwatched = Beside("unwatched fit", rest=1.0)
_apart: Apart | None = None


def work_apart() -> None:
    """From now on fits are reckoned in a process of their own: for a server that many ask."""
    global _apart
    _apart = Apart()


def fitted(key: str, run: runs.RunView, watched: bool = True) -> Answer | None:
    """What the readings of a running draw said last; a later answer is worked out beside, seldom where no page
    shows the draw.

    None before the pump runs, in the hold, without readings, and until the first answer after a touch is there.
    """
    main, state = run.main(), run.state
    if main is None or state.started_at is None or state.isolated_at is not None or run.by_needle():
        return None
    start = state.started_at
    keep = main.at >= start + 1.0
    if int(keep.sum()) < LEAST:
        return None
    turned = physical(run.made)
    stays = ballast_stays(run.job, turned, main.at[keep], np.asarray(main.pa[keep]))
    rests_on: _MadeOf = (made_of(run), stays)
    seen = (int(keep.sum()), float(main.at[-1]))
    with _guard:
        found = _kept.get(key)
        if found is None or found.made_of != rests_on:
            found = _kept[key] = _Kept(made_of=rests_on)
        age = time.monotonic() - found.refined_at
        due = age > (REFINE_S if watched else UNWATCHED_S) or (found.answer is None and found.refined_at == 0.0)
        name = (key, rests_on)
        # A fit grows in one thread at a time.
        if due and seen != found.seen and not _watched.has(name) and not _unwatched.has(name):
            lane, threads = (_watched, 2) if watched else (_unwatched, 1)
            asked = Asked(
                key=key,
                ground=rests_on,
                job=run.job,
                touches=turned,
                start=start,
                ballast_stays=stays,
                at=main.at[keep] - start,
                pa=np.asarray(main.pa[keep]),
                beside={
                    s.part: (s.at[s.at >= start + 1.0] - start, np.asarray(s.pa[s.at >= start + 1.0]))
                    for s in run.series
                    if s is not main and s.part
                },
                threads=threads,
            )
            lane.wish(name, partial(_work, found, asked, seen))
        return found.answer


def fitted_beside(key: str) -> dict[str, Answer]:
    """What the readings of the further gauges said last, by their ids: made with the answer of the one that is read."""
    with _guard:
        found = _kept.get(key)
        return dict(found.others) if found is not None else {}


def _work(kept: _Kept, asked: Asked, seen: tuple[int, float]) -> None:
    try:
        found = _reckoned(asked)
        if found.answer is not None:
            kept.answer, kept.others = found.answer, found.others
        else:
            log.info("no live fit: %s", found.fault)
    finally:
        kept.seen = seen
        kept.refined_at = time.monotonic()


def _reckoned(asked: Asked) -> Told:
    if _apart is None:
        return told(asked)
    try:
        return _apart.ask(told, asked)
    except Gone as e:
        # The next look begins another.
        return Told(others={}, fault=repr(e))


CONTRADICTS = 0.3
"""How far, in log pressure, the best explanation may be from the readings before it is none."""
FAR = 0.7
"""From here on it is told as a factor and no longer in percent."""


def fit_out(a: Answer, started: float) -> FitOut:
    """An answer as the API says it, times as epoch s."""
    contradicts = a.off > CONTRADICTS
    if a.off > FAR:
        words = message("fit-contradicts-far", factor=number(round(float(np.exp(min(a.off, 20.0))))))
    elif contradicts:
        words = message("fit-contradicts", off=share(float(np.expm1(a.off))))
    elif a.target_at is None:
        words = message("fit-out-of-reach")
    else:
        words = message("fit-as-readings")
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
        volume_l=RangeOut(low=1e3 * a.volume.low, value=1e3 * a.volume.value, high=1e3 * a.volume.high),
        words=words,
    )


def outlook_by(a: Answer, elapsed: float, ballast: float, criterion: Criterion) -> Outlook:
    """When the gauge passes the levels of the next touches, by the fit's middle curve: s from now."""

    def ahead(level: float) -> float | None:
        at = time_at_level(a.times, a.band[1], level)
        return max(0.0, at - elapsed) if at is not None else None

    target = max(0.0, a.target_at.value - elapsed) if a.target_at is not None else None
    return Outlook(ahead(ballast), ahead(FLUSH_AT * criterion.target), target, ahead(criterion.check or CHECK_AT))
