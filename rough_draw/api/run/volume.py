"""The volume that the pump has really seen in a run: worked out once, and again when sheet or touches change."""

from __future__ import annotations

from threading import Lock

import numpy as np
from cachetools import LRUCache, cached

from rough_draw.api import runs
from rough_draw.api.diagnosis.cases import physical
from rough_draw.core.diagnosis.volume_seen import VolumeSeen, volume_seen
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.model.system import ScopeError
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch

EARLY_S = 600.0
"""Seconds after the gauge came into range, from which the early draw is over in any case."""


def seen_in(run: runs.RunView) -> VolumeSeen | None:
    """The volume that the early draw speaks for where it is not the sheet's; None where it is, or little is known."""
    main, start, gauge = run.main(), run.state.started_at, run.job.rig.gauge
    if main is None or start is None or gauge is None or run.by_needle():
        return None
    keep = (main.at >= start) & (main.at <= (run.state.isolated_at or np.inf))
    at, pa = main.at[keep] - start, np.asarray(main.pa[keep])
    seen = np.isfinite(pa)
    if not seen.any():
        return None
    # The same readings for ever once the early draw is over: it is worked out once.
    over = np.flatnonzero((pa < ENOUGH) | (at > at[int(np.argmax(seen))] + EARLY_S))
    if not over.size:
        return None
    end = int(over[0]) + 1
    touches = tuple(t for t in physical(run.made) if t.at <= start + float(at[end - 1]))
    return _seen(run.job, touches, start, at[:end].tobytes(), pa[:end].tobytes())


ENOUGH = 300.0
"""Pa, under which the early draw is over."""


def _key(job: Job, touches: tuple[Touch, ...], start: float, at: bytes, pa: bytes) -> tuple[object, ...]:
    return runs.plan_key(job), tuple((t.kind, t.at) for t in touches), start, hash((at, pa))


@cached(LRUCache(runs.KEPT), key=_key, lock=Lock())
def _seen(job: Job, touches: tuple[Touch, ...], start: float, at: bytes, pa: bytes) -> VolumeSeen | None:
    try:
        found = volume_seen(job, touches, start, np.frombuffer(at), np.frombuffer(pa), quick=True)
    except (ScopeError, NetworkError):
        return None
    return found if found is not None and found.says != "as-said" else None


def judged_on(run: runs.RunView, isolated: Quantity) -> tuple[Quantity, VolumeSeen | None]:
    """The volume that a hold is judged on, m³: the sheet's, or what the pump has seen where that is another."""
    seen = seen_in(run)
    if seen is None:
        return isolated, None
    share = isolated.value / max(seen.sheet, isolated.value)
    r = seen.seen
    return Quantity(r.value * share, r.low * share, r.high * share, "m³", "seen in the draw"), seen
