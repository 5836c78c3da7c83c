"""Who is at this browser: a cookie with a number, no proof of anything."""

from __future__ import annotations

from fastapi import Request

PERSON = "rough_draw_person"


def person_here(request: Request) -> int | None:
    """The number of whoever is at this browser; None for nobody in particular."""
    found = request.cookies.get(PERSON, "")
    return int(found) if found.isdigit() and len(found) < 9 else None
