"""Practice jobs played by a hand of middling skill, and by people who try to be passed without the work.

The hand knows what a learner sees, and no more: it looks, rigs what the van proposes, pulls until it is deep or falls
no longer, isolates, stops the pump, holds as long as the standard asks, and says what the hold's own engine says of the
readings. It names nothing: it tests nothing.
"""

from __future__ import annotations

import random
import sys
from collections.abc import Iterator, Sequence

from rough_draw.core.interlock.release import release_steps
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.next_step import ballast_at
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import CallVerdict
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.practice.scoring import marks, total
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.kit import KitItem
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.best_choice import Best
from rough_draw.standins.practice.debrief_facts import facts
from rough_draw.standins.practice.evidence import hold_says
from rough_draw.standins.practice.expert import expert
from rough_draw.standins.practice.mending import tried

ENDS = {"tight": "release", "leak": "repair", "both": "repair"}
PATIENCE_S, ROUNDS = 5400.0, 3


def rigged(bay: Bay, best: Best | None) -> None:
    """The rig that the van proposes, where none is on."""
    if not bay.rigged and best is not None:
        tried(bay, f"rig:{best.choice.pattern}", best.choice)


def middling(scenario: Scenario, van: Sequence[KitItem], best: Best | None) -> Bay:
    """A scenario to its end by a hand of middling skill."""
    bay = Bay(scenario, van)
    for look in actions.LOOKS:
        bay.do(look.kind)
    rigged(bay, best)
    if not bay.pump_on and ballast_at(scenario.sheet) is not None:
        tried(bay, "ballast-open")
    if not bay.pump_on:
        tried(bay, "pump-on")
    tried(bay, "reopen")
    said = ""
    for n in range(ROUNDS):
        _draw(bay, PATIENCE_S if n == 0 else PATIENCE_S / 2)
        said = _hold(bay)
        if said in ("tight", "leak", "both", "rig", ""):
            break
        if not bay.warmed:
            tried(bay, "warm-up")
        tried(bay, "pump-on")
        tried(bay, "reopen")
    if said == "tight" and scenario.ends == "release":
        for step in release_steps(bay.told):
            tried(bay, step.key)
    bay.do(f"end:{ENDS.get(said, 'later')}")
    return bay


def _draw(bay: Bay, most: float) -> None:
    """Down to the target, or until it falls no longer."""
    target = chosen(bay.scenario.sheet.criterion).target
    level = ballast_at(bay.scenario.sheet) or 1500.0 * MICRON_PA
    begun = bay.time
    seen: list[tuple[float, float | None]] = []
    while bay.time < begun + most:
        bay.advance(bay.time + 30.0)
        now = bay.shows()
        seen.append((bay.time, now))
        if now is None:
            continue
        if bay.ballast and now <= level:
            tried(bay, "ballast-shut")
        elif now <= 0.9 * target:
            return
        then = [p for t, p in seen if t <= bay.time - 900.0]
        if then and then[-1] is not None and now > 0.98 * then[-1]:
            if not bay.ballast:
                return
            tried(bay, "ballast-shut")
            seen = []


def _hold(bay: Bay) -> str:
    """Isolated, the pump stopped, held as long as is asked; what the readings say. Empty where it cannot be held."""
    criterion = chosen(bay.scenario.sheet.criterion)
    can = tried(bay, "isolate")
    tried(bay, "pump-off")
    if not can:
        return ""
    begun = bay.time
    bay.advance(begun + criterion.minutes * 60.0)
    said = hold_says(bay, begun)
    tried(bay, f"verdict:{said}")
    return said


GUESSES = (("tight", "release"), ("leak", "repair"), ("both", "repair"), ("moisture", "later"), ("rig", "later"))


def cheats(
    scenario: Scenario, van: Sequence[KitItem], best: Best | None, rng: random.Random, count: int
) -> Iterator[tuple[str, Bay]]:
    """Plays that leave the work out: broken off, idled away, guessed, everything named; ``count`` of them by chance."""
    for n in range(count):
        bay = Bay(scenario, van)
        way = rng.choice(("end", "guess", "guess", "idle"))
        said, end = rng.choice(GUESSES)
        if way == "end":
            end = rng.choice(("release", "repair", "later"))
            bay.do(f"end:{end}")
            yield f"{n}: ended at once, {end}", bay
            continue
        looks = rng.random() < 0.5
        for look in actions.LOOKS if looks else ():
            bay.do(look.kind)
        rigged(bay, best)
        tried(bay, "pump-on")
        idle = rng.choice((1800.0, 3 * 3600.0)) if way == "idle" else rng.uniform(0.0, 300.0)
        bay.advance(bay.time + idle)
        tried(bay, "isolate")
        if rng.random() < 0.5:
            tried(bay, "pump-off")
        bay.advance(bay.time + rng.uniform(0.0, 120.0))
        tried(bay, f"verdict:{said}")
        names = [x.key for x in bay.nameable()]
        for key in rng.sample(names, min(len(names), rng.choice((0, 2, len(names))))):
            tried(bay, f"cause:{key}")
        bay.do(f"end:{end}")
        yield f"{n}: {way} {idle:.0f} s, looks {looks}, {said}, {end}", bay


def score(bay: Bay, theirs: Bay, best: Best | None) -> float:
    """The whole of a play, 0 to 100."""
    so = facts(bay, theirs, best)
    return total(marks(so), so)


def main(count: int) -> None:
    """Every scenario by hand: the expert, the middling hand, the best of the cheats."""
    from rough_draw.scenarios.handmade import by_hand
    from rough_draw.scenarios.sheets import VAN

    for scenario in by_hand():
        theirs, best = expert(scenario, VAN)
        hand = middling(scenario, VAN, best)
        rng = random.Random(scenario.key)
        tries = [(score(b, theirs, best), how) for how, b in cheats(scenario, VAN, best, rng, count)]
        mine, (top, how) = score(hand, theirs, best), max(tries)
        print(
            f"{scenario.key:32} expert {score(theirs, theirs, best):5.1f} hand {mine:5.1f} ({hand.ended}) "
            f"best cheat {top:5.1f} ({how}){'  <- beats it' if top > mine else ''}",
            flush=True,
        )


def made(count: int) -> None:
    """The expert on scenarios made from numbers: verdicts that were right, stops that were touched."""
    from rough_draw.scenarios.generator import make
    from rough_draw.scenarios.sheets import VAN

    right = stops = 0
    for seed in range(count):
        theirs, best = expert(make(seed, 1 + seed % 5), VAN)
        so = facts(theirs, theirs, best)
        calls = [a for a in so.acts if isinstance(a.action, CallVerdict) and not a.before]
        right += (
            bool(calls) and isinstance(calls[-1].action, CallVerdict) and calls[-1].action.verdict in calls[-1].right
        )
        stops += sum(len(a.of("stop")) for a in so.acts if not a.before)
    print(f"{count} made ones: verdict right {right / count:.0%}, stops touched {stops}")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 12)
    made(int(sys.argv[2]) if len(sys.argv) > 2 else 60)
