"""What a touch would do in a run that stands where its touches have brought it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.consequence import Consequence, Touch, gravest_first, touch_of
from rough_draw.core.interlock.gas_state import State, before_the_draw, settle
from rough_draw.core.interlock.itinerary import charging_leg
from rough_draw.core.interlock.port_parts import PLUNGER
from rough_draw.core.interlock.release import release_goal, release_kinds
from rough_draw.core.interlock.step_words import part_words
from rough_draw.core.interlock.transition import play
from rough_draw.core.message import Message, Name, message
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.system import ScopeError
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.run_state import RunState
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.steps import OnPart, OnRun, read_step


@dataclass(frozen=True)
class Foresight:
    """What is asked after, in words, and what follows from it, the gravest first."""

    words: Message
    consequences: tuple[Consequence, ...]

    @property
    def stop(self) -> bool:
        """Whether it should not be done."""
        return any(c.severity == "stop" for c in self.consequences)


def thing_words(board: Board, thing: str) -> Name:
    """What a step is on, in words: a valve, a port, a part or its plunger."""
    if thing in board.gates:
        return board.label(thing)
    port = board.job.scope.port(thing)
    if port is not None:
        return message("the", thing=port.words())
    return part_words(board, thing.removesuffix(PLUNGER))


@lru_cache(maxsize=16)
def _board(scope: Scope, rig: Rig) -> tuple[Board, tuple[str, ...]]:
    board = make_board(Job(scope=scope, rig=rig))
    return board, isolation(board.job, board.assembly).valves


def standing_at(board: Board, isolating: tuple[str, ...], run: RunState) -> State:
    """The interlock's state of a run. Once the pump has run, all it reached is taken for evacuated.

    What was done since the hold began is played again step by step: what a crack, a purge or a part taken off does
    depends on what was done before it.
    """
    state = before_the_draw(board)
    if run.started_at is not None:
        state = settle(board, replace(state, pump=True))
    is_apart = run.isolated_at is not None or run.checking_since is not None
    was_shut, was_opened, off, cores = run.before or (run.shut, run.opened, run.off, run.cores)
    shut = {v for v in was_shut if v in board.gates} | (set(isolating) if is_apart else set())
    opened = (state.opened | {v for v in was_opened if v in board.gates}) - shut
    state = settle(board, replace(state, opened=opened, ballast=run.ballast_open))
    state = replace(state, pump=run.pump_on)
    for port in sorted(cores):
        state = replace(state, opened=state.opened - {f"port:{port}"})
    for part in sorted(off & set(board.ends)):
        state = play(board, state, Touch("take-off", part))[0]
    for text in run.after:
        for touch in touches_of(board, isolating, text):
            state = play(board, state, touch)[0]
    return replace(state, pump=run.pump_on)


def standing(job: Job, run: RunState) -> tuple[Board, tuple[str, ...], State]:
    """The board of a run as it stands, the valves that isolate on it, and its state.

    Once a charging hose that was brought along is on, it is the board of the rig with it. Raises ScopeError where the
    rig is in pieces.
    """
    board, isolating = _board(job.scope, job.rig)
    changed = charging_leg(job.scope, job.rig, job.habits, release_goal(job)) if run.after else None
    if changed is None or changed[0] not in run.after:
        return board, isolating, standing_at(board, isolating, run)
    put_on, leg = changed
    state = leg.start
    for text in run.after[run.after.index(put_on) + 1 :]:
        for touch in touches_of(leg.board, (), text):
            state = play(leg.board, state, touch)[0]
    return leg.board, (), state


def touches_of(board: Board, isolating: tuple[str, ...], text: str) -> list[Touch]:
    """The touches that a step of the run is on this board; none where it is on something that is not there."""
    match read_step(text):
        case OnPart(move, thing):
            known = thing.removesuffix(PLUNGER)
            there = known in board.gates or known in board.ends or f"port:{thing}" in board.gates
            return [Touch(move, thing)] if there else []
        case OnRun("isolate" | "check-hold"):
            return [Touch("shut", v) for v in isolating]
        case OnRun("reopen" | "check-end"):
            return [Touch("open", v) for v in isolating]
        case OnRun(move):
            found = touch_of(move)
        case _:
            found = touch_of(text) if text == "energise" else None
    return [found] if found is not None else []


@dataclass(frozen=True)
class Offer:
    """A touch that can be made on a thing as the run stands: its kind, in words."""

    kind: str
    words: Message


def touches_on(job: Job, run: RunState, name: str) -> list[Offer]:
    """What a hand could do to a part of the rig or a section of the system, as the run stands.

    Empty where there is nothing to do to it. Raises ScopeError where the rig is in pieces.
    """
    board, _, state = standing(job, run)
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
    if name in board.ends and name != "pump":
        way = "put-on" if name in run.off else "take-off"
        found.append(Offer(f"{way}:{name}", message(f"move-{way}-here")))
    if any(s.id == name and s.kind == "compressor" for s in job.scope.sections) or name == "power":
        found.append(Offer("energise", message("move-energise")))
    return found


def foresee(job: Job, run: RunState, kind: str) -> Foresight:
    """Consequences of a touch (a kind of the run, or ``open:<valve>``, ``shut:<valve>``) on this sheet.

    Raises KeyError for a valve the rig does not have, ScopeError where the rig is in pieces.
    """
    board, isolating, state = standing(job, run)
    one = read_step(kind)
    touches = touches_of(board, isolating, kind)
    if isinstance(one, OnPart):
        way, thing = one.move, one.part
        if not touches and kind not in release_kinds(job):
            raise KeyError(thing)
        words = message(f"move-{way}", what=thing_words(board, thing))
    elif kind in ("isolate", "reopen", "check-hold", "check-end"):
        words = message("move-isolate" if kind in ("isolate", "check-hold") else "move-reopen")
    else:
        words = message(f"move-{kind}" if touches else "move-other", what=kind)
    said: dict[str, Consequence] = {}
    for touch in touches:
        state, found = play(board, state, touch)
        said |= {c.key: c for c in found if c.key not in said}
    return Foresight(words, tuple(gravest_first(said.values())))


def service_names(job: Job) -> dict[str, Name]:
    """Valves of the board that are none of the rig's own: service valves, sources. Empty where it is in pieces."""
    try:
        board, _ = _board(job.scope, job.rig)
    except ScopeError:
        return {}
    return {g.name: g.label for g in board.gates.values() if g.kind in ("service", "cylinder", "nitrogen")}
