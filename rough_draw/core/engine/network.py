"""The network as values: volumes joined by elements, with water, pumps, leaks and sources on them.

Values only; `engine` computes with them. Lengths m, volumes m³, pressures Pa, temperatures K, masses kg,
throughputs Pa·m³/s at 293.15 K.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace
from enum import IntEnum

from rough_draw.core.engine.walk import reached
from rough_draw.core.message import Fault, message
from rough_draw.core.message.figure import volume
from rough_draw.core.physics.gas import T_REF
from rough_draw.core.physics.units import ATMOSPHERE_PA

OUTSIDE = "atmosphere"
EXHAUST = "exhaust"
BOUNDARIES = (OUTSIDE, EXHAUST)


class Gas(IntEnum):
    """Species carried separately everywhere."""

    AIR = 0
    WATER = 1
    REFRIGERANT = 2


class NetworkError(Fault):
    """The graph cannot be computed; the message names the part and what to do."""


@dataclass(frozen=True, slots=True)
class Node:
    """A volume at one pressure. ``group`` says what it belongs to: ``rig`` or ``system``."""

    name: str
    volume: float
    temperature: float = T_REF
    group: str = "rig"


@dataclass(frozen=True, kw_only=True, slots=True)
class Tube:
    """A passage between two nodes, or between a node and ``atmosphere``; round, or with a ``width`` a slot.

    ``bore`` m is the diameter, of a slot its gap.
    ``count`` equal passages in parallel. ``one_way`` passes only from ``a`` to ``b``, and only when the
    difference exceeds ``crack`` Pa. A shut valve is a tube with ``open=False``.
    """

    name: str
    a: str
    b: str
    bore: float
    length: float
    open: bool = True
    count: float = 1.0
    one_way: bool = False
    crack: float = 0.0
    width: float = 0.0
    kind: str = "tube"


@dataclass(frozen=True, kw_only=True, slots=True)
class Pump:
    """A rotary-vane pump at ``node``: Q_k = S₀ (p_k − p_u,k) for each gas.

    ``speed`` m³/s; ``ultimate`` Pa for air, ``ultimate_water`` Pa for the vapour pressure over its oil.
    Stopped and not isolated, air leaks back through a clearance of ``back_leak`` Pa·m³/s.
    """

    node: str
    speed: float
    ultimate: float
    ultimate_water: float = 0.0
    running: bool = True
    back_leak: float = 20.0


@dataclass(frozen=True, slots=True)
class Leak:
    """Air from the atmosphere: ``throughput`` Pa·m³/s while choked. ``water_fraction`` is p_w/p of that air."""

    node: str
    throughput: float
    water_fraction: float = 0.0
    name: str = "leak"


@dataclass(frozen=True, kw_only=True, slots=True)
class Outgassing:
    """A surface that gives gas off: q(t) = steady + fresh e^(−t/τ), Pa·m³/s; ``tau`` s.

    What rubber gives off on a job falls like this, and not as 1/t: what is near its surface is gone in minutes.
    """

    node: str
    gas: Gas
    steady: float
    fresh: float = 0.0
    tau: float = 540.0
    name: str = "hose"

    def at(self, time: float) -> float:
        """Pa·m³/s at ``time`` s since the pump came on."""
        return self.steady + self.fresh * math.exp(-time / self.tau)


@dataclass(frozen=True, slots=True)
class Pool:
    """Free water, liquid or ice, standing in ``node``.

    ``transfer`` m³/s: evaporation conductance of its surface (mass rate = transfer (p_sat − p_w)/(R_w T)).
    ``heat_inflow`` W/K from surroundings at the node's temperature. ``metal`` J/K of metal cooled with it.
    """

    node: str
    mass: float
    transfer: float
    heat_inflow: float
    metal: float = 50.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Sorbed:
    """Gas held on walls or in oil of ``node``: dm/dt = −(m − held(p))/τ. kg, kg/Pa, s.

    ``power`` 1: held = capacity p (Henry's law, as in oil); under 1: capacity p₁ (p/p₁)^power with p₁ = 1,500 Pa
    (Freundlich's law, as on walls).
    """

    node: str
    gas: Gas
    mass: float
    tau: float
    capacity: float = 0.0
    power: float = 1.0
    name: str = "oil"


@dataclass(frozen=True, kw_only=True, slots=True)
class Network:
    """A rig joined to a system, ready to compute."""

    nodes: tuple[Node, ...]
    tubes: tuple[Tube, ...] = ()
    pumps: tuple[Pump, ...] = ()
    leaks: tuple[Leak, ...] = ()
    outgassing: tuple[Outgassing, ...] = ()
    pools: tuple[Pool, ...] = ()
    sorbed: tuple[Sorbed, ...] = ()
    atmosphere: float = ATMOSPHERE_PA
    humidity: float = 0.0
    initial: dict[str, tuple[float, float, float]] = field(default_factory=dict)
    """Starting partial pressures by node (air, water, refrigerant), Pa; others start as the atmosphere."""

    def __post_init__(self) -> None:
        names = [n.name for n in self.nodes]
        if len(set(names)) != len(names):
            raise NetworkError(message("network-same-name"))
        known = set(names)
        for n in self.nodes:
            if not 1e-9 <= n.volume <= 1e3:
                raise NetworkError(message("network-volume", part=n.name, volume=volume(n.volume)))
        for tube in self.tubes:
            for end in (tube.a, tube.b):
                if end not in known and end not in BOUNDARIES:
                    raise NetworkError(message("network-joins-nothing", part=tube.name, end=end))
            if not (tube.bore > 0 and tube.length > 0):
                raise NetworkError(message("network-no-bore", part=tube.name))
        attached: Iterable[tuple[str, str]] = [
            *(("pump", p.node) for p in self.pumps),
            *((x.name, x.node) for x in self.leaks),
            *((x.name, x.node) for x in self.outgassing),
            *(("water", x.node) for x in self.pools),
            *((x.name, x.node) for x in self.sorbed),
        ]
        for what, where in attached:
            if where not in known:
                raise NetworkError(message("network-placed-nowhere", part=what, end=where))

    def index(self, name: str) -> int:
        """Position of a node by name; raises NetworkError if it is not there."""
        for i, n in enumerate(self.nodes):
            if n.name == name:
                return i
        raise NetworkError(message("network-unknown", part=name))

    def with_tube(self, name: str, **changes: object) -> Network:
        """The same network with one tube changed (say ``open=False``)."""
        if not any(t.name == name for t in self.tubes):
            raise NetworkError(message("network-unknown", part=name))
        return replace(self, tubes=tuple(replace(t, **changes) if t.name == name else t for t in self.tubes))  # type: ignore[arg-type]

    def with_pump(self, **changes: object) -> Network:
        """The same network with every pump changed (say ``running=False``)."""
        return replace(self, pumps=tuple(replace(p, **changes) for p in self.pumps))  # type: ignore[arg-type]

    def volume(self, group: str | None = None) -> float:
        """Total volume, m³, of one group or of everything."""
        return sum(n.volume for n in self.nodes if group is None or n.group == group)

    def connected(self, start: str) -> set[str]:
        """Names of nodes that open passages join to ``start``, itself included."""

        def near(here: str) -> Iterator[str]:
            for tube in self.tubes:
                if tube.open and here in (tube.a, tube.b):
                    other = tube.b if tube.a == here else tube.a
                    if other not in BOUNDARIES:
                        yield other

        return reached(start, near)
