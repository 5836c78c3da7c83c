"""Which alarms of a run ring: their conditions, in words."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.physics.units import MICRON_PA, micron
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
    due: tuple[str, str] | None
    stale: bool


@dataclass(frozen=True)
class Ring:
    """An alarm that is on: its key, its words."""

    key: str
    words: str


def ringing(alarms: tuple[Alarm, ...], f: Facts) -> list[Ring]:
    """Alarms whose condition holds, in the order of the sheet. Nothing rings before the pump has run."""
    if f.started_at is None:
        return []
    found = []
    for a in alarms:
        words = _words(a, f)
        if words:
            due = f"due-{f.due[0]}" if a.kind == "due" and f.due is not None else a.key
            found.append(Ring(due, words))
    return found


def _words(a: Alarm, f: Facts) -> str:
    last = float(f.pa[-1]) if f.pa.size else float("nan")
    seen = bool(np.isfinite(last))
    match a.kind:
        case "under":
            level = (a.micron or 0.0) * MICRON_PA
            return f"Under {micron(level):,.0f} µ: {micron(last):,.0f} µ." if seen and last <= level else ""
        case "over":
            return _over(a, f)
        case "slower":
            return _slow(a, f) if seen and not f.held else ""
        case "after":
            past = f.now - (f.started_at or f.now) >= (a.minutes or 0.0) * 60.0
            return f"{a.minutes:g} min since the pump started." if past else ""
        case "due":
            return f"{f.due[1]}." if f.due is not None else ""
        case _:
            return "Nothing heard from the gauge." if f.stale else ""


def _over(a: Alarm, f: Facts) -> str:
    """Over a level it has been under: on the way down it is no alarm."""
    level = (a.micron or 0.0) * MICRON_PA
    if f.pa.size == 0 or not bool((f.pa < level).any()):
        return ""
    last = float(f.pa[-1])
    if np.isnan(last):
        return f"Over {micron(level):,.0f} µ: over range."
    return f"Over {micron(level):,.0f} µ: {micron(last):,.0f} µ." if last > level else ""


def _slow(a: Alarm, f: Facts) -> str:
    if f.now - (f.started_at or f.now) < SETTLED_S:
        return ""
    keep = np.isfinite(f.pa) & (f.at >= f.now - 2 * RATE_S)
    rate = rate_of(f.at[keep], f.pa[keep], RATE_S)
    if rate is None or float(np.ptp(f.at[keep])) < 0.5 * RATE_S or rate <= -(a.rate or 0.0):
        return ""
    return f"Falls slower than {a.rate:g} µ/s."
