"""Goals of the work as phases over the interlock, and where each begins. What schools differ in is a setting."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Literal

from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.disassembly import rig_left, shut_off, unrig
from rough_draw.core.interlock.gas_state import PUMPED, VACUUM, State, before_the_draw, drawn_down, held, joined, total
from rough_draw.core.interlock.nitrogen import break_goal, sweep_goal
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.reachability import apart, evacuated, gauge_valves, together, turns, valves_of, ways_shut
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart, ToolPart

GoalKey = Literal[
    "sweep",
    "purge",
    "draw",
    "valve-flush",
    "check-hold",
    "hold",
    "oil-change",
    "nitrogen-break",
    "release-unit",
    "release-cylinder",
]


def draw_goal(habits: Habits) -> Goal:
    """Everything joined to a running pump, ballast open where that is the habit."""
    ballast = habits.ballast != "never"

    def unmet(board: Board, state: State) -> int:
        return together(board, state) + ways_shut(board, state) + (not state.pump) + (ballast and not state.ballast)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        yield from (t for t in turns(board, state) if t.kind == "open")
        if ballast and not state.ballast:
            yield Touch("ballast-open")
        if not state.pump:
            yield Touch("pump-on")

    return Goal("draw", (unmet,), moves)


def _pump_work(board: Board, state: State) -> Iterator[Touch]:
    yield from turns(board, state)
    if state.pump:
        yield Touch("pump-off")
    else:
        yield Touch("pump-on")
        if not state.vented:
            yield Touch("vent-pump")


HOLD = Goal(
    "hold",
    (
        apart,
        lambda b, s: apart(b, s) + s.pump,
        lambda b, s: apart(b, s) + s.pump + (not s.vented),
    ),
    _pump_work,
)
CHECK_HOLD = Goal(
    "check-hold",
    (lambda b, s: apart(b, s) + (not s.pump), lambda b, s: together(b, s) + ways_shut(b, s) + (not s.pump)),
    turns,
)


def _to_work(board: Board) -> list[str]:
    """Ball valves between pump and ports, from the pump outward."""
    rig = board.job.rig
    depth = {p.id: len(rig.chain(p)) for p in rig.parts}
    mine = [v for v in valves_of(board) if v not in gauge_valves(board) and v != rig.pump.id]
    return sorted(mine, key=lambda v: depth.get(board.gates[v].part, 0))


VALVE_FLUSH = Goal(
    "valve-flush",
    (lambda b, s: sum(v not in s.worked for v in _to_work(b)),),
    lambda b, s: [Touch("work", v) for v in _to_work(b) if v not in s.worked][:1],
)


def _oil_moves(board: Board, state: State) -> Iterator[Touch]:
    yield from _pump_work(board, state)
    if not state.fresh_oil:
        yield Touch("oil-change")


OIL_CHANGE = Goal(
    "oil-change",
    (
        lambda b, s: apart(b, s) + s.pump,
        lambda b, s: apart(b, s) + (not s.vented),
        lambda b, s: apart(b, s) + (not s.fresh_oil),
        lambda b, s: together(b, s) + ways_shut(b, s) + (not s.pump),
    ),
    _oil_moves,
)


def release_unit_goal(habits: Habits) -> Goal:
    """The unit's own charge let in by its service valves, then the rig taken off."""

    def services(board: Board) -> list[str]:
        side = {
            x.id: board.job.scope.section(x.b if board.job.scope.section(x.a).holds_charge else x.a).side
            for x in board.job.scope.links
        }
        return sorted(valves_of(board, "service"), key=lambda n: side.get(board.gates[n].part) != habits.first)

    def shut(board: Board, state: State) -> int:
        return sum(n not in state.opened for n in services(board)) + (not state.seen)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        yield from shut_off(board, state)
        mine = services(board)
        for n in mine:
            gate = board.gates[n]
            inner = gate.b if board.rooms[gate.a].kept else gate.a
            if total(state.gas[inner]) < VACUUM:
                yield Touch("crack", n)
                break
        for n in mine:
            if n not in state.opened:
                yield Touch("open", n)
                break
        if not state.seen:
            yield Touch("see-pressure")

    def tail(board: Board, state: State) -> Iterator[Touch]:
        yield from moves(board, state)
        yield from unrig(board, state)

    return Goal("release-unit", (shut, lambda b, s: shut(b, s) + rig_left(b, s)), tail)


def _reached(board: Board) -> list[int]:
    """Rooms of the system that a cylinder reaches when every valve of the rig is open."""
    opened = frozenset(n for n in board.gates if n not in board.shut) | set(valves_of(board))
    found: set[int] = set()
    for n in valves_of(board, "cylinder"):
        found |= joined(board, opened | {n}, board.gates[n].a)
    return [r for r in sorted(found) if board.rooms[r].system]


def release_cylinder_goal() -> Goal:
    """Refrigerant from the cylinder on the rig, the cylinder shut again, then the rig taken off."""

    def charged(board: Board, state: State) -> int:
        return sum(state.gas[r][2] < 0.9 * board.atmosphere for r in _reached(board)) + (not state.seen)

    def closed(board: Board, state: State) -> int:
        return charged(board, state) + sum(n in state.opened for n in valves_of(board, "cylinder"))

    def charging(board: Board, state: State) -> Iterator[Touch]:
        under = gauge_valves(board)
        for v in under & state.opened:
            yield Touch("shut", v)
        for n in valves_of(board, "cylinder"):
            if n not in state.opened:
                yield Touch("open", n)
            elif _air_in_hose(board, state, n):
                yield Touch("purge", n)
        for v in _next_to_source(board, state):
            if v not in under:
                yield Touch("open", v)
        if not state.seen:
            yield Touch("see-pressure")

    def closing(board: Board, state: State) -> Iterator[Touch]:
        for n in valves_of(board, "cylinder"):
            if n in state.opened:
                yield Touch("shut", n)
                return
        yield from charging(board, state)

    def unrigging(board: Board, state: State) -> Iterator[Touch]:
        if all(n not in state.opened for n in valves_of(board, "cylinder")):
            yield from shut_off(board, state)
            yield from unrig(board, state)
        else:
            yield from closing(board, state)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        if charged(board, state):
            return charging(board, state)
        return closing(board, state) if closed(board, state) else unrigging(board, state)

    return Goal("release-cylinder", (charged, closed, lambda b, s: closed(b, s) + rig_left(b, s)), moves)


def _next_to_source(board: Board, state: State) -> list[str]:
    """Shut valves that touch what the cylinder fills: the only ones whose opening brings its refrigerant on."""
    filled: set[int] = set()
    for n in valves_of(board, "cylinder"):
        filled |= joined(board, state.opened, board.gates[n].a)
    return [v for v in valves_of(board) if v not in state.opened and {board.gates[v].a, board.gates[v].b} & filled]


def _air_in_hose(board: Board, state: State, source: str) -> bool:
    group = joined(board, state.opened, board.fed(source))
    return any(state.gas[r][0] > VACUUM for r in group if not board.rooms[r].source)


def with_cylinder(job: Job) -> Board | None:
    """The board with a cylinder on the rig: its own, a port hose moved to one, or the pump's hose moved to one.

    The liquid side comes first. None where nothing keeps a port shut while its hose is moved.
    """
    rig = job.rig
    if any(p.kind == "cylinder" for p in rig.parts):
        return make_board(job)
    rank = {"liquid": 0, "discharge": 1, "other": 2, "suction": 3}
    ways = [(job.scope.port(p.port or ""), p) for p in rig.pumped()]
    found: list[Board] = []
    for port, part in sorted(ways, key=lambda w: rank[w[0].side] if w[0] else 9):
        above = rig.get(part.on) if part.on else None
        if port is None or not isinstance(part, ToolPart) or not isinstance(above, HosePart):
            continue
        moved = above.model_copy(update={"on": part.id, "at": "end", "depressor": False})
        standing = part.model_copy(update={"on": None, "at": "end"})
        parts = [standing if p.id == part.id else moved if p.id == above.id else p for p in rig.parts]
        try:
            new = rig.with_parts(parts)
            new = rig_edit.add(new, {"kind": "cylinder", "id": "cylinder", "on": above.id, "at": "end"})
            found.append(make_board(job.model_copy(update={"rig": new})))
        except ValueError:
            continue
    whole = isolation(job, assemble(job))
    on_pump = [p for p in rig.parts if p.on == "pump"]
    if whole.complete and len(on_pump) == 1:
        found.append(make_board(job, at_pump="cylinder"))
    # One hose may serve one circuit of several: a way that fills them all is the better one.
    return next((b for b in found if _reached(b) == evacuated(b)), found[0] if found else None)


def start_of(board: Board, goal: GoalKey) -> State:
    """Where a goal usually begins: before the draw with the port valves shut, in the draw, or after the hold."""
    if goal in ("draw", "sweep", "purge"):
        tools = {p.id for p in board.job.rig.parts if isinstance(p, ToolPart) and p.port}
        state = before_the_draw(board)
        return replace(state, opened=state.opened - tools)
    if goal == "release-cylinder" or (goal == "nitrogen-break" and board.pump_gone):
        return _before_the_charge(board)
    if goal == "release-unit":
        return held(board, isolation(board.job, board.assembly).valves)
    return drawn_down(board)


def _before_the_charge(board: Board) -> State:
    """Held: every valve of the rig shut but those under gauges, vacuum in the system, air in the moved hose."""
    first = before_the_draw(board)
    opened = first.opened - (set(valves_of(board)) - gauge_valves(board))
    gas = list(first.gas)
    for start in evacuated(board):
        for r in joined(board, opened, start):
            if not board.rooms[r].source:
                gas[r] = PUMPED
    return replace(first, opened=opened, gas=tuple(gas), vented=True)


def goal_for(key: GoalKey, board: Board, habits: Habits | None = None) -> Goal:
    """A goal by its key, on a board."""
    h = habits or Habits()
    match key:
        case "draw":
            return draw_goal(h)
        case "release-unit":
            return release_unit_goal(h)
        case "release-cylinder":
            return release_cylinder_goal()
        case "sweep" | "purge":
            return sweep_goal(board, hoses_only=key == "purge")
        case "nitrogen-break":
            return break_goal(board)
        case _:
            return {"hold": HOLD, "check-hold": CHECK_HOLD, "oil-change": OIL_CHANGE, "valve-flush": VALVE_FLUSH}[key]
