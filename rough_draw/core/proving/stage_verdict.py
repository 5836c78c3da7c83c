"""A stage of the rig proof judged: the reading with the pump running, and the rise with its valve shut."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.proving import TIGHT_PART, TINY
from rough_draw.core.message import Message, Value, figure, message
from rough_draw.core.message.figure import duration, rise, throughput, vacuum
from rough_draw.core.model.proof_network import PUMPING, Expected, ProofStage, expected, proof_stages
from rough_draw.core.model.rise_rate import inflow, inflow_before, less, reading_of
from rough_draw.core.model.system import build_system
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import CFM_M3_S, MICRON_PA
from rough_draw.core.sheet.evidence import StageReading
from rough_draw.core.sheet.job import Job

WAIT_S = 60.0
"""A stage is read after this many seconds of pumping at the least."""
BAD, DOUBTFUL = 3.0, 1.3
"""Times the upper edge of what a good part does, from which a stage is bad or doubtful."""


@dataclass(frozen=True)
class StageAnswer:
    """good, doubtful, bad or open; why; inflow Pa·m³/s of all so far and of this stage's own parts."""

    verdict: str
    words: tuple[Message, ...]
    total: Range | None = None
    own: Range | None = None


def judge_stage(job: Job, index: int) -> StageAnswer:
    """Judge a stage of the sheet's rig from what was read of it."""
    stages = proof_stages(job)
    stage = stages[index]
    seen = reading_of(job, stage)
    if seen is None:
        gone = stage.key in job.prove.stages
        return StageAnswer("open", (message("stage-other-part"),) if gone else ())
    gauge = job.rig.gauge
    resolution = gauge.resolution_micron if gauge is not None else 25.0
    verdicts: list[str] = []
    words: list[Message] = []
    if seen.settled_micron is not None:
        v, w = _running(job, stage, expected(job, index), seen, resolution)
        verdicts.append(v)
        words.append(w)
    total = inflow(stage, seen, resolution)
    own = None
    if total is not None:
        before = inflow_before(job, stages, index, resolution)
        own = less(total, before)
        if index > 0:
            v, w = _rising(stage, own, before is not None)
            verdicts.append(v)
            words.append(w)
        words += _tiny(job, stage, seen, total)
    rank = ("bad", "doubtful", "open", "good")
    return StageAnswer(min(verdicts, key=rank.index) if verdicts else "open", tuple(words), total, own)


def _running(job: Job, stage: ProofStage, e: Expected, seen: StageReading, resolution: float) -> tuple[str, Message]:
    """The reading with the pump running, against what a good stage does by then."""
    p = seen.settled_micron or 0.0
    if not seen.running:
        return "open", message("stage-read-running")
    after = seen.after_s if seen.after_s is not None else PUMPING
    good = e.at(min(after, PUMPING))
    high = good.high / MICRON_PA + 2 * resolution
    if p <= high * DOUBTFUL:
        return "good", message(
            "stage-good", level=vacuum(p * MICRON_PA), low=vacuum(good.low), high=vacuum(high * MICRON_PA)
        )
    if after < WAIT_S:
        return "open", message("stage-jump", level=vacuum(p * MICRON_PA), time=duration(after))
    speed = job.rig.pump.plate_cfm * CFM_M3_S
    more = (p - good.value / MICRON_PA) * MICRON_PA * speed
    verdict = "bad" if p > high * BAD else "doubtful"
    values = {"level": vacuum(p * MICRON_PA), "high": vacuum(high * MICRON_PA), "more": throughput(more)}
    return verdict, message(f"stage-{verdict}", **values)


def _rising(stage: ProofStage, own: Range, beside: bool) -> tuple[str, Message]:
    """The rise as an inflow of this stage's parts, against what such parts let in."""
    values: dict[str, Value] = {"inflow": throughput(own.value), "alone": "yes" if beside else "no"}
    limit = max(stage.own.high, TIGHT_PART.high)
    if own.value > BAD * limit and own.low > limit:
        return "bad", message("stage-rise-bad", limit=throughput(limit), **values)
    if own.value > DOUBTFUL * limit:
        return "doubtful", message("stage-rise-doubtful", limit=throughput(limit), **values)
    return "good", message("stage-rise-good", **values)


def _tiny(job: Job, stage: ProofStage, seen: StageReading, total: Range) -> list[Message]:
    """Why a fast rise in a small volume may be nothing."""
    volume = stage.closed + seen.added_l * 1e-3
    rate = ((seen.to_micron or 0.0) - (seen.from_micron or 0.0)) / (seen.rise_s or 1.0)
    if volume >= TINY or rate < 0.3:
        return []
    system = build_system(job.scope).volume().value
    here = total.value / system / MICRON_PA
    return [
        message(
            "stage-tiny",
            rate=rise(rate * MICRON_PA),
            small=figure.volume(volume),
            system=figure.volume(system),
            here=rise(here * MICRON_PA),
        )
    ]
