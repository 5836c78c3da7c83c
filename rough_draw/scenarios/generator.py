"""Practice scenarios made from a number: the same number makes the same scenario, another one another."""

from __future__ import annotations

import random
from collections.abc import Callable

from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import left_out
from rough_draw.core.practice.scenario import Before, Fault, Hidden, Scenario, possible, with_shut
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import fits, rig_from
from rough_draw.scenarios.sheets import SITES, of_template, room, sheet
from rough_draw.scenarios.van import charging_hoses, one_hose, two_hoses

UNITS = ("Bud store", "Spawn room 2", "Ice counter", "Packing hall", "Crate store", "Buffet", "Compost cooler")
CONDITIONS = ("new-dry", "new-dry", "open-hours", "leak-drawn-air")
COUNT = {1: (0, 1), 2: (1, 1), 3: (1, 2), 4: (2, 2), 5: (2, 3)}
"""How many faults a level hides, at least and at most."""
PLAIN = ("wet-oil", "open", "system-leak", "slow-pump", "worn-pump")
FAIR = (*PLAIN, "water", "dirty-hose", "hose-leak", "fouled", "jumping", "core")
KINDS: dict[int, tuple[str, ...]] = {1: PLAIN, 2: FAIR}
"""Kinds of fault of the lower levels; the others know all."""
SINCE = ("half-open",)
"""Kinds that practice has learned since: a number goes on making what it made."""
ROUGHLY = ("", "They say it was dry.", "It stood open, for how long nobody knows.", "Somebody was here before you.")


def _scope(rng: random.Random, level: int) -> Scope:
    condition = rng.choice(CONDITIONS[: 2 if level == 1 else 4])
    more = {
        "condition": condition,
        "ambient_c": float(rng.randint(2, 28)),
        "humidity_pct": float(rng.randint(40, 95)),
        "open_hours": float(rng.randint(1, 20)),
    }
    more["coldest_c"] = more["ambient_c"] - rng.randint(0, 4)  # type: ignore[operator]
    key = rng.choice(("room", "room", "room", "line-set", "freezer", "cylinder")[: 4 if level < 3 else 6])
    return room(**more) if key == "room" else of_template(key, **more)


def _rig(rng: random.Random, scope: Scope, level: int) -> Rig:
    ways: list[Callable[[Scope], Rig]] = [
        lambda s: two_hoses(s, rng.choice(("Pump 1, 8 CFM", "Pump 2, 5 CFM"))),
        one_hose,
        lambda s: rig_from("quarter-hoses", s),
    ]
    if level >= 3:
        ways.append(lambda s: charging_hoses(s, "Pump 2, 5 CFM", "Gauge 2"))
    if not fits("three-tools", scope):
        return rig_from("single-port", scope)
    for way in rng.sample(ways, len(ways)):
        try:
            return way(scope)
        except (KeyError, ValueError):
            continue
    return two_hoses(scope)


def _cut(job: Job) -> tuple[str, ...]:
    """Valves that, shut together, leave a section where no pump gets at it; none where the system has no such."""
    for kind in ("solenoid", "expansion-valve", "ball-valve"):
        names = tuple(x.id for x in job.scope.links if x.kind == kind and x.open)
        if names and left_out(assemble(with_shut(job, names), needs_pump=False)):
            return names
    return ()


def make(seed: int, level: int) -> Scenario:
    """The scenario of a number at a level from 1 to 5."""
    rng = random.Random(seed * 10 + level)
    scope = _scope(rng, level)
    rig = _rig(rng, scope, level)
    site = rng.choice(sorted(SITES))
    job = sheet(site, rng.choice(UNITS), scope, rig)
    gates = _cut(job)
    least, most = COUNT[level]
    count = rng.randint(least, most)
    shut: tuple[str, ...] = ()
    if gates and level >= 3 and rng.random() < 0.4 and count:
        shut, count = gates, count - 1
    # An opening to the air hides everything else: it comes alone.
    keys = [c.key for c in possible(job) if c.key != "open" or (count == 1 and not shut)]
    keys = [k for k in keys if kind_of(k) not in SINCE and (level not in KINDS or kind_of(k) in KINDS[level])]
    picked: list[str] = []
    for key in rng.sample(keys, len(keys)):
        # Water and ice are the same pool: one of them.
        clash = key in ("water", "ice") and {"water", "ice"} & set(picked)
        if len(picked) < count and not clash:
            picked.append(key)
    faults = tuple(Fault(key=k, severity=round(rng.uniform(-0.8, 0.8), 2)) for k in picked)
    started = rng.random() < 0.4
    before = [Before(kind="pump-on")] if started else []
    if started and level >= 2 and rng.random() < 0.4:
        before.insert(0, Before(kind="ballast-open"))
    free = rng.random() < 0.3 and not started
    kept = any(s.holds_charge for s in scope.sections)
    unknowns = {n: round(max(-1.5, min(1.5, rng.gauss(0, 0.6))), 2) for n in ("volume", "water", "pump", "release")}
    brief = " ".join(x for x in (rng.choice(ROUGHLY), "The pump is running." if started else "") if x)
    return Scenario(
        key=f"made-{level}-{seed}",
        title=f"{job.party.unit}, number {seed}",
        brief=brief or "A job like any other.",
        lesson="",
        level=level,
        ends="release" if kept and rng.random() < 0.5 else "verdict",
        sheet=job,
        rigged=not free,
        before=tuple(before),
        arrive_s=float(rng.randint(3, 25) * 60) if started else 0.0,
        hidden=Hidden(seed=seed % 2**31, unknowns=unknowns, faults=faults, shut=shut),
    )
