"""Steady answers: what each part of a rig passes at a given system pressure, and what share of the resistance it is."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.simulate import advance, element_flows, initial_state
from rough_draw.core.message import Name
from rough_draw.core.model.assemble import Assembly


@dataclass(frozen=True, kw_only=True)
class PartAnswer:
    """One part: conductance m³/s at the pressures that stand across it, share of the resistance, mean pressure Pa."""

    name: str
    label: Name
    kind: str
    side: str
    conductance: float
    share: float
    throughput: float


@dataclass(frozen=True, kw_only=True)
class SteadyAnswer:
    """Effective speed m³/s at each port and of all together, and the parts, at a system pressure Pa."""

    pressure: float
    speed: float
    port_speed: dict[str, float]
    parts: tuple[PartAnswer, ...]
    pump_share: float


def solve_steady(assembly: Assembly, pressure: float) -> SteadyAnswer:
    """Hold every port at ``pressure`` Pa of dry air and find the steady flow through the rig.

    The system's volumes are made so large that they do not change; the rig's own few millilitres settle in
    seconds, so the same engine gives the steady state with every pressure in between. Shares of resistance are
    shares of the power spent (throughput × pressure drop): they add up to one over any network.
    """
    net = assembly.network
    names = {n.name for n in net.nodes if n.group == "system"}
    big = replace(
        net,
        nodes=tuple(replace(n, volume=1e3 if n.group == "system" else n.volume) for n in net.nodes),
        # One gas is enough here: the vapour over the oil counts toward the pump's ultimate.
        pumps=tuple(replace(p, ultimate=p.ultimate + p.ultimate_water, ultimate_water=0.0) for p in net.pumps),
        outgassing=(),
        pools=(),
        sorbed=(),
        leaks=(),
        # The system is held at one pressure: what joins its sections carries nothing here.
        tubes=tuple(t for t in net.tubes if not (t.a in names and t.b in names)),
        initial={n.name: (pressure, 0.0, 0.0) for n in net.nodes},
    )
    compiled = compile_network(big)
    final = advance(compiled, initial_state(big), 120.0, rtol=1e-4).pressure[-1]
    q = element_flows(compiled, final)
    total = {n.name: float(final[i].sum()) for i, n in enumerate(big.nodes)}
    return _answer(assembly, big, total, q.sum(axis=1), pressure)


def _answer(
    assembly: Assembly, net: Network, total: dict[str, float], q: np.ndarray[tuple[int], np.dtype[np.float64]], p: float
) -> SteadyAnswer:
    by_tube = {t.name: (float(q[i]), total[t.a] - total[t.b]) for i, t in enumerate(net.tubes)}
    pump_q = float(q[len(net.tubes)]) if net.pumps and net.pumps[0].running else 0.0
    pump_power = abs(pump_q) * total["pump"]
    powers: list[float] = []
    answers: list[PartAnswer] = []
    for part in assembly.parts:
        flow = max(abs(by_tube[name][0]) for name in part.tubes)
        drop = sum(abs(by_tube[name][1]) for name in part.tubes)
        powers.append(flow * drop)
        conductance = flow / drop if drop > 1e-12 else 0.0
        answers.append(
            PartAnswer(
                name=part.name,
                label=part.label,
                kind=part.kind,
                side=part.side,
                conductance=conductance,
                share=0.0,
                throughput=flow,
            )
        )
    spent = sum(powers) + pump_power
    spent = spent if spent > 0 else 1.0
    ports = {port: abs(by_tube[f"{port}.port"][0]) / p for port in assembly.port_nodes if f"{port}.port" in by_tube}
    return SteadyAnswer(
        pressure=p,
        speed=pump_q / p,
        port_speed=ports,
        parts=tuple(replace(a, share=w / spent) for a, w in zip(answers, powers, strict=True)),
        pump_share=pump_power / spent,
    )
