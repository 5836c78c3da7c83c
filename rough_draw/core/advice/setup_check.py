"""The six questions a hook-up must answer, worked out from its graph."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.isolation import Isolation, shut
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import CylinderPart, HosePart, ManifoldPart, ToolPart

Says = Literal["yes", "partly", "no"]


@dataclass(frozen=True)
class Answer:
    """One question by its letter, what the rig says to it, and why in a sentence."""

    letter: str
    question: str
    says: Says
    words: str


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
    question = "Can the system be closed off from pump and hoses?"
    if not i.complete:
        return Answer("a", question, "no", "No valve stands between the pump and the system.")
    if i.hose_m > 0:
        return Answer("a", question, "partly", f"Only with {i.hose_m:g} m of hose in: close {i.where}.")
    return Answer("a", question, "yes", f"Close {i.where}.")


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
    question = "Is the gauge inside what stands isolated, and far from the pump?"
    gauge = job.rig.gauge
    if gauge is None:
        return Answer("b", question, "no", "There is no micron gauge: the hold cannot be read.")
    root = job.rig.chain(gauge)[0]
    above = job.rig.chain(gauge)[:-1]
    if root.kind == "pump" and not any(isinstance(p, ToolPart) for p in above):
        place = "at the manifold" if any(isinstance(p, ManifoldPart) for p in above) else "at the pump"
        if not i.gauge_inside:
            return Answer("b", question, "no", f"It sits {place}, outside the closed valves.")
        return Answer("b", question, "no", f"It sits {place}: it reads low while drawing, and with the hoses on hold.")
    if not i.gauge_inside:
        return Answer("b", question, "no", "It is outside the closed valves.")
    hops = steps_from_pump(job, assembly)
    if hops == 0:
        kept = {s.id for s in job.scope.sections if s.holds_charge}
        free = [p for p in job.scope.ports if job.rig.on_port(p.id) is None and p.section not in kept]
        if free:
            words = f"Inside, but on a port that is pumped; the {free[0].words()} is free and farther off."
            return Answer("b", question, "partly", words)
        return Answer("b", question, "yes", "Inside, on a pumped port: every port is pumped, so none is farther off.")
    return Answer(
        "b", question, "yes", f"Inside, {hops} section{'s' if hops > 1 else ''} from the nearest pumped port."
    )


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
    question = "Can the gauge be closed off before refrigerant comes?"
    gauge = job.rig.gauge
    if gauge is None:
        return Answer("c", question, "no", "There is no micron gauge.")
    own = gauge_valve(job, assembly)
    if own is not None:
        return Answer("c", question, "yes", f"With {assembly.valves[own].label}.")
    net = assembly.network
    system = {n.name for n in net.nodes if n.group == "system"}
    cut = shut(net, tuple(v.tube for v in assembly.valves.values() if v.where == "rig"))
    if not cut.connected(assembly.gauge_node) & system:
        return Answer("c", question, "yes", "With the valves that close the whole rig off from the system.")
    stands = f"it stands {gauge.stands_kpa / 100:.0f} bar"
    return Answer("c", question, "no", f"No valve stands under it: it will see refrigerant; {stands}. Clean it after.")


def _cores_kept(job: Job) -> Answer:
    question = "Does every port with its core out keep a valve until there is pressure?"
    bare = []
    for p in job.rig.parts:
        port = job.scope.port(p.port) if p.port else None
        if port is not None and port.core and port.id not in job.rig.cores_in and p.kind == "valve":
            bare.append(port.words())
    if bare:
        return Answer(
            "d", question, "no", f"The core of the {' and the '.join(bare)} is out, and no tool can put it back."
        )
    out = [p.port for p in job.rig.parts if isinstance(p, ToolPart) and p.port and p.port not in job.rig.cores_in]
    words = "A tool stands on each." if out else "Every core stays in."
    return Answer("d", question, "yes", words)


def _hose_share(i: Isolation) -> Answer:
    question = "How much of what stands isolated is hose?"
    if i.hose_m == 0:
        return Answer("e", question, "yes", "None: no hose can permeate into the hold.")
    rate = i.hose_inflow / i.volume / MICRON_PA if i.volume else 0.0
    words = (
        f"{i.hose_share:.1%} of the volume, {i.hose_m:g} m; permeation alone lifts it about {rate:.2f} µ/s (estimate)."
    )
    return Answer("e", question, "partly" if rate < 0.05 else "no", words)


def _charging(job: Job, assembly: Assembly) -> Answer:
    question = "Can refrigerant be added from a cylinder, and to which line?"
    rig = job.rig
    sides = [(p, job.scope.port(p.port or "")) for p in rig.pumped()]
    ways = {port.side: (p, port) for p, port in sides if port is not None}
    line = next((s for s in ("liquid", "discharge", "other", "suction") if s in ways), None)
    if line is None:
        return Answer("f", question, "no", "No hose leads to a port.")
    to = "the liquid line" if line == "liquid" else f"the {line} side only, so as vapour or throttled"
    if any(isinstance(p, CylinderPart) for p in rig.parts):
        return Answer("f", question, "yes", f"Yes, from the cylinder on the rig, to {to}.")
    part, port = ways[line]
    says: Says = "yes" if line == "liquid" else "partly"
    body = next((p for p in rig.parts if isinstance(p, ManifoldPart)), None)
    if body is not None:
        free = [o for o in body.outlets() if o not in {c.at for c in rig.children(body.id)} and o != "sensor"]
        if free:
            return Answer("f", question, says, f"Over the manifold's free {free[0]} place, to {to}.")
    shuts = isinstance(part, ToolPart) or any(
        (isinstance(p, HosePart) and p.ball_end) or isinstance(p, ManifoldPart) for p in rig.chain(part)
    )
    if shuts:
        return Answer(
            "f", question, says, f"Move the pump's end of the hose at the {port.words()} to a cylinder: to {to}."
        )
    return Answer("f", question, "no", f"Nothing closes the {port.words()} while a hose is moved to a cylinder.")
