"""A hold made ready for fitting: bad points set aside, thinned to bins of time, each with an honest error."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.physics.scatter import sigma_of

FloatArray = NDArray[np.float64]

MOST = 160
DRIFT = 2.0e-3
"""Share of the reading left for drift of gauge and temperature."""
SHAPE = 6.0e-3
"""Share of the rise left for what every account leaves out of its shape."""
STEP = 8.0
"""Scatters by which neighbours must differ, for good, to count as a step."""


@dataclass(frozen=True, kw_only=True)
class Data:
    """A hold thinned to at most 160 bins: times s, pressures Pa, standard errors Pa, readings in each.

    ``quantum`` Pa is the gauge's step, ``steps`` the times, s, at which the reading jumped by a touch.
    """

    time: FloatArray
    pressure: FloatArray
    sigma: FloatArray
    count: FloatArray
    quantum: float
    steps: tuple[float, ...]

    @property
    def span(self) -> float:
        """From the first reading to the last, s."""
        return float(self.time[-1])


def thin(t: FloatArray, p: FloatArray, touches: tuple[float, ...] = (), most: int = MOST) -> Data:
    """Thin a hold (s from 0 on, Pa, sound points only) to bins that widen with time.

    ``touches`` are the times, s, at which it may have jumped.

    Scatter is read from how far each reading stands off the line through its neighbours, which is blind to the curve.
    A rounded reading says the same until the next step: rounding counts as independent only as often as it
    changes, so a coarse gauge that stands still is not taken for a sure one.

    Parameters
    ----------
    t : ndarray, (n,)
        s, ascending.
    p : ndarray, (n,)
        Pa.
    touches : tuple of float
        s at which something was touched: no bin reaches over them.
    most : int
        Bins.

    Returns
    -------
    Data
        m bins: times s, pressures Pa, standard errors Pa.

    Examples
    --------
    >>> t = np.linspace(0.0, 1200.0, 1201)
    >>> thin(t, 30.0 + 0.01 * t).time.size < 300
    True
    """
    levels = np.unique(p)
    gaps = np.diff(levels)
    quantum = float(np.quantile(gaps, 0.1)) if gaps.size else 0.0
    noise = np.full(p.size, _scatter(t, p))
    changes = int(np.count_nonzero(np.diff(p)))
    independent = min(p.size, 2 + changes)
    rounding = quantum**2 / 12.0 * p.size / independent
    variance = noise**2 + rounding
    if p.size > most:
        edges = t[-1] * (np.arange(most) / most) ** 1.3
        starts = np.unique(np.searchsorted(t, edges))
        count = np.diff(np.append(starts, t.size)).astype(float)
        first = float(p[: max(1, int(count[0]))].mean())
        t = np.add.reduceat(t, starts) / count
        p = np.add.reduceat(p, starts) / count
        variance = np.add.reduceat(variance, starts) / count**2
    else:
        count = np.ones(p.size)
        first = float(p[0]) if p.size else 0.0
    sigma = np.sqrt(variance + (DRIFT * p) ** 2 + (SHAPE * (p - first)) ** 2 + 1e-8)
    return Data(
        time=t,
        pressure=p,
        sigma=sigma,
        count=count,
        quantum=quantum,
        steps=tuple(x for x in touches if t.size and t[0] < x < t[-1]),
    )


def _scatter(t: FloatArray, p: FloatArray) -> float:
    """Standard deviation of one reading, Pa, from each reading's distance to the line through its neighbours."""
    if p.size < 7:
        return 0.01 * float(np.median(p)) if p.size else 0.0
    left, right = t[1:-1] - t[:-2], t[2:] - t[1:-1]
    w = left / np.maximum(left + right, 1e-9)
    off = p[1:-1] - (p[:-2] * (1.0 - w) + p[2:] * w)
    return sigma_of(off / np.sqrt(1.0 + w**2 + (1.0 - w) ** 2))


def sound_points(t: FloatArray, p: FloatArray) -> NDArray[np.bool_]:
    """Which readings stand with their neighbours: not six scatters off the median of the five around them.

    Parameters
    ----------
    t : ndarray, (n,)
        s, ascending.
    p : ndarray, (n,)
        Pa.

    Returns
    -------
    ndarray of bool, (n,)
        False for single bad points.

    Examples
    --------
    >>> p = np.full(50, 40.0)
    >>> p[20] = 4000.0
    >>> int((~sound_points(np.arange(50.0), p)).sum())
    1
    """
    if p.size < 9:
        return np.ones(p.size, dtype=bool)
    windows = np.lib.stride_tricks.sliding_window_view(np.pad(p, 2, mode="reflect", reflect_type="odd"), 5)
    middle = np.median(windows, axis=1)
    off = np.abs(p - middle)
    scatter = sigma_of(off) + 0.003 * np.abs(p) + 0.05
    # How much the curve itself moves over the five, by the middles so that a bad point does not excuse itself.
    steepness = np.abs(np.gradient(middle))
    keep: NDArray[np.bool_] = off <= 6.0 * scatter + 2.0 * steepness
    return keep


def jumps(t: FloatArray, p: FloatArray) -> tuple[float, ...]:
    """Times, s, at which the reading stepped for good within one interval: a touch that no one logged.

    The medians of seven readings on each side, each carried to the middle along its own line, must differ
    by eight scatters and more than the curve moves there. At most two.

    Parameters
    ----------
    t : ndarray, (n,)
        s, ascending.
    p : ndarray, (n,)
        Pa.

    Returns
    -------
    tuple of float
        s.

    Examples
    --------
    >>> jumps(np.arange(100.0), np.full(100, 40.0))
    ()
    """
    if p.size < 40:
        return ()
    width = 7
    scatter = max(_scatter(t, p), 1e-3)
    windows = np.lib.stride_tricks.sliding_window_view(p, width)
    at = np.lib.stride_tricks.sliding_window_view(t, width)
    middle, centre = np.median(windows, axis=1), at.mean(axis=1)
    slope = (windows[:, -3:].mean(axis=1) - windows[:, :3].mean(axis=1)) / np.maximum(
        at[:, -3:].mean(axis=1) - at[:, :3].mean(axis=1), 1e-9
    )
    n = windows.shape[0] - width
    if n <= 0:
        return ()
    edge = 0.5 * (t[width - 1 : width - 1 + n] + t[width : width + n])
    before = middle[:n] + slope[:n] * (edge - centre[:n])
    after = middle[width : width + n] - slope[width : width + n] * (centre[width : width + n] - edge)
    moves = (np.abs(slope[:n]) + np.abs(slope[width : width + n])) * (
        t[width : width + n] - t[width - 1 : width - 1 + n]
    )
    size = np.abs(after - before)
    limit = STEP * scatter + 3.0 * moves + 0.012 * p[width : width + n]
    # Readings that were missed for a while are no jump, nor do they say how it moved.
    step = float(np.median(np.diff(t)))
    wide = at[:, -1] - at[:, 0]
    close = (t[width : width + n] - t[width - 1 : width - 1 + n] < 2.5 * step) & (
        np.maximum(wide[:n], wide[width : width + n]) < 2.5 * (width - 1) * step
    )
    found: list[float] = []
    score = np.where(close & (size > limit), size / limit, 0.0)
    for _ in range(2):
        k = int(np.argmax(score))
        if score[k] <= 0.0:
            break
        found.append(float(edge[k]))
        score[max(0, k - 2 * width) : k + 2 * width] = 0.0
    return tuple(sorted(found))
