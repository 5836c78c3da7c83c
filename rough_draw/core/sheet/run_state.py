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
    "check-hold": "Isolated for a check-hold",
    "check-end": "Opened again after the check-hold",
    "break": "Vacuum broken with nitrogen",
    "break-end": "Nitrogen shut, pulled again",
    "oil-change": "Pump oil changed",
    "warm-up": "Warmth put on",
    "isolate": "System isolated",
    "reopen": "System opened to the pump again",
    "cylinder-open": "Cylinder opened",
    "cylinder-throttle": "Cylinder throttled",
    "cylinder-shut": "Cylinder shut",
    "compressor-on": "System started",
    "compressor-off": "System stopped",
    "scale-zero": "Scale zeroed",
    "note": "Note",
}
"""Kinds of touch that a run knows, with their words."""


ON_ONE: dict[str, str] = {
    "open": "Opened",
    "shut": "Shut",
    "take-off": "Taken off:",
    "put-on": "Put on again:",
    "core-out": "Core pulled at the port:",
    "core-in": "Core put back at the port:",
}
"""Touches on one valve, part or port, ``<kind>:<id>``, with their words."""


def on_one(kind: str) -> tuple[str, str] | None:
    """A touch on one thing: which touch and on which; None for any other kind."""
    way, colon, thing = kind.partition(":")
    return (way, thing) if colon and way in ON_ONE and thing else None


def turned(kind: str) -> tuple[str, str] | None:
    """A touch on one valve, ``open:<valve>`` or ``shut:<valve>``: which way and which; None for any other kind."""
    found = on_one(kind)
    return found if found is not None and found[0] in ("open", "shut") else None


def found_of(kind: str) -> tuple[str, str] | None:
    """A finding, ``found:<test>=<outcome>``: of which test and what; None for any other kind."""
    way, _, rest = kind.partition(":")
    test, equals, outcome = rest.partition("=")
    return (test, outcome) if way == "found" and equals and test and outcome else None


def found_kind(test: str, outcome: str) -> str:
    """The kind of touch that logs a finding."""
    return f"found:{test}={outcome}"


def known(kind: str) -> bool:
    """Whether a run knows this kind of touch."""
    return kind in TOUCHES or on_one(kind) is not None or found_of(kind) is not None


def words_of(kind: str, names: Mapping[str, str] | None = None) -> str:
    """A kind in words; ``names`` are those of the rig's valves and parts."""
    finding = found_of(kind)
    if finding is not None:
        return "Looked again from the beginning" if finding[0] == "anew" else "Looked:"
    found = on_one(kind)
    if found is None:
        return TOUCHES.get(kind, kind)
    return f"{ON_ONE[found[0]]} {(names or {}).get(found[1], found[1].replace('-', ' '))}"


@dataclass(frozen=True)
class Touch:
    """One touch: its kind, its time (s, any steady clock), and words added to it."""

    kind: str
    at: float
    note: str = ""


@dataclass(frozen=True)
class RunState:
    """Where a run stands. Times are on the clock of the touches; None means it has not happened.

    ``breaks`` made with nitrogen so far; ``broken_at`` while it stands in the system; ``pulled_at``: the last draw.
    """

    started_at: float | None = None
    pump_on: bool = False
    ballast_open: bool = False
    ballast_shut_at: float | None = None
    flushed_at: float | None = None
    isolated_at: float | None = None
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


def _one(state: RunState, way: str, thing: str) -> RunState:
    """A touch on one valve, part or port. ``cores``: ports whose core was put back."""
    one = {thing}
    match way:
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
        case _:
            return replace(state, cores=state.cores - one)


def fold(touches: Iterable[Touch]) -> RunState:
    """State after the touches, in the order given. Unknown kinds change nothing."""
    state = RunState()
    for touch in touches:
        at = touch.at
        if touch.kind == "pump-on":
            started = state.started_at if state.started_at is not None else at
            state = replace(state, started_at=started, pump_on=True, pump_off_at=None)
        elif touch.kind == "pump-off":
            careless = state.pump_on and state.isolated_at is None and state.checking_since is None
            state = replace(
                state, pump_on=False, pump_off_at=at, stopped_unisolated=state.stopped_unisolated or careless
            )
        elif touch.kind == "ballast-open":
            state = replace(state, ballast_open=True)
        elif touch.kind == "ballast-shut":
            state = replace(state, ballast_open=False, ballast_shut_at=at)
        elif touch.kind == "valve-flush":
            state = replace(state, flushed_at=at)
        elif touch.kind == "check-hold":
            state = replace(state, checking_since=at)
        elif touch.kind == "check-end":
            state = replace(state, checking_since=None, checked_at=at)
        elif touch.kind == "break":
            state = replace(state, broken_at=at, breaks=state.breaks + 1)
        elif touch.kind == "break-end":
            state = replace(state, broken_at=None, pulled_at=at)
        elif touch.kind == "oil-change":
            state = replace(state, oil_changed_at=at)
        elif touch.kind == "warm-up":
            state = replace(state, warmed_at=at)
        elif touch.kind == "isolate":
            state = replace(state, isolated_at=at)
        elif touch.kind == "reopen":
            state = replace(state, isolated_at=None)
        elif (found := on_one(touch.kind)) is not None:
            state = _one(state, *found)
    return state
