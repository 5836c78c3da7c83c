"""Orders of touches for a sheet's rig, derived and put in words with their reasons."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from rough_draw.core.catalogue.fluids import REFRIGERANTS
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
from rough_draw.core.model.rig_graph import hose_label
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart, Rig
from rough_draw.core.sheet.scope import Scope

NEVER = "Never open a port before there is positive pressure in it."

OPENED: dict[GoalKey, str] = {
    "draw": "All is at the atmosphere still: nothing can come back.",
    "check-hold": "The pump has kept running: nothing comes back.",
    "oil-change": "Only now, with the pump pulling again.",
    "sweep": "The way that the nitrogen is to take.",
    "purge": "The way that the nitrogen is to take.",
    "nitrogen-break": "The system and the nitrogen's hose stand together.",
}
SHUT: dict[GoalKey, str] = {
    "check-hold": "A short hold with the pump running on: the gauge says what the system does alone.",
    "hold": "Isolate first, pump off second.",
    "oil-change": "The vacuum stays in the system while the pump stands.",
    "nitrogen-break": "Nothing gets in or out by the pump's side.",
    "sweep": "Gas goes the short way: shut it.",
    "purge": "Gas goes the short way: shut it.",
}
PUMP: dict[str, tuple[str, str]] = {
    "pump-on": ("Start the pump", "Its valves shut: it pulls on itself first."),
    "pump-off": ("Stop the pump", "With the system shut off from it."),
    "vent-pump": ("Let air in at the pump", "Its oil is not drawn up, and it starts lighter the next time."),
    "ballast-open": ("Open the ballast", "The first water goes out as vapour instead of into the oil."),
    "ballast-shut": ("Close the ballast", "It keeps the pump from pulling deep."),
    "oil-change": ("Change the oil", "Warm, drained whole; the old oil is collected as waste."),
}


@dataclass(frozen=True)
class Step:
    """One step: a stable key, what to do, why, and cautions that no order avoids."""

    key: str
    title: str
    why: str = ""
    care: tuple[str, ...] = ()


def order(job: Job, goal: GoalKey) -> list[Step]:
    """Steps to a goal in their order, without a stop; where there is none, one step that says what is missing."""
    return list(_derived(job.scope, job.rig, job.habits, goal))


@lru_cache(maxsize=64)
def _derived(scope: Scope, rig: Rig, habits: Habits, goal: GoalKey) -> tuple[Step, ...]:
    # Asked with every reading of a run, and it depends on nothing but these.
    job = Job(scope=scope, rig=rig, habits=habits)
    if goal == "release-unit" and not any(s.holds_charge for s in scope.sections):
        return (Step("no-charge", "Release from a cylinder", "Nothing in this system keeps a charge of its own."),)
    try:
        if goal in ("sweep", "purge", "nitrogen-break"):
            return _with_nitrogen(job, goal)
        board = with_cylinder(job) if goal == "release-cylinder" else make_board(job)
    except ScopeError as e:
        return (Step("apart", "Put the rig together first", str(e)),)
    if board is None:
        why = (
            "Put a core tool with its valve on the liquid port. Without it a port stands open while its hose is moved."
        )
        return (Step("no-cylinder", "No valve lets a cylinder on", why),)
    moved = (_moved(board),) if goal == "release-cylinder" else ()
    return _or_missing((*moved, *_act(board, goal, habits)))


def _with_nitrogen(job: Job, goal: GoalKey) -> tuple[Step, ...]:
    """A goal for which nitrogen has to come on the rig: by its own bottle, or by the pump's hose moved to one."""
    board = with_nitrogen(job)
    if not board.pump_gone:
        return _or_missing((REGULATOR, *_act(board, goal, job.habits), *_by_passed(board, goal)))
    why = "Regulator backed off before the bottle is opened; a relief on it. Never air, never oxygen."
    there = Step("to-nitrogen", "Move the hose from the pump to the nitrogen's regulator", why)
    back = Step("to-pump", "Move the hose back to the pump", "Nothing is under pressure now, and nothing in vacuum.")
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
        raise ScopeError("nothing is left to be shut before the hose is moved")
    return found.steps[-1].after


REGULATOR = Step("regulator", "Regulator backed off, then open the bottle", "Dry nitrogen; a relief on the regulator.")


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
        names = ", ".join(part_words(board, n.removesuffix(".b")) for n in left)
        return (Step("by-passed", f"Not purged by it: {names}", "Blow it through before it is screwed on."),)
    labels = board.assembly.system.labels
    names = ", ".join(labels.get(n.removeprefix("system."), n) for n in left if n.startswith("system."))
    return (Step("by-passed", f"Not swept: {names}", "A dead end, or shut off: break a vacuum with nitrogen instead."),)


def _act(board: Board, goal: GoalKey, habits: Habits) -> tuple[Step, ...]:
    return _in_words(board, derive(board, start_of(board, goal), goal_for(goal, board, habits)), goal)


def _in_words(board: Board, found: Sequence, goal: GoalKey) -> tuple[Step, ...]:
    if not found.found:
        said = " ".join(f"{c.words}. {c.why}" for c in found.missing)
        return (Step("no-order", "No safe order with this rig", said),)
    steps = []
    told: set[str] = set()
    for s in found.steps:
        care = tuple(f"{c.words}. {c.why}" for c in s.said if c.severity == "caution" and c.key not in told)
        told |= {c.key for c in s.said}
        sweeping = s.touch.kind == "sweep"
        title, why = _swept(board, s.after) if sweeping else _touch(board, s.touch, s.said, goal)
        steps.append(Step(f"{s.touch.kind}:{s.touch.on}".rstrip(":"), title, why, care))
    return tuple(steps)


def _swept(board: Board, state: State) -> tuple[str, str]:
    """How long a sweep runs, and what it passes."""
    shares = flow_shares(board, state.opened, board.taps[tap_of(board)], state.loose)
    labels = board.assembly.system.labels
    passed = [labels[n.removeprefix("system.")] for n in shares if shares[n] >= LEAST_SHARE and n.startswith("system.")]
    hoses = [
        part_words(board, p.id)
        for p in board.job.rig.parts
        if isinstance(p, HosePart) and shares.get(f"{p.id}.b", 0.0) >= LEAST_SHARE
    ]
    through = ", ".join(dict.fromkeys([*hoses, *(f"the {x}" for x in passed)]))
    whole = minutes(board, shares)
    long = f"{whole:.0f} min" if whole < 90 else f"{whole / 60:.1f} h"
    return f"Let it flow slowly, {long}", f"Through {through}. Three changes of gas at about 9 l/min (estimate)."


def _moved(board: Board) -> Step:
    """Getting the cylinder on, before the derived touches."""
    if board.pump_gone:
        return Step("move", "Move the hose from the pump to the cylinder", "Every valve to the system stays shut.")
    rig = board.job.rig
    part = next((p for p in rig.parts if p.kind == "cylinder"), None)
    hose = rig.get(part.on) if part is not None and part.on else None
    tool = rig.get(hose.on) if hose is not None and hose.on else None
    port = board.job.scope.port(tool.port) if tool is not None and tool.port else None
    if hose is None or port is None:
        return Step("move", "Cylinder on the scale, upright as it says on it", "Its hose is on already.")
    return Step("move", f"Move the {port.words()}'s hose from the pump's side to the cylinder", "Its tool stays shut.")


def _touch(board: Board, t: Touch, said: tuple[Consequence, ...], goal: GoalKey) -> tuple[str, str]:
    """Title and reason of one touch."""
    scope = board.job.scope
    gate = board.gates.get(t.on)
    label = gate.label if gate is not None else ""
    match t.kind:
        case "shut" if gate is not None and gate.kind == "cylinder":
            return "Shut the cylinder's valve", "Once the scale shows the weight, or a little short; trim it running."
        case "open" if gate is not None and gate.kind == "cylinder":
            return "Zero the scale, then open the cylinder's valve", _weigh(scope)
        case "open" if gate is not None and gate.kind == "nitrogen":
            return "Open the nitrogen, a slow flow", "By the regulator: a breath at the joint, no more."
        case "shut" if gate is not None and gate.kind == "nitrogen":
            return "Shut the nitrogen", "The flow, or what is over, dies away."
        case "crack" if gate is not None and gate.kind == "nitrogen":
            why = "By the dial, to 0 gauge and not over. It carries heat in and thins what is left."
            return "Crack the nitrogen until the system stands at 0 gauge", why
        case "loosen":
            return f"Loosen {joint_words(board, t.on)}", "Half a turn: the gas goes out here. Goggles."
        case "tighten":
            return (
                f"Tighten {joint_words(board, t.on).replace('a joint', 'the joint')}",
                "Hand tight on a gasket, as it was.",
            )
        case "work":
            return f"Shut {label} and open it again", "The gas caught round its ball comes out. Slowly."
        case "open" if gate is not None and gate.kind == "service":
            return f"Open {label} fully", "Back-seat without force; the right hex key, long enough."
        case "open" if t.on in gauge_valves(board):
            return f"Open {label}", "Nothing is under pressure now."
        case "open":
            return f"Open {label}", _where_to(board, t) if goal == "release-cylinder" else OPENED.get(goal, "")
        case "shut" if gate is not None and gate.kind == "port":
            return f"Shut {label}", "It has a stem of its own instead of a core."
        case "shut":
            return f"Shut {label}", _why_shut(board, t, goal)
        case "crack":
            return f"Crack {label}, a quarter turn", "Let a little of the unit's charge in, then wait."
        case "purge":
            return "Purge the hose at the tool, a second", "The air in it goes out, not into the system. Gloves."
        case "see-pressure":
            return "See positive pressure at the ports", f"A few psi. {NEVER}"
        case "core-in":
            port = scope.port(t.on)
            words = port.words() if port else t.on
            return f"Put the core back at the {words}, through its tool", "Under pressure only. New cores are cheap."
        case "take-off":
            return f"Take off {part_words(board, t.on)}", _whiff(said)
        case "cap":
            port = scope.port(t.on)
            words = port.words() if port else t.on
            return f"Cap the {words}", "Bubble or electronic check first; a trace of lubricant on the cap's seal."
        case "pump-on" if goal == "draw":
            return "Start the pump", "Everything is open to it; the air goes first, with the exhaust led outside."
        case _:
            return PUMP[t.kind]


def _weigh(scope: Scope) -> str:
    charge = charge_to_weigh(scope)
    weigh = f"{charge.to_weigh:.2f} kg to weigh." if charge else "Weigh it in to the nameplate."
    return f"{weigh} Zeotropic: as liquid only." if REFRIGERANTS[scope.refrigerant].zeotropic else weigh


def _where_to(board: Board, t: Touch) -> str:
    """Where a cylinder's refrigerant goes by this valve."""
    gate = board.gates[t.on]
    for n in board.ports:
        port = board.gates[f"port:{n}"]
        if {port.a, port.b} & {gate.a, gate.b}:
            side = board.job.scope.port(n)
            if side is not None and side.side == "suction":
                return "The suction side: throttled, a little at a time, as vapour; a zeotrope as liquid that flashes."
            if side is not None and side.side == "discharge":
                return (
                    "By the discharge side, with the compressor off; the liquid line is better where its port is free."
                )
            return "Liquid into the liquid line; the suction side stays shut."
    return "The refrigerant comes on as far as the next shut valve."


def _why_shut(board: Board, t: Touch, goal: GoalKey) -> str:
    gate = board.gates[t.on]
    if t.on in gauge_valves(board) and goal in ("sweep", "purge", "nitrogen-break"):
        return "The gauge is kept from pressure."
    if goal in SHUT:
        return SHUT[goal]
    if {gate.a, gate.b} & set(board.gauges.values()):
        return "Refrigerant and oil foul the gauge's sensor."
    return "It stays shut until what hangs on it is off."


def part_words(board: Board, part: str) -> str:
    """A part by the port it serves."""
    rig = board.job.rig
    p = rig.get(part)
    if p is None:
        return part
    above = rig.get(p.on) if p.on else None
    near = [p, *([above] if above is not None else []), *rig.children(part)]
    port = next((board.job.scope.port(x.port) for x in near if x.port), None)
    where = f" at the {port.words()}" if port is not None else ""
    if p.kind == "hose":
        return f"the hose{where} ({hose_label(p)})"
    if p.kind == "gauge":
        return "the micron gauge"
    return f"the {'core tool' if p.kind == 'tool' else p.kind}{where}"


def _whiff(said: tuple[Consequence, ...]) -> str:
    notes = [f"{c.words}. {c.why}" for c in said if c.severity == "note"]
    return notes[0] if notes else "What it stood on is shut, or holds by its own core."
