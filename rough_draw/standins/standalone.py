"""Simulated gauges of one job by themselves, for any program that speaks their line protocol."""

from __future__ import annotations

import asyncio
import time

from rough_draw.standins.gauge_server import GaugeServer, RunningWorld
from rough_draw.standins.world import World


async def serve(world: World, name: str, port: int, speed: int) -> None:
    """Serve a world on a port of the loopback until it is cancelled. Raises OSError if the port is taken."""
    server = GaugeServer()
    now = time.time()
    gauge = world.job.rig.gauge.name if world.job.rig.gauge else ""
    server.worlds[name] = RunningWorld(
        world=world, start_at=now, base_at=now, speed=float(speed), name=gauge or "Gauge 1"
    )
    await server.start(port)
    print(f"gauge '{name}' on 127.0.0.1:{server.port}, time ×{speed}  (stop with Ctrl-C)", flush=True)
    print(f'say {{"open": "{name}"}}, then {{"touch": "pump-on"}}; "at": "pump" is a second gauge', flush=True)
    await asyncio.Event().wait()
