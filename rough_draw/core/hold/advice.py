"""What to do next after a hold: the one order first, then what goes with it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rough_draw.core.hold.decision import VerdictName
from rough_draw.core.hold.result import Verdict
from rough_draw.core.hold.wording import HEADLINE, leak_beside, needle_moved
from rough_draw.core.message import Message, Value, message
from rough_draw.core.model.isolation import Isolation
from rough_draw.core.physics.water import TRIPLE_PA
from rough_draw.core.sheet.criteria import Criterion


@dataclass(frozen=True)
class Advice:
    """An order by its key, what goes with it, and the stage it leads to.

    ``values`` are those of its sentence and its reason; ``search``: the places to look for a leak go with it.
    """

    key: str
    also: tuple[str, ...] = ()
    stage: str = ""
    search: bool = False
    values: tuple[tuple[str, Value], ...] = ()

    @property
    def order(self) -> Message:
        """What to do."""
        return Message(f"advice-{self.key}", self.values)

    @property
    def why(self) -> Message:
        """Its reason."""
        return Message(f"advice-{self.key}.why", self.values)

    @property
    def with_it(self) -> tuple[Message, ...]:
        """What goes with it, an order each."""
        return tuple(message(f"also-{a}") for a in self.also)


LEAK = Advice("find-leak", ("one-valve-after-another", "nitrogen-and-soap", "repair-and-retest"), "prove", search=True)
REFRIGERANT = Advice("warm-oil", ("hold-again", "detector-at-exhaust"), "draw")
PLAIN: dict[VerdictName, Advice] = {
    "creeping": Advice("stand-longer", ("warm-it",)),
    "shallow": Advice("pull-on", ("open-again",), "draw"),
    "leak": LEAK,
    "leak-and-moisture": replace(LEAK, key="leak-first"),
    "refrigerant": REFRIGERANT,
    "vapour": REFRIGERANT,
    "unverified": Advice("micron-gauge", ("recorded-unverified",), "rig"),
}
"""Advice that hangs on the verdict alone."""
UNSETTLED = Advice("let-it-stand", ("no-sun",))


def what_next(v: Verdict, criterion: Criterion, held: Isolation | None = None) -> Advice:
    """The next order after this verdict. ``held`` says what was shut in, where a rig is known."""
    match v.verdict:
        case "tight-and-dry":
            return _sound(v)
        case "unverified" if needle_moved(v):
            # What lifts a needle lifts a micron gauge off its scale: first the leak.
            return LEAK
        case "moisture" if leak_beside(v) >= HEADLINE:
            # Nobody is sent to pump for hours on a system that almost certainly leaks.
            return PLAIN["leak-and-moisture"]
        case "moisture":
            return _wet(v.saturation < TRIPLE_PA, bool(criterion.breaks))
        case "hose":
            hoses = held is not None and bool(held.hoses)
            return Advice(
                "without-hoses" if hoses else "without-rig", ("read-hoses-alone",), "rig" if hoses else "draw"
            )
        case "invalid":
            return Advice("hold-again", stage="draw", values=(("reason", v.why or ""),))
    return PLAIN.get(v.verdict, UNSETTLED)


def _sound(v: Verdict) -> Advice:
    main = v.criteria[0] if v.criteria else None
    if main is None or main.passed:
        return Advice("release", stage="release")
    values: tuple[tuple[str, Value], ...] = (("standard", main.name), ("reason", main.reason))
    if main.passed is None:
        return Advice("wait-for-standard", values=values)
    return Advice("deeper-or-deviate", stage="draw", values=values)


def _wet(frozen: bool, breaks: bool) -> Advice:
    triple = () if breaks else ("triple",)
    return Advice("thaw" if frozen else "pull-water", ("ballast-and-oil", "heat", *triple), "draw")
