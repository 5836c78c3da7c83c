"""Who is at this browser: a cookie with a number, no proof of anything; and the units it is read in."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import parse_qsl, urlencode

from fastapi import Depends, Request, Response
from pydantic import ValidationError

from rough_draw.core.sheet.settings import Settings
from rough_draw.store import jobs, people

PERSON = "rough_draw_person"


def person_here(request: Request) -> int | None:
    """The number of whoever is at this browser; None for nobody in particular."""
    found = request.cookies.get(PERSON, "")
    return int(found) if found.isdigit() and len(found) < 9 else None


Here = Annotated[int | None, Depends(person_here)]


def hand_here(request: Request) -> str:
    """The name of whoever is at this browser, as steps are logged with it; empty for nobody in particular."""
    here = person_here(request)
    try:
        return people.get(here).name if here is not None else ""
    except jobs.NotFound:
        return ""


Hand = Annotated[str, Depends(hand_here)]
UNITS = "rough_draw_units"
YEAR_S = 365 * 86_400


def settings_here(request: Request, firm: Settings) -> Settings:
    """The firm's settings with the units of whoever is at this browser, or those the browser itself has kept."""
    here = person_here(request)
    if here is not None:
        return people.settings_for(here, firm)
    kept = {k: v for k, v in parse_qsl(request.cookies.get(UNITS, "")) if k in people.UNITS}
    try:
        # What an earlier version kept may have gone since.
        return Settings.model_validate({**firm.model_dump(), **kept})
    except ValidationError:
        return firm


def keep_units(response: Response, values: Settings) -> None:
    """Keep units with the browser: nobody in particular is at it."""
    body = urlencode({k: getattr(values, k) for k in people.UNITS})
    response.set_cookie(UNITS, body, max_age=YEAR_S, samesite="lax", httponly=True)
