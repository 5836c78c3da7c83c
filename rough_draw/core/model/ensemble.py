"""A small deterministic ensemble: the unknowns spread evenly over their ranges, the same way every time."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from functools import lru_cache
from statistics import NormalDist
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.model.rig_graph import Unknowns

FIELDS = ("volume", "water", "core", "pump", "hose", "release")
_NORMAL = NormalDist()
T = TypeVar("T")
W = TypeVar("W")


@lru_cache(maxsize=16)
def members(count: int) -> tuple[Unknowns, ...]:
    """``count`` draws of the unknowns: an additive recurrence (Roberts' R-sequence) through the normal quantiles.

    Low discrepancy, no random numbers; the first is at index 1, so none sits on the median exactly.
    """
    return tuple(Unknowns(**dict(zip(FIELDS, z, strict=True))) for z in spread(count, len(FIELDS)))


def spread(count: int, d: int, skip: int = 0) -> list[list[float]]:
    """``count`` standard normal points in ``d`` dimensions that fill the space evenly, past the first ``skip``."""
    phi = 2.0
    for _ in range(40):
        phi = (1.0 + phi) ** (1.0 / (d + 1))
    alpha = [(1.0 / phi) ** (k + 1) % 1.0 for k in range(d)]
    return [
        [_NORMAL.inv_cdf(min(max((0.5 + i * a) % 1.0, 0.005), 0.995)) for a in alpha]
        for i in range(skip + 1, skip + count + 1)
    ]


def run_all(work: Callable[[W], T], draws: Sequence[W], threads: int = 2) -> list[T]:
    """Run ``work`` for each of ``draws`` on ``threads`` threads; the compiled engine lets the lock go."""
    with ThreadPoolExecutor(threads) as pool:
        return list(pool.map(work, draws))


def quantiles(values: NDArray[np.float64], at: Sequence[float] = (0.1, 0.5, 0.9)) -> NDArray[np.float64]:
    """Quantiles over the first axis."""
    result: NDArray[np.float64] = np.quantile(values, at, axis=0)
    return result
