"""The volume that the pump really sees, read off the early draw, against the one on the sheet.

A section that is shut leaves too little, one that should keep its charge and does not too much; nothing else on the
gauge says so. The early draw is the same sheet's network with its system scaled, over a grid of scales and over all
that is not known exactly; the readings weigh them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.diagnosis.importance_sampling import misfit
from rough_draw.core.diagnosis.live_fit import DIMS, EFFECTIVE, thinned, unknowns_at
from rough_draw.core.diagnosis.replay import replayed, standing
from rough_draw.core.engine.compile import EngineError
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.simulate import run
from rough_draw.core.message import Message, Name, listed, message
from rough_draw.core.message.figure import volume
from rough_draw.core.model.assemble import Assembly, assemble, vary
from rough_draw.core.model.ensemble import run_all, spread
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch

FloatArray = NDArray[np.float64]

SCALES = np.geomspace(0.08, 5.0, 15)
"""Of the sheet's volume, over which the readings are asked."""
DRAWS = 8
"""Of the other unknowns, for each scale."""
OFF = 0.2
"""What even the right draw is off by, as a log of pressure: it falls steeply here (estimate)."""
LEAST, LEAST_SPAN = 3, 0.5
"""Readings of the early draw, and natural logs of pressure that they span, without which nothing is said."""
UNDER = 1_200 * MICRON_PA
"""Pa, over which walls, oil and leaks count for little beside the gas that fills the system."""
WET = 1.6
"""Times the saturation of water, under which it boils into the volume and makes it look larger."""
PRIOR = 0.9
"""Natural log by which the volume really seen may be off the sheet's beforehand: a section more or less (estimate)."""
SMALL, LARGE = 0.8, 1.3
"""Shares of the sheet's volume that its whole 80 % range must leave out to count."""
CLEAR = 3.0
"""Times better than half and twice of it, at which the sheet's volume is taken without a closer look."""
FITS = 1.25
"""Factor within which what a closed link leaves counts as what was seen."""

VolumeSays = Literal["as-said", "small", "large"]


@dataclass(frozen=True)
class Fitting:
    """A link whose being closed, or a section whose being open, leaves about the volume that was seen, m³."""

    key: str
    name: Name
    volume: float


@dataclass(frozen=True, kw_only=True)
class VolumeSeen:
    """What the pump sees, m³ with its 80 % range, the sheet's own, and what explains the difference, best first."""

    seen: Range
    sheet: float
    says: VolumeSays
    fitting: tuple[Fitting, ...] = ()

    @property
    def words(self) -> Message | None:
        """What to say of it; None where it is as the sheet has it."""
        if self.says == "as-said":
            return None
        return message(
            f"volume-{self.says}",
            seen=volume(self.seen.value),
            low=volume(self.seen.low),
            high=volume(self.seen.high),
            sheet=volume(self.sheet),
            count=len(self.fitting),
            names=listed([f.name for f in self.fitting[:3]]) if self.fitting else "",
        )

    @property
    def judged(self) -> Message:
        """What a hold was judged on."""
        return message("volume-judged", seen=volume(self.seen.value), sheet=volume(self.sheet), says=self.says)

    @property
    def how(self) -> Message:
        """How to see what it is."""
        return message(f"volume-{self.says}.how")


def volume_seen(
    job: Job, touches: Sequence[Touch], start: float, at: FloatArray, pa: FloatArray, quick: bool = False
) -> VolumeSeen | None:
    """The volume that the early readings speak for: ``at`` s since the pump started, ``pa`` Pa with NaN over range.

    None where they say too little; with ``quick`` also where a few draws show that it is as the sheet has it.
    Raises ScopeError or NetworkError where the sheet is at fault.
    """
    base = assemble(job)
    t, p = _early(base, at, pa)
    if t.size < LEAST or float(np.log(p.max() / p.min())) < LEAST_SPAN:
        return None
    t, p = thinned(t, p)
    kept = list(standing(touches, start))

    def told(scales: FloatArray, draws: int) -> FloatArray:
        """How well each scale tells the readings, over draws of all else; the best is about 1."""
        zs = [_at(z) for z in spread(draws, len(DIMS))]
        log = np.array(run_all(lambda c: _told(job, base, kept, start, c, t, p), [(f, z) for f in scales for z in zs]))
        by_scale = log.reshape(scales.size, draws)
        found: FloatArray = np.exp(by_scale - float(by_scale.max())).mean(axis=1)
        return found

    if quick:
        half, whole, twice = told(np.array([0.5, 1.0, 2.0]), 4)
        if whole > CLEAR * max(half, twice):
            return None
    found = _quantiles(told(SCALES, DRAWS) * np.exp(-0.5 * (np.log(SCALES) / PRIOR) ** 2))
    sheet = base.network.volume("system")
    seen = Range(*(f * sheet for f in found))
    says: VolumeSays = "small" if found[2] < SMALL else "large" if found[0] > LARGE else "as-said"
    return VolumeSeen(seen=seen, sheet=sheet, says=says, fitting=_fitting(job, base, seen, says))


def _early(base: Assembly, at: FloatArray, pa: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Readings in range, before what comes off walls and out of water counts; none after the first rise."""
    floor = max(UNDER, WET * saturation_pressure(base.system.coldest) if base.network.pools else UNDER)
    seen = np.isfinite(pa) & (at > 1.0)
    t, p = at[seen], pa[seen]
    low = np.minimum.accumulate(p) if p.size else p
    over = np.flatnonzero((p <= floor) | (p > 1.3 * low))
    end = int(over[0]) if over.size else p.size
    return t[:end], p[:end]


def _at(deviates: Sequence[float]) -> FloatArray:
    """The volume at its middle: it is what is asked for."""
    z = np.array(deviates)
    z[0] = 0.0
    return z


def _told(
    job: Job,
    base: Assembly,
    touches: list[Touch],
    start: float,
    draw: tuple[float, FloatArray],
    t: FloatArray,
    p: FloatArray,
) -> float:
    """How well one draw at a scale tells the readings, natural log."""
    scale, z = draw
    u = unknowns_at(z)
    varied = vary(base, job, u)
    net, later = replayed(job, replace(varied, network=_scaled(varied.network, scale)), u, touches, start)
    try:
        result = run(net, float(t[-1]) + 0.01, [e for e in later if e[0] <= float(t[-1])], rtol=3e-2)
    except EngineError:
        return -1e3
    shown = np.interp(t, result.time, np.log(np.maximum(result.total(varied.gauge_node), 1e-3)))
    share = min(1.0, 0.5 * EFFECTIVE / t.size)
    return float(share * misfit((shown - np.log(p)) / OFF).sum())


def _scaled(net: Network, scale: float) -> Network:
    nodes = tuple(replace(n, volume=n.volume * scale) if n.group == "system" else n for n in net.nodes)
    return replace(net, nodes=nodes)


def _quantiles(weight: FloatArray) -> tuple[float, float, float]:
    """10, 50 and 90 % of the scale, by straight lines between the grid's points on a logarithm."""
    x = np.linspace(0.0, 1.0, 301)
    at = np.interp(x, np.linspace(0.0, 1.0, SCALES.size), np.log(SCALES))
    density = np.interp(x, np.linspace(0.0, 1.0, SCALES.size), weight)
    run_up = np.cumsum(density) / density.sum()
    low, mid, high = (float(np.exp(np.interp(q, run_up, at))) for q in (0.1, 0.5, 0.9))
    return low, mid, high


def _fitting(job: Job, base: Assembly, seen: Range, says: VolumeSays) -> tuple[Fitting, ...]:
    """What explains the volume seen: links that leave it when closed, or kept sections that it takes in."""
    net = base.network
    whole = net.volume("system")
    found: list[Fitting] = []
    if says == "small":
        tubes = {t.name: t for t in net.tubes}
        for v in base.valves.values():
            if v.where == "system" and v.tube in tubes and tubes[v.tube].open:
                left = net.with_tube(v.tube, open=False)
                here = left.connected(base.gauge_node) & left.connected("intake")
                inside = sum(n.volume for n in net.nodes if n.name in here and n.group == "system")
                found.append(Fitting(v.part, v.label, inside))
    elif says == "large":
        spaces = {s.name: s for s in base.system.sections}
        for s in job.scope.sections:
            if s.holds_charge and s.id in spaces:
                found.append(Fitting(s.id, s.words(), whole + spaces[s.id].volume.value))
    close = [f for f in found if seen.low / FITS <= f.volume <= seen.high * FITS and f.volume > 0.0]
    return tuple(sorted(close, key=lambda f: abs(float(np.log(f.volume / seen.value)))))
