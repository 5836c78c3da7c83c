"""Dry nitrogen in a practice job: how long a pressure test is watched, and what a sweep carries off."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from rough_draw.core.catalogue.rig_parts import SWEEP_CHANGES, SWEEP_FLOW
from rough_draw.core.engine.network import Pool
from rough_draw.core.interlock.nitrogen import never_swept, ways, with_nitrogen
from rough_draw.core.model.isolation import shut
from rough_draw.core.physics.gas import R_WATER
from rough_draw.core.physics.leak_path import carried_off
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet.job import Job

STAND_MINUTES = 15.0
"""How long a tightness test is watched in practice."""
SWEPT_LEAVES = math.exp(-SWEEP_CHANGES.value)
"""Share of the first gas that the changes of a sweep leave, well mixed: e⁻ⁿ."""


@dataclass(frozen=True)
class Sweep:
    """A sweep that a rig allows: how long the flow runs, min, and the minutes that each node is passed by all of it."""

    minutes: float
    passed: Mapping[str, float]
    left_out: tuple[str, ...]


def sweep_of(job: Job, stuck: Collection[str] = ()) -> Sweep:
    """The ways in which nitrogen can be sent through this rig and system, one after the other. Raises ScopeError.

    ``stuck``: links that are closed though nobody knows it; any other valve is turned as a way asks.
    """
    board = with_nitrogen(job)
    if stuck:
        gates = {f"system.{name}" for name in stuck}
        tubes = {t for t, gate in board.by_tube.items() if gate in gates}
        assembly = replace(board.assembly, network=shut(board.assembly.network, tuple(tubes), is_open=False))
        by_tube = {t: gate for t, gate in board.by_tube.items() if t not in tubes}
        board = replace(board, assembly=assembly, by_tube=by_tube)
    found = ways(board, hoses_only=False)
    passed: dict[str, float] = {}
    for way in found:
        for node in way.passed:
            passed[node] = passed.get(node, 0.0) + way.minutes
    return Sweep(sum(w.minutes for w in found), passed, tuple(sorted(never_swept(board))))


def dried(pools: Sequence[Pool], masses: Sequence[float], temperatures: Sequence[float], sweep: Sweep) -> list[float]:
    """Free water, kg, that a sweep leaves in each pool: what passes takes up all it can hold."""
    return [
        max(
            0.0,
            mass
            - carried_off(SWEEP_FLOW.value, 60.0 * sweep.passed.get(p.node, 0.0), saturation_pressure(t), t, R_WATER),
        )
        for p, mass, t in zip(pools, masses, temperatures, strict=True)
    ]
