"""The blank-off: what a pump pulls to alone, against its kind, its plate and its own past. Judged running only."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.proving import GOOD_BLANK_OFF, USABLE_BLANK_OFF, USABLE_SINGLE
from rough_draw.core.message import Message, all_of, message
from rough_draw.core.message.figure import duration, number, vacuum
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.kit_history import KitEvent
from rough_draw.core.sheet.rig import PumpPart

SETTLED_S = 60.0
"""Seconds on the pump alone before its reading is taken for its blank-off."""


@dataclass(frozen=True)
class BlankOff:
    """good, usable, bad or open, in words; ``before``: its earlier readings, µ, oldest first."""

    verdict: str
    words: Message
    before: tuple[float, ...] = ()


def judge(
    pump: PumpPart, micron: float | None, running: bool, history: list[KitEvent], after_s: float | None = None
) -> BlankOff:
    """Judge a reading, µ, of the gauge on the pump's own coupling."""
    before = tuple(float(e.values["micron"]) for e in sorted(history, key=lambda e: e.at) if e.kind == "blank-off")
    if micron is None:
        return BlankOff("open", message("blank-off-not-read"), before)
    if not running:
        return BlankOff("open", message("blank-off-pump-stood"), before)
    if after_s is not None and after_s < SETTLED_S:
        return BlankOff("open", message("blank-off-wait", time=duration(SETTLED_S - after_s)), before)
    pa = micron * MICRON_PA
    usable = USABLE_BLANK_OFF.value if pump.stages == 2 else USABLE_SINGLE.value
    past = _past(micron, before)
    if pa > usable:
        return BlankOff("bad", _with(message("blank-off-bad", usable=vacuum(usable)), past), before)
    if before and micron > 2.0 * min(before) and micron - min(before) > 15.0:
        return BlankOff("usable", _with(past, message("blank-off-change-oil")), before)
    if pump.stages == 2 and pa > GOOD_BLANK_OFF.value:
        return BlankOff("usable", _with(message("blank-off-change-oil"), past), before)
    return BlankOff("good", _with(message("blank-off-used"), past), before)


def _with(*told: Message | None) -> Message:
    return all_of([t for t in told if t is not None]) or message("blank-off-used")


def _past(micron: float, before: tuple[float, ...]) -> Message | None:
    if not before:
        return None
    best = min(before)
    low, high = vacuum(best * MICRON_PA), vacuum(max(before) * MICRON_PA)
    if micron > 1.5 * best and micron - best > 10.0:
        return message("blank-off-was-better", best=low, times=number(micron / best))
    return message("blank-off-as-before" if len(before) > 1 else "blank-off-as-once", low=low, high=high)
