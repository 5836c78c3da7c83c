"""The micron gauge before it is trusted: battery, what it shows in free air, and beside another one."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.proving import AGREEING, LOW_BATTERY
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.evidence import GaugeCheck
from rough_draw.core.sheet.rig import GaugePart


@dataclass(frozen=True)
class GaugeAnswer:
    """good, doubtful, bad or open; in words, each finding on its own."""

    verdict: str
    words: tuple[str, ...]


def judge(gauge: GaugePart | None, seen: GaugeCheck, atmosphere: float) -> GaugeAnswer:
    """Judge what was seen of the gauge that is read; ``atmosphere`` Pa."""
    if gauge is None:
        return GaugeAnswer("open", ("No micron gauge on this rig: the dial goes on the record as unverified.",))
    said: list[tuple[str, str]] = []
    if seen.battery_pct is not None:
        low = seen.battery_pct < LOW_BATTERY
        words = f"Battery {seen.battery_pct:.0f} %: it may die before the hold is over." if low else "Battery good."
        said.append(("doubtful" if low else "good", words))
    said += _air(gauge, seen, atmosphere / MICRON_PA)
    said += _beside(gauge, seen)
    if not said:
        return GaugeAnswer("open", ("Look at it in free air: it should say over range.",))
    rank = ("bad", "doubtful", "good")
    return GaugeAnswer(min((v for v, _ in said), key=rank.index), tuple(w for _, w in said))


def _air(gauge: GaugePart, seen: GaugeCheck, air: float) -> list[tuple[str, str]]:
    """What it shows in free air: over range, or the atmosphere itself where its range goes that far."""
    if seen.in_air == "over":
        return [("good", "Free air is over its range, as it should be.")]
    if seen.in_air != "figure" or seen.air_micron is None:
        return []
    if gauge.over_micron >= 0.9 * air and abs(seen.air_micron - air) <= 0.1 * air:
        return [("good", "It shows the atmosphere.")]
    words = (
        f"In free air it shows {seen.air_micron:,.0f} µ: its sensor is fouled. Clean it with alcohol and look again."
    )
    return [("bad", words)]


def _beside(gauge: GaugePart, seen: GaugeCheck) -> list[tuple[str, str]]:
    """Two gauges at one place: they agree within a tenth and a step."""
    a, b = seen.this_micron, seen.other_micron
    if a is None or b is None:
        return []
    apart = abs(a - b)
    other = seen.other or "the other"
    if apart <= AGREEING * max(a, b) + 2 * gauge.resolution_micron:
        return [("good", f"It agrees with {other}: {a:,.0f} and {b:,.0f} µ.")]
    grave = apart > 0.3 * max(a, b)
    words = f"It shows {a:,.0f} µ where {other} shows {b:,.0f}: clean both before either is believed."
    return [("bad" if grave else "doubtful", words)]
