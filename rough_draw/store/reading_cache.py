"""Readings of each job kept in memory: what is append-only is read once, and then only what has come since."""

from __future__ import annotations

import json
import threading
from collections.abc import Collection, Iterable
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray

from rough_draw.store.at_once import at_once
from rough_draw.store.columns import is_number
from rough_draw.store.models import database

FloatArray = NDArray[np.float64]
BoolArray = NDArray[np.bool_]
MOST_JOBS = 200
SIMULATED = "simulated"
"""Source of readings that a simulated gauge gave: they are marked so wherever they go, for ever."""
BENCH = "bench"
"""Source of readings that were taken of the rig alone: they are no part of the draw."""
SINCE = (
    "SELECT reading.job_id, reading.id, gauge, at, pa, part, source "
    "FROM json_each(?) AS asked CROSS JOIN reading ON reading.job_id = asked.key AND reading.id > asked.value "
    # A plus keeps the index by time out of it, which would go through all that a job has.
    f"WHERE source <> ? AND {is_number('+at')} AND (pa IS NULL OR {is_number('pa')}) ORDER BY reading.id"
)
SINCE_BENCH = SINCE.replace("<>", "=")


@dataclass(frozen=True)
class Readings:
    """Readings of one gauge: epoch seconds and Pa, NaN for over range. Not to be changed: others hold them too.

    ``part``: its id on the sheet; None where nobody said whose they are. ``simulated``: of each, whether a simulated
    gauge gave it.
    """

    gauge: str
    at: FloatArray
    pa: FloatArray
    simulated: BoolArray
    part: str | None = None

    def pick(self, keep: slice | BoolArray) -> Readings:
        """Some of them."""
        return Readings(self.gauge, self.at[keep], self.pa[keep], self.simulated[keep], self.part)


def spans(at: FloatArray, made: BoolArray) -> list[tuple[float, float]]:
    """Spans of time (from, to) in which readings were simulated."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], made, [False]]).astype(int)))
    return [(float(at[a]), float(at[b - 1])) for a, b in zip(edges[::2], edges[1::2], strict=True)]


@dataclass
class _Tail:
    last: int = 0
    series: dict[str, Readings] = field(default_factory=dict)
    lock: threading.Lock = field(default_factory=threading.Lock)

    def with_more(self, rows: Iterable[tuple[Any, ...]]) -> list[Readings]:
        """All that is known, with what has come; what another has brought meanwhile is passed over."""
        with self.lock:
            fresh: dict[tuple[str, str | None], tuple[list[float], list[float], list[bool]]] = {}
            for number, gauge, at, pa, part, source in rows:
                if number <= self.last:
                    continue
                times, values, made = fresh.setdefault((gauge, part), ([], [], []))
                times.append(at)
                made.append(source == SIMULATED)
                values.append(float("nan") if pa is None else pa)
                self.last = number
            for (gauge, part), (times, values, made) in fresh.items():
                # A gauge that was given another name goes on as the same.
                name = f"#{part}" if part else gauge
                new = Readings(gauge, np.array(times), np.array(values), np.array(made, dtype=bool), part)
                self.series[name] = _joined(self.series.get(name), new)
            return list(self.series.values())


_tails: LRUCache[tuple[str, str, bool], _Tail] = LRUCache(MOST_JOBS)
_guard = threading.Lock()


def all_readings(key: str, bench: bool = False) -> list[Readings]:
    """Readings of a job by gauge, in time order; of the draw, or of the ``bench``."""
    return readings_of([key], bench)[key]


def readings_of(keys: Collection[str], bench: bool = False) -> dict[str, list[Readings]]:
    """The same of several jobs, by one question."""
    file = str(database.obj.database)
    with _guard:
        tails = {key: _tails.setdefault((file, key, bench), _Tail()) for key in keys}
    asked = json.dumps({key: tail.last for key, tail in tails.items()})
    come: dict[str, list[tuple[Any, ...]]] = {}
    for key, *row in at_once(SINCE_BENCH if bench else SINCE, 7, (asked, BENCH)):
        come.setdefault(key, []).append(tuple(row))
    return {key: tail.with_more(come.get(key, ())) for key, tail in tails.items()}


def _joined(old: Readings | None, new: Readings) -> Readings:
    at, pa, made = new.at, new.pa, new.simulated
    if old is not None:
        at, pa = np.concatenate([old.at, at]), np.concatenate([old.pa, pa])
        made = np.concatenate([old.simulated, made])
    if at.size > 1 and bool((np.diff(at) < 0).any()):
        # Typed or imported late: they belong where their time is.
        order = np.argsort(at, kind="stable")
        at, pa, made = at[order], pa[order], made[order]
    for values in (at, pa, made):
        values.setflags(write=False)
    return Readings(new.gauge, at, pa, made, new.part)


def forget_all() -> None:
    """Another database stands in the file: nothing that was read of the old one counts."""
    with _guard:
        _tails.clear()


def forget(key: str) -> None:
    """A job is gone; another of its key would begin anew."""
    with _guard:
        for name in [n for n in _tails if n[1] == key]:
            del _tails[name]
