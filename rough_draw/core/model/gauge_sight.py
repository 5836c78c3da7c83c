"""What a gauge sees of the system: how far it stands above it once that is isolated, by what its own side gives off."""

from __future__ import annotations

import math
from dataclasses import replace

from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.simulate import advance, initial_state
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.isolation import PUMPED, Isolation, shut

SETTLED = 900.0
"""s after which a gauge's own side stands as far above the system as it will."""


def gauge_offset(assembly: Assembly, held: Isolation, level: float, pumped: float = PUMPED) -> float:
    """How far the gauge that is read stands above the system in a hold, Pa; endless where nothing joins the two.

    Behind a core the gas that hoses and seals on its side give off has to leave through the slot: Q/C, solved for at
    the pressures that stand there. The system is held at ``level`` Pa; the rig was pumped on for ``pumped`` s.
    """
    net = shut(assembly.network, held.tubes) if held.complete else assembly.network
    system = {n.name for n in net.nodes if n.group == "system"}
    joined = net.connected(assembly.gauge_node)
    if not joined & system:
        return math.inf
    kept = _only(net, joined, level, pumped)
    end = advance(compile_network(kept), initial_state(kept), SETTLED, rtol=1e-3)
    return float(end.total(assembly.gauge_node)[-1]) - level


def _only(net: Network, joined: set[str], level: float, pumped: float) -> Network:
    """What is joined to the gauge, its system endless, giving off what it does after ``pumped`` s."""
    nodes = tuple(replace(n, volume=1e3) if n.group == "system" else n for n in net.nodes if n.name in joined)
    # Between sections, all held at one pressure, nothing flows.
    system = {n.name for n in nodes if n.group == "system"}
    return replace(
        net,
        nodes=nodes,
        tubes=tuple(t for t in net.tubes if {t.a, t.b} <= joined and not {t.a, t.b} <= system),
        pumps=(),
        leaks=tuple(x for x in net.leaks if x.node in joined and x.node not in system),
        outgassing=tuple(replace(o, steady=o.at(pumped), fresh=0.0) for o in net.outgassing if o.node in joined),
        pools=(),
        sorbed=(),
        initial={n.name: (level, 0.0, 0.0) for n in nodes},
    )
