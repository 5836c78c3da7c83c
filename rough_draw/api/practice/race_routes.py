"""Two rigs raced on one system, and what there is to put a rig together from."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from contextvars import copy_context

from fastapi import APIRouter
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel, Field, ValidationError

from rough_draw.api.errors import refusal
from rough_draw.api.practice.conversion import path_out
from rough_draw.api.practice.schemas import PathOut, RigOption, RigSlot, RigsOut, VanPart
from rough_draw.api.said import Said
from rough_draw.core.engine.compile import EngineError
from rough_draw.core.practice.actions import verdict_words
from rough_draw.core.practice.rig_choice import RigChoice, slots
from rough_draw.core.practice.scenario import Hidden
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.setups import PATTERNS, fits
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.race import Lap, race

router = APIRouter(tags=["practice"])


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


def rigs_out(job: Job) -> RigsOut:
    """Hook-ups that a system allows, and what the van has for them."""
    return RigsOut(
        rigs=[
            RigOption(
                pattern=p.key,
                name=p.name,
                words=p.words,
                slots=[RigSlot(slot=s, kind=k, where=w) for s, k, w in slots(job, p.key)],
            )
            for p in PATTERNS.values()
            if fits(p.key, job.scope)
        ],
        van=[VanPart(id=k.id, kind=k.kind, name=k.name) for k in VAN],
    )


def _lap_out(lap: Lap) -> LapOut:
    return LapOut(
        rig=lap.rig,
        path=path_out(lap.track),
        gauge_at=lap.gauge_at,
        down_at=lap.down_at,
        held_from=lap.held_from,
        end=lap.end,
        reads_pa=lap.reads,
        worst_pa=lap.worst,
        worst=lap.worst_at,
        said=verdict_words(lap.said) if lap.said else "",
        right=lap.said == lap.right if lap.said else None,
        truly=verdict_words(lap.right) if lap.right else "",
        not_on=list(lap.not_on),
    )


@router.post("/practice/rigs")
def rigs_for(body: Job) -> RigsOut:
    """Hook-ups that a sheet's system allows, and the van."""
    return rigs_out(body)


@router.post("/practice/races")
def run_race(body: RaceIn) -> RaceOut:
    """Both rigs on the same system with the same thing wrong: drawn, isolated and held."""
    # A lap is a second or two of the engine, which runs beside another's.
    with ThreadPoolExecutor(2) as pool:
        begun = [pool.submit(copy_context().run, race, body.sheet, body.hidden, [choice], VAN) for choice in body.rigs]
        try:
            laps = [lap for b in begun for lap in b.result()]
        except ValidationError as e:
            # What cannot be hidden in this sheet was asked for.
            raise RequestValidationError(e.errors()) from None
        except EngineError as e:
            raise refusal(422, "race-not-run", why=str(e)) from None
    criterion = chosen(body.sheet.criterion)
    return RaceOut(target_pa=criterion.target, hold_s=criterion.minutes * 60.0, laps=[_lap_out(lap) for lap in laps])
