"""What can be wrong with a draw on this rig: each cause as a change of the network, with how grave it may be.

Severities are log-normal about what the trade meets (estimates, all of them). A cause may come in later: then it is put
on at a time, and the draw before it is as planned.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.catalogue.systems import WATER_HEAT
from rough_draw.core.engine.network import Gas, Leak, Network, Outgassing, Pool, Pump, Sorbed
from rough_draw.core.message import Message, Name, message
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import hose_name
from rough_draw.core.sheet.rig import HosePart, ToolPart

Apply = Callable[[Network, float], Network]


CauseKind = Literal[
    "none",
    "ballast",
    "wet-oil",
    "worn-pump",
    "slow-pump",
    "oil-carried",
    "system-leak",
    "open",
    "water",
    "ice",
    "refrigerant",
    "fouled",
    "jumping",
    "hose-leak",
    "dirty-hose",
    "core",
    "shut",
    "seat",
]


def kind_of(key: str) -> str:
    """The kind of a cause by its key: ``hose-leak:hose-a`` is a ``hose-leak``."""
    return key.partition(":")[0]


def place_of(key: str) -> str:
    """The part or port that a cause is about, by its key; empty where it is about none."""
    return key.partition(":")[2]


@dataclass(frozen=True, kw_only=True)
class Cause:
    """One cause: its kind and place, what that is called, its odds before anything is read.

    ``apply`` puts it on a network with a severity as a standard normal deviate; ``offset`` is what it adds to the
    gauge, µ, by the same deviate. ``later``: whether it can begin in the middle of a draw. ``scatters``: it makes the
    gauge jump.
    """

    kind: CauseKind
    place: str = ""
    where: Name = ""
    prior: float
    apply: Apply | None = None
    offset: Callable[[float], float] | None = None
    later: bool = False
    scatters: bool = False

    @property
    def key(self) -> str:
        """What it is stored as."""
        return f"{self.kind}:{self.place}" if self.place else self.kind

    @property
    def words(self) -> Message:
        """What is wrong."""
        return message(f"draw-cause-{self.kind}", where=self.where)

    @property
    def cure(self) -> Message:
        """What to do about it."""
        return message(f"draw-cause-{self.kind}.cure", where=self.where)


def _leak(node: str, middle: float, decades: float) -> Apply:
    def put(net: Network, s: float) -> Network:
        return replace(net, leaks=(*net.leaks, Leak(node, middle * 10 ** (decades * s), net.humidity, "cause")))

    return put


def _pumped(change: Callable[[Pump, float], Pump]) -> Apply:
    return lambda net, s: replace(net, pumps=tuple(change(p, s) for p in net.pumps))


def _ballast(p: Pump, s: float) -> Pump:
    return replace(p, ultimate=p.ultimate + cat.BALLAST_ULTIMATE.quantile(s))


def _wet_oil(p: Pump, s: float) -> Pump:
    return replace(p, ultimate_water=max(p.ultimate_water, cat.OIL_WATER["wet"].quantile(s)))


def _worn(p: Pump, s: float) -> Pump:
    return replace(p, ultimate=max(p.ultimate, 300 * MICRON_PA * 10 ** (0.3 * s)))


def _slow(p: Pump, s: float) -> Pump:
    return replace(p, speed=p.speed * min(0.6, 0.3 * 10 ** (0.15 * s)), ultimate=p.ultimate * 2.0)


def _carried(p: Pump, s: float) -> Pump:
    return replace(p, ultimate=p.ultimate + 800 * MICRON_PA * 10 ** (0.25 * s))


def _shut(tube: str) -> Apply:
    return lambda net, s: net.with_tube(tube, open=False)


def _dirty(hose: str) -> Apply:
    def put(net: Network, s: float) -> Network:
        q = 2.5e-3 * 10 ** (0.35 * s)
        mine = tuple(
            Outgassing(node=f"{hose}.{e}", gas=g, steady=0.15 * q, fresh=0.35 * q, tau=cat.NEW_RUBBER_TAU.value)
            for e in ("a", "b")
            for g in (Gas.AIR, Gas.WATER)
        )
        return replace(net, outgassing=(*net.outgassing, *mine))

    return put


def _pool(assembly: Assembly, grams: float, decades: float, heat: float) -> Apply:
    """Free water more than the sheet knows of; ``heat`` is the share of the usual warmth that reaches it."""
    place = assembly.system.water.place
    kind = assembly.system.kind(place)

    def put(net: Network, s: float) -> Network:
        mass = grams * 1e-3 * 10 ** (decades * s)
        usual = WATER_HEAT[kind].value * heat
        pool = Pool(f"system.{place}", mass, 2e-3 if heat >= 1 else 4e-3, usual)
        return replace(net, pools=(*(p for p in net.pools if p.node != pool.node), pool))

    return put


def _refrigerant(node: str, kg: float) -> Apply:
    def put(net: Network, s: float) -> Network:
        mass = kg * 0.02 * 10 ** (0.4 * s)
        return replace(
            net,
            sorbed=(
                *net.sorbed,
                Sorbed(node=node, gas=Gas.REFRIGERANT, mass=mass, tau=2400.0, capacity=0.0, name="refrigerant"),
            ),
        )

    return put


def causes(job: Job, assembly: Assembly) -> list[Cause]:
    """Every cause that this rig and system allow, the unremarkable one first."""
    return [*_of_the_pump(), *_of_the_system(job, assembly), *_of_the_gauge(), *_of_the_parts(job, assembly)]


def _of_the_pump() -> list[Cause]:
    return [
        Cause(kind="none", prior=0.10),
        Cause(
            kind="ballast",
            prior=0.12,
            apply=_pumped(_ballast),
            later=True,
        ),
        Cause(
            kind="wet-oil",
            prior=0.08,
            apply=_pumped(_wet_oil),
            later=True,
        ),
        Cause(
            kind="worn-pump",
            prior=0.06,
            apply=_pumped(_worn),
        ),
        Cause(
            kind="slow-pump",
            prior=0.05,
            apply=_pumped(_slow),
            later=True,
        ),
        Cause(
            kind="oil-carried",
            prior=0.02,
            apply=_pumped(_carried),
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
            apply=_leak(at, 4e-3, 0.5),
            later=True,
        ),
        Cause(
            kind="open",
            prior=0.04,
            apply=_leak(at, 8.0, 0.5),
            later=True,
        ),
        Cause(
            kind="water",
            prior=0.10,
            apply=_pool(assembly, 12.0, 0.35, 1.0),
        ),
        Cause(
            kind="ice",
            prior=0.04,
            apply=_pool(assembly, 15.0, 0.3, 0.04),
        ),
        Cause(
            kind="refrigerant",
            prior=0.04,
            apply=_refrigerant(at, job.scope.oil_kg),
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
    return found


def _of_a_hose(hose: HosePart, where: Name, share: float) -> list[Cause]:
    return [
        Cause(
            kind="hose-leak",
            place=hose.id,
            where=where,
            prior=0.07 * share,
            apply=_leak(f"{hose.id}.b", 6e-2, 0.5),
            later=True,
        ),
        Cause(
            kind="dirty-hose",
            place=hose.id,
            where=where,
            prior=0.05 * share,
            apply=_dirty(hose.id),
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
                apply=_shut(f"{port.id}.port"),
            )
        )
    shut = Cause(
        kind="shut",
        place=tool.id,
        where=name,
        prior=0.04 * share,
        apply=_shut(f"{tool.id}.ball"),
    )
    return [*found, shut]
