"""Readings to decide by: a gauge's own, of which single bad ones are left out."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

BESIDE_S = 5.0
"""Three readings within this, s, come from a gauge that sends by itself; nobody types so fast."""


def steady(times: FloatArray, pressures: FloatArray) -> FloatArray:
    """Each reading as the middle one of the last three, where those came close together; over range is infinite.

    A single bad one, which every gauge has, then calls nobody and turns no step round; a change that lasts is seen one
    reading later. One that stands alone, as where somebody types them, counts as it is.

    Parameters
    ----------
    times : ndarray, (n,)
        s, ascending.
    pressures : ndarray, (n,)
        Pa, NaN where the gauge was over range.

    Returns
    -------
    ndarray, (n,)
        Pa.

    Examples
    --------
    >>> steady(np.arange(5.0), np.array([40.0, 40.0, 2.0, 41.0, 41.0])).tolist()
    [40.0, 40.0, 40.0, 40.0, 41.0]
    >>> steady(np.array([0.0, 60.0, 120.0]), np.array([40.0, np.nan, 30.0])).tolist()
    [40.0, inf, 30.0]
    """
    known = np.where(np.isfinite(pressures), pressures, np.inf)
    a, b, c = known[:-2], known[1:-1], known[2:]
    middle = np.maximum(np.minimum(a, b), np.minimum(np.maximum(a, b), c))
    out = known.copy()
    out[2:] = np.where(times[2:] - times[:-2] <= BESIDE_S, middle, c)
    return out


def level_of(times: FloatArray, pressures: FloatArray) -> float | None:
    """What a gauge stands at now, Pa, by more than one bad reading; None over range, or without any. As `steady`."""
    last = float(steady(times[-3:], pressures[-3:])[-1]) if times.size else np.inf
    return last if np.isfinite(last) else None


def known_since(times: FloatArray, pressures: FloatArray, since: float) -> tuple[FloatArray, FloatArray]:
    """Times and `steady` pressures, both (n,), from ``since`` s on, where the gauge was in its range."""
    recent = times >= since
    at, pa = times[recent], steady(times[recent], pressures[recent])
    return at[np.isfinite(pa)], pa[np.isfinite(pa)]
