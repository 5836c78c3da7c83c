"""The rise of a stage of the rig proof as an inflow: of all so far, and of what the stage brought in.

A rise alone says nothing: in twenty millilitres a leak that no system would feel runs up hundreds of microns a minute.
Times the volume it is a throughput, and that can be carried over to the system.
"""

from __future__ import annotations

from rough_draw.core.catalogue.proving import RIG_VOLUME_SPREAD
from rough_draw.core.model.proof_network import ProofStage, proof_stages
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.evidence import StageReading
from rough_draw.core.sheet.job import Job


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


def inflow_before(job: Job, stages: tuple[ProofStage, ...], index: int, resolution: float) -> Range | None:
    """Inflow of what was open before this stage, from the last rise that was read.

    The pump's own coupling is brass: nothing comes through it that a hose's rise would show.
    """
    for stage in reversed(stages[:index]):
        seen = reading_of(job, stage)
        found = inflow(stage, seen, resolution) if seen is not None else None
        if found is not None:
            return found
    return Range(0.0, 0.0, 0.0) if index == 1 else None


def less(total: Range, before: Range | None) -> Range:
    """What is left of an inflow once what was open before is taken off."""
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
        earlier = inflow_before(job, stages, n, resolution)
        if total is not None and earlier is not None and part is not None and part.kind == "hose":
            own = less(total, earlier)
            # Nothing at all is beyond what a rise can show: the least is a hundredth of what could be.
            value = max(own.value, own.low, 0.01 * own.high)
            found[stage.key] = Quantity(value, max(own.low, 0.3 * value), own.high, "Pa·m³/s", "read in the rig proof")
    return found
