"""Run a network in time: compile it to arrays, integrate, and read the result.

The compiled stepper is imported here and only here, so that everything else in the core imports fast.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from rough_draw.core.engine import stepper
from rough_draw.core.engine.arrays import Amounts, FloatArray, History
from rough_draw.core.engine.compile import Compiled, EngineError, compile_network
from rough_draw.core.engine.kernels import flows, pool_heat, pool_temperature
from rough_draw.core.engine.network import Gas, Network
from rough_draw.core.physics.gas import (
    M_AIR,
    M_REFRIGERANT,
    M_WATER,
    T_REF,
    R,
)
from rough_draw.core.readings.series import time_at_level


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
