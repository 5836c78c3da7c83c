"""A practice scenario: a sheet as the learner is told it, and what is really so. Version 1 of the scenario document."""

from __future__ import annotations

from dataclasses import fields
from typing import Literal, get_args

from pydantic import Field, field_validator, model_validator

from rough_draw.core.charging.charge import keeps_charge
from rough_draw.core.diagnosis.causes import causes
from rough_draw.core.diagnosis.faults import Cause, CauseKind
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.model.system import ScopeError
from rough_draw.core.practice.own_causes import of_practice
from rough_draw.core.sheet.base import Long, Sheet, Slug, Text, fault
from rough_draw.core.sheet.job import Job

NAMES = frozenset(f.name for f in fields(Unknowns))


class Fault(Sheet):
    """One thing that is wrong: the key of a cause, how bad (a normal deviate), and from when on, s."""

    key: str = Field(max_length=60)
    severity: float = Field(0.0, ge=-3, le=3)
    at_s: float = Field(0.0, ge=0, le=24 * 3600)


FoundKind = Literal["second-feed", "pressure", "creeping"]
AS_FOUND: tuple[FoundKind, ...] = get_args(FoundKind)


class Hidden(Sheet):
    """What the learner is not told. ``unknowns`` are normal deviates by name; ``shut``: links that really are shut.

    ``found``: what a look before the draw finds: a second feed that is live, nitrogen still on the system, nitrogen
    that comes back past a seat after it was let down.
    """

    seed: int = Field(1, ge=0, le=2**31)
    unknowns: dict[str, float] = Field({}, max_length=10)
    faults: tuple[Fault, ...] = Field((), max_length=8)
    shut: tuple[Slug, ...] = Field((), max_length=20)
    found: tuple[FoundKind, ...] = Field((), max_length=3)

    @field_validator("unknowns")
    @classmethod
    def _known(cls, found: dict[str, float]) -> dict[str, float]:
        wrong = sorted(set(found) - NAMES)
        if wrong:
            raise fault("", "unknown", name=wrong[0], known=", ".join(sorted(NAMES)))
        if any(not -4 <= v <= 4 for v in found.values()):
            raise fault("", "deviate")
        return found


class Before(Sheet):
    """Something done before the learner comes, ``at_s`` s after the beginning."""

    kind: str = Field(max_length=60)
    at_s: float = Field(0.0, ge=0, le=24 * 3600)


class Scenario(Sheet):
    """The whole scenario. ``rigged``: a rig stands on it already; ``arrive_s``: when the learner comes, s.

    ``working``: the unit works still and keeps its charge to itself: it is pumped down before a rig goes on.
    ``sandbox``: what is so is seen and changed as it goes on; it counts for nothing.
    """

    format: Literal["rough-draw/scenario"] = "rough-draw/scenario"
    version: Literal[1] = 1
    key: Slug = "own"
    title: Text = "A practice job"
    brief: Long = ""
    lesson: Long = ""
    level: int = Field(2, ge=1, le=5)
    ends: Literal["verdict", "release"] = "verdict"
    sheet: Job = Job()
    rigged: bool = True
    before: tuple[Before, ...] = Field((), max_length=40)
    arrive_s: float = Field(0.0, ge=0, le=24 * 3600)
    hints: tuple[Text, ...] = Field((), max_length=5)
    working: bool = False
    sandbox: bool = False
    hidden: Hidden = Hidden()

    @model_validator(mode="after")
    def _consistent(self) -> Scenario:
        kept = {s.id for s in self.sheet.scope.sections if s.holds_charge}
        links = {x.id for x in self.sheet.scope.links if not {x.a, x.b} & kept}
        if self.ends == "release" and not kept and not self.sheet.rig.has("cylinder"):
            raise fault("ends", "nothing-to-release")
        if self.working and (self.rigged or not keeps_charge(self.sheet.scope)):
            raise fault("working", "nothing-to-pump-down")
        for name in self.hidden.shut:
            if name not in links:
                raise fault(
                    "hidden.shut",
                    "no-such-link",
                    name=name,
                    known=", ".join(sorted(links)),
                )
        try:
            known = {c.key for c in possible(self.sheet)}
        except ScopeError as e:
            raise fault(e.place, "rig-apart", fault=e.told) from None
        for f in self.hidden.faults:
            if f.key not in known:
                raise fault("hidden.faults", "no-such-fault", name=f.key, known=", ".join(sorted(known)))
        return self

    def true_job(self) -> Job:
        """The sheet with what is really shut."""
        return with_shut(self.sheet, self.hidden.shut)


def with_shut(job: Job, names: tuple[str, ...]) -> Job:
    """A sheet whose named links are shut."""
    links = tuple(x.model_copy(update={"open": False}) if x.id in names else x for x in job.scope.links)
    return job.model_copy(update={"scope": job.scope.model_copy(update={"links": links})})


HIDDEN: tuple[CauseKind, ...] = (
    "wet-oil",
    "worn-pump",
    "slow-pump",
    "oil-carried",
    "system-leak",
    "open",
    "water",
    "ice",
    "refrigerant",
    "fouled",
    "jumping",
    "hose-leak",
    "dirty-hose",
    "core",
)
"""Causes of a live draw that practice hides and can have mended."""


def possible(job: Job) -> list[Cause]:
    """Every cause that can be hidden in a scenario on this sheet. Raises ScopeError where the rig is in pieces."""
    assembly = assemble(job, needs_pump=False)
    found = [c for c in causes(job, assembly) if c.kind in HIDDEN]
    return found + of_practice(job, assembly)
