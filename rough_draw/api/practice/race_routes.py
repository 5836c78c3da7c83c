"""Two rigs raced on one system, and what there is to put a rig together from."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.exceptions import RequestValidationError
from pydantic import ValidationError

from rough_draw.api.errors import refusal
from rough_draw.api.practice.conversion import path_out, rigs_out
from rough_draw.api.practice.race_schemas import LapOut, RaceIn, RaceOut
from rough_draw.api.practice.schemas import RigsOut
from rough_draw.core.engine.compile import EngineError
from rough_draw.core.practice.actions import verdict_words
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.race import Lap, race

router = APIRouter(tags=["practice"])


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
    try:
        laps = race(body.sheet, body.hidden, body.rigs, VAN)
    except ValidationError as e:
        # What cannot be hidden in this sheet was asked for.
        raise RequestValidationError(e.errors()) from None
    except EngineError as e:
        raise refusal(422, "race-not-run", why=str(e)) from None
    criterion = chosen(body.sheet.criterion)
    return RaceOut(target_pa=criterion.target, hold_s=criterion.minutes * 60.0, laps=[_lap_out(lap) for lap in laps])
