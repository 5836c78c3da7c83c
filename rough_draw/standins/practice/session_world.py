"""What stands on a practice job, and its time: the rig that is on, what is shut, what is read as it goes on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from rough_draw.core.catalogue.breaking import WARMTH
from rough_draw.core.diagnosis.causes import causes
from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import OUTSIDE, Network, Tube
from rough_draw.core.engine.simulate import initial_state
from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.gas_state import State as Contents
from rough_draw.core.interlock.gas_state import before_the_draw
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.practice.own_causes import of_practice
from rough_draw.core.practice.scenario import Scenario, with_shut
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.steps import OnPart
from rough_draw.standins.practice.session_log import Done, Track
from rough_draw.standins.world import PUMP, Truth, World, gauge_of

GRID = 2.0
"""Seconds between readings: fixed, so that a session played again gives the same."""
PARTS_OWN = ("hose-leak", "dirty-hose", "seat", "core", "half-open")
"""Kinds of fault that belong to a hose or a tool, and leave with it."""
OPENING = 5e-3
"""Bore, m, of a port or a hose's end left open."""
SOFTER = 4.0
"""How much faster warmth drives gas out of oil and walls (estimate)."""


class SessionWorld(World):
    """A simulated world that a session changes: its rig, what came off, warmth. Time in s since its beginning."""

    def __init__(self, scenario: Scenario, van: Sequence[KitItem]) -> None:
        self.scenario = scenario
        self.van = tuple(van)
        hidden = scenario.hidden
        truth = Truth(
            unknowns=Unknowns(**hidden.unknowns),
            seed=hidden.seed,
            more=tuple((f.key, f.severity, f.at_s) for f in hidden.faults),
        )
        self.rigged = scenario.rigged
        self.told = scenario.sheet
        self.off: set[str] = set()
        self.taken_off: set[str] = set()
        self.warmed = False
        self.charged = False
        self.second = False
        self.ended = ""
        self.done: list[Done] = []
        self.track = Track()
        self.clock = 0.0
        super().__init__(scenario.true_job(), truth)
        self._put_on(scenario.sheet)

    # What stands there

    def _put_on(self, told: Job, leaves: frozenset[str] | None = None) -> None:
        """Take a sheet's rig on; the draw begins anew from the air. ``leaves``: faults of the pump or the gauge that
        go with what came off; None for the first rig.
        """
        self.told = told
        self.job = with_shut(told, self.still_shut())
        self.assembly = assemble(self.job, self.truth.unknowns, needs_pump=False)
        self.isolation = isolation(self.job, self.assembly)
        known = {c.key: c for c in [*causes(self.job, self.assembly), *of_practice(self.job, self.assembly)]}
        self._known = known
        self._coming = [(known[k], s, at) for k, s, at in self.truth.all() if k in known]
        if leaves is not None:
            # Other hoses and tools have not the faults of those that came off.
            gone = {k for k, _, _ in self.truth.all() if kind_of(k) in PARTS_OWN} | leaves
            self.taken_off |= gone - self.mended
            self.mended |= gone
        pool, sorbed = self._state.pool, self._state.sorbed
        self.pump_on, self.isolated, self.broken = False, False, False
        self.turned, self.off = {}, set()
        fresh = compile_network(self._network())
        made = initial_state(fresh.network)
        keeps = leaves is not None and made.pool.shape == pool.shape and made.sorbed.shape == sorbed.shape
        self._state = replace(made, pool=pool, sorbed=sorbed) if keeps else made
        self._compiled = fresh
        self.board: Board = make_board(self.job)
        self.contents: Contents = before_the_draw(self.board)
        self._shown = self.pressure(self.assembly.gauge_node)
        self._begin_others()
        self.gauge = gauge_of(told)

    def set_fault(self, key: str, severity: float | None) -> None:
        """Put something wrong from now on, or right again."""
        rest = tuple(x for x in self.truth.all() if x[0] != key)
        more = rest if severity is None else (*rest, (key, severity, self.time))
        self.truth = replace(self.truth, fault="", more=more)
        self.mended.discard(key)
        self._coming = [(self._known[k], s, at) for k, s, at in more if k in self._known]

    def still_shut(self) -> tuple[str, ...]:
        """Links that really are shut, and nobody has opened yet."""
        opened = {d.action for d in self.done}
        return tuple(n for n in self.scenario.hidden.shut if OnPart("open", f"system.{n}") not in opened)

    def _network(self) -> Network:
        net = super()._network()
        if self.warmed:
            pools = tuple(replace(p, heat_inflow=p.heat_inflow * WARMTH.value) for p in net.pools)
            sorbed = tuple(replace(s, tau=s.tau / SOFTER) for s in net.sorbed)
            net = replace(net, pools=pools, sorbed=sorbed)
        for part in sorted(self.off):
            room = self.board.ends[part]
            node = next(n.name for n in net.nodes if self.board.places.get(n.name) == room)
            net = replace(
                net, tubes=(*net.tubes, Tube(name=f"open.{part}", a=node, b=OUTSIDE, bore=OPENING, length=0.01))
            )
            for port, own in self.board.ports.items():
                if own == part and f"port:{port}" in self.board.sprung:
                    net = net.with_tube(f"{port}.port", open=False)
        return net

    def ways_shut(self) -> list[str]:
        """Valves of rig and system that stand shut, in words."""
        return [
            self.board.label(g.name)
            for g in self.board.gates.values()
            if g.name not in self.contents.opened and g.kind in ("valve", "section")
        ]

    # Time

    def advance(self, until: float) -> None:
        """Run on to the last whole `GRID` before ``until`` s, reading at each; the rest is kept on the clock.

        Only deeds end between two readings: how often somebody looked must not change how the time was cut up, or a
        session played again would differ in the last digits.
        """
        due = (self.time // GRID + 1.0) * GRID
        while due <= until:
            self._on(due)
            self._note(due)
            due += GRID
        self.clock = max(self.clock, until)

    def _wait_out(self, until: float) -> None:
        """Run on to ``until`` s exactly."""
        self.advance(until)
        self._on(until)
        self.clock = self.time

    def _on(self, until: float) -> None:
        if self.charged:
            self.time = max(self.time, until)
        else:
            super().advance(until)

    def _note(self, at: float) -> None:
        shown = None if self.charged or not self._has_gauge() else self.read()
        self.track.at.append(at)
        self.track.shown.append(float("nan") if shown is None else shown)
        self.track.true.append(float("nan") if self.charged else self.pressure(self.assembly.gauge_node))
        self.track.highest.append(float("nan") if self.charged else self.highest())
        if self.second and not self.charged:
            other = self.read(PUMP)
            if other is not None:
                self.track.second.append((at, other))

    def _has_gauge(self) -> bool:
        gauge = self.job.rig.gauge
        return self.rigged and gauge is not None and not ({gauge.id, gauge.on or ""} & self.off)

    def system_nodes(self) -> list[str]:
        """Nodes of what is to be evacuated."""
        return [f"system.{s.name}" for s in self.assembly.system.evacuated]

    def highest(self) -> float:
        """The highest true pressure anywhere in what is to be evacuated, Pa."""
        return max(self.pressure(n) for n in self.system_nodes())

    def worst_spot(self) -> str:
        """The section that stands highest, in words; nothing once charge is in."""
        if self.charged:
            return ""
        name = max(self.assembly.system.evacuated, key=lambda x: self.pressure(f"system.{x.name}")).name
        return self.assembly.system.labels.get(name, name)

    def water(self) -> list[float]:
        """Free water that is left in each pool, kg."""
        return [float(m) for m in self._state.pool[:, 0]]

    def shows(self) -> float | None:
        """The last reading, Pa; None over range or without a gauge."""
        last = self.track.shown[-1] if self.track.shown else float("nan")
        return None if np.isnan(last) else last
