"""The board that touches are played on: rig and system as compartments with valves, ports and sources between them.

Made from the same graph as the engine's network. Passages that nothing can shut are one compartment; what a hand can
turn, pull or take off stands between two.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Literal

from rough_draw.core.catalogue.fluids import AMBIENT_SHARE, REFRIGERANTS
from rough_draw.core.catalogue.systems import LINKS
from rough_draw.core.model.assemble import Assembly, assemble
from rough_draw.core.model.system import section_volume
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import GaugePart, HosePart, ManifoldPart, ToolPart
from rough_draw.core.sheet.scope import Link

GateKind = Literal["valve", "service", "section", "port", "cylinder", "nitrogen"]
NITROGEN_PA = 300_000.0
"""What a regulator is set to for a break or a sweep, absolute Pa."""


@dataclass(frozen=True, kw_only=True)
class Gate:
    """Something between two compartments that a hand opens and shuts. ``part``: the rig part or link it belongs to."""

    name: str
    kind: GateKind
    a: int
    b: int
    label: str
    part: str


@dataclass(frozen=True, kw_only=True)
class Room:
    """A compartment: volume m³ and what it is part of. ``source``: an endless supply of a gas at ``supply`` Pa."""

    name: str
    volume: float
    system: bool = False
    kept: bool = False
    hose_m: float = 0.0
    source: Literal["", "refrigerant", "nitrogen", "air"] = ""
    supply: float = 0.0
    sections: tuple[str, ...] = ()


@dataclass(frozen=True, eq=False, kw_only=True)
class Board:
    """Rooms and gates of one sheet, and where pump, gauges and the open ends of parts are.

    ``ends``: the room that stands open to the air when a part is taken off. ``cored``: gates of ports that have a core
    for a tool to put back. ``sprung``: ports that shut themselves when what pushes their core is taken off.
    ``found``: rooms joined to each room, kept by what is open: a search asks again and again.
    ``pump_gone``: the hose at the pump stands on a bottle; ``pump`` is then the room at its end.
    ``places``: room of every node of the network. ``by_tube``: the gate that shuts a passage. ``taps``: node that a
    gate at a source opens into.
    """

    job: Job
    assembly: Assembly
    rooms: tuple[Room, ...]
    gates: dict[str, Gate]
    pump: int
    gauges: dict[str, int]
    ends: dict[str, int]
    ports: dict[str, str]
    cored: frozenset[str] = frozenset()
    sprung: frozenset[str] = frozenset()
    shut: frozenset[str] = frozenset()
    air: int = 0
    near: dict[int, tuple[str, ...]] = field(default_factory=dict)
    pump_gone: bool = False
    places: dict[str, int] = field(default_factory=dict)
    by_tube: dict[str, str] = field(default_factory=dict)
    taps: dict[str, str] = field(default_factory=dict)
    found: dict[frozenset[str], tuple[frozenset[int], ...]] = field(default_factory=dict, repr=False)

    @property
    def atmosphere(self) -> float:
        """Pressure of the air, Pa."""
        return self.rooms[self.air].supply

    def fed(self, gate: str) -> int:
        """The room that a gate at a source lets its gas into."""
        g = self.gates[gate]
        return g.b if self.rooms[g.a].source else g.a

    def label(self, gate: str) -> str:
        """A gate in words."""
        return self.gates[gate].label


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


def _service(link: Link, job: Job) -> str:
    """A service valve in words: with its side where the sheet gives it no name of its own."""
    ends = [job.scope.section(link.a), job.scope.section(link.b)]
    side = _side_of(link, job)
    words = link.words()
    words = words if side == "other" or side in words else f"{side} {words}"
    alike = [x for x in job.scope.links if x.kind == link.kind and not x.name and x.id != link.id]
    inner = next((e for e in ends if not e.holds_charge), ends[0])
    # With several circuits the side alone would not say which valve is meant.
    twice = not link.name and any(_side_of(x, job) == side for x in alike)
    return f"the {words} at the {inner.words()}" if twice else f"the {words}"


def _side_of(link: Link, job: Job) -> str:
    ends = [job.scope.section(link.a), job.scope.section(link.b)]
    return next((e.side for e in ends if not e.holds_charge), "other")


Bottle = Literal["", "cylinder", "nitrogen"]


def make_board(job: Job, assembly: Assembly | None = None, at_pump: Bottle = "") -> Board:
    """The board of a sheet; ``at_pump``: its hose is moved from the pump to this. Raises ScopeError if in pieces."""
    a = assembly or assemble(job, needs_pump=False)
    net = a.network
    kept = {s.id: s for s in job.scope.sections if s.holds_charge}
    names = [n.name for n in net.nodes] + [f"system.{s}" for s in kept] + ["air"]
    by_tube = {v.tube: v for v in a.valves.values()}
    sources: list[tuple[str, str, str]] = []
    for p in job.rig.parts:
        if p.kind in ("cylinder", "nitrogen") and p.on is not None:
            above = job.rig.get(p.on)
            node = f"{p.on}.end" if isinstance(above, HosePart) else f"{p.on}.{p.at}"
            if node in names:
                sources.append((p.id, p.kind, node))
                names.append(f"source.{p.id}")
    if at_pump:
        sources.append((at_pump, at_pump, "pump"))
        names.append(f"source.{at_pump}")
    sets = _Sets(names)
    raw: list[tuple[str, GateKind, str, str, str, str]] = []
    shut: set[str] = set()
    cored: set[str] = set()
    sprung: set[str] = set()
    ports: dict[str, str] = {}
    shuts: dict[str, str] = {}
    for t in net.tubes:
        if at_pump and t.name in by_tube and by_tube[t.name].name == "pump":
            sets.join(t.a, t.b)
        elif t.name in by_tube:
            v = by_tube[t.name]
            kind: GateKind = "section" if v.where == "system" else "valve"
            raw.append((v.name, kind, t.a, t.b, v.label, v.part))
            shuts[t.name] = v.name
            if not t.open:
                shut.add(v.name)
        elif t.name.endswith(".port"):
            port = job.scope.port(t.name.removesuffix(".port"))
            part = job.rig.on_port(port.id) if port else None
            name = f"port:{port.id}" if port else t.name
            words = f"the {port.words()}" if port else t.name
            raw.append((name, "port", t.a, t.b, words, part.id if part else ""))
            shuts[t.name] = name
            if port is not None and part is not None:
                ports[port.id] = part.id
                if isinstance(part, ToolPart) and port.core and port.id not in job.rig.cores_in:
                    cored.add(name)
                elif port.core:
                    sprung.add(name)
            if not t.open:
                shut.add(name)
        else:
            sets.join(t.a, t.b)
    for x in job.scope.links:
        if x.a not in kept and x.b not in kept:
            continue
        if x.a in kept and x.b in kept and not _is_gate(x):
            sets.join(f"system.{x.a}", f"system.{x.b}")
            continue
        raw.append((f"system.{x.id}", "service", f"system.{x.a}", f"system.{x.b}", _service(x, job), x.id))
        if not x.open:
            shut.add(f"system.{x.id}")
    for name, source_kind, node in sources:
        kind = "cylinder" if source_kind == "cylinder" else "nitrogen"
        raw.append((name, kind, node, f"source.{name}", f"the {source_kind}'s valve", name))
        shut.add(name)
    board = _numbered(job, a, sets, names, raw, shut, cored, sprung, ports)
    taps = {name: node for name, _, node in sources}
    return replace(board, pump_gone=bool(at_pump), by_tube=shuts, taps=taps)


def _numbered(
    job: Job,
    a: Assembly,
    sets: _Sets,
    names: list[str],
    raw: list[tuple[str, GateKind, str, str, str, str]],
    shut: set[str],
    cored: set[str],
    sprung: set[str],
    ports: dict[str, str],
) -> Board:
    roots = list(dict.fromkeys(sets.find(n) for n in names))
    index = {r: i for i, r in enumerate(roots)}
    volume = {n.name: n.volume for n in a.network.nodes}
    sections = {f"system.{s.id}": s for s in job.scope.sections}
    ref = REFRIGERANTS[job.scope.refrigerant].pressure_40c.value * AMBIENT_SHARE.value
    hoses = {f"{p.id}.a": p for p in job.rig.parts if isinstance(p, HosePart)}
    rooms = []
    for r in roots:
        mine = [n for n in names if sets.find(n) == r]
        inside = [sections[n] for n in mine if n in sections]
        is_kept = any(s.holds_charge for s in inside)
        source = ""
        supply = 0.0
        if r == sets.find("air"):
            source, supply = "air", a.system.atmosphere
        elif any(n.startswith("source.") for n in mine):
            part = job.rig.get(next(n for n in mine if n.startswith("source."))[7:])
            moved = "source.nitrogen" in mine and part is None
            source = "nitrogen" if moved or (part is not None and part.kind == "nitrogen") else "refrigerant"
            supply = NITROGEN_PA if source == "nitrogen" else ref
        elif is_kept:
            source, supply = "refrigerant", ref
        rooms.append(
            Room(
                name=r,
                volume=sum(volume.get(n, 0.0) for n in mine) or sum(section_volume(s).value for s in inside) or 1e-3,
                system=bool(inside) and not is_kept,
                kept=is_kept,
                hose_m=sum(hoses[n].length_m for n in mine if n in hoses),
                source=source,  # type: ignore[arg-type]
                supply=supply,
                sections=tuple(s.words() for s in inside),
            )
        )

    def at(node: str) -> int:
        return index[sets.find(node)]

    gates = {n: Gate(name=n, kind=k, a=at(x), b=at(y), label=label, part=part) for n, k, x, y, label, part in raw}
    ends: dict[str, int] = {}
    for p in job.rig.parts:
        if isinstance(p, HosePart):
            ends[p.id] = at(f"{p.id}.end")
        elif isinstance(p, ToolPart) and p.port:
            ends[p.id] = at(f"{p.id}.port-side")
        elif isinstance(p, GaugePart):
            ends[p.id] = at(a.gauges[p.id])
        elif isinstance(p, ManifoldPart):
            ends[p.id] = at(p.id)
    near: dict[int, list[str]] = {}
    for g in gates.values():
        near.setdefault(g.a, []).append(g.name)
        near.setdefault(g.b, []).append(g.name)
    return Board(
        job=job,
        assembly=a,
        rooms=tuple(rooms),
        gates=gates,
        pump=at("pump"),
        gauges={g: at(n) for g, n in a.gauges.items()},
        ends=ends,
        ports=ports,
        cored=frozenset(cored),
        sprung=frozenset(sprung),
        shut=frozenset(shut),
        air=at("air"),
        near={k: tuple(v) for k, v in near.items()},
        places={n: at(n) for n in names},
    )
