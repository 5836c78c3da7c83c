"""What a touch would do in a run that stands where its touches have brought it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from rough_draw.core.interlock import consequence
from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, Touch, gravest_first
from rough_draw.core.interlock.gas_state import State, before_the_draw, settle
from rough_draw.core.interlock.orders import part_words
from rough_draw.core.interlock.transition import play
from rough_draw.core.message import Message, message
from rough_draw.core.model.isolation import isolation
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.run_state import RunState
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.steps import OnPart, read_step

TURNED: tuple[consequence.Kind, ...] = ("pump-on", "pump-off", "ballast-open", "ballast-shut", "energise")
"""What is done to the pump and the compressor."""


@dataclass(frozen=True)
class Foresight:
    """What is asked after, in words, and what follows from it, the gravest first."""

    words: Message
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
    is_apart = run.isolated_at is not None or run.checking_since is not None
    shut = {v for v in run.shut if v in board.gates} | (set(isolating) if is_apart else set())
    opened = (state.opened | {v for v in run.opened if v in board.gates}) - shut
    state = settle(board, replace(state, opened=opened, ballast=run.ballast_open))
    state = replace(state, pump=run.pump_on)
    for port in sorted(run.cores):
        state = replace(state, opened=state.opened - {f"port:{port}"})
    for part in sorted(run.off & set(board.ends)):
        state = play(board, state, Touch("take-off", part))[0]
    return state


@dataclass(frozen=True)
class Offer:
    """A touch that can be made on a thing as the run stands: its kind, in words."""

    kind: str
    words: Message


def touches_on(job: Job, run: RunState, name: str) -> list[Offer]:
    """What a hand could do to a part of the rig or a section of the system, as the run stands.

    Empty where there is nothing to do to it. Raises ScopeError where the rig is in pieces.
    """
    board, isolating = _board(job.scope, job.rig)
    state = standing_at(board, isolating, run)
    links = {f"system.{x.id}" for x in job.scope.links if name in (x.a, x.b)}
    found = []
    for g in board.gates.values():
        if g.name in links or (g.part == name and g.kind in ("valve", "cylinder", "nitrogen")):
            way = "shut" if g.name in state.opened else "open"
            found.append(Offer(f"{way}:{g.name}", message(f"move-{way}", what=board.label(g.name))))
    part = job.rig.get(name)
    if part is not None and part.kind == "pump":
        for kind in ("pump-off" if run.pump_on else "pump-on", "ballast-shut" if run.ballast_open else "ballast-open"):
            found.append(Offer(kind, message(f"move-{kind}")))
    if part is not None and part.port and f"port:{part.port}" in board.cored:
        way = "core-out" if part.port in run.cores else "core-in"
        found.append(Offer(f"{way}:{part.port}", message(f"move-{way}-here")))
    if name in board.ends:
        way = "put-on" if name in run.off else "take-off"
        found.append(Offer(f"{way}:{name}", message(f"move-{way}-here")))
    if any(s.id == name and s.kind == "compressor" for s in job.scope.sections) or name == "power":
        found.append(Offer("energise", message("move-energise")))
    return found


def foresee(job: Job, run: RunState, kind: str) -> Foresight:
    """Consequences of a touch (a kind of the run, or ``open:<valve>``, ``shut:<valve>``) on this sheet.

    Raises KeyError for a valve the rig does not have, ScopeError where the rig is in pieces.
    """
    board, isolating = _board(job.scope, job.rig)
    state = standing_at(board, isolating, run)
    one = read_step(kind)
    if isinstance(one, OnPart):
        way, thing = one.move, one.part
        valve = thing in board.gates
        if not valve and thing not in board.ends and thing not in board.ports:
            raise KeyError(thing)
        touches = [Touch(way, thing)] if way != "put-on" else []
        what = board.label(thing) if valve else part_words(board, thing)
        words = message(f"move-{way}", what=what)
    elif kind in ("isolate", "reopen", "check-hold", "check-end"):
        shuts = kind in ("isolate", "check-hold")
        touches = [Touch("shut" if shuts else "open", v) for v in isolating]
        words = message("move-isolate" if shuts else "move-reopen")
    else:
        turned = next((k for k in TURNED if k == kind), None)
        touches = [Touch(turned)] if turned is not None else []
        words = message(f"move-{turned}" if turned is not None else "move-other", what=kind)
    said: dict[str, Consequence] = {}
    for touch in touches:
        state, found = play(board, state, touch)
        said |= {c.key: c for c in found if c.key not in said}
    return Foresight(words, tuple(gravest_first(said.values())))
