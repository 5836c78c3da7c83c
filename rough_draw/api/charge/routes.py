"""Charging: the scale, what is in, when to stop; and the running readings."""

from __future__ import annotations

import time

from fastapi import APIRouter

from rough_draw.api import runs
from rough_draw.api.charge.conversion import charging_of, runnings_of
from rough_draw.api.charge.schemas import ChargingOut, RunningsOut, ScaleIn, ScaleTouch
from rough_draw.api.deps import HubDep, Key
from rough_draw.api.devices.scale_driver import scale_name
from rough_draw.api.pace import must_be_offered
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.sheet.run_state import Touch
from rough_draw.standins.gauge_server import SPEEDS
from rough_draw.standins.scale import ScaleTruth
from rough_draw.store import jobs

router = APIRouter(tags=["charge"])


@router.get("/jobs/{key}/charging")
def charging(key: Key, hub: HubDep) -> ChargingOut:
    """Where the charge stands: what is in, how fast it goes, when to stop."""
    return charging_of(key, runs.view(key), hub)


@router.post("/jobs/{key}/scale")
async def attach_scale(key: Key, body: ScaleIn, hub: HubDep) -> ChargingOut:
    """Put a cylinder on the simulated scale, or change its pace."""
    must_be_offered(body.speed, SPEEDS)
    run = runs.view(key)
    jobs.must_be_open(key)
    charge = charge_to_weigh(run.job.scope)
    wanted = charge.to_weigh if charge is not None else 3.0
    full = run.job.release.cylinder_full_kg or max(10.0, 1.5 * wanted)
    truth = ScaleTruth(
        tare=run.job.release.cylinder_tare_kg or 7.2, full=full, inside=0.94 * full, takes=0.93 * wanted, seed=len(key)
    )
    hub.attach_scale(key, truth, body.speed)
    return charging_of(key, run, hub)


@router.delete("/jobs/{key}/scale")
async def detach_scale(key: Key, hub: HubDep) -> ChargingOut:
    """Take the scale off."""
    await hub.detach_scale(key)
    return charging_of(key, runs.view(key), hub)


@router.post("/jobs/{key}/scale/touches", status_code=201)
async def touch_scale(key: Key, body: ScaleTouch, hub: HubDep) -> ChargingOut:
    """Log a touch at the cylinder or the unit; a simulated scale obeys it."""
    link = hub.links.get(scale_name(key))
    at = await link.touch("tare" if body.kind == "scale-zero" else body.kind) if link is not None else None
    touch = Touch(body.kind, at if at is not None else hub.clock(key) or time.time())
    jobs.add_touch(key, touch.kind, touch.at)
    hub.listeners.tell(key, {"kind": "touch", "touch": touch.kind, "at": touch.at})
    return charging_of(key, runs.view(key), hub)


@router.get("/jobs/{key}/running")
def running(key: Key) -> RunningsOut:
    """Superheat and subcooling of the readings on the sheet, against the usual."""
    return runnings_of(jobs.get(key).job)
