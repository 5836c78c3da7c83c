"""Sequences of touches, derived: the shortest way from where a rig stands to a goal, without a stop.

A search over the interlock's states. A goal is one or more phases, each a count of what is still unmet; each touch can
meet one of them, so the search runs nearly straight. Cautions are avoided one by one wherever another order exists.
"""

from __future__ import annotations

import heapq
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from itertools import count

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, Touch, stop
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.interlock.transition import play

MOST_STATES = 4000
"""States looked at before the search gives up. A rig that needs more has no order a person could follow."""


@dataclass(frozen=True)
class Goal:
    """What is wanted: phases in their order, and the touches that may be made for it.

    Each phase counts what is unmet in a state; 0 ends it. ``moves`` offers touches in a state, preferred ones first.
    """

    key: str
    phases: tuple[Callable[[Board, State], int], ...]
    moves: Callable[[Board, State], Iterable[Touch]]


@dataclass(frozen=True)
class Step:
    """One touch of a derived sequence, with what it brings along (cautions and notes), and the state after it."""

    touch: Touch
    said: tuple[Consequence, ...]
    after: State


@dataclass(frozen=True)
class Sequence:
    """A derived sequence. ``missing``: why there is none, or what stays a caution whatever the order."""

    goal: str
    steps: tuple[Step, ...]
    found: bool
    missing: tuple[Consequence, ...] = ()

    @property
    def cautions(self) -> tuple[Consequence, ...]:
        """Cautions along it, each once."""
        seen = {c.key: c for s in self.steps for c in s.said if c.severity == "caution"}
        return tuple(seen.values())


def derive(board: Board, start: State, goal: Goal) -> Sequence:
    """The shortest sequence without a stop, with no caution that another order avoids."""
    forbidden: frozenset[str] = frozenset()
    best = _search(board, start, goal, forbidden, False)
    if best is None:
        return Sequence(goal.key, (), False, _why_not(board, start, goal))
    tried: set[str] = set()
    while True:
        left = sorted({c.key for s in best for c in s.said if c.severity == "caution"} - tried)
        if not left:
            break
        tried.add(left[0])
        without = _search(board, start, goal, forbidden | {left[0]}, False)
        if without is not None and _weight(without) < _weight(best):
            forbidden |= {left[0]}
            best = without
    return Sequence(goal.key, tuple(best), True)


def _weight(steps: list[Step]) -> float:
    """How much of caution a sequence carries: each key once; a hold that cannot be read weighs most."""
    return sum(
        3.0 if k == "gauge-outside" else 1.0 for k in {c.key for s in steps for c in s.said if c.severity == "caution"}
    )


def _why_not(board: Board, start: State, goal: Goal) -> tuple[Consequence, ...]:
    """The stops of the least bad way: what would have to be there for a sound one."""
    bad = _search(board, start, goal, frozenset(), True)
    if bad is None:
        return (stop("no-way"),)
    return tuple({c.key: c for s in bad for c in s.said if c.severity == "stop"}.values())


def _search(board: Board, start: State, goal: Goal, forbidden: frozenset[str], allow_stops: bool) -> list[Step] | None:
    steps: list[Step] = []
    state = start
    for unmet in goal.phases:
        found = _phase(board, state, goal, unmet, forbidden, allow_stops)
        if found is None:
            return None
        steps += found
        state = found[-1].after if found else state
    return steps


def _phase(
    board: Board,
    start: State,
    goal: Goal,
    unmet: Callable[[Board, State], int],
    forbidden: frozenset[str],
    allow_stops: bool,
) -> list[Step] | None:
    """A* with unit cost a touch and the count of what is unmet as the estimate; ties go to the deepest."""
    atmosphere = board.atmosphere
    order = count()
    first = unmet(board, start)
    heap: list[tuple[float, int, int, float, State, tuple[Step, ...]]] = [(first, first, next(order), 0.0, start, ())]
    best: dict[tuple[object, ...], float] = {start.key(atmosphere): 0.0}
    looked = 0
    while heap:
        _, left, _, cost, state, path = heapq.heappop(heap)
        if left == 0:
            return list(path)
        here = state.key(atmosphere)
        if cost > best.get(here, cost):
            continue
        looked += 1
        if looked > MOST_STATES:
            return None
        for touch in goal.moves(board, state):
            after, said = play(board, state, touch)
            price = 1.0
            if any(c.severity == "stop" or c.key in forbidden for c in said):
                if not allow_stops:
                    continue
                price += 50.0
            key = after.key(atmosphere)
            spent = cost + price
            if key == here or spent >= best.get(key, float("inf")):
                continue
            best[key] = spent
            rest = unmet(board, after)
            step = Step(touch, tuple(said), after)
            heapq.heappush(heap, (spent + rest, rest, next(order), spent, after, (*path, step)))
    return None
