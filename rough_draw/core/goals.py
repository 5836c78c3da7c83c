"""Goals of the work as phases over the interlock, and where each begins. What schools differ in is a setting."""

from __future__ import annotations

from collections.abc import Iterator, Set
from dataclasses import dataclass, replace
from typing import Literal

from rough_draw.core import rigedit
from rough_draw.core.assemble import assemble
from rough_draw.core.board import Board, make_board
from rough_draw.core.contents import PUMPED, VACUUM, State, before_the_draw, drawn_down, held, joined, total
from rough_draw.core.interlock import Touch
from rough_draw.core.isolation import isolation, valves_between
from rough_draw.core.job import Job
from rough_draw.core.rig import GaugePart, HosePart, Part, ToolPart
from rough_draw.core.sequence import Goal

GoalKey = Literal["draw", "check-hold", "hold", "oil-change", "release-unit", "release-cylinder"]


@dataclass(frozen=True)
class Habits:
    """Where schools differ: which service valve is cracked first, and whether the ballast is opened at the start."""

    first: Literal["suction", "liquid"] = "suction"
    ballast: bool = True


def _valves(board: Board, kind: str = "valve") -> list[str]:
    return sorted(n for n, g in board.gates.items() if g.kind == kind)


def _system(board: Board) -> list[int]:
    """Rooms of the system from which the pump can draw when every gate of the rig is open."""
    opened = frozenset(n for n in board.gates if n not in board.shut) | set(_valves(board))
    return [r for r in joined(board, opened, board.pump) if board.rooms[r].system]


def _pumped(board: Board, state: State) -> Set[int]:
    return joined(board, state.opened, board.pump)


def _apart(board: Board, state: State) -> int:
    """System rooms that are still joined to the pump."""
    return min(1, sum(r in _pumped(board, state) for r in _system(board)))


def _together(board: Board, state: State) -> int:
    """System rooms that are not joined to the pump."""
    here = _pumped(board, state)
    return sum(r not in here for r in _system(board))


def _turns(board: Board, state: State) -> Iterator[Touch]:
    """Turning any valve of the rig but those under gauges."""
    under = _gauge_valves(board)
    for v in _valves(board):
        if v not in under:
            yield Touch("shut" if v in state.opened else "open", v)


def _gauge_valves(board: Board) -> set[str]:
    """Valves behind which there is nothing but gauges."""
    found = set()
    for v in _valves(board):
        g = board.gates[v]
        rest = frozenset(board.gates) - {v}
        for end in (g.a, g.b):
            side = joined(board, rest, end)
            if (
                side & set(board.gauges.values())
                and not any(board.rooms[r].system for r in side)
                and board.pump not in side
            ):
                found.add(v)
    return found


def _ways_shut(board: Board, state: State) -> int:
    """Valves that are shut on a way from the pump to a port."""
    job, a = board.job, board.assembly
    ways = {v for p in job.rig.pumped() for v in valves_between(job, a, p.port or "")}
    return sum(v not in state.opened for v in ways)


def draw_goal(habits: Habits) -> Goal:
    """Everything joined to a running pump, ballast open where that is the habit."""

    def unmet(board: Board, state: State) -> int:
        return (
            _together(board, state)
            + _ways_shut(board, state)
            + (not state.pump)
            + (habits.ballast and not state.ballast)
        )

    def moves(board: Board, state: State) -> Iterator[Touch]:
        yield from (t for t in _turns(board, state) if t.kind == "open")
        if habits.ballast and not state.ballast:
            yield Touch("ballast-open")
        if not state.pump:
            yield Touch("pump-on")

    return Goal("draw", (unmet,), moves)


def _pump_work(board: Board, state: State) -> Iterator[Touch]:
    yield from _turns(board, state)
    if state.pump:
        yield Touch("pump-off")
    else:
        yield Touch("pump-on")
        if not state.vented:
            yield Touch("vent-pump")


HOLD = Goal(
    "hold",
    (
        lambda b, s: _apart(b, s),
        lambda b, s: _apart(b, s) + s.pump,
        lambda b, s: _apart(b, s) + s.pump + (not s.vented),
    ),
    _pump_work,
)
CHECK_HOLD = Goal(
    "check-hold",
    (lambda b, s: _apart(b, s) + (not s.pump), lambda b, s: _together(b, s) + _ways_shut(b, s) + (not s.pump)),
    lambda b, s: _turns(b, s),
)


def _oil_moves(board: Board, state: State) -> Iterator[Touch]:
    yield from _pump_work(board, state)
    if not state.fresh_oil:
        yield Touch("oil-change")


OIL_CHANGE = Goal(
    "oil-change",
    (
        lambda b, s: _apart(b, s) + s.pump,
        lambda b, s: _apart(b, s) + (not s.vented),
        lambda b, s: _apart(b, s) + (not s.fresh_oil),
        lambda b, s: _together(b, s) + _ways_shut(b, s) + (not s.pump),
    ),
    _oil_moves,
)


def _rig_left(board: Board, state: State) -> int:
    """What of the rig is still on: cores to put back, parts to take off, caps to put on."""
    cores = sum(n in state.opened for n in board.cored)
    parts = sum(p not in state.off for p in _to_take_off(board))
    caps = sum(n not in state.capped for n in board.ports)
    return cores + parts + caps + (not state.seen)


def _to_take_off(board: Board) -> list[str]:
    on_ports = set(board.ports.values())
    hoses = [
        p.id
        for p in board.job.rig.parts
        if isinstance(p, HosePart) and p.id in board.ends and _ends_at_port(board, p.id)
    ]
    gauges = list(board.gauges)
    tools = sorted(on_ports - set(hoses) - set(gauges))
    return [*hoses, *gauges, *tools]


def _ends_at_port(board: Board, hose: str) -> bool:
    part = board.job.rig.get(hose)
    if part is None:
        return False
    above = board.job.rig.get(part.on) if part.on else None
    moved = above is not None and above.port is not None
    return moved or part.port is not None or any(c.port for c in board.job.rig.children(hose))


def _unrig(board: Board, state: State) -> Iterator[Touch]:
    """Taking the rig off, like parts in their order: cores, then hoses and gauges, then what sits on the ports."""
    if not state.seen:
        yield Touch("see-pressure")
        return
    core = next((n for n in sorted(board.cored) if n in state.opened), None)
    if core is not None:
        yield Touch("core-in", core.removeprefix("port:"))
    rig = board.job.rig
    for n in sorted(board.ports):
        if f"port:{n}" in state.opened and not _has_core(board, n):
            yield Touch("shut", f"port:{n}")
            break
    for p in _to_take_off(board):
        # A part comes off after what hangs on it.
        if p not in state.off and all(c.id in state.off or c.id not in board.ends for c in _hanging(board, p)):
            yield Touch("take-off", p)
            break
    for n, p in sorted(board.ports.items()):
        if n not in state.capped and p in state.off and rig.get(p) is not None:
            yield Touch("cap", n)
            break


def _has_core(board: Board, port: str) -> bool:
    """Whether a port shuts by a core; one without has a stem of its own."""
    found = board.job.scope.port(port)
    return found is None or found.core


def _hanging(board: Board, part: str) -> list[Part]:
    """What has to be off before a port's part can be: the hose on it, and gauges on its side port."""
    rig = board.job.rig
    me = rig.get(part)
    if me is None or isinstance(me, HosePart | GaugePart):
        return []
    above = rig.get(me.on) if me.on is not None else None
    found: list[Part] = [above] if isinstance(above, HosePart) else []
    for c in rig.children(part):
        found += [x for x in (c, *rig.children(c.id)) if isinstance(x, HosePart | GaugePart)]
    return found


def _shut_off(board: Board, state: State) -> Iterator[Touch]:
    """Valves of the rig that are still open: shut before refrigerant comes."""
    for v in _valves(board):
        if v in state.opened:
            yield Touch("shut", v)


def release_unit_goal(habits: Habits) -> Goal:
    """The unit's own charge let in by its service valves, then the rig taken off."""

    def services(board: Board) -> list[str]:
        side = {
            x.id: board.job.scope.section(x.b if board.job.scope.section(x.a).holds_charge else x.a).side
            for x in board.job.scope.links
        }
        return sorted(_valves(board, "service"), key=lambda n: side.get(board.gates[n].part) != habits.first)

    def shut(board: Board, state: State) -> int:
        return sum(n not in state.opened for n in services(board)) + (not state.seen)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        yield from _shut_off(board, state)
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
        yield from _unrig(board, state)

    return Goal("release-unit", (shut, lambda b, s: shut(b, s) + _rig_left(b, s)), tail)


def _evacuated(board: Board) -> list[int]:
    return [r for r, room in enumerate(board.rooms) if room.system]


def _reached(board: Board) -> list[int]:
    """Rooms of the system that a cylinder reaches when every valve of the rig is open."""
    opened = frozenset(n for n in board.gates if n not in board.shut) | set(_valves(board))
    found: set[int] = set()
    for n in _valves(board, "cylinder"):
        found |= joined(board, opened | {n}, board.gates[n].a)
    return [r for r in sorted(found) if board.rooms[r].system]


def release_cylinder_goal() -> Goal:
    """Refrigerant from the cylinder on the rig, the cylinder shut again, then the rig taken off."""

    def charged(board: Board, state: State) -> int:
        return sum(state.gas[r][2] < 0.9 * board.rooms[board.air].supply for r in _reached(board)) + (not state.seen)

    def closed(board: Board, state: State) -> int:
        return charged(board, state) + sum(n in state.opened for n in _valves(board, "cylinder"))

    def charging(board: Board, state: State) -> Iterator[Touch]:
        under = _gauge_valves(board)
        for v in under & state.opened:
            yield Touch("shut", v)
        for n in _valves(board, "cylinder"):
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
        for n in _valves(board, "cylinder"):
            if n in state.opened:
                yield Touch("shut", n)
                return
        yield from charging(board, state)

    def unrigging(board: Board, state: State) -> Iterator[Touch]:
        if all(n not in state.opened for n in _valves(board, "cylinder")):
            yield from _shut_off(board, state)
            yield from _unrig(board, state)
        else:
            yield from closing(board, state)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        if charged(board, state):
            return charging(board, state)
        return closing(board, state) if closed(board, state) else unrigging(board, state)

    return Goal("release-cylinder", (charged, closed, lambda b, s: closed(b, s) + _rig_left(b, s)), moves)


def _next_to_source(board: Board, state: State) -> list[str]:
    """Shut valves that touch what the cylinder fills: the only ones whose opening brings its refrigerant on."""
    filled: set[int] = set()
    for n in _valves(board, "cylinder"):
        filled |= joined(board, state.opened, board.gates[n].a)
    return [v for v in _valves(board) if v not in state.opened and {board.gates[v].a, board.gates[v].b} & filled]


def _air_in_hose(board: Board, state: State, source: str) -> bool:
    gate = board.gates[source]
    at = gate.b if board.rooms[gate.a].source else gate.a
    return any(state.gas[r][0] > VACUUM for r in joined(board, state.opened, at) if not board.rooms[r].source)


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
            new = rigedit.add(new, {"kind": "cylinder", "id": "cylinder", "on": above.id, "at": "end"})
            found.append(make_board(job.model_copy(update={"rig": new})))
        except ValueError:
            continue
    whole = isolation(job, assemble(job))
    on_pump = [p for p in rig.parts if p.on == "pump"]
    if whole.complete and len(on_pump) == 1:
        found.append(make_board(job, cylinder_at_pump=True))
    # One hose may serve one circuit of several: a way that fills them all is the better one.
    return next((b for b in found if _reached(b) == _evacuated(b)), found[0] if found else None)


def start_of(board: Board, goal: GoalKey) -> State:
    """Where a goal usually begins: before the draw with the port valves shut, in the draw, or after the hold."""
    if goal == "draw":
        tools = {p.id for p in board.job.rig.parts if isinstance(p, ToolPart) and p.port}
        state = before_the_draw(board)
        return replace(state, opened=state.opened - tools)
    if goal == "release-cylinder":
        return _before_the_charge(board)
    if goal == "release-unit":
        return held(board, isolation(board.job, board.assembly).valves)
    return drawn_down(board)


def _before_the_charge(board: Board) -> State:
    """Held: every valve of the rig shut but those under gauges, vacuum in the system, air in the moved hose."""
    first = before_the_draw(board)
    opened = first.opened - (set(_valves(board)) - _gauge_valves(board))
    gas = list(first.gas)
    for start in _evacuated(board):
        for r in joined(board, opened, start):
            if not board.rooms[r].source:
                gas[r] = PUMPED
    return replace(first, opened=opened, gas=tuple(gas), vented=True)


def goal_for(key: GoalKey, habits: Habits | None = None) -> Goal:
    """A goal by its key."""
    h = habits or Habits()
    made = {"draw": draw_goal(h), "release-unit": release_unit_goal(h), "release-cylinder": release_cylinder_goal()}
    fixed = {"hold": HOLD, "check-hold": CHECK_HOLD, "oil-change": OIL_CHANGE}
    return made.get(key) or fixed[key]
