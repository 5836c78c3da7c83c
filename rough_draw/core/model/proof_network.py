"""Proving the rig before the system: the gauge on the pump, one hose at a time, and what each should do.

Every stage is a small network of its own, built from the same walk over the rig as the plan: the pump, its gauge and
what has been opened so far, with everything beyond shut or capped.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.catalogue.rig_parts import GAUGES, TEE_VOLUME
from rough_draw.core.engine.network import Leak, Network
from rough_draw.core.engine.simulate import run
from rough_draw.core.message import Message, message
from rough_draw.core.model.proof_order import Opened, hoses_opened, tools_opened
from rough_draw.core.model.pump import pump_element
from rough_draw.core.model.rig_graph import RigBuilder, Unknowns
from rough_draw.core.model.system import SystemModel, build_system
from rough_draw.core.physics.interval import Range
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart, ManifoldPart, Rig
from rough_draw.core.sheet.scope import Scope

FloatArray = NDArray[np.float64]

PUMPING = 180.0
"""Seconds for which a stage is computed ahead: by then a good hose has settled."""
GAUGE_NODE = "intake"
EDGES = (-1.28, 0.0, 1.28)


@dataclass(frozen=True, kw_only=True)
class ProofStage:
    """One stage: the part it is about, what to do, all parts open by then, their own volume m³.

    ``passing``: what the hoses so far let in and give off, Pa·m³/s, 10 %, best guess, 90 %; ``own``: this stage's
    share. ``shuts``: whether the pump has a valve to shut for the rise. ``mark`` tells the part from another of its id.
    ``optional``: whether the rig counts as proved without it.
    """

    key: str
    short: Message
    title: Message
    do: Message
    parts: tuple[str, ...]
    volume: float
    passing: Range
    own: Range
    shuts: bool
    mark: str
    optional: bool = False

    @property
    def closed(self) -> float:
        """Volume, m³, that is left with the gauge once the pump's valve is shut."""
        return max(self.volume - TEE_VOLUME.value, 1e-6)


@dataclass(frozen=True)
class Expected:
    """What the gauge on the pump should do once a stage is opened: times s, Pa; rows 10 %, best guess, 90 %."""

    times: FloatArray
    band: FloatArray

    @property
    def settled(self) -> Range:
        """Where it should stand after `PUMPING` s."""
        low, mid, high = (float(x) for x in self.band[:, -1])
        return Range(low, mid, high)

    def at(self, seconds: float) -> Range:
        """The band at a time since the stage was opened."""
        low, mid, high = (float(np.interp(seconds, self.times, row)) for row in self.band)
        return Range(low, mid, high)


def proof_stages(job: Job) -> tuple[ProofStage, ...]:
    """The stages of a rig in the order in which they are opened: the pump alone first."""
    return _stages(job.scope, job.rig)


@lru_cache(maxsize=64)
def _stages(scope: Scope, rig: Rig) -> tuple[ProofStage, ...]:
    job = Job(scope=scope, rig=rig)
    system = build_system(scope)
    builds = [_built(job, system, Unknowns(hose=z)) for z in EDGES]
    found: list[ProofStage] = []
    hoses = hoses_opened(rig, scope)
    open_parts: list[str] = [rig.pump.id]
    before = Range(0.0, 0.0, 0.0)
    for opened in [
        Opened("pump", message("stage-blank-off"), None, message("stage-blank-off.do"), []),
        *hoses,
        *tools_opened(rig, scope, frozenset(p for o in hoses for p in o.parts)),
    ]:
        open_parts += opened.parts
        names = frozenset(open_parts)
        flows = sorted(_passing(_network(job, b, names)) for b in builds)
        total = Range(flows[0], flows[1], flows[2])
        own = Range(*(max(0.0, a - b) for a, b in zip(flows, (before.low, before.value, before.high), strict=True)))
        volume = _network(job, builds[1], names).volume()
        found.append(
            ProofStage(
                key=opened.key,
                short=opened.short,
                title=message("stage-of", stage=opened.short, part=opened.of) if opened.of else opened.short,
                do=opened.do,
                parts=tuple(open_parts),
                volume=volume,
                passing=total,
                own=own,
                shuts=rig.pump.valve,
                mark=mark_of(rig, opened.key),
                optional=opened.optional,
            )
        )
        before = total
    return tuple(found)


def mark_of(rig: Rig, key: str) -> str:
    """What tells a part from another that may stand in its place: its number in the kit, or what it is."""
    part = rig.pump if key == "pump" else rig.get(key)
    if part is None:
        return ""
    if part.kit is not None:
        return f"kit {part.kit}"
    if isinstance(part, HosePart):
        return f"{part.size} {part.length_m:g} {part.made_for} {part.age}"
    return f"{part.kind} {getattr(part, 'body', '') or getattr(part, 'plate_cfm', '')}".strip()


def _built(job: Job, system: SystemModel, unknown: Unknowns) -> RigBuilder:
    b = RigBuilder(job, unknown, system)
    b.walk()
    return b


def _network(job: Job, b: RigBuilder, parts: frozenset[str], bad: tuple[Leak, ...] = ()) -> Network:
    """What is open to the pump at a stage. Past a hose's far end everything is shut."""
    rig = job.rig

    def inside(name: str) -> bool:
        owner, _, place = name.partition(".")
        if owner == "intake" or owner == "pump":
            return True
        if owner not in parts:
            return False
        part = rig.get(owner)
        if isinstance(part, HosePart):
            return not (place == "end" and part.ball_end)
        if isinstance(part, ManifoldPart) and place:
            return any(c.at == place and c.id in parts for c in rig.children(owner))
        return True

    nodes = tuple(n for n in b.nodes if inside(n.name))
    names = {n.name for n in nodes}
    tubes = tuple(replace(t, open=True) for t in b.tubes if t.a in names and t.b in names)
    return Network(
        nodes=nodes,
        tubes=tubes,
        pumps=(pump_element(job, b.u, on_job=False),),
        leaks=tuple(x for x in (*b.leaks, *bad) if x.node in names),
        outgassing=tuple(o for o in b.outgassing if o.node in names),
        atmosphere=b.system.atmosphere,
        humidity=b.system.humidity,
    )


def _passing(net: Network) -> float:
    """What leaks and hoses let in a few minutes after pumping began, Pa·m³/s."""
    fresh = sum(o.at(PUMPING) for o in net.outgassing)
    return fresh + sum(x.throughput for x in net.leaks)


def network_of(job: Job, stage: int, unknown: Unknowns, bad: dict[str, float] | None = None) -> Network:
    """The network of a stage, for a simulated one: ``bad`` Pa·m³/s of air let in by a part beside what it should."""
    parts = frozenset(proof_stages(job)[stage].parts)
    leaks = tuple(Leak(f"{name}.b", q, 0.0, name) for name, q in (bad or {}).items() if q > 0)
    return _network(job, _built(job, build_system(job.scope), unknown), parts, leaks)


@lru_cache(maxsize=64)
def _expected(scope: Scope, rig: Rig, stage: int) -> Expected:
    job = Job(scope=scope, rig=rig)
    stages = _stages(scope, rig)
    fresh = set(stages[stage].parts) - set(stages[stage - 1].parts if stage else ())
    times = np.concatenate([np.linspace(0.0, 30.0, 61), np.linspace(32.0, PUMPING, 75)])
    lag = GAUGES[rig.gauge.make].lag_s.value if rig.gauge is not None else 0.0
    rows = []
    for z in EDGES:
        net = network_of(job, stage, Unknowns(hose=z, pump=z))
        low = net.pumps[0].ultimate + net.pumps[0].ultimate_water
        initial = {n.name: (low, 0.0, 0.0) for n in net.nodes if stage and n.name.partition(".")[0] not in fresh}
        result = run(replace(net, initial=initial), PUMPING, rtol=2e-3)
        rows.append(_lagged(times, np.interp(times, result.time, result.total(GAUGE_NODE)), lag))
    return Expected(times, np.sort(np.array(rows), axis=0))


def _lagged(times: FloatArray, pressure: FloatArray, lag: float) -> FloatArray:
    """What a gauge of first-order ``lag`` s shows of a pressure."""
    if lag <= 0:
        return pressure
    shown = np.empty_like(pressure)
    shown[0] = pressure[0]
    for n in range(1, times.size):
        keep = np.exp(-(times[n] - times[n - 1]) / lag)
        shown[n] = pressure[n] + (shown[n - 1] - pressure[n]) * keep
    return shown


def expected(job: Job, stage: int) -> Expected:
    """What the gauge on the pump should do at a stage, from its opening on."""
    return _expected(job.scope, job.rig, stage)
