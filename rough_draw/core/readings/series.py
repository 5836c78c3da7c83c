"""A series of readings: times, pressures, flags; and where its hold begins."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


@dataclass(frozen=True)
class Series:
    """Readings of one gauge: ``time`` s (ascending), ``pressure`` Pa with NaN where it was over range or blank.

    ``notes`` are (time, text). ``start_clock`` is the clock time of the first row as written, if there was one.
    ``dial``: a needle was read, in vacuum below the air: it shows neither the last microns nor a small rise.
    ``simulated``: the table says that a simulated gauge gave some of them.
    """

    time: FloatArray
    pressure: FloatArray
    label: str = ""
    notes: tuple[tuple[float, str], ...] = ()
    start_clock: str = ""
    dial: bool = False
    simulated: bool = False

    def valid(self) -> tuple[FloatArray, FloatArray]:
        """Times and pressures of the readings that carry a figure."""
        keep = np.isfinite(self.pressure)
        return self.time[keep], self.pressure[keep]

    def slice(self, start: float, end: float = np.inf) -> tuple[FloatArray, FloatArray]:
        """Readings from ``start`` to ``end`` s that carry a figure, with time counted from ``start``."""
        t, p = self.valid()
        keep = (t >= start) & (t <= end)
        return t[keep] - start, p[keep]


def time_at_level(times: FloatArray, curve: FloatArray, level: float) -> float | None:
    """First time at which a falling curve is at or under ``level``; None if it never is."""
    below = np.nonzero(curve <= level)[0]
    if below.size == 0:
        return None
    i = int(below[0])
    if i == 0:
        return float(times[0])
    a, b = np.log(curve[i - 1]), np.log(max(curve[i], 1e-9))
    share = (a - np.log(level)) / (a - b) if a > b else 1.0
    return float(times[i - 1] + share * (times[i] - times[i - 1]))


def noted_isolation(series: Series) -> float | None:
    """Time of a note that says the system was isolated, if there is one."""
    for t, text in series.notes:
        if any(word in text.lower() for word in ("isolat", "valve shut", "closed off", "hold start", "abgesperrt")):
            return t
    return None


def hold_begins(series: Series) -> float | None:
    """Time at which the hold of a table begins, s: seen in the curve, or, on a needle, when it first stood deepest."""
    if not series.dial:
        return find_hold(series)
    t, p = series.valid()
    return float(t[int(np.argmin(p))]) if t.size else None


def find_hold(series: Series) -> float | None:
    """Time at which the hold began, s, judged from the curve; None if no hold can be seen.

    A pump draws down to a floor and keeps it there; after isolation the pressure leaves that floor for good.
    The start is the last reading on the floor, where the floor is the lowest level (a running median of five
    guards against single bad points) plus its own scatter. A rise that is smaller than the scatter cannot be
    told from the draw, and a note that says "isolated" wins over the curve.
    """
    noted = noted_isolation(series)
    if noted is not None:
        return noted
    t, p = series.valid()
    if t.size < 8:
        return None
    smooth = _median5(p)
    floor = float(smooth.min())
    lowest = int(np.argmin(smooth))
    near = smooth[max(0, lowest - 20) : lowest + 20]
    steps = np.unique(np.abs(np.diff(np.unique(near))))
    quantum = float(steps[0]) if steps.size else 0.0
    tolerance = max(1.2 * quantum, 0.025 * floor)
    on_floor = np.nonzero(smooth <= floor + tolerance)[0]
    last = int(on_floor[-1])
    rise = float(np.median(p[-max(3, p.size // 50) :]) - floor)
    if last >= t.size - 3 or rise < 2.0 * tolerance:
        return None
    return float(t[last])


def _median5(p: FloatArray) -> FloatArray:
    padded = np.pad(p, 2, mode="edge")
    windows = np.lib.stride_tricks.sliding_window_view(padded, 5)
    result: FloatArray = np.median(windows, axis=1)
    return result
