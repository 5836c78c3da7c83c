"""What a touch would do in a run that stands where its touches have brought it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from rough_draw.core import interlock
from rough_draw.core.board import Board, make_board
from rough_draw.core.contents import State, before_the_draw, settle
from rough_draw.core.interlock import Consequence, Touch, gravest_first, play
from rough_draw.core.isolation import isolation
from rough_draw.core.job import Job
from rough_draw.core.rig import Rig
from rough_draw.core.runstate import RunState, turned
from rough_draw.core.scope import Scope


@dataclass(frozen=True)
class Foresight:
    """What is asked after, in words, and what follows from it, the gravest first."""

    words: str
    consequences: tuple[Consequence, ...]

    @property
    def stop(self) -> bool:
        """Whether it should not be done."""
        return any(c.severity == "stop" for c in self.consequences)


@lru_cache(maxsize=16)
def _board(scope: Scope, rig: Rig) -> tuple[Board, tuple[str, ...]]:
    board = make_board(Job(scope=scope, rig=rig))
    return board, isolation(board.job, board.assembly).valves


def standing_at(board: Board, isolating: tuple[str, ...], run: RunState) -> State:
    """The interlock's state of a run. Once the pump has run, all it reached is taken for evacuated."""
    state = before_the_draw(board)
    if run.started_at is not None:
        state = settle(board, replace(state, pump=True))
    shut = {v for v in run.shut if v in board.gates} | (set(isolating) if run.isolated_at is not None else set())
    opened = (state.opened | {v for v in run.opened if v in board.gates}) - shut
    state = settle(board, replace(state, opened=opened, ballast=run.ballast_open))
    return replace(state, pump=run.pump_on)


def foresee(job: Job, run: RunState, kind: str) -> Foresight:
    """Consequences of a touch (a kind of the run, or ``open:<valve>``, ``shut:<valve>``) on this sheet.

    Raises KeyError for a valve the rig does not have, ScopeError where the rig is in pieces.
    """
    board, isolating = _board(job.scope, job.rig)
    state = standing_at(board, isolating, run)
    valve = turned(kind)
    if valve is not None:
        touches = [Touch("open" if valve[0] == "open" else "shut", valve[1])]
        words = f"{'Open' if valve[0] == 'open' else 'Shut'} {board.label(valve[1])}"
    elif kind in ("isolate", "reopen"):
        touches = [Touch("shut" if kind == "isolate" else "open", v) for v in isolating]
        words = "Isolate the system" if kind == "isolate" else "Open the system to the pump again"
    else:
        made: dict[str, tuple[interlock.Kind, str]] = {
            "pump-on": ("pump-on", "Start the pump"),
            "pump-off": ("pump-off", "Stop the pump"),
            "ballast-open": ("ballast-open", "Open the ballast"),
            "ballast-shut": ("ballast-shut", "Close the ballast"),
            "energise": ("energise", "Power to the compressor"),
        }
        touches, words = ([Touch(made[kind][0])], made[kind][1]) if kind in made else ([], kind)
    said: dict[str, Consequence] = {}
    for touch in touches:
        state, found = play(board, state, touch)
        said |= {c.key: c for c in found if c.key not in said}
    return Foresight(words, tuple(gravest_first(said.values())))
