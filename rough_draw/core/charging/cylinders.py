"""The cylinders that stood on the scale, one after the other: what each weighed before it was opened and after.

A large charge takes more than one. What a scale shows between two of them is a hand that lifts one off.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

OPENED = ("cylinder-open", "cylinder-throttle")
SHUT = "cylinder-shut"
NEXT = "cylinder-next"
ZEROED = "scale-zero"
FEW = 5
"""Readings whose middle stands for a weight at rest."""
JUST_S = 0.5
"""A reading that comes so soon after a valve was opened shows the weight before, s."""
HEAVIER_KG = 0.05
"""A scale drifts less than this (estimate: two or three steps of one for cylinders): beyond it a cylinder was filled,
or its two weights stand the wrong way round."""


@dataclass(frozen=True, kw_only=True)
class Cylinder:
    """One on the scale, kg: when it was opened, and after it was closed for good; None while that is to come.

    ``times`` s and ``weights`` kg (n,) are the scale's since it stands there; a scale that was zeroed while the
    cylinder was open goes on as if it had not been. None of a cylinder whose weights were typed.
    """

    start: float | None
    end: float | None
    times: FloatArray = field(default_factory=lambda: np.zeros(0))
    weights: FloatArray = field(default_factory=lambda: np.zeros(0))

    @property
    def _lost(self) -> float:
        """By how much it is lighter after than before, kg, less than nothing where heavier; none while not known."""
        return self.start - self.end if self.start is not None and self.end is not None else 0.0

    @property
    def given(self) -> float:
        """What it has lost, kg; none while it is not known."""
        return max(0.0, self._lost)

    @property
    def gained(self) -> float:
        """What it is heavier by after than before, kg; none where that is no more than a scale drifts."""
        return -self._lost if -self._lost > HEAVIER_KG else 0.0


def cylinders(times: FloatArray, weights: FloatArray, touches: Sequence[tuple[str, float]]) -> list[Cylinder]:
    """What stood on the scale: at least one, the last is there now.

    ``times`` s ascending and ``weights`` kg, both (n,); ``touches`` kind and s, in their order, of whatever kind. One
    that was taken off without a word that it was closed was closed by then.
    """
    ends = [at for kind, at in touches if kind == NEXT]
    found = []
    for since, until in zip([-np.inf, *ends], [*ends, np.inf], strict=True):
        here = (times > since) & (times <= until)
        found.append(_one(times[here], weights[here], [t for t in touches if since <= t[1] < until], until < np.inf))
    return found


def _one(times: FloatArray, weights: FloatArray, touches: Sequence[tuple[str, float]], gone: bool) -> Cylinder:
    opened = next((at for kind, at in touches if kind in OPENED), None)
    zeroed = [at for kind, at in touches if kind == ZEROED]
    if opened is None or not times.size:
        return Cylinder(start=None, end=None, times=times, weights=weights)
    weights = _as_if_not_zeroed(times, weights, [z for z in zeroed if z > opened])
    # Before the last zero it had another figure.
    settled = max((z for z in zeroed if z <= opened), default=-np.inf)
    before = weights[(times > settled) & (times <= opened + JUST_S)]
    since = weights[times > settled]
    start = float(np.median(before[-FEW:])) if before.size else float(since[0]) if since.size else None
    valve = [(kind, at) for kind, at in touches if kind in (*OPENED, SHUT)]
    end = None
    if valve[-1][0] == SHUT:
        after = weights[times >= valve[-1][1]]
        # What comes last of one that is gone are the hands that took it.
        rest = after[:FEW] if gone else after[-FEW:]
        end = float(np.median(rest)) if rest.size else None
    if end is None and gone:
        end = float(np.median(weights[-FEW:]))
    return Cylinder(start=start, end=end, times=times, weights=weights)


def _as_if_not_zeroed(times: FloatArray, weights: FloatArray, zeroed: Sequence[float]) -> FloatArray:
    for at in zeroed:
        after = times > at
        if after.any() and not after.all():
            weights = np.where(after, weights + (weights[~after][-1] - weights[after][0]), weights)
    return weights
