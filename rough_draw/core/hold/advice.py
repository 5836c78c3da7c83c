"""What to do next after a hold: the one order first, then what goes with it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rough_draw.core.hold.decision import VerdictName
from rough_draw.core.hold.result import Verdict
from rough_draw.core.model.isolation import Isolation
from rough_draw.core.physics.water import TRIPLE_PA
from rough_draw.core.sheet.criteria import Criterion


@dataclass(frozen=True)
class Advice:
    """An order with its reason, what goes with it, and the stage it leads to."""

    order: str
    why: str
    also: tuple[str, ...] = ()
    stage: str = ""
    search: bool = False
    """Whether the places to look for a leak go with it."""


LEAK = Advice(
    "Look for the leak",
    "It lets air in as long as it is there; no pulling makes it tight.",
    (
        "Close one valve after the other: what no longer rises lies on the other side.",
        "Dry nitrogen in through the regulator; soap on every joint, electronic where soap does not get.",
        "Repair, strength- and tightness-test again, then evacuate again.",
    ),
    "prove",
    True,
)
REFRIGERANT = Advice(
    "Warm the oil, go on pulling",
    "Refrigerant leaves oil by warmth: crankcase heater or a blanket, half an hour and more.",
    (
        "Hold again: refrigerant and water rise less each time, a leak rises as before.",
        "An electronic detector at the pump's exhaust tells refrigerant from water.",
    ),
    "draw",
)
PLAIN: dict[VerdictName, Advice] = {
    "creeping": Advice(
        "Let it stand longer",
        "It rises so little that a small leak and vapour dying out look alike. The longer, the surer.",
        ("Warm compressor and coldest spot: vapour goes faster for it, a leak does not.",),
    ),
    "shallow": Advice(
        "Go on pulling",
        "It is tight; what is left wants more time at the pump.",
        ("Open to the pump again; at the target keep the pump on for some minutes before the next hold.",),
        "draw",
    ),
    "leak": LEAK,
    "leak-and-moisture": replace(LEAK, why="It lets the water in: the leak first, then dry."),
    "refrigerant": REFRIGERANT,
    "vapour": REFRIGERANT,
    "unverified": Advice(
        "Put a micron gauge on it",
        "A needle that stands still proves neither dry nor tight.",
        ("Going on all the same is recorded as unverified, with what it could have missed.",),
        "rig",
    ),
}
"""Advice that hangs on the verdict alone."""
UNSETTLED = Advice(
    "Let it stand",
    "Leave it closed; nothing is to be touched.",
    ("Keep sun and warm-air guns off it: they move the level.",),
)


def what_next(v: Verdict, criterion: Criterion, held: Isolation | None = None) -> Advice:
    """The next order after this verdict. ``held`` says what was shut in, where a rig is known."""
    match v.verdict:
        case "tight-and-dry":
            return _sound(v)
        case "moisture":
            return _wet(v.saturation < TRIPLE_PA, bool(criterion.breaks))
        case "hose":
            return _hoses_held(held is not None and bool(held.hoses))
        case "invalid":
            return Advice("Hold again", f"{v.why[:1].upper()}{v.why[1:]}.", (), "draw")
    return PLAIN.get(v.verdict, UNSETTLED)


def _sound(v: Verdict) -> Advice:
    main = v.criteria[0] if v.criteria else None
    if main is not None and main.passed is None:
        return Advice("Wait for the school's own minutes", f"The curve is sound. {main.name}: {main.reason}.")
    if main is not None and main.passed is False:
        return Advice(
            "Pull deeper, or release against a reason",
            f"Tight and dry by its curve, but {main.name} fails it: {main.reason}. Releasing all the same "
            "goes on the record with its reason.",
            stage="draw",
        )
    return Advice("Release", "Gauge closed off first, then the vacuum is broken with refrigerant.", stage="release")


def _wet(frozen: bool, breaks: bool) -> Advice:
    triple = () if breaks else ("Three times with nitrogen in between, if it stays: see Breaks in the draw.",)
    return Advice(
        "Warm it, then go on pulling" if frozen else "Go on pulling",
        "Ice sublimes slowly: break with dry nitrogen, warm the coldest spot, pull again."
        if frozen
        else "Water goes only as vapour, and needs warmth and time.",
        (
            "Ballast open, fresh oil in the pump, the largest hose on the vapour side.",
            "Heat on the coldest spot and the compressor; never a flame.",
            *triple,
        ),
        "draw",
    )


def _hoses_held(hoses: bool) -> Advice:
    without = "a core tool on each port leaves them out" if hoses else "close them off, and hold gauge and system alone"
    return Advice(
        "Hold again without the hoses",
        f"This hold cannot tell a small leak from its hoses: {without}.",
        ("Or read the hoses alone in the rig proof: then what they do is known.",),
        "rig" if hoses else "draw",
    )
