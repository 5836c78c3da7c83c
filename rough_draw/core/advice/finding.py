"""What a finding is: how grave, where, why, and the fix one touch away."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from rough_draw.core.message import Message, Value, message
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig

FindingKind = Literal[
    "ball-end",
    "blind-gauge",
    "charge-open",
    "check-valve",
    "cord",
    "core-shut",
    "core-under-tool",
    "cramped",
    "crossed-hoses",
    "depressor",
    "driven-valve",
    "fit",
    "gauge-beyond-core",
    "gauge-burst",
    "gauge-coarse",
    "gauge-not-worst",
    "gauge-exposed",
    "gauge-near-pump",
    "hoses-in-hold",
    "left-out",
    "manifold",
    "narrow-end",
    "narrow-intake",
    "new-hose",
    "no-ballast",
    "no-gauge",
    "no-pressure",
    "no-valve",
    "oil-used",
    "pressure-hose",
    "pump-not-rated",
    "side-core",
    "single-stage",
    "small-hose",
    "tool",
]
Severity = Literal["stop", "caution", "note"]
RANK: dict[str, int] = {"stop": 0, "caution": 1, "note": 2}


@dataclass(frozen=True)
class Fix:
    """A change in words, and the job with it made."""

    words: Message
    job: Job


@dataclass(frozen=True, kw_only=True)
class Finding:
    """One finding. ``place`` is a part, port, section or link by its id; ``about`` tells it from others of its kind.

    ``case`` tells its sentence from others of its kind, ``values`` are those of sentence and reason.
    """

    kind: FindingKind
    severity: Severity
    place: str
    case: str = ""
    values: Mapping[str, Value] = field(default_factory=dict)
    fix: Fix | None = None
    about: str = ""

    @property
    def key(self) -> str:
        """What it is known by."""
        return f"{self.kind}-{self.about}" if self.about else self.kind

    @property
    def title(self) -> Message:
        """What is found."""
        return message(f"finding-{self._told}", **self.values)

    @property
    def why(self) -> Message:
        """Why it matters."""
        return message(f"finding-{self._told}.why", **self.values)

    @property
    def _told(self) -> str:
        return f"{self.kind}-{self.case}" if self.case else self.kind


def fix_by(job: Job, words: Message, make: Callable[[], Rig]) -> Fix | None:
    """The job with the rig that edits make, as a fix; none where there is no such rig: another part is in the way."""
    rig = rig_edit.attempt(make)
    return rig_fix(job, words, rig) if rig is not None else None


def rig_fix(job: Job, words: Message, rig: Rig) -> Fix:
    """The job with another rig, as a fix."""
    return Fix(words, job.model_copy(update={"rig": rig}))
