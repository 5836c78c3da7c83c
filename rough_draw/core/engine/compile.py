"""A network compiled to arrays for the stepper, its elimination planned."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from rough_draw.core.engine.arrays import Elements, IntArray, Volumes, Waters
from rough_draw.core.engine.kernels import LEAK, PUMP, SOURCE, TUBE, passages
from rough_draw.core.engine.network import EXHAUST, OUTSIDE, Network, Tube
from rough_draw.core.engine.readiness import must_be_ready
from rough_draw.core.engine.sparse import EliminationPlan, plan_elimination
from rough_draw.core.physics.gas import T_REF, viscosity_air, viscosity_refrigerant, viscosity_water


class EngineError(RuntimeError):
    """The integration could not be carried through; says where it stopped."""


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


@lru_cache(maxsize=500)
def _plan(count: int, edges: frozenset[tuple[int, int]]) -> EliminationPlan:
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


PARS = 9
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
    par = (t.bore, t.length, count, one_way, t.crack, t.width, *_viscosities(mean))
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
        given = (float(src.gas), src.steady, src.fresh, src.tau)
        rows.append(_Row(kind=SOURCE, a=where[src.node], b=-1, par=given, name=src.name))
    return rows


def _waters(net: Network, where: dict[str, int]) -> Waters:
    i64 = np.int64
    return Waters(
        pool_node=np.array([where[p.node] for p in net.pools], dtype=i64),
        pool_par=np.array([[p.transfer, p.heat_inflow, p.metal] for p in net.pools], dtype=float).reshape(-1, 3),
        store_node=np.array([where[s.node] for s in net.sorbed], dtype=i64),
        store_gas=np.array([int(s.gas) for s in net.sorbed], dtype=i64),
        store_par=np.array([[s.tau, s.capacity, s.power] for s in net.sorbed], dtype=float).reshape(-1, 3),
    )


def compile_network(net: Network) -> Compiled:
    """Arrays for the stepper from the network's values.

    Parameters
    ----------
    net : Network
        N nodes, E elements, P pools, S stores of sorbed gas.

    Returns
    -------
    Compiled
        Its arrays (see `arrays`), its elimination plan, the names of the boundary elements.

    Raises
    ------
    EngineError
        For a one-way passage that comes from outside.

    Examples
    --------
    >>> from rough_draw.core.engine.network import Node, Pump
    >>> net = Network(nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),))
    >>> compile_network(net).elements.par.shape
    (1, 9)
    """
    must_be_ready()
    where = {n.name: i for i, n in enumerate(net.nodes)}
    rows = _rows(net, where)
    plan = _plan(len(net.nodes), frozenset((min(r.a, r.b), max(r.a, r.b)) for r in rows if r.b >= 0))
    counted = [r for r in rows if r.counted]
    number = {id(r): n for n, r in enumerate(counted)}
    i64 = np.int64
    kind = np.array([r.kind for r in rows], dtype=i64)
    par = np.array([[*r.par, *(0.0,) * (PARS - len(r.par))] for r in rows], dtype=float).reshape(len(rows), PARS)
    temperature = np.array([r.temperature for r in rows], dtype=float)
    elements = Elements(
        kind=kind,
        a=np.array([r.a for r in rows], dtype=i64),
        b=np.array([r.b for r in rows], dtype=i64),
        par=par,
        alone=passages(kind, par, temperature),
        temperature=temperature,
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
