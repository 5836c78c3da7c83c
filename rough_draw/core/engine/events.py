"""Events of a run: what a hand does to the network, or to what is in it, at a time.

Each maker returns an `Event`: a change of the network (a valve, the pump, a part) or of the state (gas let in).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from rough_draw.core.engine.network import Gas, Network
from rough_draw.core.engine.run import Run, State
from rough_draw.core.engine.simulate import FullChange, run_changes
from rough_draw.core.physics.gas import T_REF


@dataclass(frozen=True)
class Event:
    """Something done at ``at`` s; ``words`` for the record."""

    at: float
    words: str
    change: FullChange


def valve(at: float, name: str, is_open: bool) -> Event:
    """Open or shut a passage by its name.

    Parameters
    ----------
    at : float
        s.
    name : str
        Of the passage.
    is_open : bool
        What it becomes.

    Returns
    -------
    Event
        To be played.

    Examples
    --------
    >>> valve(60.0, "tool a", False).words
    'tool a shut'
    """
    word = "opened" if is_open else "shut"
    return Event(at, f"{name} {word}", lambda n, s: (n.with_tube(name, open=is_open), s))


def pump(at: float, running: bool) -> Event:
    """Start or stop the pump. Stopped and not isolated, air and oil come back through it.

    Parameters
    ----------
    at : float
        s.
    running : bool
        What it becomes.

    Returns
    -------
    Event
        To be played.

    Examples
    --------
    >>> pump(60.0, False).words
    'pump stopped'
    """
    return Event(at, "pump started" if running else "pump stopped", lambda n, s: (n.with_pump(running=running), s))


def ballast(at: float, is_open: bool, adds: float) -> Event:
    """Open or shut the gas ballast, which raises the pump's ultimate by ``adds`` Pa while it is open.

    Parameters
    ----------
    at : float
        s.
    is_open : bool
        What it becomes.
    adds : float
        Pa that it adds to the ultimate.

    Returns
    -------
    Event
        To be played.

    Examples
    --------
    >>> ballast(60.0, True, 120.0).words
    'ballast opened'
    """
    sign = 1.0 if is_open else -1.0

    def change(net: Network, state: State) -> tuple[Network, State]:
        pumps = tuple(replace(p, ultimate=max(0.0, p.ultimate + sign * adds)) for p in net.pumps)
        return replace(net, pumps=pumps), state

    return Event(at, f"ballast {'opened' if is_open else 'closed'}", change)


def oil_change(at: float, vapour: float) -> Event:
    """Fresh oil: water vapour over the pump's oil falls to ``vapour`` Pa.

    Parameters
    ----------
    at : float
        s.
    vapour : float
        Pa of water over the fresh oil.

    Returns
    -------
    Event
        To be played.

    Examples
    --------
    >>> oil_change(600.0, 0.5).words
    'pump oil changed'
    """
    return Event(at, "pump oil changed", lambda n, s: (n.with_pump(ultimate_water=vapour), s))


def part_swap(at: float, name: str, bore: float, length: float) -> Event:
    """A passage exchanged: a core pulled, a hose swapped for another.

    Parameters
    ----------
    at : float
        s.
    name : str
        Of the passage.
    bore : float
        m.
    length : float
        m.

    Returns
    -------
    Event
        To be played.

    Examples
    --------
    >>> part_swap(60.0, "hose a", 0.012, 1.5).words
    'hose a exchanged'
    """
    return Event(at, f"{name} exchanged", lambda n, s: (n.with_tube(name, bore=bore, length=length, width=0.0), s))


def warm(at: float, node: str, temperature: float) -> Event:
    """A volume warmed to ``temperature`` K: its gas expands at once, heat reaches its water from then on.

    Parameters
    ----------
    at : float
        s.
    node : str
        Which volume.
    temperature : float
        K.

    Returns
    -------
    Event
        To be played.

    Examples
    --------
    >>> warm(60.0, "coil", 310.0).words
    'coil warmed'
    """

    def change(net: Network, state: State) -> tuple[Network, State]:
        i = net.index(node)
        nodes = tuple(replace(n, temperature=temperature) if k == i else n for k, n in enumerate(net.nodes))
        return replace(net, nodes=nodes), state

    return Event(at, f"{node} warmed", change)


def nitrogen_break(at: float, node: str, pressure: float) -> Event:
    """Dry nitrogen let in at ``node`` until everything joined to it stands at ``pressure`` Pa.

    What was there stays, diluted; free water is not diluted, only warmed a little by the gas (left out here).

    Parameters
    ----------
    at : float
        s.
    node : str
        Where it is let in.
    pressure : float
        Pa, absolute, that everything joined comes to.

    Returns
    -------
    Event
        To be played.

    Examples
    --------
    >>> nitrogen_break(60.0, "coil", 101_325.0).words
    'broken with nitrogen to 101 kPa'
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
    """Run a network through events to ``until`` s.

    Parameters
    ----------
    net : Network
        As it stands at the start.
    until : float
        s.
    events : sequence of Event
        In any order.
    rtol : float
        Relative tolerance of a step.

    Returns
    -------
    Run
        All moments.

    Raises
    ------
    NetworkError
        For a part that is not there.

    Examples
    --------
    >>> from rough_draw.core.engine.network import Node, Pump
    >>> net = Network(nodes=(Node("pump", 0.010),), pumps=(Pump(node="pump", speed=2.83e-3, ultimate=0.0),))
    >>> bool(play(net, 20.0, [pump(10.0, False)]).total("pump")[-1] > 100.0)
    True
    """
    return run_changes(net, until, [(e.at, e.change) for e in events], rtol)


def dilution(levels: Sequence[tuple[float, float]]) -> float:
    """Share of the first gas left after breaks from each low pressure to each high one (Pa): Π p_low/p_break.

    Parameters
    ----------
    levels : sequence of (float, float)
        Pa before and after each break.

    Returns
    -------
    float
        Share of the first gas that is left.

    Examples
    --------
    >>> dilution([(200.0, 100_000.0)] * 2)
    4e-06
    """
    share = 1.0
    for low, high in levels:
        share *= low / high
    return share
