"""The Yard and the sheets over the wire."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.said import Said
from rough_draw.api.schemas import Body
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import Condition


class JobIn(Body):
    """A sheet to save over a version."""

    version: int = Field(ge=1)
    job: Job


class UndoIn(Body):
    """Which version of the sheet is to be taken back."""

    version: int = Field(ge=1)


class NewJobIn(Body):
    """The few answers that a new job begins with: a template, built in by key or one's own by number; the rest."""

    template: str = Field("", max_length=40)
    own: int | None = None
    refrigerant: str = Field("", max_length=40)
    condition: Condition = "open-hours"


class ProposalOut(BaseModel):
    """A sheet to begin with, not stored; what is proposed, and why."""

    job: Job
    setup: Said
    setup_why: Said
    standard: Said
    standard_why: Said


class StageState(BaseModel):
    """One joint of the stage rail."""

    key: str
    done: bool
    missing: Said


class YardRow(BaseModel):
    """A job on the Yard."""

    key: str
    title: Said
    customer: str
    unit: str
    refrigerant: str
    stage: str
    words: Said
    pa: float | None
    over_range: bool
    live: bool
    next_title: Said
    next_at: float | None
    stages: list[StageState]
    updated_at: float
    technician: str
    pump: Said
    start_at: float | None
    rank: float = Field(description="Rows are shown by it, the lowest first: those with a hand needed soonest")


class PumpOut(BaseModel):
    """A pump on the Yard: what it does (runs, stands, planned, free), for which job, since or at when (epoch s)."""

    pump: Said
    doing: str
    job: str
    title: Said
    at: float | None
    also: list[Said]
