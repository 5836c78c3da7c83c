"""Orders of touches for a sheet's rig, derived and put in words with their reasons."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.catalogue.rig_parts import SWEEP_FLOW
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, Touch
from rough_draw.core.interlock.gas_state import State, carried
from rough_draw.core.interlock.goals import GoalKey, goal_for, start_of, with_cylinder
from rough_draw.core.interlock.nitrogen import never_swept, tap_of, with_nitrogen
from rough_draw.core.interlock.planner import Sequence, derive
from rough_draw.core.interlock.reachability import gauge_valves
from rough_draw.core.interlock.sweep import LEAST_SHARE, flow_shares, joint_words, minutes
from rough_draw.core.message import Message, Name, Value, all_of, listed, message
from rough_draw.core.message.figure import duration, flow, gauge_pressure, mass
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_size
from rough_draw.core.sheet.rig import HosePart, Rig
from rough_draw.core.sheet.scope import Scope

WHY_OPEN: dict[GoalKey, str] = {
    "draw": "all-at-atmosphere",
    "check-hold": "pump-kept-running",
    "oil-change": "pump-pulls-again",
    "sweep": "nitrogens-way",
    "purge": "nitrogens-way",
    "nitrogen-break": "joined-to-nitrogen",
}
WHY_SHUT: dict[GoalKey, str] = {
    "check-hold": "short-hold",
    "hold": "isolate-first",
    "oil-change": "vacuum-stays",
    "nitrogen-break": "pump-side-closed",
    "sweep": "short-way",
    "purge": "short-way",
}
"""Why a valve is opened or closed on the way to a goal, by the keys of its sentences."""


@dataclass(frozen=True)
class Step:
    """One step: a stable key, what to do, why, and cautions that no order avoids."""

    key: str
    title: Message
    why: Message | None = None
    care: tuple[Consequence, ...] = ()


def _step(key: str, told: str, **values: Value) -> Step:
    """A step whose sentence ``told`` brings its reason along."""
    title = message(f"step-{told}", **values)
    return Step(key, title, message(f"{title.key}.why", **values))


def _because(reason: str, **values: Value) -> Message:
    return message(f"because-{reason}", **values)


def order(job: Job, goal: GoalKey) -> list[Step]:
    """Steps to a goal in their order, without a stop; where there is none, one step that says what is missing."""
    return list(_derived(job.scope, job.rig, job.habits, goal))


@lru_cache(maxsize=64)
def _derived(scope: Scope, rig: Rig, habits: Habits, goal: GoalKey) -> tuple[Step, ...]:
    # Asked with every reading of a run, and it depends on nothing but these.
    job = Job(scope=scope, rig=rig, habits=habits)
    if goal == "release-unit" and not any(s.holds_charge for s in scope.sections):
        return (_step("no-charge", "no-charge"),)
    try:
        if goal in ("sweep", "purge", "nitrogen-break"):
            return _with_nitrogen(job, goal)
        board = with_cylinder(job) if goal == "release-cylinder" else make_board(job)
    except ScopeError as e:
        return (_step("apart", "apart", fault=e.told),)
    if board is None:
        return (_step("no-cylinder", "no-cylinder"),)
    moved = (_moved(board),) if goal == "release-cylinder" else ()
    return _or_missing((*moved, *_act(board, goal, habits)))


def _with_nitrogen(job: Job, goal: GoalKey) -> tuple[Step, ...]:
    """A goal for which nitrogen has to come on the rig: by its own bottle, or by the pump's hose moved to one."""
    board = with_nitrogen(job)
    if not board.pump_gone:
        return _or_missing((REGULATOR, *_act(board, goal, job.habits), *_by_passed(board, goal)))
    there, back = _step("to-nitrogen", "to-nitrogen"), _step("to-pump", "to-pump")
    if goal != "nitrogen-break":
        return _or_missing((there, *_act(board, goal, job.habits), *_by_passed(board, goal), back))
    plain = make_board(job)
    before = derive(plain, start_of(plain, "hold"), goal_for("hold", plain, job.habits))
    middle = (
        derive(board, carried(plain, _end(before), board), goal_for(goal, board, job.habits))
        if before.found
        else before
    )
    after = (
        derive(plain, carried(board, _end(middle), plain), goal_for("draw", plain, job.habits))
        if middle.found
        else middle
    )
    parts = (
        _in_words(plain, before, goal),
        (there,),
        _in_words(board, middle, goal),
        (back,),
        _in_words(plain, after, "draw"),
    )
    return _or_missing(tuple(s for part in parts for s in part))


def _end(found: Sequence) -> State:
    """The state that a derived sequence ends in. Raises ScopeError where there is none to go on from."""
    if not found.steps:
        raise ScopeError(message("sheet-nothing-to-close"))
    return found.steps[-1].after


REGULATOR = _step("regulator", "regulator")


def _or_missing(steps: tuple[Step, ...]) -> tuple[Step, ...]:
    """The steps, unless a part of them cannot be done: then what is missing alone."""
    missing = [s for s in steps if s.key == "no-order"]
    return tuple(missing[:1]) if missing else steps


def _by_passed(board: Board, goal: GoalKey) -> tuple[Step, ...]:
    """What no flow passes, and what helps."""
    if goal == "nitrogen-break":
        return ()
    hoses = goal == "purge"
    left = sorted(never_swept(board, hoses))
    if not left:
        return ()
    if hoses or all(n.endswith(".b") for n in left):
        names = listed([part_words(board, n.removesuffix(".b")) for n in left])
        return (_step("by-passed", "not-purged", names=names),)
    labels = board.assembly.system.labels
    names = listed([labels.get(n.removeprefix("system."), n) for n in left if n.startswith("system.")])
    return (_step("by-passed", "not-swept", names=names),)


def _act(board: Board, goal: GoalKey, habits: Habits) -> tuple[Step, ...]:
    return _in_words(board, derive(board, start_of(board, goal), goal_for(goal, board, habits)), goal)


def _in_words(board: Board, found: Sequence, goal: GoalKey) -> tuple[Step, ...]:
    if not found.found:
        return (Step("no-order", message("step-no-order"), all_of([c.whole for c in found.missing])),)
    steps = []
    told: set[str] = set()
    for s in found.steps:
        care = tuple(c for c in s.said if c.severity == "caution" and c.key not in told)
        told |= {c.key for c in s.said}
        sweeping = s.touch.kind == "sweep"
        title, why = _swept(board, s.after) if sweeping else _touch(board, s.touch, s.said, goal)
        steps.append(Step(f"{s.touch.kind}:{s.touch.on}".rstrip(":"), title, why, care))
    return tuple(steps)


def _swept(board: Board, state: State) -> tuple[Message, Message | None]:
    """How long a sweep runs, and what it passes."""
    shares = flow_shares(board, state.opened, board.taps[tap_of(board)], state.loose)
    labels = board.assembly.system.labels
    passed = [labels[n.removeprefix("system.")] for n in shares if shares[n] >= LEAST_SHARE and n.startswith("system.")]
    hoses = [
        part_words(board, p.id)
        for p in board.job.rig.parts
        if isinstance(p, HosePart) and shares.get(f"{p.id}.b", 0.0) >= LEAST_SHARE
    ]
    through = listed(list(dict.fromkeys([*hoses, *(message("the", thing=x) for x in passed)])))
    told = _step(
        "sweep", "sweep", time=duration(60.0 * minutes(board, shares)), through=through, flow=flow(SWEEP_FLOW.value)
    )
    return told.title, told.why


def _moved(board: Board) -> Step:
    """Getting the cylinder on, before the derived touches."""
    if board.pump_gone:
        return _step("move", "cylinder-from-pump")
    rig = board.job.rig
    part = next((p for p in rig.parts if p.kind == "cylinder"), None)
    hose = rig.get(part.on) if part is not None and part.on else None
    tool = rig.get(hose.on) if hose is not None and hose.on else None
    port = board.job.scope.port(tool.port) if tool is not None and tool.port else None
    if hose is None or port is None:
        return _step("move", "cylinder-on-scale")
    return _step("move", "cylinder-from-port", port=port.words())


def _touch(board: Board, t: Touch, said: tuple[Consequence, ...], goal: GoalKey) -> tuple[Message, Message | None]:
    """Title and reason of one touch."""
    told, why, values = _told(board, t, said, goal)
    title = message(f"step-{told}", **values)
    return title, why if why is not None else message(f"{title.key}.why", **values)


def _told(
    board: Board, t: Touch, said: tuple[Consequence, ...], goal: GoalKey
) -> tuple[str, Message | None, dict[str, Value]]:
    """The sentence of one touch, its reason where that is not the sentence's own, and what it is made on."""
    gate = board.gates.get(t.on)
    kind = gate.kind if gate is not None else None
    values: dict[str, Value] = {"what": gate.label} if gate is not None else {}
    port = board.job.scope.port(t.on)
    at_port: dict[str, Value] = {"port": port.words() if port else t.on}
    match t.kind:
        case "open" | "shut" | "crack" if kind in ("cylinder", "nitrogen"):
            why = _weigh(board.job.scope) if (t.kind, kind) == ("open", "cylinder") else None
            return f"{t.kind}-{kind}", why, {"zero": gauge_pressure(0.0)}
        case "loosen" | "tighten":
            return t.kind, None, {"joint": joint_words(board, t.on)}
        case "open" if kind == "service":
            return "open-service", None, values
        case "open" if t.on in gauge_valves(board):
            return "open", _because("no-pressure-now"), values
        case "open":
            why = _where_to(board, t) if goal == "release-cylinder" else None
            reason = WHY_OPEN.get(goal)
            return "open", why or (_because(reason) if reason else None), values
        case "shut" if kind == "port":
            return "shut", _because("stem-of-its-own"), values
        case "shut":
            return "shut", _why_shut(board, t, goal), values
        case "core-in" | "cap":
            return t.kind, None, at_port
        case "take-off":
            return "take-off", _whiff(said), {"what": part_words(board, t.on)}
        case "pump-on" if goal == "draw":
            return "pump-on-draw", None, {}
        case _:
            return t.kind, None, values


def _weigh(scope: Scope) -> Message:
    charge = charge_to_weigh(scope)
    way = "liquid" if REFRIGERANTS[scope.refrigerant].zeotropic else "plain"
    if charge is None:
        return _because("weigh-nameplate", way=way)
    return _because("weigh-charge", way=way, charge=mass(charge.to_weigh))


def _where_to(board: Board, t: Touch) -> Message:
    """Where a cylinder's refrigerant goes by this valve."""
    gate = board.gates[t.on]
    for n in board.ports:
        port = board.gates[f"port:{n}"]
        if {port.a, port.b} & {gate.a, gate.b}:
            side = board.job.scope.port(n)
            if side is not None and side.side in ("suction", "discharge"):
                return _because(f"into-{side.side}")
            return _because("into-liquid")
    return _because("to-the-next-valve")


def _why_shut(board: Board, t: Touch, goal: GoalKey) -> Message:
    gate = board.gates[t.on]
    if t.on in gauge_valves(board) and goal in ("sweep", "purge", "nitrogen-break"):
        return _because("gauge-from-pressure")
    if goal in WHY_SHUT:
        return _because(WHY_SHUT[goal])
    if {gate.a, gate.b} & set(board.gauges.values()):
        return _because("gauge-from-refrigerant")
    return _because("until-it-is-off")


def part_words(board: Board, part: str) -> Name:
    """A part by the port it serves."""
    rig = board.job.rig
    p = rig.get(part)
    if p is None:
        return part
    above = rig.get(p.on) if p.on else None
    near = [p, *([above] if above is not None else []), *rig.children(part)]
    port = next((board.job.scope.port(x.port) for x in near if x.port), None)
    if isinstance(p, HosePart):
        if port is None:
            return message("the-hose", size=hose_size(p))
        return message("the-hose-at", port=port.words(), size=hose_size(p))
    if p.kind == "gauge":
        return message("the-gauge")
    what = message("the", thing=message(f"part-{p.kind}"))
    return what if port is None else message("the-at", thing=message(f"part-{p.kind}"), place=port.words())


def _whiff(said: tuple[Consequence, ...]) -> Message:
    notes = [c.whole for c in said if c.severity == "note"]
    return notes[0] if notes else _because("holds-by-itself")
