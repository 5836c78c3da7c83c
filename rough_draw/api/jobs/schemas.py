"""The Yard and the sheets over the wire."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.said import Said
from rough_draw.api.schemas import Body
from rough_draw.core.sheet.job import Job


class JobIn(Body):
    """A sheet to save over a version."""

    version: int = Field(ge=1)
    job: Job


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
