"""The next touch: what, when, why, and the caution that goes with it."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.criteria import Criterion
from rough_draw.core.job import Job
from rough_draw.core.runstate import RunState
from rough_draw.core.units import MICRON_PA, micron

BALLAST_SHUT = 5_000 * MICRON_PA
"""Level, Pa, at which the ballast is closed: half way between the habits (10,000 and 1,500 µ)."""
FLUSH_AT = 4.0
"""The ball valves are worked once when the gauge is this many times the target."""


@dataclass(frozen=True)
class NextTouch:
    """One touch ahead. ``due`` is seconds from now (0: now, None: not known yet); ``kind`` is the touch to log."""

    kind: str
    title: str
    why: str
    caution: str
    due: float | None


@dataclass(frozen=True)
class Outlook:
    """Seconds from now until the gauge passes a level Pa, by the plan as it now stands: None if unknown."""

    ballast: float | None
    flush: float | None
    target: float | None


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
    if not state.pump_on and state.isolated_at is None:
        return [_start(job), *_draw(state, criterion, None, outlook, isolate_where)]
    if state.isolated_at is not None:
        return _hold(state, criterion, now)
    return _draw(state, criterion, None if over_range else reading, outlook, isolate_where)


def _start(job: Job) -> NextTouch:
    has_manifold = any(p.kind == "manifold" for p in job.rig.parts)
    open_all = "Open every tool" + (", every manifold valve" if has_manifold else "") + ". "
    return NextTouch(
        "pump-on",
        "Start the pump, ballast open",
        open_all + "The ballast keeps water from condensing in the oil while most of it comes over.",
        "Power to the unit locked off: a compressor must never run in vacuum.",
        0.0,
    )


def _draw(state: RunState, c: Criterion, reading: float | None, outlook: Outlook, where: str) -> list[NextTouch]:
    ahead: list[NextTouch] = []
    if state.ballast_open or not state.pump_on:
        due = 0.0 if reading is not None and reading <= BALLAST_SHUT else outlook.ballast
        ahead.append(
            NextTouch(
                "ballast-shut",
                "Close the gas ballast",
                f"Under {micron(BALLAST_SHUT):,.0f} µ the ballast only keeps the pump from going deep.",
                "A ballast left open is the commonest stall.",
                due,
            )
        )
    if state.flushed_at is None:
        due = 0.0 if reading is not None and reading <= FLUSH_AT * c.target else outlook.flush
        ahead.append(
            NextTouch(
                "valve-flush",
                "Open and close every ball valve once",
                "Frees the gas caught round each ball.",
                "Slowly; the reading may jump for a moment.",
                due,
            )
        )
    due = 0.0 if reading is not None and reading <= c.target else outlook.target
    ahead.append(
        NextTouch(
            "isolate",
            f"Isolate at {where}",
            f"The gauge is at the {micron(c.target):,.0f} µ to pull to. Shut first, then stop the pump.",
            "Stopped first, the pump sends its air and oil into the system.",
            due,
        )
    )
    return ahead


def _hold(state: RunState, c: Criterion, now: float) -> list[NextTouch]:
    ahead: list[NextTouch] = []
    if state.pump_on:
        ahead.append(
            NextTouch(
                "pump-off",
                "Let air in at the pump, then stop it",
                "The system is shut off. Air at the pump keeps its oil from creeping up the hose.",
                "Only now: the valves at the system stay shut.",
                0.0,
            )
        )
    left = c.minutes * 60.0 - (now - (state.isolated_at or now))
    ahead.append(
        NextTouch(
            "read-hold",
            "Let it stand and read the hold" if left > 0 else "Read the hold",
            f"{c.name}: {c.rule()}.",
            "Touch nothing; sun on the unit lifts the reading a little.",
            max(0.0, left),
        )
    )
    return ahead
