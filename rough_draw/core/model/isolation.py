"""Shutting the system off for the hold: which valves, and what then lies inside. Worked out on the rig's own graph."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice, product

from rough_draw.core.engine.network import Network, Outgassing
from rough_draw.core.message import Message, Name, listed, message
from rough_draw.core.message.figure import hose_length
from rough_draw.core.model.assemble import Assembly, reaches
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart, ManifoldPart

MOST_CUTS = 4096
"""Ways of closing a rig off that are compared."""
PUMPED = 1800.0
"""How long hoses have usually been pumped on, s, when a hold begins: what their rubber gives off by then (estimate)."""


@dataclass(frozen=True, kw_only=True)
class Isolation:
    """Valves to shut (ids and their tubes), the words for them, and what is inside once they are shut.

    ``hoses`` inside by their ids; ``hose_share`` is the part of the isolated volume that they are; ``sources``: what
    the rig's parts inside let in and give off.
    """

    valves: tuple[str, ...]
    tubes: tuple[str, ...]
    where: Name
    inside: Message
    hose_m: float
    hose_share: float
    sources: tuple[Outgassing, ...]
    gauge_inside: bool
    volume: float
    complete: bool
    hoses: tuple[str, ...] = ()

    def inflow(self, pumped: float = PUMPED) -> float:
        """What the rig's parts inside let in and give off, Pa·m³/s, once they have been pumped on for ``pumped`` s."""
        return sum(o.at(pumped) for o in self.sources)


@dataclass(frozen=True)
class _Cut:
    valves: tuple[str, ...]
    joined: frozenset[str]
    gauge: bool
    hose_m: float


def valves_between(job: Job, assembly: Assembly, port: str) -> list[str]:
    """Valves along the way from the pump to a port's part, nearest the port first."""
    part = job.rig.on_port(port)
    if part is None:
        return []
    found: list[str] = []
    chain = job.rig.chain(part)
    for above, p in zip([None, *chain[:-1]], chain, strict=True):
        if isinstance(above, ManifoldPart) and f"{above.id}.{p.at}" in assembly.valves:
            found.append(f"{above.id}.{p.at}")
        if isinstance(p, ManifoldPart) and f"{p.id}.{p.inlet}" in assembly.valves:
            found.append(f"{p.id}.{p.inlet}")
        if p.id in assembly.valves:
            found.append(p.id)
    return found[::-1]


def hoses_inside(job: Job, joined: frozenset[str]) -> list[HosePart]:
    """Hoses whose bore is joined to what stands isolated."""
    return [p for p in job.rig.parts if isinstance(p, HosePart) and f"{p.id}.b" in joined]


def _cuts(job: Job, assembly: Assembly) -> list[_Cut]:
    ways = [valves_between(job, assembly, p.port or "") for p in job.rig.pumped()]
    start = sorted(assembly.pumped)[0] if assembly.pumped else None
    if start is None or any(not w for w in ways):
        return []
    found: dict[frozenset[str], _Cut] = {}
    # A rig of many ways with many valves each is looked at as far as a hand could follow: nearest the system first.
    for choice in islice(product(*ways), MOST_CUTS):
        names = frozenset(choice)
        if names in found:
            continue
        net = shut(assembly.network, tuple(assembly.valves[v].tube for v in names))
        joined = frozenset(net.connected(start))
        if "pump" in joined:
            continue
        order = tuple(v for v in dict.fromkeys(choice))
        length = sum(h.length_m for h in hoses_inside(job, joined))
        found[names] = _Cut(order, joined, assembly.gauge_node in joined, length)
    return list(found.values())


def isolation(job: Job, assembly: Assembly) -> Isolation:
    """Isolate as near to the system as the rig's valves allow, keeping the gauge inside if that can be."""
    cuts = _cuts(job, assembly)
    has_gauge = job.rig.gauge is not None
    if cuts:
        best = min(cuts, key=lambda c: (has_gauge and not c.gauge, c.hose_m, len(c.valves)))
        return _described(job, assembly, _without_dead_ends(job, assembly, best))
    # No valve anywhere: all that can be done is to stop the pump.
    joined = frozenset(assembly.network.connected("pump"))
    return _described(job, assembly, _Cut((), joined, assembly.gauge_node in joined, 0.0), complete=False)


def _without_dead_ends(job: Job, assembly: Assembly, cut: _Cut) -> _Cut:
    """The cut with every valve shut that leaves less hose inside: a cylinder's hose that was evacuated along."""
    start = sorted(assembly.pumped)[0]
    system = {n for n in cut.joined if n.startswith("system.")}
    for name, valve in sorted(assembly.valves.items()):
        if name in cut.valves or valve.where != "rig":
            continue
        net = shut(assembly.network, tuple(assembly.valves[v].tube for v in (*cut.valves, name)))
        joined = frozenset(net.connected(start))
        length = sum(h.length_m for h in hoses_inside(job, joined))
        if length < cut.hose_m and system <= joined and (assembly.gauge_node in joined) == cut.gauge:
            cut = _Cut((*cut.valves, name), joined, cut.gauge, length)
    return cut


def _described(job: Job, assembly: Assembly, cut: _Cut, complete: bool = True) -> Isolation:
    net = assembly.network
    volumes = {n.name: n.volume for n in net.nodes if n.name in cut.joined}
    total = sum(volumes.values())
    hoses = hoses_inside(job, cut.joined)
    hose_volume = sum(v for name, v in volumes.items() if any(name in (f"{h.id}.a", f"{h.id}.b") for h in hoses))
    if not complete:
        inside = message("inside-all")
    elif hoses:
        inside = message("inside-hoses", count=len(hoses), length=hose_length(sum(h.length_m for h in hoses)))
    else:
        inside = message("inside-gauge-and-system" if cut.gauge else "inside-system")
    if job.rig.gauge is None:
        inside = message("inside-no-gauge", inside=inside)
    elif not cut.gauge:
        inside = message("inside-gauge-outside", inside=inside)
    words = [assembly.valves[v].label for v in cut.valves]
    return Isolation(
        valves=cut.valves,
        tubes=tuple(assembly.valves[v].tube for v in cut.valves),
        where=listed(words) if words else message("no-valve"),
        inside=inside,
        hose_m=sum(h.length_m for h in hoses),
        hose_share=hose_volume / total if total else 0.0,
        sources=tuple(o for o in net.outgassing if o.node in cut.joined),
        gauge_inside=cut.gauge,
        volume=total,
        complete=complete,
        hoses=tuple(h.id for h in hoses),
    )


def shut(net: Network, tubes: tuple[str, ...], is_open: bool = False) -> Network:
    """The network with these valves shut (or opened again)."""
    for name in tubes:
        net = net.with_tube(name, open=is_open)
    return net


def left_out(assembly: Assembly) -> list[str]:
    """Sections to be evacuated from which nothing can reach the pump, with every valve as the sheet has it."""
    return [s.name for s in assembly.system.evacuated if f"system.{s.name}" not in assembly.pumped]


def behind_check(assembly: Assembly) -> list[str]:
    """Sections that reach the pump only through a check valve, whose spring holds a pressure back."""
    two_way = tuple(t for t in assembly.network.tubes if not t.one_way)
    plain = reaches(_only(assembly.network, two_way), "pump")
    return [
        s.name
        for s in assembly.system.evacuated
        if f"system.{s.name}" in assembly.pumped and f"system.{s.name}" not in plain
    ]


def _only(net: Network, tubes: tuple[object, ...]) -> Network:
    from dataclasses import replace

    return replace(net, tubes=tubes)  # type: ignore[arg-type]
