"""The draw as a goal: the pump on itself, the rig pulled alone valve by valve, then the system opened to it."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Touch
from rough_draw.core.interlock.gas_state import State
from rough_draw.core.interlock.planner import Goal
from rough_draw.core.interlock.reachability import together, turns, ways_shut
from rough_draw.core.model.isolation import valves_between
from rough_draw.core.sheet.habits import Habits


@lru_cache(maxsize=32)
def at_the_system(board: Board) -> tuple[str, ...]:
    """Of every way from the pump to a port, the valve nearest the port: opened last, once the rig is at its floor."""
    job, a = board.job, board.assembly
    ways = [valves_between(job, a, p.port or "") for p in job.rig.pumped()]
    return tuple(dict.fromkeys(w[0] for w in ways if w))


def in_the_rig(board: Board) -> list[str]:
    """The other valves on the ways to the ports, from the pump outward."""
    job, a = board.job, board.assembly
    ways = [valves_between(job, a, p.port or "")[::-1] for p in job.rig.pumped()]
    last = set(at_the_system(board))
    return [v for v in dict.fromkeys(v for w in ways for v in w) if v not in last]


def draw_goal(habits: Habits, rig_only: bool = False) -> Goal:
    """The pump started on itself, the rig pulled alone valve by valve, then the system opened to it."""
    ballast = habits.ballast != "never"

    def running(board: Board, state: State) -> int:
        return (not state.pump) + (ballast and not state.ballast)

    def rig(board: Board, state: State) -> int:
        return running(board, state) + sum(v not in state.opened for v in in_the_rig(board)) + _floor(board, state)

    def system(board: Board, state: State) -> int:
        return rig(board, state) + together(board, state) + ways_shut(board, state)

    def moves(board: Board, state: State) -> Iterator[Touch]:
        if running(board, state):
            if ballast and not state.ballast:
                yield Touch("ballast-open")
            else:
                yield Touch("pump-on")
            return
        left = [v for v in in_the_rig(board) if v not in state.opened]
        if left:
            yield Touch("open", left[0])
        elif _floor(board, state):
            yield Touch("read-floor")
        else:
            yield from (t for t in turns(board, state) if t.kind == "open")

    return Goal("rig-alone" if rig_only else "draw", (rig,) if rig_only else (running, rig, system), moves)


def _floor(board: Board, state: State) -> int:
    """Whether the rig's own floor is still to be read: there is none where the system is open to it."""
    alone = bool(at_the_system(board)) and together(board, state) > 0
    return int(alone and "read-floor" not in state.done)


def pulling(board: Board, state: State) -> int:
    """What is left until the pump runs on all of the system."""
    return together(board, state) + ways_shut(board, state) + (not state.pump)


def pulling_again(board: Board, state: State) -> Iterator[Touch]:
    """The pump started behind its closed valves, then opened to the rig and the system."""
    if not state.pump:
        yield Touch("pump-on")
        return
    outward = ["pump", *in_the_rig(board), *at_the_system(board)]
    still = [v for v in dict.fromkeys(outward) if v in board.gates and v not in state.opened]
    if still:
        yield Touch("open", still[0])
    else:
        yield from (t for t in turns(board, state) if t.kind == "open")
