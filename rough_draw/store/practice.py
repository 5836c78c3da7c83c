"""Practice sessions and own scenarios: kept as what they follow from."""

from __future__ import annotations

import secrets
import time
from dataclasses import dataclass

from rough_draw.core.message import message
from rough_draw.core.practice.scenario import Scenario
from rough_draw.store.jobs import NotFound
from rough_draw.store.models import OwnScenario, PracticeRun
from rough_draw.store.stored import DEEDS, MARKS, SCENARIO, VALUES, Deeds


@dataclass(frozen=True, kw_only=True)
class Kept:
    """A session as it is kept: its deeds with when each was finished (s), and the clock it had reached.

    ``person``: the number of whose it is; ``replay_of``: the session it went on from; ``exam``: what it belongs to.
    """

    key: str
    scenario: Scenario
    deeds: Deeds
    clock: float
    began_at: float
    ended_at: float | None
    marks: dict[str, float | None]
    person: int | None = None
    replay_of: str = ""
    exam: str = ""


def _kept(row: PracticeRun) -> Kept:
    scenario = SCENARIO.read(row.document)
    if scenario is None:
        raise NotFound(message("no-practice-job", key=row.key))
    return Kept(
        key=row.key,
        scenario=scenario,
        deeds=DEEDS.read(row.deeds),
        clock=row.clock,
        began_at=row.began_at,
        ended_at=row.ended_at,
        marks=MARKS.read(row.marks),
        person=row.person,
        replay_of=row.replay_of,
        exam=row.exam,
    )


def begin(
    scenario: Scenario,
    clock: float,
    person: int | None = None,
    replayed: tuple[str, Deeds] = ("", []),
    exam: str = "",
) -> Kept:
    """A new session of somebody's; ``replayed``: another's key, and those of its deeds that this one goes on from."""
    row = PracticeRun.create(
        key=secrets.token_hex(5),
        scenario=scenario.key,
        document=SCENARIO.write(scenario),
        clock=clock,
        began_at=time.time(),
        person=person,
        replay_of=replayed[0],
        deeds=DEEDS.write(replayed[1]),
        exam=exam,
    )
    return _kept(row)


def get(key: str) -> Kept:
    """A session by its key; raises NotFound."""
    row = PracticeRun.get_or_none(PracticeRun.key == key)
    if row is None:
        raise NotFound(message("no-practice-job", key=key))
    return _kept(row)


def keep(key: str, deeds: Deeds, clock: float, ended: bool) -> None:
    """What a session has come to: on disk once this returns."""
    changes = {"deeds": DEEDS.write(deeds), "clock": clock, **({"ended_at": time.time()} if ended else {})}
    PracticeRun.update(**changes).where(PracticeRun.key == key).execute()


def keep_marks(key: str, marks: dict[str, float | None]) -> None:
    """Scores of a finished session by skill, and ``total``."""
    PracticeRun.update(marks=MARKS.write(marks)).where(PracticeRun.key == key).execute()


def remove(key: str) -> None:
    """Take a session away."""
    PracticeRun.delete().where(PracticeRun.key == key).execute()


@dataclass(frozen=True, kw_only=True)
class Past:
    """A session in short: of which scenario, since when, until when, its scores, and whose.

    ``replay``: it went on from another, ``sandbox``: what is so was seen; both say nothing of what somebody can do
    unhelped.
    """

    key: str
    scenario: str
    title: str
    began_at: float
    ended_at: float | None
    marks: dict[str, float | None]
    person: int | None = None
    replay: bool = False
    sandbox: bool = False
    exam: str = ""


def _past(r: PracticeRun) -> Past:
    document = VALUES.read(r.document)
    return Past(
        key=r.key,
        scenario=r.scenario,
        title=str(document.get("title", "")),
        began_at=r.began_at,
        ended_at=r.ended_at,
        marks=MARKS.read(r.marks),
        person=r.person,
        replay=bool(r.replay_of),
        sandbox=document.get("sandbox") is True,
        exam=r.exam,
    )


def listing() -> list[Past]:
    """All sessions, the latest first."""
    return [_past(r) for r in PracticeRun.select().order_by(PracticeRun.began_at.desc())]


def of_exam(exam: str) -> list[Past]:
    """The sessions of an examination, the first first."""
    return [_past(r) for r in PracticeRun.select().where(PracticeRun.exam == exam).order_by(PracticeRun.began_at)]


def is_of_exam(key: str) -> bool:
    """Whether a session belongs to an examination."""
    return bool(PracticeRun.select().where(PracticeRun.key == key, PracticeRun.exam != "").exists())


def own() -> list[Scenario]:
    """Scenarios composed or read in here."""
    found = [SCENARIO.read(r.document) for r in OwnScenario.select().order_by(OwnScenario.id)]
    return [s for s in found if s is not None]


def save_own(scenario: Scenario) -> Scenario:
    """Keep a scenario under a key that is not taken."""
    taken = {r.key for r in OwnScenario.select(OwnScenario.key)}
    key, n = scenario.key, 2
    while key in taken:
        key, n = f"{scenario.key[:36]}-{n}", n + 1
    # What is kept to be played hides what it hides.
    found = scenario.model_copy(update={"key": key, "sandbox": False})
    OwnScenario.create(key=key, document=SCENARIO.write(found))
    return found


def remove_own(key: str) -> None:
    """Take a scenario of one's own away; raises NotFound."""
    if not OwnScenario.delete().where(OwnScenario.key == key).execute():
        raise NotFound(message("no-own-scenario", key=key))
