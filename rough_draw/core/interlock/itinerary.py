"""The way to a goal as stretches: derived sequences on one board, and what is moved by hand between two boards."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from rough_draw.core.charging.charge import charge_by, keeps_charge
from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.charge_routes import filled_rooms, low_way, tap_of
from rough_draw.core.interlock.charging_rig import ChargingRig, charging_rigs, fit_hoses
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, Touch
from rough_draw.core.interlock.gas_state import State, carried
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.goals import after_the_hold, goal_for, start_of
from rough_draw.core.interlock.hold_goals import isolating
from rough_draw.core.interlock.nitrogen import never_swept, with_nitrogen
from rough_draw.core.interlock.planner import Goal, Sequence, derive
from rough_draw.core.interlock.pump_down import pump_down_missing, pump_down_touches
from rough_draw.core.interlock.reachability import system_rooms
from rough_draw.core.interlock.rigging import rigging_touches
from rough_draw.core.interlock.transition import play
from rough_draw.core.message import Value, listed, message
from rough_draw.core.model.isolation import left_out
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import part_name
from rough_draw.core.sheet.rig import HosePart, Rig
from rough_draw.core.sheet.scope import Scope

DRAWN: tuple[GoalKey, ...] = ("hold", "retest", "release-unit", "release-cylinder", "end-cylinder")
"""Goals that begin with a system that was evacuated."""


@dataclass(frozen=True)
class Leg:
    """A derived sequence on one board, from the state that it starts in."""

    board: Board
    start: State
    goal: Goal
    sequence: Sequence


@dataclass(frozen=True)
class Act:
    """One touch that is not searched for, with what follows from it."""

    board: Board
    touch: Touch
    said: tuple[Consequence, ...]
    after: State


@dataclass(frozen=True)
class Said:
    """A step told by key that the board does not know of; ``touch`` where it is a move of the hand all the same."""

    key: str
    told: str
    values: tuple[tuple[str, Value], ...] = ()
    touch: Touch | None = None


Stretch = Leg | Act | Said


@dataclass(frozen=True)
class Route:
    """Stretches in their order, and what the rig lacks (by code)."""

    stretches: tuple[Stretch, ...]
    missing: tuple[str, ...] = ()


def route(job: Job, goal: GoalKey, on: str = "") -> Route:
    """The way to a goal on a job's rig. Raises ScopeError where the rig is in pieces."""
    board = make_board(job)
    if goal in DRAWN and not system_rooms(board):
        return Route((), ("evacuation",))
    match goal:
        case "rig-up":
            return Route(tuple(_acts(board, rigging_touches(board))))
        case "pump-down":
            lacking = pump_down_missing(board)
            return Route((), lacking) if lacking else Route(tuple(_acts(board, pump_down_touches(board))))
        case "sweep" | "purge" | "nitrogen-break":
            return _by_nitrogen(job, board, goal)
        case "release-cylinder":
            return _by_cylinder(job, board)
        case "release-unit":
            return _by_unit(job, board)
        case "swap-hose":
            return _swapped(job, board, on)
        case _:
            return Route((_leg(board, start_of(board, goal), goal, job),))


@lru_cache(maxsize=32)
def charging_leg(scope: Scope, rig: Rig, habits: Habits, goal: GoalKey) -> tuple[str, Leg] | None:
    """The step by which a charging hose that was brought along comes on, and the stretch on the rig with it; None
    where nothing comes on."""
    try:
        found = route(Job(scope=scope, rig=rig, habits=habits), goal)
    except ScopeError:
        return None
    put_on = next((s.key for s in found.stretches if isinstance(s, Said) and s.key.startswith("put-on:")), None)
    last = found.stretches[-1] if found.stretches else None
    return (put_on, last) if put_on is not None and isinstance(last, Leg) else None


def _leg(board: Board, start: State, goal: GoalKey, job: Job, on: str = "") -> Leg:
    return _derived(board, start, goal_for(goal, board, job.habits, on))


def _derived(board: Board, start: State, goal: Goal) -> Leg:
    return Leg(board, start, goal, derive(board, start, goal))


def _acts(board: Board, touches: list[tuple[Touch, State]]) -> list[Stretch]:
    """Touches that follow from the rig alone: each with what it would do where the rig then stands."""
    found: list[Stretch] = []
    for touch, state in touches:
        after, said = play(board, state, touch)
        found.append(Act(board, touch, tuple(said), after))
    return found


def _end(leg: Leg) -> State:
    """The state that a sequence ends in. Raises ScopeError where there is none to go on from."""
    if not leg.sequence.steps:
        raise ScopeError(message("sheet-nothing-to-close"))
    return leg.sequence.steps[-1].after


def _found(leg: Leg) -> bool:
    return leg.sequence.found


def _swapped(job: Job, board: Board, on: str) -> Route:
    hose = job.rig.get(on) if on else next((p for p in job.rig.parts if isinstance(p, HosePart)), None)
    if not isinstance(hose, HosePart) or hose.id not in board.ends:
        return Route((), ("hose",))
    return Route((_leg(board, start_of(board, "swap-hose"), "swap-hose", job, hose.id),))


def _by_unit(job: Job, board: Board) -> Route:
    """The unit's own charge; what the line wants beyond it is weighed in first, into the vacuum, where there is any."""
    if not keeps_charge(job.scope):
        return Route((), ("kept-charge",))
    charge = charge_by(job.scope, "unit-charge")
    if charge is not None and charge.to_weigh > 0.0:
        by_cylinder = _by_cylinder(job, board)
        if not by_cylinder.missing and all(_found(s) for s in by_cylinder.stretches if isinstance(s, Leg)):
            return by_cylinder
        leg = _leg(board, start_of(board, "release-unit"), "release-unit", job)
        return Route((leg,), (*_left_out(board), *(by_cylinder.missing or ("charging-hose",))))
    return Route((_leg(board, start_of(board, "release-unit"), "release-unit", job),), _left_out(board))


def _left_out(board: Board) -> tuple[str, ...]:
    """Whether something of the system is reached by no pump: its valves stay closed."""
    return ("evacuation",) if left_out(board.assembly) else ()


def _by_cylinder(job: Job, plain: Board) -> Route:
    """The cylinder connected where no vacuum is opened, then the charge; the best of the ways that can be done."""
    ways = charging_rigs(job)
    if not ways:
        return Route((), ("liquid-way",) if fit_hoses(job) else ("charging-hose", "liquid-way"))
    tried = []
    for way in ways:
        try:
            tried.append(_charged(job, plain, way))
        except ScopeError:
            continue
    done = [r for r in tried if all(_found(s) for s in r[1].stretches if isinstance(s, Leg))]
    if done:
        return min(done, key=lambda r: r[0])[1]
    if not tried:
        return Route((), ("liquid-way",))
    return Route((), _why_none(tried[0][1]))


def _why_none(found: Route) -> tuple[str, ...]:
    """What is missing where no way to charge is without a stop, by the stops that are in it."""
    kinds = {c.kind for s in found.stretches if isinstance(s, Leg) for c in s.sequence.missing}
    if "hose-unrated" in kinds:
        return ("charging-hose",)
    if "liquid-out" in kinds:
        return ("low-side-way",)
    return ("liquid-way",)


def _charged(job: Job, plain: Board, way: ChargingRig) -> tuple[tuple[int, int, int], Route]:
    """One way to charge: how it ranks (all of the system reached, trimmed inward, little opened), and its route."""
    new = _as_drawn(plain, make_board(job.model_copy(update={"rig": way.rig})))
    start = after_the_hold(plain)
    stretches: list[Stretch] = []
    if way.tool and way.off:
        for touch in (Touch("shut", way.tool), Touch("take-off", way.off)):
            if touch.kind == "shut" and way.tool not in start.opened:
                continue
            after, said = play(plain, start, touch)
            stretches.append(Act(plain, touch, tuple(said), after))
            start = after
    hose = way.rig.get(way.hose)
    if way.on:
        what = message("the", thing=part_name(hose) if hose is not None else way.hose)
        stretches.append(Said(f"put-on:{way.hose}", "charging-hose-on", (("what", what),), Touch("put-on", way.hose)))
    own = any(p.kind == "cylinder" and p.on for p in job.rig.parts)
    stretches.append(Said("cylinder", "cylinder-on-scale"))
    if way.rig != job.rig or not own:
        # What was taken off is no longer in the way on the new board: the hose stands in its place.
        start = carried(plain, replace(start, off=start.off - {way.off}), new)
        start = replace(start, vented=True)
    leg = _leg(new, start, "release-cylinder", job)
    stretches.append(leg)
    reached, tap = set(filled_rooms(new)), tap_of(new)
    every = {r for r, x in enumerate(new.rooms) if x.system}
    stops = sum(isinstance(s, Act) and any(c.severity == "stop" for c in s.said) for s in stretches)
    care = leg.sequence.cautions
    low = tap is not None and low_way(new, tap)
    rank = (stops + len(every - reached), 2 * sum(c.kind == "suction-only" for c in care) + (not low), bool(way.off))
    return rank, Route(tuple(stretches))


def _as_drawn(plain: Board, new: Board) -> Board:
    """A board that knows what was evacuated by the rig as it was."""
    drawn = set(system_rooms(plain))
    rooms = {new.places[n] for n, r in plain.places.items() if r in drawn and n in new.places}
    return replace(new, drawn=frozenset(r for r in rooms if new.rooms[r].system))


def _by_nitrogen(job: Job, plain: Board, goal: GoalKey) -> Route:
    """A goal for which nitrogen has to come on the rig: by its own bottle, or by the pump's hose moved to one."""
    board = with_nitrogen(job)
    left = _by_passed(board, goal)
    if not board.pump_gone:
        return Route((Said("regulator", "regulator"), _leg(board, start_of(board, goal), goal, job), *left))
    there, back = Said("to-nitrogen", "to-nitrogen"), Said("to-pump", "to-pump")
    if goal != "nitrogen-break":
        return Route((there, _leg(board, start_of(board, goal), goal, job), *left, back))
    touches = _tools_shut(plain) if isolating(plain) == ("pump",) else []
    closed = _acts(plain, touches)
    start = play(plain, touches[-1][1], touches[-1][0])[0] if touches else start_of(plain, "hold")
    before = _leg(plain, start, "hold", job)
    if not _found(before):
        return Route((*closed, before))
    middle = _leg(board, carried(plain, _end(before), board), goal, job)
    if not _found(middle):
        return Route((middle,))
    again = carried(board, _end(middle), plain)
    again = replace(again, opened=again.opened - {"pump"})
    after = _derived(plain, again, goal_for("draw", plain, job.habits))
    return Route((*closed, before, there, middle, back, after))


def _tools_shut(board: Board) -> list[tuple[Touch, State]]:
    """Every open tool on a port shut: the hose that comes off its pump for the bottle is part of the system else."""
    state = start_of(board, "hold")
    found = []
    for part in board.job.rig.pumped():
        if part.id in board.gates and part.id in state.opened:
            found.append((Touch("shut", part.id), state))
            state, _ = play(board, state, found[-1][0])
    return found


def _by_passed(board: Board, goal: GoalKey) -> tuple[Said, ...]:
    """What no flow passes, and what helps."""
    if goal == "nitrogen-break":
        return ()
    hoses = goal == "purge"
    left = sorted(never_swept(board, hoses))
    if not left:
        return ()
    rig, labels = board.job.rig, board.assembly.system.labels
    if hoses or all(n.endswith(".b") for n in left):
        parts = [rig.get(n.removesuffix(".b")) for n in left]
        names = listed([part_name(p) for p in parts if p is not None])
        return (Said("by-passed", "not-purged", (("names", names),)),)
    names = listed([labels.get(n.removeprefix("system."), n) for n in left if n.startswith("system.")])
    return (Said("by-passed", "not-swept", (("names", names),)),)
