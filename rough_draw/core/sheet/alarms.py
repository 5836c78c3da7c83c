"""Alarms that a sheet carries: by level, by rate, by time, at the next touch, and when the gauge falls silent."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from rough_draw.core.sheet.base import Sheet, fault

Kind = Literal["under", "over", "slower", "after", "due", "stale"]


class Alarm(Sheet):
    """One alarm: ``micron`` for under and over, ``rate`` µ/s for slower, ``minutes`` after the pump's start."""

    kind: Kind
    micron: float | None = Field(None, gt=0, le=760_000)
    rate: float | None = Field(None, gt=0, le=1000)
    minutes: float | None = Field(None, gt=0, le=48 * 60)

    @model_validator(mode="after")
    def _figure(self) -> Alarm:
        needs = {"under": "micron", "over": "micron", "slower": "rate", "after": "minutes"}.get(self.kind)
        if needs is not None and getattr(self, needs) is None:
            raise fault("", "alarm-figure", field=needs)
        return self

    @property
    def key(self) -> str:
        """What tells it from the others of its job."""
        figure = self.micron or self.rate or self.minutes
        return self.kind if figure is None else f"{self.kind}-{figure:g}"


USUAL: tuple[Alarm, ...] = (Alarm(kind="due"), Alarm(kind="stale"))
"""Alarms of a new sheet."""
