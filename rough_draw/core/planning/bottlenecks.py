"""What limits at each moment of a run: the pump, a part, water coming off, the hose, a leak."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Gas
from rough_draw.core.engine.run import Run
from rough_draw.core.engine.simulate import element_flows
from rough_draw.core.message import Message, Name, message
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.rig_graph import RigPart

Feed = Literal["gas", "water", "hoses", "leak"]
"""What the pump takes: gas that was in it, water that comes off, what hoses let in, a leak."""
PUMP = "pump"


@dataclass(frozen=True)
class Moment:
    """Shares at one time. ``resistance`` by part, the pump with its intake as `PUMP`, adds up to one; ``sources`` are
    shares of what the pump takes. ``words`` names what limits."""

    time: float
    resistance: dict[str, float]
    sources: dict[Feed, float]
    words: Message


def _label(part: RigPart) -> Name:
    return message("part-on-side", part=part.label, side=part.side) if part.side else part.label


def limits(assembly: Assembly, run: Run, times: list[float]) -> list[Moment]:
    """Rank what limits at each of ``times`` s of a run of this assembly without events."""
    compiled = compile_network(run.network)
    names = [t.name for t in run.network.tubes]
    labels = {part.name: _label(part) for part in assembly.parts if part.name != PUMP}
    found = []
    for time in times:
        i = int(abs(run.time - time).argmin())
        p = run.pressure[i]
        q = element_flows(compiled, p, float(run.time[i]))
        total = {n.name: float(p[k].sum()) for k, n in enumerate(run.network.nodes)}
        flow = {name: float(q[k].sum()) for k, name in enumerate(names)}
        ends = {t.name: abs(total[t.a] - total[t.b]) for t in run.network.tubes}
        power = {part.name: 0.0 for part in assembly.parts}
        for part in assembly.parts:
            power[part.name] += sum(abs(flow[t]) * ends[t] for t in part.tubes)
        pumped = q[len(names)] if run.network.pumps else q[0] * 0.0
        power[PUMP] = power.get(PUMP, 0.0) + abs(float(pumped.sum())) * total["pump"]
        whole = sum(power.values()) or 1.0
        resistance = {k: v / whole for k, v in power.items()}
        outgas = sum(o.at(float(run.time[i])) for o in run.network.outgassing)
        taken = max(float(pumped.sum()), 1e-12)
        sources: dict[Feed, float] = {
            "water": max(0.0, float(pumped[Gas.WATER])) / taken,
            "hoses": min(1.0, outgas / taken),
            "leak": min(1.0, sum(x.throughput for x in run.network.leaks) / taken),
        }
        sources["gas"] = max(0.0, 1.0 - sum(sources.values()))
        worst = max(resistance, key=lambda k: resistance[k])
        feed = max(sources, key=lambda k: sources[k])
        words = message(f"limit-{feed}", part=labels.get(worst, message("the-pump")))
        found.append(Moment(float(run.time[i]), resistance, sources, words))
    return found
