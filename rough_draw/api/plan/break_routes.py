"""Breaks with nitrogen: what each would take out of this system, for its time."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from rough_draw.api import runs
from rough_draw.api.deps import Key, range_out
from rough_draw.api.said import Said
from rough_draw.api.schemas import RangeOut
from rough_draw.core.physics.interval import Range
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.habits import is_wet
from rough_draw.store import jobs

router = APIRouter(tags=["plan"])


class CycleOut(BaseModel):
    """A draw with so many breaks: s to the target (None: not in half a day), water left at it in g, by where it is."""

    breaks: int
    time_s: RangeOut | None
    free_g: RangeOut
    bound_g: RangeOut
    vapour_g: RangeOut


class CyclesOut(BaseModel):
    """None to three breaks. ``asked`` by the school; ``share`` of the vapour that one break leaves; ``wet`` system."""

    asked: int
    advised: int
    why: Said
    share: float
    wet: bool
    cycles: list[CycleOut]


@router.get("/jobs/{key}/breaks")
def breaks(key: Key) -> CyclesOut:
    """How many breaks are worth their time on this sheet."""
    job = jobs.get(key).job
    found = runs.worth_for(job)

    def grams(r: Range) -> RangeOut:
        return RangeOut(low=1e3 * r.low, value=1e3 * r.value, high=1e3 * r.high)

    return CyclesOut(
        asked=len(chosen(job.criterion).breaks),
        advised=found.advised,
        why=found.why,
        share=found.share,
        wet=is_wet(job.scope.condition, job.scope.free_water_g),
        cycles=[
            CycleOut(
                breaks=c.breaks,
                time_s=range_out(c.time) if c.time is not None else None,
                free_g=grams(c.free),
                bound_g=grams(c.bound),
                vapour_g=grams(c.vapour),
            )
            for c in found.cycles
        ],
    )
