"""A stage of the rig proof judged: the reading with the pump running, and the rise with its valve shut.

A rise alone says nothing: in twenty millilitres a leak that no system would feel runs up hundreds of microns a minute.
Times the volume it is a throughput, and that can be carried over to the system.
"""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.proving import RIG_VOLUME_SPREAD, TIGHT_PART, TINY
from rough_draw.core.catalogue.quantity import Quantity
from rough_draw.core.interval import Range
from rough_draw.core.job import Job
from rough_draw.core.proved import StageReading
from rough_draw.core.rigproof import PUMPING, Expected, ProofStage, expected, proof_stages
from rough_draw.core.system import build_system
from rough_draw.core.units import CFM_M3_S, MICRON_PA

WAIT_S = 60.0
"""A stage is read after this many seconds of pumping at the least."""
BAD, DOUBTFUL = 3.0, 1.3
"""Times the upper edge of what a good part does, from which a stage is bad or doubtful."""


@dataclass(frozen=True)
class StageAnswer:
    """good, doubtful, bad or open; why; inflow Pa·m³/s of all so far and of this stage's own parts."""

    verdict: str
    words: tuple[str, ...]
    total: Range | None = None
    own: Range | None = None


def inflow(stage: ProofStage, seen: StageReading, resolution: float) -> Range | None:
    """Throughput, Pa·m³/s, from a rise on the stage's own volume and what was added; None without a rise.

    Q = V·dp/dt. The range (90 %) carries the spread of the rig's own volume and one step (µ) of the gauge.
    """
    if seen.from_micron is None or seen.to_micron is None or seen.rise_s is None:
        return None
    volume = stage.closed + seen.added_l * 1e-3
    rate = (seen.to_micron - seen.from_micron) * MICRON_PA / seen.rise_s
    step = 0.68 * resolution * MICRON_PA / seen.rise_s
    spread = RIG_VOLUME_SPREAD * stage.closed / volume
    low = max(0.0, rate - step) * volume * (1.0 - spread)
    return Range(low, max(0.0, rate) * volume, max(0.0, rate + step) * volume * (1.0 + spread))


def reading_of(job: Job, stage: ProofStage) -> StageReading | None:
    """What was read of a stage, if it was this part that was read."""
    seen = job.prove.stages.get(stage.key)
    return seen if seen is not None and seen.part in ("", stage.mark) else None


def judge_stage(job: Job, index: int) -> StageAnswer:
    """Judge a stage of the sheet's rig from what was read of it."""
    stages = proof_stages(job)
    stage = stages[index]
    seen = reading_of(job, stage)
    if seen is None:
        gone = stage.key in job.prove.stages
        return StageAnswer("open", ("Another part stands here now: read it too.",) if gone else ())
    gauge = job.rig.gauge
    resolution = gauge.resolution_micron if gauge is not None else 25.0
    verdicts: list[str] = []
    words: list[str] = []
    if seen.settled_micron is not None:
        v, w = _running(job, stage, expected(job, index), seen, resolution)
        verdicts.append(v)
        words.append(w)
    total = inflow(stage, seen, resolution)
    own = None
    if total is not None:
        before = _before(job, stages, index, resolution)
        own = _less(total, before)
        if index > 0:
            v, w = _rising(stage, own, before is not None)
            verdicts.append(v)
            words.append(w)
        words += _tiny(job, stage, seen, total)
    rank = ("bad", "doubtful", "open", "good")
    return StageAnswer(min(verdicts, key=rank.index) if verdicts else "open", tuple(words), total, own)


def _running(job: Job, stage: ProofStage, e: Expected, seen: StageReading, resolution: float) -> tuple[str, str]:
    """The reading with the pump running, against what a good stage does by then."""
    p = seen.settled_micron or 0.0
    if not seen.running:
        return "open", "Read it with the pump running: stopped, the pump itself leaks back."
    after = seen.after_s if seen.after_s is not None else PUMPING
    good = e.at(min(after, PUMPING))
    high = good.high / MICRON_PA + 2 * resolution
    if p <= high * DOUBTFUL:
        return "good", f"{p:,.0f} µ: a good one does {good.low / MICRON_PA:.0f} to {high:,.0f} by then."
    if after < WAIT_S:
        return "open", f"{p:,.0f} µ after {after:.0f} s: the jump that its own air makes. It should fall; wait."
    speed = job.rig.pump.plate_cfm * CFM_M3_S
    more = (p - good.value / MICRON_PA) * MICRON_PA * speed
    tail = f"about {sci(more)} Pa·m³/s come in that should not."
    if p > high * BAD:
        return "bad", f"{p:,.0f} µ, where a good one stands under {high:,.0f}: {tail}"
    return "doubtful", f"{p:,.0f} µ, a little over the {high:,.0f} of a good one: {tail}"


def _rising(stage: ProofStage, own: Range, beside: bool) -> tuple[str, str]:
    """The rise as an inflow of this stage's parts, against what such parts let in."""
    less = "" if beside else " (with what was open before it: no rise was read there)"
    said = f"{sci(own.value)} Pa·m³/s{less}"
    limit = max(stage.own.high, TIGHT_PART.high)
    if own.value > BAD * limit and own.low > limit:
        return "bad", f"It lets in {said}, many times what such a part does ({sci(limit)} at the most)."
    if own.value > DOUBTFUL * limit:
        return "doubtful", f"It lets in {said}; such a part does {sci(limit)} at the most."
    return "good", f"It lets in {said}: no more than such a part does."


def sci(x: float) -> str:
    """A small figure in two places: 2.1e-4."""
    mantissa, _, power = f"{x:.1e}".partition("e")
    return f"{mantissa}e{int(power)}" if x > 0 else "0"


def _tiny(job: Job, stage: ProofStage, seen: StageReading, total: Range) -> list[str]:
    """Why a fast rise in a small volume may be nothing."""
    volume = stage.closed + seen.added_l * 1e-3
    rate = ((seen.to_micron or 0.0) - (seen.from_micron or 0.0)) / (seen.rise_s or 1.0)
    if volume >= TINY or rate < 0.3:
        return []
    system = build_system(job.scope).volume().value
    here = total.value / system / MICRON_PA
    small = f"only {volume * 1e6:.0f} ml are shut in"
    return [
        f"{rate:.1f} µ/s looks fast, but {small}: in this system's {system * 1e3:.1f} l it would be {here:.2f} µ/s."
    ]


def _before(job: Job, stages: tuple[ProofStage, ...], index: int, resolution: float) -> Range | None:
    """Inflow of what was open before this stage, from the last rise that was read.

    The pump's own coupling is brass: nothing comes through it that a hose's rise would show.
    """
    for stage in reversed(stages[:index]):
        seen = reading_of(job, stage)
        found = inflow(stage, seen, resolution) if seen is not None else None
        if found is not None:
            return found
    return Range(0.0, 0.0, 0.0) if index == 1 else None


def _less(total: Range, before: Range | None) -> Range:
    if before is None:
        return total
    return Range(
        max(0.0, total.low - before.high), max(0.0, total.value - before.value), max(0.0, total.high - before.low)
    )


def measured(job: Job) -> dict[str, Quantity]:
    """Inflow, Pa·m³/s, of hoses whose own rise was read, by part: what the plan takes instead of the catalogue's."""
    if not job.prove.stages:
        return {}
    stages = proof_stages(job)
    gauge = job.rig.gauge
    resolution = gauge.resolution_micron if gauge is not None else 25.0
    found: dict[str, Quantity] = {}
    for n, stage in enumerate(stages):
        seen = reading_of(job, stage)
        part = job.rig.get(stage.key)
        total = inflow(stage, seen, resolution) if seen is not None else None
        before = _before(job, stages, n, resolution)
        if total is not None and before is not None and part is not None and part.kind == "hose":
            own = _less(total, before)
            # Nothing at all is beyond what a rise can show: the least is a hundredth of what could be.
            value = max(own.value, own.low, 0.01 * own.high)
            found[stage.key] = Quantity(value, max(own.low, 0.3 * value), own.high, "Pa·m³/s", "read in the rig proof")
    return found
