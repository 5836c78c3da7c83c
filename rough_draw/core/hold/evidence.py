"""Weighing the competing accounts of a hold by their evidence.

Every account is linear in its amounts once its times are given. So the times run over a grid, the amounts are
integrated exactly against their priors, and an account's evidence is the sum over its grid: no starting guess, no
local minimum, and a shape that needs fine tuning pays for it. What even the best account leaves over is taken for
noise, and counted for how it hangs together.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.hold.binning import Data
from rough_draw.core.hold.hypotheses import DYING, DYING_TAUS, ROOT, STRAIGHT, Account
from rough_draw.core.hold.models import Basis, Model, Setting, make_models

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]

HEAVY = 4.0
"""Errors beyond this many σ are weighed down: the foot of a bad reading or of a touch."""
LEAST_MISFIT = 0.6


@dataclass(frozen=True, kw_only=True)
class Posterior:
    """One account against the readings: its log evidence, its models' shares, and each model's rise (Pa/s, σ)."""

    account: Account
    evidence: float
    model: Model
    share: FloatArray
    rate: FloatArray
    rate_sd: FloatArray


@dataclass(frozen=True, kw_only=True)
class Weighed:
    """All accounts weighed: odds by name, their posteriors, the error's factor, and what they were weighed on."""

    odds: dict[str, float]
    posteriors: tuple[Posterior, ...]
    inflate: float
    gram: FloatArray
    right: FloatArray
    basis: Basis
    data: Data
    bins: int


def weigh(
    data: Data,
    basis: Basis,
    setting: Setting,
    accounts: tuple[Account, ...],
    bins: int | None = None,
    start: float = 0.0,
) -> Weighed:
    """Weigh the accounts on the first ``bins`` of the hold (all of them where it is None).

    ``start`` is the error's factor of a longer look, where there was one: it saves a turn.
    """
    n = data.time.size if bins is None else bins
    heavy = np.ones(n)
    inflate = start or 1.0
    best: Weighed | None = None
    for turn in range(3):
        best = _weigh_once(data, basis, setting, accounts, n, heavy, inflate)
        r = _left(best)
        off = np.abs(r) / np.sqrt(max(inflate, 1.0))
        if turn == 0 and float(off.max()) > HEAVY * max(1.0, float(np.sqrt(np.mean(r**2)))):
            typical = max(1.0, 1.48 * float(np.median(np.abs(r))))
            heavy = np.minimum(1.0, (HEAVY * typical / np.maximum(np.abs(r), 1e-9)) ** 2)
            r = r * np.sqrt(heavy)
        fresh = _misfit(r)
        if abs(np.log(fresh / inflate)) < 0.2 and (turn or start):
            break
        inflate = fresh
    assert best is not None
    return best


def _weigh_once(
    data: Data,
    basis: Basis,
    setting: Setting,
    accounts: tuple[Account, ...],
    n: int,
    heavy: FloatArray,
    inflate: float,
) -> Weighed:
    from rough_draw.core.hold import kernels

    w = heavy / (data.sigma[:n] ** 2 * inflate)
    x, y = basis.x[:n], data.pressure[:n]
    weighted = x * w[:, None]
    gram, right, square = x.T @ weighted, weighted.T @ y, float(w @ (y * y))
    kept: dict[tuple[bool, tuple[str, float] | None], tuple[Model, FloatArray]] = {}

    def fitted(water: bool, rise: tuple[str, float] | None) -> tuple[Model, FloatArray]:
        if (water, rise) not in kept:
            model = make_models(basis, data, setting, water, rise, n)
            found = kernels.marginals(gram, right, square, model.cols, model.mean, model.precision)
            kept[(water, rise)] = (model, found)
        return kept[(water, rise)]

    posteriors = []
    for account in accounts:
        scales: list[tuple[str, float] | None] = [
            r for r in basis.rises if r[0] == account.rise or (account.rise == ROOT and r == (DYING, DYING_TAUS[0]))
        ] or [None]
        for rise in scales:
            model, found = fitted(account.water, rise)
            evidence, rate, sd = found[:, 0], np.zeros(model.weight.size), np.zeros(model.weight.size)
            if rise is not None:
                more = model.sun if rise[0] == STRAIGHT else np.zeros(model.weight.size)
                evidence, rate, sd = kernels.with_prior(found, more, model.weight, account.median, account.spread)
            score = evidence + model.weight
            top = float(score.max())
            share = np.exp(score - top)
            total = float(share.sum())
            log = top + float(np.log(total)) + float(np.log(account.prior / len(scales)))
            posteriors.append(
                Posterior(account=account, evidence=log, model=model, share=share / total, rate=rate, rate_sd=sd)
            )
    top = max(p.evidence for p in posteriors)
    odds: dict[str, float] = {}
    for p in posteriors:
        odds[p.account.name] = odds.get(p.account.name, 0.0) + float(np.exp(p.evidence - top))
    whole = sum(odds.values())
    return Weighed(
        odds={k: v / whole for k, v in odds.items()},
        posteriors=tuple(posteriors),
        inflate=inflate,
        gram=gram,
        right=right,
        basis=basis,
        data=data,
        bins=n,
    )


def solve(weighed: Weighed, posterior: Posterior, at: int) -> tuple[IntArray, FloatArray, FloatArray]:
    """Columns, amounts and their covariance of one model, its rise held to what its prior allows."""
    model = posterior.model
    cols = model.cols[at]
    p = weighed.gram[np.ix_(cols, cols)] + np.diag(model.precision[at])
    r = weighed.right[cols] + model.precision[at] * model.mean[at]
    inverse = np.asarray(np.linalg.inv(p + 1e-12 * np.diag(np.diag(p))), dtype=np.float64)
    beta: FloatArray = inverse @ r
    if model.rise is None:
        return cols, beta, inverse
    # Its rise is held to what its prior allows: mean and width of the last amount are given, the rest follows.
    free, sd = float(inverse[-1, -1]), max(float(posterior.rate_sd[at]), 1e-9)
    toward: FloatArray = inverse[:, -1] / free
    moved: FloatArray = beta + toward * (float(posterior.rate[at]) - float(beta[-1]))
    cov: FloatArray = inverse + np.outer(toward, toward) * (sd**2 - free)
    return cols, moved, cov


def _left(weighed: Weighed) -> FloatArray:
    """What the best account leaves over, in σ of the bins."""
    best = max(weighed.posteriors, key=lambda p: p.evidence)
    cols, beta, _ = solve(weighed, best, int(np.argmax(best.share)))
    n = weighed.bins
    result: FloatArray = (weighed.data.pressure[:n] - weighed.basis.x[:n][:, cols] @ beta) / weighed.data.sigma[:n]
    return result


def _misfit(r: FloatArray) -> float:
    """Factor on σ² for what even the best account leaves over.

    Reduced χ², times (1 + ρ)/(1 − ρ) for errors that hang together from bin to bin (lag-one correlation ρ).
    """
    n = r.size
    reduced = float(r @ r) / max(2.0, n - 4.0)
    rho = float((r[1:] * r[:-1]).sum() / max(float(r @ r), 1e-12)) if n > 8 else 0.0
    rho = min(max(rho, 0.0), 0.9)
    return max(LEAST_MISFIT, reduced) * (1.0 + rho) / (1.0 - rho)
