"""What a new job starts from: system, rig and standard proposed from a few answers, each with its reason."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from rough_draw.core.message import Message, message
from rough_draw.core.planning.rig_search import Best
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from, usual_setups


@dataclass(frozen=True)
class Proposal:
    """A sheet to begin with; its setup and standard in words, and why they are proposed."""

    job: Job
    setup: Message
    setup_why: Message
    standard: Message
    standard_why: Message


def propose(values: dict[str, Any], search: Callable[[Job], Best]) -> Proposal:
    """A sheet for a system given by ``values`` of its scope; ``search`` finds the best rig that the van allows.

    Raises ValidationError for values that are no scope.
    """
    scope = Scope.model_validate(values)
    pattern = next((p for p in usual_setups(scope) if fits(p, scope)), "single-port")
    school, why = criteria.default_school(scope)
    job = Job(scope=scope, rig=rig_from(pattern, scope), criterion=CriterionChoice.model_validate({"school": school}))
    setup_why = message("proposed-usual-setup")
    found = search(job)
    if found.chosen is not None:
        job = job.model_copy(update={"rig": found.chosen.job.rig})
        pattern, setup_why = found.chosen.pattern, message("proposed-from-the-van")
    return Proposal(job, PATTERNS[pattern].name, setup_why, criteria.STANDARDS[school].name, why)
