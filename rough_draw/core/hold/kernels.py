"""Compiled marginal likelihoods of linear Gaussian models over a grid of shapes."""

from __future__ import annotations

import math

import numpy as np
from numba import njit
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]
POINTS = 56

jit = njit(cache=True, error_model="numpy", nogil=True)


@jit
def marginals(
    gram: FloatArray, right: FloatArray, square: float, cols: IntArray, mean: FloatArray, precision: FloatArray
) -> FloatArray:
    """Marginal likelihood of each model y = X_c β + noise, with Gaussian priors on β, and its last coefficient.

    ``gram`` (m, m), ``right`` (m), ``square``: XᵀWX, XᵀWy and yᵀWy over all columns; ``cols`` (n, k) each model's
    columns, ``mean`` and ``precision`` (n, k) the priors, precision 0 for a flat one. Returns (n, 3): the log of the
    likelihood integrated over every coefficient (those with a flat prior against unit density), and the estimate
    and standard error of the last one. Exact: ∫exp(−½|y − Xβ|²_W) N(β) dβ by a Cholesky factor.
    """
    n, k = cols.shape
    out = np.empty((n, 3))
    factor = np.empty((k, k))
    z = np.empty(k)
    # Log likelihood up to and with each column: neighbours share their first columns, and those are not done again.
    part = np.empty(k + 1)
    part[0] = -0.5 * square
    for c in range(n):
        first = 0
        if c > 0:
            while (
                first < k
                and cols[c, first] == cols[c - 1, first]
                and precision[c, first] == precision[c - 1, first]
                and mean[c, first] == mean[c - 1, first]
            ):
                first += 1
        for a in range(first, k):
            prior, centre, column = precision[c, a], mean[c, a], cols[c, a]
            s = right[column] + prior * centre
            for b in range(a):
                entry = gram[column, cols[c, b]]
                for j in range(b):
                    entry -= factor[a, j] * factor[b, j]
                factor[a, b] = entry / factor[b, b]
                s -= factor[a, b] * z[b]
            entry = gram[column, column] * (1.0 + 1e-12) + prior
            for j in range(a):
                entry -= factor[a, j] ** 2
            factor[a, a] = math.sqrt(max(entry, 1e-30))
            z[a] = s / factor[a, a]
            scale = math.log(prior) if prior > 0.0 else math.log(2.0 * math.pi)
            part[a + 1] = part[a] + 0.5 * (scale - prior * centre * centre + z[a] ** 2) - math.log(factor[a, a])
        last = factor[k - 1, k - 1]
        out[c, 0] = part[k]
        out[c, 1] = z[k - 1] / last
        out[c, 2] = 1.0 / last
    return out


@jit
def with_prior(
    found: FloatArray, doubt: FloatArray, weight: FloatArray, median: float, spread: float
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Put the prior of a rise on models whose rise was integrated flat: (log evidence, mean, standard deviation).

    ``found`` (n, 3) from `marginals`, ``doubt`` (n) more of a standard error for what the shape leaves open,
    ``weight`` (n) log prior weights: what stands 30 below the best is left out. The prior
    is log-normal about ``median``. ∫N(r̂; r, σ) π(r) dr by a sum over log r, in
    which σ is never taken narrower than half a step of the sum: π is smooth over that.
    """
    n = found.shape[0]
    step = 8.0 * spread / POINTS
    rate, density = np.empty(POINTS), np.empty(POINTS)
    for j in range(POINTS):
        x = -4.0 + (j + 0.5) * 8.0 / POINTS
        rate[j] = median * math.exp(x * spread)
        density[j] = step * math.exp(-0.5 * x * x) / (spread * 2.0 * math.pi)
    evidence, centre, width = np.empty(n), np.empty(n), np.empty(n)
    floor = (found[:, 0] + weight).max() - 30.0
    for c in range(n):
        at, sigma = found[c, 1], math.hypot(found[c, 2], doubt[c])
        total = first = second = 0.0
        if found[c, 0] + weight[c] < floor:
            evidence[c], centre[c], width[c] = -1e300, at, sigma
            continue
        for j in range(POINTS):
            r = rate[j]
            blur = math.hypot(sigma, 0.5 * step * r)
            off = (at - r) / blur
            if off * off > 80.0:
                continue
            w = density[j] * math.exp(-0.5 * off * off) / blur
            total += w
            first += w * r
            second += w * r * r
        if total <= 1e-300:
            evidence[c], centre[c], width[c] = -1e300, max(at, 0.0), sigma
            continue
        evidence[c] = found[c, 0] + math.log(total)
        if at > 5.0 * sigma:
            centre[c], width[c] = at, sigma
        else:
            centre[c] = first / total
            width[c] = math.sqrt(max(second / total - centre[c] ** 2, (0.05 * centre[c]) ** 2))
    return evidence, centre, width
