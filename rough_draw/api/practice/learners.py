"""The Practice page and the class: whose sessions, what they trained, how somebody stands, what to try next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from rough_draw.api.practice.conversion import card
from rough_draw.api.practice.schemas import LearnerOut, PastRun, PracticeOut, ScenarioCard, SkillOut, StretchOut
from rough_draw.api.practice.sessions import scenario
from rough_draw.core.message import Message, message
from rough_draw.core.practice.path import LATELY, Result, Standing, Stretch, standings, trained, weakest
from rough_draw.core.practice.scoring import SKILLS
from rough_draw.scenarios.handmade import by_hand, key_now
from rough_draw.store import people
from rough_draw.store import practice as store
from rough_draw.store.jobs import NotFound


def _listing() -> list[store.Past]:
    """Every session, the latest first, under the name that its scenario has now."""
    own = {s.key for s in store.own()}
    return [p if p.scenario in own else replace(p, scenario=key_now(p.scenario)) for p in store.listing()]


def _counted(past: Sequence[store.Past]) -> list[store.Past]:
    """Sessions that tell what somebody can do unhelped: ended, and not gone on with from another."""
    return [p for p in past if p.marks and not p.replay and not p.sandbox]


def _skills(past: Sequence[store.Past]) -> list[SkillOut]:
    found = []
    for key, words in SKILLS.items():
        scores = [float(v) for p in past if (v := p.marks.get(key)) is not None]
        mean = sum(scores[:LATELY]) / len(scores[:LATELY]) if scores else None
        found.append(SkillOut(skill=key, words=words, score=mean, of=len(scores), past=scores[:20][::-1]))
    return found


@lru_cache(maxsize=512)
def _made(key: str) -> tuple[Stretch, ...]:
    """What a job from a number trained: the same for ever."""
    try:
        return trained(scenario(key)) if key.startswith("made-") else ()
    except NotFound:
        return ()


def _standings(past: Sequence[store.Past]) -> list[Standing]:
    jobs = [*by_hand(), *store.own()]
    known = {s.key: trained(s) for s in jobs}
    results = [
        Result(p.scenario, float(t), known[p.scenario] if p.scenario in known else _made(p.scenario))
        for p in past
        if (t := p.marks.get("total")) is not None
    ]
    return standings(jobs, results)


def _stretches(found: Sequence[Standing]) -> list[StretchOut]:
    titles = {s.key: s.title for s in [*by_hand(), *store.own()]}
    return [
        StretchOut(
            stretch=x.stretch,
            words=message(f"stretch-{x.stretch}"),
            score=x.score,
            well=x.well,
            of=x.of,
            next=x.next,
            title=titles.get(x.next or "", ""),
        )
        for x in found
    ]


def page(person: int | None = None) -> PracticeOut:
    """The Practice page of whoever is at the browser."""
    past = [p for p in _listing() if p.person == person]
    ended = _counted(past)
    cards = [card(s, past=ended) for s in by_hand()] + [card(s, True, ended) for s in store.own()]
    path = _standings(ended)
    proposed, why = _next(cards, path)
    runs = [
        PastRun(
            key=p.key,
            scenario=p.scenario,
            title=p.title,
            began_at=p.began_at,
            ended_at=p.ended_at,
            total=p.marks.get("total"),
            replay=p.replay,
        )
        for p in past[:30]
    ]
    names = {p.id: p.name for p in people.listing()}
    who = names.get(person, "") if person is not None else ""
    return PracticeOut(
        who=who, scenarios=cards, skills=_skills(ended), path=_stretches(path), runs=runs, next=proposed, why=why
    )


def class_out() -> list[LearnerOut]:
    """Everybody who has ended a job: who is on the list of people by name, and nobody in particular as one."""
    ended = _counted(_listing())
    names = {p.id: p.name for p in people.listing()}
    found = []
    for person in dict.fromkeys(p.person for p in ended):
        mine = [p for p in ended if p.person == person]
        totals = [float(t) for p in mine if (t := p.marks.get("total")) is not None][:LATELY]
        found.append(
            LearnerOut(
                name=names.get(person, "") if person is not None else "",
                jobs=len(mine),
                last_at=max((p.ended_at for p in mine if p.ended_at is not None), default=None),
                mean=sum(totals) / len(totals) if totals else None,
                skills=_skills(mine),
                path=_stretches(_standings(mine)),
            )
        )
    return sorted(found, key=lambda x: (x.name == "", x.name.lower()))


def _next(cards: Sequence[ScenarioCard], path: Sequence[Standing]) -> tuple[str | None, Message]:
    """The easiest of all to begin with; then the easiest that is not done well yet where somebody is weakest."""
    if all(c.best is None for c in cards):
        return min(cards, key=lambda c: c.level).key, message("practice-not-tried")
    at = weakest(path)
    if at is None:
        return None, message("practice-all-done")
    stretch = message(f"stretch-{at.stretch}")
    if at.score is None:
        return at.next, message("practice-stretch-untried", stretch=stretch)
    return at.next, message("practice-weakest", stretch=stretch, score=round(at.score))
