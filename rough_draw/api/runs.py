"""What is computed of a stored job: its plan, where it stands, its verdict. Kept while the inputs stay the same."""

from __future__ import annotations

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from rough_draw.core import criteria
from rough_draw.core.bestrig import Best, Purchase, purchases
from rough_draw.core.breaks import Worth
from rough_draw.core.catalogue.quantity import Quantity
from rough_draw.core.hold import Verdict, judge_hold
from rough_draw.core.isolation import Isolation, isolation
from rough_draw.core.job import Job
from rough_draw.core.plan import Plan, Upgrade, plan_job, rank_upgrades
from rough_draw.core.runstate import RunState, Touch, fold
from rough_draw.core.sensitivity import Influence, influences
from rough_draw.core.series import Series, find_hold
from rough_draw.core.units import kelvin
from rough_draw.store import jobs, shelf

FloatArray = NDArray[np.float64]
T = TypeVar("T")


class Cache:
    """A small least-recently-used cache, safe for the server's worker threads."""

    def __init__(self, size: int) -> None:
        self._size = size
        self._items: OrderedDict[Any, Any] = OrderedDict()
        self._lock = threading.Lock()

    def peek(self, key: Any) -> Any | None:
        """The value for ``key`` if it has been made."""
        with self._lock:
            return self._items.get(key)

    def get(self, key: Any, make: Callable[[], T]) -> T:
        """The value for ``key``, made if it is not there."""
        with self._lock:
            if key in self._items:
                self._items.move_to_end(key)
                value: T = self._items[key]
                return value
        value = make()
        with self._lock:
            self._items[key] = value
            while len(self._items) > self._size:
                self._items.popitem(last=False)
        return value


_plans = Cache(64)
_verdicts = Cache(64)


def plan_key(job: Job) -> str:
    """What a plan depends on, as a text."""
    return job.model_dump_json(include={"scope": True, "rig": True, "criterion": True, "prove": {"stages"}})


def plan_for(job: Job) -> Plan:
    """The plan of a sheet, from the cache if scope, rig and criterion are the same."""
    return _plans.get(plan_key(job), lambda: plan_job(job))


_changes = Cache(32)
_unknowns = Cache(32)
_best = Cache(16)
_purchases = Cache(4)


def upgrades_for(job: Job) -> list[Upgrade]:
    """Ranked single changes, with the kit as it stands."""
    kit = shelf.kit()
    plan = plan_for(job)
    base = plan.time_to_target.value if plan.time_to_target else None
    return _changes.get((plan_key(job), tuple(kit)), lambda: rank_upgrades(job, base, kit))


def unknowns_for(job: Job) -> list[Influence]:
    """What moves the time to target most."""
    return _unknowns.get(plan_key(job), lambda: influences(job))


_worths = Cache(32)


def worth_for(job: Job, make: Callable[[Job], Worth]) -> Worth:
    """What breaks with nitrogen are worth on a sheet."""
    return _worths.get(plan_key(job), lambda: make(job))


def best_for(job: Job, make: Callable[[], Best]) -> Best:
    """The best rig of the van, kept while system, criterion and kit stay."""
    key = job.model_dump_json(include={"scope", "criterion"})
    return _best.get((key, tuple(shelf.kit())), make)


def purchases_for(past: list[Job], rate: float) -> list[Purchase]:
    """What purchases would have saved, kept while the jobs stay."""
    return _purchases.get((tuple(plan_key(j) for j in past), rate), lambda: purchases(past, rate))


def plan_ready(job: Job) -> bool:
    """Whether the plan is there without computing."""
    return _plans.peek(plan_key(job)) is not None


@dataclass(frozen=True)
class RunView:
    """Everything stored of a run, read once: touches, state, and the readings of the main gauge."""

    job: Job
    touches: list[Touch]
    state: RunState
    series: list[jobs.Readings]

    def main(self) -> jobs.Readings | None:
        """The gauge nearest the system: one named so, or else the one with most readings."""
        if not self.series:
            return None
        named = [s for s in self.series if "system" in s.gauge.lower()]
        there = [s for s in self.series if not any(w in s.gauge.lower() for w in ("pump", "manifold", "dial"))]
        return named[0] if named else max(there or self.series, key=lambda s: s.at.size)


def view(key: str) -> RunView:
    """Read a run from the store; raises NotFound."""
    stored = jobs.get(key)
    touches = jobs.touches(key)
    return RunView(stored.job, touches, fold(touches), jobs.readings(key))


def hold_start(run: RunView) -> float | None:
    """When the hold began: the touch that isolated it, or, with readings but no touches, what the curve shows."""
    if run.state.isolated_at is not None:
        return run.state.isolated_at
    main = run.main()
    if main is None or run.state.started_at is not None or main.at.size < 8:
        return None
    found = find_hold(Series(main.at - main.at[0], main.pa))
    return float(main.at[0] + found) if found is not None else None


def hold_data(run: RunView) -> tuple[float, FloatArray, FloatArray] | None:
    """Start of the hold (epoch s), times since then and pressures, in range only; None if there is no hold."""
    start, main = hold_start(run), run.main()
    if start is None or main is None:
        return None
    reopened = [t.at for t in run.touches if t.kind == "reopen" and t.at > start]
    end = reopened[0] if reopened else np.inf
    keep = (main.at >= start) & (main.at <= end) & np.isfinite(main.pa)
    return start, main.at[keep] - start, main.pa[keep]


@dataclass(frozen=True)
class Judged:
    """A verdict with what it rests on."""

    verdict: Verdict
    start: float
    isolation: Isolation
    volume: Quantity
    criterion: criteria.Criterion
    inputs_hash: str


_isolations = Cache(64)


def isolation_for(job: Job) -> Isolation:
    """How this rig isolates its system, kept while the sheet stays."""
    return _isolations.get(plan_key(job), lambda: isolation(job, plan_for(job).assembly))


def isolated(job: Job) -> tuple[Isolation, Quantity]:
    """How this rig isolates its system, and the isolated volume with its range, m³."""
    plan = plan_for(job)
    shut_off = isolation_for(job)
    total = plan.assembly.system.volume()
    share = shut_off.volume / total.value
    return shut_off, total.times(share)


def _digest(job: Job, start: float, t: FloatArray, p: FloatArray) -> str:
    return hashlib.sha256(f"{start}|{plan_key(job)}".encode() + t.tobytes() + p.tobytes()).hexdigest()


def judged_ready(run: RunView) -> Judged | None:
    """The verdict if it has been computed already."""
    data = hold_data(run)
    found: Judged | None = _verdicts.peek(_digest(run.job, *data)) if data is not None else None
    return found


def judge(run: RunView) -> Judged | None:
    """The verdict on the run's hold, or None if there is no hold."""
    data = hold_data(run)
    if data is None:
        return None
    start, t, p = data
    job = run.job
    digest = _digest(job, start, t, p)

    def make() -> Judged:
        shut_off, volume = isolated(job)
        criterion = criteria.chosen(job.criterion)
        verdict = judge_hold(t, p, volume, kelvin(job.scope.coldest_c), criterion)
        return Judged(verdict, start, shut_off, volume, criterion, digest)

    return _verdicts.get(digest, make)


def hold_span(run: RunView) -> float:
    """Seconds of hold that have been read."""
    data = hold_data(run)
    return float(data[1][-1]) if data is not None and data[1].size else 0.0
