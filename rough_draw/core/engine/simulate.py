"""Run a network in time: compile it to arrays, integrate, and read the result.

The compiled stepper is imported here and only here, so that everything else in the core imports fast.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np

from rough_draw.core.engine import stepper
from rough_draw.core.engine.arrays import Amounts, FloatArray, History
from rough_draw.core.engine.compile import Compiled, EngineError, compile_network
from rough_draw.core.engine.kernels import flows, pool_heat, pool_temperatures
from rough_draw.core.engine.network import Gas, Network
from rough_draw.core.engine.run import Run, State, Stop
from rough_draw.core.physics.gas import (
    M_AIR,
    M_REFRIGERANT,
    M_WATER,
    T_REF,
    R,
)


def initial_state(net: Network) -> State:
    """State at the start: every node at its `Network.initial` pressures, or at the atmosphere around it.

    Parameters
    ----------
    net : Network
        With `Network.initial` where a node does not stand open to the air.

    Returns
    -------
    State
        At 0 s: gas (N, 3) as pV at 20 °C, pools (P, 2) kg and J, sorbed (S,) kg.

    Examples
    --------
    >>> from rough_draw.core.engine.network import Node, Pump
    >>> net = Network(nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),))
    >>> initial_state(net).gas.shape
    (1, 3)
    """
    moist = net.atmosphere * net.humidity
    default = (net.atmosphere - moist, moist, 0.0)
    pressures = np.array([net.initial.get(n.name, default) for n in net.nodes])
    gas = pressures * np.array([n.volume * T_REF / n.temperature for n in net.nodes])[:, None]
    by_name = {n.name: n for n in net.nodes}
    pool = np.array(
        [[p.mass, pool_heat(p.mass, by_name[p.node].temperature, p.metal)] for p in net.pools], dtype=float
    ).reshape(-1, 2)
    return State(0.0, gas, pool, np.array([s.mass for s in net.sorbed], dtype=float))


def advance(
    compiled: Compiled,
    state: State,
    until: float,
    rtol: float = 1e-3,
    max_steps: int = 20_000,
    stop: Stop | None = None,
) -> Run:
    """Integrate from ``state`` to ``until`` s, or to ``stop``.

    Parameters
    ----------
    compiled : Compiled
        The network as arrays.
    state : State
        Where it stands.
    until : float
        s.
    rtol : float
        Relative tolerance of a step.
    max_steps : int
        Tries, refused ones too.
    stop : Stop or None
        Ends the run early.

    Returns
    -------
    Run
        n moments, the first at ``state.time``: pressures (n, N, 3) Pa, pools (n, P, 2) kg and K, sorbed (n, S) kg.

    Raises
    ------
    EngineError
        Where the stepper gives up: too many steps, or steps under 1e-9 s.

    Examples
    --------
    >>> from rough_draw.core.engine.network import Node, Pump
    >>> net = Network(nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),))
    >>> round(float(advance(compile_network(net), initial_state(net), 23.4).total("pump")[-1]))
    134
    """
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
        pool[:, j, 1] = pool_temperatures(history.pool[:, j, 0], history.pool[:, j, 1], p.metal)
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

    Parameters
    ----------
    net : Network
        As it stands at the start.
    until : float
        s.
    events : sequence of (float, Change)
        When, s, and what the network becomes.
    rtol : float
        Relative tolerance of a step.
    stop : Stop or None
        Ends the run early, after the last change.

    Returns
    -------
    Run
        All moments, those of the changes twice.

    Raises
    ------
    EngineError
        Where the stepper gives up.

    Examples
    --------
    >>> from rough_draw.core.engine.network import Node, Pump
    >>> net = Network(nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),))
    >>> round(run(net, 60.0).time_to("pump", 133.32), 1)
    23.4
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

    Parameters
    ----------
    net : Network
        As it stands at the start.
    until : float
        s.
    changes : sequence of (float, FullChange)
        When, s, and what network and state become.
    rtol : float
        Relative tolerance of a step.
    stop : Stop or None
        Ends the run early, after the last change.

    Returns
    -------
    Run
        All moments, those of the changes twice.

    Raises
    ------
    EngineError
        Where the stepper gives up.

    Examples
    --------
    >>> from rough_draw.core.engine.network import Node, Pump
    >>> net = Network(nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),))
    >>> stopped = run_changes(net, 20.0, [(10.0, lambda n, s: (n.with_pump(running=False), s))])
    >>> bool(stopped.total("pump")[-1] > stopped.at("pump", [10.0])[0])
    True
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
    """Throughput of each gas, Pa·m³/s, through every element (elements × 3) at node pressures (nodes × 3).

    Parameters
    ----------
    compiled : Compiled
        The network as arrays.
    pressure : ndarray, (N, 3)
        Pa by gas.
    time : float
        s since the start: new rubber gives off less with time.

    Returns
    -------
    ndarray, (E, 3)
        Pa·m³/s at 20 °C, from a to b.

    Examples
    --------
    >>> from rough_draw.core.engine.network import Node, Pump
    >>> net = Network(nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),))
    >>> p = np.array([[100.0, 0.0, 0.0]])
    >>> round(float(element_flows(compile_network(net), p)[0, 0]), 3)
    0.283
    """
    result: FloatArray = flows(compiled.elements, np.ascontiguousarray(pressure), compiled.volumes.outside, float(time))
    return result


def stored(net: Network, gas: FloatArray, pool: FloatArray, sorbed: FloatArray) -> FloatArray:
    """Amount of each gas held anywhere, Pa·m³ at 293.15 K, free and sorbed water included: for balances.

    Parameters
    ----------
    net : Network
        Of the run.
    gas : ndarray, (N, 3)
        pV at 20 °C, Pa·m³.
    pool : ndarray, (P, 2)
        kg and J.
    sorbed : ndarray, (S,)
        kg.

    Returns
    -------
    ndarray, (3,)
        Pa·m³ at 20 °C of each gas.

    Examples
    --------
    >>> from rough_draw.core.engine.network import Node, Pump
    >>> net = Network(nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),))
    >>> s = initial_state(net)
    >>> round(float(stored(net, s.gas, s.pool, s.sorbed)[0]), 2)
    1013.25
    """
    held: FloatArray = gas.sum(axis=0).copy()
    per_kg = {Gas.WATER: R / M_WATER * T_REF, Gas.REFRIGERANT: R / M_REFRIGERANT * T_REF, Gas.AIR: R / M_AIR * T_REF}
    held[Gas.WATER] += pool[:, 0].sum() * per_kg[Gas.WATER]
    for j, s in enumerate(net.sorbed):
        held[s.gas] += sorbed[j] * per_kg[s.gas]
    return held
