"""The pump of a sheet as an element of the network."""

from __future__ import annotations

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.catalogue.proving import GOOD_BLANK_OFF
from rough_draw.core.engine.network import Pump
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import CFM_M3_S, MICRON_PA
from rough_draw.core.sheet.job import Job


def ultimate_of(micron: float) -> Quantity:
    """A measured blank-off as a quantity, Pa: what a good pump did once it does again; a weak one wanders.

    Estimate: warm oil, water on its way through it and worn vanes move a weak pump's end pressure by half and more.
    """
    pa = micron * MICRON_PA
    if pa <= GOOD_BLANK_OFF.value:
        return Quantity(pa, pa, pa, "Pa", "measured on this pump")
    return Quantity(pa, 0.8 * pa, 1.6 * pa, "Pa", "estimate: measured, of a weak pump")


def pump_element(job: Job, unknown: Unknowns, ballast: bool = False, running: bool = True) -> Pump:
    """The pump of the sheet as an element at node ``pump``.

    A measured blank-off overrides the plate; ballast open raises the ultimate; wet oil gives water back.
    """
    pump = job.rig.pump
    measured = pump.blank_off_micron is not None
    plate = cat.PUMP_ULTIMATE if pump.stages == 2 else cat.PUMP_ULTIMATE_SINGLE
    whole = ultimate_of(float(pump.blank_off_micron or 1.0)) if measured else plate
    ultimate = whole.quantile(unknown.pump)
    vapour = cat.OIL_WATER[pump.oil].quantile(0.0 if measured else unknown.pump)
    air = max(0.5 * MICRON_PA, ultimate - vapour) if measured else ultimate
    if ballast:
        air += cat.BALLAST_ULTIMATE.quantile(unknown.pump)
    speed = pump.plate_cfm * CFM_M3_S * cat.PUMP_SPEED_SHARE.quantile(-unknown.pump)
    return Pump(
        node="pump",
        speed=speed,
        ultimate=air,
        ultimate_water=min(vapour, ultimate) if measured else vapour,
        running=running,
    )
