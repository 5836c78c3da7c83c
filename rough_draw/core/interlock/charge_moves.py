"""Refrigerant from a cylinder: hose purged, scale zeroed, weighed in, started, trimmed, the hose emptied inward."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import replace

from rough_draw.core.catalogue.fluids import Refrigerant
from rough_draw.core.interlock.compartments import Board, Gate
from rough_draw.core.interlock.consequence import Consequence, Touch, caution, stop
from rough_draw.core.interlock.gas_state import State, in_vacuum, joined, within_rig
from rough_draw.core.interlock.reachability import system_rooms
from rough_draw.core.interlock.running import is_low
from rough_draw.core.sheet.rig import HosePart

Moved = tuple[State, list[Consequence]]
EMPTIED = 1.2
"""Atmospheres of vapour left in a hose that a running system has drawn empty."""


def moved(board: Board, state: State, t: Touch) -> Moved:
    """One step of a charge."""
    match t.kind:
        case "purge":
            return _purge(board, state, t.on)
        case "zero-scale":
            said = [stop("zero-open")] if t.on in state.opened else []
            return state.with_done("zero-scale"), said
        case "weigh-in":
            return state.with_done("weigh-in"), _weighing(board, state, t.on)
        case "start":
            return replace(state, running=True), starting(board, state)
        case "stop-unit":
            return replace(state, running=False), []
        case "trim":
            return state.with_done("trim"), _trimming(board, state, t.on)
        case _:
            return _empty_hose(board, state, t.on)


def fit_for_charge(hose: HosePart, refrigerant: Refrigerant) -> bool:
    """Whether a hose stands this refrigerant's pressure: as rated, or as one made for pressure."""
    if hose.rated_kpa is not None:
        return hose.rated_kpa * 1000.0 >= refrigerant.pressure_40c.value
    return hose.made_for == "pressure"


def unfit_hoses(board: Board, rooms: Set[int]) -> list[HosePart]:
    """Hoses in these rooms that are not rated for the refrigerant."""
    found = [board.job.rig.get(h) for r in rooms for h in board.hoses.get(r, ())]
    return [h for h in found if isinstance(h, HosePart) and not fit_for_charge(h, board.job.scope.fluid)]


def reaches(board: Board, state: State, source: str) -> Set[int]:
    """Rooms of the rig that are open to a cylinder."""
    return within_rig(board, state.opened, board.fed(source))


def by_ports(board: Board, opened: frozenset[str], rooms: Set[int]) -> list[str]:
    """Ports by which these rooms of the rig are open to the system."""
    return [
        n
        for n in sorted(board.ports)
        if f"port:{n}" in opened and {board.gates[f"port:{n}"].a, board.gates[f"port:{n}"].b} & rooms
    ]


def by_which_side(board: Board, state: State) -> list[Consequence]:
    """A cylinder open to the rig: through which hoses, and by which ports it gets into the system."""
    source = next(n for n, g in board.gates.items() if g.kind == "cylinder" and n in state.opened)
    rig = reaches(board, state, source)
    said = [stop("hose-unrated", part=h.id) for h in unfit_hoses(board, rig - _off(board, state))]
    ports = by_ports(board, state.opened, rig)
    if state.running:
        if any(not is_low(board, state, n) for n in ports):
            said.append(stop("back-to-cylinder"))
        elif ports:
            said.append(caution("throttle"))
        return said
    sides = {found.side for n in ports if (found := board.job.scope.port(n))}
    could = within_rig(board, frozenset(board.gates), board.fed(source))
    every = {found.side for n in by_ports(board, frozenset(board.gates), could) if (found := board.job.scope.port(n))}
    if "suction" in sides and every - {"suction"}:
        return [*said, stop("liquid-to-compressor")]
    return [*said, caution("suction-only")] if "suction" in sides else said


def _off(board: Board, state: State) -> Set[int]:
    """Rooms at the ends of parts that are off."""
    return {board.ends[p] for p in state.off if p in board.ends}


def _purge(board: Board, state: State, source: str) -> Moved:
    """Blow the air out of the hose on a source at its far end, the port still shut: a second of a cracked valve."""
    group = joined(board, state.opened, board.fed(source))
    if any(board.rooms[r].system for r in group):
        return state, [stop("purge-open")]
    gas = list(state.gas)
    nitrogen = board.gates[source].kind == "nitrogen"
    for r in group:
        if not board.rooms[r].source:
            a, n, f = gas[r]
            gas[r] = (0.0, a + n, f) if nitrogen else (0.0, n, a + f)
    liquid = state.liquid if nitrogen else state.liquid | (group & board.hollow)
    said = [] if nitrogen else [stop("hose-unrated", part=h.id) for h in unfit_hoses(board, group)]
    return replace(state, gas=tuple(gas), liquid=liquid), said


def _weighing(board: Board, state: State, source: str) -> list[Consequence]:
    said = []
    if source not in state.opened or not by_ports(board, state.opened, reaches(board, state, source)):
        said.append(stop("nothing-flows"))
    if board.job.rig.get(source) is not None and "zero-scale" not in state.done:
        said.append(stop("scale-not-zeroed"))
    return said


def starting(board: Board, state: State) -> list[Consequence]:
    """Power to the compressor: never in a vacuum, never with a service valve closed."""
    said = []
    if in_vacuum(board, state, range(len(board.rooms))):
        said.append(stop("compressor-in-vacuum"))
    if any(g.kind == "service" and n not in state.opened and _drawn(board, g) for n, g in board.gates.items()):
        said.append(stop("service-closed"))
    return said


def _drawn(board: Board, gate: Gate) -> bool:
    """Whether the pump reached what lies behind a service valve."""
    return bool({gate.a, gate.b} & set(system_rooms(board)))


def _trimming(board: Board, state: State, source: str) -> list[Consequence]:
    ports = by_ports(board, state.opened, reaches(board, state, source))
    said = [] if state.running else [stop("not-running")]
    return said if ports and source in state.opened else [*said, stop("nothing-flows")]


def _empty_hose(board: Board, state: State, source: str) -> Moved:
    """What the hose and the manifold hold, drawn into the running system by its low side."""
    rooms = {r for r in reaches(board, state, source) if not board.rooms[r].source}
    ports = by_ports(board, state.opened, rooms)
    said: list[Consequence] = []
    if not state.running:
        said.append(stop("not-running"))
    elif source in state.opened:
        said.append(stop("cylinder-open"))
    elif not ports or any(not is_low(board, state, n) for n in ports):
        said.append(stop("not-the-low-side"))
    gas = list(state.gas)
    for r in rooms:
        if not board.rooms[r].system and not board.rooms[r].kept:
            gas[r] = (0.0, 0.0, EMPTIED * board.atmosphere)
    return replace(state, gas=tuple(gas), liquid=state.liquid - rooms), said
