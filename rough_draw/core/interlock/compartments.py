"""The board that touches are played on: rig and system as compartments with valves, ports and sources between them.

Made from the same graph as the engine's network. Passages that nothing can shut are one compartment; what a hand can
turn, pull or take off stands between two.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Literal

from rough_draw.core.message import Name
from rough_draw.core.model.assemble import Assembly
from rough_draw.core.sheet.job import Job

GateKind = Literal["valve", "service", "section", "port", "cylinder", "nitrogen"]


@dataclass(frozen=True, kw_only=True)
class Gate:
    """Something between two compartments that a hand opens and shuts. ``part``: the rig part or link it belongs to."""

    name: str
    kind: GateKind
    a: int
    b: int
    label: Name
    part: str


@dataclass(frozen=True, kw_only=True)
class Room:
    """A compartment: volume m³ and what it is part of. ``source``: an endless supply of a gas at ``supply`` Pa."""

    name: str
    volume: float
    system: bool = False
    kept: bool = False
    hose_m: float = 0.0
    source: Literal["", "refrigerant", "nitrogen", "air"] = ""
    supply: float = 0.0
    sections: tuple[str, ...] = ()


@dataclass(frozen=True, eq=False, kw_only=True)
class Board:
    """Rooms and gates of one sheet, and where pump, gauges and the open ends of parts are.

    ``ends``: the room that stands open to the air when a part is taken off. ``cored``: gates of ports that have a core
    for a tool to put back. ``sprung``: ports that shut themselves when what pushes their core is taken off.
    ``found``: rooms joined to each room, kept by what is open: a search asks again and again.
    ``pump_gone``: the hose at the pump stands on a bottle; ``pump`` is then the room at its end.
    ``liquid_ports``: ports on the liquid side. ``hoses``: hoses by the room their bore is in.
    ``drawn``: rooms of the system that were evacuated, where the rig is no longer the one that did it.
    ``hollow``: rooms of hoses and manifolds, which hold more liquid than a fitting does.
    ``places``: room of every node of the network. ``by_tube``: the gate that shuts a passage. ``taps``: node that a
    gate at a source opens into.
    """

    job: Job
    assembly: Assembly
    rooms: tuple[Room, ...]
    gates: dict[str, Gate]
    pump: int
    gauges: dict[str, int]
    ends: dict[str, int]
    ports: dict[str, str]
    cored: frozenset[str] = frozenset()
    sprung: frozenset[str] = frozenset()
    shut: frozenset[str] = frozenset()
    air: int = 0
    near: dict[int, tuple[str, ...]] = field(default_factory=dict)
    pump_gone: bool = False
    places: dict[str, int] = field(default_factory=dict)
    by_tube: dict[str, str] = field(default_factory=dict)
    taps: dict[str, str] = field(default_factory=dict)
    liquid_ports: frozenset[str] = frozenset()
    hoses: dict[int, tuple[str, ...]] = field(default_factory=dict)
    hollow: frozenset[int] = frozenset()
    drawn: frozenset[int] | None = None
    found: dict[frozenset[str], tuple[frozenset[int], ...]] = field(default_factory=dict, repr=False)

    @property
    def atmosphere(self) -> float:
        """Pressure of the air, Pa."""
        return self.rooms[self.air].supply

    def beyond(self, room: int, opened: frozenset[str]) -> Iterator[int]:
        """Rooms one open gate away from a room."""
        for name in self.near.get(room, ()):
            if name in opened:
                g = self.gates[name]
                yield g.b if g.a == room else g.a

    def fed(self, gate: str) -> int:
        """The room that a gate at a source lets its gas into."""
        g = self.gates[gate]
        return g.b if self.rooms[g.a].source else g.a

    def label(self, gate: str) -> Name:
        """A gate in words."""
        return self.gates[gate].label
