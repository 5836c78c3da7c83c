"""What a cause of a slow draw is: a change of the network, with how grave it may be; and two of them together."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from rough_draw.core.engine.network import Network
from rough_draw.core.message import Message, Name, message

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
    "half-open",
    "gauge-joint",
    "tool-leak",
    "manifold-leak",
    "pump-joint",
    "all-hoses",
    "choked-intake",
    "kinked",
    "plugged",
    "cores",
    "gauge-shut",
    "section-shut",
    "other",
]
SINGLE: tuple[CauseKind, ...] = ("none", "other")
"""What stands alone: that nothing is wrong, or something that is not known here."""
BOTH = "+"
"""Between the keys of two causes that are at work together."""


def kind_of(key: str) -> str:
    """The kind of a cause by its key: ``hose-leak:hose-a`` is a ``hose-leak``."""
    return key.partition(":")[0]


def place_of(key: str) -> str:
    """The part or port that a cause is about, by its key; empty where it is about none."""
    return key.partition(":")[2]


def keys_of(key: str) -> tuple[str, ...]:
    """The causes that are at work together, by the key of them all."""
    return tuple(key.split(BOTH))


@dataclass(frozen=True, kw_only=True)
class Cause:
    """One cause: its kind and place, what that is called, its odds before anything is read.

    ``apply`` puts it on a network with a severity as a standard normal deviate; ``offset`` is what it adds to the
    gauge, µ, by the same deviate. ``later``: whether it can begin in the middle of a draw. ``scatters``: it makes the
    gauge jump. ``beside``: a second cause that is at work with it.
    """

    kind: CauseKind
    place: str = ""
    where: Name = ""
    prior: float
    apply: Apply | None = None
    offset: Callable[[float], float] | None = None
    later: bool = False
    scatters: bool = False
    beside: Cause | None = None

    @property
    def key(self) -> str:
        """What it is stored as."""
        own = f"{self.kind}:{self.place}" if self.place else self.kind
        return own if self.beside is None else f"{own}{BOTH}{self.beside.key}"

    @property
    def each(self) -> tuple[Cause, ...]:
        """Itself and what is at work beside it, each alone."""
        return (self,) if self.beside is None else (replace(self, beside=None), self.beside)

    def put(self, net: Network, severity: float, second: float = 0.0) -> Network:
        """A network with it, and with what is beside it at a severity of its own."""
        if self.apply is not None:
            net = self.apply(net, severity)
        return net if self.beside is None else self.beside.put(net, second)

    def shift(self, severity: float, second: float = 0.0) -> float:
        """What it adds to the gauge, µ."""
        own = self.offset(severity) if self.offset is not None else 0.0
        return own if self.beside is None else own + self.beside.shift(second)

    @property
    def words(self) -> Message:
        """What is wrong."""
        return message(f"draw-cause-{self.kind}", where=self.where)

    @property
    def cure(self) -> Message:
        """What to do about it."""
        return message(f"draw-cause-{self.kind}.cure", where=self.where)


def together(a: Cause, b: Cause, ratio: float) -> Cause:
    """Two causes at work at once; ``ratio`` by how much likelier that is than chance."""
    return replace(a, beside=b, prior=a.prior * b.prior * ratio, scatters=a.scatters or b.scatters)
