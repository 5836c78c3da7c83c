"""What can be wrong with a draw on this rig: each cause as a change of the network, with how grave it may be.

Severities are log-normal about what the trade meets (estimates, all of them). A cause may come in later: then it is put
on at a time, and the draw before it is as planned.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.catalogue.systems import WATER_HEAT
from rough_draw.core.engine.network import Gas, Leak, Network, Outgassing, Pool, Pump, Sorbed
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart, ToolPart

Apply = Callable[[Network, float], Network]


@dataclass(frozen=True)
class Cause:
    """One cause: a stable key, what it is in words, what to do about it, and its odds before anything is read.

    ``apply`` puts it on a network with a severity as a standard normal deviate; ``offset`` is what it adds to the
    gauge, µ, by the same deviate. ``later``: whether it can begin in the middle of a draw. ``scatters``: it makes the
    gauge jump.
    """

    key: str
    words: str
    cure: str
    prior: float
    apply: Apply | None = None
    offset: Callable[[float], float] | None = None
    later: bool = False
    scatters: bool = False


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


def _core(tube: str) -> Apply:
    def put(net: Network, s: float) -> Network:
        return net.with_tube(tube, bore=cat.CORE_IN_BORE.quantile(-s), length=cat.CORE_IN_LENGTH.value, kind="core")

    return put


def _dirty(hose: str) -> Apply:
    def put(net: Network, s: float) -> Network:
        q = 2.5e-3 * 10 ** (0.35 * s)
        mine = tuple(Outgassing(f"{hose}.{e}", g, 0.15 * q, 0.35 * q) for e in ("a", "b") for g in (Gas.AIR, Gas.WATER))
        return replace(net, outgassing=(*net.outgassing, *mine))

    return put


def _pool(place: str, grams: float, decades: float, heat: float) -> Apply:
    """Free water more than the sheet knows of; ``heat`` is the share of the usual warmth that reaches it."""

    def put(net: Network, s: float) -> Network:
        mass = grams * 1e-3 * 10 ** (decades * s)
        usual = WATER_HEAT.value * heat
        pool = Pool(f"system.{place}", mass, 2e-3 if heat >= 1 else 4e-3, usual)
        return replace(net, pools=(*(p for p in net.pools if p.node != pool.node), pool))

    return put


def _refrigerant(node: str, kg: float) -> Apply:
    def put(net: Network, s: float) -> Network:
        mass = kg * 0.02 * 10 ** (0.4 * s)
        return replace(net, sorbed=(*net.sorbed, Sorbed(node, Gas.REFRIGERANT, mass, 2400.0, 0.0, "refrigerant")))

    return put


def causes(job: Job, assembly: Assembly) -> list[Cause]:
    """Every cause that this rig and system allow, the unremarkable one first."""
    net, rig = assembly.network, job.rig
    place = assembly.system.water.place
    at = f"system.{place}"
    found = [
        Cause("none", "nothing: it goes as planned", "Wait.", 0.10),
        Cause("ballast", "the gas ballast is open", "Close it.", 0.12, _pumped(_ballast), later=True),
        Cause("wet-oil", "wet pump oil", "Change it warm, and pull on.", 0.08, _pumped(_wet_oil), later=True),
        Cause(
            "worn-pump", "the pump at its own end", "Blank it off; change its oil, or the pump.", 0.06, _pumped(_worn)
        ),
        Cause(
            "slow-pump",
            "the pump runs slow: power, or a thin cord",
            "Look at cord and voltage.",
            0.05,
            _pumped(_slow),
            later=True,
        ),
        Cause(
            "oil-carried",
            "oil carried into hose and gauge",
            "Shut the pump off, clean the gauge.",
            0.02,
            _pumped(_carried),
            later=True,
        ),
        Cause("system-leak", "a leak in the system", "Find it under nitrogen.", 0.10, _leak(at, 4e-3, 0.5), later=True),
        Cause(
            "open",
            "an opening to the air",
            "A plunger not seated, a cap off, a valve the wrong way.",
            0.04,
            _leak(at, 8.0, 0.5),
            later=True,
        ),
        Cause(
            "water",
            "water boils in the system",
            "Ballast, warmth, patience; fresh oil half way.",
            0.10,
            _pool(place, 12.0, 0.35, 1.0),
        ),
        Cause(
            "ice",
            "ice in the system",
            "Break with nitrogen, warm the spot, pull again.",
            0.04,
            _pool(place, 15.0, 0.3, 0.04),
        ),
        Cause(
            "refrigerant",
            "refrigerant comes out of the oil",
            "Warm the compressor, let it come.",
            0.04,
            _refrigerant(at, job.scope.oil_kg),
        ),
        Cause(
            "fouled",
            "the gauge's sensor is fouled",
            "Clean it with alcohol, or try another.",
            0.05,
            offset=lambda s: 180.0 * 10 ** (0.25 * s),
        ),
    ]
    found.append(
        Cause(
            "jumping",
            "bubbles of lubricant, or a loose joint, at the gauge",
            "Wipe its joint dry, a new gasket, hand tight.",
            0.03,
            scatters=True,
        )
    )
    hoses = [p for p in rig.parts if isinstance(p, HosePart) and any(n.name == f"{p.id}.b" for n in net.nodes)]
    tools = [
        p for p in rig.parts if isinstance(p, ToolPart) and p.port and any(t.name == f"{p.id}.ball" for t in net.tubes)
    ]
    for h in hoses:
        where = _hose(job, h)
        each = 1.0 / len(hoses)
        found.append(
            Cause(
                f"hose-leak:{h.id}",
                f"{where} leaks",
                "Seat its gaskets, or change it.",
                0.07 * each,
                _leak(f"{h.id}.b", 2.5e-2, 0.45),
                later=True,
            )
        )
        found.append(
            Cause(
                f"dirty-hose:{h.id}",
                f"{where} gives off gas: new, oily or wet",
                "Change it, or cure it on the pump.",
                0.05 * each,
                _dirty(h.id),
            )
        )
    for t in tools:
        port = job.scope.port(t.port or "")
        words = port.words() if port else str(t.port)
        each = 1.0 / len(tools)
        if port is not None and port.core and port.id not in rig.cores_in:
            found.append(
                Cause(
                    f"core:{port.id}",
                    f"the core is still in at the {words}",
                    "Pull it through the tool.",
                    0.05 * each,
                    _core(f"{port.id}.port"),
                )
            )
        found.append(
            Cause(f"shut:{t.id}", f"the tool at the {words} is shut", "Open it.", 0.04 * each, _shut(f"{t.id}.ball"))
        )
    return found


def _hose(job: Job, hose: HosePart) -> str:
    ends = [hose, *job.rig.children(hose.id)]
    port = next((job.scope.port(p.port) for p in ends if p.port), None)
    return f"the hose to the {port.words()}" if port is not None else f"the hose {hose.name or hose.id}"
