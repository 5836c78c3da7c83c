"""The plan of a draw: predicted curve with its band, time to target, chokes, gauge error, and what to change first."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.assemble import Assembly, Unknowns, assemble
from rough_draw.core.criteria import chosen
from rough_draw.core.engine import Run, run
from rough_draw.core.ensemble import members, quantiles, run_all
from rough_draw.core.hold import Range
from rough_draw.core.job import Job
from rough_draw.core.steady import SteadyAnswer, solve_steady
from rough_draw.core.units import MICRON_PA
from rough_draw.core.upgrades import Change, changes

FloatArray = NDArray[np.float64]

HORIZON = 24 * 3600.0
"""Longest draw that is computed, s. What takes longer is said to be out of reach of this rig."""
SIZE = 16
"""Members of the ensemble behind a band."""


@dataclass(frozen=True)
class Upgrade:
    """One change and the seconds it saves, best guess; None where the rig as it stands never gets there."""

    change: Change
    seconds_saved: float
    time_to_target: float


@dataclass(frozen=True)
class Plan:
    """A computed draw. Pressures Pa, times s; bands are 10 %, 50 %, 90 % rows."""

    target: float
    time_to_target: Range | None
    share_reaching: float
    times: FloatArray
    gauge_band: FloatArray
    system_band: FloatArray
    steady: SteadyAnswer
    gauge_error: float
    upgrades: tuple[Upgrade, ...]
    assembly: Assembly
    nominal: Run
    limit: str


def system_pressure(result: Run) -> FloatArray:
    """Highest total pressure, Pa, anywhere in the system against the run's time."""
    nodes = [i for i, n in enumerate(result.network.nodes) if n.group == "system"]
    values: FloatArray = result.pressure[:, nodes, :].sum(axis=2).max(axis=1)
    return values


def _reached(result: Run, level: float) -> float | None:
    p = system_pressure(result)
    below = np.nonzero(p <= level)[0]
    if below.size == 0:
        return None
    i = int(below[0])
    if i == 0:
        return 0.0
    a, b = np.log(p[i - 1]), np.log(p[i])
    return float(result.time[i - 1] + (a - np.log(level)) / (a - b) * (result.time[i] - result.time[i - 1]))


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


def time_to_target(job: Job, unknown: Unknowns | None = None, rtol: float = 3e-3) -> float | None:
    """Seconds until the whole system is at the target, best guess; None if it is not within a day."""
    assembly = assemble(job, unknown)
    return _reached(run(assembly.network, HORIZON, rtol=rtol), chosen(job.criterion).target)


def plan_job(job: Job, size: int = SIZE, with_upgrades: bool = True) -> Plan:
    """Plan the draw of a job sheet. Raises ScopeError or NetworkError where the sheet cannot be computed."""
    target = chosen(job.criterion).target
    assembly = assemble(job)
    nominal = run(assembly.network, HORIZON, rtol=2e-3)
    base = _reached(nominal, target)
    draws = members(size)

    def one(u: Unknowns) -> Run:
        return run(assemble(job, u).network, HORIZON, rtol=5e-3)

    runs = run_all(one, draws)
    reached = [_reached(r, target) for r in runs]
    got = sorted(t for t in reached if t is not None)
    share = len(got) / len(reached)
    span = Range(0.0, 0.0, 0.0)
    if base is not None and got:
        filled = np.array([t if t is not None else HORIZON for t in reached])
        low, high = (float(x) for x in np.quantile(filled, [0.1, 0.9]))
        span = Range(min(low, base), base, max(high, base))
    end = min(HORIZON, 1.35 * span.high) if base is not None else 4 * 3600.0
    times = np.unique(np.concatenate([np.linspace(0, end, 160), np.geomspace(2.0, max(end, 10.0), 60)]))
    gauge = band([(r.time, r.total(assembly.gauge_node)) for r in runs], times)
    system = band([(r.time, system_pressure(r)) for r in runs], times)
    steady = solve_steady(assembly, target)
    at = base if base is not None else end
    worst = float(np.exp(np.interp(at, nominal.time, np.log(np.maximum(system_pressure(nominal), 1e-6)))))
    error = worst - float(nominal.at(assembly.gauge_node, [at])[0])
    return Plan(
        target,
        span if base is not None else None,
        share,
        times,
        gauge,
        system,
        steady,
        error,
        rank_upgrades(job, base) if with_upgrades else (),
        assembly,
        nominal,
        _limit_words(steady, base),
    )


def rank_upgrades(job: Job, base: float | None) -> tuple[Upgrade, ...]:
    """Every single change to the rig, ranked by the seconds it saves on the best guess."""
    start = base if base is not None else HORIZON
    found = changes(job)

    def one(change: Change) -> Upgrade:
        reached = time_to_target(change.job)
        taken = reached if reached is not None else HORIZON
        return Upgrade(change, start - taken, taken)

    with_times = [one(c) for c in found]
    return tuple(sorted((u for u in with_times if u.seconds_saved > 1.0), key=lambda u: -u.seconds_saved))


def _limit_words(steady: SteadyAnswer, base: float | None) -> str:
    """Which range the job is in: does the pump count, or the way to it?"""
    rig = 1.0 - steady.pump_share
    worst = max(steady.parts, key=lambda p: p.share)
    side = f" on the {worst.side} side" if worst.side else ""
    if base is None:
        return f"the target of {steady.pressure / MICRON_PA:,.0f} µ is out of reach of this rig within a day"
    if rig > 0.6:
        return f"the way to the pump is the limit ({rig:.0%}): most of it is the {worst.label}{side}"
    if steady.pump_share > 0.6:
        return f"the pump is the limit ({steady.pump_share:.0%}); larger hoses would change little"
    return f"pump and hoses share the limit; the {worst.label}{side} holds back most"
