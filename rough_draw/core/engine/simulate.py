"""Run a network in time: compile it to arrays, integrate, and read the result.

The compiled stepper is imported here and only here, so that everything else in the core imports fast.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from rough_draw.core.engine import stepper
from rough_draw.core.engine.arrays import Amounts, Elements, FloatArray, History, IntArray, Volumes, Waters
from rough_draw.core.engine.kernels import LEAK, PUMP, SOURCE, TUBE, flows, pool_heat, pool_temperature
from rough_draw.core.engine.network import EXHAUST, OUTSIDE, Gas, Network, Tube
from rough_draw.core.engine.sparse import EliminationPlan, plan_elimination
from rough_draw.core.physics.gas import (
    M_AIR,
    M_REFRIGERANT,
    M_WATER,
    T_REF,
    R,
    viscosity_air,
    viscosity_refrigerant,
    viscosity_water,
)
from rough_draw.core.readings.series import time_at_level


class EngineError(RuntimeError):
    """The integration could not be carried through; says where it stopped."""


@dataclass(frozen=True)
class State:
    """Everything that changes: amounts by node (pV at 293.15 K, Pa·m³), free water (kg, J), sorbed gas (kg)."""

    time: float
    gas: FloatArray
    pool: FloatArray
    sorbed: FloatArray
    step: float = 1e-3


@dataclass(frozen=True, kw_only=True)
class Run:
    """One computed run.

    ``time`` (n,) s; ``pressure`` (n, nodes, 3) Pa by gas; ``pool`` (n, pools, 2) kg and K; ``sorbed``
    (n, reservoirs) kg; ``crossed`` (n, boundary elements, 3) Pa·m³ that left through each since the start.
    """

    network: Network
    time: FloatArray
    pressure: FloatArray
    pool: FloatArray
    sorbed: FloatArray
    crossed: FloatArray
    boundary_names: tuple[str, ...]
    final: State

    def total(self, node: str) -> FloatArray:
        """Total pressure, Pa, at a node against `time`."""
        values: FloatArray = self.pressure[:, self.network.index(node), :].sum(axis=1)
        return values

    def at(self, node: str, times: Sequence[float] | FloatArray) -> FloatArray:
        """Total pressure at chosen times, interpolated in log pressure between steps."""
        logs = np.log(np.maximum(self.total(node), 1e-9))
        result: FloatArray = np.exp(np.interp(np.asarray(times, dtype=float), self.time, logs))
        return result

    def time_to(self, node: str, level: float) -> float | None:
        """First time, s, at which ``node`` is at or under ``level`` Pa; None if it never is."""
        return time_at_level(self.time, self.total(node), level)


@dataclass(frozen=True, kw_only=True)
class Compiled:
    """A network as arrays, with its elimination plan; ``crosses`` (B,): the node of each boundary element."""

    network: Network
    elements: Elements
    volumes: Volumes
    waters: Waters
    plan: EliminationPlan
    boundary_names: tuple[str, ...]
    crosses: IntArray


def _plan(count: int, edges: set[tuple[int, int]]) -> EliminationPlan:
    return _plan_of(count, frozenset(edges))


@lru_cache(maxsize=500)
def _plan_of(count: int, edges: frozenset[tuple[int, int]]) -> EliminationPlan:
    return plan_elimination(count, set(edges))


@dataclass(frozen=True, kw_only=True)
class _Row:
    """One element before it is put into arrays; ``counted``: what passes it is summed up."""

    kind: int
    a: int
    b: int
    par: tuple[float, ...]
    temperature: float = T_REF
    counted: bool = True
    name: str


PARS = 8
"""Parameters of an element: those of a tube, which has the most."""


@lru_cache(maxsize=256)
def _viscosities(t: float) -> tuple[float, float, float]:
    return viscosity_air(t), viscosity_water(t), viscosity_refrigerant(t)


def _tube_row(net: Network, t: Tube, where: dict[str, int]) -> _Row:
    outside = {OUTSIDE: -1, EXHAUST: -2}
    a, b = where.get(t.a, outside.get(t.a, 0)), where.get(t.b, outside.get(t.b, 0))
    if a < 0:
        a, b = b, a
    if t.one_way and where.get(t.a, -1) != a:
        raise EngineError(f"'{t.name}' is one-way from outside; turn it round or give it its own volume")
    temps = [net.nodes[i].temperature for i in (a, b) if i >= 0]
    mean = sum(temps) / len(temps)
    count, one_way = t.count if t.open else 0.0, 1.0 if t.one_way else 0.0
    par = (t.bore, t.length, count, one_way, t.crack, *_viscosities(mean))
    return _Row(kind=TUBE, a=a, b=b, par=par, temperature=mean, counted=b < 0, name=t.name)


def _rows(net: Network, where: dict[str, int]) -> list[_Row]:
    """Every element of a network: tubes, then pumps, leaks and sources."""
    rows = [_tube_row(net, t, where) for t in net.tubes]
    for pump in net.pumps:
        at = where[pump.node]
        if pump.running:
            pumped = (pump.speed, pump.ultimate, pump.ultimate_water)
            rows.append(_Row(kind=PUMP, a=at, b=-2, par=pumped, name="pump"))
        elif pump.back_leak > 0:
            rows.append(_Row(kind=LEAK, a=at, b=-1, par=(pump.back_leak,), name="pump"))
    for leak in net.leaks:
        leaked = (leak.throughput, leak.water_fraction)
        rows.append(_Row(kind=LEAK, a=where[leak.node], b=-1, par=leaked, name=leak.name))
    for src in net.outgassing:
        given = (float(src.gas), src.steady, src.fresh)
        rows.append(_Row(kind=SOURCE, a=where[src.node], b=-1, par=given, name=src.name))
    return rows


def _waters(net: Network, where: dict[str, int]) -> Waters:
    i64 = np.int64
    return Waters(
        pool_node=np.array([where[p.node] for p in net.pools], dtype=i64),
        pool_par=np.array([[p.transfer, p.heat_inflow, p.metal] for p in net.pools], dtype=float).reshape(-1, 3),
        store_node=np.array([where[s.node] for s in net.sorbed], dtype=i64),
        store_gas=np.array([int(s.gas) for s in net.sorbed], dtype=i64),
        store_par=np.array([[s.tau, s.capacity] for s in net.sorbed], dtype=float).reshape(-1, 2),
    )


def compile_network(net: Network) -> Compiled:
    """Arrays for the stepper from the network's values.

    Raises
    ------
    EngineError
        For a one-way passage that comes from outside.
    """
    where = {n.name: i for i, n in enumerate(net.nodes)}
    rows = _rows(net, where)
    plan = _plan(len(net.nodes), {(min(r.a, r.b), max(r.a, r.b)) for r in rows if r.b >= 0})
    counted = [r for r in rows if r.counted]
    number = {id(r): n for n, r in enumerate(counted)}
    i64 = np.int64
    elements = Elements(
        kind=np.array([r.kind for r in rows], dtype=i64),
        a=np.array([r.a for r in rows], dtype=i64),
        b=np.array([r.b for r in rows], dtype=i64),
        par=np.array([[*r.par, *(0.0,) * (PARS - len(r.par))] for r in rows], dtype=float).reshape(len(rows), PARS),
        temperature=np.array([r.temperature for r in rows], dtype=float),
        slot_ab=np.array([plan.slot[r.a, r.b] if r.b >= 0 else 0 for r in rows], dtype=i64),
        slot_ba=np.array([plan.slot[r.b, r.a] if r.b >= 0 else 0 for r in rows], dtype=i64),
        account=np.array([number.get(id(r), -1) for r in rows], dtype=i64),
    )
    moist = net.atmosphere * net.humidity
    volumes = Volumes(
        per_amount=np.array([n.temperature / (T_REF * n.volume) for n in net.nodes]),
        temperature=np.array([n.temperature for n in net.nodes]),
        outside=np.array([[net.atmosphere - moist, moist, 0.0], [0.0, 0.0, 0.0]]),
    )
    return Compiled(
        network=net,
        elements=elements,
        volumes=volumes,
        waters=_waters(net, where),
        plan=plan,
        boundary_names=tuple(r.name for r in counted),
        crosses=np.array([r.a for r in counted], dtype=i64),
    )


def initial_state(net: Network) -> State:
    """State at the start: every node at its `Network.initial` pressures, or at the atmosphere around it."""
    moist = net.atmosphere * net.humidity
    default = (net.atmosphere - moist, moist, 0.0)
    gas = np.array(
        [[p * n.volume * T_REF / n.temperature for p in net.initial.get(n.name, default)] for n in net.nodes]
    )
    by_name = {n.name: n for n in net.nodes}
    pool = np.array(
        [[p.mass, pool_heat(p.mass, by_name[p.node].temperature, p.metal)] for p in net.pools], dtype=float
    ).reshape(-1, 2)
    return State(0.0, gas, pool, np.array([s.mass for s in net.sorbed], dtype=float))


@dataclass(frozen=True)
class Stop:
    """End a run early, once every node of ``nodes`` is under ``level`` Pa."""

    nodes: tuple[str, ...]
    level: float


def advance(
    compiled: Compiled,
    state: State,
    until: float,
    rtol: float = 1e-3,
    max_steps: int = 20_000,
    stop: Stop | None = None,
) -> Run:
    """Integrate from ``state`` to ``until`` s, or to ``stop``. Raises EngineError if the stepper gives up."""
    watch = [compiled.network.index(n) for n in stop.nodes] if stop else []
    room, count, status, step = stepper.integrate(
        float(state.time),
        float(until),
        Amounts(state.gas, state.pool, state.sorbed),
        float(state.step),
        float(rtol),
        compiled.elements,
        compiled.volumes,
        compiled.waters,
        compiled.plan.arrays,
        len(compiled.plan.slot),
        compiled.crosses,
        max_steps,
        np.array(watch, dtype=np.int64),
        stop.level if stop else 0.0,
    )
    history = History(*(x[:count] for x in room))
    if status != stepper.DONE:
        why = "too many steps" if status == stepper.TOO_MANY_STEPS else "the step became too small"
        raise EngineError(f"the run stopped at {history.time[-1]:.1f} s of {until:.1f}: {why}")
    return _read(compiled, history, step)


def _read(compiled: Compiled, history: History, step: float) -> Run:
    """A run from what the stepper noted: pressures for amounts, temperatures for heat."""
    net = compiled.network
    pool = history.pool.copy()
    for j, p in enumerate(net.pools):
        pool[:, j, 1] = [pool_temperature(m, h, p.metal) for m, h in history.pool[:, j, :]]
        pool[:, j, 0] = np.maximum(pool[:, j, 0], 0.0)
    return Run(
        network=net,
        time=history.time,
        pressure=np.maximum(history.gas * compiled.volumes.per_amount[None, :, None], 0.0),
        pool=pool,
        sorbed=history.store,
        crossed=history.crossed,
        boundary_names=compiled.boundary_names,
        final=State(
            float(history.time[-1]),
            history.gas[-1].copy(),
            history.pool[-1].copy(),
            history.store[-1].copy(),
            max(1e-3, float(step) * 0.2),
        ),
    )


Change = Callable[[Network], Network]
FullChange = Callable[[Network, State], tuple[Network, State]]


def run(
    net: Network,
    until: float,
    events: Sequence[tuple[float, Change]] = (),
    rtol: float = 1e-3,
    stop: Stop | None = None,
) -> Run:
    """Run a network from its start, applying each ``(time, change)`` in order; ``stop`` may end it early.

    A change maps the network to a new one with the same nodes, pools and reservoirs (a valve turned, a
    pump stopped). Boundary throughputs are not carried across changes.
    """

    def lifted(change: Change) -> FullChange:
        return lambda n, s: (change(n), s)

    return run_changes(net, until, [(at, lifted(change)) for at, change in events], rtol, stop)


def run_changes(
    net: Network,
    until: float,
    changes: Sequence[tuple[float, FullChange]],
    rtol: float = 1e-3,
    stop: Stop | None = None,
) -> Run:
    """As `run`, for changes that may touch the state as well as the network (gas let in).

    ``stop`` counts only after the last change.
    """
    last = max((at for at, _ in changes), default=-1.0)
    state = initial_state(net)
    parts: list[Run] = []
    for when, change in [*sorted(changes, key=lambda e: e[0]), (until, None)]:
        if when > state.time:
            part = advance(
                compile_network(net), state, min(when, until), rtol, stop=stop if state.time >= last else None
            )
            parts.append(part)
            state = replace(part.final, step=1e-3)
        if change is not None:
            net, state = change(net, state)
    if len(parts) == 1:
        return parts[0]
    return Run(
        network=net,
        time=np.concatenate([p.time for p in parts]),
        pressure=np.concatenate([p.pressure for p in parts]),
        pool=np.concatenate([p.pool for p in parts]),
        sorbed=np.concatenate([p.sorbed for p in parts]),
        crossed=parts[-1].crossed,
        boundary_names=parts[-1].boundary_names,
        final=parts[-1].final,
    )


def element_flows(compiled: Compiled, pressure: FloatArray, time: float = 0.0) -> FloatArray:
    """Throughput of each gas, Pa·m³/s, through every element (elements × 3) at node pressures (nodes × 3)."""
    result: FloatArray = flows(compiled.elements, np.ascontiguousarray(pressure), compiled.volumes.outside, float(time))
    return result


def stored(net: Network, gas: FloatArray, pool: FloatArray, sorbed: FloatArray) -> FloatArray:
    """Amount of each gas held anywhere, Pa·m³ at 293.15 K, free and sorbed water included: for balances."""
    held: FloatArray = gas.sum(axis=0).copy()
    per_kg = {Gas.WATER: R / M_WATER * T_REF, Gas.REFRIGERANT: R / M_REFRIGERANT * T_REF, Gas.AIR: R / M_AIR * T_REF}
    held[Gas.WATER] += pool[:, 0].sum() * per_kg[Gas.WATER]
    for j, s in enumerate(net.sorbed):
        held[s.gas] += sorbed[j] * per_kg[s.gas]
    return held
