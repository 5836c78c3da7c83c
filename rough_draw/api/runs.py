"""What is computed of a stored job: its plan, where it stands, its verdict. Kept while the inputs stay the same."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from threading import Lock

from cachetools import LRUCache, cached

from rough_draw.core.engine.network import NetworkError
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import Isolation, isolation
from rough_draw.core.model.system import ScopeError
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.planning.nitrogen_breaks import Worth, worth
from rough_draw.core.planning.plan import FIRST, Plan, Upgrade, plan_job, rank_upgrades
from rough_draw.core.planning.rig_search import Best, Purchase, best_rig, purchases
from rough_draw.core.planning.sensitivity import Influence, influences
from rough_draw.core.planning.time_share import TimeShare, time_shares
from rough_draw.core.sheet.gauge_owner import DIAL
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.once import once_a_sheet
from rough_draw.core.sheet.run_state import RunState, Touch, fold, in_effect
from rough_draw.core.sheet.steps import OnPart
from rough_draw.store import jobs, shelf

KEPT = 160
"""Plans and verdicts kept: more than the history shows at once, or it would work them all out each time."""


@once_a_sheet(1024)
def plan_key(job: Job) -> str:
    """What a plan depends on, as a text."""
    return job.model_dump_json(include={"scope": True, "rig": True, "criterion": True, "prove": {"stages"}})


_plans: LRUCache[str, Plan] = LRUCache(KEPT)
_plans_lock = Lock()


@cached(_plans, key=plan_key, lock=_plans_lock)
def plan_for(job: Job) -> Plan:
    """The plan of a sheet, kept while scope, rig and criterion are the same."""
    return plan_job(job)


@cached(LRUCache(32), key=plan_key, lock=Lock())
def first_plan(job: Job) -> Plan:
    """The same by a few draws, for the moment until the whole is there."""
    return plan_job(job, FIRST)


def plan_ready(job: Job) -> bool:
    """Whether the plan is there without computing."""
    with _plans_lock:
        return plan_key(job) in _plans


@cached(LRUCache(32), key=lambda job, kit: (plan_key(job), kit), lock=Lock())
def _changes(job: Job, kit: tuple[KitItem, ...]) -> list[Upgrade]:
    plan = plan_for(job)
    return rank_upgrades(job, plan.time_to_target.value if plan.time_to_target else None, list(kit))


def upgrades_for(job: Job) -> list[Upgrade]:
    """Ranked single changes, with the kit as it stands."""
    return _changes(job, tuple(shelf.fitting()))


@cached(LRUCache(32), key=plan_key, lock=Lock())
def unknowns_for(job: Job) -> list[Influence]:
    """What moves the time to target most."""
    return influences(job)


@cached(LRUCache(32), key=plan_key, lock=Lock())
def shares_for(job: Job) -> tuple[TimeShare, ...]:
    """What of the time to target goes to what."""
    return time_shares(job)


@cached(LRUCache(32), key=plan_key, lock=Lock())
def worth_for(job: Job) -> Worth:
    """What breaks with nitrogen are worth on a sheet."""
    return worth(job)


def _system_key(job: Job, kit: tuple[KitItem, ...]) -> tuple[str, tuple[KitItem, ...]]:
    return job.model_dump_json(include={"scope", "criterion"}), kit


@cached(LRUCache(16), key=_system_key, lock=Lock())
def _best(job: Job, kit: tuple[KitItem, ...]) -> Best:
    return best_rig(job, list(kit))


def best_for(job: Job) -> Best:
    """The best rig of the van, kept while system, criterion and kit stay."""
    return _best(job, tuple(shelf.fitting()))


@cached(LRUCache(4), key=lambda past, rate: (tuple(plan_key(j) for j in past), rate), lock=Lock())
def purchases_for(past: list[Job], rate: float) -> list[Purchase]:
    """What purchases would have saved, kept while the jobs stay."""
    return purchases(past, rate)


@dataclass(frozen=True)
class RunView:
    """Everything stored of a run, read once: touches, state, and the readings of the main gauge."""

    job: Job
    touches: list[Touch]
    state: RunState
    series: list[jobs.Readings]

    @cached_property
    def made(self) -> list[Touch]:
        """The steps that were made: without corrections, and without what they took back."""
        return in_effect(self.touches)

    def of(self, gauge: str) -> jobs.Readings | None:
        """Readings of a gauge of the sheet."""
        return next((s for s in self.series if s.part == gauge), None)

    def main(self) -> jobs.Readings | None:
        """Readings of the gauge that is read."""
        return main_of(self.job, self.series)

    def by_needle(self) -> bool:
        """Whether what is read is a needle, which certifies nothing: no micron gauge, or none that was read."""
        main = self.main()
        return self.job.rig.gauge is None or (main is not None and main.part == DIAL)


def main_of(job: Job, series: list[jobs.Readings]) -> jobs.Readings | None:
    """Readings of the gauge that is read; where nobody said whose they are, the longest of those."""
    read = job.rig.gauge
    own = next((s for s in series if read is not None and s.part == read.id), None)
    if own is not None:
        return own
    left = [s for s in series if s.part is None] or [s for s in series if s.part != DIAL]
    return max(left or series, key=lambda s: s.at.size, default=None)


def view(key: str) -> RunView:
    """Read a run from the store; raises NotFound."""
    return view_of(jobs.get(key))


def view_of(stored: jobs.StoredJob) -> RunView:
    """Read the run of a job that has been read already."""
    touches = jobs.touches(stored.key)
    return RunView(stored.job, touches, state_of(stored.job, touches), jobs.readings(stored.key))


def state_of(job: Job, touches: list[Touch]) -> RunState:
    """Where a run stands, with the valves that shut this rig's system off."""
    turned = any(isinstance(t.step, OnPart) and t.step.is_valve for t in touches)
    return fold(touches, isolating(job) if turned else ())


@cached(LRUCache(KEPT), key=plan_key, lock=Lock())
def isolating(job: Job) -> tuple[str, ...]:
    """The valves that shut this rig's system off; none where the sheet cannot be put together."""
    try:
        return isolation(job, assemble(job)).valves
    except (ScopeError, NetworkError):
        return ()


@cached(LRUCache(KEPT), key=plan_key, lock=Lock())
def isolation_for(job: Job) -> Isolation:
    """How this rig isolates its system, kept while the sheet stays."""
    return isolation(job, plan_for(job).assembly)


def isolated(job: Job) -> tuple[Isolation, Quantity]:
    """How this rig isolates its system, and the isolated volume with its range, m³."""
    plan = plan_for(job)
    shut_off = isolation_for(job)
    total = plan.assembly.system.volume()
    share = shut_off.volume / total.value
    return shut_off, total.times(share)
