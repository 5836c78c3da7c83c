"""Events of a run: what a hand does to the network, or to what is in it, at a time.

Each maker returns an `Event`: a change of the network (a valve, the pump, a part) or of the state (gas let in).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from rough_draw.core.engine.network import Gas, Network
from rough_draw.core.engine.simulate import FullChange, Run, State, run_changes
from rough_draw.core.physics.gas import T_REF


@dataclass(frozen=True)
class Event:
    """Something done at ``at`` s; ``words`` for the record."""

    at: float
    words: str
    change: FullChange


def valve(at: float, name: str, is_open: bool) -> Event:
    """Open or shut a passage by its name."""
    word = "opened" if is_open else "shut"
    return Event(at, f"{name} {word}", lambda n, s: (n.with_tube(name, open=is_open), s))


def pump(at: float, running: bool) -> Event:
    """Start or stop the pump. Stopped and not isolated, air and oil come back through it."""
    return Event(at, "pump started" if running else "pump stopped", lambda n, s: (n.with_pump(running=running), s))


def ballast(at: float, is_open: bool, adds: float) -> Event:
    """Open or shut the gas ballast, which raises the pump's ultimate by ``adds`` Pa while it is open."""
    sign = 1.0 if is_open else -1.0

    def change(net: Network, state: State) -> tuple[Network, State]:
        pumps = tuple(replace(p, ultimate=max(0.0, p.ultimate + sign * adds)) for p in net.pumps)
        return replace(net, pumps=pumps), state

    return Event(at, f"ballast {'opened' if is_open else 'shut'}", change)


def oil_change(at: float, vapour: float) -> Event:
    """Fresh oil: water vapour over the pump's oil falls to ``vapour`` Pa."""
    return Event(at, "pump oil changed", lambda n, s: (n.with_pump(ultimate_water=vapour), s))


def part_swap(at: float, name: str, bore: float, length: float) -> Event:
    """A passage exchanged: a core pulled, a hose swapped for another."""
    return Event(at, f"{name} exchanged", lambda n, s: (n.with_tube(name, bore=bore, length=length), s))


def warm(at: float, node: str, temperature: float) -> Event:
    """A volume warmed to ``temperature`` K: its gas expands at once, heat reaches its water from then on."""

    def change(net: Network, state: State) -> tuple[Network, State]:
        i = net.index(node)
        nodes = tuple(replace(n, temperature=temperature) if k == i else n for k, n in enumerate(net.nodes))
        return replace(net, nodes=nodes), state

    return Event(at, f"{node} warmed", change)


def nitrogen_break(at: float, node: str, pressure: float) -> Event:
    """Dry nitrogen let in at ``node`` until everything joined to it stands at ``pressure`` Pa.

    What was there stays, diluted; free water is not diluted, only warmed a little by the gas (left out here).
    """

    def change(net: Network, state: State) -> tuple[Network, State]:
        joined = net.connected(node)
        gas = state.gas.copy()
        for i, n in enumerate(net.nodes):
            if n.name in joined:
                now = float(gas[i].sum()) * n.temperature / (T_REF * n.volume)
                if now < pressure:
                    gas[i, Gas.AIR] += (pressure - now) * n.volume * T_REF / n.temperature
        return net, replace(state, gas=gas)

    return Event(at, f"broken with nitrogen to {pressure / 1000:.0f} kPa", change)


def play(net: Network, until: float, events: Sequence[Event] = (), rtol: float = 1e-3) -> Run:
    """Run a network through events to ``until`` s. Raises NetworkError for a part that is not there."""
    return run_changes(net, until, [(e.at, e.change) for e in events], rtol)


def dilution(levels: Sequence[tuple[float, float]]) -> float:
    """Share of the first gas left after breaks from each low pressure to each high one (Pa): Π p_low/p_break."""
    share = 1.0
    for low, high in levels:
        share *= low / high
    return share
