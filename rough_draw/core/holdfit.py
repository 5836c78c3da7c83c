"""Fitting the competing accounts of a hold.

Every account is p(t) = p₀ (1 − g) + P∞ g + L t, where g(t; τ, λ, φ) approaches 1 with a time τ, seen through a
lag λ, a share φ of it eight times as fast (standing water that cools while it evaporates does that). It is
linear in p₀, P∞ and L, so τ, λ and φ are run over a grid and the rest is weighted least squares, all at
once: no starting guess, no local minimum. Bounds and priors make the accounts differ.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.units import MICRON_PA

FloatArray = NDArray[np.float64]
Values = float | FloatArray

LAGS = (0.01, 0.03, 0.07, 0.13, 0.22, 0.4)
"""Lag as a share of τ: gauge and way to the gauge."""

QUICK = (0.0, 0.06, 0.12, 0.2)
"""Shares of the approach that go eight times as fast: the first burst before the water has cooled."""


@dataclass(frozen=True)
class Data:
    """A hold thinned to at most a few hundred points: times s, pressures Pa, standard errors Pa."""

    time: FloatArray
    pressure: FloatArray
    sigma: FloatArray
    span: float
    quantum: float


@dataclass(frozen=True)
class Fit:
    """Best fit of one account. Pressures Pa, rate Pa/s; ``log_evidence`` up to a common constant."""

    name: str
    log_evidence: float
    chi2: float
    p0: float
    plateau: float
    plateau_low: float
    plateau_high: float
    rate: float
    rate_low: float
    rate_high: float
    tau: float
    lag: float
    quick: float
    slow_tau: float = np.inf
    far: float = 0.0

    def curve(self, t: FloatArray) -> FloatArray:
        """Pressure, Pa, of this account at ``t`` s."""
        g = approach(t, self.tau, self.lag, self.quick)
        return self.p0 * (1.0 - g) + self.plateau * g + self.rate * drift(t, self.slow_tau, self.far)


@dataclass(frozen=True)
class Account:
    """Bounds and priors of one account. ``plateau`` bounds P∞ (Pa); ``leak``: whether L is above zero.

    ``median`` and ``spread`` give a log-normal prior of P∞, ``tau_median`` and ``tau_spread`` that of τ;
    ``least_rate`` Pa/s is the smallest rise that may be called a leak; ``saturation`` Pa is where free water settles.
    ``slow_tau`` bends the straight rise for water that oil gives up slowly; ``rate_median`` Pa/s and
    ``rate_spread`` are then the log-normal prior of its rate. ``rate_doubt`` Pa/s is added to the rate's standard
    error for what the account's shape leaves open. ``far`` s: the gauge sits beyond a narrow way from the leak.
    """

    name: str
    leak: bool
    water: bool
    plateau_low: float
    plateau_high: float
    median: float
    spread: float
    prior: float
    tau_median: float
    tau_spread: float
    least_rate: float = 0.0
    saturation: float = 0.0
    slow_tau: float = np.inf
    rate_median: float = 0.0
    rate_spread: float = 1.0
    rate_doubt: float = 0.0
    far: float = 0.0


def drift(t: FloatArray, slow_tau: float, far: float = 0.0) -> FloatArray:
    """A rise of unit final slope: straight for a leak, dying out over ``slow_tau`` s for water from oil.

    ``far`` s is the time in which a compartment follows the one that leaks (V/C of the way between them): seen from
    there the rise begins late, t − θ (1 − e^(−t/θ)).
    """
    if far > 0.0:
        late: FloatArray = t - far * (1.0 - np.exp(-t / far))
        return late
    if not np.isfinite(slow_tau):
        return t
    result: FloatArray = slow_tau * (1.0 - np.exp(-t / slow_tau))
    return result


def approach(t: FloatArray, tau: Values, lag: Values, quick: Values = 0.0) -> FloatArray:
    """Approach to 1 from rest: 1 − (τ e^(−t/τ) − λ e^(−t/λ))/(τ − λ), a share ``quick`` of it with τ/8.

    Times in s; arguments broadcast.
    """

    def one(slow: Values) -> FloatArray:
        # A lag equal to the time itself would divide by zero; a hair off is the same curve.
        other = np.where(np.abs(lag - slow) > 1e-3 * slow, lag, 1.002 * slow)
        result: FloatArray = 1.0 - (slow * np.exp(-t / slow) - other * np.exp(-t / other)) / (slow - other)
        return result

    if not np.any(quick):
        return one(tau)
    return (1.0 - quick) * one(tau) + quick * one(0.125 * np.asarray(tau))


def thin(t: FloatArray, p: FloatArray, most: int = 200) -> Data:
    """Thin a hold to bins of equal time, single bad points set aside, with an honest error for each bin.

    Scatter is read from second differences (they are blind to the curve), quantisation from the smallest
    step between distinct readings. An average cannot be trusted far below one step, so a tenth of a step
    stays as a floor, and 0.25 % of the reading for drift and for what the accounts leave out.
    """
    t, p = _without_outliers(t, p)
    gaps = np.diff(np.unique(p))
    quantum = float(np.quantile(gaps, 0.1)) if gaps.size else 0.0
    relative = 0.01
    if p.size >= 7:
        second = (p[2:] - 2.0 * p[1:-1] + p[:-2]) / np.maximum(p[1:-1], 1.0)
        relative = float(1.4826 * np.median(np.abs(second))) / np.sqrt(6.0)
    noise = np.sqrt((relative * p) ** 2 + quantum**2 / 12.0)
    if p.size > most:
        edges = np.linspace(t[0], t[-1], most + 1)[:-1]
        starts = np.unique(np.searchsorted(t, edges))
        counts = np.diff(np.append(starts, t.size)).astype(float)
        t = np.add.reduceat(t, starts) / counts
        p = np.add.reduceat(p, starts) / counts
        noise = np.sqrt(np.add.reduceat(noise**2, starts) / counts) / np.sqrt(counts)
    sigma = np.sqrt(noise**2 + (0.1 * quantum) ** 2 + (2.5e-3 * p) ** 2 + 1e-6)
    return Data(t, p, sigma, float(t[-1] - t[0]), quantum)


def _without_outliers(t: FloatArray, p: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Drop points that stand six scatters off the median of the five around them."""
    if p.size < 9:
        return t, p
    windows = np.lib.stride_tricks.sliding_window_view(np.pad(p, 2, mode="reflect"), 5)
    off = np.abs(p - np.median(windows, axis=1))
    scatter = 1.4826 * float(np.median(off)) + 0.003 * np.abs(p) + 0.05
    steepness = np.abs(np.gradient(p))
    keep = off <= 6.0 * scatter + 2.0 * steepness
    return t[keep], p[keep]


@dataclass(frozen=True)
class Grid:
    """The grid of τ, λ, φ and the approach g on the data's times (grid × n)."""

    tau: FloatArray
    lag: FloatArray
    quick: FloatArray
    g: FloatArray


def _grid(data: Data, combos: list[tuple[float, float, float]]) -> Grid:
    tau, lag, quick = np.array(combos).T
    return Grid(tau, lag, quick, approach(data.time[None, :], tau[:, None], lag[:, None], quick[:, None]))


def make_grid(data: Data, water: bool) -> Grid:
    """All shapes of the approach that an account may take on these data, coarsely."""
    taus = np.geomspace(max(5.0, data.span / 120.0), max(60.0, data.span * 5.0), 22)
    shares = QUICK if water else QUICK[:1]
    return _grid(data, [(float(a), float(a * s), q) for a in taus for s in LAGS for q in shares])


def _refine(data: Data, fit: Fit, water: bool, width: float) -> Grid:
    """Shapes close around the best of the coarse grid."""
    taus = fit.tau * np.geomspace(0.85, 1.18, 5) ** width
    lags = fit.lag / fit.tau * np.geomspace(0.6, 1.65, 5) ** width
    shares = sorted({max(0.0, fit.quick + width * d) for d in (-0.04, -0.02, 0.0, 0.02, 0.04)}) if water else [0.0]
    return _grid(data, [(float(a), float(a * s), q) for a in taus for s in lags for q in shares])


@lru_cache(maxsize=8)
def _active(leak: bool) -> tuple[tuple[int, int], ...]:
    """Active sets to try: (plateau free / low / high, rate free / least / absent)."""
    rates = (0, 1) if leak else (2,)
    return tuple((a, b) for a in (0, 1, 2) for b in rates)


def fit_account(data: Data, account: Account, grid: Grid, inflate: float = 1.0, hopeless: float = np.inf) -> Fit:
    """Fit one account: over the coarse grid, then closely around its best.

    ``inflate`` multiplies σ² for misfit common to all accounts. An account whose coarse χ² is above
    ``hopeless`` is not refined.
    """
    fit = _fit_grid(data, account, grid, inflate)
    if fit.chi2 > hopeless:
        return fit
    for width in (1.0, 0.8, 0.6, 0.4, 0.25):
        fit = _fit_grid(data, account, _refine(data, fit, account.water, width), inflate)
    return fit


def _fit_grid(data: Data, account: Account, grid: Grid, inflate: float) -> Fit:
    t, p = drift(data.time, account.slow_tau, account.far), data.pressure
    w = 1.0 / (data.sigma**2 * inflate)
    g = grid.g
    h = 1.0 - g
    many = g.shape[0]
    x_one = {"hh": (h * h) @ w, "hg": (h * g) @ w, "gg": (g * g) @ w, "ht": h @ (w * t), "gt": g @ (w * t)}
    tt, hp, gp, tp = float(w @ (t * t)), h @ (w * p), g @ (w * p), float(w @ (t * p))
    pp = float(w @ (p * p))
    normal = np.empty((many, 3, 3))
    normal[:, 0, 0], normal[:, 1, 1], normal[:, 2, 2] = x_one["hh"], x_one["gg"], tt
    normal[:, 0, 1] = normal[:, 1, 0] = x_one["hg"]
    normal[:, 0, 2] = normal[:, 2, 0] = x_one["ht"]
    normal[:, 1, 2] = normal[:, 2, 1] = x_one["gt"]
    right = np.stack([hp, gp, np.full(many, tp)], axis=1)
    best_chi = np.full(many, np.inf)
    best_beta = np.zeros((many, 3))
    best_cov = np.zeros((many, 3, 3))
    for plateau_state, rate_state in _active(account.leak):
        fixed: dict[int, float] = {}
        if plateau_state:
            fixed[1] = account.plateau_low if plateau_state == 1 else account.plateau_high
        if rate_state:
            fixed[2] = account.least_rate if rate_state == 1 else 0.0
        beta, cov = _solve(normal, right, fixed)
        ok = np.ones(many, dtype=bool)
        if not plateau_state:
            ok &= (beta[:, 1] >= account.plateau_low) & (beta[:, 1] <= account.plateau_high)
        if rate_state == 0:
            ok &= beta[:, 2] >= account.least_rate
        pull = np.einsum("gi,gij,gj->g", beta, normal, beta) - 2.0 * (beta * right).sum(axis=1)
        chi2 = np.maximum(pp + pull, 0.0)
        better = ok & (chi2 < best_chi)
        best_chi[better], best_beta[better], best_cov[better] = chi2[better], beta[better], cov[better]
    score = -0.5 * best_chi
    score -= 0.5 * (np.log(grid.tau / account.tau_median) / account.tau_spread) ** 2
    score += _plateau_prior(np.maximum(best_beta[:, 1], 1e-3), account)
    if account.rate_median > 0.0:
        level = np.maximum(best_beta[:, 2], 1e-9)
        score -= 0.5 * (np.log(level / account.rate_median) / account.rate_spread) ** 2
    return _summary(data, account, grid, score, best_chi, best_beta, best_cov)


def _plateau_prior(level: FloatArray, account: Account) -> FloatArray:
    """Log prior density of the plateau: log-normal, and for water half of it a narrow peak at saturation."""
    broad = np.exp(-0.5 * (np.log(level / account.median) / account.spread) ** 2) / account.spread
    if account.saturation <= 0.0:
        result: FloatArray = np.log(broad + 1e-300)
        return result
    peak = np.exp(-0.5 * (np.log(level / account.saturation) / 0.04) ** 2) / 0.04
    result = np.log(0.5 * broad + 0.5 * peak + 1e-300)
    return result


def _solve(normal: FloatArray, right: FloatArray, fixed: dict[int, float]) -> tuple[FloatArray, FloatArray]:
    free = [k for k in range(3) if k not in fixed]
    many = normal.shape[0]
    r = right[:, free].copy()
    for k, value in fixed.items():
        r -= normal[:, free, k] * value
    a = normal[:, free][:, :, free]
    scale = np.sqrt(np.einsum("gii->gi", a)) + 1e-300
    scaled = a / (scale[:, :, None] * scale[:, None, :]) + 1e-9 * np.eye(len(free))
    inverse = np.linalg.inv(scaled) / (scale[:, :, None] * scale[:, None, :])
    beta = np.zeros((many, 3))
    cov = np.zeros((many, 3, 3))
    beta[:, free] = np.einsum("gij,gj->gi", inverse, r)
    for k, value in fixed.items():
        beta[:, k] = value
    cov[np.ix_(range(many), free, free)] = inverse
    return beta, cov


def _summary(
    data: Data,
    account: Account,
    grid: Grid,
    score: FloatArray,
    chi2: FloatArray,
    beta: FloatArray,
    cov: FloatArray,
) -> Fit:
    at = int(np.argmax(score))
    weight = np.exp(score - score[at])
    total = float(weight.sum())
    weight = weight / total

    def spread(k: int) -> tuple[float, float]:
        mean = float(weight @ beta[:, k])
        return mean, float(np.sqrt(weight @ (cov[:, k, k] + (beta[:, k] - mean) ** 2)))

    rate, sd_rate = spread(2)
    sd_rate = float(np.hypot(sd_rate, account.rate_doubt))
    plateau, sd_plateau = spread(1)
    free = 4 + account.leak + account.water
    evidence = float(score[at]) - 0.5 * free * np.log(data.time.size)
    z = 1.645
    return Fit(
        account.name,
        float(evidence + np.log(account.prior)),
        float(chi2[at]),
        float(beta[at, 0]),
        float(beta[at, 1]),
        max(0.0, plateau - z * sd_plateau),
        plateau + z * sd_plateau,
        rate if account.leak else 0.0,
        max(0.0, rate - z * sd_rate) if account.leak else 0.0,
        rate + z * sd_rate if account.leak else 0.0,
        float(grid.tau[at]),
        float(grid.lag[at]),
        float(grid.quick[at]),
        account.slow_tau,
        account.far,
    )


def misfit(data: Data, fits: list[Fit]) -> float:
    """Factor on σ² by which even the best account fails: reduced χ², times the loss of independence.

    Residuals that hang together (lag-one correlation ρ) count (1 − ρ)/(1 + ρ) each.
    """
    best = min(fits, key=lambda f: f.chi2)
    r = (data.pressure - best.curve(data.time)) / data.sigma
    n = r.size
    reduced = float(r @ r) / max(1, n - 4)
    rho = float((r[1:] * r[:-1]).sum() / max(float(r @ r), 1e-12)) if n > 8 else 0.0
    rho = min(max(rho, 0.0), 0.95)
    factor: float = max(1.0, reduced) * (1.0 + rho) / (1.0 - rho)
    return factor


def least_rate(data: Data) -> float:
    """Smallest rise, Pa/s, that this series could show straight: one third of a step, or 2 σ, over its span."""
    sigma = float(np.median(data.sigma))
    points = max(1.0, data.time.size / 4)
    return max(0.02 * MICRON_PA, float((0.33 * data.quantum + 2.0 * sigma / np.sqrt(points)) / data.span))
