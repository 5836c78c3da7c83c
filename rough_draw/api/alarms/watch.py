"""Which alarms ring now, over all running jobs: one look is shared by all who ask."""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.api import runs
from rough_draw.api.devices.hub import Hub
from rough_draw.api.each_job import each_job, title_of
from rough_draw.api.run.fits import fitted
from rough_draw.api.run.next_card import next_steps
from rough_draw.api.run.now import look
from rough_draw.core.diagnosis.alarm_rules import Facts, Ring, ringing
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.message import Message, Name, message
from rough_draw.core.model.system import ScopeError
from rough_draw.core.planning.next_step import Outlook, next_touches
from rough_draw.core.readings.steady import level_of
from rough_draw.core.sheet import criteria
from rough_draw.store import jobs
from rough_draw.text import say

SHARED_S = 1.0
UNWATCHED = "unwatched"
"""Key of the alarm that a job's alarms cannot be watched."""
AWAKE_S = 600.0
"""A job whose last reading is older than this, s, has nobody beside it."""

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Ringing:
    """An alarm that rings on a job; ``since`` on the wall clock."""

    job: str
    title: str
    key: str
    words: Message
    since: float
    silenced: bool


class Alarms:
    """Since when each alarm rings and whether somebody has silenced it: kept while the condition lasts."""

    def __init__(self) -> None:
        self._since: dict[tuple[str, str], float] = {}
        self._silenced: set[tuple[str, str]] = set()
        self._lock = threading.Lock()
        self._last: tuple[float, list[Ringing]] = (0.0, [])

    def look(self, hub: Hub) -> list[Ringing]:
        """Everything that rings now."""
        with self._lock:
            now = time.monotonic()
            if now - self._last[0] > SHARED_S:
                self._last = (now, self._find(hub))
            return [replace(r, silenced=(r.job, r.key) in self._silenced) for r in self._last[1]]

    def silence(self, job: str, key: str | None) -> None:
        """Silence one alarm of a job, or all, until its condition has ended."""
        with self._lock:
            self._silenced |= {k for k in self._since if k[0] == job and key in (None, k[1])}

    def _find(self, hub: Hub) -> list[Ringing]:
        found = []
        for given in each_job(lambda s: rings_of(s, hub)):
            stored = given.stored
            for ring in _unwatched(stored, given.fault, hub) if given.fault else given.value or []:
                key = (stored.key, ring.key)
                since = self._since.setdefault(key, time.time())
                title = say(title_of(stored))
                found.append(
                    Ringing(job=stored.key, title=title, key=ring.key, words=ring.words, since=since, silenced=False)
                )
        on = {(r.job, r.key) for r in found}
        self._since = {k: v for k, v in self._since.items() if k in on}
        self._silenced &= on
        return found


def _unwatched(stored: jobs.StoredJob, fault: Name, hub: Hub) -> list[Ring]:
    """Who has set an alarm on a gauge that is read is called when nothing can watch it."""
    set_here = stored.key in hub.links and stored.job.alarms and not stored.job.closing.signed_by
    return [Ring(UNWATCHED, message("alarm-unwatched", why=fault))] if set_here else []


def rings_of(stored: jobs.StoredJob, hub: Hub) -> list[Ring]:
    """Alarms of one job whose condition holds."""
    if stored.job.closing.signed_by or not stored.job.alarms:
        return []
    run = runs.view_of(stored)
    state, main = run.state, run.main()
    link = hub.links.get(stored.key)
    now = hub.clock(stored.key) or time.time()
    if state.started_at is None or main is None or main.at.size == 0 or run.job.release.steps_done:
        return []
    if link is None and now - float(main.at[-1]) > AWAKE_S:
        return []
    keep = main.at >= max(state.started_at, state.isolated_at or 0.0)
    at, pa = main.at[keep], main.pa[keep]
    held = state.isolated_at is not None
    stale = link is not None and link.stale
    return ringing(
        run.job.alarms,
        Facts(
            now=now,
            started_at=state.started_at,
            held=held,
            at=at,
            pa=pa,
            due=_due(stored.key, run, hub, now, at, pa),
            stale=stale,
        ),
    )


def _due(
    key: str, run: runs.RunView, hub: Hub, now: float, at: FloatArray, pa: FloatArray
) -> tuple[str, Message] | None:
    """The next step where it is due now: its kind and title.

    By level and clock alone, which costs nothing; but nobody is called to isolate where the Next card holds it back.
    """
    try:
        where = runs.isolation_for(run.job).where
    except (ScopeError, NetworkError):
        return None
    level = level_of(at, pa)
    ahead = next_touches(
        run.job,
        run.state,
        criteria.chosen(run.job.criterion),
        level,
        level is None,
        Outlook(None, None, None),
        now,
        where,
    )
    first = ahead[0] if ahead else None
    if first is None or first.due != 0.0:
        return None
    if first.kind == "isolate" and not _may_isolate(key, run, hub):
        return None
    return first.kind, first.title


def _may_isolate(key: str, run: runs.RunView, hub: Hub) -> bool:
    """Whether the Next card says so too: the dwell is over, the far side is down, the readings are explained."""
    seen = look(key, run, hub)
    steps = next_steps(
        seen, criteria.chosen(run.job.criterion), fitted(key, run, watched=False) if seen.phase == "draw" else None
    )
    return bool(steps) and steps[0].kind == "isolate" and steps[0].due_at is not None and steps[0].due_at <= seen.now
