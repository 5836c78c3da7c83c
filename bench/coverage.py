"""How honest the live fit's time to the target is: how often the truth lies in its 10 to 90 % band."""

from __future__ import annotations

import random
import sys
import time
from dataclasses import dataclass, field

import numpy as np

from bench.simulated import some_job
from rough_draw.core.diagnosis.live_fit import fit, start_fit
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.next_step import ballast_at
from rough_draw.core.planning.plan import plan_job
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.standins.world import Truth, World, random_truth

LONGEST_S = 4 * 3600.0
SHARES = (1 / 3, 0.5, 0.67, 0.85)
"""Moments of a draw at which the fit is asked, as a share of its true length."""


@dataclass
class Score:
    """Bands asked for and bands that held, and what they cost."""

    asked: int = 0
    held: int = 0
    jobs: int = 0
    width: list[float] = field(default_factory=list)
    start_ms: list[float] = field(default_factory=list)
    fit_ms: list[float] = field(default_factory=list)

    @property
    def share(self) -> float:
        """Share of the bands that held."""
        return self.held / max(1, self.asked)


def played(job: Job, truth: Truth) -> tuple[np.ndarray, np.ndarray, list[Touch], float] | None:
    """A sound draw by a careful hand: s, Pa, touches, and when the whole system was at the target, or None."""
    world, target, level = World(job, truth), chosen(job.criterion).target, ballast_at(job)
    touches = [Touch("pump-on", 0.0)]
    world.touch("pump-on")
    if level is not None:
        world.touch("ballast-open")
        touches.append(Touch("ballast-open", 0.0))
    at, pa = [], []
    while world.time < LONGEST_S:
        world.advance(world.time + (2.0 if world.time < 1800 else 6.0))
        p = world.read()
        at.append(world.time)
        pa.append(np.nan if p is None else p)
        if p is not None and world.ballast and level is not None and p <= level:
            world.touch("ballast-shut")
            touches.append(Touch("ballast-shut", world.time))
        if max(world.pressure(n) for n in world.assembly.pumped) <= target:
            return np.array(at), np.array(pa), touches, world.time
    return None


def ask(score: Score, job: Job, truth: Truth) -> None:
    """Fit one draw at several moments and count the bands that hold the true time."""
    found = played(job, truth)
    if found is None or found[3] < 90.0 or job.rig.gauge is None:
        return
    at, pa, touches, end = found
    over = job.rig.gauge.over_micron * MICRON_PA
    score.jobs += 1
    for share in SHARES:
        now = share * end
        done = [t for t in touches if t.at <= now]
        begun = time.perf_counter()
        state = start_fit(job, done, 0.0)
        score.start_ms.append(1e3 * (time.perf_counter() - begun))
        seen = at <= now
        begun = time.perf_counter()
        answer = fit(state, at[seen], pa[seen], over, rounds=3)
        score.fit_ms.append(1e3 * (time.perf_counter() - begun) / 3)
        score.asked += 1
        band = answer.target_at
        if band is not None:
            score.held += band.low <= end <= band.high
            score.width.append((band.high - band.low) / end)


def measure(seed: int, count: int) -> Score:
    """``count`` draws from ``seed`` on that their plan says get to the target in good time."""
    rng = random.Random(seed)
    score = Score()
    while score.jobs < count:
        job = some_job(rng)
        planned = plan_job(job).time_to_target
        if planned is not None and planned.value < LONGEST_S / 2:
            ask(score, job, random_truth(rng.randrange(10**6)))
    return score


if __name__ == "__main__":
    s = measure(int(sys.argv[1]), int(sys.argv[2]))
    print(
        f"{s.jobs} draws, {s.asked} bands: {s.share:.0%} hold, median width {np.median(s.width):.0%} of the time; "
        f"start {np.median(s.start_ms):.0f} ms, round {np.median(s.fit_ms):.0f} ms"
    )
