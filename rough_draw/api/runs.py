"""What is computed of a stored job: its plan, where it stands, its verdict. Kept while the inputs stay the same."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeVar

from rough_draw.core.bestrig import Best, Purchase, purchases
from rough_draw.core.breaks import Worth
from rough_draw.core.catalogue.quantity import Quantity
from rough_draw.core.isolation import Isolation, isolation
from rough_draw.core.job import Job
from rough_draw.core.plan import Plan, Upgrade, plan_job, rank_upgrades
from rough_draw.core.runstate import RunState, Touch, fold
from rough_draw.core.sensitivity import Influence, influences
from rough_draw.store import jobs, shelf

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


KEPT = 160
"""Plans and verdicts kept: more than the history shows at once, or it would work them all out each time."""
_plans = Cache(KEPT)


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
    return view_of(jobs.get(key))


def view_of(stored: jobs.StoredJob) -> RunView:
    """Read the run of a job that has been read already."""
    touches = jobs.touches(stored.key)
    return RunView(stored.job, touches, fold(touches), jobs.readings(stored.key))


_isolations = Cache(KEPT)


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
