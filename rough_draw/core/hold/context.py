"""What the sheet and the touches know of a hold beside its readings."""

from __future__ import annotations

from dataclasses import replace

from rough_draw.core.hold.result import Circumstances
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.gauge_sight import gauge_offset
from rough_draw.core.model.isolation import PUMPED, Isolation
from rough_draw.core.model.rise_rate import measured
from rough_draw.core.model.system import atmosphere_of
from rough_draw.core.physics.quantity import Quantity, add
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import RunState, Touch
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.steps import OnPart, OnRun

UNSURE = (0.35, 3.0)
"""Range of what a hose lets in, as factors of the catalogue's figure, where its own rise was not read."""
RAN = {"new-dry": 0.0, "open-hours": 0.6, "leak-drawn-air": 1.0, "compressor-burnt": 1.0, "flooded": 1.0}
"""Odds, against a system that ran, that refrigerant is left in the oil (estimate)."""
WET = {"new-dry": 0.5, "open-hours": 1.0, "leak-drawn-air": 1.5, "compressor-burnt": 1.5, "flooded": 3.0}
"""Odds of water, against a system that stood open for hours (estimate)."""


def hose_inflow(job: Job, held: Isolation, pumped: float = PUMPED) -> Quantity | None:
    """What the hoses that are held let in and give off, Pa·m³/s with its range; None where none is held.

    After ``pumped`` s: what rubber gives off falls within minutes. By their own rises in the rig proof where all were
    read, or else by the catalogue.
    """
    if not held.hoses or held.inflow(pumped) <= 0.0:
        return None
    read = measured(job)
    if all(h in read for h in held.hoses):
        return add([read[h] for h in held.hoses], "Pa·m³/s", "read in the rig proof")
    q = held.inflow(pumped)
    return Quantity(q, UNSURE[0] * q, UNSURE[1] * q, "Pa·m³/s", "estimate: by kind, age and length")


def likely_inside(scope: Scope) -> tuple[float, float]:
    """Odds of water and of refrigerant in the oil, against the usual, from why the system was open."""
    wet = WET[scope.condition]
    if scope.free_water_g:
        wet = max(wet, 3.0)
    return wet, RAN[scope.condition] if scope.oil_kg > 0 else 0.0


def _moves_a_valve(t: Touch) -> bool:
    return isinstance(t.step, OnPart) or t.step == OnRun("valve-flush")


def circumstances(
    job: Job,
    held: Isolation,
    state: RunState,
    touches: list[Touch],
    start: float,
    end: float,
    assembly: Assembly | None = None,
) -> Circumstances:
    """All of it for a hold from ``start`` to ``end`` (s, the touches' clock).

    With the ``assembly`` also how far the gauge stands above the system, at the standard's limit.
    """
    wet, ran = likely_inside(job.scope)
    pulled = state.pulled_at if state.pulled_at is not None else state.started_at
    turned = tuple(t.at - start for t in touches if start + 5.0 < t.at < end and _moves_a_valve(t))
    drawn = max(start - pulled, 60.0) if pulled is not None else None
    known = Circumstances(
        hose=hose_inflow(job, held, PUMPED if drawn is None else drawn),
        touches=turned[:4],
        ran=ran,
        wetness=wet,
        gauge_inside=held.gauge_inside or job.rig.gauge is None,
        atmosphere=atmosphere_of(job.scope),
    )
    if assembly is not None and job.rig.gauge is not None and held.gauge_inside:
        level = chosen(job.criterion).limit
        offset = gauge_offset(assembly, held, level, PUMPED if drawn is None else drawn)
        known = replace(known, offset=offset)
    return known if drawn is None else replace(known, drawn=drawn)
