"""Simulated draws with known truth, labelled with what is wrong: for measuring live fit and diagnosis."""

from __future__ import annotations

import random
from collections.abc import Iterator, Sequence
from copy import deepcopy
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.diagnosis.causes import causes
from rough_draw.core.diagnosis.draws import Readings
from rough_draw.core.diagnosis.faults import Cause
from rough_draw.core.diagnosis.field_tests import PUSHES, SURE, Test
from rough_draw.core.engine.network import Leak, Network
from rough_draw.core.model.assemble import assemble
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.next_step import ballast_at
from rough_draw.core.planning.plan import FIRST, plan_job
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.standins.world import Truth, World, random_truth

FloatArray = NDArray[np.float64]
STEP = 4.0
HEALTHY = "healthy"
"""A sound draw that is asked about on its way."""
KINDS = (
    *("none", "ballast", "wet-oil", "worn-pump", "slow-pump", "oil-carried", "system-leak", "open", "water", "ice"),
    *("refrigerant", "fouled", "hose-leak", "dirty-hose", "core", "shut", "jumping"),
    *("gauge-joint", "tool-leak", "manifold-leak", "pump-joint", "all-hoses", "choked-intake", "kinked", "plugged"),
    *("gauge-shut", "cores", "section-shut", HEALTHY),
)
PAIRS = (
    *("water+system-leak", "slow-pump+water", "fouled+system-leak", "ballast+water", "wet-oil+water"),
    *("gauge-joint+hose-leak", "core+water", "refrigerant+system-leak", "fouled+water", "dirty-hose+worn-pump"),
    *("all-hoses+system-leak", "section-shut+system-leak"),
)
UNKNOWN = ("pulsing-leak", "gauge-scale", "surging-pump")
"""What no cause of the diagnosis is: a leak that opens and closes, a gauge that shows twice too much, a pump that
surges."""
SHOWS_AS = {"pulsing-leak": ("system-leak",), "gauge-scale": ("fouled",)}
"""What they are to who looks: air comes in at the system, another gauge beside it disagrees."""
EVERY = (*KINDS, *PAIRS, *UNKNOWN)


def some_job(rng: random.Random) -> Job:
    """A sheet over all patterns with a gauge and the usual templates, in any common condition."""
    while True:
        template = TEMPLATES[rng.choice(sorted(TEMPLATES))]
        values = {"template": template.key, **template.build(), **template.scope}
        kept = {x["id"] for x in values["sections"] if x.get("holds_charge")}
        values["links"] = [{**x, "open": not ({x["a"], x["b"]} & kept)} for x in values["links"]]
        warm = rng.uniform(8, 32)
        scope = Scope.model_validate({**values, "ambient_c": warm, "coldest_c": warm - rng.uniform(0, 4)})
        pattern = rng.choice([k for k, p in PATTERNS.items() if fits(k, scope)])
        job = Job(scope=scope, rig=rig_from(pattern, scope))
        if job.rig.gauge is not None:
            return job


@dataclass(frozen=True)
class Case:
    """A draw that was asked about: its world as it stands, its touches, its readings."""

    job: Job
    truth: Truth
    world: World
    touches: list[Touch]
    readings: Readings
    risen: bool
    kind: str = ""

    @property
    def keys(self) -> frozenset[str]:
        """The causes that are at work, by their keys; ``other`` for what has none."""
        if self.kind in UNKNOWN:
            return frozenset({"other", *SHOWS_AS.get(self.kind, ())})
        return frozenset(k for k, _, _ in self.truth.all()) or frozenset({"none"})


class Odd(World):
    """A world in which something is wrong that the diagnosis has no cause for."""

    def __init__(self, job: Job, truth: Truth, kind: str) -> None:
        self.kind = kind
        super().__init__(job, truth)

    def _network(self) -> Network:
        net = super()._network()
        on = int(self.time / 150.0) % 2 == 0
        if self.kind == "pulsing-leak" and on:
            place = f"system.{self.assembly.system.water.place}"
            return replace(net, leaks=(*net.leaks, Leak(place, 3e-2, net.humidity, "odd")))
        if self.kind == "surging-pump" and on:
            return replace(net, pumps=tuple(replace(p, speed=0.05 * p.speed, ultimate=40.0) for p in net.pumps))
        return net

    def advance(self, until: float) -> None:
        if int(until / 150.0) != int(self.time / 150.0):
            self._again()
        super().advance(until)

    def read(self, at: str = "") -> float | None:
        shown = super().read(at)
        return 2.4 * shown if shown is not None and self.kind == "gauge-scale" else shown


def play(job: Job, truth: Truth, rng: random.Random, kind: str = "") -> Case | None:
    """Draw with a fault at work until somebody would ask why; None where it hinders nothing."""
    plan = plan_job(job)
    target = chosen(job.criterion).target
    planned = plan.time_to_target.value if plan.time_to_target else 3600.0
    world = Odd(job, truth, kind) if kind in UNKNOWN else World(job, truth)
    world.touch("pump-on")
    touches = [Touch("pump-on", 0.0)]
    forgotten = any(k == "ballast" and at <= 0 for k, _, at in truth.all())
    level = ballast_at(job)
    if level and (not forgotten or rng.random() < 0.5):
        touches.append(Touch("ballast-open", 0.0))
        if not forgotten:
            world.touch("ballast-open")
    ask = min(max(1.5 * planned, 480.0), 4 * 3600.0)
    if kind == HEALTHY:
        ask = rng.uniform(0.3, 1.0) * max(planned, 300.0)
    gauge = job.rig.gauge
    assert gauge is not None
    at: list[float] = []
    pa: list[float] = []
    lowest, rising = np.inf, 0
    step = STEP if ask < 3600 else 10.0
    while world.time < ask:
        world.advance(world.time + step)
        p = world.read()
        at.append(world.time)
        pa.append(np.nan if p is None else p)
        if p is None:
            continue
        if world.ballast and p <= (level or 0):
            world.touch("ballast-shut")
            touches.append(Touch("ballast-shut", world.time))
        if p <= target and truth.fault_at < world.time and kind != HEALTHY:
            return None
        lowest = min(lowest, p)
        jumpy = truth.fault == "jumping"
        rising = rising + 1 if p > 1.5 * lowest and not jumpy else 0
        if rising > 12:
            break
    if truth.fault_at >= world.time:
        # Nothing was wrong yet when somebody asked.
        return None
    return Case(
        job,
        truth,
        world,
        touches,
        Readings(np.array(at), np.array(pa), gauge.over_micron * MICRON_PA),
        rising > 12,
        kind,
    )


def labelled(seed: int, count: int, kinds: Sequence[str] = EVERY) -> Iterator[Case]:
    """``count`` draws that were asked about, the kinds in turn, every one on another rig."""
    rng = random.Random(seed)
    made = tries = 0
    while made < count:
        tries += 1
        kind = kinds[tries % len(kinds)]
        job = some_job(rng)
        truth = _truth(job, kind, rng)
        plan = plan_job(job, FIRST)
        # A gauge that sees nothing even of a sound draw is another chapter: the plan says so beforehand.
        planned = plan.time_to_target
        if truth is None or planned is None:
            continue
        if time_at_level(plan.times, plan.gauge_band[1], plan.target) is None:
            continue
        if truth.fault_at < 0:
            truth = replace(truth, fault_at=rng.uniform(0.4, 0.9) * planned.low)
        case = play(job, truth, rng, kind)
        if case is not None:
            made += 1
            yield case


def _truth(job: Job, kind: str, rng: random.Random) -> Truth | None:
    """What is wrong, for a kind or two; None where this rig has no such cause. ``fault_at`` -1: in its middle."""
    plain = random_truth(rng.randrange(10**6))
    if kind in ("none", HEALTHY, *UNKNOWN):
        return plain
    every = causes(job, assemble(job))
    chosen_ones: list[Cause] = []
    for one in kind.split("+"):
        found = [c for c in every if c.kind == one and c.place not in {x.place for x in chosen_ones if x.place}]
        if not found:
            return None
        chosen_ones.append(rng.choice(found))
    grave = [max(-1.6, min(1.6, rng.gauss(0, 0.8))) for _ in chosen_ones]
    first, *rest = chosen_ones
    late = len(chosen_ones) == 1 and first.later and rng.random() < 0.4
    more = tuple((c.key, s, 0.0) for c, s in zip(rest, grave[1:], strict=True))
    return replace(plain, fault=first.key, severity=grave[0], fault_at=-1.0 if late else 0.0, more=more)


def answer(case: Case, test: Test, rng: random.Random) -> str:
    """How a test turns out on the world as it is: valve tests are played, what is seen follows what is wrong."""
    if test.tubes:
        return _moves(case, test)
    if test.key == "second":
        here, there = case.world.read(), case.world.pressure("intake")
        shown = case.readings.over if here is None else here
        # The bounds are shares of what the gauge showed when it was asked.
        return test.outcome_at(there * float(_last(case)) / max(shown, 1e-3))
    if test.key == "thumb":
        pushes = case.world.exhaust() > PUSHES
        return "yes" if pushes == (rng.random() < SURE) else "no"
    # A person looks, and finds what is there as often as people do.
    seen = "+".join(k for k, _, _ in case.truth.all()) or next(iter(SHOWS_AS.get(case.kind, ())), "none")
    likely = test.likelihood.get(seen)
    if likely is None:
        likely = _either([test.likelihood[k] for k in case.keys if k in test.likelihood])
    return rng.choices(test.outcomes, weights=likely)[0].key


def _either(each: list[tuple[float, ...]]) -> tuple[float, ...]:
    """Two causes looked for at once: whichever shows more in an outcome; the last outcome is that nothing shows."""
    found = [max(p) for p in zip(*(x[:-1] for x in each), strict=True)]
    return (*found, max(0.02, 1.0 - sum(found)))


def _last(case: Case) -> float:
    last = case.readings.pa[-5:]
    seen = last[np.isfinite(last)]
    return float(np.median(seen)) if seen.size else case.readings.over


def _moves(case: Case, test: Test) -> str:
    """Play a valve test on the truth: where the gauge is after it, by what it moved."""
    world = deepcopy(case.world)
    over = case.readings.over
    before = world.read()
    world.turn(test.tubes, is_open=False)
    for _ in range(int(test.seconds)):
        world.advance(world.time + 1.0)
    after = world.read()
    a, b = (over if before is None else before), (over if after is None else after)
    now = _last(case)
    return test.outcome_at(max(0.0, now + (b - a)) if b >= a else now * b / max(a, 1e-3))
