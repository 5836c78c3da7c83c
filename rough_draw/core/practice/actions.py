"""What hands can do in a practice job, and the minutes each thing takes: looks, tests, mends, calls.

Minutes are estimates of a practised hand's; they make the economy of a practice job, not a real one's.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from rough_draw.core.diagnosis.faults import kind_of, place_of
from rough_draw.core.diagnosis.next_test import EYE
from rough_draw.core.practice.action_kinds import (
    AskHint,
    CallVerdict,
    Cap,
    Check,
    CheckKind,
    Crack,
    DoTest,
    End,
    EndKind,
    Look,
    Mend,
    NameCause,
    PutRigOn,
    VerdictKind,
    read_action,
)
from rough_draw.core.sheet.run_state import TOUCHES
from rough_draw.core.sheet.steps import OnPart, OnRun, PartMove, RunMove

LIKELY = 0.5
"""From this likelihood on, a look at what is there finds it: practice has no bad luck."""


@dataclass(frozen=True)
class Deed:
    """Something hands can do: its kind, what it is in words, the minutes it takes, and what group it belongs to."""

    kind: str
    words: str
    minutes: float
    group: str


LOOKS = (
    Deed("look:power", "Lock the power out, and verify it dead", 1.0, "before"),
    Deed("look:pressure", "See 0 gauge at every port: no nitrogen, no refrigerant", 0.5, "before"),
    Deed("look:oil", "Look at the pump's oil: its level, its colour", 0.5, "before"),
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
    "energise": 0.2,
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
    "cap": 0.5,
}
"""Touches on one valve, part or port, minutes each."""
RIG_MINUTES = 6.0
"""Putting another rig together and screwing it on."""

MENDS: dict[str, tuple[str, float, tuple[str, ...]]] = {
    "clean-gauge": ("Clean the gauge's sensor with alcohol", 3.0, ("fouled",)),
    "wipe-joint": ("Wipe the gauge's joint dry, a new gasket, hand tight", 1.0, ("jumping",)),
    "other-pump": ("Put another pump on", 6.0, ("worn-pump", "wet-oil", "slow-pump")),
    "thick-cord": ("Run a shorter, thicker cord", 3.0, ("slow-pump",)),
    "seat": ("Seat every plunger and cap", 3.0, ("open",)),
    "change-hoses": ("Change the hoses for clean, sound ones", 5.0, ("hose-leak", "dirty-hose", "oil-carried")),
    "change-seats": ("New seats in the core tools", 5.0, ("seat",)),
}
"""Mends by key: in words, minutes, the kinds of fault they cure. Wet oil and a core left in are cured by touches."""

CURED_BY_TOUCH: dict[RunMove, tuple[str, ...]] = {"oil-change": ("wet-oil", "oil-carried")}


@dataclass(frozen=True)
class Seen:
    """A test by what it looks for: its key, what to do, minutes, the kinds of fault it shows, whether it asks yes or
    no.
    """

    key: str
    do: str
    minutes: float
    shows: tuple[str, ...]
    yes_or_no: bool = True


TESTS: dict[str, Seen] = {
    t.key: t
    for t in (
        *(Seen(key, do, minutes, tuple(k for k, p in yes.items() if p >= LIKELY)) for key, do, minutes, yes, _ in EYE),
        Seen("thumb", "A thumb over the exhaust for five seconds. Does gas still push?", 0.3, ()),
        Seen("ways", "Go along every valve, tool and coil. Is one closed?", 1.5, ("shut",)),
        Seen("cores", "Pull again through each core tool. Was a core still in?", 3.0, ("core",)),
        Seen(
            "joints",
            "Alcohol on joints and caps, one by one. Where does the gauge move?",
            4.0,
            ("system-leak", "open", "hose-leak"),
            yes_or_no=False,
        ),
        Seen(
            "hoses",
            "Close the tools, pull on one hose at a time. Which stays high?",
            5.0,
            ("hose-leak", "dirty-hose"),
            yes_or_no=False,
        ),
        Seen("seats", "Cap the tools off, each alone on the gauge. Which one rises?", 4.0, ("seat",)),
        Seen("second", "Screw a second gauge on at the pump, and read both", 3.0, (), yes_or_no=False),
    )
}

VERDICTS: dict[VerdictKind, str] = {
    "tight": "Tight and dry",
    "leak": "A leak in the system",
    "moisture": "Water in the system",
    "both": "A leak, and water",
    "refrigerant": "Refrigerant out of the oil",
    "rig": "The rig lets gas in: hose, tool or seal",
    "not-judged": "This hold cannot say",
}


def verdict_words(verdict: str) -> str:
    """A verdict in words; the text itself for one that is not known."""
    return next((w for k, w in VERDICTS.items() if k == verdict), verdict)


ENDS: dict[EndKind, str] = {
    "release": "Done: released, or good to be charged",
    "repair": "Stop here: find the leak under nitrogen, repair, begin again",
    "later": "Stop here: it needs another day",
}
HINTS: tuple[tuple[str, float], ...] = (
    ("What to look at", 5.0),
    ("The test that tells", 10.0),
    ("The answer", 20.0),
)
"""Hints in their order, and the points each costs."""

WHERE: dict[str, str] = {
    **dict.fromkeys(("wet-oil", "worn-pump", "slow-pump"), "the pump, and what it runs on"),
    **dict.fromkeys(("hose-leak", "dirty-hose", "oil-carried"), "the hoses"),
    **dict.fromkeys(("core", "seat"), "the core tools and their ports"),
    **dict.fromkeys(("fouled", "jumping"), "the gauge itself"),
    **dict.fromkeys(("water", "ice", "refrigerant"), "what the reading levels off at, and for how long"),
    **dict.fromkeys(("system-leak", "open"), "what comes in from outside"),
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
        case Crack():
            return ON_PART["crack"]
        case Cap():
            return ON_PART["cap"]
        case Look():
            return next(d.minutes for d in LOOKS if d.kind == kind)
        case DoTest(test):
            return TESTS[test].minutes if test in TESTS else None
        case Mend(mend):
            return MENDS[mend][1] if mend in MENDS else None
        case PutRigOn():
            return RIG_MINUTES
        case CallVerdict() | NameCause() | AskHint() | End():
            return 0.0
        case None:
            return None


PART_WORDS: dict[PartMove, str] = {
    "open": "Opened",
    "shut": "Closed",
    "take-off": "Took off",
    "put-on": "Put on again",
    "core-out": "Pulled the core at",
    "core-in": "Core back at",
}
CHECK_WORDS: dict[CheckKind, str] = {
    "see-pressure": "Looked for pressure at the ports",
    "energise": "Power to the compressor",
}


def words_of(kind: str, names: dict[str, str] | None = None) -> str:
    """A deed in words; ``names`` are those of valves, parts, ports and causes."""

    def named(thing: str) -> str:
        return (names or {}).get(thing, thing.replace("-", " "))

    match read_action(kind):
        case OnRun(move):
            return TOUCHES[move]
        case Check(what):
            return CHECK_WORDS[what]
        case OnPart(part_move, part):
            return f"{PART_WORDS[part_move]} {named(part)}"
        case Crack(valve):
            return f"Cracked, a quarter turn: {named(valve)}"
        case Cap(port):
            return f"Capped: {named(port)}"
        case Look():
            return next(d.words for d in LOOKS if d.kind == kind)
        case DoTest(test):
            return TESTS[test].do
        case Mend(mend):
            return MENDS[mend][0]
        case PutRigOn(setup):
            return f"Put a rig on: {(names or {}).get(kind, setup.replace('-', ' '))}"
        case CallVerdict(verdict):
            return f"Verdict: {VERDICTS[verdict].lower()}"
        case NameCause(cause):
            return f"Named: {named(cause)}"
        case AskHint(step):
            return f"Asked for a hint: {HINTS[step - 1][0].lower()}"
        case End(end):
            return ENDS[end]
        case None:
            return kind


def cures(kind: str, at_work: Iterable[str]) -> tuple[str, ...]:
    """Faults at work that a deed mends."""
    match read_action(kind):
        case Mend(mend):
            of = MENDS[mend][2]
        case OnPart("core-out", port):
            return tuple(k for k in at_work if k == f"core:{port}")
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
    if kind == "wet-oil":
        return "oil-change"
    return next((f"mend:{k}" for k, (_, _, of) in MENDS.items() if kind in of), None)


def test_for(key: str) -> str | None:
    """The cheapest test that shows a fault."""
    fits = [t for t in TESTS.values() if kind_of(key) in t.shows]
    return min(fits, key=lambda t: t.minutes).key if fits else None
