"""The setup check: six questions that a setup must answer, worked out from its graph."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.message import Message, listed, message
from rough_draw.core.message.figure import gauge_pressure, hose_length, rise, share
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.isolation import Isolation, shut
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import CylinderPart, HosePart, ManifoldPart, ToolPart

Says = Literal["yes", "partly", "no"]


@dataclass(frozen=True)
class Answer:
    """One question by its letter, what the rig says to it, and why."""

    letter: str
    says: Says
    words: Message

    @property
    def question(self) -> Message:
        """What is asked."""
        return message(f"setup-{self.letter}")


def answers(job: Job, assembly: Assembly, isolation: Isolation) -> list[Answer]:
    """(a) to (f) for this rig on this system."""
    return [
        _isolates(job, isolation),
        _gauge_place(job, assembly, isolation),
        _gauge_shut(job, assembly),
        _cores_kept(job),
        _hose_share(isolation),
        _charging(job, assembly),
    ]


def _isolates(job: Job, i: Isolation) -> Answer:
    if not i.complete:
        return Answer("a", "no", message("setup-a-no-valve"))
    if i.hose_m > 0:
        return Answer("a", "partly", message("setup-a-with-hose", length=hose_length(i.hose_m), where=i.where))
    return Answer("a", "yes", message("setup-a-close", where=i.where))


def steps_from_pump(job: Job, assembly: Assembly) -> int:
    """How many sections lie between the nearest pumped port and the gauge: 0 on the pumped port itself."""
    net = assembly.network
    ports = {f"system.{assembly.system.ports[p.port]}" for p in job.rig.pumped() if p.port in assembly.system.ports}
    start = assembly.gauge_node
    seen, frontier, hops = {start}, [start], 0
    groups = {n.name: n.group for n in net.nodes}
    entered = groups.get(start) == "system"
    while frontier:
        if ports & set(frontier):
            return hops
        following = []
        for here in frontier:
            for t in net.tubes:
                if here in (t.a, t.b):
                    far = t.b if t.a == here else t.a
                    if far in groups and far not in seen:
                        seen.add(far)
                        following.append(far)
        if entered:
            hops += 1
        entered = entered or any(groups[n] == "system" for n in following)
        frontier = following
    return 0


def _gauge_place(job: Job, assembly: Assembly, i: Isolation) -> Answer:
    gauge = job.rig.gauge
    if gauge is None:
        return Answer("b", "no", message("setup-b-no-gauge"))
    root = job.rig.chain(gauge)[0]
    above = job.rig.chain(gauge)[:-1]
    if root.kind == "pump" and not any(isinstance(p, ToolPart) for p in above):
        place = message("gauge-at-manifold" if any(isinstance(p, ManifoldPart) for p in above) else "gauge-at-pump")
        if not i.gauge_inside:
            return Answer("b", "no", message("setup-b-near-outside", place=place))
        return Answer("b", "no", message("setup-b-near", place=place))
    if not i.gauge_inside:
        return Answer("b", "no", message("setup-b-outside"))
    hops = steps_from_pump(job, assembly)
    if hops == 0:
        kept = {s.id for s in job.scope.sections if s.holds_charge}
        free = [p for p in job.scope.ports if job.rig.on_port(p.id) is None and p.section not in kept]
        if free:
            return Answer("b", "partly", message("setup-b-pumped-port", port=free[0].words()))
        return Answer("b", "yes", message("setup-b-all-pumped"))
    return Answer("b", "yes", message("setup-b-far", count=hops))


def gauge_valve(job: Job, assembly: Assembly) -> str | None:
    """The valve that shuts the gauge off from the system and leaves everything else joined; None if there is none."""
    if job.rig.gauge is None:
        return None
    net = assembly.network
    system = {n.name for n in net.nodes if n.group == "system"}
    for v in assembly.valves.values():
        if v.where == "system":
            continue
        after = shut(net, (v.tube,))
        apart = not (after.connected(assembly.gauge_node) & system)
        pumped = bool(after.connected("pump") & system)
        if apart and pumped:
            return v.name
    return None


def _gauge_shut(job: Job, assembly: Assembly) -> Answer:
    gauge = job.rig.gauge
    if gauge is None:
        return Answer("c", "no", message("setup-c-no-gauge"))
    own = gauge_valve(job, assembly)
    if own is not None:
        return Answer("c", "yes", message("setup-c-valve", valve=assembly.valves[own].label))
    net = assembly.network
    system = {n.name for n in net.nodes if n.group == "system"}
    cut = shut(net, tuple(v.tube for v in assembly.valves.values() if v.where == "rig"))
    if not cut.connected(assembly.gauge_node) & system:
        return Answer("c", "yes", message("setup-c-whole-rig"))
    return Answer("c", "no", message("setup-c-no-valve", rated=gauge_pressure(1e3 * gauge.stands_kpa)))


def _cores_kept(job: Job) -> Answer:
    bare = []
    for p in job.rig.parts:
        port = job.scope.port(p.port) if p.port else None
        if port is not None and port.core and port.id not in job.rig.cores_in and p.kind == "valve":
            bare.append(port.words())
    if bare:
        return Answer("d", "no", message("setup-d-bare", ports=listed(bare)))
    out = [p.port for p in job.rig.parts if isinstance(p, ToolPart) and p.port and p.port not in job.rig.cores_in]
    return Answer("d", "yes", message("setup-d-tools" if out else "setup-d-cores-in"))


def _hose_share(i: Isolation) -> Answer:
    if i.hose_m == 0:
        return Answer("e", "yes", message("setup-e-none"))
    rate = i.inflow() / i.volume / MICRON_PA if i.volume else 0.0
    words = message(
        "setup-e-hose", share=share(i.hose_share), length=hose_length(i.hose_m), rate=rise(rate * MICRON_PA)
    )
    return Answer("e", "partly" if rate < 0.05 else "no", words)


def _charging(job: Job, assembly: Assembly) -> Answer:
    rig = job.rig
    sides = [(p, job.scope.port(p.port or "")) for p in rig.pumped()]
    ways = {port.side: (p, port) for p, port in sides if port is not None}
    line = next((s for s in ("liquid", "discharge", "other", "suction") if s in ways), None)
    if line is None:
        return Answer("f", "no", message("setup-f-no-hose"))
    to = message("setup-to", side=line)
    if any(isinstance(p, CylinderPart) for p in rig.parts):
        return Answer("f", "yes", message("setup-f-on-rig", to=to))
    part, port = ways[line]
    says: Says = "yes" if line == "liquid" else "partly"
    body = next((p for p in rig.parts if isinstance(p, ManifoldPart)), None)
    if body is not None:
        free = [o for o in body.outlets() if o not in {c.at for c in rig.children(body.id)} and o != "sensor"]
        if free:
            return Answer("f", says, message("setup-f-manifold", at=free[0], to=to))
    shuts = isinstance(part, ToolPart) or any(
        (isinstance(p, HosePart) and p.ball_end) or isinstance(p, ManifoldPart) for p in rig.chain(part)
    )
    if shuts:
        return Answer("f", says, message("setup-f-move", port=port.words(), to=to))
    return Answer("f", "no", message("setup-f-nothing-closes", port=port.words()))
