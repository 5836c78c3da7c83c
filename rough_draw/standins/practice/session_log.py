"""What is kept of a practice job: deeds, readings and what was true beside them."""

from __future__ import annotations

import bisect
from collections.abc import Sequence
from dataclasses import dataclass, field

from rough_draw.core.interlock.consequence import Consequence
from rough_draw.core.message import Fault, Name
from rough_draw.core.practice.action_kinds import Action, read_action
from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.standins.practice.hold_truth import HoldTruth


class CannotDo(Fault):
    """Hands cannot do this here; says why, and what can be done."""


@dataclass(frozen=True)
class Named:
    """Something that could be the matter: a key, in words."""

    key: str
    words: Name


@dataclass(frozen=True, kw_only=True)
class Done:
    """One deed: when it was finished (s), its words, what followed, what it showed, the truth of a hold it judged.

    ``worst``: the section that stood highest then. ``apart``: whether shut valves part the system from the pump since.
    ``reason``: why a sound hand does it.
    """

    at: float
    kind: str
    words: Name
    said: tuple[Consequence, ...] = ()
    showed: Name = ""
    hold: HoldTruth | None = None
    choice: RigChoice | None = None
    before: bool = False
    worst: Name = ""
    apart: bool = False
    reason: Name = ""

    @property
    def action(self) -> Action | None:
        """What was done, typed."""
        return read_action(self.kind)


@dataclass
class Track:
    """What was read and what was true, every `GRID` seconds: s, Pa; NaN where over range."""

    at: list[float] = field(default_factory=list)
    shown: list[float] = field(default_factory=list)
    true: list[float] = field(default_factory=list)
    highest: list[float] = field(default_factory=list)
    second: list[tuple[float, float]] = field(default_factory=list)

    def value(self, series: Sequence[float], when: float) -> float:
        """A series at a time, s; NaN before the first."""
        i = bisect.bisect_right(self.at, when) - 1
        return series[i] if i >= 0 else float("nan")
