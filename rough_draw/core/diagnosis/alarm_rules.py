"""Which alarms of a run ring: their conditions, in words."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import duration, rise, vacuum
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.progress import rate_of
from rough_draw.core.sheet.alarms import Alarm

FloatArray = NDArray[np.float64]
SETTLED_S = 180.0
"""A rate is not asked about in the first minutes of a draw."""
RATE_S = 60.0


@dataclass(frozen=True, kw_only=True)
class Facts:
    """A run as its alarms see it. ``at`` s and ``pa`` Pa of the latest readings, NaN over range; times on one clock."""

    now: float
    started_at: float | None
    held: bool
    at: FloatArray
    pa: FloatArray
    due: tuple[str, Message] | None
    stale: bool


@dataclass(frozen=True)
class Ring:
    """An alarm that is on: its key, its words."""

    key: str
    words: Message


def ringing(alarms: tuple[Alarm, ...], f: Facts) -> list[Ring]:
    """Alarms whose condition holds, in the order of the sheet. Nothing rings before the pump has run."""
    if f.started_at is None:
        return []
    found = []
    for a in alarms:
        words = _words(a, f)
        if words is not None:
            due = f"due-{f.due[0]}" if a.kind == "due" and f.due is not None else a.key
            found.append(Ring(due, words))
    return found


def _words(a: Alarm, f: Facts) -> Message | None:
    last = float(f.pa[-1]) if f.pa.size else float("nan")
    seen = bool(np.isfinite(last))
    match a.kind:
        case "under":
            level = (a.micron or 0.0) * MICRON_PA
            return message("alarm-under", level=vacuum(level), last=vacuum(last)) if seen and last <= level else None
        case "over":
            return _over(a, f)
        case "slower":
            return _slow(a, f) if seen and not f.held else None
        case "after":
            past = f.now - (f.started_at or f.now) >= (a.minutes or 0.0) * 60.0
            return message("alarm-after", time=duration(60.0 * (a.minutes or 0.0))) if past else None
        case "due":
            return message("alarm-due", step=f.due[1]) if f.due is not None else None
        case _:
            return message("alarm-stale") if f.stale else None


def _over(a: Alarm, f: Facts) -> Message | None:
    """Over a level it has been under: on the way down it is no alarm."""
    level = (a.micron or 0.0) * MICRON_PA
    if f.pa.size == 0 or not bool((f.pa < level).any()):
        return None
    last = float(f.pa[-1])
    if np.isnan(last):
        return message("alarm-over-range", level=vacuum(level))
    return message("alarm-over", level=vacuum(level), last=vacuum(last)) if last > level else None


def _slow(a: Alarm, f: Facts) -> Message | None:
    if f.now - (f.started_at or f.now) < SETTLED_S:
        return None
    keep = np.isfinite(f.pa) & (f.at >= f.now - 2 * RATE_S)
    rate = rate_of(f.at[keep], f.pa[keep], RATE_S)
    if rate is None or float(np.ptp(f.at[keep])) < 0.5 * RATE_S or rate <= -(a.rate or 0.0):
        return None
    return message("alarm-slower", rate=rise((a.rate or 0.0) * MICRON_PA))
