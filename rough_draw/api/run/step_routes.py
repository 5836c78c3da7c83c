"""Touches of a run: what has been done, what could be, and what would follow from it."""

from __future__ import annotations

import asyncio
from typing import Annotated

from fastapi import APIRouter, Path, Query
from starlette.exceptions import HTTPException

from rough_draw.api import runs
from rough_draw.api.deps import HubDep, Key
from rough_draw.api.errors import refusal
from rough_draw.api.people.browser import Hand
from rough_draw.api.run.clock import skew_of, stamp, told_of
from rough_draw.api.run.schemas import ClearOut, ConsequenceOut, ForesightOut, OfferOut, TouchIn, TouchOut
from rough_draw.core.interlock.port_parts import PLUNGER
from rough_draw.core.interlock.preview import foresee, service_names, touches_on
from rough_draw.core.interlock.release import release_kinds
from rough_draw.core.model.assemble import valve_names
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch, known, words_of
from rough_draw.core.sheet.steps import RUN_MOVES, OnPart, TakenBack, read_step, text_of
from rough_draw.store import jobs, kit_log
from rough_draw.text import say

router = APIRouter(tags=["run"])
MOST_STEPS = 200
"""Steps that are foreseen together: more than any order has."""


@router.get("/jobs/{key}/touches")
def read_touches(key: Key) -> list[TouchOut]:
    """Touches in their order."""
    names = valve_names(jobs.get(key).job)
    return [
        TouchOut(kind=t.kind, words=words_of(t.kind, names), at=t.at, note=t.note, hand=t.hand)
        for t in jobs.touches(key)
        if known(t.kind)
    ]


@router.post("/jobs/{key}/touches", status_code=201)
async def add_touch(key: Key, body: TouchIn, hub: HubDep, hand: Hand) -> TouchOut:
    """Log a touch; where a stand-in is attached its world obeys it."""
    job = jobs.get(key).job
    names = valve_names(job)
    _check(body.kind, job)
    # Sent again because the answer was lost: it is told as it was kept, and the world does not obey it twice.
    known_as = await asyncio.to_thread(jobs.touch_of, key, body.key) if body.key else None
    if known_as is not None:
        words = words_of(known_as.kind, names)
        return TouchOut(kind=known_as.kind, words=words, at=known_as.at, note=known_as.note, hand=known_as.hand)
    async with hub.lock(key):
        skew = skew_of(body.sent_at) if body.at is not None else 0.0
        put_right = told_of(skew)
        note = " ".join(x for x in (body.note, f"({say(put_right)})" if put_right else "") if x)[:500]
        at = body.at + skew if body.at is not None else hub.clock(key) or await asyncio.to_thread(stamp, key)
        link = hub.links.get(key)
        if link is not None and body.kind != "note":
            at = await link.touch(body.kind) or at
        await asyncio.to_thread(jobs.add_touch, key, body.kind, at, note, body.key, hand)
    if body.kind == "pump-off":
        await asyncio.to_thread(_file_hours, key, at)
    hub.listeners.tell(key, {"kind": "touch", "touch": body.kind, "at": at})
    return TouchOut(kind=body.kind, words=words_of(body.kind, names), at=at, note=note, hand=hand)


def _file_hours(key: str, at: float) -> None:
    """The pump's hours go on file with it when it is stopped."""
    run = runs.view(key)
    ons = [t.at for t in run.made if t.kind in ("pump-on", "pump-off")]
    kinds = [t.kind for t in run.made if t.kind in ("pump-on", "pump-off")]
    hours, since = 0.0, None
    for kind, when in zip(kinds, ons, strict=True):
        if kind == "pump-on" and since is None:
            since = when
        elif kind == "pump-off" and since is not None:
            hours, since = hours + (when - since) / 3600.0, None
    kit_log.file_run(key, run.job, hours, at)


def _check(kind: str, job: Job) -> None:
    """A step that is known, on a valve, part or port that is there. Raises 422."""
    if not known(kind):
        raise refusal(422, "step-unknown", step=kind, known=", ".join(RUN_MOVES))
    one = read_step(kind)
    if isinstance(one, TakenBack):
        one = read_step(one.text)
    if not isinstance(one, OnPart) or text_of(one) in release_kinds(job):
        return
    if one.is_valve or one.is_source:
        names = valve_names(job) | service_names(job)
        if one.part not in names:
            raise refusal(422, "step-no-valve", valve=one.part, known=", ".join(names))
        return
    there = [p.id for p in (job.scope.ports if one.is_port else job.rig.parts)]
    if one.part.removesuffix(PLUNGER) not in there:
        raise refusal(422, "step-no-part", part=one.part, known=", ".join(there))


@router.get("/jobs/{key}/offers/{name}")
def offers(key: Key, name: Annotated[str, Path(max_length=60)]) -> list[OfferOut]:
    """What a hand could do to a part or a section as the run stands."""
    run = runs.view(key)
    return [OfferOut(kind=o.kind, words=o.words) for o in touches_on(run.job, run.state, name)]


@router.get("/jobs/{key}/foresee")
def foresee_touch(key: Key, kind: Annotated[str, Query(max_length=60)]) -> ForesightOut:
    """What a touch would do as the run stands, before it is made: the gravest first."""
    run = runs.view(key)
    if kind != "energise":
        _check(kind, run.job)
    found = foresee(run.job, run.state, kind)
    said = [ConsequenceOut(severity=c.severity, words=c.words, why=c.why) for c in found.consequences]
    return ForesightOut(words=found.words, stop=found.stop, consequences=said)


@router.get("/jobs/{key}/foresee-all")
def foresee_all(
    key: Key, kind: Annotated[list[Annotated[str, Query(max_length=60)]], Query(min_length=1, max_length=MOST_STEPS)]
) -> ClearOut:
    """How many of these touches can be made in their order, each as the run stands once those before it are made.

    One that could not be logged changes nothing, and keeps none behind it from being foreseen.
    """
    run = runs.view(key)
    touches, state = list(run.touches), run.state
    for n, each in enumerate(kind):
        try:
            _check(each, run.job)
        except HTTPException:
            continue
        if foresee(run.job, state, each).stop:
            return ClearOut(clear=n)
        touches.append(Touch(each, max((t.at for t in touches), default=0.0)))
        state = runs.state_of(run.job, touches)
    return ClearOut(clear=len(kind))
