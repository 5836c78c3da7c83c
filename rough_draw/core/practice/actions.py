"""What hands can do in a practice job, and the minutes each thing takes: looks, tests, mends, calls.

Minutes are estimates of a practised hand's; they make the economy of a practice job, not a real one's.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal, get_args

from rough_draw.core.diagnosis.eye_tests import BLANK_MOST, EYE
from rough_draw.core.diagnosis.faults import kind_of, place_of
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import gauge_pressure, vacuum
from rough_draw.core.practice.action_kinds import (
    AskHint,
    CallVerdict,
    Check,
    DoTest,
    End,
    EndKind,
    Look,
    MakeSafe,
    Mend,
    NameCause,
    Nitrogen,
    NitrogenKind,
    PutRigOn,
    SafeKind,
    SetFault,
    VerdictKind,
    read_action,
)
from rough_draw.core.practice.nitrogen import STAND_MINUTES
from rough_draw.core.sheet.setups import PATTERNS
from rough_draw.core.sheet.steps import OnPart, OnRun, RunMove

LIKELY = 0.5
"""From this likelihood on, a look at what is there finds it: practice has no bad luck."""


@dataclass(frozen=True)
class Deed:
    """Something hands can do: its kind, what it is in words, the minutes it takes, and what group it belongs to."""

    kind: str
    words: Name
    minutes: float
    group: str


LOOKS = tuple(
    Deed(f"look:{key}", message(f"deed-look-{key}", zero=gauge_pressure(0.0)), minutes, "before")
    for key, minutes in (("power", 1.0), ("pressure", 0.5), ("oil", 0.5))
)
BY_HAND: dict[str, float] = {
    "pump-on": 0.1,
    "pump-off": 0.1,
    "ballast-open": 0.1,
    "ballast-shut": 0.1,
    "isolate": 0.3,
    "reopen": 0.3,
    "valve-flush": 0.4,
    "break": 1.0,
    "break-end": 0.5,
    "warm-up": 3.0,
    "oil-change": 8.0,
    "see-pressure": 0.3,
    "vent-pump": 0.2,
    "start": 0.3,
    "stop-unit": 0.1,
    "read-floor": 0.2,
    "pump-care": 1.0,
    "tag": 0.5,
    "energise": 0.2,
    "check-room": 1.0,
    "gauges-on": 1.5,
    "watch-suction": 0.1,
    "see-still": 2.0,
    "note": 0.0,
}
"""Touches on the run as a whole, minutes each."""
ON_PART: dict[str, float] = {
    "open": 0.2,
    "shut": 0.2,
    "crack": 0.5,
    "core-out": 1.5,
    "core-in": 1.5,
    "take-off": 0.7,
    "put-on": 0.7,
    "cap": 0.5,
    "stem-cap": 0.3,
    "check-port": 1.2,
    "purge": 0.3,
    "zero-scale": 0.2,
    "weigh-in": 6.0,
    "trim": 4.0,
    "empty-hose": 1.0,
}
"""Touches on one valve, part or port, minutes each."""
SAFE_MINUTES: dict[SafeKind, float] = {"power": 6.0, "vent": 3.0}
"""A second feed found and locked; every port let down slowly."""
SAFE = tuple(
    Deed(f"safe:{key}", message(f"deed-safe-{key}"), minutes, "before") for key, minutes in SAFE_MINUTES.items()
)
"""What a look may ask for, offered whether it does or not."""
NITROGEN_MINUTES: dict[NitrogenKind, float] = {"test": 10.0 + STAND_MINUTES, "sweep": 5.0}
"""Bottle, regulator and hose on and off, and the test's own standing; a sweep's flow comes on top."""
RIG_MINUTES = 6.0
"""Putting another rig together and screwing it on."""

MENDS: dict[str, tuple[float, tuple[str, ...]]] = {
    "clean-gauge": (3.0, ("fouled",)),
    "wipe-joint": (1.0, ("jumping",)),
    "other-pump": (6.0, ("worn-pump", "wet-oil", "slow-pump")),
    "thick-cord": (3.0, ("slow-pump",)),
    "seat": (3.0, ("open",)),
    "change-hoses": (5.0, ("hose-leak", "dirty-hose", "oil-carried")),
    "change-seats": (5.0, ("seat",)),
}
"""Mends by key: minutes, the kinds of fault they cure. Wet oil and a core left in are cured by touches."""


def mend_words(mend: str) -> Message:
    """A mend in words."""
    return message(f"deed-mend-{mend}")


CURED_BY_TOUCH: dict[RunMove, tuple[str, ...]] = {
    "oil-change": ("wet-oil", "oil-carried"),
    "valve-flush": ("half-open",),
}
OF_THE_RUN: dict[str, RunMove] = {"wet-oil": "oil-change", "half-open": "valve-flush"}
"""The touch that mends a kind of fault, where one does."""


Need = Literal["pump", "vacuum"]


@dataclass(frozen=True)
class Seen:
    """A test by what it looks for: its key, minutes, the kinds of fault it shows, whether it asks yes or no."""

    key: str
    minutes: float
    shows: tuple[str, ...]
    yes_or_no: bool = True

    @property
    def needs(self) -> tuple[Need, ...]:
        """Without what it shows nothing: a running pump, a vacuum in which a gauge moves."""
        return NEEDS.get(self.key, ())

    @property
    def do(self) -> Message:
        """What to do."""
        # By ear alone: a meter is a tool of its own here.
        words = "test-by-ear" if self.key == "sound" else f"test-{self.key}"
        return message(words, most=vacuum(BLANK_MOST))


NEEDS: dict[str, tuple[Need, ...]] = {
    **dict.fromkeys(("sound", "meter", "detector", "blank", "thumb", "hoses", "second"), ("pump",)),
    **dict.fromkeys(("frost", "joint", "joints", "seats"), ("vacuum",)),
}
"""What a test needs, by its key; any other is a look that needs nothing."""

TESTS: dict[str, Seen] = {
    t.key: t
    for t in (
        *(Seen(key, minutes, tuple(k for k, p in yes.items() if p >= LIKELY)) for key, minutes, yes, _ in EYE),
        Seen("meter", 2.0, ("slow-pump",), yes_or_no=False),
        Seen("thumb", 0.3, ()),
        Seen("ways", 1.5, ("shut", "half-open")),
        Seen("cores", 3.0, ("core",)),
        Seen("joints", 4.0, ("system-leak", "open", "hose-leak"), yes_or_no=False),
        Seen("hoses", 5.0, ("hose-leak", "dirty-hose"), yes_or_no=False),
        Seen("seats", 4.0, ("seat",), yes_or_no=False),
        Seen("second", 3.0, (), yes_or_no=False),
    )
}

VERDICTS: tuple[VerdictKind, ...] = get_args(VerdictKind)


def verdict_words(verdict: str) -> Name:
    """A verdict in words; the text itself for one that is not known."""
    return message(f"called-{verdict}") if verdict in VERDICTS else verdict


ENDS: tuple[EndKind, ...] = get_args(EndKind)
HINTS: tuple[float, ...] = (5.0, 10.0, 20.0)
"""Points that each hint costs, in their order."""

WHERE: dict[str, str] = {
    **dict.fromkeys(("wet-oil", "worn-pump", "slow-pump"), "pump"),
    **dict.fromkeys(("hose-leak", "dirty-hose", "oil-carried"), "hoses"),
    **dict.fromkeys(("core", "seat", "half-open"), "tools"),
    **dict.fromkeys(("fouled", "jumping"), "gauge"),
    **dict.fromkeys(("water", "ice", "refrigerant"), "level"),
    **dict.fromkeys(("system-leak", "open"), "outside"),
}
"""Where to look, by kind of fault: the first hint."""


def minutes_of(kind: str) -> float | None:
    """Minutes that a deed takes; None for a kind that is not known."""
    match read_action(kind):
        case OnRun(move):
            return BY_HAND.get(move)
        case Check(what):
            return BY_HAND[what]
        case OnPart(part_move):
            return ON_PART.get(part_move)
        case Look():
            return next(d.minutes for d in LOOKS if d.kind == kind)
        case MakeSafe(what):
            return SAFE_MINUTES[what]
        case Nitrogen(how):
            return NITROGEN_MINUTES[how]
        case DoTest(test):
            return TESTS[test].minutes if test in TESTS else None
        case Mend(mend):
            return MENDS[mend][0] if mend in MENDS else None
        case PutRigOn():
            return RIG_MINUTES
        case CallVerdict() | NameCause() | SetFault() | AskHint() | End():
            return 0.0
        case None:
            return None


def words_of(kind: str, names: Mapping[str, Name] | None = None) -> Name:
    """A deed in words; ``names`` are those of valves, parts, ports and causes."""

    def named(thing: str) -> Name:
        return (names or {}).get(thing, thing.replace("-", " "))

    match read_action(kind):
        case OnRun(move):
            return message(f"done-{move}")
        case Check(what):
            return message(f"done-{what}")
        case OnPart(part_move, part):
            return message(f"done-{part_move}", what=named(part))
        case Look():
            return next(d.words for d in LOOKS if d.kind == kind)
        case MakeSafe(what):
            return message(f"done-safe-{what}")
        case Nitrogen(how):
            return message(f"done-nitrogen-{how}")
        case DoTest(test):
            return TESTS[test].do
        case Mend(mend):
            return mend_words(mend)
        case PutRigOn(setup):
            return message("done-put-rig-on", setup=PATTERNS[setup].name if setup in PATTERNS else setup)
        case CallVerdict(verdict):
            return message("done-called", verdict=verdict_words(verdict))
        case NameCause(cause):
            return message("done-named", cause=named(cause))
        case SetFault(cause, severity):
            return message("done-put-right" if severity is None else "done-put-wrong", cause=named(cause))
        case AskHint(step):
            return message("done-hint", hint=message(f"hint-{step}"))
        case End(end):
            return message(f"end-{end}")
        case None:
            return kind


def cures(kind: str, at_work: Iterable[str]) -> tuple[str, ...]:
    """Faults at work that a deed mends."""
    match read_action(kind):
        case Mend(mend):
            of = MENDS[mend][1]
        case OnPart("core-out", port):
            return tuple(k for k in at_work if k == f"core:{port}")
        case OnPart("open" | "shut", valve):
            # Whoever turns it turns it all the way.
            return tuple(k for k in at_work if k == f"half-open:{valve}")
        case OnRun(move):
            of = CURED_BY_TOUCH.get(move, ())
        case _:
            of = ()
    return tuple(k for k in at_work if kind_of(k) in of)


def mend_for(key: str) -> str | None:
    """The deed that mends a fault; None where only a repair or time does."""
    kind = kind_of(key)
    if kind == "core":
        return f"core-out:{place_of(key)}"
    if kind in OF_THE_RUN:
        return OF_THE_RUN[kind]
    return next((f"mend:{k}" for k, (_, of) in MENDS.items() if kind in of), None)


def test_for(key: str) -> str | None:
    """The cheapest test that shows a fault."""
    fits = [t for t in TESTS.values() if kind_of(key) in t.shows]
    return min(fits, key=lambda t: t.minutes).key if fits else None
