"""Join a rig to a system: from the job sheet to the network that the engine computes."""

from __future__ import annotations

from dataclasses import dataclass, field

from rough_draw.core.catalogue import rigparts as cat
from rough_draw.core.catalogue import systems as sys_cat
from rough_draw.core.catalogue.quantity import Quantity
from rough_draw.core.job import Hose, Job, Path
from rough_draw.core.network import Gas, Leak, Network, Node, Outgassing, Pool, Pump, Sorbed, Tube
from rough_draw.core.system import ScopeError, SystemModel, build_system
from rough_draw.core.units import CFM_M3_S, MICRON_PA


@dataclass(frozen=True)
class Unknowns:
    """Standard normal deviates for what is not known exactly: 0 is the best guess of each.

    ``extra_leak`` Pa·m³/s is air let in at the system, for worlds with a hidden leak.
    """

    volume: float = 0.0
    water: float = 0.0
    core: float = 0.0
    pump: float = 0.0
    hose: float = 0.0
    release: float = 0.0
    extra_leak: float = 0.0


@dataclass(frozen=True)
class RigPart:
    """One part of the rig line, for drawing and ranking: the tubes of the network that belong to it."""

    name: str
    label: str
    kind: str
    tubes: tuple[str, ...]
    side: str = ""


@dataclass(frozen=True)
class Assembly:
    """The network, which node the gauge sees, which node is worst reached, and the rig's parts in order."""

    network: Network
    system: SystemModel
    gauge_node: str
    parts: tuple[RigPart, ...]
    port_nodes: dict[str, str] = field(default_factory=dict)


class _Builder:
    def __init__(self, job: Job, unknown: Unknowns) -> None:
        self.u = unknown
        self.nodes: list[Node] = []
        self.tubes: list[Tube] = []
        self.outgassing: list[Outgassing] = []
        self.parts: list[RigPart] = []
        self.ambient = job.scope.ambient_c + 273.15

    def node(self, name: str, volume: float) -> str:
        self.nodes.append(Node(name, max(volume, 1e-7), self.ambient))
        return name

    def hose(self, prefix: str, label: str, hose: Hose, a: str, b: str, side: str) -> None:
        """A hose: two narrower ends, the bore between them, permeation along it, volume halved to each end."""
        z = self.u.hose
        bore = cat.HOSE_BORE[hose.size].value
        end_bore = min(bore, cat.HOSE_END_BORE[hose.size].value)
        end = cat.END_LENGTH.value
        volume = 0.785 * bore**2 * hose.length_m
        near, far = self.node(f"{prefix}.a", 0.5 * volume), self.node(f"{prefix}.b", 0.5 * volume)
        names = (f"{prefix}.end-a", f"{prefix}.bore", f"{prefix}.end-b")
        self.tubes.append(Tube(names[0], a, near, end_bore, end, kind="hose"))
        self.tubes.append(Tube(names[1], near, far, bore, hose.length_m, kind="hose"))
        if hose.depressor:
            d, length = cat.DEPRESSOR_BORE.value, cat.DEPRESSOR_LENGTH.value
            self.tubes.append(Tube(names[2], far, b, d, length, kind="hose"))
        else:
            self.tubes.append(Tube(names[2], far, b, end_bore, end, kind="hose"))
        steady = cat.HOSE_STEADY[hose.kind].quantile(z) * hose.length_m
        fresh = cat.HOSE_FRESH[hose.age].quantile(z) * hose.length_m
        for place in (near, far):
            self.outgassing.append(Outgassing(place, Gas.AIR, 0.5 * steady, 0.25 * fresh, label))
            self.outgassing.append(Outgassing(place, Gas.WATER, 0.0, 0.25 * fresh, label))
        self.parts.append(RigPart(prefix, label, "hose", names, side))

    def port(self, path: Path, at: str, port_node: str) -> None:
        side = path.port
        if path.tool:
            inner = self.node(f"{side}.tool", 8e-6)
            self.tubes.append(
                Tube(f"{side}.tool-bore", at, inner, cat.TOOL_BORE.value, cat.TOOL_LENGTH.value, kind="valve")
            )
            self.parts.append(RigPart(f"{side}.tool", "tool", "tool", (f"{side}.tool-bore",), side))
            at = inner
        if path.core == "in":
            bore, length = cat.CORE_IN_BORE.quantile(-self.u.core), cat.CORE_IN_LENGTH.value
        else:
            bore, length = cat.PORT_BORE.value, cat.PORT_LENGTH.value
        self.tubes.append(
            Tube(f"{side}.port", at, port_node, bore, length, kind="core" if path.core == "in" else "port")
        )
        label = "core in port" if path.core == "in" else "open port"
        self.parts.append(RigPart(f"{side}.port", label, "port", (f"{side}.port",), side))


def hose_label(hose: Hose) -> str:
    """How a hose is named on the rig line: bore and length."""
    return f"{hose.size} · {hose.length_m:g} m"


def pump_element(job: Job, unknown: Unknowns, ballast: bool = False, running: bool = True) -> Pump:
    """The pump of the sheet as an element at node ``pump``.

    A measured blank-off overrides the plate; ballast open raises the ultimate; wet oil gives water back.
    """
    pump = job.rig.pump
    measured = pump.blank_off_micron is not None
    ultimate = float(pump.blank_off_micron or 0.0) * MICRON_PA if measured else cat.PUMP_ULTIMATE.quantile(unknown.pump)
    vapour = cat.OIL_WATER[pump.oil].quantile(0.0 if measured else unknown.pump)
    air = max(0.5 * MICRON_PA, ultimate - vapour) if measured else ultimate
    if ballast:
        air += cat.BALLAST_ULTIMATE.quantile(unknown.pump)
    speed = pump.plate_cfm * CFM_M3_S * cat.PUMP_SPEED_SHARE.quantile(-unknown.pump)
    return Pump("pump", speed, air, min(vapour, ultimate) if measured else vapour, running)


def assemble(job: Job, unknown: Unknowns | None = None, ballast: bool = False) -> Assembly:
    """Network of the sheet's rig on its system. Raises ScopeError if a path has no port to go to."""
    u = unknown or Unknowns()
    system = build_system(job.scope)
    rig = job.rig
    for path in rig.paths:
        if path.port not in system.ports:
            raise ScopeError(f"this system has no {path.port} port; take that hose off the rig")
    b = _Builder(job, u)
    b.node("pump", cat.TEE_VOLUME.value)
    b.node("tee", cat.TEE_VOLUME.value)
    b.tubes.append(Tube("intake", "pump", "tee", cat.PUMP_INLET_BORE.value, 0.05, kind="pump"))
    b.parts.append(RigPart("intake", "intake", "pump", ("intake",)))
    fan_out = "tee"
    if rig.manifold != "none":
        centre = b.node("manifold", 25e-6)
        b.hose("pump-hose", hose_label(rig.pump_hose), rig.pump_hose, "tee", centre, "")
        fan_out = centre
    for path in rig.paths:
        start = fan_out
        if rig.manifold != "none":
            start = b.node(f"{path.port}.manifold", 6e-6)
            name = f"{path.port}.passage"
            bore = cat.MANIFOLD_BORE[rig.manifold].value
            b.tubes.append(Tube(name, fan_out, start, bore, cat.MANIFOLD_LENGTH.value, kind="valve"))
            b.parts.append(RigPart(name, "manifold", "manifold", (name,), path.port))
        end = b.node(f"{path.port}.end", 4e-6)
        b.hose(f"{path.port}.hose", hose_label(path.hose), path.hose, start, end, path.port)
        b.port(path, end, f"system.{system.ports[path.port]}")

    return Assembly(
        _join_system(job, system, b, u, ballast), system, _gauge_node(job, system), tuple(b.parts), dict(system.ports)
    )


def _join_system(job: Job, system: SystemModel, b: _Builder, u: Unknowns, ballast: bool) -> Network:
    nodes = list(b.nodes)
    tubes = list(b.tubes)
    spread = system.volume()
    scale = spread.quantile(u.volume) / spread.value
    for s in system.sections:
        t = system.coldest if s.cold else system.ambient
        nodes.append(Node(f"system.{s.name}", s.volume.value * scale, t, "system"))
    for link in system.links:
        tubes.append(
            Tube(
                f"system.{link.name}",
                f"system.{link.a}",
                f"system.{link.b}",
                link.bore.value,
                link.length.value,
                kind=link.kind,
            )
        )
    water = system.water
    place = f"system.{water.place}"
    free: Quantity = water.free
    pools = []
    mass = free.quantile(u.water)
    if mass > 1e-7:
        pools.append(
            Pool(place, mass, sys_cat.WATER_TRANSFER.quantile(u.release), sys_cat.WATER_HEAT.quantile(u.release))
        )
    saturation = 1.0 / 1500.0
    oil_mass = water.oil.quantile(u.water)
    wall_mass = water.wall.quantile(u.water)
    sorbed = [
        Sorbed(place, Gas.WATER, wall_mass, sys_cat.WALL_TAU.quantile(-u.release), wall_mass * saturation, "walls"),
    ]
    if oil_mass > 1e-9:
        sorbed.append(
            Sorbed(place, Gas.WATER, oil_mass, water.oil_tau.quantile(-u.release), oil_mass * saturation, "oil")
        )
    leaks = (Leak(place, u.extra_leak, system.humidity),) if u.extra_leak > 0 else ()
    return Network(
        tuple(nodes),
        tuple(tubes),
        (pump_element(job, u, ballast),),
        leaks,
        tuple(b.outgassing),
        tuple(pools),
        tuple(sorbed),
        system.atmosphere,
        system.humidity,
    )


def _gauge_node(job: Job, system: SystemModel) -> str:
    place = job.rig.gauge.place
    if place == "pump":
        return "tee"
    if place == "manifold":
        return "manifold"
    kind, side = place.split(":")
    on_path = {p.port: p for p in job.rig.paths}
    if side not in system.ports:
        raise ScopeError(f"the gauge sits at the {side} port, but this system has none")
    if kind == "tool" and side in on_path and on_path[side].tool:
        return f"{side}.tool"
    return f"system.{system.ports[side]}"
