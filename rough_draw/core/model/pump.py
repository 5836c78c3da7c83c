"""The pump of a sheet as an element of the network."""

from __future__ import annotations

from dataclasses import replace

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.catalogue.proving import GOOD_BLANK_OFF
from rough_draw.core.engine.network import Gas, Network, Pump, Sorbed
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import CFM_M3_S, MICRON_PA
from rough_draw.core.sheet.job import Job

PUMP_OIL = "pump oil"


def ultimate_of(micron: float) -> Quantity:
    """A measured blank-off as a quantity, Pa: what a good pump did once it does again; a weak one wanders.

    Estimate: warm oil, water on its way through it and worn vanes move a weak pump's end pressure by half and more.
    """
    pa = micron * MICRON_PA
    if pa <= GOOD_BLANK_OFF.value:
        return Quantity(pa, pa, pa, "Pa", "measured on this pump")
    return Quantity(pa, 0.8 * pa, 1.6 * pa, "Pa", "estimate: measured, of a weak pump")


def pump_element(job: Job, unknown: Unknowns, ballast: bool = False, running: bool = True, on_job: bool = True) -> Pump:
    """The pump of the sheet as an element at node ``pump``.

    A measured blank-off overrides the plate; ``on_job`` it does not quite reach it; ballast open raises the ultimate;
    wet oil gives water back.
    """
    pump = job.rig.pump
    measured = pump.blank_off_micron is not None
    plate = cat.PUMP_ULTIMATE if pump.stages == 2 else cat.PUMP_ULTIMATE_SINGLE
    whole = ultimate_of(float(pump.blank_off_micron or 1.0)) if measured else plate
    ultimate = whole.quantile(unknown.pump)
    vapour = cat.OIL_WATER[pump.oil].quantile(0.0 if measured else unknown.pump)
    air = max(0.5 * MICRON_PA, ultimate - vapour) if measured else ultimate
    if on_job:
        air += (cat.JOB_RISE_MEASURED if measured else cat.JOB_RISE).quantile(unknown.pump)
    if ballast:
        air += cat.BALLAST_ULTIMATE.quantile(unknown.pump)
    speed = pump.plate_cfm * CFM_M3_S * cat.PUMP_SPEED_SHARE.quantile(-unknown.speed)
    return Pump(
        node="pump",
        speed=speed,
        ultimate=air,
        ultimate_water=min(vapour, ultimate) if measured else vapour,
        running=running,
    )


def pump_oil(pump: Pump, ballast: bool = False) -> Sorbed:
    """Water that the pump's oil takes up from what passes, by Henry's law, and gives back once the vapour falls.

    What was in it at the start is in the pump's ultimate already. With the ballast open little gets in.
    """
    share = cat.BALLAST_KEEPS_OUT if ballast else 1.0
    return Sorbed(
        node=pump.node,
        gas=Gas.WATER,
        mass=0.0,
        tau=cat.PUMP_OIL_TAU.value,
        capacity=cat.PUMP_OIL_HOLDS.value * share,
        name=PUMP_OIL,
    )


def with_pump_oil(net: Network, ballast: bool) -> Network:
    """The network with its pump's oil as the ballast leaves it: open, little gets in."""
    oils = {p.node: pump_oil(p, ballast) for p in net.pumps}
    return replace(net, sorbed=tuple(oils[s.node] if s.name == PUMP_OIL else s for s in net.sorbed))
