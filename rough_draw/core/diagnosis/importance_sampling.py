"""Importance sampling from several normal proposals: weights, evidence, and moments for the next one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
Proposal = tuple[int, FloatArray, FloatArray]
"""How many points were drawn, and the mean and covariance that they were drawn from."""


def log_normal(z: FloatArray, mean: FloatArray, cov: FloatArray) -> FloatArray:
    """Log density of normal points ``z`` (n × d), without its constant."""
    root = np.linalg.cholesky(cov)
    r = np.linalg.solve(root, (z - mean).T)
    found: FloatArray = -0.5 * (r**2).sum(axis=0) - np.log(np.diag(root)).sum()
    return found


def importance(z: FloatArray, likelihood: FloatArray, proposals: Sequence[Proposal]) -> tuple[FloatArray, float]:
    """Weights of points ``z`` (n × d), summing to one, under a standard normal prior, and the log of the evidence.

    ``likelihood`` is logs (n). The density drawn from is the mixture of all proposals (Cornuet et al. 2012).
    """
    d = z.shape[1]
    total = sum(n for n, _, _ in proposals)
    mixed = np.logaddexp.reduce(np.array([np.log(n / total) + log_normal(z, m, c) for n, m, c in proposals]), axis=0)
    log = likelihood + log_normal(z, np.zeros(d), np.eye(d)) - mixed
    top = float(log.max())
    w = np.exp(log - top)
    found: FloatArray = w / w.sum()
    return found, top + float(np.log(w.mean()))


def misfit(off: FloatArray) -> FloatArray:
    """Log likelihood of residuals in standard deviations: Student's t with 5 degrees, against single bad readings."""
    found: FloatArray = -3.0 * np.log1p(off**2 / 5.0)
    return found


def moments(z: FloatArray, w: FloatArray, ridge: float) -> tuple[FloatArray, FloatArray]:
    """Mean and covariance of points under the roots of their weights, ``ridge`` added to every axis.

    The roots sharpen half way only: a proposal may not be narrower than what it looks for.
    """
    soft = np.sqrt(w) / np.sqrt(w).sum()
    mean = soft @ z
    return mean, (z - mean).T @ ((z - mean) * soft[:, None]) + ridge * np.eye(z.shape[1])


def around(mean: FloatArray, cov: FloatArray, points: FloatArray) -> FloatArray:
    """Standard normal points (n × d) moved to a mean and covariance."""
    found: FloatArray = mean + points @ np.linalg.cholesky(cov).T
    return found
