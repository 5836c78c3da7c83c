"""The next touch: what, when, why, and the caution that goes with it."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.breaking import STAND_S
from rough_draw.core.physics.units import MICRON_PA, micron
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
    """One touch ahead. ``due`` is seconds from now (0: now, None: not known yet); ``kind`` is the touch to log.

    ``first`` is one that goes with it and is logged before it.
    """

    kind: str
    title: str
    why: str
    caution: str
    due: float | None
    first: str = ""


@dataclass(frozen=True)
class Outlook:
    """Seconds from now until the gauge passes a level Pa, by the plan as it now stands: None if unknown."""

    ballast: float | None
    flush: float | None
    target: float | None
    check: float | None = None


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
    isolate_where: str,
) -> list[NextTouch]:
    """Touches still to come in their order, the first being the one on the card.

    ``reading`` Pa is the last figure (None when there is none or it is over range); ``now`` is on the clock of
    the touches.
    """
    if state.broken_at is not None:
        return [_break_end(state, now), *_draw(job, state, criterion, None, outlook, isolate_where, now)]
    if not state.pump_on and state.isolated_at is None:
        warm = [_warm()] if _is_wet(job) and state.warmed_at is None and state.started_at is None else []
        return [*warm, _start(job), *_draw(job, state, criterion, None, outlook, isolate_where, now)]
    if state.isolated_at is not None:
        return _hold(state, criterion, now)
    return _draw(job, state, criterion, None if over_range else reading, outlook, isolate_where, now)


def _is_wet(job: Job) -> bool:
    return is_wet(job.scope.condition, job.scope.free_water_g)


def _warm() -> NextTouch:
    return NextTouch(
        kind="warm-up",
        title="Warmth on: crankcase heater, blanket, warm room",
        why="Water is expected. Warm it leaves in hours, cold in days; the compressor's oil lets it go only warm.",
        caution="Heaters and warm air, kept moving; never a flame. Nothing that could start the compressor.",
        due=0.0,
    )


def _start(job: Job) -> NextTouch:
    has_manifold = any(p.kind == "manifold" for p in job.rig.parts)
    open_all = "Open every tool" + (", every manifold valve" if has_manifold else "") + ". "
    ballast = ballast_at(job) is not None
    return NextTouch(
        kind="pump-on",
        title="Start the pump, ballast open" if ballast else "Start the pump, ballast closed",
        why=open_all
        + ("The ballast keeps water from condensing in the oil while most of it comes over." if ballast else ""),
        caution="Power to the unit locked off: a compressor must never run in vacuum.",
        due=0.0,
        first="ballast-open" if ballast else "",
    )


def _draw(
    job: Job, state: RunState, c: Criterion, reading: float | None, outlook: Outlook, where: str, now: float
) -> list[NextTouch]:
    ahead: list[NextTouch] = []
    if state.checking_since is not None:
        why = "A leak goes straight on; what only evens out or boils off bends. Then pull on."
        left = CHECK_S - (now - state.checking_since)
        care = "The pump has kept running: nothing comes back."
        ahead.append(
            NextTouch(
                kind="check-end", title="End the check-hold, open again", why=why, caution=care, due=max(0.0, left)
            )
        )
    level = ballast_at(job)
    if state.ballast_open or (level is not None and not state.pump_on):
        shut_at = level if level is not None else 5_000 * MICRON_PA
        due = 0.0 if reading is not None and reading <= shut_at else outlook.ballast
        ahead.append(
            NextTouch(
                kind="ballast-shut",
                title="Close the gas ballast",
                why=f"Under {micron(shut_at):,.0f} µ the ballast only keeps the pump from going deep.",
                caution="A ballast left open is the commonest stall.",
                due=due,
            )
        )
    if job.habits.check_hold and state.checked_at is None and state.checking_since is None:
        at = c.check or CHECK_AT
        due = 0.0 if reading is not None and reading <= at else outlook.check
        title = f"Check-hold: isolate at {where} for two minutes"
        why = f"At {micron(at):,.0f} µ a leak shows before an hour is spent on it. The pump runs on."
        ahead.append(NextTouch(kind="check-hold", title=title, why=why, caution="Leave the pump running.", due=due))
    if _is_wet(job) and state.oil_changed_at is None and state.pump_on:
        ahead.append(_oil(job, reading, outlook))
    if job.habits.valve_flush and state.flushed_at is None and state.breaks == len(c.breaks):
        due = 0.0 if reading is not None and reading <= FLUSH_AT * c.target else outlook.flush
        ahead.append(
            NextTouch(
                kind="valve-flush",
                title="Open and close every ball valve once",
                why="Frees the gas caught round each ball.",
                caution="Slowly; the reading may jump for a moment.",
                due=due,
            )
        )
    if state.breaks < len(c.breaks):
        ahead.append(_break(c, state.breaks, reading, outlook))
        return ahead
    due = 0.0 if reading is not None and reading <= c.target else outlook.target
    ahead.append(
        NextTouch(
            kind="isolate",
            title=f"Isolate at {where}",
            why=f"The gauge is at the {micron(c.target):,.0f} µ to pull to. Isolate first, then stop the pump.",
            caution="Stopped first, the pump sends its air and oil into the system.",
            due=due,
        )
    )
    return ahead


def _break(c: Criterion, made: int, reading: float | None, outlook: Outlook) -> NextTouch:
    level = c.breaks[made]
    return NextTouch(
        kind="break",
        title=f"Break {made + 1} of {len(c.breaks)}: nitrogen to 0 gauge",
        why=f"At {micron(level):,.0f} µ. Dry nitrogen takes up what vapour is left and carries warmth in. "
        "The order for this rig stands under nitrogen break.",
        caution="Close the pump off first. Only from a regulated bottle with a relief; never air, never oxygen.",
        due=0.0 if reading is not None and reading <= level else outlook.target,
    )


def _break_end(state: RunState, now: float) -> NextTouch:
    left = STAND_S.value - (now - (state.broken_at or now))
    return NextTouch(
        kind="break-end",
        title="Close the nitrogen, pull again",
        why="A few minutes let it mix and warm what is cold. The pump takes it out again.",
        caution="At 0 gauge, not over: what stands over the atmosphere is vented first.",
        due=max(0.0, left),
    )


def _oil(job: Job, reading: float | None, outlook: Outlook) -> NextTouch:
    return NextTouch(
        kind="oil-change",
        title="Change the pump's oil, warm",
        why=f"Water has gone through it. Under {micron(OIL_AT):,.0f} µ most of it is over.",
        caution="Close the system off first, then stop the pump. Used oil is disposed of properly.",
        due=0.0 if reading is not None and reading <= OIL_AT else outlook.check,
    )


def _hold(state: RunState, c: Criterion, now: float) -> list[NextTouch]:
    ahead: list[NextTouch] = []
    if state.pump_on:
        ahead.append(
            NextTouch(
                kind="pump-off",
                title="Let air in at the pump, then stop it",
                why="The system is closed off. Air at the pump keeps its oil from creeping up the hose.",
                caution="Only now: the valves at the system stay closed.",
                due=0.0,
            )
        )
    left = c.minutes * 60.0 - (now - (state.isolated_at or now))
    ahead.append(
        NextTouch(
            kind="read-hold",
            title="Let it stand and read the hold" if left > 0 else "Read the hold",
            why=f"{c.name}: {c.rule()}.",
            caution="Touch nothing; sun on the unit lifts the reading a little.",
            due=max(0.0, left),
        )
    )
    return ahead
