"""Practice sessions and own scenarios: kept as what they follow from."""

from __future__ import annotations

import json
import secrets
import time
from dataclasses import dataclass

from rough_draw.core.message import message
from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.core.practice.scenario import Scenario
from rough_draw.store.jobs import NotFound
from rough_draw.store.models import OwnScenario, PracticeRun

Deeds = list[tuple[float, str, RigChoice | None]]


@dataclass(frozen=True, kw_only=True)
class Kept:
    """A session as it is kept: its deeds with when each was finished (s), and the clock it had reached."""

    key: str
    scenario: Scenario
    deeds: Deeds
    clock: float
    began_at: float
    ended_at: float | None
    marks: dict[str, float | None]


def _kept(row: PracticeRun) -> Kept:
    deeds = [(at, kind, RigChoice.model_validate(c) if c else None) for at, kind, c in json.loads(row.deeds)]
    marks = json.loads(row.marks) if row.marks else {}
    scenario = Scenario.model_validate_json(row.document)
    return Kept(
        key=row.key,
        scenario=scenario,
        deeds=deeds,
        clock=row.clock,
        began_at=row.began_at,
        ended_at=row.ended_at,
        marks=marks,
    )


def begin(scenario: Scenario, clock: float) -> Kept:
    """A new session."""
    row = PracticeRun.create(
        key=secrets.token_hex(5),
        scenario=scenario.key,
        document=scenario.model_dump_json(),
        clock=clock,
        began_at=time.time(),
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
    body = json.dumps([(at, kind, c.model_dump() if c else None) for at, kind, c in deeds])
    changes = {"deeds": body, "clock": clock, **({"ended_at": time.time()} if ended else {})}
    PracticeRun.update(**changes).where(PracticeRun.key == key).execute()


def keep_marks(key: str, marks: dict[str, float | None]) -> None:
    """Scores of a finished session by skill, and ``total``."""
    PracticeRun.update(marks=json.dumps(marks)).where(PracticeRun.key == key).execute()


def remove(key: str) -> None:
    """Take a session away."""
    PracticeRun.delete().where(PracticeRun.key == key).execute()


@dataclass(frozen=True, kw_only=True)
class Past:
    """A session in short: of which scenario, since when, until when, its scores."""

    key: str
    scenario: str
    title: str
    began_at: float
    ended_at: float | None
    marks: dict[str, float | None]


def listing() -> list[Past]:
    """All sessions, the latest first."""
    return [
        Past(
            key=r.key,
            scenario=r.scenario,
            title=str(json.loads(r.document).get("title", "")),
            began_at=r.began_at,
            ended_at=r.ended_at,
            marks=json.loads(r.marks) if r.marks else {},
        )
        for r in PracticeRun.select().order_by(PracticeRun.began_at.desc())
    ]


def own() -> list[Scenario]:
    """Scenarios composed or read in here."""
    return [Scenario.model_validate_json(r.document) for r in OwnScenario.select().order_by(OwnScenario.id)]


def save_own(scenario: Scenario) -> Scenario:
    """Keep a scenario under a key that is not taken."""
    taken = {r.key for r in OwnScenario.select(OwnScenario.key)}
    key, n = scenario.key, 2
    while key in taken:
        key, n = f"{scenario.key[:36]}-{n}", n + 1
    found = scenario.model_copy(update={"key": key})
    OwnScenario.create(key=key, document=found.model_dump_json())
    return found


def remove_own(key: str) -> None:
    """Take a scenario of one's own away; raises NotFound."""
    if not OwnScenario.delete().where(OwnScenario.key == key).execute():
        raise NotFound(message("no-own-scenario", key=key))
