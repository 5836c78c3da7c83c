"""What a race of two rigs says over the wire."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.practice.schemas import PathOut
from rough_draw.api.said import Said
from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.core.practice.scenario import Hidden
from rough_draw.core.sheet.job import Job


class RaceIn(BaseModel):
    """A system, what is wrong with it, and the rigs to race; null stands for the sheet's own rig."""

    sheet: Job
    hidden: Hidden = Hidden()
    rigs: list[RigChoice | None] = Field(min_length=1, max_length=2)


class LapOut(BaseModel):
    """One rig's draw and hold. Times s from the start of the pump, pressures Pa.

    ``gauge_at``: when its gauge first showed the target; ``down_at``: when the worst spot was there; null where never.
    ``said``: what the readings of the hold say; ``right``: whether that is so. ``not_on``: faults this rig cannot have.
    """

    rig: Said
    path: PathOut
    gauge_at: float | None
    down_at: float | None
    held_from: float | None
    end: float
    reads_pa: float | None
    worst_pa: float
    worst: Said
    said: Said
    right: bool | None
    truly: Said
    not_on: list[str]


class RaceOut(BaseModel):
    """The laps in the order in which the rigs were given."""

    target_pa: float
    hold_s: float
    laps: list[LapOut]
