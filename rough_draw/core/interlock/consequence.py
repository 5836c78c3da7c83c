"""Touches and what follows from them: the values that the interlock says, and what any change of contents means."""

from __future__ import annotations

from collections.abc import Iterable, Set
from dataclasses import dataclass
from typing import Literal, get_args

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.gas_state import PRESSURE, VACUUM, WHIFF, State, in_vacuum, total
from rough_draw.core.message import Message, Value, message
from rough_draw.core.message.figure import gauge_pressure, vacuum
from rough_draw.core.sheet.rig import GaugePart

Severity = Literal["stop", "caution", "note"]
Kind = Literal[
    "open",
    "shut",
    "crack",
    "pump-on",
    "pump-off",
    "vent-pump",
    "ballast-open",
    "ballast-shut",
    "oil-change",
    "core-out",
    "core-in",
    "see-pressure",
    "purge",
    "take-off",
    "put-on",
    "cap",
    "stem-cap",
    "check-port",
    "zero-scale",
    "weigh-in",
    "start",
    "stop-unit",
    "trim",
    "empty-hose",
    "read-floor",
    "read-target",
    "pump-care",
    "tag",
    "check-room",
    "gauges-on",
    "watch-suction",
    "see-still",
    "lock-off",
    "energise",
    "loosen",
    "tighten",
    "sweep",
    "work",
]

KINDS: tuple[Kind, ...] = get_args(Kind)
"""What a touch can be."""
ConsequenceKind = Literal[
    "air-in",
    "air-with-charge",
    "back-through-pump",
    "back-to-cylinder",
    "ball-closed",
    "below-zero",
    "compressor-in-vacuum",
    "core-behind-hose",
    "core-in-vacuum",
    "core-less",
    "cylinder-open",
    "gauge-burst",
    "gauge-fouled",
    "gauge-outside",
    "gauge-pressed",
    "hose-unrated",
    "hoses-in-hold",
    "liquid-out",
    "liquid-to-compressor",
    "loosened-under-pressure",
    "no-flow",
    "no-plunger",
    "no-pressure",
    "no-pressure-gauge",
    "no-way",
    "not-running",
    "not-seen",
    "not-the-low-side",
    "nothing-flows",
    "off-before-isolated",
    "oil-running",
    "port-open",
    "pressure-into-pump",
    "purge-open",
    "room-unseen",
    "rush",
    "scale-not-zeroed",
    "service-closed",
    "suction-only",
    "throttle",
    "trapped",
    "venting",
    "whiff",
    "zero-open",
]


@dataclass(frozen=True)
class Touch:
    """One touch: its kind and what it is made on (a gate, a part or a port by id)."""

    kind: Kind
    on: str = ""

    @property
    def text(self) -> str:
        """As a run logs it: ``open:tool-a``, ``pump-on``."""
        return f"{self.kind}:{self.on}".rstrip(":")


def touch_of(move: str, on: str = "") -> Touch | None:
    """A touch by the name of its kind; None where there is no such kind."""
    kind = next((k for k in KINDS if k == move), None)
    return Touch(kind, on) if kind is not None else None


@dataclass(frozen=True, kw_only=True)
class Consequence:
    """What follows: how grave, what, on which part where there may be several; ``case`` where one kind comes about in
    several ways; ``values`` for its sentence.
    """

    severity: Severity
    kind: ConsequenceKind
    case: str = ""
    part: str = ""
    values: tuple[tuple[str, Value], ...] = ()

    @property
    def key(self) -> str:
        """What tells it from others of the same step."""
        return f"{self.kind}-{self.part}" if self.part else self.kind

    @property
    def words(self) -> Message:
        """What follows."""
        return Message("-".join(filter(None, ("consequence", self.kind, self.case))), self.values)

    @property
    def why(self) -> Message:
        """Why, and what to do instead."""
        return Message(f"{self.words.key}.why", self.values)

    @property
    def whole(self) -> Message:
        """Both, one after the other."""
        return message("two-sentences", one=self.words, two=self.why)


def stop(kind: ConsequenceKind, case: str = "", part: str = "", **values: Value) -> Consequence:
    """It should not be done."""
    return Consequence(severity="stop", kind=kind, case=case, part=part, values=tuple(values.items()))


def caution(kind: ConsequenceKind, case: str = "", part: str = "", **values: Value) -> Consequence:
    """It may be done, with care."""
    return Consequence(severity="caution", kind=kind, case=case, part=part, values=tuple(values.items()))


def note(kind: ConsequenceKind, case: str = "", part: str = "", **values: Value) -> Consequence:
    """Worth knowing."""
    return Consequence(severity="note", kind=kind, case=case, part=part, values=tuple(values.items()))


def gravest_first(said: Iterable[Consequence]) -> list[Consequence]:
    """Consequences in the order in which they are told."""
    return sorted(said, key=lambda c: RANK[c.severity])


RANK = {"stop": 0, "caution": 1, "note": 2}


def gauges_in(board: Board, rooms: Set[int]) -> list[GaugePart]:
    """Gauges that look into any of these rooms."""
    return [g for g in board.job.rig.gauges if board.gauges.get(g.id) in rooms]


def air_in(board: Board, state: State, group: Set[int], by: Literal["pump", "joint", "end"]) -> list[Consequence]:
    """Air into an evacuated system is a stop; into a hose or the pump's side it is nothing."""
    return [stop("air-in", by)] if in_vacuum(board, state, group) else []


def compare(board: Board, before: State, after: State) -> list[Consequence]:
    """What the change of contents means for the system, the gauges and the pump, wherever it came from."""
    said: list[Consequence] = []
    atmosphere = board.atmosphere
    for r, room in enumerate(board.rooms):
        was, now = before.gas[r], after.gas[r]
        if was == now or room.source:
            continue
        if room.system and total(was) < VACUUM:
            gained = now[0] - was[0]
            if gained > 20.0 and not after.pump:
                grave = stop if gained > 150.0 else caution
                said.append(grave("air-in", "rise", level=vacuum(total(now))))
        for gauge in gauges_in(board, {r}):
            if gauge.id in after.off:
                continue
            rated = gauge_pressure(gauge.stands_kpa * 1000.0)
            if total(now) > gauge.stands_kpa * 1000.0:
                comes = gauge_pressure(total(now) - atmosphere)
                said.append(stop("gauge-burst", part=gauge.id, rated=rated, comes=comes))
            elif now[2] - was[2] > WHIFF:
                said.append(caution("gauge-fouled", part=gauge.id, rated=rated))
            elif total(now) > PRESSURE * atmosphere and now[2] <= WHIFF:
                said.append(caution("gauge-pressed", part=gauge.id, rated=rated))
        if r == board.pump and not board.pump_gone and total(now) > PRESSURE * atmosphere:
            said.append(stop("pressure-into-pump", "refrigerant" if now[2] > now[1] else "nitrogen"))
    return said
