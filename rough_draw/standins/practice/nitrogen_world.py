"""A practice world that dry nitrogen is let into: a test under pressure, a sweep, and what both leave behind.

The minutes that they take pass as any other's, before: what the nitrogen itself does is one change at their end.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from rough_draw.core.engine.kernels import pool_heat
from rough_draw.core.engine.network import Gas
from rough_draw.core.message import Message, Name, listed, message
from rough_draw.core.message.figure import gauge_pressure
from rough_draw.core.model.system import ScopeError
from rough_draw.core.planning.nitrogen_breaks import way_of
from rough_draw.core.practice.nitrogen import STAND_MINUTES, SWEPT_LEAVES, Sweep, dried, sweep_of
from rough_draw.core.proving.foretold_test import pressure_test, wanted
from rough_draw.core.sheet.job import Job
from rough_draw.standins.practice.session_log import CannotDo
from rough_draw.standins.practice.session_world import SessionWorld


class NitrogenWorld(SessionWorld):
    """A session's world, with nitrogen at hand."""

    _ways: tuple[tuple[Job, tuple[str, ...]], Sweep] | None = None
    """What a sweep of the rig as it stood was found to be: searched for once."""

    def test_pa(self) -> float:
        """Absolute pressure, Pa, of a tightness test here."""
        return self._compiled.network.atmosphere + 1e3 * wanted(self.told.prove)

    def press(self) -> Message:
        """Put what the ports reach under test pressure, watch it, let it down; what the gauge and the soap showed."""
        net = self._network()
        inside = net.connected(way_of(self.job, self.assembly).node)
        scope, prove = self.told.scope, self.told.prove
        found = pressure_test(net, inside, wanted(prove), scope.ambient_c, prove.test_step_kpa, STAND_MINUTES)
        # Let down again, what was vapour is thinned by as much as was put on.
        self._nitrogen_in(inside, net.atmosphere / self.test_pa())
        start, end = (gauge_pressure(1e3 * (x or 0.0)) for x in (found.seen.start_kpa, found.seen.end_kpa))
        places = [self._place(x.node) for x in found.bubbles]
        bubbles = (
            message("shows-bubbles", places=listed(list(dict.fromkeys(places))))
            if places
            else message("shows-no-bubbles")
        )
        return message(
            "shows-pressed", start=start, end=end, says=found.says.words, bubbles=bubbles, minutes=round(STAND_MINUTES)
        )

    def sweep(self) -> Sweep:
        """The ways that nitrogen takes through the rig as it stands. Raises CannotDo where it is in pieces."""
        now = (self.told, self.still_shut())
        if self._ways is None or self._ways[0][0] is not now[0] or self._ways[0][1] != now[1]:
            try:
                self._ways = (now, sweep_of(*now))
            except ScopeError as e:
                raise CannotDo(e.told) from None
        return self._ways[1]

    def sweep_through(self) -> Message:
        """Send nitrogen each way in turn: gases go, water that lies there dries off as far as the flow can hold it."""
        net, way = self._network(), self.sweep()
        passed = frozenset(n.name for n in net.nodes if n.name in way.passed)
        self._nitrogen_in(passed, SWEPT_LEAVES)
        temperature = {n.name: n.temperature for n in net.nodes}
        warm = [temperature[p.node] for p in net.pools]
        left = dried(net.pools, [float(m) for m in self._state.pool[:, 0]], warm, way)
        heat = [pool_heat(m, t, p.metal) for m, t, p in zip(left, warm, net.pools, strict=True)]
        pool = np.array([*zip(left, heat, strict=True)], dtype=float).reshape(len(net.pools), 2)
        self._state = replace(self._state, pool=pool)
        missed = [self._place(n) for n in way.left_out if n.startswith("system.")]
        return message("shows-swept-but", places=listed(missed)) if missed else message("shows-swept")

    def _nitrogen_in(self, inside: frozenset[str], leaves: float) -> None:
        """Dry gas at the air's pressure in some nodes; ``leaves``: the share of other gases that stays."""
        net = self._compiled.network
        gas = self._state.gas.copy()
        for i, n in enumerate(net.nodes):
            if n.name in inside:
                per = self._compiled.volumes.per_amount[i]
                gas[i] *= leaves
                gas[i, Gas.AIR] = max(0.0, net.atmosphere / per - gas[i, Gas.WATER] - gas[i, Gas.REFRIGERANT])
        self._state = replace(self._state, gas=gas, step=1e-3)

    def _place(self, node: str) -> Name:
        """A node in words: a section by its name, what is on a part by the part's."""
        if node.startswith("system."):
            section = node.removeprefix("system.")
            return self.assembly.system.labels.get(section, section)
        where = next((c.where for c, _ in self.at_work() if c.place and node.startswith(c.place) and c.where), "")
        return where or message("shows-on-rig")
