"""A simulated proof of a rig: pump, gauge and what has been opened so far, with hidden faults in its parts."""

from __future__ import annotations

import random
from dataclasses import replace

import numpy as np

from rough_draw.core.catalogue.rig_parts import GAUGES
from rough_draw.core.engine.compile import Compiled, compile_network
from rough_draw.core.engine.run import State
from rough_draw.core.engine.simulate import advance, initial_state
from rough_draw.core.model.proof_network import GAUGE_NODE, network_of, proof_stages
from rough_draw.core.physics.units import ATMOSPHERE_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.steps import BenchStage, OnBench, read_bench_step
from rough_draw.standins.gauge import GaugeModel
from rough_draw.standins.world import Truth

FAULTY = 0.35
"""Share of rigs in which one hose is bad."""


def hidden_faults(job: Job, seed: int) -> dict[str, float]:
    """Air, Pa·m³/s, that a part of the rig lets in beside what it should: in some rigs one hose, old ones first."""
    rng = random.Random(seed)
    hoses = [p for p in job.rig.parts if p.kind == "hose" and any(p.id == s.key for s in proof_stages(job))]
    if not hoses or rng.random() > FAULTY:
        return {}
    old = [h for h in hoses if getattr(h, "age", "") == "old"] or hoses
    return {rng.choice(old).id: 10 ** rng.uniform(-2.9, -2.3)}


class BenchWorld:
    """The rig on the bench, from standing open at the atmosphere. Time in s since it was made."""

    def __init__(self, job: Job, truth: Truth) -> None:
        self.job = job
        self.truth = truth
        self.bad = hidden_faults(job, truth.seed)
        self.pump_on = False
        self.valve_open = True
        self.stage = 0
        gauge = job.rig.gauge
        self.gauge = (
            GaugeModel(gauge.over_micron, gauge.resolution_micron, gauge.noise_pct, GAUGES[gauge.make].lag_s.value)
            if gauge is not None
            else GaugeModel(100_000.0, 5.0, 0.5, 1.0)
        )
        self._rng = random.Random(truth.seed)
        self.time = 0.0
        self._pressures: dict[str, tuple[float, float, float]] = {}
        self._compiled, self._state = self._made()
        self._shown = ATMOSPHERE_PA

    def _made(self) -> tuple[Compiled, State]:
        net = network_of(self.job, self.stage, self.truth.unknowns, self.bad)
        net = net.with_tube("pump.intake", open=self.valve_open)
        net = replace(net.with_pump(running=self.pump_on), initial=self._pressures)
        return compile_network(net), replace(initial_state(net), time=self.time)

    def touch(self, kind: str) -> None:
        """Obey a touch of the bench: the pump, its valve, or ``stage:<key>``."""
        match read_bench_step(kind):
            case OnBench("pump-on" | "pump-off" as way):
                self.pump_on = way == "pump-on"
            case OnBench(way):
                self.valve_open = way == "valve-open"
            case BenchStage(stage) if stage in (keys := [s.key for s in proof_stages(self.job)]):
                self.stage, self.valve_open = keys.index(stage), True
            case _:
                return
        net = self._compiled.network
        gas = self._state.gas
        self._pressures = {
            n.name: tuple(float(max(x, 0.0)) for x in gas[i] * self._compiled.volumes.per_amount[i])  # type: ignore[misc]
            for i, n in enumerate(net.nodes)
        }
        self._compiled, self._state = self._made()

    def advance(self, until: float) -> None:
        """Run on to ``until`` s."""
        if until <= self.time:
            return
        run = advance(self._compiled, replace(self._state, time=self.time), until, rtol=2e-3)
        for a, b, p in zip(run.time[:-1], run.time[1:], run.total(GAUGE_NODE)[1:], strict=True):
            self._shown = self.gauge.follow(self._shown, float(p), float(b - a))
        self._state = run.final
        self.time = until

    def pressure(self) -> float:
        """True total pressure, Pa, at the gauge."""
        i = self._compiled.network.index(GAUGE_NODE)
        return float(np.maximum(self._state.gas[i] * self._compiled.volumes.per_amount[i], 0.0).sum())

    def read(self, at: str = "") -> float | None:
        """What the gauge shows, Pa; None when it is over range."""
        return self.gauge.shows(self._shown, self._rng.gauss(0.0, 1.0))
