"""What of the time to target is whose: pump and volume, the rig, the system's lines, rubber, water, oil."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal, get_args

from rough_draw.core.engine.network import Network
from rough_draw.core.message import Message, message
from rough_draw.core.model.assemble import Assembly, assemble
from rough_draw.core.model.pump import PUMP_OIL
from rough_draw.core.planning.plan import HORIZON, draw_down, reached_at
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job

Taker = Literal["oil", "water", "rubber", "lines", "rig", "pump"]
"""What takes time, in the order in which it is taken away: the last to keep a draw waiting first."""
TAKERS: tuple[Taker, ...] = get_args(Taker)
WIDE = 4.0
"""How much wider a passage is made that is to be no hindrance: its conductance grows by a hundred and more."""


@dataclass(frozen=True)
class TimeShare:
    """Seconds of the time to target that go to one thing; ``endless``: with it the target is never reached."""

    taker: Taker
    seconds: float
    endless: bool = False

    @property
    def name(self) -> Message:
        """What takes them."""
        return message(f"taker-{self.taker}")

    @property
    def about(self) -> Message:
        """What shortens it."""
        return message(f"taker-{self.taker}.about")


def _without(net: Network, names: tuple[str, ...]) -> Network:
    return replace(net, sorbed=tuple(s for s in net.sorbed if s.name not in names))


def _dry(net: Network) -> Network:
    return replace(_without(net, ("walls", PUMP_OIL)), pools=(), humidity=0.0)


def _widened(net: Network, system: bool) -> Network:
    def wide(name: str) -> bool:
        return name.startswith("system.") is system

    return replace(
        net,
        tubes=tuple(
            replace(t, bore=WIDE * t.bore, width=WIDE * t.width, length=t.length / WIDE) if wide(t.name) else t
            for t in net.tubes
        ),
    )


TAKEN: dict[Taker, Callable[[Network], Network]] = {
    "oil": lambda net: _without(net, ("oil", "refrigerant")),
    "water": _dry,
    "rubber": lambda net: replace(net, outgassing=()),
    "lines": lambda net: _widened(net, system=True),
    "rig": lambda net: _widened(net, system=False),
}


def time_shares(job: Job) -> tuple[TimeShare, ...]:
    """The time to target taken apart: one hindrance after the other is taken away, and what each gives back is its own.

    They add up to the time to target. Where that is never reached, the one without which it first is, is ``endless``.
    Raises ScopeError or NetworkError where the sheet is at fault.
    """
    assembly = assemble(job)
    target = chosen(job.criterion).target
    found: list[TimeShare] = []
    before = _time(assembly, target)
    for taker, taken in TAKEN.items():
        assembly = replace(assembly, network=taken(assembly.network))
        after = _time(assembly, target)
        gained = max(0.0, (HORIZON if before is None else before) - (HORIZON if after is None else after))
        found.append(TimeShare(taker, gained, before is None and after is not None))
        before = after
    return (*found, TimeShare("pump", HORIZON if before is None else before, before is None))


def _time(assembly: Assembly, target: float) -> float | None:
    return reached_at(assembly, draw_down(assembly, target, 5e-3, 0.9), target)
