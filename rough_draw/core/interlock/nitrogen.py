"""Goals with nitrogen: a sweep through every section, a purge of the hoses, a break of the vacuum."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import PRESSURE, VACUUM, State, joined, total
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.reachability import apart, gauge_valves, system_rooms, turns, valves_of
from rough_draw.core.interlock.sweep import LEAST_SHARE, flow_shares, joints, minutes
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart


def with_nitrogen(job: Job) -> Board:
    """The board with nitrogen on the rig: its own bottle, or the pump's hose moved to one."""
    own = job.rig.has("nitrogen")
    return make_board(job) if own else make_board(job, at_pump="nitrogen")


@dataclass(frozen=True)
class Way:
    """One way to send nitrogen through: valves shut, the joint loosened, the nodes that it passes, its minutes."""

    shut: frozenset[str]
    joint: str
    passed: frozenset[str]
    minutes: float


def tap_of(board: Board) -> str:
    """The gate at the nitrogen. Raises StopIteration if the board has none."""
    return next(n for n, g in board.gates.items() if g.kind == "nitrogen")


def targets(board: Board, hoses_only: bool) -> list[frozenset[str]]:
    """What is to be swept: sections first, hoses with them or after; for a purge the hoses alone."""
    hoses = frozenset(f"{p.id}.b" for p in board.job.rig.parts if isinstance(p, HosePart) and _on_ports(board, p))
    sections = frozenset(f"system.{s.id}" for s in board.job.scope.sections if not s.holds_charge)
    return [hoses] if hoses_only else [sections & set(board.places), hoses]


def _on_ports(board: Board, hose: HosePart) -> bool:
    return f"{hose.id}.b" in board.places and not any(
        c.kind in ("nitrogen", "cylinder") for c in board.job.rig.children(hose.id)
    )


@lru_cache(maxsize=16)
def ways(board: Board, hoses_only: bool) -> tuple[Way, ...]:
    """Ways that pass everything that can be passed, in few touches and little time.

    All valves stand open but those that a way shuts (two at the most), and those under gauges. The next way is the
    one that passes most of what is left for its minutes; joints of the system are only loosened where no other serves.
    """
    tap = board.taps[tap_of(board)]
    turned = [v for v in valves_of(board) if v not in gauge_valves(board)]
    opened = frozenset(n for n in board.gates if n not in board.shut) | set(turned)
    opened = (opened - gauge_valves(board)) | {tap_of(board)}
    want = frozenset().union(*targets(board, hoses_only))
    sections = {f"system.{s.id}" for s in board.job.scope.sections}
    found: list[Way] = []
    left = want
    for rank in (1, 2):
        offered = []
        for joint in joints(board):
            if not left or joint.rank > rank or (rank == 2 and joint.rank < 2):
                continue
            for n in range(3):
                for shut in combinations(turned, n):
                    shares = flow_shares(board, opened - set(shut), tap, frozenset({joint.node}))
                    passed = frozenset(x for x, s in shares.items() if s >= LEAST_SHARE)
                    if passed & left and not (hoses_only and passed & sections):
                        long = minutes(board, shares)
                        offered.append((long + n + joint.rank, Way(frozenset(shut), joint.node, passed, long)))
        while left and offered:
            _, best = max(offered, key=lambda o: (len(o[1].passed & left) / o[0], -o[0]))
            if not best.passed & left:
                break
            found.append(best)
            left -= best.passed
    return tuple(w for w in found if not _spare(w, found, want))


def _spare(way: Way, every: list[Way], want: frozenset[str]) -> bool:
    """Whether later ways pass all that this one does."""
    later = every[every.index(way) + 1 :]
    return way.passed & want <= frozenset().union(*(w.passed for w in later))


def never_swept(board: Board, hoses_only: bool = False) -> frozenset[str]:
    """What no flow passes, whatever is shut and loosened."""
    want = frozenset().union(*targets(board, hoses_only))
    return want - frozenset().union(*(w.passed for w in ways(board, hoses_only)))


def sweep_goal(board: Board, hoses_only: bool = False) -> Goal:
    """Nitrogen sent each way in turn; in the end its valve is shut and every joint tight."""
    tap = tap_of(board)
    every = ways(board, hoses_only)
    turned = [v for v in valves_of(board) if v not in gauge_valves(board)]

    def wrong(way: Way, state: State) -> int:
        shut = sum((v in state.opened) == (v in way.shut) for v in turned)
        shut += sum(v in state.opened for v in gauge_valves(board))
        return shut + (way.joint not in state.loose) + len(state.loose - {way.joint})

    def one(way: Way) -> Callable[[Board, State], int]:
        def unmet(_: Board, state: State) -> int:
            if way.passed <= state.swept:
                return 0
            return wrong(way, state) + (tap not in state.opened) + 1

        return unmet

    def closed(_: Board, state: State) -> int:
        return (tap in state.opened) + len(state.loose)

    def moves(b: Board, state: State) -> Iterator[Touch]:
        way = next((w for w in every if not w.passed <= state.swept), None)
        if tap in state.opened:
            yield Touch("shut", tap)
        yield from (Touch("tighten", n) for n in sorted(state.loose) if way is None or n != way.joint)
        if way is None:
            if not closed(b, state):
                yield from (Touch("open", v) for v in sorted(under - state.opened))
            return
        for v in sorted(gauge_valves(b) & state.opened):
            yield Touch("shut", v)
        for v in turned:
            if (v in state.opened) == (v in way.shut):
                yield Touch("shut" if v in state.opened else "open", v)
        if way.joint not in state.loose:
            yield Touch("loosen", way.joint)
        if tap not in state.opened:
            yield Touch("open", tap)
        elif wrong(way, state) == 0:
            yield Touch("sweep", tap)

    under = gauge_valves(board) - board.shut

    def seen(b: Board, state: State) -> int:
        return closed(b, state) + len(under - state.opened)

    phases: list[Callable[[Board, State], int]] = []
    for way in every:
        phases += [one(way), closed]
    return Goal("purge" if hoses_only else "sweep", (*phases, seen), moves)


def break_goal(board: Board) -> Goal:
    """The evacuated system brought to 0 gauge with nitrogen, the pump shut off from it, the bottle shut again."""
    tap = tap_of(board)

    def system(state: State) -> Iterable[int]:
        return (r for r in system_rooms(board) if not board.rooms[r].source)

    def broken(_: Board, state: State) -> int:
        p = [total(state.gas[r]) for r in system(state)]
        off = sum(not 0.9 * board.atmosphere < x < PRESSURE * board.atmosphere for x in p)
        return off + (0 if board.pump_gone else apart(board, state))

    def done(b: Board, state: State) -> int:
        return broken(b, state) + (tap in state.opened) + (b.pump_gone and _bottle_joined(b, state, tap))

    def moves(b: Board, state: State) -> Iterator[Touch]:
        if not purged(b, state):
            yield from turns(b, state)
        side = joined(b, state.opened, b.fed(tap))
        if tap in state.opened:
            yield Touch("shut", tap)
            if any(state.gas[r][0] > VACUUM for r in side if not b.rooms[r].source):
                yield Touch("purge", tap)
            return
        air = any(state.gas[r][0] > VACUUM for r in side if not b.rooms[r].source)
        if air:
            yield Touch("open", tap)
        elif any(b.rooms[r].system for r in side):
            yield Touch("crack", tap)

    def purged(b: Board, state: State) -> int:
        side = [r for r in joined(b, state.opened, b.fed(tap)) if not b.rooms[r].source]
        return sum(state.gas[r][0] > VACUUM for r in side) + (tap in state.opened)

    return Goal("nitrogen-break", (purged, broken, done), moves)


def _bottle_joined(board: Board, state: State, tap: str) -> bool:
    side = joined(board, state.opened, board.fed(tap))
    return any(board.rooms[r].system for r in side)
