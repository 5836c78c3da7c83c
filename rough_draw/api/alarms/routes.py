"""Alarms over all jobs: what rings, and silencing it."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response
from pydantic import BaseModel, Field

from rough_draw.api.alarms.watch import Alarms
from rough_draw.api.deps import HubDep, Key
from rough_draw.api.said import Said
from rough_draw.store import jobs

router = APIRouter(tags=["run"])


def get_alarms(request: Request) -> Alarms:
    """What rings, kept with the application."""
    alarms: Alarms = request.app.state.alarms
    return alarms


AlarmsDep = Annotated[Alarms, Depends(get_alarms)]


class RingOut(BaseModel):
    """An alarm that rings: the job, its words, since when (epoch s), and whether it has been silenced."""

    job: str
    title: str
    key: str
    words: Said
    since: float
    silenced: bool


class SilenceIn(BaseModel):
    """The alarm to silence; None for all of the job."""

    key: str | None = Field(None, max_length=60)


@router.get("/alarms")
def alarms(hub: HubDep, kept: AlarmsDep) -> list[RingOut]:
    """Everything that rings now, on any job."""
    return [RingOut(**vars(r)) for r in kept.look(hub)]


@router.post("/jobs/{key}/alarms/silence", status_code=204)
def silence(key: Key, body: SilenceIn, kept: AlarmsDep) -> Response:
    """Silence an alarm until its condition has ended; it rings again when it comes back."""
    jobs.get(key)
    kept.silence(key, body.key)
    return Response(status_code=204)
