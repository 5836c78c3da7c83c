"""The plan of a draw: predicted curve with its band, time to target, chokes, gauge error, and what to change first."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.engine.network import NetworkError
from rough_draw.core.engine.run import Run, Stop
from rough_draw.core.engine.simulate import run
from rough_draw.core.message import Message
from rough_draw.core.model.assemble import Assembly, assemble, vary
from rough_draw.core.model.ensemble import members, quantiles, run_all
from rough_draw.core.model.isolation import left_out
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.model.steady import SteadyAnswer, solve_steady
from rough_draw.core.model.system import ScopeError
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.limit import standing_inside, what_decides, what_limits
from rough_draw.core.planning.upgrades import Change, changes
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.gauge_owner import AT_PUMP
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem

FloatArray = NDArray[np.float64]

HORIZON = 24 * 3600.0
"""Longest draw that is computed, s. What takes longer is said to be out of reach of this rig."""
SIZE = 48
"""Members of the ensemble behind a band."""
FIRST = 8
"""Members behind the first answer, which is there at once."""
COARSE = 3e-2
"""Relative tolerance of a member: it moves times by a hundredth, and bands by nothing."""


@dataclass(frozen=True)
class Upgrade:
    """One change and the seconds it saves: best guess, and over the band's edges where that was asked for."""

    change: Change
    seconds_saved: Range
    time_to_target: float


@dataclass(frozen=True, kw_only=True)
class Plan:
    """A computed draw. Pressures Pa, times s; bands are rows: 10 %, best guess, 90 %.

    ``gauges``: the band of every gauge of the rig by its id, and of one held to the pump; ``gauge_band`` is that of the
    one that is read. What a gauge is known to read too high is in its band.

    ``left_out``: sections that cannot be reached. The plan is of the rest. ``inside``: what of the pressure at the
    worst spot stands in the system's own lines and metering device once the target is reached, Pa. ``deciding``: the
    unknown on which it hangs whether the target is reached at all, where it is in some draws and in others not.
    """

    target: float
    time_to_target: Range | None
    share_reaching: float
    times: FloatArray
    gauge_band: FloatArray
    system_band: FloatArray
    steady: SteadyAnswer
    gauge_error: float
    assembly: Assembly
    nominal: Run
    limit: Message
    left_out: tuple[str, ...] = ()
    gauges: dict[str, FloatArray] = field(default_factory=dict)
    inside: float = 0.0
    deciding: str | None = None


def system_pressure(assembly: Assembly, result: Run) -> FloatArray:
    """Highest total pressure, Pa, anywhere in the reached system against the run's time; of all, if none is reached."""
    nodes = [i for i, n in enumerate(result.network.nodes) if n.name in assembly.pumped]
    if not nodes:
        nodes = [i for i, n in enumerate(result.network.nodes) if n.group == "system"]
    values: FloatArray = result.pressure[:, nodes, :].sum(axis=2).max(axis=1)
    return values


def reached_at(assembly: Assembly, result: Run, level: float) -> float | None:
    """Seconds until the whole of the reached system is at ``level`` Pa; None if it never is."""
    return time_at_level(result.time, system_pressure(assembly, result), level)


def draw_down(assembly: Assembly, target: float, rtol: float, below: float = 1.0) -> Run:
    """The whole draw, ended early once every reached section is at ``below`` × target. At most `HORIZON`."""
    return run(assembly.network, HORIZON, rtol=rtol, stop=Stop(tuple(assembly.pumped), below * target))


def band(curves: list[tuple[FloatArray, FloatArray]], times: FloatArray) -> FloatArray:
    """10 %, 50 % and 90 % curves (3 × n, Pa) at ``times`` of an ensemble of falling curves (s, Pa).

    Quantiles are taken of the time at which each level is passed, not of the pressure at each time: a few
    members then make a smooth band even where plateaus of different length lie side by side.
    """
    high = max(float(p[0]) for _, p in curves)
    low = min(float(p.min()) for _, p in curves)
    levels = np.geomspace(high, max(low, 0.05), 160)
    passed = np.empty((len(curves), levels.size))
    for row, (t, p) in zip(passed, curves, strict=True):
        falling = np.minimum.accumulate(p)
        log = np.log(np.maximum(falling, 1e-6))
        row[:] = np.interp(-np.log(levels), -log, t, right=HORIZON * 2.0)
    early = quantiles(passed)
    result = np.empty((3, times.size))
    for out, at in zip(result, early, strict=True):
        steady = np.maximum.accumulate(at)
        out[:] = np.exp(np.interp(times, steady, np.log(levels)))
    return result


def time_to_target(job: Job, unknown: Unknowns | None = None, rtol: float = 5e-3) -> float | None:
    """Seconds until every reached section is at the target, best guess; None if it is not within a day."""
    assembly = assemble(job, unknown)
    target = chosen(job.criterion).target
    return reached_at(assembly, draw_down(assembly, target, rtol), target)


def seconds_to_target(job: Job, unknown: Unknowns | None = None) -> float:
    """The same, a whole day where it is not within one: for comparing what takes longer."""
    taken = time_to_target(job, unknown)
    return HORIZON if taken is None else taken


@dataclass(frozen=True, kw_only=True)
class Drawn:
    """One of the draws that might be: times s, Pa at each node that a gauge sees and the reached system's highest, and
    the s until that is at the target (None: not within a day)."""

    times: FloatArray
    seen: dict[str, FloatArray]
    system: FloatArray
    reached: float | None


def _drawn(varied: Assembly, target: float, seen: list[str]) -> Drawn:
    result = draw_down(varied, target, COARSE, 0.7)
    system = system_pressure(varied, result)
    return Drawn(
        times=result.time,
        seen={n: result.total(n) for n in seen},
        system=system,
        reached=time_at_level(result.time, system, target),
    )


def _span(base: float | None, draws: list[Drawn]) -> Range | None:
    """From the tenth to the ninetieth of a hundred draws, around the best guess; None where that never gets there."""
    if base is None:
        return None
    taken = np.array([d.reached if d.reached is not None else HORIZON for d in draws])
    low, high = (float(x) for x in np.quantile(taken, [0.1, 0.9]))
    return Range(min(low, base), base, max(high, base))


def _banded(
    curves: list[tuple[FloatArray, FloatArray]], nominal: Run, best: FloatArray, times: FloatArray
) -> FloatArray:
    """The `band` of an ensemble about the best guess ``best``, Pa at the times of ``nominal``."""
    # The middle is the best guess itself, which is smooth; a dozen members make the median a staircase.
    rows = band(curves, times)
    middle = np.exp(np.interp(times, nominal.time, np.log(np.maximum(best, 1e-6))))
    rows[1] = np.clip(np.minimum.accumulate(middle), rows[0], rows[2])
    return rows


def plan_job(job: Job, size: int = SIZE) -> Plan:
    """Plan the draw of a job sheet. Raises ScopeError or NetworkError where the sheet cannot be computed."""
    target = chosen(job.criterion).target
    assembly = assemble(job)
    nodes = {**assembly.gauges, AT_PUMP: "intake"}
    seen = sorted({*nodes.values(), assembly.gauge_node})

    def best_guess() -> tuple[Run, SteadyAnswer]:
        return draw_down(assembly, target, 2e-3, 0.4), solve_steady(assembly, target)

    # The best guess runs beside its variants: the engine lets both cores work.
    with ThreadPoolExecutor(1) as beside:
        waiting = beside.submit(best_guess)
        unknown = members(size)
        draws = run_all(lambda u: _drawn(vary(assembly, job, u), target, seen), unknown)
        nominal, steady = waiting.result()
    highest = system_pressure(assembly, nominal)
    base = time_at_level(nominal.time, highest, target)
    span = _span(base, draws)
    reached = [d.reached is not None for d in draws]
    end = min(HORIZON, 1.35 * span.high) if span is not None else 4 * 3600.0
    times = np.unique(np.concatenate([np.linspace(0, end, 160), np.geomspace(2.0, max(end, 10.0), 60)]))
    shown = {n: _banded([(d.times, d.seen[n]) for d in draws], nominal, nominal.total(n), times) for n in seen}
    offsets = {g.id: g.offset_micron * MICRON_PA for g in job.rig.gauges}
    at = base if base is not None else end
    worst = float(np.exp(np.interp(at, nominal.time, np.log(np.maximum(highest, 1e-6)))))
    inside = standing_inside(assembly, nominal, at)
    deciding = what_decides(unknown, reached)
    return Plan(
        target=target,
        time_to_target=span,
        share_reaching=sum(reached) / len(reached),
        times=times,
        gauge_band=shown[assembly.gauge_node],
        system_band=_banded([(d.times, d.system) for d in draws], nominal, highest, times),
        steady=steady,
        gauge_error=worst - float(nominal.at(assembly.gauge_node, [at])[0]),
        assembly=assembly,
        nominal=nominal,
        limit=what_limits(assembly, steady, base is not None, inside, deciding),
        left_out=tuple(left_out(assembly)),
        gauges={g: np.maximum(shown[n] + offsets.get(g, 0.0), 1e-3) for g, n in nodes.items()},
        inside=inside,
        deciding=deciding,
    )


def rank_upgrades(job: Job, base: float | None, kit: list[KitItem] | None = None, banded: int = 6) -> list[Upgrade]:
    """Every single change to the rig, ranked by the seconds it saves; where the rig never gets there, against a day.

    The first ``banded`` are also computed with little and much to carry off (water, hose, core and pump at their
    one-σ points, the same for both rigs), which gives their range.
    """
    start = base if base is not None else HORIZON

    def one(change: Change) -> Upgrade | None:
        try:
            after = seconds_to_target(change.job)
        except (ScopeError, NetworkError):
            return None
        return Upgrade(change, Range(start - after, start - after, start - after), after)

    kept = [u for u in run_all(one, changes(job, kit or [])) if u is not None and u.seconds_saved.value > 1.0]
    ranked = sorted(kept, key=lambda u: -u.seconds_saved.value)
    edges = [Unknowns(water=z, core=z, pump=z, hose=z) for z in (-1.0, 1.0)]
    before = [seconds_to_target(job, u) for u in edges] if ranked[:banded] else []

    def with_range(u: Upgrade) -> Upgrade:
        saved = [b - seconds_to_target(u.change.job, e) for b, e in zip(before, edges, strict=True)]
        saved.append(u.seconds_saved.value)
        return replace(u, seconds_saved=Range(min(saved), u.seconds_saved.value, max(saved)))

    return [*run_all(with_range, ranked[:banded]), *ranked[banded:]]
