"""People and sign-in: who works here, who is at this browser, and the passphrase where one is needed."""

from __future__ import annotations

import asyncio

from fastapi import APIRouter, HTTPException, Request, Response

from rough_draw.api.access import COOKIE, Busy, Checks, Door, Tries
from rough_draw.api.errors import refusal
from rough_draw.api.people.browser import PERSON, person_here
from rough_draw.api.people.schemas import PersonIn, PersonOut, SessionIn, SessionOut
from rough_draw.core.message import message
from rough_draw.core.message.figure import duration
from rough_draw.store import access, people
from rough_draw.text import say

router = APIRouter(tags=["people"])
YEAR_S = 365 * 24 * 3600


def _door(request: Request) -> Door:
    door: Door = request.app.state.door
    return door


def _out(p: people.Person) -> PersonOut:
    return PersonOut(id=p.id, name=p.name, licence=p.licence)


def _session(request: Request, token: str) -> SessionOut:
    locked = _door(request).locked
    inside = not locked or bool(token)
    here = person_here(request)
    known = {p.id: p for p in people.listing()} if inside else {}
    return SessionOut(
        needed=locked,
        inside=inside,
        csrf=access.csrf_of(token) if token else "",
        person=_out(known[here]) if here in known else None,
    )


@router.get("/session")
def read_session(request: Request) -> SessionOut:
    """Whether a passphrase is needed, whether this browser is in, and who is at it."""
    token = request.cookies.get(COOKIE, "")
    return _session(request, token if token and access.find(token) is not None else "")


@router.post("/session")
async def sign_in(body: SessionIn, request: Request, response: Response) -> SessionOut:
    """Sign in with the passphrase. Wrong ones have to wait longer and longer."""
    if not _door(request).locked:
        return await asyncio.to_thread(_session, request, "")
    tries: Tries = request.app.state.tries
    who = request.client.host if request.client else ""
    wait = tries.begin(who)
    if wait > 0:
        raise HTTPException(
            429, say(message("door-too-many", time=duration(wait))), {"Retry-After": str(int(wait) + 1)}
        )
    checks: Checks = request.app.state.checks
    try:
        known = await checks.right(body.passphrase)
    except Busy:
        busy = {"Retry-After": str(int(Checks.BUSY_S))}
        raise HTTPException(429, say(message("door-too-many", time=duration(Checks.BUSY_S))), busy) from None
    if not known:
        raise refusal(401, "door-wrong")
    tries.passed(who)
    token = await asyncio.to_thread(access.begin)
    response.set_cookie(
        COOKIE,
        token,
        max_age=int(access.LASTS_S),
        httponly=True,
        samesite="strict",
        secure=request.url.scheme == "https",
        path="/",
    )
    return await asyncio.to_thread(_session, request, token)


@router.delete("/session", status_code=204)
def sign_out(request: Request) -> Response:
    """Sign out of this browser."""
    token = request.cookies.get(COOKIE, "")
    if token:
        access.end(token)
    response = Response(status_code=204)
    response.delete_cookie(COOKIE, path="/", httponly=True, samesite="strict")
    return response


@router.get("/people")
def read_people() -> list[PersonOut]:
    """Everybody who works here."""
    return [_out(p) for p in people.listing()]


@router.post("/people", status_code=201)
def add_person(body: PersonIn) -> PersonOut:
    """Somebody new."""
    return _out(people.add(body.name.strip(), body.licence.strip()))


@router.put("/people/{number}")
def change_person(number: int, body: PersonIn) -> PersonOut:
    """Another name or licence."""
    _known(number)
    return _out(people.change(number, body.name.strip(), body.licence.strip()))


@router.delete("/people/{number}", status_code=204)
def remove_person(number: int) -> Response:
    """Take somebody off the list. What they signed stays as it is."""
    _known(number)
    people.remove(number)
    return Response(status_code=204)


@router.post("/people/{number}/here")
def at_this_browser(number: int, response: Response) -> PersonOut:
    """This person is at this browser now; 0 is nobody in particular."""
    if number == 0:
        response.delete_cookie(PERSON, path="/")
        return PersonOut(id=0, name="", licence="")
    _known(number)
    found = people.get(number)
    response.set_cookie(PERSON, str(number), max_age=YEAR_S, httponly=True, samesite="strict", path="/")
    return _out(found)


def _known(number: int) -> None:
    if not 0 < number < 2**31:
        raise refusal(404, "no-person")
