"""Readings of each job kept in memory: what is append-only is read once, and then only what has come since."""

from __future__ import annotations

import threading
from dataclasses import dataclass, field

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray

from rough_draw.store.models import database

FloatArray = NDArray[np.float64]
MOST_JOBS = 200
BENCH = "bench"
"""Source of readings that were taken of the rig alone: they are no part of the draw."""
SINCE = "SELECT id, gauge, at, pa, part FROM reading WHERE job_id = ? AND id > ? AND source <> ? ORDER BY id"
SINCE_BENCH = SINCE.replace("<>", "=")


@dataclass(frozen=True)
class Readings:
    """Readings of one gauge: epoch seconds and Pa, NaN for over range. Not to be changed: others hold them too.

    ``part``: its id on the sheet; None where nobody said whose they are.
    """

    gauge: str
    at: FloatArray
    pa: FloatArray
    part: str | None = None


@dataclass
class _Tail:
    last: int = 0
    series: dict[str, Readings] = field(default_factory=dict)
    lock: threading.Lock = field(default_factory=threading.Lock)


_tails: LRUCache[tuple[str, str, bool], _Tail] = LRUCache(MOST_JOBS)
_guard = threading.Lock()


def all_readings(key: str, bench: bool = False) -> list[Readings]:
    """Readings of a job by gauge, in time order; of the draw, or of the ``bench``."""
    name = (str(database.obj.database), key, bench)
    with _guard:
        tail = _tails.setdefault(name, _Tail())
    with tail.lock:
        fresh: dict[tuple[str, str | None], tuple[list[float], list[float]]] = {}
        found = database.execute_sql(SINCE_BENCH if bench else SINCE, (key, tail.last, BENCH))
        for number, gauge, at, pa, part in found:
            times, values = fresh.setdefault((gauge, part), ([], []))
            times.append(at)
            values.append(float("nan") if pa is None else pa)
            tail.last = number
        for (gauge, part), (times, values) in fresh.items():
            # A gauge that was given another name goes on as the same.
            name = f"#{part}" if part else gauge
            tail.series[name] = _joined(gauge, part, tail.series.get(name), np.array(times), np.array(values))
        return list(tail.series.values())


def _joined(gauge: str, part: str | None, old: Readings | None, at: FloatArray, pa: FloatArray) -> Readings:
    if old is not None:
        at, pa = np.concatenate([old.at, at]), np.concatenate([old.pa, pa])
    if at.size > 1 and bool((np.diff(at) < 0).any()):
        # Typed or imported late: they belong where their time is.
        order = np.argsort(at, kind="stable")
        at, pa = at[order], pa[order]
    at.setflags(write=False)
    pa.setflags(write=False)
    return Readings(gauge, at, pa, part)


def forget_all() -> None:
    """Another database stands in the file: nothing that was read of the old one counts."""
    with _guard:
        _tails.clear()


def forget(key: str) -> None:
    """A job is gone; another of its key would begin anew."""
    with _guard:
        for name in [n for n in _tails if n[1] == key]:
            del _tails[name]
