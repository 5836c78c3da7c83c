"""Draws of a sheet with one cause, or two, at work: what its gauges would have shown."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.diagnosis.faults import Cause
from rough_draw.core.diagnosis.importance_sampling import Proposal, importance, misfit
from rough_draw.core.diagnosis.live_fit import DIMS, EFFECTIVE, unknowns_at
from rough_draw.core.diagnosis.replay import replayed
from rough_draw.core.engine.compile import EngineError
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.run import State
from rough_draw.core.engine.simulate import Change, initial_state, run
from rough_draw.core.model.assemble import Assembly, vary
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import BALLAST, Touch, ballast_left_open

FloatArray = NDArray[np.float64]
_NORMAL = NormalDist()

D = len(DIMS) + 2
"""Unknowns, then since when the cause is at work or how grave the one beside it is, then how grave it is itself."""
ADRIFT = 0.08
"""Share by which even the right draw may be early or late (estimate)."""
SPREAD, APART = 0.08, 0.25
"""What even the right draw is off by, as a log of pressure: on the gauge that is read, and on any other (estimates)."""
FROM_START = 0.4
"""Deviate of the onset under which a cause was there from the start."""
GRAVEST = 2.5


@dataclass(frozen=True)
class Further:
    """Readings of another gauge: the node it sees, s since the pump started, Pa with NaN over range, its range."""

    node: str
    at: FloatArray
    pa: FloatArray
    over: float


@dataclass(frozen=True)
class Readings:
    """Readings of a draw: s since the pump started, Pa with NaN over range, Pa over which the gauge says nothing.

    ``more``: those of other gauges.
    """

    at: FloatArray
    pa: FloatArray
    over: float
    more: tuple[Further, ...] = ()

    def all_pa(self) -> FloatArray:
        """Pa of every gauge, one after the other."""
        return np.concatenate([self.pa, *(m.pa for m in self.more)])

    def all_at(self) -> FloatArray:
        """Their times, s."""
        return np.concatenate([self.at, *(m.at for m in self.more)])

    def all_over(self) -> FloatArray:
        """Pa over which each says nothing."""
        own = np.full(self.at.size, self.over)
        return np.concatenate([own, *(np.full(m.at.size, m.over) for m in self.more)])


@dataclass(frozen=True, slots=True)
class Draw:
    """One draw of a cause: its place, its curve, and what it stands at in the end.

    ``curve`` (3, readings) log Pa at the readings' times, and a little before and after.
    """

    z: FloatArray
    curve: FloatArray
    network: Network
    final: State
    weight: float = 0.0


@dataclass(kw_only=True)
class Play:
    """The sheet's draw played again, with a cause at work. ``slope``: how its plain curve moves with the unknowns."""

    job: Job
    base: Assembly
    touches: list[Touch]
    start: float
    readings: Readings
    onset: float | None
    slope: FloatArray | None = None
    _made: dict[tuple[bytes, bool], tuple[Assembly, Network, list[tuple[float, Change]]]] = field(default_factory=dict)

    def draw(self, cause: Cause, z: FloatArray) -> Draw:
        """One draw of a cause at a place."""
        s = float(np.clip(z[-1], -GRAVEST, GRAVEST))
        end = float(self.readings.at[-1])
        begins, second = self._begins(cause, float(z[-2]), end), 0.0
        put: Callable[[Network], Network] | None = None
        if cause.beside is not None:
            # Two at once: what the onset would be is how grave the second is.
            second = float(np.clip(z[-2], -GRAVEST, GRAVEST))
        ballast = any(c.key == "ballast" for c in cause.each) and begins is None
        varied, net, later = self._varied(z[:-2], ballast)
        if cause.apply is not None or cause.beside is not None:

            def put(n: Network) -> Network:
                return cause.put(n, s, second)

        if begins is None and put is not None:
            net = put(net)
        elif begins is not None and put is not None:
            later = sorted([*later, (begins, put)], key=lambda e: e[0])
        try:
            result = run(net, end + 0.01, later, rtol=2e-2)
        except EngineError:
            # A draw that cannot be computed tells nothing.
            return Draw(z, np.full((3, self.readings.all_at().size), 50.0), net, initial_state(net))
        offset = cause.shift(s, second) * MICRON_PA
        curves = [self._seen(result.time, result.total(varied.gauge_node) + offset, self.readings.at)]
        curves += [self._seen(result.time, result.total(m.node), m.at) for m in self.readings.more]
        last = net
        for at, change in later:
            if at <= end:
                last = change(last)
        return Draw(z, np.hstack(curves), last, result.final)

    @staticmethod
    def _seen(time: FloatArray, shown: FloatArray, at: FloatArray) -> FloatArray:
        times = np.outer((1.0, 1.0 / (1.0 + ADRIFT), 1.0 + ADRIFT), at)
        found: FloatArray = np.log(np.maximum(np.interp(times, time, shown), 1e-3))
        return found

    def _varied(self, z: FloatArray, ballast: bool) -> tuple[Assembly, Network, list[tuple[float, Change]]]:
        """The sheet at other unknowns with the touches made on it: the same for every cause that is tried there."""
        key = (z.tobytes(), ballast)
        found = self._made.get(key)
        if found is None:
            u = unknowns_at(z)
            varied = vary(self.base, self.job, u)
            net, later = replayed(self.job, varied, u, _as_it_should(self.touches, ballast), self.start)
            found = self._made[key] = (varied, net, later)
        return found

    def _begins(self, cause: Cause, z: float, end: float) -> float | None:
        """When a cause begins, s, or None from the start: at the rise where there is one, or by its deviate."""
        if self.onset is not None:
            return self.onset
        if not cause.later or cause.beside is not None or z < FROM_START:
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


def weights(
    draws: Sequence[Draw],
    proposals: Sequence[Proposal],
    readings: Readings,
    only: NDArray[np.bool_] | None = None,
) -> tuple[FloatArray, float]:
    """Weights of the draws, summing to one, and the log of the cause's evidence; by the readings of ``only``."""
    z = np.array([d.z for d in draws])
    whole = np.array([d.curve for d in draws])
    curves, low, high = whole[:, 0], whole.min(axis=1), whole.max(axis=1)
    pa, at = readings.all_pa(), readings.all_at()
    seen = np.isfinite(pa)
    told = np.log(np.where(seen, np.maximum(pa, 1e-3), 1.0))
    # Where a curve falls steeply, a little in time is much in pressure: outside of that counts, inside a fifth.
    outside = np.maximum(np.maximum(told - high, low - told), 0.0)
    # Another gauge has its own offset and place: it is to tell factors, and not per cents.
    wide = np.where(np.arange(pa.size) < readings.pa.size, SPREAD, APART)
    r = np.where(seen, np.hypot(outside, 0.2 * (curves - told)), 0.0) / wide
    below = np.where(~seen, np.maximum((np.log(readings.all_over()) - curves) / wide, 0.0), 0.0)
    # The latest readings are what the question is about: they count double.
    late = np.where(at >= 0.6 * readings.at[-1], 2.0, 1.0)
    share = min(1.0, EFFECTIVE * (1.0 + 0.5 * bool(readings.more)) / late.sum())
    late = late if only is None else late * only
    return importance(z, share * (late * (misfit(r) + misfit(below))).sum(axis=1), list(proposals))
