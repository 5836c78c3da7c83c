"""What happened to a part of the kit, as values: readings taken of it, oil changed, hours run."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from rough_draw.core.message import Name

EventKind = Literal["blank-off", "rig-proof", "gauge-check", "oil-change", "run", "cleaning", "calibration", "retired"]
BY_HAND: tuple[EventKind, ...] = ("oil-change", "cleaning", "calibration", "retired")
"""Events that are logged by hand, with a note; the others come out of jobs."""


@dataclass(frozen=True, kw_only=True)
class KitEvent:
    """One event: its kind, when (epoch s), in which job, and its figures."""

    kind: EventKind
    at: float
    job: str
    values: Mapping[str, Any]
    verdict: str = ""
    words: Name = ""


def latest(history: list[KitEvent], kind: EventKind) -> KitEvent | None:
    """The last event of a kind."""
    mine = [e for e in history if e.kind == kind]
    return max(mine, key=lambda e: e.at) if mine else None
