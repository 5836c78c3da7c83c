"""What a touch will do, before a hand makes it: consequences with their severity, from the board and what is in it."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import replace

from rough_draw.core.engine.walk import reached
from rough_draw.core.interlock.compartments import Board, Gate
from rough_draw.core.interlock.consequence import RANK, Consequence, Touch, air_words, compare, gauges_in, gravest_first
from rough_draw.core.interlock.gas_state import PRESSURE, VACUUM, WHIFF, State, in_vacuum, joined, settle, total
from rough_draw.core.interlock.sweep import LEAST_SHARE, flow_shares


def play(board: Board, state: State, touch: Touch) -> tuple[State, list[Consequence]]:
    """Make a touch: the state after it, and what follows from it, the gravest first."""
    after, said = _do(board, state, touch)
    said = [*said, *compare(board, state, after)]
    unique = {c.key: c for c in sorted(said, key=lambda c: -RANK[c.severity])}
    return after, gravest_first(unique.values())


def _do(board: Board, state: State, t: Touch) -> tuple[State, list[Consequence]]:
    match t.kind:
        case "open":
            return settle(board, replace(state, opened=state.opened | {t.on}, vented=False)), _on_open(board, state, t)
        case "shut":
            after = replace(state, opened=state.opened - {t.on})
            return after, _on_shut(board, state, after, board.gates[t.on])
        case "crack":
            return _cracked(board, state, board.gates[t.on]), []
        case "pump-on":
            return _pump_on(board, state)
        case "pump-off":
            return _pump_off(board, state)
        case "vent-pump":
            said = air_words(board, state, joined(board, state.opened, board.pump), "air let in at the pump")
            return settle(board, replace(state, vented=True), air_at=board.pump), said
        case "ballast-open" | "ballast-shut":
            return replace(state, ballast=t.kind == "ballast-open"), []
        case "oil-change":
            return _oil_change(board, state)
        case "core-in" | "core-out":
            return _core(board, state, t)
        case "purge":
            return _purge(board, state, t.on)
        case "take-off":
            return _take_off(board, state, t.on)
        case "see-pressure":
            low = [
                r for r, room in enumerate(board.rooms) if room.system and total(state.gas[r]) < 1.05 * board.atmosphere
            ]
            why = "An open port would draw air."
            stop = Consequence("stop", "no-pressure", "There is no positive pressure yet", why)
            return replace(state, seen=True), [stop] if low else []
        case "cap":
            return replace(state, capped=state.capped | {t.on}), []
        case "loosen" | "tighten":
            return _joint(board, state, t)
        case "sweep":
            return _sweep(board, state, t.on)
        case "work":
            return _work(board, state, t.on)
        case "energise":
            why = "It has no cooling, and can arc at its terminals."
            stop = Consequence("stop", "compressor-in-vacuum", "The compressor would run in a vacuum", why)
            return state, [stop] if in_vacuum(board, state, range(len(board.rooms))) else []


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


def _on_open(board: Board, state: State, t: Touch) -> list[Consequence]:
    gate = board.gates[t.on]
    one, other = (joined(board, state.opened, x) for x in (gate.a, gate.b))
    said = []
    if board.pump in one | other and not state.pump and not board.pump_gone:
        rest = other if board.pump in one else one
        if in_vacuum(board, state, rest) and not state.vented:
            why = "A stopped vane pump leaks back at once. Start it first, or leave it shut off."
            said.append(
                Consequence("stop", "back-through-pump", "The stopped pump's air and oil go into the system", why)
            )
    if gate.kind == "service" and in_vacuum(board, state, one | other):
        why = "A quarter turn first: let a little in, then wait."
        said.append(Consequence("caution", "rush", "The whole charge would rush into the vacuum", why))
    if any(board.rooms[r].source == "refrigerant" and not board.rooms[r].kept for r in one | other):
        said += _charging(board, replace(state, opened=state.opened | {t.on}))
    return said


def _charging(board: Board, state: State) -> list[Consequence]:
    """A cylinder open to the rig: by which ports its liquid gets into the system."""
    source = next(r for r, x in enumerate(board.rooms) if x.source == "refrigerant" and not x.kept)
    rig = _within_rig(board, state.opened, source)
    sides = {
        board.job.scope.port(n).side  # type: ignore[union-attr]
        for n in board.ports
        if f"port:{n}" in state.opened and {board.gates[f"port:{n}"].a, board.gates[f"port:{n}"].b} & rig
    }
    could = _within_rig(board, frozenset(board.gates), source)
    every = {
        board.job.scope.port(n).side  # type: ignore[union-attr]
        for n in board.ports
        if {board.gates[f"port:{n}"].a, board.gates[f"port:{n}"].b} & could
    }
    if "suction" in sides and every - {"suction"}:
        why = "Liquid goes into the liquid line, the suction side shut off; the rest is trimmed in running."
        return [
            Consequence("stop", "liquid-to-compressor", "Liquid could reach the compressor by the suction side", why)
        ]
    if "suction" in sides:
        why = "Throttle it, a little at a time, as vapour; a zeotrope as liquid that flashes on the way."
        return [Consequence("caution", "suction-only", "The cylinder reaches only the suction side", why)]
    return []


def _within_rig(board: Board, opened: frozenset[str], start: int) -> Set[int]:
    """Rooms joined to ``start`` without going through the system."""
    return reached(start, lambda here: (r for r in board.beyond(here, opened) if not board.rooms[r].system))


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
            why = "It keeps what is in it now, and no gauge on the other side would say so."
            said.append(
                Consequence("caution", "trapped", f"The {', '.join(trapped)} is shut off before it is evacuated", why)
            )
        hoses = sum(board.rooms[r].hose_m for r in side)
        system = any(board.rooms[r].system for r in side)
        if state.pump and system and hoses > 0 and gate.kind == "valve" and total(after.gas[start]) < VACUUM:
            why = "They permeate: part of the rise is theirs."
            said.append(Consequence("caution", "hoses-in-hold", f"{hoses:g} m of hose stay in what is held", why))
        if state.pump and system and not gauges_in(board, side) and gauges_in(board, pump_side):
            why = "It goes on reading the pump's side."
            said.append(Consequence("caution", "gauge-outside", "The gauge is cut off from the system", why))
    return said


def _pump_on(board: Board, state: State) -> tuple[State, list[Consequence]]:
    group = joined(board, state.opened, board.pump)
    said = []
    if any(total(state.gas[r]) > PRESSURE * board.atmosphere for r in group):
        why = "It blows the oil out of the pump. Vent to 0 gauge first."
        said.append(Consequence("stop", "pressure-into-pump", "There is pressure where the pump draws", why))
    return settle(board, replace(state, pump=True, vented=False)), said


def _pump_off(board: Board, state: State) -> tuple[State, list[Consequence]]:
    group = joined(board, state.opened, board.pump)
    said = []
    if in_vacuum(board, state, group):
        why = "Isolate first, pump off second: a stopped pump lets its air and oil back into what it drew."
        said.append(
            Consequence("stop", "off-before-isolated", "Air and oil would come back from the stopped pump", why)
        )
    return replace(state, pump=False), said


def _oil_change(board: Board, state: State) -> tuple[State, list[Consequence]]:
    if state.pump:
        why = "Stop it, with the rest shut off from it."
        return state, [Consequence("stop", "oil-running", "The pump is running", why)]
    return replace(state, fresh_oil=True), []


def _core(board: Board, state: State, t: Touch) -> tuple[State, list[Consequence]]:
    name = f"port:{t.on}"
    gate = board.gates[name]
    inner = gate.b if board.rooms[gate.b].system else gate.a
    part = board.job.rig.get(board.ports.get(t.on, ""))
    said = []
    if part is None or part.kind != "tool" or part.id in state.off:
        why = "Only through a core tool, which keeps the port shut while the core moves."
        return state, [Consequence("stop", "core-less", f"{gate.label} would stand open".capitalize(), why)]
    if t.kind == "core-in":
        if total(state.gas[inner]) < board.atmosphere:
            why = "Positive pressure first: any leak past the tool then goes outward, and the seat can be checked."
            said.append(Consequence("stop", "core-in-vacuum", "The core would go back against a vacuum", why))
        elif not state.seen:
            why = "See it on the dial at the ports, not only on the way in."
            said.append(Consequence("stop", "not-seen", "Positive pressure has not been seen at the ports", why))
        return replace(state, opened=state.opened - {name}), said
    return settle(board, replace(state, opened=state.opened | {name})), said


def _purge(board: Board, state: State, source: str) -> tuple[State, list[Consequence]]:
    """Blow the air out of the hose on an open source, at its far end, with the port still shut."""
    group = joined(board, state.opened, board.fed(source))
    if source not in state.opened:
        why = "Open it first, with the port still shut."
        return state, [Consequence("stop", "purge-shut", "Nothing comes to purge with", why)]
    if any(board.rooms[r].system for r in group):
        why = "Shut it off from the system, then purge."
        return state, [Consequence("stop", "purge-open", "The hose is already open to the system", why)]
    gas = list(state.gas)
    for r in group:
        if not board.rooms[r].source:
            gas[r] = (0.0, gas[r][1] + gas[r][0], gas[r][2]) if gas[r][1] else (0.0, 0.0, gas[r][2] + gas[r][0])
    return replace(state, gas=tuple(gas)), []


def _joint(board: Board, state: State, t: Touch) -> tuple[State, list[Consequence]]:
    """A nut loosened half a turn, or tightened again."""
    if t.kind == "tighten":
        return settle(board, replace(state, loose=state.loose - {t.on})), []
    group = joined(board, state.opened, board.places[t.on])
    said = air_words(board, state, group, "air at the loosened joint")
    if any(state.gas[r][2] > WHIFF and (board.rooms[r].system or board.rooms[r].source) for r in group):
        why = "It is against the law, and it burns skin. Recover it first."
        said.append(Consequence("stop", "venting", "Refrigerant would be vented", why))
    elif any(total(state.gas[r]) > PRESSURE * board.atmosphere for r in group):
        why = "Let the pressure down first: it comes out with a jet."
        said.append(Consequence("caution", "loosened-under-pressure", "There is pressure behind the joint", why))
    return settle(board, replace(state, loose=state.loose | {t.on})), said


def _sweep(board: Board, state: State, tap: str) -> tuple[State, list[Consequence]]:
    """A slow flow for some minutes from an open tap to what is loosened."""
    shares = flow_shares(board, state.opened, board.taps[tap], state.loose) if tap in state.opened else {}
    passed = frozenset(n for n, share in shares.items() if share >= LEAST_SHARE)
    if not passed:
        why = "The bottle has to be open, and a joint loosened at the far end."
        return state, [Consequence("stop", "no-flow", "Nothing flows", why)]
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


def _take_off(board: Board, state: State, part: str) -> tuple[State, list[Consequence]]:
    """Unscrew a part: where it was stands open to the air; a port whose core it pushed springs shut."""
    own = [n for n, p in board.ports.items() if p == part]
    opened = state.opened - {f"port:{n}" for n in own if f"port:{n}" in board.sprung}
    here = replace(state, opened=opened, off=state.off | {part})
    end = board.ends[part]
    group = joined(board, opened, end)
    said = air_words(board, here, group, "air through the open end")
    loss = [r for r in group if state.gas[r][2] > 0.5 * board.atmosphere and not board.rooms[r].source]
    if any(board.rooms[r].source == "refrigerant" or board.rooms[r].system for r in group if state.gas[r][2] > WHIFF):
        why = "It is against the law, and it burns skin. Shut it off, or put the core back first."
        said.append(Consequence("stop", "venting", "Refrigerant would be vented", why))
    elif loss:
        ml = sum(board.rooms[r].volume for r in loss) * 1e6
        said.append(Consequence("note", "whiff", f"The {ml:.0f} ml behind it goes off", "Gloves; keep clear."))
    if own and not state.seen and not said:
        why = "Positive pressure first: any slip then goes outward."
        said.append(Consequence("caution", "not-seen", "Positive pressure has not been seen at the ports", why))
    for n in own:
        if f"port:{n}" in opened:
            why = "Its core is out: put it back through the tool first."
            said.append(Consequence("stop", "port-open", f"The {n.replace('-', ' ')} port would stand open", why))
    return settle(board, here, air_at=end), said
