"""Thinning a long series for drawing: every piece keeps its least and its greatest reading."""

from __future__ import annotations

import itertools

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


def decimate(x: FloatArray, y: FloatArray, most: int) -> tuple[FloatArray, FloatArray]:
    """At most about ``most`` points of a series, keeping the ends, and the minimum and maximum of each piece.

    NaN (over range) counts as the greatest value, so that gaps stay visible.
    """
    n = x.size
    if n <= most or most < 8:
        return x, y
    pieces = most // 2
    edges = np.linspace(0, n, pieces + 1).astype(int)
    filled = np.where(np.isnan(y), np.inf, y)
    keep = {0, n - 1}
    for a, b in itertools.pairwise(edges):
        part = filled[a:b]
        keep.add(a + int(part.argmin()))
        keep.add(a + int(part.argmax()))
    at = np.array(sorted(keep))
    return x[at], y[at]
