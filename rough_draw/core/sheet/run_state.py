"""The state of a run, folded from its touches: nothing is stored that can be derived."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from rough_draw.core.message import Name, message
from rough_draw.core.sheet.steps import (
    Answered,
    LookedAnew,
    OnPart,
    OnRun,
    PartMove,
    RunMove,
    StepKind,
    TakenBack,
    read_step,
)

BALLAST = ("ballast-open", "ballast-shut")


def known(kind: str) -> bool:
    """Whether a run knows this kind of step."""
    return isinstance(read_step(kind), OnRun | OnPart | Answered | LookedAnew | TakenBack)


def words_of(kind: str, names: Mapping[str, Name] | None = None) -> Name:
    """A kind of step in words; ``names`` are those of the rig's valves and parts."""
    match read_step(kind):
        case OnRun(move):
            return message(f"done-{move}")
        case OnPart(part_move, part):
            return message(f"done-{part_move}", what=(names or {}).get(part, part.replace("-", " ")))
        case TakenBack(text):
            return message("done-taken-back", step=words_of(text, names))
        case LookedAnew():
            return message("done-looked-anew")
        case Answered():
            return message("done-looked")
        case _:
            return kind


@dataclass(frozen=True)
class Touch:
    """One touch: its kind, its time (s, any steady clock), words added to it, and whose hand it was, if known."""

    kind: str
    at: float
    note: str = ""
    hand: str = ""

    @property
    def step(self) -> StepKind:
        """What was done, typed."""
        return read_step(self.kind)


@dataclass(frozen=True, kw_only=True)
class RunState:
    """Where a run stands. Times are on the clock of the touches; None means it has not happened.

    ``breaks`` made with nitrogen so far; ``broken_at`` while it stands in the system; ``pulled_at``: the last draw.
    ``after``: steps on parts and of the charge since the hold began, in their order: what they do to the contents
    depends on it. ``before``: shut, opened, off and cores as they were when it began.
    ``opened_at``: since when a valve that shut the system off for the hold is open again, the pump standing still.
    """

    started_at: float | None = None
    pump_on: bool = False
    ballast_open: bool = False
    flushed_at: float | None = None
    isolated_at: float | None = None
    opened_at: float | None = None
    checking_since: float | None = None
    checked_at: float | None = None
    pump_off_at: float | None = None
    broken_at: float | None = None
    breaks: int = 0
    pulled_at: float | None = None
    oil_changed_at: float | None = None
    warmed_at: float | None = None
    stopped_unisolated: bool = False
    shut: frozenset[str] = frozenset()
    opened: frozenset[str] = frozenset()
    off: frozenset[str] = frozenset()
    cores: frozenset[str] = frozenset()
    after: tuple[str, ...] = ()
    before: tuple[frozenset[str], frozenset[str], frozenset[str], frozenset[str]] | None = None


def _on_part(state: RunState, move: PartMove, part: str) -> RunState:
    """A step on one valve, part or port. ``cores``: ports whose core was put back."""
    one = {part}
    match move:
        case "shut":
            return replace(state, shut=state.shut | one, opened=state.opened - one)
        case "open":
            return replace(state, shut=state.shut - one, opened=state.opened | one)
        case "take-off":
            return replace(state, off=state.off | one)
        case "put-on":
            return replace(state, off=state.off - one)
        case "core-in":
            return replace(state, cores=state.cores | one)
        case "core-out":
            return replace(state, cores=state.cores - one)
        case _:
            return state


def _on_run(state: RunState, move: RunMove, at: float) -> RunState:
    """A step on the run as a whole."""
    match move:
        case "pump-on":
            started = state.started_at if state.started_at is not None else at
            # On a system that was opened again it draws anew.
            isolated = state.isolated_at if state.opened_at is None else None
            return replace(
                state, started_at=started, pump_on=True, pump_off_at=None, isolated_at=isolated, opened_at=None
            )
        case "pump-off":
            careless = state.pump_on and state.isolated_at is None and state.checking_since is None
            stopped = state.stopped_unisolated or careless
            return replace(state, pump_on=False, pump_off_at=at, stopped_unisolated=stopped)
        case "ballast-open" | "ballast-shut":
            return replace(state, ballast_open=move == "ballast-open")
        case "valve-flush":
            return replace(state, flushed_at=at)
        case "check-hold":
            return replace(state, checking_since=at)
        case "check-end":
            return replace(state, checking_since=None, checked_at=at)
        case "break":
            return replace(state, broken_at=at, breaks=state.breaks + 1)
        case "break-end":
            return replace(state, broken_at=None, pulled_at=at)
        case "oil-change":
            return replace(state, oil_changed_at=at)
        case "warm-up":
            return replace(state, warmed_at=at)
        case "isolate":
            return replace(state, isolated_at=at, opened_at=None)
        case "reopen":
            return replace(state, isolated_at=None, opened_at=None)
        case _:
            return state


def _by_valves(state: RunState, move: PartMove, part: str, at: float, isolating: frozenset[str]) -> RunState:
    """The hold by its valves: it begins when the last of them is shut and ends when one opens, whoever turned it.

    Opened with the pump on, it is drawn again; with the pump standing still, only the hold is over.
    """
    if part not in isolating:
        return state
    if move == "shut" and state.started_at is not None and state.isolated_at is None and isolating <= state.shut:
        return replace(state, isolated_at=at, opened_at=None, checking_since=None)
    if move == "open" and state.isolated_at is not None:
        if state.pump_on:
            return replace(state, isolated_at=None, opened_at=None)
        return state if state.opened_at is not None else replace(state, opened_at=at)
    return state


def fold(touches: Iterable[Touch], isolating: Iterable[str] = ()) -> RunState:
    """State after the touches, in the order given. Unknown kinds change nothing.

    ``isolating``: the valves that shut the system off for the hold, by name.
    """
    state = RunState()
    valves = frozenset(isolating)
    for touch in in_effect(touches):
        was = state
        match touch.step:
            case OnRun(move):
                state = _on_run(state, move, touch.at)
                if move in ("isolate", "check-hold"):
                    state = replace(state, shut=state.shut | valves, opened=state.opened - valves)
                elif move in ("reopen", "check-end"):
                    state = replace(state, shut=state.shut - valves)
            case OnPart(part_move, part):
                state = _on_part(state, part_move, part)
                state = _by_valves(state, part_move, part, touch.at, valves)
            case _:
                continue
        state = _since_the_hold(was, state, touch.kind)
    return state


def _since_the_hold(was: RunState, now: RunState, kind: str) -> RunState:
    """What has been done since the hold began, kept in its order."""
    if now.isolated_at is None:
        return now if now.before is None else replace(now, after=(), before=None)
    if was.isolated_at != now.isolated_at:
        return replace(now, after=(), before=(now.shut, now.opened, now.off, now.cores))
    return replace(now, after=(*now.after, kind))


def in_effect(touches: Iterable[Touch]) -> list[Touch]:
    """The steps that count: without corrections, and without what they took back (the last one of their kind)."""
    found: list[Touch] = []
    for touch in touches:
        step = touch.step
        if not isinstance(step, TakenBack):
            found.append(touch)
            continue
        last = next((n for n in range(len(found) - 1, -1, -1) if found[n].kind == step.text), None)
        if last is not None:
            del found[last]
    return found


def ballast_left_open(touches: Iterable[Touch]) -> bool:
    """Whether the last thing said of the gas ballast is that it was opened."""
    logged = [t.kind for t in touches if t.kind in BALLAST]
    return bool(logged) and logged[-1] == "ballast-open"
