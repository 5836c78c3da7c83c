"""What a touch will do, before a hand makes it: consequences with their severity, from the board and what is in it."""

from __future__ import annotations

from dataclasses import replace

from rough_draw.core.interlock import charge_moves, port_moves
from rough_draw.core.interlock.compartments import Board, Gate
from rough_draw.core.interlock.consequence import (
    RANK,
    Consequence,
    Touch,
    air_in,
    caution,
    compare,
    gauges_in,
    gravest_first,
    note,
    stop,
)
from rough_draw.core.interlock.gas_state import PRESSURE, VACUUM, WHIFF, State, in_vacuum, joined, settle, total
from rough_draw.core.interlock.port_moves import free_tool
from rough_draw.core.interlock.reachability import port_rooms
from rough_draw.core.interlock.sweep import LEAST_SHARE, flow_shares
from rough_draw.core.message.figure import gauge_pressure, length
from rough_draw.core.sheet.rig import shows_pressure


def play(board: Board, state: State, touch: Touch) -> tuple[State, list[Consequence]]:
    """Make a touch: the state after it, and what follows from it, the gravest first."""
    after, said = _do(board, state, touch)
    said = [*said, *compare(board, state, after)]
    unique = {c.key: c for c in sorted(said, key=lambda c: -RANK[c.severity])}
    return after, gravest_first(unique.values())


def _do(board: Board, state: State, t: Touch) -> tuple[State, list[Consequence]]:
    match t.kind:
        case "open" | "shut" if free_tool(board, state, t.on) is not None:
            return port_moves.ball(board, state, t)
        case "open":
            return settle(board, replace(state, opened=state.opened | {t.on}, vented=False)), _on_open(board, state, t)
        case "shut":
            after = replace(state, opened=state.opened - {t.on})
            return after, _on_shut(board, state, after, board.gates[t.on])
        case "crack":
            return _cracked(board, state, board.gates[t.on]), _air_with_charge(board, state, board.gates[t.on])
        case "pump-on":
            return _pump_on(board, state)
        case "pump-off":
            return _pump_off(board, state)
        case "vent-pump":
            said = air_in(board, state, joined(board, state.opened, board.pump), "pump")
            return settle(board, replace(state, vented=True), air_at=board.pump), said
        case "ballast-open" | "ballast-shut":
            return replace(state, ballast=t.kind == "ballast-open"), []
        case "oil-change":
            return _oil_change(board, state)
        case "core-in" | "core-out":
            return port_moves.core(board, state, t)
        case "take-off" | "put-on":
            return port_moves.screwed(board, state, t)
        case "purge" | "zero-scale" | "weigh-in" | "trim" | "empty-hose" | "start" | "stop-unit":
            return charge_moves.moved(board, state, t)
        case "see-pressure":
            return _see_pressure(board, state)
        case "cap":
            return replace(state, capped=state.capped | {t.on}), []
        case "loosen" | "tighten":
            return _joint(board, state, t)
        case "sweep":
            return _sweep(board, state, t.on)
        case "work":
            return _work(board, state, t.on)
        case "energise":
            dry = in_vacuum(board, state, range(len(board.rooms)))
            return state, [stop("compressor-in-vacuum")] if dry else []
        case _:
            # What changes no gas is only kept as done.
            return state.with_done(t.text), []


def _see_pressure(board: Board, state: State) -> tuple[State, list[Consequence]]:
    """Positive pressure at the ports: on something that shows it."""
    low = [r for r in port_rooms(board) if total(state.gas[r]) < 1.05 * board.atmosphere]
    said = [stop("no-pressure")] if low else []
    if not shows_pressure(board.job.rig):
        said.append(note("no-pressure-gauge"))
    return replace(state, seen=True), said


def _cracked(board: Board, state: State, gate: Gate) -> State:
    """A quarter turn and shut again: a little goes in, refrigerant to just over the atmosphere, nitrogen up to it."""
    side = board.fed(gate.name)
    at_source = gate.a if side == gate.b else gate.b
    nitrogen = board.rooms[at_source].source == "nitrogen"
    gas = list(state.gas)
    for r in joined(board, state.opened, side):
        if not board.rooms[r].source:
            a, n, f = gas[r]
            up = max(0.0, board.atmosphere - (a + n + f))
            gas[r] = (a, n + up, f) if nitrogen else (a, n, 1.3 * board.atmosphere)
    return replace(state, gas=tuple(gas))


def _air_with_charge(board: Board, state: State, gate: Gate) -> list[Consequence]:
    """A service valve opened to what was never evacuated: its air would stay in the charge."""
    if gate.kind != "service":
        return []
    rooms = [r for r in (gate.a, gate.b) if board.rooms[r].system and state.gas[r][0] > VACUUM]
    names = [n for r in rooms for n in board.rooms[r].sections]
    return [stop("air-with-charge", sections=", ".join(names))] if rooms else []


def _on_open(board: Board, state: State, t: Touch) -> list[Consequence]:
    gate = board.gates[t.on]
    one, other = (joined(board, state.opened, x) for x in (gate.a, gate.b))
    said = []
    if board.pump in one | other and not state.pump and not board.pump_gone:
        rest = other if board.pump in one else one
        if in_vacuum(board, state, rest) and not state.vented:
            said.append(stop("back-through-pump"))
    said += _air_with_charge(board, state, gate)
    if gate.kind == "service" and in_vacuum(board, state, one | other):
        said.append(caution("rush"))
    if any(board.rooms[r].source == "refrigerant" and not board.rooms[r].kept for r in one | other):
        said += charge_moves.by_which_side(board, replace(state, opened=state.opened | {t.on}))
    return said


def _on_shut(board: Board, state: State, after: State, gate: Gate) -> list[Consequence]:
    said = []
    pump_side = joined(board, after.opened, board.pump)
    for start in (gate.a, gate.b):
        side = joined(board, after.opened, start)
        if board.pump in side:
            continue
        trapped = [
            n for r in side for n in board.rooms[r].sections if board.rooms[r].system and total(after.gas[r]) > VACUUM
        ]
        if trapped and state.pump and gate.kind in ("valve", "section"):
            said.append(caution("trapped", sections=", ".join(trapped)))
        hoses = sum(board.rooms[r].hose_m for r in side)
        system = any(board.rooms[r].system for r in side)
        if state.pump and system and hoses > 0 and gate.kind == "valve" and total(after.gas[start]) < VACUUM:
            said.append(caution("hoses-in-hold", hoses=length(hoses)))
        if state.pump and system and not gauges_in(board, side) and gauges_in(board, pump_side):
            said.append(caution("gauge-outside"))
    return said


def _pump_on(board: Board, state: State) -> tuple[State, list[Consequence]]:
    group = joined(board, state.opened, board.pump)
    said = []
    if any(total(state.gas[r]) > PRESSURE * board.atmosphere for r in group):
        said.append(stop("pressure-into-pump", "start", zero=gauge_pressure(0.0)))
    return settle(board, replace(state, pump=True, vented=False)), said


def _pump_off(board: Board, state: State) -> tuple[State, list[Consequence]]:
    group = joined(board, state.opened, board.pump)
    said = []
    if in_vacuum(board, state, group):
        said.append(stop("off-before-isolated"))
    return replace(state, pump=False), said


def _oil_change(board: Board, state: State) -> tuple[State, list[Consequence]]:
    if state.pump:
        return state, [stop("oil-running")]
    return replace(state, fresh_oil=True), []


def _joint(board: Board, state: State, t: Touch) -> tuple[State, list[Consequence]]:
    """A nut loosened half a turn, or tightened again."""
    if t.kind == "tighten":
        return settle(board, replace(state, loose=state.loose - {t.on})), []
    group = joined(board, state.opened, board.places[t.on])
    said = air_in(board, state, group, "joint")
    if any(state.gas[r][2] > WHIFF and (board.rooms[r].system or board.rooms[r].source) for r in group):
        said.append(stop("venting", "joint"))
    elif any(total(state.gas[r]) > PRESSURE * board.atmosphere for r in group):
        said.append(caution("loosened-under-pressure"))
    return settle(board, replace(state, loose=state.loose | {t.on})), said


def _sweep(board: Board, state: State, tap: str) -> tuple[State, list[Consequence]]:
    """A slow flow for some minutes from an open tap to what is loosened."""
    shares = flow_shares(board, state.opened, board.taps[tap], state.loose) if tap in state.opened else {}
    passed = frozenset(n for n, share in shares.items() if share >= LEAST_SHARE)
    if not passed:
        return state, [stop("no-flow")]
    gas = list(state.gas)
    for n in passed:
        r = board.places[n]
        if not board.rooms[r].source:
            gas[r] = (0.0, board.atmosphere, 0.0)
    return replace(state, gas=tuple(gas), swept=state.swept | passed), []


def _work(board: Board, state: State, valve: str) -> tuple[State, list[Consequence]]:
    """A ball valve shut and opened again: what stands trapped round its ball gets out."""
    between = replace(state, opened=state.opened - {valve})
    after = settle(board, replace(state, opened=state.opened | {valve}, worked=state.worked | {valve}))
    said = [c for c in compare(board, between, after) if c.severity == "stop"]
    return after, said
