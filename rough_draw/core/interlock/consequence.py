"""Touches and what follows from them: the values that the interlock says, and what any change of contents means."""

from __future__ import annotations

from collections.abc import Iterable, Set
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.interlock.compartments import Board
from rough_draw.core.interlock.gas_state import PRESSURE, VACUUM, WHIFF, State, in_vacuum, total
from rough_draw.core.physics.units import MICRON_PA
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
    "cap",
    "energise",
    "loosen",
    "tighten",
    "sweep",
    "work",
]


ConsequenceKind = Literal[
    "air-in",
    "back-through-pump",
    "compressor-in-vacuum",
    "core-in-vacuum",
    "core-less",
    "gauge-burst",
    "gauge-fouled",
    "gauge-outside",
    "gauge-pressed",
    "hoses-in-hold",
    "liquid-to-compressor",
    "loosened-under-pressure",
    "no-flow",
    "no-pressure",
    "no-way",
    "not-seen",
    "off-before-isolated",
    "oil-running",
    "port-open",
    "pressure-into-pump",
    "purge-open",
    "purge-shut",
    "rush",
    "suction-only",
    "trapped",
    "venting",
    "whiff",
]


@dataclass(frozen=True)
class Touch:
    """One touch: its kind and what it is made on (a gate, a part or a port by id)."""

    kind: Kind
    on: str = ""


@dataclass(frozen=True)
class Consequence:
    """What follows: how grave, what, in words, why, and on which part where there may be several."""

    severity: Severity
    kind: ConsequenceKind
    words: str
    why: str = ""
    part: str = ""

    @property
    def key(self) -> str:
        """What tells it from others of the same step."""
        return f"{self.kind}-{self.part}" if self.part else self.kind


def gravest_first(said: Iterable[Consequence]) -> list[Consequence]:
    """Consequences in the order in which they are told."""
    return sorted(said, key=lambda c: RANK[c.severity])


RANK = {"stop": 0, "caution": 1, "note": 2}


def gauges_in(board: Board, rooms: Set[int]) -> list[GaugePart]:
    """Gauges that look into any of these rooms."""
    return [g for g in board.job.rig.gauges if board.gauges.get(g.id) in rooms]


def air_words(board: Board, state: State, group: Set[int], how: str) -> list[Consequence]:
    """Air into an evacuated system is a stop; into a hose or the pump's side it is nothing."""
    if in_vacuum(board, state, group):
        why = f"By {how}: the vacuum is lost, and moist air is in."
        return [Consequence("stop", "air-in", "Air would be drawn into the system", why)]
    return []


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
                rise = total(now) / MICRON_PA
                severity: Severity = "stop" if gained > 150.0 else "caution"
                why = f"It would stand at about {rise:,.0f} µ."
                said.append(Consequence(severity, "air-in", "Air would be drawn into the system", why))
        for gauge in gauges_in(board, {r}):
            if gauge.id in after.off:
                continue
            kpa = total(now) / 1000.0
            if kpa > gauge.stands_kpa:
                why = f"It stands {gauge.stands_kpa / 100:.0f} bar; here come {kpa / 100:.0f}."
                words = "The gauge's sensor would be destroyed"
                said.append(Consequence("stop", "gauge-burst", words, why, gauge.id))
            elif now[2] - was[2] > WHIFF:
                why = f"It stands {gauge.stands_kpa / 100:.0f} bar, but oil and refrigerant foul it: clean it after."
                said.append(Consequence("caution", "gauge-fouled", "The gauge will see refrigerant", why, gauge.id))
            elif total(now) > PRESSURE * atmosphere and now[2] <= WHIFF:
                why = f"It stands {gauge.stands_kpa / 100:.0f} bar; shut it off where that can be done."
                said.append(Consequence("caution", "gauge-pressed", "The gauge comes under pressure", why, gauge.id))
        if r == board.pump and not board.pump_gone and total(now) > PRESSURE * atmosphere:
            words = (
                "Refrigerant would go into the pump"
                if now[2] > now[1]
                else "Nitrogen under pressure would go into the pump"
            )
            why = "It blows the oil out, and what runs through is vented. Shut the pump off first."
            said.append(Consequence("stop", "pressure-into-pump", words, why))
    return said
