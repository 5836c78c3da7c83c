"""The blank-off: what a pump pulls to alone, against its kind, its plate and its own past. Judged running only."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.proving import GOOD_BLANK_OFF, USABLE_BLANK_OFF, USABLE_SINGLE
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.kit_history import KitEvent
from rough_draw.core.sheet.rig import PumpPart

SETTLED_S = 60.0
"""Seconds on the pump alone before its reading is taken for its blank-off."""


@dataclass(frozen=True)
class BlankOff:
    """good, usable, bad or open, in words; ``before``: its earlier readings, µ, oldest first."""

    verdict: str
    words: str
    before: tuple[float, ...] = ()


def judge(
    pump: PumpPart, micron: float | None, running: bool, history: list[KitEvent], after_s: float | None = None
) -> BlankOff:
    """Judge a reading, µ, of the gauge on the pump's own coupling."""
    before = tuple(float(e.values["micron"]) for e in sorted(history, key=lambda e: e.at) if e.kind == "blank-off")
    if micron is None:
        return BlankOff("open", "Not read: the plan takes a generic pump of this size, and a wide band.", before)
    if not running:
        words = "The pump stood: a vane pump leaks back at once, which says nothing of pump or gauge. Read it running."
        return BlankOff("open", words, before)
    if after_s is not None and after_s < SETTLED_S:
        return BlankOff("open", f"Wait: {SETTLED_S - after_s:.0f} s more on the pump alone.", before)
    pa = micron * MICRON_PA
    usable = USABLE_BLANK_OFF.value if pump.stages == 2 else USABLE_SINGLE.value
    past = _past(micron, before)
    if pa > usable:
        words = f"Over {usable / MICRON_PA:.0f} µ alone it pulls no system deep. Change the oil, check the coupling."
        return BlankOff("bad", f"{words} {past}".strip(), before)
    if before and micron > 2.0 * min(before) and micron - min(before) > 15.0:
        return BlankOff("usable", f"{past} Change the oil and read again.", before)
    if pump.stages == 2 and pa > GOOD_BLANK_OFF.value:
        return BlankOff("usable", f"Change the oil and read again. {past}".strip(), before)
    return BlankOff("good", f"The plan now uses it. {past}".strip(), before)


def _past(micron: float, before: tuple[float, ...]) -> str:
    if not before:
        return ""
    best = min(before)
    if micron > 1.5 * best and micron - best > 10.0:
        return f"This pump has done {best:.0f} µ: it is {micron / best:.1f} times that."
    return f"As before ({best:.0f} to {max(before):.0f} µ)." if len(before) > 1 else f"As before ({best:.0f} µ)."
