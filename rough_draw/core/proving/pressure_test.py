"""The pressure test under nitrogen: the drop that the temperature does not explain, and what it could have shown."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.catalogue.proving import TEMPERATURE_SLIP
from rough_draw.core.message import Figure, Message, listed, message
from rough_draw.core.message.figure import duration, gauge_pressure, pressure_step
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import kelvin
from rough_draw.core.sheet.evidence import PressureReading

Verdict = Literal["open", "tight", "leaks", "too-short", "too-low"]
LEAST_MINUTES = 10.0
"""Shorter than this, the gas has not come to the temperature of the metal after filling."""


@dataclass(frozen=True, kw_only=True)
class PressureTest:
    """Pressures Pa, leaks Pa·m³/s (of nitrogen, outward, at the test's pressure).

    ``expected``: end pressure at the end's temperature were nothing lost; ``drop``: what is missing of it, at 90 %.
    ``smallest``: the leak that this test could just have shown.
    """

    verdict: Verdict
    words: Message
    expected: float | None = None
    drop: Range | None = None
    leak: Range | None = None
    smallest: float | None = None


def corrected(start: float, start_k: float, end_k: float) -> float:
    """Absolute pressure, Pa, at ``end_k`` of a fixed amount of gas that stood at ``start`` Pa and ``start_k``.

    Gay-Lussac: p/T is constant at constant volume. Nitrogen at some tens of bar keeps to it within 1 %.
    """
    return start * end_k / start_k


def judge(seen: PressureReading, volume: float, atmosphere: float) -> PressureTest:
    """Judge the test of a system of ``volume`` m³.

    A strength test shows that it holds, in whatever time the code asks; a tightness test needs its minutes.
    The band of the drop is one step of the gauge at either end, half a step each way, and `TEMPERATURE_SLIP` between
    what was read and what the gas was at, both in quadrature.
    """
    p1, p2, c1, c2, minutes = (
        seen.start_kpa,
        seen.end_kpa,
        seen.start_c,
        seen.end_c,
        seen.minutes,
    )
    missing = [
        w
        for w, x in (
            ("start-pressure", p1),
            ("end-pressure", p2),
            ("start-temperature", c1),
            ("end-temperature", c2),
            ("minutes", minutes),
        )
        if x is None
    ]
    if p1 is None or p2 is None or c1 is None or c2 is None or minutes is None:
        wanted = listed([message(f"pressure-test-{m}") for m in missing])
        return PressureTest(verdict="open", words=message("pressure-test-wanted", fields=wanted))
    start, end = p1 * 1000.0 + atmosphere, p2 * 1000.0 + atmosphere
    expected = corrected(start, kelvin(c1), kelvin(c2))
    drop = expected - end
    step = seen.step_kpa * 1000.0
    # Two half steps, uniform: 90 % of the sum lies within 0.68 of a step.
    band = ((0.68 * step) ** 2 + (expected * TEMPERATURE_SLIP.high / kelvin(c2)) ** 2) ** 0.5
    lost = Range(drop - band, drop, drop + band)
    seconds = max(minutes * 60.0, 1.0)
    leak = Range(*(max(0.0, x) * volume / seconds for x in (lost.low, lost.value, lost.high)))
    smallest = band * volume / seconds
    heat = expected - start

    def says(verdict: Verdict, **values: Figure) -> PressureTest:
        told = message(f"pressure-test-{verdict}", **values)
        if abs(heat) >= 500.0:
            told = message("pressure-test-with-heat", heat=pressure_step(heat), told=told)
        return PressureTest(verdict=verdict, words=told, expected=expected, drop=lost, leak=leak, smallest=smallest)

    if seen.wanted_kpa is not None and p1 < seen.wanted_kpa - seen.step_kpa / 2:
        return says("too-low", start=gauge_pressure(1e3 * p1), wanted=gauge_pressure(1e3 * seen.wanted_kpa))
    if lost.low > 0.0:
        return says("leaks", drop=pressure_step(drop), band=pressure_step(band))
    if minutes < LEAST_MINUTES and seen.kind == "tightness":
        return says("too-short", time=duration(60.0 * minutes), least=duration(60.0 * LEAST_MINUTES))
    return says("tight", drop=pressure_step(drop), band=pressure_step(band))
