"""Join a rig to a system: from the job sheet to the network that the engine computes.

One walk over the rig's parts makes the graph that everything else asks: the engine its conductances, the interlock
and the answers what is joined to what when a valve is shut.
"""

from __future__ import annotations

from copy import copy
from dataclasses import dataclass, field, replace

from rough_draw.core.catalogue import systems as sys_cat
from rough_draw.core.engine.network import Gas, Leak, Network, Node, Pool, Sorbed, Tube
from rough_draw.core.engine.walk import reached
from rough_draw.core.message import Name, message
from rough_draw.core.model.pump import pump_element, pump_oil
from rough_draw.core.model.rig_graph import RigBuilder, RigPart, Unknowns, Valve
from rough_draw.core.model.rig_sizes import Sizes
from rough_draw.core.model.rig_sources import part_sources, tool_leak
from rough_draw.core.model.rise_rate import measured
from rough_draw.core.model.system import ScopeError, SystemModel, build_system
from rough_draw.core.physics.sorption import SORPTION_FLOOR, SORPTION_REF
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import ToolPart


@dataclass(frozen=True, kw_only=True)
class Assembly:
    """The network and how it answers to the sheet.

    ``gauge_node``: what the gauge that is read sees. ``gauges``: node of every gauge by its id. ``port_nodes``: node
    on the rig's side of each used port. ``pumped``: system nodes from which gas can reach the pump with every valve
    as the sheet has it. ``valves`` by id. ``sizes``: what each passage of the rig may measure.
    """

    network: Network
    system: SystemModel
    gauge_node: str
    parts: tuple[RigPart, ...]
    gauges: dict[str, str] = field(default_factory=dict)
    port_nodes: dict[str, str] = field(default_factory=dict)
    valves: dict[str, Valve] = field(default_factory=dict)
    sizes: dict[str, Sizes] = field(default_factory=dict)
    pumped: frozenset[str] = frozenset()


def reaches(net: Network, goal: str, system_only: bool = True) -> frozenset[str]:
    """Nodes from which gas can flow to ``goal`` through open passages; a one-way passage counts in its direction."""
    into: dict[str, list[str]] = {}
    for tube in net.tubes:
        if tube.open:
            into.setdefault(tube.b, []).append(tube.a)
            if not tube.one_way:
                into.setdefault(tube.a, []).append(tube.b)
    found = reached(goal, lambda here: into.get(here, ()))
    groups = {n.name: n.group for n in net.nodes}
    return frozenset(n for n in found if groups.get(n) == "system" or (not system_only and n in groups))


def assemble(job: Job, unknown: Unknowns | None = None, ballast: bool = False, needs_pump: bool = True) -> Assembly:
    """Network of the sheet's rig on its system. Raises ScopeError if it cannot be put together.

    ``needs_pump`` refuses a rig whose pump leads to no port; while charging, it need not.
    """
    u = unknown or Unknowns()
    system = build_system(job.scope)
    b = RigBuilder(job, u, system, measured(job))
    b.walk()
    if needs_pump and not job.rig.pumped():
        raise ScopeError(message("sheet-no-way"), "rig.parts")
    network = _join_system(job, system, b, u, ballast)
    gauge = job.rig.gauge
    first = next((p.port for p in (*job.rig.pumped(), *job.rig.parts) if p.port), next(iter(system.ports)))
    gauge_node = b.gauges[gauge.id] if gauge else f"system.{system.ports[first or '']}"
    valves = dict(b.valves)
    for link in job.scope.links:
        if link.kind not in ("joint", "capillary", "filter-drier", "check-valve"):
            name = f"system.{link.id}"
            valves[name] = Valve(name, message("the", thing=link.words()), name, link.id, "system")
    return Assembly(
        network=network,
        system=system,
        gauge_node=gauge_node,
        parts=tuple(b.parts),
        gauges=dict(b.gauges),
        port_nodes=dict(b.port_nodes),
        valves=valves,
        sizes=b.sizes,
        pumped=reaches(network, "pump"),
    )


def vary(base: Assembly, job: Job, u: Unknowns) -> Assembly:
    """The assembly of the same sheet for other unknowns: what `assemble` would give, at a third of its cost.

    Only figures move with the unknowns, never what is joined to what.
    """
    net = base.network
    system = base.system
    spread = system.volume()
    scale = spread.quantile(u.volume) / spread.value
    nodes = tuple(replace(n, volume=n.volume * scale) if n.group == "system" else n for n in net.nodes)
    ways = {f"system.{x.name}": x for x in system.links}
    tubes = []
    for t in net.tubes:
        if (size := base.sizes.get(t.name)) is not None:
            bore, length, width = size.at(u.bores, u.core)
        elif (way := ways.get(t.name)) is not None:
            bore, length, width = *way.at(u.lines), 0.0
        else:
            tubes.append(t)
            continue
        tubes.append(replace(t, bore=bore, length=length, width=width))
    tools = {p.id: p for p in job.rig.parts if isinstance(p, ToolPart)}
    read = measured(job)
    sources = [s for p in job.rig.parts for s in part_sources(p, u.hose, read.get(p.id))]
    leaks = [tool_leak(x.node, tools[x.name], u.hose, system.humidity) for x in net.leaks if x.name in tools]
    leaks += _hidden_leak(system, u)
    # The parts were checked when the base was put together.
    varied = copy(net)
    pools, sorbed = _water_of(system, u)
    pump = pump_element(job, u)
    for name, value in (
        ("nodes", nodes),
        ("tubes", tuple(tubes)),
        ("pumps", (pump,)),
        ("leaks", tuple(leaks)),
        ("outgassing", tuple(sources)),
        ("pools", pools),
        ("sorbed", (*sorbed, pump_oil(pump))),
    ):
        object.__setattr__(varied, name, value)
    return replace(base, network=varied)


def _hidden_leak(system: SystemModel, u: Unknowns) -> list[Leak]:
    return [Leak(f"system.{system.water.place}", u.extra_leak, system.humidity)] if u.extra_leak > 0 else []


def _join_system(job: Job, system: SystemModel, b: RigBuilder, u: Unknowns, ballast: bool) -> Network:
    nodes = list(b.nodes)
    tubes = list(b.tubes)
    spread = system.volume()
    scale = spread.quantile(u.volume) / spread.value
    kept = {s.name for s in system.evacuated}
    for s in system.sections:
        if s.name in kept:
            t = system.coldest if s.cold else system.ambient
            nodes.append(Node(f"system.{s.name}", s.volume.value * scale, t, "system"))
    for x in system.links:
        if x.a in kept and x.b in kept:
            crack = sys_cat.CHECK_CRACK.value if x.one_way else 0.0
            a, z = f"system.{x.a}", f"system.{x.b}"
            bore, length = x.at(u.lines)
            tubes.append(
                Tube(
                    name=f"system.{x.name}",
                    a=a,
                    b=z,
                    bore=bore,
                    length=length,
                    open=x.open,
                    count=1.0,
                    one_way=x.one_way,
                    crack=crack,
                    kind=x.kind,
                )
            )
    names = {n.name for n in nodes}
    for tube in tubes:
        for end in (tube.a, tube.b):
            if end not in names:
                label = system.labels.get(end.removeprefix("system."), end)
                raise ScopeError(
                    message("sheet-port-kept", port=tube.name.split(".")[0], section=label),
                    "rig.parts",
                )
    pools, sorbed = _water_of(system, u)
    pump = pump_element(job, u, ballast)
    return Network(
        nodes=tuple(nodes),
        tubes=tuple(tubes),
        pumps=(pump,),
        leaks=(*b.leaks, *_hidden_leak(system, u)),
        outgassing=tuple(b.outgassing),
        pools=pools,
        sorbed=(*sorbed, pump_oil(pump, ballast)),
        atmosphere=system.atmosphere,
        humidity=system.humidity,
    )


def _water_of(system: SystemModel, u: Unknowns) -> tuple[tuple[Pool, ...], tuple[Sorbed, ...]]:
    """Standing water, water on the walls of every section by its area, water in the oil."""
    water = system.water
    mass = water.free.quantile(u.water)
    pools: tuple[Pool, ...] = ()
    if mass > 1e-7:
        transfer = sys_cat.WATER_TRANSFER.quantile(u.release)
        heat = sys_cat.WATER_HEAT[system.kind(water.place)].quantile(u.release)
        pools = (Pool(f"system.{water.place}", mass, transfer, heat),)
    sorbed = [*_on_walls(system, u), *_in_oil(system, u)]
    return pools, tuple(sorbed)


def _on_walls(system: SystemModel, u: Unknowns) -> list[Sorbed]:
    """Water on the walls of every section, in thirds that leave at their own pace; in balance with the air it stood in.

    Freundlich's law: what is held goes as the pressure to a power, so the last of it is held hardest.
    """
    wall = system.water.wall.quantile(u.water)
    pace = sys_cat.WALL_PACE.quantile(u.release)
    start = ((system.humidity * system.atmosphere + SORPTION_FLOOR) / SORPTION_REF) ** sys_cat.WALL_POWER
    found = []
    for s in system.evacuated:
        held = wall * s.area / len(sys_cat.WALL_TAUS)
        for tau in sys_cat.WALL_TAUS:
            found.append(
                Sorbed(
                    node=f"system.{s.name}",
                    gas=Gas.WATER,
                    mass=held * start,
                    tau=tau * pace,
                    capacity=held / SORPTION_REF,
                    power=sys_cat.WALL_POWER,
                    name="walls",
                )
            )
    return found


def _in_oil(system: SystemModel, u: Unknowns) -> list[Sorbed]:
    """Water in the oil, by Henry's law from what it holds at saturation, and refrigerant left in it."""
    water, place = system.water, f"system.{system.water.oil_place}"
    found = []
    if (mass := water.oil.quantile(u.water)) > 1e-9:
        found.append(
            Sorbed(
                node=place,
                gas=Gas.WATER,
                mass=mass,
                tau=water.oil_tau.quantile(u.release),
                capacity=water.oil_holds.value,
                name="oil",
            )
        )
    if (left := water.refrigerant.quantile(u.oil)) > 1e-9:
        tau = sys_cat.REFRIGERANT_TAU.quantile(u.release)
        found.append(Sorbed(node=place, gas=Gas.REFRIGERANT, mass=left, tau=tau, name="refrigerant"))
    return found


def valve_names(job: Job) -> dict[str, Name]:
    """Valves of rig and system on a sheet, by name, in words; none where it cannot be put together."""
    try:
        return {v.name: v.label for v in assemble(job, needs_pump=False).valves.values()}
    except ScopeError:
        return {}
