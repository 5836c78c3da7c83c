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

FIELDS = ("volume", "water", "core", "pump", "hose", "release", "bores", "lines", "speed", "oil")
TRIES = 60
"""Designs of an ensemble that are tried."""
_NORMAL = NormalDist()
T = TypeVar("T")
W = TypeVar("W")


@lru_cache(maxsize=16)
def members(count: int) -> tuple[Unknowns, ...]:
    """``count`` draws of the unknowns: a Latin hypercube through the normal quantiles, the same every time.

    Each unknown takes every ``count``-th of its range once (McKay et al. 1979); of `TRIES` such designs the one whose
    columns go together least. The property library's sampler would do it too, at 35 MB more to install.
    """
    best, least = np.zeros((count, len(FIELDS))), np.inf
    for seed in range(TRIES):
        rng = np.random.default_rng(seed)
        design = np.array([rng.permutation(count) for _ in FIELDS], dtype=float).T
        together = float(np.abs(np.corrcoef(design.T) - np.eye(len(FIELDS))).max()) if count > 1 else 0.0
        if together < least:
            best, least = design, together
    share = (best + 0.5) / count
    return tuple(Unknowns(**{f: _NORMAL.inv_cdf(float(x)) for f, x in zip(FIELDS, row, strict=True)}) for row in share)


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
