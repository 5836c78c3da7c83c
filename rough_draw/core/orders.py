"""Orders of touches for a sheet's rig, derived and put in words with their reasons."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from rough_draw.core.board import Board, make_board
from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.charge import charge_to_weigh
from rough_draw.core.goals import GoalKey, goal_for, start_of, with_cylinder
from rough_draw.core.interlock import Consequence, Touch
from rough_draw.core.job import Job
from rough_draw.core.rig import Rig
from rough_draw.core.rigbuild import hose_label
from rough_draw.core.scope import Scope
from rough_draw.core.sequence import Sequence, derive
from rough_draw.core.system import ScopeError

NEVER = "Never open a port before there is positive pressure in it."

OPENED: dict[GoalKey, str] = {
    "draw": "All is at the atmosphere still: nothing can come back.",
    "check-hold": "The pump has kept running: nothing comes back.",
    "oil-change": "Only now, with the pump pulling again.",
}
SHUT: dict[GoalKey, str] = {
    "check-hold": "A short hold with the pump running on: the gauge says what the system does alone.",
    "hold": "Isolate first, pump off second.",
    "oil-change": "The vacuum stays in the system while the pump stands.",
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
    return list(_derived(job.scope, job.rig, goal))


@lru_cache(maxsize=64)
def _derived(scope: Scope, rig: Rig, goal: GoalKey) -> tuple[Step, ...]:
    # Asked with every reading of a run, and it depends on nothing but these.
    job = Job(scope=scope, rig=rig)
    if goal == "release-unit" and not any(s.holds_charge for s in scope.sections):
        return (Step("no-charge", "Release from a cylinder", "Nothing in this system keeps a charge of its own."),)
    try:
        board = with_cylinder(job) if goal == "release-cylinder" else make_board(job)
    except ScopeError as e:
        return (Step("apart", "Put the rig together first", str(e)),)
    if board is None:
        why = (
            "Put a core tool with its valve on the liquid port. Without it a port stands open while its hose is moved."
        )
        return (Step("no-cylinder", "No valve lets a cylinder on", why),)
    found = derive(board, start_of(board, goal), goal_for(goal))
    return _in_words(board, found, goal)


def _in_words(board: Board, found: Sequence, goal: GoalKey) -> tuple[Step, ...]:
    if not found.found:
        said = " ".join(f"{c.words}. {c.why}" for c in found.missing)
        return (Step("no-order", "No safe order with this rig", said),)
    steps = [_moved(board)] if goal == "release-cylinder" else []
    told: set[str] = set()
    for s in found.steps:
        care = tuple(f"{c.words}. {c.why}" for c in s.said if c.severity == "caution" and c.key not in told)
        told |= {c.key for c in s.said}
        title, why = _touch(board, s.touch, s.said, goal)
        steps.append(Step(f"{s.touch.kind}:{s.touch.on}".rstrip(":"), title, why, care))
    return tuple(steps)


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
        case "open" if gate is not None and gate.kind == "service":
            return f"Open {label} fully", "Back-seat without force; the right hex key, long enough."
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
            return f"Take off {_part(board, t.on)}", _whiff(said)
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
    if goal in SHUT:
        return SHUT[goal]
    gate = board.gates[t.on]
    if {gate.a, gate.b} & set(board.gauges.values()):
        return "Refrigerant and oil foul the gauge's sensor."
    return "It stays shut until what hangs on it is off."


def _part(board: Board, part: str) -> str:
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
