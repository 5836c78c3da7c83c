"""What looks, tests and hints show in a practice job: the truth, as a careful eye finds it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rough_draw.core.advice.cord import USABLE, check_of
from rough_draw.core.catalogue.rig_parts import SAG_SOUND, SAG_WEAK
from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.diagnosis.field_tests import PUSHES
from rough_draw.core.message import Message, Name, listed, message
from rough_draw.core.message.figure import gauge_pressure, share, vacuum
from rough_draw.core.practice import actions
from rough_draw.core.practice.action_kinds import LookKind
from rough_draw.core.practice.actions import Need
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.world import PUMP

if TYPE_CHECKING:
    from rough_draw.standins.practice.bay import Bay


NO_VACUUM = 30_000.0
"""Pa from which what is wetted or worked is not drawn in, and nothing answers to it (estimate)."""


def lacking(bay: Bay, test: str) -> Need | None:
    """What a test needs and does not have."""
    for need in actions.TESTS[test].needs:
        if need == "pump" and not bay.pump_on:
            return need
        if need == "vacuum" and (not bay.rigged or bay.pressure(bay.assembly.gauge_node) > NO_VACUUM):
            return need
    return None


def outcome(bay: Bay, test: str) -> Message:
    """What a test shows: evidence as a careful look finds it, and where; what it means is for who looks to say."""
    if (lack := lacking(bay, test)) is not None:
        return message(f"shows-needs-{lack}")
    work = [c for c, _ in bay.at_work()]
    shows = actions.TESTS[test].shows
    at = [c for c in work if kind_of(c.key) in shows or c.key in shows]
    if test == "ballast":
        return message("shows-ballast-open" if bay.ballast else "shows-no")
    if test == "thumb":
        return message("shows-pushes" if bay.exhaust() > PUSHES else "shows-no-push")
    if test == "ways":
        shut = [w for w in bay.ways_shut() if not bay.isolated]
        half = [c.where for c in at if kind_of(c.key) == "half-open"]
        if shut and half:
            return message("shows-closed-and-half", valves=listed(shut), half=listed(half))
        if half:
            return message("shows-half-open", half=listed(half))
        return message("shows-closed", valves=listed(shut)) if shut else message("shows-all-open")
    if test == "cores":
        cores: list[Name] = [message("shows-core", port=c.where) for c in at]
        cores += [message("shows-core", port=port_words(bay.told.scope, p)) for p in bay.told.rig.cores_in]
        return message("shows-cores-in", cores=listed(cores)) if cores else message("shows-no-core")
    if test == "meter":
        return message("shows-meter", drop=share(_sag(bay)), most=share(USABLE))
    if test == "second":
        other = bay.read(PUMP)
        return message("shows-pump-over") if other is None else message("shows-pump-level", level=vacuum(other))
    if actions.TESTS[test].yes_or_no:
        yes = bool(at) or (test == "blank" and bay.ballast)
        return message("shows-yes" if yes else "shows-no")
    # Two causes may show in one place.
    places = list(dict.fromkeys(c.where or message("shows-on-system") for c in at))
    return message(f"shows-{test}", places=listed(places)) if places else message("shows-nothing")


def _sag(bay: Bay) -> float:
    """Share of the voltage that the pump's supply loses as it runs: by its cord, and by what is the matter with it."""
    rig = bay.told.rig
    cord = check_of(rig.cord, rig.pump) if rig.pump is not None else None
    of_cord = cord.running_drop if cord is not None else SAG_SOUND.value
    weak = (SAG_WEAK.quantile(s) for c, s in bay.at_work() if kind_of(c.key) == "slow-pump")
    return max([of_cord, *weak])


def port_words(scope: Scope, port: str) -> Name:
    """A port by its id in words."""
    there = scope.port(port)
    return there.words() if there is not None else port


def hint(bay: Bay, step: int) -> Name:
    """What to look at (1), the test that tells (2), the answer (3): for what is worst and not mended yet."""
    own = bay.scenario.hints
    if step <= len(own):
        return own[step - 1]
    left = bay.left_unsafe()
    if left:
        return (message("hint-before"), message("hint-look-again"), message(f"practice-found-{left[0]}"))[step - 1]
    if bay.scenario.hidden.shut and bay.still_shut():
        return (message("hint-gauge-blind"), actions.TESTS["ways"].do, message("hint-section-closed"))[step - 1]
    if bay.ballast and bay.pump_on:
        where = message("hint-look", where=message("hint-at-pump"))
        return (where, actions.TESTS["ballast"].do, message("hint-ballast"))[step - 1]
    work = [c for c, _ in bay.at_work()]
    if not work:
        return message("hint-nothing-left")
    cause = work[0]
    if step == 1:
        return message("hint-look", where=message(f"hint-at-{actions.WHERE.get(kind_of(cause.key), 'system')}"))
    test = actions.test_for(cause.key)
    if step == 2:
        return actions.TESTS[test].do if test else message("hint-no-quick-look")
    return message("hint-answer", cause=cause.words, cure=cause.cure)


def looked(bay: Bay, thing: LookKind) -> Message:
    """What a look before the draw shows."""
    if thing == "oil":
        milky = any(kind_of(c.key) == "wet-oil" for c, _ in bay.at_work())
        return message("shows-oil-milky" if milky else "shows-oil-clear")
    return message(f"shows-{thing}", zero=gauge_pressure(0.0))
