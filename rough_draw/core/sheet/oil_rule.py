"""When the oil of a pump is due, by the firm's own rule."""

from __future__ import annotations

from pydantic import Field

from rough_draw.core.sheet.base import Sheet


class OilRule(Sheet):
    """When oil is changed here: at each use, after hours or jobs, or when the blank-off has risen so many times."""

    each_use: bool = False
    after_hours: float | None = Field(10.0, gt=0, le=10_000)
    after_jobs: int | None = Field(5, ge=1, le=1000)
    blank_off_times: float | None = Field(2.0, gt=1, le=100)
