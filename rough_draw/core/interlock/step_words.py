"""A touch of a derived order in words: what to do and why, on this rig."""

from __future__ import annotations

from rough_draw.core.catalogue.rig_parts import SWEEP_FLOW
from rough_draw.core.charging.charge import charge_by, keeps_charge
from rough_draw.core.interlock.charge_routes import king_valves
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, Touch
from rough_draw.core.interlock.draw_goals import at_the_system
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.nitrogen import tap_of
from rough_draw.core.interlock.port_parts import PLUNGER
from rough_draw.core.interlock.reachability import gauge_valves
from rough_draw.core.interlock.release_goals import link_of
from rough_draw.core.interlock.sweep import LEAST_SHARE, flow_shares, free_ports, joint_words, minutes
from rough_draw.core.message import Message, Name, Value, listed, message
from rough_draw.core.message.figure import duration, flow, gauge_pressure, mass
from rough_draw.core.sheet.naming import hose_size
from rough_draw.core.sheet.rig import CylinderPart, HosePart, shows_pressure

WHY_OPEN: dict[GoalKey, str] = {
    "check-hold": "pump-kept-running",
    "oil-change": "pump-pulls-again",
    "sweep": "nitrogens-way",
    "purge": "nitrogens-way",
    "nitrogen-break": "joined-to-nitrogen",
    "retest": "pump-pulls-again",
    "swap-hose": "pump-pulls-again",
}
WHY_SHUT: dict[GoalKey, str] = {
    "check-hold": "short-hold",
    "hold": "isolate-first",
    "retest": "isolate-first",
    "end-cylinder": "stays-under-vacuum",
    "swap-hose": "vacuum-stays",
    "rig-up": "closed-at-first",
    "cores-out": "nothing-gets-out",
    "oil-change": "vacuum-stays",
    "nitrogen-break": "pump-side-closed",
    "sweep": "short-way",
    "purge": "short-way",
}
"""Why a valve is opened or closed on the way to a goal, by the keys of its sentences."""


def step_told(told: str, values: dict[str, Value]) -> tuple[Message, Message]:
    """A sentence of an order, and the reason that it brings along."""
    title = message(f"step-{told}", **values)
    return title, message(f"{title.key}.why", **values)


def _because(reason: str, **values: Value) -> Message:
    return message(f"because-{reason}", **values)


def swept_words(board: Board, state: State) -> tuple[Message, Message]:
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
    time = duration(60.0 * minutes(board, shares))
    return step_told("sweep", {"time": time, "through": through, "flow": flow(SWEEP_FLOW.value)})


def touch_words(
    board: Board, t: Touch, said: tuple[Consequence, ...], goal: GoalKey, after: State
) -> tuple[Message, Message]:
    """Title and reason of one touch, with the state after it."""
    if t.kind == "sweep":
        return swept_words(board, after)
    told, why, values = _told(board, t, said, goal, after)
    title = message(f"step-{told}", **values)
    return title, why if why is not None else message(f"{title.key}.why", **values)


Told = tuple[str, Message | None, dict[str, Value]]
"""The sentence of a touch, its reason where that is not the sentence's own, and what it is made on."""


def _told(board: Board, t: Touch, said: tuple[Consequence, ...], goal: GoalKey, after: State) -> Told:
    gate = board.gates.get(t.on)
    kind = gate.kind if gate is not None else None
    values: dict[str, Value] = {"what": gate.label} if gate is not None else {}
    port = board.job.scope.port(t.on)
    at_port: dict[str, Value] = {"port": port.words() if port else t.on}
    match t.kind:
        case "loosen" | "tighten":
            told = f"{t.kind}-port" if any(f"system.{p.section}" == t.on for p in free_ports(board)) else t.kind
            return told, None, {"joint": joint_words(board, t.on)}
        case "core-in" | "core-out" | "cap" | "check-port":
            return t.kind, None, at_port
        case "take-off" | "put-on":
            return _screwed(board, t, said, goal)
        case "open" | "shut" | "crack" | "stem-cap" | "work":
            return _turned(board, t, goal, kind, values, after)
        case "weigh-in" | "trim" | "purge" | "zero-scale" | "empty-hose" | "see-pressure":
            return _of_charge(board, t)
        case "pump-on" if goal in ("draw", "rig-alone"):
            return "pump-on-draw", None, {}
        case "watch-suction":
            return t.kind, None, {"zero": gauge_pressure(0.0)}
        case _:
            return t.kind, None, values


def _screwed(board: Board, t: Touch, said: tuple[Consequence, ...], goal: GoalKey) -> Told:
    """A part or a plunger, on or off."""
    if t.on.endswith(PLUNGER):
        tool = part_words(board, t.on.removesuffix(PLUNGER))
        way = "on" if t.kind == "put-on" else "off"
        return f"plunger-{way}" + ("-to-pull" if goal == "cores-out" and way == "on" else ""), None, {"what": tool}
    what: dict[str, Value] = {"what": part_words(board, t.on)}
    if t.kind == "put-on":
        return ("put-on-new" if goal == "swap-hose" else "put-on"), None, what
    return "take-off", _whiff(said), what


def _turned(board: Board, t: Touch, goal: GoalKey, kind: str | None, values: dict[str, Value], after: State) -> Told:
    """A valve opened, closed, cracked, worked or capped, with the state after it."""
    plunged = t.on in after.through
    if t.kind in ("crack", "stem-cap", "work"):
        return (
            (f"crack-{kind}" if kind in ("cylinder", "nitrogen") else t.kind),
            None,
            {
                **values,
                "zero": gauge_pressure(0.0),
            },
        )
    if kind in ("cylinder", "nitrogen"):
        upright = _upright(board) if (t.kind, kind) == ("open", "cylinder") else None
        return f"{t.kind}-{kind}", upright, {"zero": gauge_pressure(0.0)}
    if kind == "service":
        link = link_of(board, t.on)
        stem = link.stem if link is not None else "hex-key"
        if goal == "pump-down":
            return "shut-service", None, values
        return (f"open-service-{stem}" if t.kind == "open" else "shut-king"), None, values
    if t.on in king_valves(board) and goal in ("release-cylinder", "release-unit"):
        return ("open-king" if t.kind == "open" else "shut-king"), None, values
    if t.kind == "shut":
        return "shut", _because("stem-of-its-own") if kind == "port" else _why_shut(board, t, goal), values
    if after.running and not plunged:
        return "open", _because("low-side-now"), values
    return "open", _because("behind-the-plunger") if plunged else _why_open(board, t, goal), values


def _why_open(board: Board, t: Touch, goal: GoalKey) -> Message:
    if goal in ("release-cylinder", "release-unit"):
        return _where_to(board, t)
    if goal in ("draw", "rig-alone"):
        return _because("rig-at-its-floor" if t.on in at_the_system(board) else "one-at-a-time")
    if t.on in gauge_valves(board):
        return _because("no-pressure-now")
    return _because(WHY_OPEN.get(goal, "no-pressure-now"))


def _of_charge(board: Board, t: Touch) -> Told:
    """A step of the charge."""
    if t.kind == "see-pressure":
        shown = shows_pressure(board.job.rig)
        return ("see-pressure" if shown else "see-pressure-bring"), None, {"zero": gauge_pressure(0.0)}
    if t.kind == "weigh-in":
        return "weigh-in", _weigh(board), {}
    cylinder = board.job.rig.get(t.on)
    if t.kind == "zero-scale" and isinstance(cylinder, CylinderPart) and not cylinder.on_scale:
        return "zero-scale-first", None, {}
    if t.kind == "purge" and board.gates[t.on].kind == "nitrogen":
        return "purge-nitrogen", None, {}
    return t.kind, None, {}


def _upright(board: Board) -> Message:
    """How the cylinder stands so that liquid comes."""
    cylinder = next((p for p in board.job.rig.parts if isinstance(p, CylinderPart)), None)
    tube = cylinder.dip_tube if cylinder is not None else None
    told = "cylinder-ask" if tube is None else "cylinder-upright" if tube else "cylinder-inverted"
    return _because(told)


def _weigh(board: Board) -> Message:
    scope = board.job.scope
    way = "liquid" if scope.fluid.zeotropic else "plain"
    charge = charge_by(scope, "unit-charge" if keeps_charge(scope) else "cylinder")
    if charge is None:
        return _because("weigh-difference" if keeps_charge(scope) else "weigh-nameplate", way=way)
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
