"""What looks, tests and hints show in a practice job: the truth, as a careful eye finds it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.diagnosis.next_test import PUSHES
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import LookKind
from rough_draw.standins.world import PUMP

if TYPE_CHECKING:
    from rough_draw.standins.practice.bay import Bay


def outcome(bay: Bay, test: str) -> str:
    """What a test shows: the truth as a careful look finds it."""
    work = [c for c, _ in bay.at_work()]
    shows = actions.TESTS[test].shows
    found = [c.words for c in work if kind_of(c.key) in shows or c.key in shows]
    if test == "ballast":
        return "Yes: it is open" if bay.ballast else "No"
    if test == "thumb":
        return "Yes, gas still pushes" if bay.exhaust() > PUSHES else "No, nothing to feel"
    if test == "ways":
        shut = [w for w in bay.ways_shut() if not bay.isolated]
        return f"Closed: {'; '.join(shut)}" if shut else "All open"
    if test == "cores":
        cores = [f"the core at the {p} port" for p in bay.told.rig.cores_in]
        return f"Still in: {'; '.join([*found, *cores])}" if found or cores else "No core was in"
    if test == "second":
        other = bay.read(PUMP)
        return "Over range at the pump" if other is None else f"{other / MICRON_PA:,.0f} µ at the pump"
    if test == "blank" and bay.ballast:
        found.append("the gas ballast is open")
    return ("Yes: " + "; ".join(found)) if found else ("No" if actions.TESTS[test].yes_or_no else "Nothing found")


def hint(bay: Bay, step: int) -> str:
    """What to look at (1), the test that tells (2), the answer (3): for what is worst and not mended yet."""
    own = bay.scenario.hints
    if step <= len(own):
        return own[step - 1]
    if bay.scenario.hidden.shut and bay.still_shut():
        said = ("Think of what the gauge cannot see.", actions.TESTS["ways"].do, "A section is closed off: open it.")
        return said[step - 1]
    if bay.ballast and bay.pump_on:
        return ("Look at the pump.", actions.TESTS["ballast"].do, "The gas ballast is open: close it.")[step - 1]
    work = [c for c, _ in bay.at_work()]
    if not work:
        return "Nothing that you could mend is the matter now. Go on: deep enough, isolate, hold, say what it is."
    cause = work[0]
    if step == 1:
        return f"Look at {actions.WHERE.get(kind_of(cause.key), 'the system')}."
    test = actions.test_for(cause.key)
    if step == 2:
        return actions.TESTS[test].do if test else "No quick look shows it: isolate, and read how it rises."
    return f"It is {cause.words}. {cause.cure}"


def looked(bay: Bay, thing: LookKind) -> str:
    """What a look before the draw shows."""
    if thing == "oil":
        milky = any(kind_of(c.key) == "wet-oil" for c, _ in bay.at_work())
        return "Milky: it is wet" if milky else "Clear, half way up the glass"
    return {"power": "Locked, tagged, dead on every leg", "pressure": "0 gauge at every port"}[thing]
