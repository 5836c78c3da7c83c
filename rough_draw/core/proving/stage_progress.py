"""The seven stages of a job, and what each still misses."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.interlock.release import release_steps
from rough_draw.core.proving.assessment import prove
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import RunState

STAGES: tuple[str, ...] = ("scope", "rig", "prove", "draw", "hold", "release", "record")


@dataclass(frozen=True)
class Stage:
    """One joint of the rail: whether it is done, and what is missing if not."""

    key: str
    done: bool
    missing: str


def stages(job: Job, run: RunState, hold_span: float, hold_needs: float) -> list[Stage]:
    """State of every stage. ``hold_span`` s has been read of ``hold_needs`` s of the chosen school."""
    named = bool(job.party.customer.strip() and job.party.unit.strip())
    open_gates = [g for g in prove(job).gates if g.holds_up]
    steps = [s for s in release_steps(job) if s.key not in job.release.steps_done]
    drawn = run.started_at is not None and run.isolated_at is not None
    if run.started_at is None:
        draw_missing = "the pump has not been started"
    else:
        draw_missing = "not isolated yet"
    held = drawn and hold_span >= hold_needs
    left = max(0.0, hold_needs - hold_span) / 60.0
    n, m = len(open_gates), len(steps)
    return [
        Stage("scope", named, "" if named else "customer and unit"),
        Stage("rig", named, "" if named else "the scope comes first"),
        Stage("prove", not open_gates, "" if not open_gates else f"{n} check{'s' if n != 1 else ''} open"),
        Stage("draw", drawn, "" if drawn else draw_missing),
        Stage("hold", held, "" if held else (f"{left:.0f} min to go" if drawn else "comes after the draw")),
        Stage("release", not steps, "" if not steps else f"{m} step{'s' if m != 1 else ''} to go"),
        Stage("record", bool(job.closing.signed_by), "" if job.closing.signed_by else "not signed"),
    ]


def current(found: list[Stage]) -> str:
    """The stage a job stands at: the last done one's successor, where work was done out of order too."""
    last = max((i for i, s in enumerate(found) if s.done), default=-1)
    return STAGES[min(last + 1, len(STAGES) - 1)]
