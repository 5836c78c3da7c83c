"""A simulated world: the engine run with a hidden truth, obeying the touches made on the rig."""

from __future__ import annotations

import math
import random
from dataclasses import asdict, dataclass, field, replace
from typing import Protocol

import numpy as np

from rough_draw.core.catalogue.rig_parts import GAUGES
from rough_draw.core.diagnosis.causes import causes
from rough_draw.core.diagnosis.faults import Cause
from rough_draw.core.engine.compile import Compiled, compile_network
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.run import State
from rough_draw.core.engine.simulate import advance, initial_state
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.ensemble import FIELDS
from rough_draw.core.model.isolation import isolation, shut
from rough_draw.core.model.pump import pump_element, with_pump_oil
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.nitrogen_breaks import broken, way_of
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import GaugePart
from rough_draw.core.sheet.steps import OnPart, TakenBack, opposite, read_step
from rough_draw.standins.gauge import GaugeModel

PUMP = "pump"
SECOND = GaugeModel()
"""The second gauge, screwed on at the pump."""
JUMP = 0.25
"""How far a gauge with bubbles at its joint jumps about, as a log of pressure (made up)."""


@dataclass(frozen=True, kw_only=True)
class Truth:
    """What the plan does not know: the unknowns as they really are, and a seed for the gauge's scatter.

    ``fault``: the key of a cause that is at work from ``fault_at`` s on, with its ``severity`` as a normal deviate.
    ``more``: further causes, each as (key, severity, from when).
    """

    unknowns: Unknowns = field(default_factory=Unknowns)
    seed: int = 1
    fault: str = ""
    severity: float = 0.0
    fault_at: float = 0.0
    more: tuple[tuple[str, float, float], ...] = ()

    def all(self) -> tuple[tuple[str, float, float], ...]:
        """Every cause at work: key, severity, from when (s)."""
        return ((self.fault, self.severity, self.fault_at), *self.more) if self.fault else self.more

    def as_dict(self) -> dict[str, object]:
        """Plain values, for keeping beside the job."""
        return asdict(self)

    @staticmethod
    def from_dict(values: dict[str, object]) -> Truth:
        """Inverse of `as_dict`; raises TypeError for fields that are not known."""
        unknowns = values.get("unknowns") or {}
        seed = values.get("seed", 1)
        if not isinstance(unknowns, dict) or not isinstance(seed, int):
            raise TypeError("truth needs 'unknowns' (an object) and 'seed' (a whole number)")
        more = values.get("more") or ()
        rest = {k: v for k, v in values.items() if k not in ("unknowns", "seed", "more")}
        found = tuple(tuple(x) for x in more)  # type: ignore[attr-defined]
        return Truth(unknowns=Unknowns(**unknowns), seed=seed, more=found, **rest)  # type: ignore[arg-type]


def random_truth(seed: int) -> Truth:
    """A truth within the ranges of the plan, the same for the same seed."""
    rng = random.Random(seed)
    return Truth(unknowns=Unknowns(**{n: max(-1.6, min(1.6, rng.gauss(0, 0.8))) for n in FIELDS}), seed=seed)


def gauge_of(job: Job) -> GaugeModel:
    """The sheet's gauge; without a micron gauge the needle of a dial is what there is to read."""
    gauge = job.rig.gauge
    if gauge is None:
        return GaugeModel(760_000.0, 7_600.0, 0.0, 1.0)
    return model_of(gauge)


def model_of(gauge: GaugePart) -> GaugeModel:
    """A gauge of a sheet as it shows things."""
    return GaugeModel(gauge.over_micron, gauge.resolution_micron, gauge.noise_pct, GAUGES[gauge.make].lag_s.value)


class Playable(Protocol):
    """A simulated world that a gauge reads: it runs on, obeys touches, and shows a figure. Time in s."""

    time: float
    truth: Truth

    def advance(self, until: float) -> None:
        """Run on to ``until`` s."""

    def touch(self, kind: str) -> None:
        """Obey a touch; kinds without a physical effect change nothing."""

    def read(self, at: str = "") -> float | None:
        """What the gauge shows, Pa; None when it is over range. ``at``: a second one, at the pump."""


def _turned(kind: str) -> OnPart | None:
    """A step that leaves a valve open or closed; a crack does not."""
    step = read_step(kind)
    return step if isinstance(step, OnPart) and step.move in ("open", "shut") else None


class World:
    """One rig on one system, from standing open at the atmosphere. Time in s since it was made."""

    def __init__(self, job: Job, truth: Truth) -> None:
        self.job = job
        self.truth = truth
        self.assembly = assemble(job, truth.unknowns)
        self.isolation = isolation(job, self.assembly)
        self.pump_on = False
        self.ballast = False
        self.isolated = False
        self.broken = False
        self.gauge = gauge_of(job)
        self._rng = random.Random(truth.seed)
        self.turned: dict[str, bool] = {}
        known = {c.key: c for c in causes(job, self.assembly)}
        self.faults = tuple(k for k in known if k != "none")
        self.cause = known.get(truth.fault)
        self.mended: set[str] = set()
        self._coming = [(known[k], severity, at) for k, severity, at in truth.all() if k in known]
        self.time = 0.0
        self._compiled: Compiled = self._compile()
        self._state: State = initial_state(self._compiled.network)
        self._shown = self.pressure(self.assembly.gauge_node)
        self._begin_others()

    def _begin_others(self) -> None:
        """Further gauges, one held to the pump among them: what each shows now, by its id."""
        self.others = {PUMP: SECOND, **{g.id: model_of(g) for g in self.job.rig.gauges[1:]}}
        self._nodes = {g: PUMP if g == PUMP else self.assembly.gauges[g] for g in self.others}
        self._others = {g: self.pressure(node) for g, node in self._nodes.items()}

    def at_work(self) -> list[tuple[Cause, float]]:
        """Causes at work now, with their severities."""
        return [(c, s) for c, s, at in self._coming if at <= self.time and c.key not in self.mended]

    def _compile(self) -> Compiled:
        return compile_network(self._network())

    def _network(self) -> Network:
        pump = pump_element(self.job, self.truth.unknowns, self.ballast, self.pump_on)
        net = with_pump_oil(replace(self.assembly.network, pumps=(pump,)), self.ballast)
        for cause, severity in self.at_work():
            if cause.apply is not None:
                net = cause.apply(net, severity)
        net = shut(net, self.isolation.tubes, is_open=not self.isolated) if self.isolated else net
        for tube, is_open in self.turned.items():
            net = shut(net, (tube,), is_open=is_open)
        if self.broken:
            net = broken(net, way_of(self.job, self.assembly))
        return net

    def touch(self, kind: str) -> None:
        """Obey a touch; kinds without a physical effect change nothing. What is taken back is turned back."""
        if isinstance(step := read_step(kind), TakenBack):
            self.touch(opposite(step.text) or "")
            return
        if kind in ("pump-on", "pump-off"):
            self.pump_on = kind == "pump-on"
        elif kind in ("ballast-open", "ballast-shut"):
            self.ballast = kind == "ballast-open"
        elif kind in ("break", "break-end"):
            self.broken = kind == "break"
        elif kind in ("isolate", "reopen", "check-hold", "check-end"):
            self.isolated = kind in ("isolate", "check-hold")
            if not self.isolated:
                # Valves that were shut one by one are opened with the rest.
                for tube in self.isolation.tubes:
                    self.turned.pop(tube, None)
        elif (
            isinstance(step := read_step(kind), OnPart)
            and step.move in ("open", "shut")
            and step.part in self.assembly.valves
        ):
            tube = self.assembly.valves[step.part].tube
            # Service valves to what keeps its charge are no passage of what is evacuated.
            if all(t.name != tube for t in self.assembly.network.tubes):
                return
            self.turned[tube] = step.move == "open"
        else:
            return
        self._again()

    def _again(self) -> None:
        """Compile what stands now; the stepper begins with a short step after any change."""
        self._state = replace(self._state, step=1e-3)
        self._compiled = self._compile()

    def turn(self, tubes: tuple[str, ...], is_open: bool) -> None:
        """Turn valves by the names of their tubes."""
        self.turned.update(dict.fromkeys(tubes, is_open))
        self._again()

    def advance(self, until: float) -> None:
        """Run on to ``until`` s."""
        if until <= self.time:
            return
        for at in sorted({at for _, _, at in self._coming if self.time < at <= until}):
            self._go(at)
            self._again()
        self._go(until)

    def _go(self, until: float) -> None:
        if until <= self.time:
            return
        run = advance(self._compiled, replace(self._state, time=self.time), until, rtol=2e-3)
        node = self.assembly.gauge_node
        steps = np.diff(run.time)
        for p, dt in zip(run.total(node)[1:], steps, strict=True):
            self._shown = self.gauge.follow(self._shown, float(p), float(dt))
        for g, model in self.others.items():
            for p, dt in zip(run.total(self._nodes[g])[1:], steps, strict=True):
                self._others[g] = model.follow(self._others[g], float(p), float(dt))
        self._state = run.final
        self.time = until

    def pressure(self, node: str) -> float:
        """True total pressure, Pa, at a node."""
        i = self.assembly.network.index(node)
        return float(np.maximum(self._state.gas[i] * self._compiled.volumes.per_amount[i], 0.0).sum())

    def exhaust(self) -> float:
        """What the pump sends out now, Pa·m³/s."""
        pump = self._compiled.network.pumps[0]
        over = self.pressure(pump.node) - pump.ultimate - pump.ultimate_water
        return pump.speed * max(0.0, over) if pump.running else 0.0

    def read(self, at: str = "") -> float | None:
        """What the gauge shows, Pa; None when it is over range.

        ``at`` "pump": a second gauge there, in good order; or the id of another gauge of the rig.
        """
        if at in self.others:
            return self.others[at].shows(self._others[at], self._rng.gauss(0.0, 1.0))
        offset, jump = 0.0, 1.0
        for cause, severity in self.at_work():
            if cause.offset is not None:
                offset += cause.offset(severity) * MICRON_PA
            if cause.scatters:
                jump *= math.exp(JUMP * self._rng.gauss(0.0, 1.0) * 2.0**severity)
        return self.gauge.shows((self._shown + offset) * jump, self._rng.gauss(0.0, 1.0))
