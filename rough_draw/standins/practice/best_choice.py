"""The rig that a sound hand would put together from the van."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from rough_draw.core.advice.setup_check import answers
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.system import ScopeError
from rough_draw.core.planning.plan import time_to_target
from rough_draw.core.planning.rig_search import Candidate, best_rig
from rough_draw.core.practice.rig_choice import RigChoice, RigFault, rig_of, slots
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.setups import PATTERNS, fits

NEAR = 1.15
"""A rig this little slower is taken for what else it can do."""


@dataclass(frozen=True)
class Best:
    """The best rig of the van for a scenario: the choice, and its seconds to the target as it should be."""

    choice: RigChoice
    seconds: float


def best_choice(scenario: Scenario, van: Sequence[KitItem]) -> Best | None:
    """The best rig that the van allows on the system as the sheet tells it.

    Of those hardly slower than the fastest, the one that answers most of the questions a to d with yes.
    """
    found = best_rig(scenario.sheet, van).chosen
    if found is None:
        return None
    fastest = choice_of(found)
    options: list[tuple[int, float, RigChoice]] = []
    for key in PATTERNS:
        if not fits(key, scenario.sheet.scope):
            continue
        names = [s for s, _, _ in slots(scenario.sheet, key)]
        choice = RigChoice(pattern=key, parts={s: n for s, n in fastest.parts.items() if s in names})
        try:
            job = rig_of(scenario.sheet, choice, van)
            assembly = assemble(job)
            says = answers(job, assembly, isolation(job, assembly))
            seconds = time_to_target(job)
        except (RigFault, ScopeError, NetworkError, ValueError):
            continue
        if seconds is not None and seconds <= NEAR * found.seconds + 30.0:
            options.append((sum(a.says == "yes" for a in says if a.letter in "abcd"), -seconds, choice))
    if not options:
        return Best(fastest, found.seconds)
    _, seconds, choice = max(options, key=lambda o: o[:2])
    return Best(choice, -seconds)


def choice_of(found: Candidate) -> RigChoice:
    """A candidate as a learner would choose it."""
    rig = found.job.rig
    named = [s for s, _, _ in slots(found.job, found.pattern)]
    parts = {s: p.kit for s in named if (p := rig.get(s)) is not None and p.kit is not None}
    return RigChoice(pattern=found.pattern, parts=parts)
