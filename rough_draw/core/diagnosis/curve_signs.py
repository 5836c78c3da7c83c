"""What the curve itself looks like: the trade's signatures of a draw that does not go as it should."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.physics.scatter import sigma_of
from rough_draw.core.physics.water import TRIPLE_PA

FloatArray = NDArray[np.float64]

RISEN = 1.25
"""Times its lowest reading, from which a draw counts as rising."""
NEVER_S = 300.0
"""Pumping this long, s, without the gauge coming into range is a sign."""
JUMPS = 0.06
"""Scatter of neighbours, as a log of pressure, from which a gauge counts as jumping: ten times a usual one."""
STUCK = 0.05
"""Fall over the last sixth of the time, as a share, under which a draw counts as stuck."""


@dataclass(frozen=True)
class Signature:
    """A sign with its words: never, rises, jumps, stuck, ice, boils, or none."""

    key: str
    words: Message


def rising_since(at: FloatArray, pa: FloatArray) -> float | None:
    """Since when the gauge rises while it should fall, s: its lowest reading, where it has left that for good."""
    seen = np.isfinite(pa)
    if int(seen.sum()) < 6:
        return None
    # Over range after it was in range is a rise as well.
    since = int(np.argmax(seen))
    t, p = at[since:], np.where(seen, pa, np.nanmax(pa) * 10.0)[since:]
    low = int(np.argmin(p))
    tail = float(np.median(p[-3:]))
    return float(t[low]) if tail > RISEN * float(p[low]) and t[-1] - t[low] > 20.0 else None


def jumps(pa: FloatArray) -> bool:
    """Whether a gauge's last readings jump about: the scatter of each against its neighbours' middle."""
    p = pa[np.isfinite(pa)][-41:]
    if p.size < 12:
        return False
    log = np.log(np.maximum(p, 1e-3))
    off = log[1:-1] - 0.5 * (log[:-2] + log[2:])
    return sigma_of(off) / math.sqrt(1.5) > JUMPS


def signature(at: FloatArray, pa: FloatArray, boils: float) -> Signature | None:
    """The sign of a draw so far: ``at`` s since the pump started, ``pa`` Pa with NaN over range.

    ``boils`` Pa is where water boils at the coldest spot. None where nothing strikes the eye.
    """
    seen = np.isfinite(pa)
    if at.size == 0:
        return None
    if not seen.any():
        return Signature("never", message("sign-never", time=duration(float(at[-1])))) if at[-1] > NEVER_S else None
    since = rising_since(at, pa)
    if since is not None:
        time, low = duration(float(at[-1]) - since), vacuum(float(np.nanmin(pa)))
        return Signature("rises", message("sign-rises", time=time, low=low))
    if jumps(pa):
        return Signature("jumps", message("sign-jumps"))
    return _stuck(at[seen], pa[seen], boils)


def _stuck(t: FloatArray, p: FloatArray, boils: float) -> Signature | None:
    span = max(120.0, float(t[-1]) / 6.0)
    if t[-1] - t[0] < span:
        return None
    level = float(np.median(p[-3:]))
    before = float(np.interp(t[-1] - span, t, p))
    if level < (1.0 - STUCK) * before:
        return None
    key = "stuck"
    if abs(np.log(level / TRIPLE_PA)) < 0.15 and boils > TRIPLE_PA:
        key = "ice"
    elif abs(np.log(level / boils)) < 0.2:
        key = "boils"
    return Signature(key, message(f"sign-{key}", level=vacuum(level)))
