"""The draw fitted while it runs: which of the unknowns the readings speak for, and what that makes of the time left.

An ensemble weighted by the data. Every member is a whole draw of the sheet's network with the touches made so far; its
weight is how well it tells the readings. Where few members carry the weight, new ones are drawn around them (adaptive
importance sampling with the mixture of all proposals as its density: Cornuet et al. 2012).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.diagnosis.importance_sampling import Proposal, around, importance, misfit, moments
from rough_draw.core.diagnosis.replay import replayed, standing, with_ballast
from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.run import Stop
from rough_draw.core.engine.simulate import Change, advance, run
from rough_draw.core.model.assemble import Assembly, assemble, vary
from rough_draw.core.model.ensemble import run_all, spread
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.interval import Range
from rough_draw.core.planning.next_step import ballast_at
from rough_draw.core.planning.plan import HORIZON
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.gauge_owner import AT_PUMP
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch, ballast_left_open

FloatArray = NDArray[np.float64]

DIMS = ("volume", "water", "core", "pump", "hose", "release", "leak")
FIRST, MORE, MOST = 48, 24, 168
"""Members at first, in each later draw of them, and at the most."""
MODEL_SPREAD = 0.14
"""What even the right member is off by, as a log of pressure: estimate of what the network leaves out."""
SLACK_S, SLACK = 4.0, 0.03
"""What the model leaves out of a time: the gauge's lag and the hand's, s, and a share of the time (estimates)."""
BLIND = 0.8
"""The most that a reading over range counts against a member, in log pressure (estimate): it takes three of twenty."""
POINTS = 20
EFFECTIVE = 8.0
"""Readings that tell something of their own: neighbours on one curve repeat each other (estimate)."""
LEAK_AT, LEAK_DECADE = 3e-6, 0.8
"""Prior of a leak into the system: log-normal about this, Pa·m³/s, with this spread in decades."""


@dataclass(frozen=True, slots=True)
class Member:
    """One draw: its place in the space of unknowns, its curves, and when its system is at the target.

    ``told`` (2 + gauges beside, moments): times, s, pressures at the gauge that is read, Pa, and at those of
    `Fit.beside` in their order. In single precision: fifty draws keep thousands of members, and a curve is good to 2 %.
    """

    z: FloatArray
    told: NDArray[np.float32]
    target_at: float
    water: float
    volume: float


def goal_of(job: Job, touches: Sequence[Touch], start: float) -> tuple[float, float]:
    """What a draw is pulled down to now, Pa: the next break's level or the target; and since when, s from ``start``."""
    criterion = chosen(job.criterion)
    made = sum(t.kind == "break" for t in touches)
    ends = [t.at - start for t in touches if t.kind == "break-end"]
    level = criterion.breaks[made] if made < len(criterion.breaks) else criterion.target
    return level, max(ends, default=0.0)


def unknowns_at(z: FloatArray) -> Unknowns:
    """Unknowns at standard normal deviates ``z``, in the order of `DIMS`.

    What one curve cannot tell apart goes together, so that few draws fill the space: every narrow place of the way,
    the pump's end pressure and its speed, what is in oil and how fast it leaves.
    """
    values = dict(zip(DIMS[:-1], (float(x) for x in z[:-1]), strict=True))
    together = {"bores": values["core"], "lines": values["core"], "speed": values["pump"], "oil": values["release"]}
    return Unknowns(**values, **together, extra_leak=float(leak_at(z[-1])))


def leak_at(z: FloatArray) -> FloatArray:
    """The leak into the system, Pa·m³/s, at its standard normal deviates."""
    found: FloatArray = LEAK_AT * 10 ** (LEAK_DECADE * z)
    return found


@dataclass
class Fit:
    """Members of one sheet and its touches so far; it grows as readings ask for it. Not shared between threads.

    ``ballast_stays``: the ballast is open still though the gauge is far under the level at which it is to be closed.
    ``beside``: further gauges of the rig, by their ids, with the node that each reads. ``threads``: members are
    computed on so many at once.
    """

    job: Job
    touches: tuple[Touch, ...]
    start: float
    ballast_stays: bool = False
    threads: int = 2
    base: Assembly = field(init=False)
    beside: dict[str, str] = field(init=False)
    members: list[Member] = field(default_factory=list)
    proposals: list[Proposal] = field(default_factory=list)
    target: float = field(init=False)
    after: float = field(init=False)

    def __post_init__(self) -> None:
        self.base = assemble(self.job)
        nodes = {**self.base.gauges, AT_PUMP: "intake"}
        self.beside = {g: n for g, n in nodes.items() if n != self.base.gauge_node}
        self.target, self.after = goal_of(self.job, self.touches, self.start)
        d = len(DIMS)
        self._draw(np.array(spread(FIRST, d)), np.zeros(d), np.eye(d))

    def _draw(self, zs: FloatArray, mean: FloatArray, cov: FloatArray) -> None:
        self.members += run_all(self._member, list(zs), self.threads)
        self.proposals.append((len(zs), mean, cov))

    def _member(self, z: FloatArray) -> Member:
        u = unknowns_at(z)
        varied = vary(self.base, self.job, u)
        net, later = replayed(self.job, varied, u, self.touches, self.start)
        told, system = self._run(net, later, u, self._closes_by_itself())
        late = told[0] >= self.after
        at = time_at_level(told[0, late], system[late], self.target)
        water = sum(p.mass for p in varied.network.pools)
        ends = at if at is not None else 2 * HORIZON
        return Member(z, told.astype(np.float32), ends, water, varied.network.volume("system"))

    def _closes_by_itself(self) -> bool:
        """Whether a ballast that the log leaves open is taken to be closed at its level, when it comes to that."""
        return ballast_left_open(self.touches) and not self.ballast_stays

    def _run(
        self, net: Network, later: list[tuple[float, Change]], u: Unknowns, ballast: bool
    ) -> tuple[FloatArray, FloatArray]:
        """What a member has `told`, and the system's highest pressure, Pa, at the same moments.

        A ballast still open is shut at the level of the habit.
        """
        gauge, nodes = self.base.gauge_node, tuple(self.base.pumped)
        end = Stop(nodes, 0.6 * self.target)
        level = ballast_at(self.job)
        first = run(net, HORIZON, later, rtol=2e-2, stop=Stop((gauge,), level) if ballast and level else end)
        parts = [first]
        if ballast and level and float(first.time[-1]) < HORIZON:
            now = net
            for _, change in sorted(later, key=lambda e: e[0]):
                now = change(now)
            shut = compile_network(with_ballast(u, False)(now))
            parts.append(advance(shut, replace(first.final, step=1e-3), HORIZON, rtol=2e-2, stop=end))
        indices = [net.index(n) for n in nodes]
        told = np.hstack([[r.time, *(r.total(n) for n in (gauge, *self.beside.values()))] for r in parts])
        system = np.concatenate([r.pressure[:, indices, :].sum(axis=2).max(axis=1) for r in parts])
        return told, system

    def weights(self, at: FloatArray, pa: FloatArray, over: float, gauge: str = "") -> FloatArray:
        """Weight of every member for readings at ``at`` s and ``pa`` (NaN: over ``over`` Pa); they sum to one.

        Of the gauge that is read, or of another by its id.
        """
        z = np.array([m.z for m in self.members])
        return importance(z, self._likelihood(at, pa, over, gauge), self.proposals)[0]

    def _likelihood(self, at: FloatArray, pa: FloatArray, over: float, gauge: str) -> FloatArray:
        """Log likelihood of every member, by log pressures."""
        seen = np.isfinite(pa)
        curves = self.curves(at, gauge)
        off = self._unended(curves - np.log(np.where(seen, np.maximum(pa, 1e-3), 1.0)), at)
        r = np.where(seen, off, 0.0) / MODEL_SPREAD
        # Over range says only that the pressure is not under it.
        below = (np.log(over) - curves) / MODEL_SPREAD
        blind = np.where(~seen, np.maximum(below, 0.0), 0.0)
        share = min(1.0, EFFECTIVE / max(pa.size, 1))
        found: FloatArray = share * (misfit(r) + misfit(blind)).sum(axis=1)
        return found

    def curves(self, at: FloatArray, gauge: str = "") -> FloatArray:
        """Log of a gauge's pressure, Pa, of every member (members × times) at ``at`` s."""
        return np.array([self._curve(m, at, gauge) for m in self.members])

    def _curve(self, m: Member, at: FloatArray, gauge: str) -> FloatArray:
        row = 2 + list(self.beside).index(gauge) if gauge in self.beside else 1
        found: FloatArray = np.interp(at, m.told[0], np.log(np.maximum(m.told[row], 1e-3)))
        return found

    def _unended(self, off: FloatArray, at: FloatArray) -> FloatArray:
        """How far members are over readings (log; members × times), and not where a member is not computed so deep.

        A member ends under the target; a reading under where it ended contradicts it in nothing.
        """
        ended = at[None, :] > np.array([m.told[0, -1] for m in self.members])[:, None]
        return np.where(ended, np.minimum(off, 0.0), off)

    def off(self, member: int, at: FloatArray, pa: FloatArray, over: float, gauge: str = "") -> float:
        """How far one member is from readings at ``at`` s, ``pa`` Pa (NaN: over ``over`` Pa): root mean square of the
        log of pressure.

        A hand, a stamp and a gauge's lag are off by seconds, and where a curve falls steeply that is much in pressure:
        what the member shows within these counts as told. So does a reading over range while the member is; where that
        is far below, it counts `BLIND` and no more: a gauge that is taken off for a moment says nothing of the draw.
        """
        seen = np.isfinite(pa)
        told = np.log(np.where(seen, np.maximum(pa, 1e-3), over))
        near = np.array([at / (1 + SLACK) - SLACK_S, at, at * (1 + SLACK) + SLACK_S])
        m = self.members[member]
        curves = np.array([self._curve(m, t, gauge) for t in near])
        above = np.maximum(curves.min(axis=0) - told, 0.0)
        ended = at > m.told[0, -1]
        under = np.maximum(told - curves.max(axis=0), 0.0)
        blind = np.minimum(under, BLIND)
        far = np.where(seen, np.where(ended, under, above + under), blind)[seen | (blind > 0.0)]
        return float(np.sqrt(np.mean(far**2))) if far.size else 0.0

    def refine(self, w: FloatArray) -> bool:
        """Draw new members around those that carry the weights ``w``, where too few do; whether any were drawn."""
        if 1.0 / float((w**2).sum()) > 0.4 * FIRST or len(self.members) >= MOST:
            return False
        z = np.array([m.z for m in self.members])
        mean, cov = moments(z, w, 0.02)
        self._draw(around(mean, cov, np.array(spread(MORE, z.shape[1], len(self.members)))), mean, cov)
        return True


@dataclass(frozen=True, kw_only=True)
class Answer:
    """What the readings so far say. Times s from the pump's start; ``share``: of the weight that gets to the target.

    ``band`` is the gauge's 10, 50 and 90 % at ``times``. ``off``: how far the best member is from the readings, in log
    pressure (0.1 is 10 %). ``leak`` Pa·m³/s, ``water`` kg that stood free at the start and ``volume`` m³ of the system,
    with their 80 % ranges; the volume by the speed at the system, as every member has its whole rig.
    """

    target_at: Range | None
    share: float
    times: FloatArray
    band: FloatArray
    off: float
    leak: Range
    water: Range
    volume: Range
    members: int


def start_fit(job: Job, touches: Sequence[Touch], start: float, ballast_stays: bool = False, threads: int = 2) -> Fit:
    """A fit of a run that began at ``start``, its members computed on ``threads`` threads."""
    return Fit(job, standing(touches, start), start, ballast_stays, threads)


def thinned(at: FloatArray, pa: FloatArray) -> tuple[FloatArray, FloatArray]:
    """At most `POINTS` readings: evenly along the logarithm of time, the last always among them."""
    if at.size <= POINTS:
        return at, pa
    marks = np.geomspace(max(float(at[0]), 2.0), float(at[-1]), POINTS)
    picks = np.unique(np.searchsorted(at, marks).clip(0, at.size - 1))
    return at[picks], pa[picks]


def fit(state: Fit, at: FloatArray, pa: FloatArray, over: float, rounds: int = 1, gauge: str = "") -> Answer:
    """Weigh a fit's members by the readings (s from the start, Pa, NaN over range), refined at most ``rounds`` times.

    Readings are those of the gauge that is read, or of another by its id: each has its own band, by the same members.
    """
    t, p = thinned(at, pa)
    w = state.weights(t, p, over, gauge)
    for _ in range(rounds if not gauge else 0):
        if not state.refine(w):
            break
        w = state.weights(t, p, over)
    now = float(at[-1]) if at.size else 0.0
    ends = np.maximum(np.array([m.target_at for m in state.members]), now)
    reach = ends <= HORIZON
    share = float(w[reach].sum())
    span = _loosened(_span(ends, w), now) if share > 0.5 else None
    far = min(HORIZON, 1.3 * (span.high if span is not None else max(now * 2, 4 * 3600.0)))
    times = np.unique(np.concatenate([np.linspace(0.0, far, 120), np.geomspace(2.0, max(far, 10.0), 40)]))
    curves = state.curves(times, gauge)
    band = np.exp(_quantiles(curves, w))
    best = int(np.argmax(w))
    off = state.off(best, t, p, over, gauge)
    leak = _span(leak_at(np.array([m.z[-1] for m in state.members])), w)
    water = _span(np.array([m.water for m in state.members]), w)
    return Answer(
        target_at=span,
        share=share,
        times=times,
        band=band,
        off=off,
        leak=leak,
        water=water,
        volume=_span(np.array([m.volume for m in state.members]), w),
        members=len(w),
    )


SHARES = (0.1, 0.5, 0.9)


def _span(values: FloatArray, w: FloatArray) -> Range:
    low, mid, high = (float(q[0]) for q in _quantiles(values[:, None], w))
    return Range(low, mid, high)


def _loosened(r: Range, now: float) -> Range:
    return Range(max(now, r.low * (1 - SLACK) - SLACK_S), r.value, r.high * (1 + SLACK) + SLACK_S)


def _quantiles(values: FloatArray, w: FloatArray) -> FloatArray:
    """Weighted quantiles at `SHARES` over the members (shares × columns), each column by itself."""
    order = np.argsort(values, axis=0)
    run_up = np.cumsum(w[order], axis=0)
    rows = np.array([(run_up >= q * run_up[-1]).argmax(axis=0) for q in SHARES])
    found: FloatArray = np.take_along_axis(values, np.take_along_axis(order, rows, axis=0), axis=0)
    return found


def ballast_stays(job: Job, touches: Sequence[Touch], at: FloatArray, pa: FloatArray) -> bool:
    """Whether a ballast that the log leaves open was not closed where it should be: the gauge is long past it."""
    level = ballast_at(job)
    if level is None or not ballast_left_open(touches) or not at.size:
        return False
    over = np.flatnonzero(~(pa < PASSED * level))
    under = at[over[-1] + 1 :] if over.size else at
    return under.size > 0 and float(at[-1] - under[0]) > FORGOTTEN_S


PASSED = 0.8
"""Of the level at which the ballast is closed: under this its moment is over."""
FORGOTTEN_S = 300.0
"""Seconds after that moment from which it is taken to stay open."""
