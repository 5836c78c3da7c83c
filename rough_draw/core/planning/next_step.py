"""The next touch: what, when, why, and the caution that goes with it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from rough_draw.core.catalogue.breaking import STAND_S
from rough_draw.core.message import Message, Name, Value
from rough_draw.core.message.figure import vacuum
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.criteria import Criterion
from rough_draw.core.sheet.habits import ballast_level, is_wet
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import RunState

CHECK_AT = 1_000 * MICRON_PA
"""Level, Pa, of a check-hold where the school names none, and how long it lasts, s."""
CHECK_S = 120.0
OIL_AT = 2_000 * MICRON_PA
"""Level, Pa, at which a wet system's pump gets fresh oil: the boiling is over by then."""
FLUSH_AT = 4.0
"""The ball valves are worked once when the gauge is this many times the target."""


@dataclass(frozen=True, kw_only=True)
class NextTouch:
    """One step ahead. ``due`` is seconds from now (0: now, None: not known yet); ``kind`` is the touch to log.

    ``first`` is one that goes with it and is logged before it.
    """

    kind: str
    told: str
    due: float | None
    first: str = ""
    values: tuple[tuple[str, Value], ...] = ()

    @property
    def title(self) -> Message:
        """What to do."""
        return Message(f"next-{self.told}", self.values)

    @property
    def why(self) -> Message:
        """Its reason."""
        return Message(f"next-{self.told}.why", self.values)

    @property
    def caution(self) -> Message:
        """What to mind."""
        return Message(f"next-{self.told}.caution", self.values)


def _next(kind: str, due: float | None, told: str = "", first: str = "", **values: Value) -> NextTouch:
    return NextTouch(kind=kind, told=told or kind, due=due, first=first, values=tuple(values.items()))


@dataclass(frozen=True)
class Outlook:
    """Seconds from now until the gauge passes a level Pa, by the plan as it now stands: None if unknown."""

    ballast: float | None
    flush: float | None
    target: float | None
    check: float | None = None


@dataclass(frozen=True)
class HeldBack:
    """Why the system is not isolated yet though the gauge is there: the standard's dwell, a far side that stands
    higher, readings that the plan cannot explain, a draw that has levelled off above the target. ``due`` s from now
    where it is known."""

    told: Literal["dwell", "far", "unexplained", "stuck"]
    due: float | None = None
    values: tuple[tuple[str, Value], ...] = ()


def ballast_at(job: Job) -> float | None:
    """Level, Pa, at which this job's ballast is closed; None where it stays shut."""
    return ballast_level(job.habits, is_wet(job.scope.condition, job.scope.free_water_g))


def next_touches(
    job: Job,
    state: RunState,
    criterion: Criterion,
    reading: float | None,
    over_range: bool,
    outlook: Outlook,
    now: float,
    isolate_where: Name,
    held_back: HeldBack | None = None,
) -> list[NextTouch]:
    """Touches still to come in their order, the first being the one on the card.

    ``reading`` Pa is the last figure (None when there is none or it is over range); ``now`` is on the clock of
    the touches. ``held_back``: why the system is not to be isolated yet.
    """
    if state.broken_at is not None:
        return [_break_end(state, now), *_draw(job, state, criterion, None, outlook, isolate_where, now)]
    if not state.pump_on and state.isolated_at is None:
        warm = [_next("warm-up", 0.0)] if _is_wet(job) and state.warmed_at is None and state.started_at is None else []
        return [*warm, _start(job), *_draw(job, state, criterion, None, outlook, isolate_where, now)]
    if state.isolated_at is not None:
        return _hold(state, criterion, now)
    return _draw(job, state, criterion, None if over_range else reading, outlook, isolate_where, now, held_back)


def _is_wet(job: Job) -> bool:
    return is_wet(job.scope.condition, job.scope.free_water_g)


def _start(job: Job) -> NextTouch:
    opened = "with-manifold" if job.rig.has("manifold") else "plain"
    if ballast_at(job) is None:
        return _next("pump-on", 0.0, "start", opened=opened)
    return _next("pump-on", 0.0, "start-with-ballast", "ballast-open", opened=opened)


def _draw(
    job: Job,
    state: RunState,
    c: Criterion,
    reading: float | None,
    outlook: Outlook,
    where: Name,
    now: float,
    held: HeldBack | None = None,
) -> list[NextTouch]:
    ahead: list[NextTouch] = []

    def due_at(level: float, expected: float | None) -> float | None:
        return 0.0 if reading is not None and reading <= level else expected

    if state.checking_since is not None:
        ahead.append(_next("check-end", max(0.0, CHECK_S - (now - state.checking_since))))
    level = ballast_at(job)
    if state.ballast_open or (level is not None and not state.pump_on):
        shut_at = level if level is not None else 5_000 * MICRON_PA
        ahead.append(_next("ballast-shut", due_at(shut_at, outlook.ballast), level=vacuum(shut_at)))
    # A check that belongs to the standard is part of it, whatever the habit.
    if (job.habits.check_hold or c.check is not None) and state.checked_at is None and state.checking_since is None:
        at = c.check or CHECK_AT
        ahead.append(_next("check-hold", due_at(at, outlook.check), where=where, level=vacuum(at)))
    if _is_wet(job) and state.oil_changed_at is None and state.pump_on:
        ahead.append(_next("oil-change", due_at(OIL_AT, outlook.check), level=vacuum(OIL_AT)))
    if job.habits.valve_flush and state.flushed_at is None and state.breaks == len(c.breaks):
        ahead.append(_next("valve-flush", due_at(FLUSH_AT * c.target, outlook.flush)))
    if state.breaks < len(c.breaks):
        level, count = c.breaks[state.breaks], len(c.breaks)
        due = due_at(level, outlook.target)
        return [*ahead, _next("break", due, level=vacuum(level), number=state.breaks + 1, count=count)]
    due = due_at(c.target, outlook.target)
    isolate = _next("isolate", due, where=where, level=vacuum(c.target))
    if held is None or (held.told in ("dwell", "far") and due != 0.0):
        return [*ahead, isolate]
    wait = NextTouch(kind="wait", told=f"wait-{held.told}", due=0.0, values=held.values)
    return [*ahead, wait, replace(isolate, due=held.due)]


def _break_end(state: RunState, now: float) -> NextTouch:
    return _next("break-end", max(0.0, STAND_S.value - (now - (state.broken_at or now))))


def _hold(state: RunState, c: Criterion, now: float) -> list[NextTouch]:
    left = c.minutes * 60.0 - (now - (state.isolated_at or now))
    told = "let-it-stand" if left > 0 else "read-hold"
    reading = _next("read-hold", max(0.0, left), told, standard=c.name, rule=c.rule())
    return [_next("pump-off", 0.0), reading] if state.pump_on else [reading]
