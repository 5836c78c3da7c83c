"""What practice can hide beyond the causes that a live draw is weighed against: on tools and valves of the rig."""

from __future__ import annotations

from rough_draw.core.diagnosis import effects
from rough_draw.core.diagnosis.faults import Cause
from rough_draw.core.engine.network import Network
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import ToolPart

TOOL_SEAT = 2.5e-4
"""Air past a worn core tool's seat, Pa·m³/s, at severity 0, a decade for two of it: estimate."""
HALF_BORE = 0.3
"""Share of a valve's bore that is left where its ball stands halfway, at severity 0: estimate."""


def of_practice(job: Job, assembly: Assembly) -> list[Cause]:
    """Worn seats of core tools, and valves of the rig that stand neither open nor closed."""
    return _seats(job, assembly.network) + _half_open(assembly)


def _half_open(assembly: Assembly) -> list[Cause]:
    """Valves of the rig whose handle stands halfway: nobody shut them, and they choke like a core."""
    tubes = {t.name for t in assembly.network.tubes}
    return [
        Cause(kind="half-open", place=v.name, where=v.label, prior=0.0, apply=effects.narrowed(v.tube, HALF_BORE))
        for v in assembly.valves.values()
        if v.where == "rig" and v.tube in tubes
    ]


def _seats(job: Job, net: Network) -> list[Cause]:
    """Core tools whose seats leak: hidden faults of practice, on tools that stand on a port."""
    found = []
    for p in job.rig.parts:
        node = f"{p.id}.port-side"
        if isinstance(p, ToolPart) and p.port and any(n.name == node for n in net.nodes):
            port = job.scope.port(p.port)
            where = port.words() if port else p.port
            found.append(
                Cause(
                    kind="seat",
                    place=p.id,
                    where=where,
                    prior=0.0,
                    apply=effects.leak(node, TOOL_SEAT, 0.5),
                )
            )
    return found
