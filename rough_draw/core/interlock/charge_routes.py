"""Ways from a cylinder's hose through the rig: to the ports that take liquid, and to a running low side."""

from __future__ import annotations

from functools import lru_cache

from rough_draw.core.interlock.charge_moves import by_ports, reaches
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.gas_state import VACUUM, State, joined
from rough_draw.core.interlock.reachability import valves_of
from rough_draw.core.interlock.running import is_low
from rough_draw.core.model.isolation import valves_between


def tap_of(board: Board) -> str | None:
    """The cylinder's valve; None where there is no cylinder on the rig."""
    return next(iter(valves_of(board, "cylinder")), None)


def filled_rooms(board: Board) -> list[int]:
    """Rooms of the system that the cylinder reaches when every valve of the rig is open."""
    opened = frozenset(n for n in board.gates if n not in board.shut) | set(valves_of(board))
    found: set[int] = set()
    for n in valves_of(board, "cylinder"):
        found |= joined(board, opened | {n}, board.gates[n].a)
    return [r for r in sorted(found) if board.rooms[r].system]


def air_in_hose(board: Board, state: State, tap: str) -> bool:
    """Whether what is joined to a source holds air."""
    group = joined(board, state.opened, board.fed(tap))
    return any(state.gas[r][0] > VACUUM for r in group if not board.rooms[r].source)


def low_way(board: Board, tap: str) -> bool:
    """Whether the cylinder reaches the low side of the running system: by a suction port, or with a king or liquid
    service valve closed."""
    return low_route(board, tap) is not None


def king_valves(board: Board) -> list[str]:
    """Valves of the system that shut the high side off from the liquid line: what stands after them runs low."""
    scope = board.job.scope
    found = []
    for x in scope.links:
        name = f"system.{x.id}"
        if name in board.gates and x.kind in ("service-valve", "ball-valve", "solenoid"):
            ends = (scope.section(x.a), scope.section(x.b))
            if any(s.side == "liquid" for s in ends) and not any(s.side == "suction" for s in ends):
                found.append(name)
    return sorted(found)


@lru_cache(maxsize=32)
def suction_valves(board: Board) -> tuple[str, ...]:
    """Valves that lead to suction ports alone, where the cylinder reaches a better side: closed as liquid goes in."""
    tap = tap_of(board)
    if tap is None:
        return ()
    job, everything = board.job, frozenset(board.gates)
    could = by_ports(board, everything, reaches(board, State(opened=everything, gas=()), tap))
    ways = {n: valves_between(job, board.assembly, n) for n in could}
    low = [n for n in could if (p := job.scope.port(n)) is not None and p.side == "suction"]
    other = {v for n in could if n not in low for v in ways[n]}
    if len(low) == len(could):
        return ()
    return tuple(sorted({v for n in low for v in ways[n] if v not in other and v in board.gates}))


@lru_cache(maxsize=64)
def charged_ports(board: Board, tap: str) -> tuple[str, ...]:
    """Ports by which liquid goes in: all that the cylinder reaches but the suction side, or that where it is all."""
    everything = frozenset(board.gates)
    could = by_ports(board, everything, reaches(board, State(opened=everything, gas=()), tap))
    better = [n for n in could if (p := board.job.scope.port(n)) is not None and p.side != "suction"]
    return tuple(better or could)


@lru_cache(maxsize=256)
def route_valves(board: Board, tap: str, port: str) -> tuple[str, ...]:
    """Valves of the rig on the way from a cylinder's hose to a port, in their order."""
    gate = board.gates[f"port:{port}"]
    goal = gate.b if board.rooms[gate.a].system else gate.a
    return gates_between(board, board.fed(tap), goal)


def gates_between(board: Board, start: int, goal: int) -> tuple[str, ...]:
    """Valves on the way from one room of the rig to another, the system left out; () where there is none."""
    came: dict[int, tuple[int, str]] = {start: (start, "")}
    todo = [start]
    while todo and goal not in came:
        here = todo.pop(0)
        for name in board.near.get(here, ()):
            g = board.gates[name]
            far = g.b if g.a == here else g.a
            if g.kind == "valve" and far not in came and not board.rooms[far].system:
                came[far] = (here, name)
                todo.append(far)
    if goal not in came:
        return ()
    found: list[str] = []
    while goal != start:
        goal, name = came[goal]
        found.append(name)
    return tuple(found[::-1])


@lru_cache(maxsize=64)
def low_route(board: Board, tap: str) -> tuple[str, bool] | None:
    """The port by which the cylinder's hose is drawn empty, and whether the king valves have to be closed for it."""
    everything = frozenset(board.gates)
    ports = by_ports(board, everything, reaches(board, State(opened=everything, gas=()), tap))
    for closed in (frozenset[str](), frozenset(king_valves(board))):
        low = [n for n in ports if is_low(board, State(opened=everything - closed, gas=()), n)]
        if low:
            return low[0], bool(closed)
    return None


def liquid_ways(board: Board, state: State, tap: str) -> set[str]:
    """Valves between the cylinder's hose and what else of the rig holds liquid."""
    return {v for r in state.liquid for v in gates_between(board, board.fed(tap), r)}
