"""The rig proof as it goes on: what has been done on the bench, what the gauge should do now, and when to go on."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import duration, rise, throughput, vacuum, volume
from rough_draw.core.model.proof_network import PUMPING, expected, proof_stages
from rough_draw.core.model.rise_rate import inflow
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.proving.stage_verdict import DOUBTFUL, WAIT_S
from rough_draw.core.sheet.evidence import StageReading
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.core.sheet.steps import BenchStage, OnBench

FloatArray = NDArray[np.float64]

RISE_S = 45.0
"""A rise is read after this many seconds with the pump's valve shut."""
LAG_S = 5.0
"""Readings this soon after the valve was shut are the gauge catching up."""


@dataclass(frozen=True)
class BenchRun:
    """Where the bench stands: the stage and since when it is open, pump and valve. Times on the bench's clock."""

    stage: str = "pump"
    since: float | None = None
    pump_on: bool = False
    pump_since: float | None = None
    shut_at: float | None = None


def fold(touches: Iterable[Touch]) -> BenchRun:
    """State of the bench after its touches; those of the run itself are passed over."""
    run = BenchRun()
    for t in touches:
        match t.step:
            case OnBench("pump-on"):
                since = run.since if run.since is not None else t.at
                run = replace(run, pump_on=True, pump_since=t.at, since=since)
            case OnBench("pump-off"):
                run = replace(run, pump_on=False, pump_since=None)
            case OnBench("valve-shut"):
                run = replace(run, shut_at=t.at)
            case OnBench("valve-open"):
                run = replace(run, shut_at=None)
            case BenchStage(stage):
                run = BenchRun(stage, t.at, run.pump_on, run.pump_since, None)
            case _:
                pass
    return run


@dataclass(frozen=True)
class Watch:
    """What is to be said now: words, whether all is as it should be, what can be kept, and what comes next.

    ``next`` is the touch that comes next (``keep`` for writing the reading down).
    """

    words: Message
    tone: str
    next: str
    reading: StageReading | None = None


def watch(job: Job, run: BenchRun, at: FloatArray, pa: FloatArray, now: float) -> Watch:
    """Read the bench's gauge: ``at`` s and ``pa`` (NaN over range) since the stage was opened, on the bench's clock."""
    keys = [s.key for s in proof_stages(job)]
    if run.stage not in keys:
        return Watch(message("bench-stage-gone"), "caution", "stage:pump")
    index = keys.index(run.stage)
    if not run.pump_on and run.shut_at is None:
        return Watch(message("bench-pump-stands"), "plain", "pump-on")
    if at.size == 0 or run.since is None:
        return Watch(message("bench-waiting"), "plain", "")
    if run.shut_at is not None:
        return _rising(job, index, run, at, pa, now)
    return _pumping(job, index, run, at, pa, now)


def _pumping(job: Job, index: int, run: BenchRun, at: FloatArray, pa: FloatArray, now: float) -> Watch:
    begun = max(run.since or 0.0, run.pump_since or 0.0)
    t = now - begun
    last = float(pa[-1])
    good = expected(job, index).at(min(t, PUMPING))
    reading = None if np.isnan(last) else StageReading(settled_micron=round(last / MICRON_PA, 2), after_s=round(t, 1))
    jump = "own-air" if index else "none"
    if np.isnan(last) or last > max(good.high, expected(job, index).settled.high) * DOUBTFUL:
        if t < WAIT_S:
            return Watch(message("bench-falling", jump=jump, good=vacuum(good.high)), "plain", "")
        told = message("bench-over-range") if np.isnan(last) else message("bench-at", level=vacuum(last))
        part = "pump" if index == 0 else "tool" if proof_stages(job)[index].optional else "hose"
        words = message("bench-too-high", told=told, time=duration(t), good=vacuum(good.high), part=part)
        return Watch(words, "stop", "valve-shut", reading)
    if t < WAIT_S:
        return Watch(message("bench-falling-well", jump=jump, time=duration(WAIT_S - t)), "pass", "", None)
    shuts = proof_stages(job)[index].shuts
    rises = bool(shuts and index)
    words = message("bench-stands", level=vacuum(last), then="rise" if rises else "none")
    return Watch(words, "pass", "valve-shut" if rises else "keep", reading)


def _rising(job: Job, index: int, run: BenchRun, at: FloatArray, pa: FloatArray, now: float) -> Watch:
    shut = run.shut_at or 0.0
    before = (at <= shut) & np.isfinite(pa)
    after = (at >= shut + LAG_S) & np.isfinite(pa)
    settled = float(pa[before][-1]) / MICRON_PA if before.any() else None
    reading = StageReading(settled_micron=settled, after_s=round(max(0.0, shut - (run.since or shut)), 1))
    if int(after.sum()) < 2:
        return Watch(message("bench-catching-up"), "plain", "", reading)
    first, last = float(pa[after][0]) / MICRON_PA, float(pa[after][-1]) / MICRON_PA
    seconds = float(at[after][-1] - at[after][0])
    reading = reading.model_copy(
        update={"from_micron": round(first, 2), "to_micron": round(last, 2), "rise_s": round(max(seconds, 0.1), 2)}
    )
    stage = proof_stages(job)[index]
    q = inflow(stage, reading, job.rig.gauge.resolution_micron if job.rig.gauge else 25.0)
    rate = (last - first) / max(seconds, 0.1)
    said = message("bench-rise", rate=rise(rate * MICRON_PA), volume=volume(stage.closed))
    if q is not None:
        low, high = throughput(stage.passing.low), throughput(stage.passing.high)
        said = message("bench-rise-inflow", said=said, inflow=throughput(q.value), low=low, high=high)
    left = RISE_S - (now - shut)
    if left > 0:
        return Watch(message("bench-rise-more", said=said, time=duration(left)), "plain", "", None)
    return Watch(
        message("bench-rise-end", said=said),
        "pass" if q is None or q.low <= stage.passing.high else "stop",
        "keep",
        reading,
    )
