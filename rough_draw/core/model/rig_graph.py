"""The rig as a graph of volumes and passages: one walk over its parts, pump first.

What hangs on the pump comes first, then chains that stand on a port of their own. `assemble` joins the result to the
system; everything else asks the joined graph.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.engine.network import Leak, Node, Outgassing, Tube
from rough_draw.core.message import Name, message
from rough_draw.core.model.rig_sizes import CORE, DEPRESSOR, Sizes, hose_bore, hose_end, known
from rough_draw.core.model.rig_sources import hose_volume, part_sources, tool_leak
from rough_draw.core.model.system import ScopeError, SystemModel
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_size, part_name, tool_name
from rough_draw.core.sheet.rig import (
    AdapterPart,
    GaugePart,
    HosePart,
    ManifoldPart,
    Part,
    PumpPart,
    Rig,
    TeePart,
    ToolPart,
    ValvePart,
)
from rough_draw.core.sheet.scope import Port


@dataclass(frozen=True, kw_only=True)
class Unknowns:
    """Standard normal deviates for what is not known exactly: 0 is the best guess of each.

    ``bores`` of the rig's parts, ``lines`` of the system's own passages (lengths go with them), ``core`` of cores and
    depressors, ``speed`` of the pump, ``pump`` its end pressure, ``oil`` refrigerant left in the compressor's oil.
    ``extra_leak`` Pa·m³/s is air let in at the system, for worlds with a hidden leak.
    """

    volume: float = 0.0
    water: float = 0.0
    core: float = 0.0
    pump: float = 0.0
    hose: float = 0.0
    release: float = 0.0
    bores: float = 0.0
    lines: float = 0.0
    speed: float = 0.0
    oil: float = 0.0
    extra_leak: float = 0.0


@dataclass(frozen=True)
class RigPart:
    """One part of the rig for ranking: the tubes of the network that belong to it, and the ports it leads to."""

    name: str
    label: Name
    kind: str
    tubes: tuple[str, ...]
    side: str = ""


@dataclass(frozen=True)
class Valve:
    """Something a hand can shut: its id, words, the tube it shuts, and the part or link it belongs to.

    ``where``: ``rig`` or ``system``.
    """

    name: str
    label: Name
    tube: str
    part: str
    where: str = "rig"


class RigBuilder:
    """Nodes, passages, valves, leaks and sources of a rig, collected in one walk."""

    def __init__(
        self, job: Job, unknown: Unknowns, system: SystemModel, read: Mapping[str, Quantity] | None = None
    ) -> None:
        self.u = unknown
        self.read = read or {}
        self.rig: Rig = job.rig
        self.scope = job.scope
        self.ports = {p.id: p for p in job.scope.ports}
        self.system = system
        self.nodes: list[Node] = []
        self.tubes: list[Tube] = []
        self.outgassing: list[Outgassing] = []
        self.leaks: list[Leak] = []
        self.parts: list[RigPart] = []
        self.valves: dict[str, Valve] = {}
        self.outlets: dict[tuple[str, str], str] = {}
        self.gauges: dict[str, str] = {}
        self.port_nodes: dict[str, str] = {}
        self.sizes: dict[str, Sizes] = {}
        self.ambient = system.ambient

    def node(self, name: str, volume: float) -> str:
        self.nodes.append(Node(name, max(volume, 1e-7), self.ambient))
        return name

    def tube(self, name: str, a: str, b: str, sizes: Sizes, kind: str = "tube", is_open: bool = True) -> str:
        bore, length, width = sizes.at(self.u.bores, self.u.core)
        self.sizes[name] = sizes
        self.tubes.append(Tube(name=name, a=a, b=b, bore=bore, length=length, width=width, open=is_open, kind=kind))
        return name

    def valve(self, name: str, label: Name, tube: str, part: str) -> None:
        self.valves[name] = Valve(name, label, tube, part)

    def part(self, part: Part, label: Name, tubes: tuple[str, ...], side: str) -> None:
        self.parts.append(RigPart(part.id, label, part.kind, tubes, side))

    def side(self, part: Part) -> str:
        """Port the part leads to, if it leads to just one."""
        ports = {p.port for p in (part, *self.rig.below(part.id)) if p.port}
        return ports.pop() if len(ports) == 1 else ""

    def walk(self) -> None:
        """The pump and everything on it first, then chains that stand on a port of their own."""
        roots = [p for p in self.rig.parts if p.on is None]
        todo = sorted(roots, key=lambda p: p.kind != "pump")
        while todo:
            p = todo.pop(0)
            self.place(p)
            todo = [*self.rig.children(p.id), *todo]

    def near(self, part: Part) -> str | None:
        """Node that a part is screwed on, or None where it stands on its port alone."""
        return self.outlets[part.on, part.at] if part.on is not None else None

    def place(self, part: Part) -> None:
        self.outgassing += part_sources(part, self.u.hose, self.read.get(part.id))
        if isinstance(part, PumpPart):
            self.place_pump(part)
        elif isinstance(part, TeePart):
            node = self.node(part.id, cat.TEE_VOLUME.value)
            self.tube(f"{part.id}.way", self.must_near(part), node, Sizes(cat.TEE_BORE, cat.TEE_LENGTH))
            self.part(part, message("part-tee"), (f"{part.id}.way",), self.side(part))
            self.outlets |= {(part.id, o): node for o in part.outlets()}
        elif isinstance(part, HosePart):
            self.place_hose(part)
        elif isinstance(part, ManifoldPart):
            self.place_manifold(part)
        elif isinstance(part, ToolPart):
            self.place_tool(part)
        elif isinstance(part, AdapterPart | ValvePart):
            self.place_fitting(part)
        elif isinstance(part, GaugePart):
            self.place_gauge(part)

    def must_near(self, part: Part) -> str:
        near = self.near(part)
        if near is None:
            raise ScopeError(message("sheet-part-alone", part=part_name(part)), f"rig.parts.{part.id}")
        return near

    def place_pump(self, pump: PumpPart) -> None:
        inner = self.node("pump", cat.TEE_VOLUME.value)
        outer = self.node("intake", 5e-6)
        self.tube("pump.intake", inner, outer, Sizes(cat.PUMP_INLET_BORE[pump.intake], known(0.05)), "pump")
        self.part(pump, message("pump-intake"), ("pump.intake",), "")
        if pump.valve:
            self.valve(pump.id, message("pump-valve"), "pump.intake", pump.id)
        self.outlets |= {(pump.id, "end"): outer, (pump.id, "side"): outer}

    def place_hose(self, hose: HosePart) -> None:
        """Two narrower ends, the bore between them, permeation along it, volume halved to each end."""
        volume = hose_volume(hose)
        near = self.near(hose)
        a, b = self.node(f"{hose.id}.a", 0.5 * volume), self.node(f"{hose.id}.b", 0.5 * volume)
        names = [self.tube(f"{hose.id}.bore", a, b, hose_bore(hose), "hose")]
        if near is not None:
            names.insert(0, self.tube(f"{hose.id}.end-a", near, a, hose_end(hose, "near"), "hose"))
        far = self.node(f"{hose.id}.end", 4e-6)
        last = DEPRESSOR if hose.depressor else hose_end(hose, "far")
        names.append(self.tube(f"{hose.id}.end-b", b, far, last, "valve" if hose.ball_end else "hose"))
        if hose.ball_end:
            port = self.ports.get(self.side(hose))
            bottle = next((c.kind for c in self.rig.children(hose.id) if c.kind in ("cylinder", "nitrogen")), "")
            where: Name = hose.name or message(
                "hose-led-to", to=port.words() if port is not None else bottle or hose.id
            )
            self.valve(hose.id, message("hose-end-valve", hose=where), f"{hose.id}.end-b", hose.id)
        self.part(hose, hose_size(hose), tuple(names), self.side(hose))
        if hose.port:
            self.on_port(hose, far, pushed=hose.depressor)
        self.outlets[hose.id, "end"] = far

    def place_manifold(self, m: ManifoldPart) -> None:
        body = self.node(m.id, 25e-6)
        way = Sizes(cat.MANIFOLD_BORE[m.body], cat.MANIFOLD_LENGTH)
        near = self.must_near(m)
        tubes = []
        taken = {m.inlet, *(c.at for c in self.rig.children(m.id))}
        self.outlets[m.id, "sensor"] = body
        for place in sorted(m.places(), key=lambda p: p != m.inlet):
            if place not in taken:
                continue  # capped: nothing flows there
            node = near if place == m.inlet else self.node(f"{m.id}.{place}", 6e-6)
            name = self.tube(f"{m.id}.{place}-way", body, node, way, "valve" if m.valved(place) else "tube")
            tubes.append((place, name))
            if m.valved(place):
                self.valve(f"{m.id}.{place}", message("manifold-valve", port=place), name, m.id)
            self.outlets[m.id, place] = node
        for place, name in tubes:
            side = "" if place == m.inlet else next(self.side(c) for c in self.rig.children(m.id) if c.at == place)
            self.parts.append(
                RigPart(f"{m.id}.{place}", message("manifold-way", port=place), "manifold", (name,), side)
            )

    def place_tool(self, tool: ToolPart) -> None:
        """A ball valve between its hose end and the node by the port, where its side port is."""
        ball = Sizes(cat.TOOL_BORE[tool.bore], cat.TOOL_LENGTH)
        inner = self.node(f"{tool.id}.port-side", cat.TOOL_VOLUME.value)
        near = self.near(tool)
        name = f"{tool.id}.ball"
        outlets = tool.outlets()
        if self.rig.port_under(tool) is not None:
            outer = near if near is not None else self.node(f"{tool.id}.end", 4e-6)
            self.tube(name, outer, inner, ball, "valve")
            if tool.port is not None:
                self.on_port(tool, inner, pushed=False)
            else:
                # An adapter is between it and the port.
                self.outlets[tool.id, "end"] = inner
        else:
            # On a side port or in a line: what it is screwed on is its port side.
            outer = self.node(f"{tool.id}.end", 4e-6)
            self.tube(f"{tool.id}.neck", self.must_near(tool), inner, Sizes(ball.bore, known(0.02)))
            self.tube(name, inner, outer, ball, "valve")
        if "end" in outlets and (tool.id, "end") not in self.outlets:
            self.outlets[tool.id, "end"] = outer
        self.outlets[tool.id, "side"] = self.side_port(tool, inner)
        self.valve(tool.id, tool_name(self.rig, self.scope, tool), name, tool.id)
        if not tool.vacuum_rated:
            self.leaks.append(tool_leak(inner, tool, self.u.hose, self.system.humidity))
        if tool.port is not None and near is not None:
            self.part(tool, message("part-tool"), (name,), self.side(tool))

    def side_port(self, tool: ToolPart, inner: str) -> str:
        """Node of a tool's side port: by the port, or behind a core of its own that what is screwed on may push."""
        on_it = next((c for c in self.rig.children(tool.id) if c.at == "side"), None)
        if not tool.side_core or on_it is None:
            return inner
        node = self.node(f"{tool.id}.side", 2e-6)
        pushed = bool(getattr(on_it, "depressor", False))
        self.tube(f"{tool.id}.side-core", inner, node, CORE, "core", pushed)
        return node

    def place_fitting(self, part: AdapterPart | ValvePart) -> None:
        adapter = isinstance(part, AdapterPart)
        way = Sizes(cat.ADAPTER_BORE, cat.ADAPTER_LENGTH) if adapter else Sizes(cat.VALVE_BORE, cat.VALVE_LENGTH)
        end = self.node(f"{part.id}.end", 4e-6)
        name = f"{part.id}.way"
        near = self.near(part)
        if near is not None:
            self.tube(name, near, end, way, "tube" if adapter else "valve")
            self.part(part, message(f"part-{part.kind}"), (name,), self.side(part))
        if part.port:
            if near is None:
                # It stands on the port alone: its way lies between the port and what is screwed on it.
                inner = self.node(f"{part.id}.port-side", 3e-6)
                self.tube(name, inner, end, way, "tube" if adapter else "valve")
                self.on_port(part, inner, pushed=isinstance(part, AdapterPart) and part.depressor)
            else:
                self.on_port(part, end, pushed=isinstance(part, AdapterPart) and part.depressor)
        if isinstance(part, ValvePart):
            self.valve(part.id, message("valve-named", name=part.name or part.id), name, part.id)
        self.outlets[part.id, "end"] = end

    def place_gauge(self, g: GaugePart) -> None:
        """A gauge is an observer at the node it sits on; on a port it looks through the core it pushes."""
        near = self.near(g)
        if near is None:
            near = self.node(f"{g.id}.cell", 3e-6)
            self.on_port(g, near, pushed=g.depressor)
        if g.valve:
            cell = self.node(f"{g.id}.own", 2e-6)
            self.tube(f"{g.id}.valve", near, cell, Sizes(known(4e-3), known(0.03)), "valve")
            self.valve(g.id, message("gauge-valve"), f"{g.id}.valve", g.id)
            near = cell
        self.gauges[g.id] = near

    def bare_port(self, port: Port) -> Sizes:
        """A port without a core; a cylinder's is the way through its own valve."""
        section = next((s for s in self.scope.sections if s.id == port.section), None)
        if section is not None and section.kind == "cylinder":
            return Sizes(cat.CYLINDER_VALVE_BORE, cat.CYLINDER_VALVE_LENGTH)
        return Sizes(cat.PORT_BORE[port.size], cat.PORT_LENGTH)

    def on_port(self, part: Part, node: str, pushed: bool) -> None:
        """The service port under a part: open, through a pushed core, or shut by a core that nothing pushes."""
        assert part.port is not None
        port: Port | None = self.ports.get(part.port)
        if port is None:
            known = ", ".join(self.ports) or "none"
            raise ScopeError(
                message("sheet-unknown-port", port=part.port or "", part=part_name(part), known=known),
                f"rig.parts.{part.id}",
            )
        core_in = self.rig.keeps_core(port)
        way = CORE if core_in else self.bare_port(port)
        name = f"{port.id}.port"
        passes = not core_in or pushed
        self.tube(name, node, f"system.{port.section}", way, "core" if core_in else "port", passes)
        if self.rig.from_pump(part):
            words = message("core-in-port" if core_in else "open-port")
            self.parts.append(RigPart(name, words, "port", (name,), port.id))
        self.port_nodes[port.id] = node
