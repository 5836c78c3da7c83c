"""Every cause that a rig and its system allow, with its place and its odds before anything is read (estimates)."""

from __future__ import annotations

from rough_draw.core.diagnosis import effects
from rough_draw.core.diagnosis.faults import Cause
from rough_draw.core.message import Name
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_name, part_name, tool_name
from rough_draw.core.sheet.rig import HosePart, ManifoldPart, ToolPart


def causes(job: Job, assembly: Assembly) -> list[Cause]:
    """Every cause that this rig and system allow, the unremarkable one first."""
    return [
        *_of_the_pump(),
        *_of_the_system(job, assembly),
        *_of_the_gauge(),
        *_of_the_parts(job, assembly),
        *_of_joints(job, assembly),
        *_of_ways(job, assembly),
    ]


def _of_the_pump() -> list[Cause]:
    return [
        Cause(kind="none", prior=0.10),
        Cause(
            kind="ballast",
            prior=0.12,
            apply=effects.pumped(effects.ballast),
            later=True,
        ),
        Cause(
            kind="wet-oil",
            prior=0.08,
            apply=effects.pumped(effects.wet_oil),
            later=True,
        ),
        Cause(
            kind="worn-pump",
            prior=0.06,
            apply=effects.pumped(effects.worn),
        ),
        Cause(
            kind="slow-pump",
            prior=0.05,
            apply=effects.pumped(effects.slow),
            later=True,
        ),
        Cause(
            kind="oil-carried",
            prior=0.02,
            apply=effects.pumped(effects.carried),
            later=True,
        ),
    ]


def _of_the_system(job: Job, assembly: Assembly) -> list[Cause]:
    place = assembly.system.water.place
    at = f"system.{place}"
    return [
        Cause(
            kind="system-leak",
            prior=0.10,
            apply=effects.leak(at, 4e-3, 0.5),
            later=True,
        ),
        Cause(
            kind="open",
            prior=0.04,
            apply=effects.leak(at, 8.0, 0.5),
            later=True,
        ),
        Cause(
            kind="water",
            prior=0.10,
            apply=effects.pool(assembly, 12.0, 0.35, 1.0),
        ),
        Cause(
            kind="ice",
            prior=0.04,
            apply=effects.pool(assembly, 15.0, 0.3, 0.04),
        ),
        Cause(
            kind="refrigerant",
            prior=0.04,
            apply=effects.refrigerant(at, job.scope.oil_kg),
        ),
    ]


def _of_the_gauge() -> list[Cause]:
    return [
        Cause(
            kind="fouled",
            prior=0.05,
            offset=lambda s: 180.0 * 10 ** (0.25 * s),
        ),
        Cause(
            kind="jumping",
            prior=0.03,
            scatters=True,
        ),
    ]


def _of_the_parts(job: Job, assembly: Assembly) -> list[Cause]:
    net, rig = assembly.network, job.rig
    found: list[Cause] = []
    hoses = [p for p in rig.parts if isinstance(p, HosePart) and any(n.name == f"{p.id}.b" for n in net.nodes)]
    for h in hoses:
        found += _of_a_hose(h, hose_name(rig, job.scope, h), 1.0 / len(hoses))
    there = {t.name for t in net.tubes}
    tools = [p for p in rig.parts if isinstance(p, ToolPart) and p.port and f"{p.id}.ball" in there]
    for t in tools:
        found += _of_a_tool(job, t, 1.0 / len(tools))
    if len(hoses) > 1:
        found.append(Cause(kind="all-hoses", prior=0.04, apply=effects.all_dirty([h.id for h in hoses])))
    return found


def _of_a_hose(hose: HosePart, where: Name, share: float) -> list[Cause]:
    return [
        Cause(
            kind="hose-leak",
            place=hose.id,
            where=where,
            prior=0.07 * share,
            apply=effects.leak(f"{hose.id}.b", 6e-2, 0.5),
            later=True,
        ),
        Cause(
            kind="dirty-hose",
            place=hose.id,
            where=where,
            prior=0.05 * share,
            apply=effects.dirty(hose.id),
        ),
    ]


def _of_a_tool(job: Job, tool: ToolPart, share: float) -> list[Cause]:
    found = []
    port = job.scope.port(tool.port or "")
    name: Name = port.words() if port else str(tool.port)
    if port is not None and port.core and not job.rig.keeps_core(port):
        found.append(
            Cause(
                kind="core",
                place=port.id,
                where=name,
                prior=0.05 * share,
                # A tool has no pin: what it leaves in keeps the port shut.
                apply=effects.shut(f"{port.id}.port"),
            )
        )
    shut = Cause(
        kind="shut",
        place=tool.id,
        where=name,
        prior=0.04 * share,
        apply=effects.shut(f"{tool.id}.ball"),
    )
    return [*found, shut]


def _of_joints(job: Job, assembly: Assembly) -> list[Cause]:
    """Joints of the rig that let air in, each at its own place: nearer the gauge or nearer the pump shows otherwise."""
    net, rig = assembly.network, job.rig
    nodes = {n.name for n in net.nodes}
    found = []
    gauge = rig.gauge
    if gauge is not None and assembly.gauge_node.partition(".")[0] != "system":
        found.append(
            Cause(
                kind="gauge-joint",
                place=gauge.id,
                where=part_name(gauge),
                prior=0.05,
                apply=effects.leak(assembly.gauge_node, 6e-3, 0.6),
                later=True,
            )
        )
    tools = [p for p in rig.parts if isinstance(p, ToolPart) and f"{p.id}.port-side" in nodes]
    for t in tools:
        found.append(
            Cause(
                kind="tool-leak",
                place=t.id,
                where=tool_name(rig, job.scope, t),
                prior=0.05 / len(tools),
                apply=effects.leak(f"{t.id}.port-side", 2e-2, 0.5),
                later=True,
            )
        )
    manifold = next((p for p in rig.parts if isinstance(p, ManifoldPart) and p.id in nodes), None)
    if manifold is not None:
        found.append(
            Cause(
                kind="manifold-leak",
                place=manifold.id,
                where=part_name(manifold),
                prior=0.06,
                apply=effects.leak(manifold.id, 4e-2, 0.5),
                later=True,
            )
        )
    at = "tee" if "tee" in nodes else "intake"
    found.append(Cause(kind="pump-joint", prior=0.04, apply=effects.leak(at, 8e-2, 0.5), later=True))
    return found


def _of_ways(job: Job, assembly: Assembly) -> list[Cause]:
    """Ways that are narrower than they should be, or closed where the sheet has them open."""
    net, rig = assembly.network, job.rig
    tubes = {t.name: t for t in net.tubes}
    found = []
    if "pump.intake" in tubes:
        found.append(Cause(kind="choked-intake", prior=0.03, apply=effects.narrowed("pump.intake", 0.12)))
    hoses = [p for p in rig.parts if isinstance(p, HosePart) and f"{p.id}.bore" in tubes]
    for h in hoses:
        found.append(
            Cause(
                kind="kinked",
                place=h.id,
                where=hose_name(rig, job.scope, h),
                prior=0.03 / len(hoses),
                apply=effects.narrowed(f"{h.id}.bore", 0.3),
            )
        )
    tools = [p for p in rig.parts if isinstance(p, ToolPart) and f"{p.id}.ball" in tubes]
    ported = [t for t in tools if t.port is not None]
    for t in ported:
        found.append(
            Cause(
                kind="plugged",
                place=t.id,
                where=tool_name(rig, job.scope, t),
                prior=0.02 / len(ported),
                apply=effects.narrowed(f"{t.id}.ball", 0.2),
            )
        )
    under = next((t for t in tools if t.port is None and assembly.gauge_node == f"{t.id}.end"), None)
    if under is not None:
        found.append(
            Cause(
                kind="gauge-shut",
                place=under.id,
                where=tool_name(rig, job.scope, under),
                prior=0.03,
                apply=effects.shut(f"{under.id}.ball"),
                later=True,
            )
        )
    cores = [f"{p.id}.port" for p in job.scope.ports if p.core and not rig.keeps_core(p) and f"{p.id}.port" in tubes]
    if len(cores) > 1:
        found.append(Cause(kind="cores", prior=0.03, apply=effects.all_shut(cores)))
    closed = [v for v in assembly.valves.values() if v.where == "system" and v.tube in tubes and tubes[v.tube].open]
    for v in closed:
        found.append(
            Cause(
                kind="section-shut",
                place=v.part,
                where=v.label,
                prior=0.05 / len(closed),
                apply=effects.shut(v.tube),
            )
        )
    return found
