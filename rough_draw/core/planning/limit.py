"""What keeps a draw from its target: the pump, the way to it, the system's own lines, or what nobody knows yet."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from rough_draw.core.engine.run import Run
from rough_draw.core.message import Message, listed, message
from rough_draw.core.message.figure import share, vacuum
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.ensemble import FIELDS
from rough_draw.core.model.isolation import behind_check
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.model.steady import SteadyAnswer

MUCH = 0.6
"""Share of the whole from which one thing is said to be the limit."""
SPLIT = 0.8
"""Difference of an unknown's mean, in standard deviations, between draws that get there and those that do not, from
which it is said to decide."""


def standing_inside(assembly: Assembly, run: Run, at: float) -> float:
    """What stands in the system's own passages at ``at`` s, Pa: its worst spot above the section it is pulled from."""
    sections = {assembly.system.ports[p] for p in assembly.port_nodes}
    pulled = [f"system.{s}" for s in sections if f"system.{s}" in assembly.pumped]
    if not pulled:
        return 0.0

    def level(name: str) -> float:
        return float(run.at(name, [at])[0])

    return max(0.0, max(level(n) for n in assembly.pumped) - min(level(n) for n in pulled))


def what_decides(draws: Sequence[Unknowns], reached: Sequence[bool]) -> str | None:
    """The unknown by which draws that get there differ most from those that do not; None where all or none do."""
    got = np.array(reached)
    if got.all() or not got.any():
        return None
    z = np.array([[getattr(u, f) for f in FIELDS] for u in draws])
    apart = np.abs(z[got].mean(axis=0) - z[~got].mean(axis=0))
    return FIELDS[int(apart.argmax())] if float(apart.max()) >= SPLIT else None


def what_limits(
    assembly: Assembly, steady: SteadyAnswer, reached: bool, inside: float, deciding: str | None
) -> Message:
    """Which of them the draw is up against at its target; ``inside`` Pa stand in the system itself."""
    if not assembly.pumped:
        return message("limit-reaches-none")
    held = [assembly.system.labels[h] for h in behind_check(assembly)]
    if not reached and held:
        return message("limit-behind-check", sections=listed([message("the", thing=h) for h in held]), count=len(held))
    if not reached and deciding is not None:
        hangs, measure = message(f"unknown-{deciding}"), message(f"unknown-{deciding}.measure")
        return message("limit-hangs", level=vacuum(steady.pressure), unknown=hangs, measure=measure)
    if not reached:
        return message("limit-out-of-reach", level=vacuum(steady.pressure))
    if inside > 0.5 * steady.pressure:
        return message("limit-inside", inside=vacuum(inside), level=vacuum(steady.pressure))
    rig = 1.0 - steady.pump_share
    worst = max(steady.parts, key=lambda p: p.share)
    part = message("part-at-side", part=worst.label, side=worst.side.replace("-", " ")) if worst.side else worst.label
    if rig > MUCH:
        return message("limit-way", share=share(rig), part=part)
    if steady.pump_share > MUCH:
        return message("limit-pump", share=share(steady.pump_share))
    return message("limit-both", part=part)
