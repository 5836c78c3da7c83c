"""What is in each compartment of the board: gases that mix over open gates, are pumped away or come from a source."""

from __future__ import annotations

from collections.abc import Iterable, Set
from dataclasses import dataclass, replace

from rough_draw.core.engine.walk import reached
from rough_draw.core.interlock.compartments import Board

Gas = tuple[float, float, float]
"""Air, nitrogen, refrigerant in a room, Pa."""

PUMPED: Gas = (25.0, 0.0, 0.0)
VACUUM = 5_000.0
"""Under this a room counts as evacuated, Pa."""
PRESSURE = 1.15
"""Over this many atmospheres a room counts as under pressure."""
LIQUID = 1.5
"""Over this many atmospheres of refrigerant what comes out of a liquid port is liquid; a crack gives less."""
WHIFF = 100.0
"""Partial pressure of refrigerant from which a sensor is fouled, Pa."""


@dataclass(frozen=True, kw_only=True)
class State:
    """Everything a touch can change: gas by room, parts ``off``, ports ``capped``, pressure ``seen`` at the ports.

    ``loose``: nodes where a joint is loosened. ``swept``: nodes that nitrogen has flowed through. ``worked``: valves
    that were shut and opened once. ``plunged``: core tools with their plunger on the hose end; ``through``: those whose
    ball is open behind it. ``liquid``: rooms of the rig full of liquid refrigerant. ``running``: the system runs.
    ``done``: what changes no gas: a scale zeroed, a charge weighed in or trimmed, caps on stems, ports checked.
    """

    opened: frozenset[str]
    gas: tuple[Gas, ...]
    pump: bool = False
    ballast: bool = False
    off: frozenset[str] = frozenset()
    capped: frozenset[str] = frozenset()
    vented: bool = False
    fresh_oil: bool = False
    seen: bool = False
    loose: frozenset[str] = frozenset()
    swept: frozenset[str] = frozenset()
    worked: frozenset[str] = frozenset()
    plunged: frozenset[str] = frozenset()
    through: frozenset[str] = frozenset()
    liquid: frozenset[int] = frozenset()
    running: bool = False
    done: frozenset[str] = frozenset()

    def with_done(self, what: str) -> State:
        """The state with one more of the things that change no gas."""
        return replace(self, done=self.done | {what})

    def key(self, atmosphere: float) -> tuple[object, ...]:
        """What makes two states the same for the planner: levels instead of figures."""
        return (
            self.opened,
            self.pump,
            self.ballast,
            self.off,
            self.capped,
            self.vented,
            self.fresh_oil,
            self.seen,
            self.loose,
            self.swept,
            self.worked,
            self.plunged,
            self.through,
            self.liquid,
            self.running,
            self.done,
            tuple(_level(g, atmosphere) for g in self.gas),
        )


def total(gas: Gas) -> float:
    """Pressure, Pa, of a room."""
    return gas[0] + gas[1] + gas[2]


def _level(gas: Gas, atmosphere: float) -> tuple[int, int, bool]:
    p = total(gas)
    level = 0 if p < VACUUM else 1 if p < 0.9 * atmosphere else 2 if p < PRESSURE * atmosphere else 3
    return level, gas.index(max(gas)) if p > 0 else 0, gas[0] > VACUUM


def before_the_draw(board: Board) -> State:
    """Everything screwed on and shut as the sheet has it, air in rig and system, the pump stopped."""
    gas = tuple(_supply(board, n) if r.source else (board.atmosphere, 0.0, 0.0) for n, r in enumerate(board.rooms))
    return State(opened=frozenset(g for g in board.gates if g not in board.shut), gas=gas)


def drawn_down(board: Board) -> State:
    """In the draw: the pump runs, all it reaches is evacuated."""
    return settle(board, replace(before_the_draw(board), pump=True))


def held(board: Board, valves: tuple[str, ...]) -> State:
    """After the hold: isolated at ``valves``, the pump stopped, air let into its side."""
    drawn = drawn_down(board)
    state = settle(board, replace(drawn, opened=drawn.opened - set(valves)))
    state = replace(state, pump=False, vented=True)
    return settle(board, state, air_at=board.pump)


def carried(old: Board, state: State, new: Board) -> State:
    """A state on a board where a hose has been moved: the same valves, the same contents, air in the moved end."""
    # A valve that was not there before was capped, and is closed.
    opened = {n for n in state.opened if n in new.gates} | {
        n for n, g in new.gates.items() if n not in old.gates and n not in new.shut and g.kind != "valve"
    }
    node = {room: n for n, room in new.places.items() if n in old.places}
    air: Gas = (new.atmosphere, 0.0, 0.0)
    gas = tuple(
        _supply(new, r) if room.source else air if r == new.pump or r not in node else state.gas[old.places[node[r]]]
        for r, room in enumerate(new.rooms)
    )
    return settle(new, replace(state, opened=frozenset(opened), gas=gas, pump=False))


def _supply(board: Board, room: int) -> Gas:
    r = board.rooms[room]
    return {
        "air": (r.supply, 0.0, 0.0),
        "nitrogen": (0.0, r.supply, 0.0),
        "refrigerant": (0.0, 0.0, r.supply),
    }[r.source or "air"]


def joined(board: Board, opened: frozenset[str], start: int) -> frozenset[int]:
    """Rooms that open gates join to ``start``, itself among them."""
    groups = board.found.get(opened)
    if groups is None:
        groups = board.found[opened] = _groups(board, opened)
    return groups[start]


def _groups(board: Board, opened: frozenset[str]) -> tuple[frozenset[int], ...]:
    """For every room, the rooms it is joined to."""
    found: dict[int, frozenset[int]] = {}
    for start in range(len(board.rooms)):
        if start in found:
            continue
        group = reached(start, lambda here: board.beyond(here, opened))
        found |= dict.fromkeys(group, frozenset(group))
    return tuple(found[r] for r in range(len(board.rooms)))


def in_vacuum(board: Board, state: State, rooms: Iterable[int]) -> bool:
    """Whether any of these rooms is a part of the system that is evacuated."""
    return any(board.rooms[r].system and total(state.gas[r]) < VACUUM for r in rooms)


def settle(board: Board, state: State, air_at: int | None = None) -> State:
    """Let pressures even out over open gates; a running pump empties what it reaches; ``air_at`` stands open to air."""
    gas = list(state.gas)
    seen: set[int] = set()
    loose = {board.places[n] for n in state.loose}
    ends = {board.ends[p] for p in state.off if p in board.ends}
    for start in range(len(gas)):
        if start in seen:
            continue
        group = joined(board, state.opened, start)
        seen |= group
        vented = not group.isdisjoint(loose)
        open_end = not group.isdisjoint(ends)
        if (
            len(group) == 1
            and start != air_at
            and not (vented or open_end)
            and not (state.pump and start == board.pump)
        ):
            continue
        sources = [r for r in group if board.rooms[r].source]
        if air_at in group or board.air in group or open_end:
            mixed: Gas = (board.atmosphere, 0.0, 0.0)
        elif vented:
            mixed = _level_with_air(board, gas, group)
        elif sources:
            mixed = _filled(board, gas, group, max(sources, key=lambda r: board.rooms[r].supply))
        elif state.pump and board.pump in group:
            mixed = PUMPED
        else:
            volume = sum(board.rooms[r].volume for r in group)
            mixed = tuple(sum(gas[r][k] * board.rooms[r].volume for r in group) / volume for k in range(3))  # type: ignore[assignment]
        for r in group:
            gas[r] = _supply(board, r) if board.rooms[r].source else mixed
    return replace(state, gas=tuple(gas), liquid=state.liquid | _filling(board, state, gas))


def within_rig(board: Board, opened: frozenset[str], start: int) -> Set[int]:
    """Rooms joined to ``start`` without going through the system."""
    return reached(start, lambda here: (r for r in board.beyond(here, opened) if not board.rooms[r].system))


def _filling(board: Board, state: State, gas: list[Gas]) -> Set[int]:
    """Rooms of the rig that fill with liquid: from an open cylinder, or by a liquid port from a charged system."""
    found: set[int] = set()
    for name, g in board.gates.items():
        if name not in state.opened:
            continue
        if g.kind == "cylinder":
            found |= within_rig(board, state.opened, board.fed(name))
        elif g.kind == "port" and name.removeprefix("port:") in board.liquid_ports:
            inner, outer = (g.a, g.b) if board.rooms[g.a].system else (g.b, g.a)
            if gas[inner][2] > LIQUID * board.atmosphere:
                found |= within_rig(board, state.opened, outer)
    return found & board.hollow


def _level_with_air(board: Board, gas: list[Gas], group: Set[int]) -> Gas:
    """What stands open through a loosened joint: what was over the atmosphere goes out, air makes up the rest."""
    own = [r for r in group if not board.rooms[r].source]
    volume = sum(board.rooms[r].volume for r in own)
    mean = [sum(gas[r][k] * board.rooms[r].volume for r in own) / volume for k in range(3)] if own else [0.0] * 3
    down = min(1.0, board.atmosphere / max(sum(mean), 1.0))
    a, n, f = (x * down for x in mean)
    return (a + board.atmosphere - (a + n + f), n, f)


def _filled(board: Board, gas: list[Gas], group: Set[int], source: int) -> Gas:
    """What rooms hold once a source stands open to them: the air they had stays in them, squeezed."""
    own = [r for r in group if not board.rooms[r].source]
    volume = sum(board.rooms[r].volume for r in own)
    air = sum(gas[r][0] * board.rooms[r].volume for r in own) / volume if own else 0.0
    supply = board.rooms[source].supply
    a, n, f = _supply(board, source)
    return (air, n and max(n - air, 0.0), f and max(f - air, 0.0)) if a == 0 else (supply, 0.0, 0.0)
