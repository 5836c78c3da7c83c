"""A charge from a cylinder: weighed in, started, trimmed, the hose emptied inward, the rig taken off."""

from __future__ import annotations

from collections.abc import Iterator

from rough_draw.core.interlock.charge_moves import by_ports, reaches
from rough_draw.core.interlock.charge_routes import (
    air_in_hose,
    charged_ports,
    filled_rooms,
    king_valves,
    liquid_ways,
    low_route,
    low_way,
    route_valves,
    suction_valves,
    tap_of,
)
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.disassembly import rig_left, unrig
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.reachability import gauge_valves, valves_of
from rough_draw.core.interlock.release_goals import not_opened, opening, services, to_open
from rough_draw.core.interlock.running import is_low
from rough_draw.core.sheet.habits import Habits


def release_cylinder_goal(habits: Habits) -> Goal:
    """A charge from the cylinder on the rig: weighed in, started, trimmed, the hose emptied inward, the rig off."""

    def weighed(board: Board, state: State) -> int:
        low = sum(state.gas[r][2] < 0.9 * board.atmosphere for r in filled_rooms(board))
        side = 0 if "weigh-in" in state.done else sum(v in state.opened for v in suction_valves(board))
        return low + side + (not state.seen) + ("weigh-in" not in state.done) + ("zero-scale" not in state.done)

    def closed(board: Board, state: State) -> int:
        return weighed(board, state) + sum(n in state.opened for n in valves_of(board, "cylinder"))

    def started(board: Board, state: State) -> int:
        open_left = sum(n not in state.opened for n in to_open(board))
        return closed(board, state) + (not state.running) + open_left + len(_drawing(board, state))

    def trimmed(board: Board, state: State) -> int:
        tap = tap_of(board)
        wants = tap is not None and low_way(board, tap)
        return ("weigh-in" not in state.done) + (not state.running) + (wants and "trim" not in state.done)

    def emptied(board: Board, state: State) -> int:
        tap_open = sum(n in state.opened for n in valves_of(board, "cylinder"))
        tap = tap_of(board)
        wants = tap is not None and low_way(board, tap)
        return trimmed(board, state) + tap_open + (wants and bool(state.liquid))

    def ready(board: Board, state: State) -> int:
        """Everything of the rig closed again, service valves open and capped."""
        open_valves = sum(v in state.opened for v in valves_of(board))
        kings = sum(v not in state.opened and v not in board.shut for v in king_valves(board))
        return emptied(board, state) + open_valves + kings + not_opened(board, state)

    def off(board: Board, state: State) -> int:
        return emptied(board, state) + rig_left(board, state)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        if weighed(board, state):
            yield from _weighing(board, state)
        elif not state.running and closed(board, state):
            yield from _closing_taps(board, state)
        elif not state.running:
            yield from _starting(board, state, habits)
        elif trimmed(board, state):
            yield from _trimming(board, state)
        elif emptied(board, state):
            yield from _emptying(board, state)
        elif ready(board, state):
            yield from _making_ready(board, state, habits)
        else:
            yield from unrig(board, state)

    return Goal("release-cylinder", (weighed, closed, started, trimmed, emptied, ready, off), moves)


def _drawing(board: Board, state: State) -> list[str]:
    """Valves of the rig that are open to a port: closed before the system is started."""
    return [v for v in valves_of(board) if v in state.opened and v not in gauge_valves(board)]


def _closing_taps(board: Board, state: State) -> Iterator[Touch]:
    for n in valves_of(board, "cylinder"):
        if n in state.opened:
            yield Touch("shut", n)


def _weighing(board: Board, state: State) -> Iterator[Touch]:
    under = gauge_valves(board)
    for v in sorted(under & state.opened):
        yield Touch("shut", v)
        return
    for v in suction_valves(board):
        if v in state.opened and "weigh-in" not in state.done:
            yield Touch("shut", v)
            return
    tap = tap_of(board)
    if tap is None:
        return
    if air_in_hose(board, state, tap):
        yield Touch("purge", tap)
    elif "zero-scale" not in state.done:
        if tap not in state.opened:
            yield Touch("zero-scale", tap)
    elif tap not in state.opened:
        yield Touch("open", tap)
    elif "weigh-in" not in state.done:
        yield Touch("weigh-in", tap)
    if tap in state.opened:
        yield from _toward(board, state, [v for n in charged_ports(board, tap) for v in route_valves(board, tap, n)])
    if not state.seen and not any(state.gas[r][2] < 0.9 * board.atmosphere for r in filled_rooms(board)):
        yield Touch("see-pressure")


def _starting(board: Board, state: State, habits: Habits) -> Iterator[Touch]:
    if still := _drawing(board, state):
        yield from (Touch("shut", v) for v in still)
        return
    left = [n for n in services(board, habits) if n not in state.opened]
    if left:
        yield Touch("open", left[0])
        return
    yield Touch("start")


def _toward(board: Board, state: State, wanted: list[str]) -> Iterator[Touch]:
    """The next valve on a way that is still closed."""
    left = next((v for v in wanted if v not in state.opened), None)
    if left is not None:
        yield Touch("open", left)


def _opening_low(board: Board, state: State, tap: str) -> Iterator[Touch]:
    """The next valve turned so that the cylinder's hose stands open to the low side alone."""
    found = low_route(board, tap)
    if found is None:
        return
    port, kings = found
    if kings and (still := [v for v in king_valves(board) if v in state.opened]):
        yield Touch("shut", still[0])
        return
    way = route_valves(board, tap, port)
    held = liquid_ways(board, state, tap) if tap not in state.opened else set()
    for v in valves_of(board):
        if v in state.opened and v not in way and v not in held and v not in gauge_valves(board):
            yield Touch("shut", v)
            return
    yield from _toward(board, state, [*way[::-1], *sorted(held)])


def _only_low(board: Board, state: State, tap: str) -> bool:
    ports = by_ports(board, state.opened, reaches(board, state, tap))
    return bool(ports) and all(is_low(board, state, n) for n in ports)


def _trimming(board: Board, state: State) -> Iterator[Touch]:
    tap = tap_of(board)
    if tap is None:
        return
    if _only_low(board, state, tap):
        yield Touch("trim", tap) if tap in state.opened else Touch("open", tap)
    else:
        yield from _opening_low(board, state, tap)


def _emptying(board: Board, state: State) -> Iterator[Touch]:
    tap = tap_of(board)
    if tap is None:
        return
    if tap in state.opened:
        yield Touch("shut", tap)
        return
    joined_all = state.liquid <= set(reaches(board, state, tap))
    if joined_all and _only_low(board, state, tap):
        yield Touch("empty-hose", tap)
    else:
        yield from _opening_low(board, state, tap)


def _making_ready(board: Board, state: State, habits: Habits) -> Iterator[Touch]:
    open_valves = [v for v in valves_of(board) if v in state.opened]
    if open_valves:
        yield from (Touch("shut", v) for v in open_valves)
        return
    for v in king_valves(board):
        if v not in state.opened and v not in board.shut:
            yield Touch("open", v)
            return
    yield from opening(board, state, habits)
