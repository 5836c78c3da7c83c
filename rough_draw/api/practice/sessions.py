"""Practice sessions that are open: their clock against the wall's, played again from their deeds after a restart."""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from threading import Lock

from cachetools import LRUCache, cached

from rough_draw.core.message import message
from rough_draw.core.practice.action_kinds import AskHint, read_action
from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.practice.scoring import Mark, marks, total
from rough_draw.scenarios.generator import make
from rough_draw.scenarios.handmade import by_hand, key_now
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.gauge_server import SPEEDS as RUNNING
from rough_draw.standins.practice.bay import Bay, played
from rough_draw.standins.practice.best_choice import Best
from rough_draw.standins.practice.debrief_facts import facts
from rough_draw.standins.practice.expert import expert
from rough_draw.standins.practice.session_log import CannotDo, Done
from rough_draw.store import practice as store
from rough_draw.store.jobs import NotFound

SPEEDS = (0, *RUNNING)
"""Times real time; at nought the clock stands."""
LONGEST_GAP = 4.0
"""Seconds of wall time that a clock makes up for at most: whoever looks away stops it."""
KEEP_EVERY = 10.0
MOST_OPEN = 24
LONGEST = 24 * 3600.0


@dataclass(kw_only=True)
class Session:
    """One open session. ``speed`` times real time; 0 stands."""

    key: str
    bay: Bay
    exam: str = ""
    speed: int = 0
    looked: float = field(default_factory=time.monotonic)
    kept: float = field(default_factory=time.monotonic)
    lock: threading.RLock = field(default_factory=threading.RLock)

    def catch_up(self) -> None:
        """Bring the bay's clock to the wall's, at this pace."""
        now = time.monotonic()
        gap, self.looked = min(now - self.looked, LONGEST_GAP), now
        if self.speed and not self.bay.ended and self.bay.time < LONGEST:
            self.bay.advance(self.bay.clock + gap * self.speed)
            if now - self.kept > KEEP_EVERY:
                self.keep()

    def deeds(self) -> store.Deeds:
        """What the learner did, as it is kept."""
        return [(d.at, d.kind, d.choice) for d in self.bay.done if not d.before]

    def keep(self) -> None:
        """Write it down."""
        store.keep(self.key, self.deeds(), self.bay.time, bool(self.bay.ended))
        self.kept = time.monotonic()

    def do(self, kind: str, choice: RigChoice | None) -> Done:
        """Do something, and keep it."""
        self.catch_up()
        if self.exam and isinstance(read_action(kind), AskHint):
            raise CannotDo(message("exam-no-hints"))
        made = self.bay.do(kind, choice)
        if self.bay.ended:
            self.speed = 0
        self.keep()
        self.looked = time.monotonic()
        return made


_open: OrderedDict[str, Session] = OrderedDict()
_lock = threading.Lock()


def session(key: str) -> Session:
    """An open session; played again from its deeds where it was not. Raises NotFound."""
    with _lock:
        found = _open.get(key)
        if found is not None:
            _open.move_to_end(key)
            return found
    kept = store.get(key)
    bay = played(kept.scenario, VAN, kept.deeds)
    if not bay.ended:
        bay.advance(max(bay.time, kept.clock))
    return _put(Session(key=key, bay=bay, exam=kept.exam))


@contextmanager
def held(key: str) -> Iterator[Session]:
    """An open session in one pair of hands at a time. Raises NotFound.

    While its turn was waited for it may have been put away: what is done then would be done to one that nobody sees.
    """
    while True:
        found = session(key)
        with found.lock:
            if _open.get(key) is found:
                yield found
                return


def _put(made: Session) -> Session:
    """Among those that are open; two who open it at once share the first. The longest untouched go, but none in use."""
    with _lock:
        made = _open.setdefault(made.key, made)
        for key in list(_open)[: max(0, len(_open) - MOST_OPEN)]:
            old = _open[key]
            if old.lock.acquire(blocking=False):
                try:
                    old.keep()
                    del _open[key]
                finally:
                    old.lock.release()
    return made


def begin(scenario: Scenario, person: int | None = None, exam: str = "") -> Session:
    """A new session of a scenario."""
    bay = Bay(scenario, VAN)
    return _put(Session(key=store.begin(scenario, bay.time, person, exam=exam).key, bay=bay, exam=exam))


def replay(key: str, before: int, person: int | None) -> Session:
    """A session gone on with from before one of its deeds, as if that and what followed had not been done.

    Raises NotFound, and CannotDo where there is no such deed.
    """
    with held(key) as old:
        if old.exam:
            raise CannotDo(message("exam-no-replay"))
        deeds, scenario = old.deeds(), old.bay.scenario
    if not 0 <= before < len(deeds):
        raise CannotDo(message("practice-no-such-deed"))
    at, kind, _ = deeds[before]
    bay = played(scenario, VAN, deeds[:before])
    bay.advance(max(bay.time, at - bay.minutes(kind) * 60.0))
    kept = store.begin(scenario, bay.time, person, (key, deeds[:before]))
    return _put(Session(key=kept.key, bay=bay))


def drop(key: str) -> None:
    """Forget an open session."""
    with _lock:
        _open.pop(key, None)


def scenario(key: str) -> Scenario:
    """A scenario by its key: by hand, one's own, or made from a number (``made-<level>-<number>``)."""
    known = {s.key: s for s in [*by_hand(), *store.own()]}
    found = known.get(key) or known.get(key_now(key))
    if found is not None:
        return found
    parts = key.split("-")
    if len(parts) == 3 and parts[0] == "made" and parts[1] in "12345" and parts[2].isdigit() and len(parts[2]) < 10:
        return make(int(parts[2]), int(parts[1]))
    raise NotFound(message("no-scenario", key=key))


@dataclass(frozen=True)
class Debrief:
    """A session beside a sound hand's."""

    bay: Bay
    expert: Bay
    best: Best | None
    marks: list[Mark]
    total: float


@cached(LRUCache(32), key=lambda scenario: scenario.model_dump_json(), lock=Lock())
def _expert_of(scenario: Scenario) -> tuple[Bay, Best | None]:
    """An expert's play: seconds to work out, and always the same."""
    return expert(scenario, VAN)


def debrief(key: str) -> Debrief:
    """The debrief of a session, finished or broken off; its scores are kept. Raises NotFound."""
    with held(key) as of:
        scenario = of.bay.scenario
        theirs, best = _expert_of(scenario)
        so = facts(of.bay, theirs, best)
        found = marks(so)
        whole = total(found, so)
    stops = sum(c.severity == "stop" for d in of.bay.done if not d.before for c in d.said)
    store.keep_marks(of.key, {**{m.skill: m.score for m in found}, "total": whole, "stops": float(stops)})
    return Debrief(of.bay, theirs, best, found, whole)
