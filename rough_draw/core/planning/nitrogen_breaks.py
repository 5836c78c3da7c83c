"""Breaks of the vacuum with dry nitrogen: what one does to the network, and how many are worth their time."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from rough_draw.core.catalogue.breaking import FILL_S, STAND_S, WARMS
from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Gas, Leak, Network
from rough_draw.core.engine.run import State
from rough_draw.core.engine.simulate import advance, initial_state
from rough_draw.core.message import Message, message
from rough_draw.core.model.assemble import Assembly, assemble, vary
from rough_draw.core.model.ensemble import members, run_all
from rough_draw.core.model.isolation import isolation, shut
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.gas import R_WATER, T_REF
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job

USUAL = 1_500 * MICRON_PA
"""Level, Pa, at which the vacuum is broken where the school names none."""
MOST = 3
LONGEST_S = 12 * 3600.0
NITROGEN = "nitrogen let in"


@dataclass(frozen=True)
class Way:
    """How a break is made: tubes that shut the pump off (none: it is stopped), and the node where nitrogen enters."""

    tubes: tuple[str, ...]
    node: str


def way_of(job: Job, assembly: Assembly) -> Way:
    """The pump's own valve where it has one, or else what isolates the system; nitrogen comes in at the first port."""
    pump = next((v.tube for v in assembly.valves.values() if v.name == "pump"), None)
    tubes = (pump,) if pump is not None else isolation(job, assembly).tubes
    ports = assembly.system.ports
    first = next((p.port for p in (*job.rig.pumped(), *job.rig.parts) if p.port), next(iter(ports)))
    return Way(tubes, f"system.{ports[first or '']}")


def broken(net: Network, way: Way) -> Network:
    """The network while nitrogen comes in to 0 gauge: the pump shut off, a dry inflow that ends at the atmosphere."""
    inside = sum(n.volume for n in net.nodes if n.group == "system")
    inflow = Leak(way.node, inside * net.atmosphere / FILL_S.value, 0.0, NITROGEN)
    warmed = tuple(replace(p, heat_inflow=p.heat_inflow * WARMS.value) for p in net.pools)
    net = replace(net, leaks=(*net.leaks, inflow), pools=warmed)
    net = shut(net, way.tubes, is_open=False)
    return net if way.tubes else net.with_pump(running=False)


def pulling(net: Network, way: Way) -> Network:
    """The network after a break: nitrogen shut, the pump on the system again."""
    cooled = tuple(replace(p, heat_inflow=p.heat_inflow / WARMS.value) for p in net.pools)
    net = replace(net, leaks=tuple(x for x in net.leaks if x.name != NITROGEN), pools=cooled)
    net = shut(net, way.tubes, is_open=True)
    return net if way.tubes else net.with_pump(running=True)


def levels(job: Job, count: int) -> tuple[float, ...]:
    """Pressures, Pa, of ``count`` breaks: the school's, the last of them for any more."""
    named = chosen(job.criterion).breaks or (USUAL,)
    return tuple(named[min(n, len(named) - 1)] for n in range(count))


def dilution(level: float, atmosphere: float) -> float:
    """Share of the vapour that a break at ``level`` Pa leaves after the next draw to it: level over atmosphere.

    Ideal mixing: what is left at ``level`` is spread through a full charge of nitrogen, and the next draw takes all
    but ``level`` / ``atmosphere`` of that. It is a bound; liquid and ice are not diluted.
    """
    return level / atmosphere


@dataclass(frozen=True)
class Cycle:
    """A draw with ``breaks`` breaks: s to the target (None: not within half a day), kg of water left, of it free.

    ``free`` and ``bound`` kg: as liquid or ice, and in oil and on walls. ``vapour`` kg as gas at the target.
    """

    breaks: int
    time: Range | None
    free: Range
    bound: Range
    vapour: Range

    @property
    def left(self) -> float:
        """Water left in the middle case, kg."""
        return self.free.value + self.bound.value + self.vapour.value


@dataclass(frozen=True)
class Worth:
    """Draws with none to `MOST` breaks, and how many are worth their time, with the reason."""

    cycles: tuple[Cycle, ...]
    advised: int
    why: Message
    share: float


def worth(job: Job, size: int = 5) -> Worth:
    """Play the draw with none to three breaks. Raises ScopeError or NetworkError where the sheet is at fault."""
    base = assemble(job)
    way = way_of(job, base)
    draws = [Unknowns(), *members(size - 1)]
    found = []
    for n in range(MOST + 1):
        played = run_all(lambda u, n=n: _played(job, base, way, u, n), draws)  # type: ignore[misc]
        times = [t for t, _ in played]
        ends = [water for _, water in played]
        known = [t for t in times if t is not None]
        time = _span([t if t is not None else LONGEST_S for t in times]) if 2 * len(known) > len(times) else None
        free, bound, vapour = (_span([e[k] for e in ends]) for k in (0, 1, 2))
        found.append(Cycle(n, time, free, bound, vapour))
    advised, why = _advised(found)
    return Worth(tuple(found), advised, why, dilution(levels(job, 1)[0], base.network.atmosphere))


def _span(values: list[float]) -> Range:
    low, mid, high = (float(x) for x in np.quantile(np.array(values), (0.1, 0.5, 0.9)))
    return Range(low, mid, high)


def _advised(cycles: list[Cycle]) -> tuple[int, Message]:
    """The fewest breaks after which one more takes under a fifth of the water that is left."""
    reached = [c for c in cycles if c.time is not None]
    if not reached:
        return 0, message("breaks-none-gets-there")
    for now, after in pairwise(reached):
        if after.left > 0.8 * now.left:
            if now.breaks == 0:
                return 0, message("breaks-not-worth")
            return now.breaks, message("breaks-enough")
    return reached[-1].breaks, message("breaks-each-counts")


Water = tuple[float, float, float]
"""Water left, kg: free, bound, vapour."""


def _played(job: Job, base: Assembly, way: Way, u: Unknowns, breaks: int) -> tuple[float | None, Water]:
    """Time to the target after ``breaks`` breaks, and water left at it."""
    varied = vary(base, job, u)
    net, gauge = varied.network, varied.gauge_node
    state = initial_state(net)
    for level in levels(job, breaks):
        state, at = _down(net, gauge, state, level)
        if at is None:
            return None, _water(net, state)
        end = state.time + FILL_S.value + STAND_S.value
        state = advance(compile_network(broken(net, way)), _fresh(state), end, rtol=1e-2).final
    state, at = _down(net, gauge, state, chosen(job.criterion).target)
    return at, _water(net, state)


def _fresh(state: State) -> State:
    return replace(state, step=1e-3)


def _down(net: Network, gauge: str, state: State, level: float) -> tuple[State, float | None]:
    """Draw until the gauge is at ``level``: in strides, as the stop of the engine is at its own steps."""
    compiled = compile_network(net)
    end = state.time + LONGEST_S
    now = _fresh(state)
    stride = 120.0
    while now.time < end:
        result = advance(compiled, now, min(end, now.time + stride), rtol=1e-2)
        at = time_at_level(result.time, result.total(gauge), level)
        if at is not None:
            back = advance(compiled, now, max(at, now.time + 1e-3), rtol=1e-2)
            return back.final, at
        now, stride = result.final, stride * 1.3
    return now, None


def _water(net: Network, state: State) -> Water:
    system = {n.name for n in net.nodes if n.group == "system"}
    bound = sum(
        float(m) for m, s in zip(state.sorbed, net.sorbed, strict=True) if s.gas == Gas.WATER and s.node in system
    )
    inside = [i for i, n in enumerate(net.nodes) if n.group == "system"]
    # pV at 293.15 K over R T is kilograms.
    vapour = float(np.maximum(state.gas[inside, Gas.WATER], 0.0).sum()) / (R_WATER * T_REF)
    return float(np.maximum(state.pool[:, 0], 0.0).sum()), bound, vapour
