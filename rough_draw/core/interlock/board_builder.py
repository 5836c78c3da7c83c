"""The board of a sheet, built: what nothing can shut is one compartment, what a hand can turn stands between two."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Literal

from rough_draw.core.catalogue.fluids import AMBIENT_SHARE
from rough_draw.core.catalogue.systems import LINKS
from rough_draw.core.engine.network import Tube
from rough_draw.core.interlock.compartments import Board, Gate, GateKind, Room
from rough_draw.core.message import Message, Name, message
from rough_draw.core.model.assemble import Assembly, assemble
from rough_draw.core.model.system import section_volume
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import (
    AdapterPart,
    GaugePart,
    HosePart,
    ManifoldPart,
    PumpPart,
    TeePart,
    ToolPart,
    ValvePart,
)
from rough_draw.core.sheet.scope import Link

NITROGEN_PA = 300_000.0
"""What a regulator is set to for a break or a sweep, absolute Pa."""
AIR, SOURCE, SYSTEM = "air", "source.", "system."


class _Sets:
    """Union of node names."""

    def __init__(self, names: list[str]) -> None:
        self.up = {n: n for n in names}

    def find(self, n: str) -> str:
        while self.up[n] != n:
            self.up[n] = self.up[self.up[n]]
            n = self.up[n]
        return n

    def join(self, a: str, b: str) -> None:
        self.up[self.find(a)] = self.find(b)


def _is_gate(link: Link) -> bool:
    return link.kind in LINKS and link.kind not in ("capillary", "filter-drier", "check-valve")


def _service(link: Link, job: Job) -> Message:
    """A service valve in words: with its side where the sheet gives it no name of its own."""
    ends = [job.scope.section(link.a), job.scope.section(link.b)]
    side = _side_of(link, job)
    words = link.words()
    if side != "other" and side not in link.name:
        words = message("link-with-side", side=side, link=words)
    alike = [x for x in job.scope.links if x.kind == link.kind and not x.name and x.id != link.id]
    inner = next((e for e in ends if not e.holds_charge), ends[0])
    # With several circuits the side alone would not say which valve is meant.
    twice = not link.name and any(_side_of(x, job) == side for x in alike)
    return message("the-at", thing=words, place=inner.words()) if twice else message("the", thing=words)


def _side_of(link: Link, job: Job) -> str:
    ends = [job.scope.section(link.a), job.scope.section(link.b)]
    return next((e.side for e in ends if not e.holds_charge), "other")


Bottle = Literal["", "cylinder", "nitrogen"]


@dataclass(frozen=True, kw_only=True)
class _RawGate:
    """A gate between two nodes, before nodes are rooms."""

    name: str
    kind: GateKind
    a: str
    b: str
    label: Name
    part: str


@dataclass(frozen=True)
class _Source:
    """A bottle or cylinder: its name, what is in it, and the node its valve opens into."""

    name: str
    kind: Literal["cylinder", "nitrogen"]
    node: str


@dataclass
class _Draft:
    """A board while it is put together."""

    job: Job
    assembly: Assembly
    at_pump: Bottle
    sources: list[_Source]
    names: list[str]
    sets: _Sets
    raw: list[_RawGate] = field(default_factory=list)
    shut: set[str] = field(default_factory=set)
    cored: set[str] = field(default_factory=set)
    sprung: set[str] = field(default_factory=set)
    ports: dict[str, str] = field(default_factory=dict)
    by_tube: dict[str, str] = field(default_factory=dict)

    def add(self, gate: _RawGate, is_open: bool, tube: str = "") -> None:
        """A gate, and the passage that it shuts."""
        self.raw.append(gate)
        if tube:
            self.by_tube[tube] = gate.name
        if not is_open:
            self.shut.add(gate.name)

    def at(self, node: str) -> str:
        """What stands for the room of a node."""
        return self.sets.find(node)


def make_board(job: Job, assembly: Assembly | None = None, at_pump: Bottle = "") -> Board:
    """The board of a sheet; ``at_pump``: its hose is moved from the pump to this. Raises ScopeError if in pieces."""
    a = assembly or assemble(job, needs_pump=False)
    kept = {s.id for s in job.scope.sections if s.holds_charge}
    names = [n.name for n in a.network.nodes] + [f"{SYSTEM}{s}" for s in kept] + [AIR]
    sources = _sources(job, names, at_pump)
    names += [f"{SOURCE}{x.name}" for x in sources]
    draft = _Draft(job, a, at_pump, sources, names, _Sets(names))
    for tube in a.network.tubes:
        _add_tube(draft, tube)
    for link in job.scope.links:
        _add_link(draft, link, kept)
    for x in sources:
        label = message("valve-of", thing=message(f"part-{x.kind}"))
        gate = _RawGate(name=x.name, kind=x.kind, a=x.node, b=f"{SOURCE}{x.name}", label=label, part=x.name)
        draft.add(gate, is_open=False)
    return _numbered(draft)


def _sources(job: Job, names: list[str], at_pump: Bottle) -> list[_Source]:
    found = []
    for p in job.rig.parts:
        if p.kind in ("cylinder", "nitrogen") and p.on is not None:
            above = job.rig.get(p.on)
            node = f"{p.on}.end" if isinstance(above, HosePart) else f"{p.on}.{p.at}"
            if node in names:
                found.append(_Source(p.id, "cylinder" if p.kind == "cylinder" else "nitrogen", node))
    if at_pump:
        found.append(_Source(at_pump, at_pump, "pump"))
    return found


def _add_tube(d: _Draft, t: Tube) -> None:
    """A passage of the network: a valve, a port, or one that nothing can shut."""
    valve = next((v for v in d.assembly.valves.values() if v.tube == t.name), None)
    if valve is not None and not (d.at_pump and valve.name == "pump"):
        kind: GateKind = "section" if valve.where == "system" else "valve"
        gate = _RawGate(name=valve.name, kind=kind, a=t.a, b=t.b, label=valve.label, part=valve.part)
        d.add(gate, t.open, t.name)
    elif valve is None and t.name.endswith(".port"):
        _add_port(d, t)
    else:
        d.sets.join(t.a, t.b)


def _add_port(d: _Draft, t: Tube) -> None:
    port = d.job.scope.port(t.name.removesuffix(".port"))
    part = d.job.rig.on_port(port.id) if port else None
    name = f"port:{port.id}" if port else t.name
    words = message("the", thing=port.words()) if port else t.name
    gate = _RawGate(name=name, kind="port", a=t.a, b=t.b, label=words, part=part.id if part else "")
    d.add(gate, t.open, t.name)
    if port is None or part is None:
        return
    d.ports[port.id] = part.id
    if d.job.rig.keeps_core(port):
        d.sprung.add(name)
    elif port.core and d.job.rig.tool_at(port.id) is not None:
        # Its core goes back in through the tool. One that was pulled by hand cannot, under pressure.
        d.cored.add(name)


def _add_link(d: _Draft, x: Link, kept: set[str]) -> None:
    """A link to what keeps its charge: a service valve, or open for good between two such."""
    if x.a not in kept and x.b not in kept:
        return
    a, b = f"{SYSTEM}{x.a}", f"{SYSTEM}{x.b}"
    if x.a in kept and x.b in kept and not _is_gate(x):
        d.sets.join(a, b)
        return
    label = _service(x, d.job)
    d.add(_RawGate(name=f"{SYSTEM}{x.id}", kind="service", a=a, b=b, label=label, part=x.id), x.open)


def _numbered(d: _Draft) -> Board:
    """The draft with its rooms by number."""
    roots = list(dict.fromkeys(d.at(n) for n in d.names))
    index = {r: i for i, r in enumerate(roots)}
    inside: dict[str, list[str]] = {r: [] for r in roots}
    for n in d.names:
        inside[d.at(n)].append(n)

    def at(node: str) -> int:
        return index[d.at(node)]

    gates = {g.name: Gate(name=g.name, kind=g.kind, a=at(g.a), b=at(g.b), label=g.label, part=g.part) for g in d.raw}
    near: dict[int, list[str]] = {}
    for g in gates.values():
        near.setdefault(g.a, []).append(g.name)
        near.setdefault(g.b, []).append(g.name)
    rooms = tuple(_room(d, r, inside[r]) for r in roots)
    return Board(
        job=d.job,
        assembly=d.assembly,
        rooms=rooms,
        gates=gates,
        pump=at("pump"),
        gauges={g: at(n) for g, n in d.assembly.gauges.items()},
        ends={part: at(node) for part, node in _ends(d).items()},
        ports=d.ports,
        cored=frozenset(d.cored),
        sprung=frozenset(d.sprung),
        shut=frozenset(d.shut),
        air=at(AIR),
        near={k: tuple(v) for k, v in near.items()},
        pump_gone=bool(d.at_pump),
        places={n: at(n) for n in d.names},
        by_tube=d.by_tube,
        taps={x.name: x.node for x in d.sources},
        liquid_ports=frozenset(p.id for p in d.job.scope.ports if p.side == "liquid"),
        hoses=_hoses(d, at),
        hollow=frozenset(_hoses(d, at)) | {at(p.id) for p in d.job.rig.parts if isinstance(p, ManifoldPart)},
    )


def _hoses(d: _Draft, at: Callable[[str], int]) -> dict[int, tuple[str, ...]]:
    """Hoses by the room their bore is in."""
    found: dict[int, tuple[str, ...]] = {}
    for p in d.job.rig.parts:
        if isinstance(p, HosePart):
            room = at(f"{p.id}.b")
            found[room] = (*found.get(room, ()), p.id)
    return found


def _ends(d: _Draft) -> dict[str, str]:
    """The node that stands open to the air when a part is taken off."""
    found = {}
    for p in d.job.rig.parts:
        if isinstance(p, HosePart):
            found[p.id] = f"{p.id}.end"
        elif isinstance(p, ToolPart):
            found[p.id] = f"{p.id}.port-side"
        elif isinstance(p, GaugePart):
            found[p.id] = d.assembly.gauges[p.id]
        elif isinstance(p, AdapterPart | ValvePart):
            alone = p.port is not None and p.on is None
            found[p.id] = f"{p.id}.port-side" if alone else f"{p.id}.end"
        elif isinstance(p, ManifoldPart | TeePart):
            found[p.id] = p.id
        elif isinstance(p, PumpPart):
            found[p.id] = "intake"
    return found


def _room(d: _Draft, root: str, mine: list[str]) -> Room:
    """A compartment of the nodes ``mine``."""
    volume = {n.name: n.volume for n in d.assembly.network.nodes}
    sections = {f"{SYSTEM}{s.id}": s for s in d.job.scope.sections}
    hoses = {f"{p.id}.a": p for p in d.job.rig.parts if isinstance(p, HosePart)}
    inside = [sections[n] for n in mine if n in sections]
    is_kept = any(s.holds_charge for s in inside)
    room = Room(
        name=root,
        volume=sum(volume.get(n, 0.0) for n in mine) or sum(section_volume(s).value for s in inside) or 1e-3,
        system=bool(inside) and not is_kept,
        kept=is_kept,
        hose_m=sum(hoses[n].length_m for n in mine if n in hoses),
        sections=tuple(s.words() for s in inside),
    )
    return _supplied(d, room, mine)


def _supplied(d: _Draft, room: Room, mine: list[str]) -> Room:
    """A compartment with the endless supply it may have: the air, a bottle, what keeps its charge."""
    ref = d.job.scope.fluid.pressure_40c.value * AMBIENT_SHARE.value
    if AIR in mine:
        return replace(room, source="air", supply=d.assembly.system.atmosphere)
    bottle = next((x for x in d.sources if f"{SOURCE}{x.name}" in mine), None)
    if bottle is not None and bottle.kind == "nitrogen":
        return replace(room, source="nitrogen", supply=NITROGEN_PA)
    if bottle is not None or room.kept:
        return replace(room, source="refrigerant", supply=ref)
    return room
