"""Shutting the system off for the hold: which valves, and what then lies inside."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.assemble import Assembly
from rough_draw.core.job import Job
from rough_draw.core.network import Network


@dataclass(frozen=True)
class Isolation:
    """Valves to shut (tubes of the network), the words for them, and what is inside once they are shut."""

    tubes: tuple[str, ...]
    where: str
    inside: str
    hose_m: float
    gauge_inside: bool
    volume: float


def isolation(job: Job, assembly: Assembly) -> Isolation:
    """Work out from the rig's own graph how the system is isolated, as near to it as its valves allow."""
    rig = job.rig
    tubes: list[str] = []
    words: list[str] = []
    hose_m = 0.0
    through_manifold = (
        rig.manifold == "four-port" and not all(p.tool for p in rig.paths) and rig.gauge.place == "manifold"
    )
    if through_manifold:
        tubes.append("pump-hose.end-b")
        words.append("the manifold's vacuum valve")
        hose_m += sum(p.hose.length_m for p in rig.paths)
    for path in rig.paths:
        if through_manifold:
            continue
        if path.tool:
            tubes.append(f"{path.port}.tool-bore")
            words.append(f"the {path.port} tool")
        elif rig.manifold != "none":
            tubes.append(f"{path.port}.passage")
            words.append(f"the manifold's {path.port} valve")
            hose_m += path.hose.length_m
        else:
            if "intake" not in tubes:
                tubes.append("intake")
                words.append("the pump's own valve")
            hose_m += path.hose.length_m
    net = shut(assembly.network, tuple(tubes))
    start = next(n.name for n in net.nodes if n.group == "system")
    joined = net.connected(start)
    volume = sum(n.volume for n in net.nodes if n.name in joined)
    gauge_inside = assembly.gauge_node in joined
    if hose_m:
        inside = f"includes {hose_m:g} m of hose, which permeates"
    else:
        inside = "gauge and system only" if gauge_inside else "system only"
    if not gauge_inside:
        inside += "; the gauge is outside and cannot read the hold"
    where = " and ".join(words)
    return Isolation(tuple(tubes), where, inside, hose_m, gauge_inside, volume)


def shut(net: Network, tubes: tuple[str, ...], is_open: bool = False) -> Network:
    """The network with these valves shut (or opened again)."""
    for name in tubes:
        net = net.with_tube(name, open=is_open)
    return net
