"""What changes by the clock alone, nobody having asked: alarms that begin or end, gauges that fall silent."""

from __future__ import annotations

import asyncio
import logging

from rough_draw.api.alarms.watch import Alarms
from rough_draw.api.devices.hub import Hub

log = logging.getLogger("rough_draw.news")
LOOK_S = 2.0


class Watcher:
    """Looks while any page is open, and tells what has become different."""

    def __init__(self, hub: Hub, alarms: Alarms) -> None:
        self._hub = hub
        self._alarms = alarms
        self._rang: set[tuple[str, str, bool]] = set()
        self._stale: dict[str, bool] = {}

    async def run(self) -> None:
        """Until cancelled."""
        while True:
            await asyncio.sleep(LOOK_S)
            if not self._hub.listeners.any_page:
                continue
            try:
                await self._look()
            except Exception:
                # One look that fails keeps nobody from the next.
                log.exception("alarms could not be looked at")

    async def _look(self) -> None:
        found = await asyncio.to_thread(self._alarms.look, self._hub)
        rang = {(r.job, r.key, r.silenced) for r in found}
        if rang != self._rang:
            self._rang = rang
            self._hub.listeners.changed(group="alarms")
        stale = {link.key: link.stale for link in self._hub.links.values()}
        for key in stale.keys() | self._stale.keys():
            if stale.get(key) != self._stale.get(key):
                self._hub.listeners.changed(job=key)
        self._stale = stale
