"""The touches of a run as changes of its network: so that any draw can be played again with other unknowns."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from rough_draw.core.catalogue.rig_parts import BALLAST_ULTIMATE
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.simulate import Change
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.model.isolation import isolation, shut
from rough_draw.core.model.pump import with_pump_oil
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.planning.nitrogen_breaks import Way, broken, pulling, way_of
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import BALLAST, Touch
from rough_draw.core.sheet.steps import OnPart


def replayed(
    job: Job, assembly: Assembly, u: Unknowns, touches: Sequence[Touch], start: float
) -> tuple[Network, list[tuple[float, Change]]]:
    """The network as the first touches left it, and the later ones as changes of it, times from ``start``."""
    events = changes_of(job, assembly, u, touches, start)
    net = assembly.network
    for at, change in events:
        if at <= 0.5:
            net = change(net)
    return net, [e for e in events if e[0] > 0.5]


def standing(touches: Sequence[Touch], start: float) -> tuple[Touch, ...]:
    """Touches that a draw from ``start`` (epoch s) is played by: those made in it, and of those before it the last on
    the ballast and on each valve, since what was turned before the pump was started stands so when it runs.
    """
    before: dict[str, Touch] = {}
    for t in touches:
        if t.at < start - 1.0:
            if t.kind in BALLAST:
                before["ballast"] = t
            elif isinstance(one := t.step, OnPart) and one.is_valve:
                before[f"valve {one.part}"] = t
    turned = sorted(before.values(), key=lambda t: t.at)
    return (*turned, *(t for t in touches if t.at >= start - 1.0))


def changes_of(
    job: Job, assembly: Assembly, u: Unknowns, touches: Sequence[Touch], start: float
) -> list[tuple[float, Change]]:
    """Touches of a run as changes of the network, times from the pump's start; the ballast as it was turned."""
    found: list[tuple[float, Change]] = []
    isolating: tuple[str, ...] = ()
    ballast = False
    way: Way | None = None
    for t in touches:
        at = t.at - start
        if t.kind in ("ballast-open", "ballast-shut"):
            if (t.kind == "ballast-open") != ballast:
                ballast = not ballast
                found.append((at, with_ballast(u, ballast)))
        elif t.kind in ("pump-on", "pump-off"):
            on = t.kind == "pump-on"
            found.append((at, lambda n, on=on: n.with_pump(running=on)))  # type: ignore[misc]
        elif t.kind in ("isolate", "reopen", "check-hold", "check-end"):
            if not isolating:
                isolating = isolation(job, assembly).tubes
            is_open = t.kind in ("reopen", "check-end")
            found.append((at, lambda n, o=is_open, tubes=isolating: shut(n, tubes, is_open=o)))  # type: ignore[misc]
        elif t.kind in ("break", "break-end"):
            if way is None:
                way = way_of(job, assembly)
            made = broken if t.kind == "break" else pulling
            found.append((at, lambda n, f=made, w=way: f(n, w)))  # type: ignore[misc]
        elif isinstance(one := t.step, OnPart) and one.is_valve and one.part in assembly.valves:
            tube = assembly.valves[one.part].tube
            found.append((at, lambda n, o=one.move == "open", name=tube: n.with_tube(name, open=o)))  # type: ignore[misc]
    return found


def with_ballast(u: Unknowns, is_open: bool) -> Change:
    """A change that opens the gas ballast, or shuts it where it was open: it adds to the pump's ultimate."""
    adds = BALLAST_ULTIMATE.quantile(u.pump) * (1.0 if is_open else -1.0)

    def change(net: Network) -> Network:
        pumps = tuple(replace(p, ultimate=max(0.0, p.ultimate + adds)) for p in net.pumps)
        return with_pump_oil(replace(net, pumps=pumps), is_open)

    return change
