"""What several features of the API say.

Pressures Pa, times s, clock times epoch seconds, unless the name says otherwise.
"""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from rough_draw.core.sheet.job import Job


class Body(BaseModel):
    """Base of what is sent: unknown fields are refused, so that a slip of the pen is told."""

    model_config = ConfigDict(extra="forbid")


class RangeOut(BaseModel):
    """An interval with its best value."""

    low: float
    value: float
    high: float


class JobOut(BaseModel):
    """A job sheet with its version."""

    key: str
    version: int
    job: Job
    can_undo: bool
    updated_at: float
