"""The pressure test under nitrogen: the drop that the temperature does not explain, and what it could have shown."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.catalogue.proving import TEMPERATURE_SLIP
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import kelvin
from rough_draw.core.sheet.evidence import Prove

LEAST_MINUTES = 10.0
"""Shorter than this, the gas has not come to the temperature of the metal after filling."""


@dataclass(frozen=True, kw_only=True)
class PressureTest:
    """Pressures Pa, leaks Pa·m³/s (of nitrogen, outward, at the test's pressure).

    ``expected``: end pressure at the end's temperature were nothing lost; ``drop``: what is missing of it, at 90 %.
    ``smallest``: the leak that this test could just have shown.
    """

    verdict: Literal["open", "tight", "leaks", "too-short", "too-low"]
    words: str
    expected: float | None = None
    drop: Range | None = None
    leak: Range | None = None
    smallest: float | None = None


def corrected(start: float, start_k: float, end_k: float) -> float:
    """Absolute pressure, Pa, at ``end_k`` of a fixed amount of gas that stood at ``start`` Pa and ``start_k``.

    Gay-Lussac: p/T is constant at constant volume. Nitrogen at some tens of bar keeps to it within 1 %.
    """
    return start * end_k / start_k


def judge(prove: Prove, volume: float, atmosphere: float) -> PressureTest:
    """Judge the test of a system of ``volume`` m³.

    The band of the drop is one step of the gauge at either end, half a step each way, and `TEMPERATURE_SLIP` between
    what was read and what the gas was at, both in quadrature.
    """
    p1, p2, c1, c2, minutes = (
        prove.test_start_kpa,
        prove.test_end_kpa,
        prove.test_start_c,
        prove.test_end_c,
        prove.test_minutes,
    )
    missing = [
        w
        for w, x in (
            ("the pressure at the start", p1),
            ("the pressure at the end", p2),
            ("the temperature at the start", c1),
            ("the temperature at the end", c2),
            ("the minutes", minutes),
        )
        if x is None
    ]
    if p1 is None or p2 is None or c1 is None or c2 is None or minutes is None:
        return PressureTest(verdict="open", words=f"Still wanted: {', '.join(missing)}.")
    start, end = p1 * 1000.0 + atmosphere, p2 * 1000.0 + atmosphere
    expected = corrected(start, kelvin(c1), kelvin(c2))
    drop = expected - end
    step = prove.test_step_kpa * 1000.0
    # Two half steps, uniform: 90 % of the sum lies within 0.68 of a step.
    band = ((0.68 * step) ** 2 + (expected * TEMPERATURE_SLIP.high / kelvin(c2)) ** 2) ** 0.5
    lost = Range(drop - band, drop, drop + band)
    seconds = max(minutes * 60.0, 1.0)
    leak = Range(*(max(0.0, x) * volume / seconds for x in (lost.low, lost.value, lost.high)))
    smallest = band * volume / seconds
    by_heat = (expected - start) / 1000.0
    heat = f"Of the change, {by_heat:+.0f} kPa is the temperature's. " if abs(by_heat) >= 0.5 else ""
    if prove.test_wanted_kpa is not None and p1 < prove.test_wanted_kpa - prove.test_step_kpa / 2:
        words = f"{heat}It began at {p1:,.0f} kPa; {prove.test_wanted_kpa:,.0f} kPa are wanted."
        return PressureTest(verdict="too-low", words=words, expected=expected, drop=lost, leak=leak, smallest=smallest)
    if lost.low > 0.0:
        words = f"{heat}{drop / 1000:,.0f} kPa are missing (± {band / 1000:,.0f}): find the leak, test again."
        return PressureTest(verdict="leaks", words=words, expected=expected, drop=lost, leak=leak, smallest=smallest)
    if minutes < LEAST_MINUTES:
        words = f"{heat}Nothing is missing, but {minutes:g} min is too short: ten at the least, for the gas to settle."
        return PressureTest(
            verdict="too-short", words=words, expected=expected, drop=lost, leak=leak, smallest=smallest
        )
    rest = f"{drop / 1000:+,.0f} kPa within ± {band / 1000:,.0f}"
    return PressureTest(
        verdict="tight",
        words=f"{heat}Nothing is missing: {rest}.",
        expected=expected,
        drop=lost,
        leak=leak,
        smallest=smallest,
    )
