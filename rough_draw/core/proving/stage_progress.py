"""The seven stages of a job, and what each still misses."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.interlock.release import release_steps
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import duration
from rough_draw.core.proving.assessment import prove
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.once import once_a_sheet
from rough_draw.core.sheet.run_state import RunState

STAGES: tuple[str, ...] = ("scope", "rig", "prove", "draw", "hold", "release", "record")


@dataclass(frozen=True)
class Stage:
    """One joint of the rail: whether it is done, and what is missing if not."""

    key: str
    done: bool
    missing: Name


@once_a_sheet(1024)
def _checks_left(job: Job) -> int:
    """How many checks before the draw hold it up. Every row of the Yard asks, whenever anything moves."""
    return sum(g.holds_up for g in prove(job).gates)


@once_a_sheet(1024)
def _steps_left(job: Job) -> int:
    return sum(s.key not in job.release.steps_done for s in release_steps(job))


def stages(job: Job, run: RunState, hold_span: float, hold_needs: float, read: bool = True) -> list[Stage]:
    """State of every stage. ``hold_span`` s has been read of ``hold_needs`` s of the chosen standard; ``read``: whether
    any reading was taken, without which nobody knows of a draw.
    """
    named = bool(job.party.customer.strip() and job.party.unit.strip())
    checks, steps = _checks_left(job), _steps_left(job)
    drawn = run.started_at is not None and run.isolated_at is not None and read
    if run.started_at is None:
        draw_missing = message("missing-pump")
    elif not read:
        draw_missing = message("missing-readings")
    else:
        draw_missing = message("missing-isolation")
    held = drawn and hold_span >= hold_needs
    left = message("missing-hold-time", time=duration(max(0.0, hold_needs - hold_span)))
    hold_missing = left if drawn else message("missing-draw")

    def stage(key: str, done: bool, missing: Message) -> Stage:
        return Stage(key, done, "" if done else missing)

    return [
        stage("scope", named, message("missing-names")),
        stage("rig", named, message("missing-scope")),
        stage("prove", not checks, message("missing-checks", count=checks)),
        stage("draw", drawn, draw_missing),
        stage("hold", held, hold_missing),
        stage("release", not steps, message("missing-steps", count=steps)),
        stage("record", bool(job.closing.signed_by), message("missing-signature")),
    ]


def current(found: list[Stage]) -> str:
    """The stage a job stands at: the last done one's successor, where work was done out of order too."""
    last = max((i for i, s in enumerate(found) if s.done), default=-1)
    return STAGES[min(last + 1, len(STAGES) - 1)]
