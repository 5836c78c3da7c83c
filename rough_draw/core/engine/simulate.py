"""Run a network in time: compile it to arrays, integrate, and read the result.

The compiled stepper is imported here and only here, so that everything else in the core imports fast.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.engine import stepper
from rough_draw.core.engine.kernels import LEAK, PUMP, SOURCE, TUBE, flows, pool_heat, pool_temperature
from rough_draw.core.engine.network import EXHAUST, OUTSIDE, T_REF, Gas, Network
from rough_draw.core.engine.sparse import EliminationPlan, plan_elimination
from rough_draw.core.physics.gas import M_REFRIGERANT, M_WATER, R, viscosity_air, viscosity_refrigerant, viscosity_water
from rough_draw.core.readings.series import time_at_level

FloatArray = NDArray[np.float64]

_PLANS: dict[tuple[int, frozenset[tuple[int, int]]], EliminationPlan] = {}


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


@dataclass(frozen=True)
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


@dataclass(frozen=True)
class Compiled:
    """A network as arrays, with its elimination plan."""

    network: Network
    elements: tuple[Any, ...]
    volumes: tuple[Any, ...]
    waters: tuple[Any, ...]
    plan: EliminationPlan
    boundary_names: tuple[str, ...]


def _plan(count: int, edges: set[tuple[int, int]]) -> EliminationPlan:
    key = (count, frozenset(edges))
    if key not in _PLANS:
        if len(_PLANS) > 500:
            _PLANS.clear()
        _PLANS[key] = plan_elimination(count, edges)
    return _PLANS[key]


_NONE = (0.0,) * 8


@lru_cache(maxsize=256)
def _viscosities(t: float) -> tuple[float, float, float]:
    return viscosity_air(t), viscosity_water(t), viscosity_refrigerant(t)


def compile_network(net: Network) -> Compiled:
    """Arrays for the stepper from the network's values."""
    where = {n.name: i for i, n in enumerate(net.nodes)}
    outside = {OUTSIDE: -1, EXHAUST: -2}
    rows: list[tuple[int, int, int, list[float], float, int, str]] = []
    for t in net.tubes:
        a, b = where.get(t.a, outside.get(t.a, 0)), where.get(t.b, outside.get(t.b, 0))
        if a < 0:
            a, b = b, a
        temps = [net.nodes[i].temperature for i in (a, b) if i >= 0]
        mean = sum(temps) / len(temps)
        par = [t.bore, t.length, t.count if t.open else 0.0, 1.0 if t.one_way else 0.0, t.crack, *_viscosities(mean)]
        if t.one_way and where.get(t.a, -1) != a:
            raise EngineError(f"'{t.name}' is one-way from outside; turn it round or give it its own volume")
        rows.append((TUBE, a, b, par, mean, int(b < 0), t.name))
    for pump in net.pumps:
        if pump.running:
            par = [pump.speed, pump.ultimate, pump.ultimate_water]
            rows.append((PUMP, where[pump.node], -2, par, T_REF, 1, "pump"))
        elif pump.back_leak > 0:
            rows.append((LEAK, where[pump.node], -1, [pump.back_leak], T_REF, 1, "pump"))
    for leak in net.leaks:
        par = [leak.throughput, leak.water_fraction]
        rows.append((LEAK, where[leak.node], -1, par, T_REF, 1, leak.name))
    for src in net.outgassing:
        par = [float(src.gas), src.steady, src.fresh]
        rows.append((SOURCE, where[src.node], -1, par, T_REF, 1, src.name))
    edges = {(min(r[1], r[2]), max(r[1], r[2])) for r in rows if r[2] >= 0}
    plan = _plan(len(net.nodes), edges)
    names: list[str] = []
    acc = []
    for r in rows:
        acc.append(len(names) if r[5] else -1)
        if r[5]:
            names.append(r[6])
    i64 = np.int64
    elements = (
        np.array([r[0] for r in rows], dtype=i64),
        np.array([r[1] for r in rows], dtype=i64),
        np.array([r[2] for r in rows], dtype=i64),
        np.array([[*r[3], *_NONE[len(r[3]) :]] for r in rows], dtype=float).reshape(len(rows), len(_NONE)),
        np.array([r[4] for r in rows], dtype=float),
        np.array([plan.slot[r[1], r[2]] if r[2] >= 0 else 0 for r in rows], dtype=i64),
        np.array([plan.slot[r[2], r[1]] if r[2] >= 0 else 0 for r in rows], dtype=i64),
        np.array(acc, dtype=i64),
    )
    temperature = np.array([n.temperature for n in net.nodes])
    per_amount = np.array([n.temperature / (T_REF * n.volume) for n in net.nodes])
    moist = net.atmosphere * net.humidity
    outside_p = np.array([[net.atmosphere - moist, moist, 0.0], [0.0, 0.0, 0.0]])
    waters = (
        np.array([where[p.node] for p in net.pools], dtype=i64),
        np.array([[p.transfer, p.heat_inflow, p.metal] for p in net.pools], dtype=float).reshape(-1, 3),
        np.array([where[s.node] for s in net.sorbed], dtype=i64),
        np.array([int(s.gas) for s in net.sorbed], dtype=i64),
        np.array([[s.tau, s.capacity] for s in net.sorbed], dtype=float).reshape(-1, 2),
    )
    return Compiled(net, elements, (per_amount, temperature, outside_p), waters, plan, tuple(names))


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
    plan = compiled.plan
    arrays = (
        plan.order,
        plan.neighbour_ptr,
        plan.neighbour_node,
        plan.neighbour_in,
        plan.neighbour_out,
        plan.update_ptr,
        plan.update,
    )
    ts, hg, hp, hr, ha, status, step = stepper.integrate(
        float(state.time),
        float(until),
        state.gas,
        state.pool,
        state.sorbed,
        float(state.step),
        float(rtol),
        compiled.elements,
        compiled.volumes,
        compiled.waters,
        arrays,
        len(plan.slot),
        len(compiled.boundary_names),
        max_steps,
        np.array(watch, dtype=np.int64),
        stop.level if stop else 0.0,
    )
    if status != 0:
        why = "too many steps" if status == 1 else "the step became too small"
        raise EngineError(f"the run stopped at {ts[-1]:.1f} s of {until:.1f}: {why}")
    net = compiled.network
    pressure = np.maximum(hg * compiled.volumes[0][None, :, None], 0.0)
    pool = hp.copy()
    for j, p in enumerate(net.pools):
        pool[:, j, 1] = [pool_temperature(m, h, p.metal) for m, h in hp[:, j, :]]
        pool[:, j, 0] = np.maximum(pool[:, j, 0], 0.0)
    final = State(float(ts[-1]), hg[-1].copy(), hp[-1].copy(), hr[-1].copy(), max(1e-3, float(step) * 0.2))
    return Run(net, ts, pressure, pool, hr, ha, compiled.boundary_names, final)


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
        net,
        np.concatenate([p.time for p in parts]),
        np.concatenate([p.pressure for p in parts]),
        np.concatenate([p.pool for p in parts]),
        np.concatenate([p.sorbed for p in parts]),
        parts[-1].crossed,
        parts[-1].boundary_names,
        parts[-1].final,
    )


def element_flows(compiled: Compiled, pressure: FloatArray, time: float = 0.0) -> FloatArray:
    """Throughput of each gas, Pa·m³/s, through every element (elements × 3) at node pressures (nodes × 3)."""
    result: FloatArray = flows(compiled.elements, np.ascontiguousarray(pressure), compiled.volumes[2], float(time))
    return result


def stored(net: Network, gas: FloatArray, pool: FloatArray, sorbed: FloatArray) -> FloatArray:
    """Amount of each gas held anywhere, Pa·m³ at 293.15 K, free and sorbed water included: for balances."""
    held: FloatArray = gas.sum(axis=0).copy()
    per_kg = {Gas.WATER: R / M_WATER * T_REF, Gas.REFRIGERANT: R / M_REFRIGERANT * T_REF, Gas.AIR: R / 28.97e-3 * T_REF}
    held[Gas.WATER] += pool[:, 0].sum() * per_kg[Gas.WATER]
    for j, s in enumerate(net.sorbed):
        held[s.gas] += sorbed[j] * per_kg[s.gas]
    return held
