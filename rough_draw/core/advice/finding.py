"""What a finding is: how grave, where, why, and the fix one touch away."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig

Severity = Literal["stop", "caution", "note"]
RANK: dict[str, int] = {"stop": 0, "caution": 1, "note": 2}


@dataclass(frozen=True)
class Fix:
    """A change in words, and the job with it made."""

    words: str
    job: Job


@dataclass(frozen=True, kw_only=True)
class Finding:
    """One finding. ``place`` is a part, port, section or link by its id."""

    key: str
    severity: Severity
    place: str
    title: str
    why: str
    fix: Fix | None = None


def rig_fix(job: Job, words: str, rig: Rig) -> Fix:
    """The job with another rig, as a fix."""
    return Fix(words, job.model_copy(update={"rig": rig}))
