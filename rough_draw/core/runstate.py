"""The state of a run, folded from its touches: nothing is stored that can be derived."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

TOUCHES: dict[str, str] = {
    "pump-on": "Pump started",
    "pump-off": "Pump stopped",
    "ballast-open": "Gas ballast opened",
    "ballast-shut": "Gas ballast closed",
    "valve-flush": "Ball valves opened and closed once",
    "isolate": "System isolated",
    "reopen": "System opened to the pump again",
    "note": "Note",
}
"""Kinds of touch that a run knows, with their words."""


def turned(kind: str) -> tuple[str, str] | None:
    """A touch on one valve, ``open:<valve>`` or ``shut:<valve>``: which way and which; None for any other kind."""
    way, colon, valve = kind.partition(":")
    return (way, valve) if colon and way in ("open", "shut") and valve else None


def known(kind: str) -> bool:
    """Whether a run knows this kind of touch."""
    return kind in TOUCHES or turned(kind) is not None


def words_of(kind: str, valves: Mapping[str, str] | None = None) -> str:
    """A kind in words; ``valves`` names the valves of the rig."""
    valve = turned(kind)
    if valve is None:
        return TOUCHES.get(kind, kind)
    return f"{'Opened' if valve[0] == 'open' else 'Shut'} {(valves or {}).get(valve[1], valve[1])}"


@dataclass(frozen=True)
class Touch:
    """One touch: its kind, its time (s, any steady clock), and words added to it."""

    kind: str
    at: float
    note: str = ""


@dataclass(frozen=True)
class RunState:
    """Where a run stands. Times are on the clock of the touches; None means it has not happened."""

    started_at: float | None = None
    pump_on: bool = False
    ballast_open: bool = False
    ballast_shut_at: float | None = None
    flushed_at: float | None = None
    isolated_at: float | None = None
    pump_off_at: float | None = None
    stopped_unisolated: bool = False
    shut: frozenset[str] = frozenset()
    opened: frozenset[str] = frozenset()


def fold(touches: Iterable[Touch]) -> RunState:
    """State after the touches, in the order given. Unknown kinds change nothing."""
    state = RunState()
    for touch in touches:
        at = touch.at
        if touch.kind == "pump-on":
            started = state.started_at if state.started_at is not None else at
            state = replace(state, started_at=started, pump_on=True, pump_off_at=None)
        elif touch.kind == "pump-off":
            careless = state.pump_on and state.isolated_at is None
            state = replace(
                state, pump_on=False, pump_off_at=at, stopped_unisolated=state.stopped_unisolated or careless
            )
        elif touch.kind == "ballast-open":
            state = replace(state, ballast_open=True)
        elif touch.kind == "ballast-shut":
            state = replace(state, ballast_open=False, ballast_shut_at=at)
        elif touch.kind == "valve-flush":
            state = replace(state, flushed_at=at)
        elif touch.kind == "isolate":
            state = replace(state, isolated_at=at)
        elif touch.kind == "reopen":
            state = replace(state, isolated_at=None)
        elif (valve := turned(touch.kind)) is not None:
            one = {valve[1]}
            shut, opened = (
                (state.shut | one, state.opened - one) if valve[0] == "shut" else (state.shut - one, state.opened | one)
            )
            state = replace(state, shut=shut, opened=opened)
    return state
