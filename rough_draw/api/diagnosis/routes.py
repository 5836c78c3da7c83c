"""Why a draw is slow: suspects with their odds, and the test that tells them apart."""

from __future__ import annotations

import time

from fastapi import APIRouter, HTTPException, Query

from rough_draw.api import runs
from rough_draw.api.deps import HubDep, Key
from rough_draw.api.diagnosis import cases
from rough_draw.api.diagnosis.schemas import (
    AnswerChoiceOut,
    AnsweredOut,
    AnswerIn,
    BothOut,
    SuspectOut,
    TestOut,
    WhyOut,
)
from rough_draw.api.errors import refusal
from rough_draw.api.run.volume import seen_in
from rough_draw.core.diagnosis.field_tests import Test
from rough_draw.core.diagnosis.opinion import Opinion, Suspect
from rough_draw.core.hold.wording import likely
from rough_draw.core.message import message
from rough_draw.core.sheet.steps import Answered, LookedAnew, StepKind, text_of
from rough_draw.store import jobs
from rough_draw.text import say, told

router = APIRouter(tags=["run"])

TESTS_SHOWN = 6
SETTLED = 0.9


def _why(key: str, anew: bool = False) -> cases.Why:
    return _looked(key, anew)[0]


def _looked(key: str, anew: bool = False) -> tuple[cases.Why, runs.RunView]:
    run = runs.view(key)
    try:
        return cases.why(key, run, anew), run
    except cases.NotYet as e:
        raise HTTPException(409, told(e)) from None


def _out(found: cases.Why, run: runs.RunView) -> WhyOut:
    volume = seen_in(run)
    o = found.opinion
    every = {t.key: t for t in o.every}
    return WhyOut(
        as_of=found.as_of,
        sign=found.sign.words if found.sign else None,
        suspects=[_suspect(s) for s in o.suspects[:6]],
        tests=[_test(t) for t in o.tests[:TESTS_SHOWN]],
        answered=[
            AnsweredOut(test=a.test, do=every[a.test].do, found=every[a.test].words_of(a.outcome))
            for a in found.answers
            if a.test in every
        ],
        settled=o.suspects[0].odds >= SETTLED,
        both=_both(o),
        to_do=[_suspect(s) for s in o.to_do],
        volume=volume.words if volume is not None else None,
        volume_how=volume.how if volume is not None else None,
    )


def _suspect(s: Suspect) -> SuspectOut:
    return SuspectOut(
        key=s.key,
        words=s.words,
        cure=s.cure,
        odds=s.odds,
        likely=likely(s.odds),
        place=s.place,
        goal=s.goal,
        on=s.on,
    )


def _both(o: Opinion) -> BothOut | None:
    if o.both is None:
        return None
    words = {s.key: s.words for s in o.suspects}
    first, second, odds = o.both
    return BothOut(first=words[first], second=words[second], odds=odds)


def _test(t: Test) -> TestOut:
    return TestOut(
        key=t.key, do=t.do, minutes=t.minutes, outcomes=[AnswerChoiceOut(key=o.key, words=o.words) for o in t.outcomes]
    )


@router.get("/jobs/{key}/why")
def why(key: Key, anew: bool = Query(default=False)) -> WhyOut:
    """Suspects and tests as the draw stands; ``anew`` weighs the latest readings."""
    return _out(*_looked(key, anew))


@router.post("/jobs/{key}/why/answers", status_code=201)
def answer(key: Key, body: AnswerIn, hub: HubDep) -> WhyOut:
    """Log what a test turned out as; the odds follow."""
    found = _why(key)
    test = next((t for t in found.opinion.every if t.key == body.test), None)
    if test is None:
        known = ", ".join(t.key for t in found.opinion.every)
        raise refusal(422, "test-unknown", test=body.test, known=known)
    outcome = next((o for o in test.outcomes if o.key == body.outcome), None)
    if outcome is None:
        known = ", ".join(o.key for o in test.outcomes)
        raise refusal(422, "test-no-outcome", test=body.test, outcome=body.outcome, known=known)
    _log(key, hub, Answered(body.test, body.outcome), say(message("test-answered", do=test.do, answer=outcome.words)))
    return _out(*_looked(key))


@router.delete("/jobs/{key}/why/answers")
def forget(key: Key, hub: HubDep) -> WhyOut:
    """Set the findings aside and look again at the latest readings."""
    _why(key)
    _log(key, hub, LookedAnew(), "")
    return _out(*_looked(key, anew=True))


def _log(key: str, hub: HubDep, step: StepKind, note: str) -> None:
    at, kind = hub.clock(key) or time.time(), text_of(step)
    jobs.add_touch(key, kind, at, note)
    hub.listeners.tell(key, {"kind": "touch", "touch": kind, "at": at})
