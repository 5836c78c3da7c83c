"""What causes do to a network, by how grave they are: a severity is a standard normal deviate.

Severities are log-normal about what the trade meets (estimates, all of them).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.catalogue.systems import WATER_HEAT
from rough_draw.core.diagnosis.faults import Apply
from rough_draw.core.engine.network import Gas, Leak, Network, Outgassing, Pool, Pump, Sorbed
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.physics.units import MICRON_PA


def leak(node: str, middle: float, decades: float) -> Apply:
    """Air let in at a node, Pa·m³/s."""

    def put(net: Network, s: float) -> Network:
        return replace(net, leaks=(*net.leaks, Leak(node, middle * 10 ** (decades * s), net.humidity, "cause")))

    return put


def pumped(change: Callable[[Pump, float], Pump]) -> Apply:
    """A change of every pump."""
    return lambda net, s: replace(net, pumps=tuple(change(p, s) for p in net.pumps))


def ballast(p: Pump, s: float) -> Pump:
    """The gas ballast open."""
    return replace(p, ultimate=p.ultimate + cat.BALLAST_ULTIMATE.quantile(s))


def wet_oil(p: Pump, s: float) -> Pump:
    """Water in the oil of the pump."""
    return replace(p, ultimate_water=max(p.ultimate_water, cat.OIL_WATER["wet"].quantile(s)))


def worn(p: Pump, s: float) -> Pump:
    """A pump that does not get as deep as it should."""
    return replace(p, ultimate=max(p.ultimate, 300 * MICRON_PA * 10 ** (0.3 * s)))


def slow(p: Pump, s: float) -> Pump:
    """A pump that runs slow."""
    return replace(p, speed=p.speed * min(0.6, 0.3 * 10 ** (0.15 * s)), ultimate=p.ultimate * 2.0)


def carried(p: Pump, s: float) -> Pump:
    """Oil carried over, that gives up what it holds."""
    return replace(p, ultimate=p.ultimate + 800 * MICRON_PA * 10 ** (0.25 * s))


def shut(tube: str) -> Apply:
    """A passage closed."""
    return lambda net, s: net.with_tube(tube, open=False)


def dirty(hose: str) -> Apply:
    """A hose that gives off gas."""

    def put(net: Network, s: float) -> Network:
        q = 2.5e-3 * 10 ** (0.35 * s)
        mine = tuple(
            Outgassing(node=f"{hose}.{e}", gas=g, steady=0.15 * q, fresh=0.35 * q, tau=cat.NEW_RUBBER_TAU.value)
            for e in ("a", "b")
            for g in (Gas.AIR, Gas.WATER)
        )
        return replace(net, outgassing=(*net.outgassing, *mine))

    return put


def pool(assembly: Assembly, grams: float, decades: float, heat: float) -> Apply:
    """Free water more than the sheet knows of; ``heat`` is the share of the usual warmth that reaches it."""
    place = assembly.system.water.place
    kind = assembly.system.kind(place)

    def put(net: Network, s: float) -> Network:
        mass = grams * 1e-3 * 10 ** (decades * s)
        usual = WATER_HEAT[kind].value * heat
        pool = Pool(f"system.{place}", mass, 2e-3 if heat >= 1 else 4e-3, usual)
        return replace(net, pools=(*(p for p in net.pools if p.node != pool.node), pool))

    return put


REFRIGERANT_TIMES = ((0.25, 600.0), (0.75, 2400.0))
"""Shares of what oil holds, and the times, s, in which they leave it (estimates)."""


def refrigerant(node: str, kg: float) -> Apply:
    """Refrigerant that comes out of oil: soon from what is near the surface, slowly from the rest."""

    def put(net: Network, s: float) -> Network:
        mass = kg * 0.02 * 10 ** (0.4 * s)
        found = tuple(
            Sorbed(node=node, gas=Gas.REFRIGERANT, mass=share * mass, tau=tau, capacity=0.0, name="refrigerant")
            for share, tau in REFRIGERANT_TIMES
        )
        return replace(net, sorbed=(*net.sorbed, *found))

    return put


def all_dirty(hoses: Sequence[str]) -> Apply:
    """Every hose gives off gas, each a little less than a single bad one would."""
    each = [dirty(h) for h in hoses]

    def put(net: Network, s: float) -> Network:
        for one in each:
            net = one(net, s - 0.8)
        return net

    return put


def narrowed(tube: str, middle: float) -> Apply:
    """A passage of which a share of the bore is left: flattened, plugged, an end that was never bored through."""

    def put(net: Network, s: float) -> Network:
        left = min(0.8, middle * 10 ** (-0.15 * s))
        return replace(net, tubes=tuple(replace(t, bore=t.bore * left) if t.name == tube else t for t in net.tubes))

    return put


def all_shut(tubes: Sequence[str]) -> Apply:
    """Several passages closed at once."""

    def put(net: Network, s: float) -> Network:
        for t in tubes:
            net = net.with_tube(t, open=False)
        return net

    return put
