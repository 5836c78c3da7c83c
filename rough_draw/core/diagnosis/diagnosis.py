"""Why a draw does not go as planned: every cause weighed by the readings, with its odds.

Each cause is the sheet's network with one thing wrong; its evidence is how well draws of it, over all that is not known
exactly, tell the readings (importance sampling as in `livefit`). Answers to tests multiply the odds.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.diagnosis.curve_signs import jumps, rising_since
from rough_draw.core.diagnosis.faults import Cause, causes
from rough_draw.core.diagnosis.importance_sampling import Proposal, around, importance, misfit, moments
from rough_draw.core.diagnosis.live_fit import DIMS, EFFECTIVE, thinned, unknowns_at
from rough_draw.core.diagnosis.replay import replayed
from rough_draw.core.engine.compile import EngineError
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.run import State
from rough_draw.core.engine.simulate import initial_state, run
from rough_draw.core.model.assemble import Assembly, assemble, vary
from rough_draw.core.model.ensemble import run_all, spread
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import BALLAST, Touch, ballast_left_open

FloatArray = NDArray[np.float64]
_NORMAL = NormalDist()

FIRST, NEAR, MORE, ROUNDS = 8, 12, 6, 3
"""Draws of each cause: from the priors, near what the early readings tell of the unknowns, then toward the readings."""
FAR = 0.6
"""Log of pressure beyond which a curve is only known to be off: steps in time look like that."""
EARLY = 3_000 * MICRON_PA
"""Readings over this, Pa, tell volume, bore and pump much the same whatever is wrong later."""
HOPELESS = 9.0
"""A cause whose evidence is this far under the best, in natural logs, is not looked into further."""
ADRIFT = 0.08
"""Share by which even the right draw may be early or late (estimate)."""
SPREAD = 0.08
FORGOTTEN = 3.0
"""Odds beforehand of a ballast that the log leaves open, against about one for all the rest (estimate)."""
SCATTER = 8.0
"""What a gauge that jumps, or does not, adds to the evidence of causes that scatter, or do not (estimate)."""
D = len(DIMS) + 2
"""Unknowns, then since when the cause is at work, then how grave it is."""
FROM_START = 0.4
"""Deviate of the onset under which a cause was there from the start."""
DOUBT = 0.05
"""Share of the evidence that every cause keeps: for what the model and its few draws do not know (estimate)."""
TEMPER = 0.5
"""Power of the evidence in the odds: few draws tell it no better (estimate)."""


@dataclass(frozen=True)
class Readings:
    """Readings of a draw: s since the pump started, Pa with NaN over range, Pa over which the gauge says nothing."""

    at: FloatArray
    pa: FloatArray
    over: float


@dataclass(frozen=True)
class Draw:
    """One draw of a cause: its place, its curve, and what it stands at in the end.

    ``curve`` (3, readings) log Pa at the readings' times, and a little before and after.
    """

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
        log = np.array([w.evidence for w in self.weighed])
        prior = np.array([w.cause.prior for w in self.weighed])
        # That nothing is wrong is the one thing that the model knows well: it has no benefit of the doubt.
        doubt = np.array([0.0 if w.cause.key == "none" else DOUBT for w in self.weighed])
        p = prior * (np.exp(TEMPER * (log - log.max())) + doubt)
        p = p / p.sum()
        return {w.cause.key: float(x) for w, x in zip(self.weighed, p, strict=True)}


def look_into(job: Job, touches: Sequence[Touch], start: float, readings: Readings) -> Case:
    """Weigh every cause by the readings so far. Raises ScopeError or NetworkError where the sheet is at fault."""
    base = assemble(job)
    jumping = jumps(readings.pa)
    # A break with nitrogen lifts the gauge by itself: a rise counts since the last of them.
    lately = readings.at >= max((x.at - start for x in touches if x.kind == "break-end"), default=0.0)
    onset = None if jumping else rising_since(readings.at[lately], readings.pa[lately])
    t, p = thinned(readings.at, readings.pa)
    thin = Readings(t, p, readings.over)
    kept = [x for x in touches if x.at >= start - 1.0]
    every = [_as_logged(c, kept) for c in causes(job, base)]
    if onset is not None:
        every = [c for c in every if c.later or c.scatters or c.key == "none"]
    play = _Play(job=job, base=base, touches=kept, start=start, readings=thin, onset=onset)
    seen = np.isfinite(p)
    early = seen & ((t <= 0.3 * float(t[-1])) | (np.where(seen, p, 0.0) > EARLY))
    zs = np.array(spread(4 * FIRST, D))
    plain = [play.draw(every[0], z) for z in zs]
    wide = [(len(zs), np.zeros(D), np.eye(D))]
    w, _ = _weights(plain, wide, thin, early if early.any() else None)
    mean, cov = moments(zs, w, 0.1)
    # Onset and severity are what the early readings do not tell.
    mean[-2:], cov[-2:, :], cov[:, -2:] = 0.0, 0.0, 0.0
    cov[-2, -2] = cov[-1, -1] = 1.0
    near = (mean, cov)
    first = [_Looked(every[0], plain, wide), *run_all(lambda c: play.look(c, near), every[1:])]
    evidence = [np.log(x.cause.prior) + x.weigh(thin)[1] for x in first]
    best = max(evidence)
    worth = [x for x, e in zip(first, evidence, strict=True) if e > best - HOPELESS]
    run_all(play.closer, worth)
    return Case(job, base, readings, tuple(_scattered(x.weighed(thin), jumping) for x in first), onset)


def _as_logged(cause: Cause, touches: list[Touch]) -> Cause:
    """A ballast that was opened and never logged shut is likely open still."""
    return replace(cause, prior=FORGOTTEN) if cause.key == "ballast" and ballast_left_open(touches) else cause


def _scattered(w: Weighed, jumping: bool) -> Weighed:
    """Evidence of the scatter, which no draw of a network has."""
    return replace(w, evidence=w.evidence + SCATTER) if w.cause.scatters == jumping else w


@dataclass
class _Looked:
    """A cause with its draws and where they were drawn from."""

    cause: Cause
    draws: list[Draw]
    proposals: list[Proposal]

    def weigh(self, readings: Readings) -> tuple[FloatArray, float]:
        return _weights(self.draws, self.proposals, readings)

    def weighed(self, readings: Readings) -> Weighed:
        w, evidence = self.weigh(readings)
        order = np.argsort(-w)
        return Weighed(self.cause, evidence, tuple(replace(self.draws[i], weight=float(w[i])) for i in order))


@dataclass(frozen=True, kw_only=True)
class _Play:
    """The sheet's draw played again, with one cause at work."""

    job: Job
    base: Assembly
    touches: list[Touch]
    start: float
    readings: Readings
    onset: float | None

    def draw(self, cause: Cause, z: FloatArray) -> Draw:
        """One draw of a cause at a place."""
        u = unknowns_at(z[:-2])
        s = float(np.clip(z[-1], -2.5, 2.5))
        varied = vary(self.base, self.job, u)
        end = float(self.readings.at[-1])
        begins = _begins(cause, float(z[-2]), self.onset, end)
        if begins is None and cause.apply is not None:
            varied = replace(varied, network=cause.apply(varied.network, s))
        touches = _as_it_should(self.touches, cause.key == "ballast" and begins is None)
        net, later = replayed(self.job, varied, u, touches, self.start)
        if begins is not None and cause.apply is not None:
            put = cause.apply
            later = sorted([*later, (begins, lambda n: put(n, s))], key=lambda e: e[0])
        try:
            result = run(net, end + 0.01, later, rtol=2e-2)
        except EngineError:
            # A draw that cannot be computed tells nothing.
            return Draw(z, np.full((3, self.readings.at.size), 50.0), net, initial_state(net))
        times = np.outer((1.0, 1.0 / (1.0 + ADRIFT), 1.0 + ADRIFT), self.readings.at)
        shown = np.interp(times, result.time, result.total(varied.gauge_node))
        if cause.offset is not None:
            shown = shown + cause.offset(s) * MICRON_PA
        last = net
        for at, change in later:
            if at <= end:
                last = change(last)
        return Draw(z, np.log(np.maximum(shown, 1e-3)), last, result.final)

    def look(self, cause: Cause, near: tuple[FloatArray, FloatArray]) -> _Looked:
        zs = np.vstack([np.array(spread(FIRST, D)), around(*near, np.array(spread(NEAR, D, 50)))])
        draws = [self.draw(cause, z) for z in zs]
        return _Looked(cause, draws, [(FIRST, np.zeros(D), np.eye(D)), (NEAR, *near)])

    def closer(self, looked: _Looked) -> None:
        """Draw more where the draws so far say that the readings are met: `ROUNDS` times, each from all before."""
        for n in range(ROUNDS):
            mean, cov = _toward(looked, self.readings)
            zs = around(mean, cov, np.array(spread(MORE, D, 100 + n * MORE)))
            looked.draws += [self.draw(looked.cause, z) for z in zs]
            looked.proposals.append((MORE, mean, cov))


def _toward(looked: _Looked, readings: Readings) -> tuple[FloatArray, FloatArray]:
    """Where a cause likely meets the readings: a Gauss-Newton step from its best draw, and the spread about it.

    The slopes are a ridge regression of the curves on their places (as in ensemble Kalman inversion: Iglesias et al.
    2013), so that no draw has to be repeated for a derivative.
    """
    w, _ = looked.weigh(readings)
    soft = w**0.25 / (w**0.25).sum()
    zs = np.array([d.z for d in looked.draws])
    seen = np.isfinite(readings.pa)
    curves = np.array([d.curve[0, seen] for d in looked.draws])
    zc, yc = zs - soft @ zs, curves - soft @ curves
    slope = np.linalg.solve((zc * soft[:, None]).T @ zc + 0.05 * np.eye(D), (zc * soft[:, None]).T @ yc)
    best = int(np.argmax(w))
    off = np.clip(np.log(np.maximum(readings.pa[seen], 1e-3)) - curves[best], -FAR, FAR)
    precision = 1.2 * min(1.0, EFFECTIVE / max(int(seen.sum()), 1)) / SPREAD**2
    inverse = np.linalg.inv(precision * slope @ slope.T + np.eye(D))
    step = inverse @ (precision * slope @ off - zs[best])
    mean = zs[best] + np.clip(step, -2.0, 2.0)
    return mean, 1.5 * inverse + 0.01 * np.eye(D)


def _begins(cause: Cause, z: float, onset: float | None, end: float) -> float | None:
    """When a cause begins, s, or None from the start: at the rise where there is one, or anywhere by its deviate."""
    if onset is not None:
        return onset
    if not cause.later or z < FROM_START:
        return None
    whole = _NORMAL.cdf(FROM_START)
    return end * (_NORMAL.cdf(z) - whole) / (1.0 - whole)


def _as_it_should(touches: list[Touch], open_in_truth: bool) -> list[Touch]:
    """Touches without those on the ballast where the log leaves it open, or where the cause is that it is.

    A ballast that was never logged shut is the very thing in question: the causes differ in whether it is open.
    """
    if ballast_left_open(touches) or open_in_truth:
        return [t for t in touches if t.kind not in BALLAST]
    return touches


def _weights(
    draws: list[Draw],
    proposals: list[Proposal],
    readings: Readings,
    only: NDArray[np.bool_] | None = None,
) -> tuple[FloatArray, float]:
    """Weights of the draws, summing to one, and the log of the cause's evidence; by the readings of ``only``."""
    z = np.array([d.z for d in draws])
    whole = np.array([d.curve for d in draws])
    curves, low, high = whole[:, 0], whole.min(axis=1), whole.max(axis=1)
    seen = np.isfinite(readings.pa)
    told = np.log(np.where(seen, np.maximum(readings.pa, 1e-3), 1.0))
    # Where a curve falls steeply, a little in time is much in pressure: outside of that counts, inside a fifth.
    outside = np.maximum(np.maximum(told - high, low - told), 0.0)
    r = np.where(seen, np.hypot(outside, 0.2 * (curves - told)), 0.0) / SPREAD
    below = np.where(~seen, np.maximum((np.log(readings.over) - curves) / SPREAD, 0.0), 0.0)
    # The latest readings are what the question is about: they count double.
    late = np.where(readings.at >= 0.6 * readings.at[-1], 2.0, 1.0)
    share = min(1.0, EFFECTIVE / late.sum())
    late = late if only is None else late * only
    return importance(z, share * (late * (misfit(r) + misfit(below))).sum(axis=1), proposals)
