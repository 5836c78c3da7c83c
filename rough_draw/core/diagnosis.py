"""Why a draw does not go as planned: every cause weighed by the readings, with its odds.

Each cause is the sheet's network with one thing wrong; its evidence is how well draws of it, over all that is not known
exactly, tell the readings (importance sampling as in `livefit`). Answers to tests multiply the odds.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.assemble import Assembly, assemble, vary
from rough_draw.core.causes import Cause, causes
from rough_draw.core.engine import State, run
from rough_draw.core.ensemble import run_all, spread
from rough_draw.core.job import Job
from rough_draw.core.livefit import DIMS, EFFECTIVE, log_normal, thinned, unknowns_at
from rough_draw.core.network import Network
from rough_draw.core.replay import replayed
from rough_draw.core.runstate import Touch
from rough_draw.core.units import MICRON_PA

FloatArray = NDArray[np.float64]

FIRST, NEAR, MORE = 14, 14, 14
"""Draws of each cause: from the priors, near what a plain draw tells of the unknowns, and around the best of both."""
SPREAD = 0.08
RISEN = 1.25
"""Times its lowest reading, from which a draw counts as rising."""
D = len(DIMS) + 1


@dataclass(frozen=True)
class Readings:
    """Readings of a draw: s since the pump started, Pa with NaN over range, Pa over which the gauge says nothing."""

    at: FloatArray
    pa: FloatArray
    over: float


@dataclass(frozen=True)
class Draw:
    """One draw of a cause: its place, its curve at the readings' times, and what it stands at in the end."""

    z: FloatArray
    curve: FloatArray
    network: Network
    final: State
    weight: float = 0.0


@dataclass(frozen=True)
class Weighed:
    """A cause with its evidence (natural log) and the draws that carry it, heaviest first."""

    cause: Cause
    evidence: float
    draws: tuple[Draw, ...]


@dataclass(frozen=True)
class Case:
    """A draw under question: all its causes weighed, before any test. ``onset``: since when it rises, s."""

    job: Job
    base: Assembly
    readings: Readings
    weighed: tuple[Weighed, ...]
    onset: float | None

    @property
    def odds(self) -> dict[str, float]:
        """Odds of every cause by the readings alone; they sum to one."""
        log = np.array([np.log(w.cause.prior) + w.evidence for w in self.weighed])
        p = np.exp(log - log.max())
        p = p / p.sum()
        return {w.cause.key: float(x) for w, x in zip(self.weighed, p, strict=True)}


def rising_since(at: FloatArray, pa: FloatArray) -> float | None:
    """Since when the gauge rises while it should fall, s: its lowest reading, where it has left that for good."""
    seen = np.isfinite(pa)
    if int(seen.sum()) < 6:
        return None
    t, p = at[seen], pa[seen]
    low = int(np.argmin(p))
    tail = float(np.median(p[-3:]))
    return float(t[low]) if tail > RISEN * float(p[low]) and t[-1] - t[low] > 20.0 else None


def look_into(job: Job, touches: Sequence[Touch], start: float, readings: Readings) -> Case:
    """Weigh every cause by the readings so far. Raises ScopeError or NetworkError where the sheet is at fault."""
    base = assemble(job)
    onset = rising_since(readings.at, readings.pa)
    t, p = thinned(readings.at, readings.pa)
    thin = Readings(t, p, readings.over)
    kept = [x for x in touches if x.at >= start - 1.0]
    every = causes(job, base)
    if onset is not None:
        every = [c for c in every if c.later or c.key == "none"]
    plain = _weigh(every[0], job, base, kept, start, thin, None, 3 * FIRST, None)
    w = np.array([d.weight for d in plain.draws])
    z = np.array([d.z for d in plain.draws])
    mean = w @ z
    cov = (z - mean).T @ ((z - mean) * w[:, None]) + 0.15 * np.eye(D)
    near = (mean, cov)

    def one(cause: Cause) -> Weighed:
        return _weigh(cause, job, base, kept, start, thin, onset, FIRST, near)

    return Case(job, base, readings, (plain, *run_all(one, every[1:])), onset)


def _weigh(
    cause: Cause,
    job: Job,
    base: Assembly,
    touches: list[Touch],
    start: float,
    readings: Readings,
    onset: float | None,
    first: int,
    near: tuple[FloatArray, FloatArray] | None,
) -> Weighed:
    proposals = [(first, np.zeros(D), np.eye(D))]
    zs = np.array(spread(first, D))
    if near is not None:
        root = np.linalg.cholesky(near[1])
        zs = np.vstack([zs, near[0] + np.array(spread(NEAR, D, 50)) @ root.T])
        proposals.append((NEAR, *near))
    draws = [_draw(cause, job, base, touches, start, readings, onset, z) for z in zs]
    w, _ = _weights(cause, draws, proposals, readings)
    soft = np.sqrt(w) / np.sqrt(w).sum()
    mean = soft @ zs
    cov = (zs - mean).T @ ((zs - mean) * soft[:, None]) + 0.03 * np.eye(D)
    more = mean + np.array(spread(MORE, D, 100)) @ np.linalg.cholesky(cov).T
    draws += [_draw(cause, job, base, touches, start, readings, onset, z) for z in more]
    proposals.append((MORE, mean, cov))
    w, evidence = _weights(cause, draws, proposals, readings)
    order = np.argsort(-w)
    return Weighed(cause, evidence, tuple(replace(draws[i], weight=float(w[i])) for i in order))


def _draw(
    cause: Cause,
    job: Job,
    base: Assembly,
    touches: list[Touch],
    start: float,
    readings: Readings,
    onset: float | None,
    z: FloatArray,
) -> Draw:
    u = unknowns_at(z[:-1])
    s = float(np.clip(z[-1], -2.5, 2.5))
    varied = vary(base, job, u)
    if onset is None and cause.apply is not None:
        varied = replace(varied, network=cause.apply(varied.network, s))
    net, later = replayed(job, varied, u, _as_it_should(touches, cause.key == "ballast" and onset is None), start)
    if onset is not None and cause.apply is not None:
        put = cause.apply
        later = sorted([*later, (onset, lambda n: put(n, s))], key=lambda e: e[0])
    end = float(readings.at[-1])
    result = run(net, end + 0.01, later, rtol=1e-2)
    shown = np.interp(readings.at, result.time, result.total(varied.gauge_node))
    if cause.offset is not None:
        shown = shown + cause.offset(s) * MICRON_PA
    last = net
    for at, change in later:
        if at <= end:
            last = change(last)
    return Draw(z, np.log(np.maximum(shown, 1e-3)), last, result.final)


def _as_it_should(touches: list[Touch], open_in_truth: bool) -> list[Touch]:
    """Touches without those on the ballast where the log leaves it open, or where the cause is that it is.

    A ballast that was never logged shut is the very thing in question: the causes differ in whether it is open.
    """
    logged = [t.kind for t in touches if t.kind.startswith("ballast")]
    forgotten = bool(logged) and logged[-1] == "ballast-open"
    if forgotten or open_in_truth:
        return [t for t in touches if not t.kind.startswith("ballast")]
    return touches


def _weights(
    cause: Cause, draws: list[Draw], proposals: list[tuple[int, FloatArray, FloatArray]], readings: Readings
) -> tuple[FloatArray, float]:
    """Weights of the draws, summing to one, and the log of the cause's evidence."""
    z = np.array([d.z for d in draws])
    curves = np.array([d.curve for d in draws])
    seen = np.isfinite(readings.pa)
    r = np.where(seen, curves - np.log(np.where(seen, np.maximum(readings.pa, 1e-3), 1.0)), 0.0) / SPREAD
    below = np.where(~seen, np.maximum((np.log(readings.over) - curves) / SPREAD, 0.0), 0.0)
    # The latest readings are what the question is about: they count double.
    late = np.where(readings.at >= 0.6 * readings.at[-1], 2.0, 1.0)
    share = min(1.0, EFFECTIVE / late.sum())
    log = -3.0 * share * (late * (np.log1p(r**2 / 5.0) + np.log1p(below**2 / 5.0))).sum(axis=1)
    total = sum(n for n, _, _ in proposals)
    mixed = np.logaddexp.reduce(np.array([np.log(n / total) + log_normal(z, m, c) for n, m, c in proposals]), axis=0)
    log = log + log_normal(z, np.zeros(D), np.eye(D)) - mixed
    top = float(log.max())
    w = np.exp(log - top)
    evidence = top + float(np.log(w.mean()))
    found: FloatArray = w / w.sum()
    return found, evidence
