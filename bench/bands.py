"""How often the plan's band of the time to target holds what happens, on truths drawn by other means than its own.

The plan spreads ten unknowns over a Latin hypercube and moves every bore of a rig together. Here each truth is drawn at
random, and every passage of the rig and of the system by itself, hoses each by their own.
"""

from __future__ import annotations

import random
from dataclasses import dataclass, fields, replace

from bench.simulated import some_job
from rough_draw.core.model.assemble import Assembly, assemble, vary
from rough_draw.core.model.ensemble import FIELDS
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.planning.plan import HORIZON, draw_down, plan_job, system_pressure
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet.criteria import STANDARDS, CriterionChoice, chosen
from rough_draw.core.sheet.job import Job


@dataclass
class Bands:
    """Counts over truths: ``inside`` the 10 to 90 % band, ``near``: dry ones within a factor two of the best guess."""

    truths: int = 0
    inside: int = 0
    dry: int = 0
    near: int = 0

    @property
    def share(self) -> float:
        """Of truths that the band holds."""
        return self.inside / max(1, self.truths)

    @property
    def close(self) -> float:
        """Of dry truths within a factor two."""
        return self.near / max(1, self.dry)


def truth_of(base: Assembly, job: Job, rng: random.Random) -> Assembly:
    """One truth: unknowns at random, every passage by its own."""
    drawn = vary(base, job, Unknowns(**{f: rng.gauss(0.0, 1.0) for f in FIELDS}))
    ways = {f"system.{x.name}": x for x in base.system.links}
    tubes = []
    for t in drawn.network.tubes:
        # What a sheet's passages have in common (the same make, the same habit) and what each has of its own.
        if (size := base.sizes.get(t.name)) is not None:
            z = rng.gauss(0.0, 1.0)
            bore, length, width = size.at(z, z)
            wide = (width * t.width) ** 0.5
            t = replace(t, bore=(bore * t.bore) ** 0.5, length=(length * t.length) ** 0.5, width=wide)
        elif (way := ways.get(t.name)) is not None:
            bore, length = way.at(rng.gauss(0.0, 1.0))
            t = replace(t, bore=(bore * t.bore) ** 0.5, length=(length * t.length) ** 0.5)
        tubes.append(t)
    return replace(drawn, network=replace(drawn.network, tubes=tuple(tubes)))


def count(truths: int, seed: int = 41, each: int = 5) -> Bands:
    """``truths`` over as many sheets as a ``each`` of them gives."""
    assert {f.name for f in fields(Unknowns)} == {*FIELDS, "extra_leak"}
    rng = random.Random(seed)
    found = Bands()
    while found.truths < truths:
        job = some_job(rng)
        condition = rng.choices(("new-dry", "open-hours", "leak-drawn-air"), (4, 4, 2))[0]
        school = CriterionChoice(school=rng.choice(sorted(STANDARDS)))
        scope = job.scope.model_copy(update={"condition": condition})
        job = job.model_copy(update={"scope": scope, "criterion": school})
        plan = plan_job(job)
        if plan.share_reaching < 0.2:
            continue
        span = plan.time_to_target
        base = assemble(job)
        target = chosen(job.criterion).target
        for _ in range(each):
            world = truth_of(base, job, rng)
            result = draw_down(world, target, 1e-2, 0.9)
            at = time_at_level(result.time, system_pressure(world, result), target)
            taken = HORIZON if at is None else at
            low, high = (span.low, span.high) if span is not None else (0.0, HORIZON)
            found.truths += 1
            found.inside += low <= taken <= high
            if job.scope.condition == "new-dry" and span is not None:
                found.dry += 1
                found.near += 0.5 <= taken / span.value <= 2.0
    return found
