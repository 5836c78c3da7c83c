"""Simulated draws with known truth, labelled with what is wrong: for measuring live fit and diagnosis."""

from __future__ import annotations

import random
from collections.abc import Iterator
from copy import deepcopy
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.diagnosis.diagnosis import Readings
from rough_draw.core.diagnosis.faults import causes
from rough_draw.core.diagnosis.next_test import PUSHES, SURE, Test, way
from rough_draw.core.model.assemble import assemble
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.next_step import ballast_at
from rough_draw.core.planning.plan import plan_job
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
KINDS = (
    *("none", "ballast", "wet-oil", "worn-pump", "slow-pump", "oil-carried", "system-leak", "open", "water", "ice"),
    *("refrigerant", "fouled", "hose-leak", "dirty-hose", "core", "shut", "jumping"),
)


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


def play(job: Job, truth: Truth, rng: random.Random) -> Case | None:
    """Draw with a fault at work until somebody would ask why; None where it hinders nothing."""
    plan = plan_job(job)
    target = chosen(job.criterion).target
    planned = plan.time_to_target.value if plan.time_to_target else 3600.0
    world = World(job, truth)
    world.touch("pump-on")
    touches = [Touch("pump-on", 0.0)]
    forgotten = truth.fault == "ballast" and truth.fault_at <= 0
    level = ballast_at(job)
    if level and (not forgotten or rng.random() < 0.5):
        touches.append(Touch("ballast-open", 0.0))
        if not forgotten:
            world.touch("ballast-open")
    ask = min(max(1.5 * planned, 480.0), 4 * 3600.0)
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
        if p <= target and truth.fault_at < world.time:
            return None
        lowest = min(lowest, p)
        jumpy = truth.fault == "jumping"
        rising = rising + 1 if p > 1.5 * lowest and not jumpy else 0
        if rising > 12:
            break
    return Case(
        job,
        truth,
        world,
        touches,
        Readings(np.array(at), np.array(pa), gauge.over_micron * MICRON_PA),
        rising > 12,
    )


def labelled(seed: int, count: int) -> Iterator[Case]:
    """``count`` draws that were asked about, the kinds in turn, every one on another rig."""
    rng = random.Random(seed)
    made = tries = 0
    while made < count:
        tries += 1
        kind = KINDS[tries % len(KINDS)]
        job = some_job(rng)
        found = [c for c in causes(job, assemble(job)) if c.key.partition(":")[0] == kind]
        if not found:
            continue
        plan = plan_job(job)
        planned = plan.time_to_target
        # A gauge that sees nothing even of a sound draw is another chapter: the plan says so beforehand.
        if planned is None or time_at_level(plan.times, plan.gauge_band[1], plan.target) is None:
            continue
        cause = rng.choice(found)
        truth = replace(
            random_truth(rng.randrange(10**6)),
            fault="" if kind == "none" else cause.key,
            severity=max(-1.6, min(1.6, rng.gauss(0, 0.8))),
        )
        if cause.later and rng.random() < 0.4:
            truth = replace(truth, fault_at=rng.uniform(0.4, 0.9) * planned.low)
        case = play(job, truth, rng)
        if case is not None:
            made += 1
            yield case


def answer(case: Case, test: Test, rng: random.Random) -> str:
    """How a test turns out on the world as it is: valve tests are played, what is seen follows what is wrong."""
    key = case.truth.fault or "none"
    if test.tubes:
        return _moves(case, test)
    if test.key == "thumb":
        pushes = case.world.exhaust() > PUSHES
        return "yes" if pushes == (rng.random() < SURE) else "no"
    likely = test.likelihood[key]
    # A person looks, and finds what is there as often as people do.
    return rng.choices(test.outcomes, weights=likely)[0].key


def _moves(case: Case, test: Test) -> str:
    """Play a valve test on the truth."""
    world = deepcopy(case.world)
    before = world.read()
    world.turn(test.tubes, is_open=False)
    for _ in range(int(test.seconds)):
        world.advance(world.time + 1.0)
    after = world.read()
    over = case.readings.over
    return test.outcomes[way(over if before is None else before, over if after is None else after)].key
