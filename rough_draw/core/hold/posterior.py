"""What weighed accounts say: where each would end, how fast it rises now, where it will be, the least leak in it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import erf, sqrt

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.hold.evidence import Posterior, Weighed, solve
from rough_draw.core.hold.hypotheses import EARLY, FILM_TAU, STRAIGHT, SUN, WALLS, WALLS_TAU, rise_shape, rise_slope
from rough_draw.core.hold.models import SETTLES, WATERS, Setting, bend_shape
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA

FloatArray = NDArray[np.float64]

MOST = 10
"""Models of one account that are looked at: those that carry it."""
Z90 = 1.645
WIDE = 0.6
"""Rates come out surer than their standard errors, which take every error as hanging together: by this factor,
measured on simulated holds (`make bench`)."""


@dataclass(frozen=True, kw_only=True)
class Reading:
    """One model of an account, solved: its share of all odds, columns, amounts, covariance, and times."""

    name: str
    weight: float
    cols: NDArray[np.int64]
    beta: FloatArray
    cov: FloatArray
    steps: int
    straight: bool
    water: bool
    rise: tuple[str, float] | None
    settle_tau: float
    water_tau: float
    whole: float

    def functional(self, t: float, end: float, kind: str) -> FloatArray:
        """Weights on the amounts, in their order, for the pressure at ``t``, its slope, or the level without a rise.

        The sun moves a level while it is watched and no further: beyond ``end`` s its share stays.
        """
        slope, level = kind == "slope", kind == "level"
        parts = [0.0 if slope else 1.0] * self.steps
        parts.append(WALLS_TAU if level else _of(WALLS, WALLS_TAU, t, slope))
        parts += [1.0 if level else _toward(tau, t, slope) for tau in (FILM_TAU, *(tau for tau, _, _ in EARLY))]
        parts.append(0.0 if level else _bend(t, self.whole, slope))
        if not self.straight:
            parts.append(0.0 if slope or level else min(t, end))
        parts.append(0.0 if slope else 1.0)
        parts.append(1.0 if level else _toward(self.settle_tau, t, slope))
        if self.water:
            parts.append(1.0 if level else _toward(self.water_tau, t, slope))
        if self.rise is not None:
            parts.append(0.0 if level else _of(*self.rise, t, slope))
        return np.array(parts)

    def at(self, t: float, end: float, kind: str = "value") -> tuple[float, float]:
        """Mean and standard deviation, Pa or Pa/s."""
        f = self.functional(t, end, kind)
        return float(f @ self.beta), float(sqrt(max(float(f @ self.cov @ f), 0.0)))

    def curve(self, t: FloatArray, end: float) -> FloatArray:
        """Pressure, Pa, at ``t`` s by the mean amounts."""
        return np.array([float(self.functional(float(x), end, "value") @ self.beta) for x in t])


def _of(kind: str, scale: float, t: float, slope: bool) -> float:
    return rise_slope(kind, t, scale) if slope else float(rise_shape(kind, np.array(t), scale))


def _bend(t: float, span: float, slope: bool) -> float:
    # Its slope at the very end is not its own: a gauge's bend is no rise.
    return 0.0 if slope else float(bend_shape(np.array(t), span))


def _toward(tau: float, t: float, slope: bool) -> float:
    gone = float(np.exp(-t / tau))
    return gone / tau if slope else 1.0 - gone


def read(weighed: Weighed) -> list[Reading]:
    """The models that carry each account, solved; their weights are shares of all odds and add up to one."""
    found: list[Reading] = []
    top = max(p.evidence for p in weighed.posteriors)
    for p in weighed.posteriors:
        mass = float(np.exp(p.evidence - top))
        if mass < 1e-7:
            continue
        order = np.argsort(p.share)[::-1][:MOST]
        order = order[p.share[order] > 1e-3 * p.share[order[0]]]
        shares = p.share[order] / p.share[order].sum()
        found += [_solved(weighed, p, int(k), mass * float(s)) for k, s in zip(order, shares, strict=True)]
    whole = sum(r.weight for r in found)
    return [replace(r, weight=r.weight / whole) for r in found]


def _solved(weighed: Weighed, p: Posterior, k: int, weight: float) -> Reading:
    cols, beta, cov = solve(weighed, p, k)
    account, rise = p.account, p.model.rise
    straight = rise is not None and rise[0] == STRAIGHT
    steps = len(weighed.basis.steps)
    at = steps + 3 + len(EARLY) + (not straight)
    settle = float(SETTLES[int(cols[at + 1]) - int(weighed.basis.settle[0])])
    water = float(WATERS[int(cols[at + 2]) - int(weighed.basis.water[0])]) if account.water else 0.0
    return Reading(
        name=account.name,
        weight=weight,
        cols=cols,
        beta=beta,
        cov=cov,
        steps=steps,
        straight=straight,
        water=account.water,
        rise=rise,
        settle_tau=settle,
        water_tau=water,
        whole=weighed.data.span,
    )


def under(mean: float, sd: float, limit: float) -> float:
    """Probability that a normal figure is at or under ``limit``.

    Parameters
    ----------
    mean : float
        Of a normal figure.
    sd : float
        Its standard deviation.
    limit : float
        In the same unit.

    Returns
    -------
    float
        Probability that it is under the limit.

    Examples
    --------
    >>> round(under(0.0, 1.0, 0.0), 3)
    0.5
    """
    return 0.5 * (1.0 + erf((limit - mean) / max(sd, 1e-9) / sqrt(2.0)))


def mixture(parts: list[tuple[float, float, float]]) -> Range:
    """Interval at 90 % of a mixture of normals (weight, mean, sd).

    Parameters
    ----------
    parts : list of (float, float, float)
        Weight, mean, standard deviation of each normal.

    Returns
    -------
    Range
        5 %, median, 95 %.

    Examples
    --------
    >>> round(mixture([(1.0, 10.0, 1.0)]).value, 2)
    9.93
    """
    weight = np.array([w for w, _, _ in parts])
    mean, sd = np.array([m for _, m, _ in parts]), np.array([s for _, _, s in parts])
    z = np.linspace(-3.0, 3.0, 41)
    x = (mean[:, None] + sd[:, None] * z).ravel()
    w = (weight[:, None] * np.exp(-0.5 * z**2)).ravel()
    order = np.argsort(x)
    cumulative = np.cumsum(w[order]) / w.sum()
    low, middle, high = (float(np.interp(q, cumulative, x[order])) for q in (0.05, 0.5, 0.95))
    return Range(low, middle, high)


def ahead(readings: list[Reading], seconds: float, end: float, setting: Setting, most: float) -> Range:
    """Pressure, Pa, ``seconds`` after the last reading, at 90 %; at most ``most`` Pa, the atmosphere."""
    t = end + seconds
    parts = []
    for r in readings:
        mean, sd = r.at(t, end)
        # Vapour goes with the temperature of the coldest spot, which no one holds still.
        warm = SUN * (0.065 * min(mean, setting.saturation) if r.water else 0.0035 * mean)
        parts.append((r.weight, mean, float(np.hypot(sd, warm * min(1.0, sqrt(seconds / 1800.0)) + MICRON_PA))))
    found = mixture(parts)
    return Range(*(min(max(x, 0.0), most) for x in (found.low, found.value, found.high)))


def slope_now(readings: list[Reading], end: float) -> Range:
    """How fast it rises at the end, Pa/s, at 90 %."""
    return mixture([(r.weight, *r.at(end, end, "slope")) for r in readings])


def leak_bound(weighed: Weighed, share: float) -> float:
    """The straight rise, Pa/s, above which a leak has a chance of ``share`` at most, had it been even odds before.

    What the hold could not have missed, whatever was thought of it beforehand.
    """
    leaky = [p for p in weighed.posteriors if p.account.name in ("leak", "leak-and-moisture")]
    prior = sum(p.account.prior for p in weighed.posteriors)
    other = prior - sum(p.account.prior for p in leaky)
    top = max(p.evidence for p in weighed.posteriors)
    x: list[float] = []
    w: list[float] = []
    z = np.linspace(-4.0, 4.0, 33)
    bell = np.exp(-0.5 * z**2) / np.exp(-0.5 * z**2).sum()
    for p in leaky:
        mass = float(np.exp(p.evidence - top)) * other / (prior - other)
        if mass < 1e-7:
            continue
        for k in np.argsort(p.share)[::-1][:40]:
            x += list(np.maximum(p.rate[k] + p.rate_sd[k] * z, 0.0))
            w += list(mass * p.share[k] * bell)
    rest = sum(float(np.exp(p.evidence - top)) for p in weighed.posteriors if p not in leaky)
    order = np.argsort(x)[::-1]
    above = np.cumsum(np.array(w)[order]) / (sum(w) + rest) if w else np.zeros(0)
    beyond = np.nonzero(above >= share)[0]
    return float(np.array(x)[order][beyond[0]]) if beyond.size else 0.0


def rate_of(readings: list[Reading], names: tuple[str, ...]) -> Range:
    """The straight rise of the accounts ``names``, Pa/s, at 90 %; zero where none of them stands."""
    parts = [
        (r.weight, float(r.beta[-1]), (1.0 if r.water else WIDE) * sqrt(max(float(r.cov[-1, -1]), 0.0)))
        for r in readings
        if r.name in names
    ]
    if not parts:
        return Range(0.0, 0.0, 0.0)
    found = mixture(parts)
    return Range(max(found.low, 0.0), max(found.value, 0.0), max(found.high, 0.0))
