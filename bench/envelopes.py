"""What good technicians meet, in round figures, beside what the plan's own ensemble gives for sheets of that kind.

The envelopes are not ours to choose and nothing here is fitted row by row: ranges of the catalogue are physical, and
wide where nothing is known. Sizes and stories are our own.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from statistics import NormalDist
from typing import Any

import numpy as np

from rough_draw.core.diagnosis.causes import causes
from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.run import Run
from rough_draw.core.engine.simulate import advance, initial_state, run
from rough_draw.core.model.assemble import Assembly, assemble, vary
from rough_draw.core.model.ensemble import members, run_all
from rough_draw.core.model.isolation import isolation, shut
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import LARGE, QUARTER, gauge, hose, pump, tool

LONG = 12 * 3600.0
SIZE = 48


@dataclass(frozen=True)
class Envelope:
    """One row: what is met, from ``low`` to ``high`` in ``unit``, and what the ensemble gives: 10, 50 and 90 %."""

    case: str
    what: str
    unit: str
    low: float
    high: float
    band: tuple[float, float, float]

    @property
    def holds(self) -> bool:
        """Whether what is met and the computed band overlap."""
        return self.band[0] <= self.high and self.low <= self.band[2]


def split(metres: float, size: str, kw: float, **more: Any) -> Scope:
    """Lines and coil of a split, its unit shut off; ``whole``: with condenser and compressor."""
    whole = more.pop("whole", False)
    sections: list[dict[str, Any]] = [
        {"id": "suction", "kind": "line", "side": "suction", "size": size, "length_m": metres},
        {"id": "coil", "kind": "evaporator", "capacity_kw": kw, "cold": True},
        {"id": "liquid", "kind": "line", "side": "liquid", "size": "3/8 in", "length_m": metres},
    ]
    links: list[dict[str, Any]] = [
        {"id": "end", "kind": "joint", "a": "suction", "b": "coil"},
        {"id": "metering", "kind": "thermostatic-valve", "a": "liquid", "b": "coil"},
    ]
    if whole:
        sections += [
            {"id": "condenser", "kind": "condenser", "capacity_kw": kw},
            {"id": "shell", "kind": "compressor", "capacity_kw": kw},
        ]
        links += [
            {"id": "suction-valve", "kind": "service-valve", "a": "shell", "b": "suction"},
            {"id": "liquid-valve", "kind": "service-valve", "a": "condenser", "b": "liquid"},
            {"id": "discharge", "kind": "joint", "a": "shell", "b": "condenser"},
        ]
    ports = [{"id": "suction", "section": "suction"}, {"id": "liquid", "section": "liquid", "side": "liquid"}]
    values: dict[str, Any] = {"sections": sections, "links": links, "ports": ports, "oil": "POE", "oil_kg": 1.0}
    return Scope.model_validate({**values, "ambient_c": 22, "coldest_c": 20, **more})


def manifold_rig() -> Rig:
    """Four-port manifold with its sensor, cores in, two charging hoses and a third evacuated along."""
    parts: list[dict[str, Any]] = [
        pump(),
        hose("hose-p", "pump", size="3/8 in", length_m=1.5),
        {"kind": "manifold", "id": "manifold", "on": "hose-p", "body": "four-port", "inlet": "vacuum"},
        {**hose("hose-a", "manifold", "low", **QUARTER), "port": "suction"},
        {**hose("hose-b", "manifold", "high", **QUARTER), "port": "liquid"},
        hose("hose-c", "manifold", "charge", **{**QUARTER, "depressor": False}),
        {"kind": "cylinder", "id": "cylinder", "on": "hose-c"},
        gauge("manifold", "sensor"),
    ]
    return Rig.model_validate({"parts": parts, "cores_in": ["suction", "liquid"]})


def two_large(**one: Any) -> Rig:
    """Two large hoses with tools, cores out, the gauge on the liquid side's tool. ``one``: of the first hose."""
    parts: list[dict[str, Any]] = [
        pump(),
        {"kind": "tee", "id": "tee", "on": "pump"},
        hose("hose-a", "tee", "a", **{**LARGE, **one}),
        hose("hose-b", "tee", "b", **LARGE),
        {**tool("tool-a", None, "hose-a"), "port": "suction"},
        {**tool("tool-b", None, "hose-b"), "port": "liquid"},
        gauge("tool-b", "side"),
    ]
    return Rig.model_validate({"parts": parts})


def _over(job: Job, ask: Callable[[Assembly], tuple[float, ...]]) -> list[tuple[float, float, float]]:
    """Bands of what ``ask`` finds on every member."""
    base = assemble(job)
    found = np.array(run_all(lambda u: ask(vary(base, job, u)), members(SIZE)))
    low, mid, high = np.quantile(found, (0.1, 0.5, 0.9), axis=0)
    return [(float(a), float(b), float(c)) for a, b, c in zip(low, mid, high, strict=True)]


def _from(net: Network, seconds: float, tubes: tuple[str, ...], after: float) -> Run:
    """Drawn for ``seconds``, then these valves shut: what follows for ``after`` s."""
    state = advance(compile_network(net), initial_state(net), seconds, rtol=5e-3).final
    return advance(compile_network(shut(net, tubes)), replace(state, step=1e-3), seconds + after, rtol=5e-3)


def _time(r: Run, node: str, micron: float, most: float = LONG) -> float:
    at = time_at_level(r.time, r.total(node), micron * MICRON_PA)
    return most if at is None else at


def cores_left_in() -> list[Envelope]:
    """Case a: a split that stood open, pulled through its cores by a manifold and charging hoses."""
    job = Job(scope=split(9.0, "3/4 in", 9.0, condition="open-hours", open_hours=1.0), rig=manifold_rig())

    def ask(a: Assembly) -> tuple[float, ...]:
        r = run(a.network, LONG, rtol=5e-3)
        there = _time(r, "system.coil", 500)
        coil, sensor = (lambda t, n=n: float(r.at(n, [t])[0]) / MICRON_PA for n in ("system.coil", a.gauge_node))
        then = _from(a.network, there, ("manifold.vacuum-way", "manifold.charge-way"), 900.0)
        rises = [float(then.total(n)[-1] - then.total(n)[0]) / MICRON_PA for n in (a.gauge_node, "system.coil")]
        return there / 3600.0, coil(_time(r, a.gauge_node, 1500)), coil(there) / sensor(there), *rises

    rows = (
        ("500 µ at the coil", "h", 2, 6),
        ("coil while the sensor shows 1,500 µ", "µ", 10_000, 60_000),
        ("coil over sensor near the end", "", 2, 3),
        ("isolated 15 min, hoses in: sensor climbs", "µ", 200, 900),
        ("the coil climbs", "µ", 5, 90),
    )
    return [Envelope("a", *row, band) for row, band in zip(rows, _over(job, ask), strict=True)]


def cores_out() -> list[Envelope]:
    """Case b: new lines, two large hoses, cores out."""
    job = Job(scope=split(14.0, "7/8 in", 12.0, condition="new-dry", whole=True), rig=two_large())
    tubes = isolation(job, assemble(job)).tubes

    def ask(a: Assembly) -> tuple[float, ...]:
        r = run(a.network, 7200.0, rtol=5e-3)
        gauge_at = a.gauge_node
        then = _from(a.network, 1200.0, tubes, 900.0).total(gauge_at)
        flat = float(r.at(gauge_at, [1200.0])[0]) / MICRON_PA
        times = (_time(r, gauge_at, level, 7200.0) / 60.0 for level in (1000, 200))
        return *times, flat, float(then[-1] - then[0]) / MICRON_PA

    rows = (
        ("1,000 µ", "min", 1, 3),
        ("200 µ", "min", 3, 8),
        ("then flat at", "µ", 150, 250),
        ("isolated, it settles higher by", "µ", 50, 120),
    )
    return [Envelope("b", *row, band) for row, band in zip(rows, _over(job, ask), strict=True)]


def _only(net: Network, nodes: set[str]) -> Network:
    return replace(
        net,
        nodes=tuple(n for n in net.nodes if n.name in nodes),
        tubes=tuple(t for t in net.tubes if t.a in nodes and t.b in nodes),
        leaks=tuple(x for x in net.leaks if x.node in nodes),
        outgassing=tuple(o for o in net.outgassing if o.node in nodes),
        sorbed=tuple(s for s in net.sorbed if s.node in nodes),
        pools=(),
    )


def rig_alone() -> list[Envelope]:
    """Case c: the pump on a clean hose, with a manifold, with three charging hoses, ten minutes on."""
    job = Job(scope=split(9.0, "3/4 in", 9.0), rig=manifold_rig())
    whole = {n.name for n in assemble(job).network.nodes if n.group != "system"}
    bare = {"pump", "intake", "hose-p.a", "hose-p.b", "hose-p.end"}
    found = []
    for words, nodes, node, low, high in (
        ("pump with a clean vacuum hose", bare, "hose-p.end", 25, 50),
        ("with a four-port manifold", bare | {"manifold"}, "manifold", 60, 200),
        ("with three used charging hoses too", whole, "manifold", 150, 500),
    ):

        def ask(a: Assembly, nodes: set[str] = nodes, node: str = node) -> tuple[float, ...]:
            r = run(_only(a.network, nodes), 600.0, rtol=5e-3)
            return (float(r.total(node)[-1]) / MICRON_PA,)

        found.append(Envelope("c", words, "µ", low, high, _over(job, ask)[0]))
    return found


def empty_cylinder() -> list[Envelope]:
    """Case d: an empty recovery cylinder through a large hose and a tool; with a hose out of its wrapping."""
    scope = Scope.model_validate(
        {
            "sections": [{"id": "cylinder", "kind": "cylinder", "volume_l": 24.0}],
            "links": [],
            "ports": [{"id": "valve", "section": "cylinder", "side": "other", "core": False}],
            "condition": "new-dry",
            "oil_kg": 0.0,
        }
    )

    def job(age: str) -> Job:
        parts = [
            pump(),
            hose("hose-a", "pump", **{**LARGE, "age": age}),
            {**tool("tool-a", None, "hose-a"), "port": "valve"},
            gauge("tool-a", "side"),
        ]
        return Job(scope=scope, rig=Rig.model_validate({"parts": parts}))

    def drawn(a: Assembly) -> tuple[float, ...]:
        r = run(a.network, 3600.0, rtol=5e-3)
        at = _time(r, "system.cylinder", 2000, 3600.0)
        seen = float(r.at(a.gauge_node, [at])[0]) / float(r.at("system.cylinder", [at])[0])
        then = _from(a.network, at, ("tool-a.ball",), 600.0)
        level, ends = then.total(a.gauge_node), float(then.total(a.gauge_node)[-1])
        slow = level >= level[0] + 0.95 * (ends - level[0])
        return seen, float(then.time[slow][0] - at) / 60.0

    def first_hours(a: Assembly) -> tuple[float, ...]:
        r = run(a.network, 5400.0, rtol=5e-3)
        return (float(r.total(a.gauge_node)[-1]) / MICRON_PA,)

    seen, dies = _over(job("used"), drawn)
    return [
        Envelope("d", "rig over cylinder while pumping", "", 0.33, 0.5, seen),
        Envelope("d", "isolated, the rise dies out in", "min", 0.0, 3.0, dies),
        Envelope("d", "floor with a new hose after 90 min", "µ", 200, 300, _over(job("new"), first_hours)[0]),
    ]


def bad_hose() -> list[Envelope]:
    """Case e: one bad hose of two on a small system; then changed."""
    job = Job(scope=split(5.0, "1/2 in", 4.0, condition="new-dry"), rig=two_large())
    base = assemble(job)
    bad = next(c for c in causes(job, base) if c.key == "hose-leak:hose-b")
    assert bad.apply is not None
    put = bad.apply

    def ask(pair: tuple[Unknowns, float]) -> tuple[float, float]:
        net = vary(base, job, pair[0]).network
        stalled = run(put(net, pair[1]), 1200.0, rtol=5e-3)
        state = replace(stalled.final, step=1e-3)
        after = advance(compile_network(net), state, 1800.0, rtol=5e-3)
        half = time_at_level(after.time, after.total(base.gauge_node), 0.5 * float(after.total(base.gauge_node)[0]))
        level = float(stalled.total(base.gauge_node)[-1]) / MICRON_PA
        return level, (1800.0 if half is None else half) - 1200.0

    # Severities are drawn apart from the unknowns: the far end of the ensemble's order, which means nothing.
    ends = [NormalDist().inv_cdf((k + 0.5) / SIZE) for k in range(SIZE)]
    found = np.array(run_all(ask, list(zip(members(SIZE), ends, strict=True))))
    bands = np.quantile(found, (0.1, 0.5, 0.9), axis=0).T
    stall, falls = ((float(a), float(b), float(c)) for a, b, c in bands)
    return [
        Envelope("e", "one bad hose stalls a small system at", "µ", 1000, 2000, stall),
        Envelope("e", "changed, half of that is gone in", "s", 0, 60, falls),
    ]


def rows() -> list[Envelope]:
    """Every row, case by case."""
    return [*cores_left_in(), *cores_out(), *rig_alone(), *empty_cylinder(), *bad_hose()]


def _figure(x: float) -> str:
    return f"{x:,.0f}" if x >= 100 else f"{x:.2g}"


def table() -> str:
    """The rows as a table of docs/physics.md."""
    lines = ["| case | what | unit | met | computed: 10 – 50 – 90 % | overlap |", "|---|---|---|---|---|---|"]
    for e in rows():
        band = " – ".join(_figure(x) for x in e.band)
        met = f"{_figure(e.low)}–{_figure(e.high)}"
        lines.append(f"| {e.case} | {e.what} | {e.unit} | {met} | {band} | {'yes' if e.holds else '**no**'} |")
    return "\n".join(lines)


if __name__ == "__main__":
    print(table())
