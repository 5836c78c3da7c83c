"""The micron gauge before it is trusted: battery, what it shows in free air, and beside another one."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.proving import AGREEING, LOW_BATTERY
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import share, vacuum
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.evidence import GaugeCheck
from rough_draw.core.sheet.rig import GaugePart


@dataclass(frozen=True)
class GaugeAnswer:
    """good, doubtful, bad or open; in words, each finding on its own."""

    verdict: str
    words: tuple[Message, ...]


def judge(gauge: GaugePart | None, seen: GaugeCheck, atmosphere: float) -> GaugeAnswer:
    """Judge what was seen of the gauge that is read; ``atmosphere`` Pa."""
    if gauge is None:
        return GaugeAnswer("open", (message("gauge-none"),))
    said: list[tuple[str, Message]] = []
    if seen.battery_pct is not None:
        low = seen.battery_pct < LOW_BATTERY
        words = message("gauge-battery-low" if low else "gauge-battery-good", charge=share(seen.battery_pct / 100.0))
        said.append(("doubtful" if low else "good", words))
    said += _air(gauge, seen, atmosphere / MICRON_PA)
    said += _beside(gauge, seen)
    if not said:
        return GaugeAnswer("open", (message("gauge-look-in-air"),))
    rank = ("bad", "doubtful", "good")
    return GaugeAnswer(min((v for v, _ in said), key=rank.index), tuple(w for _, w in said))


def _air(gauge: GaugePart, seen: GaugeCheck, air: float) -> list[tuple[str, Message]]:
    """What it shows in free air: over range, or the atmosphere itself where its range goes that far."""
    if seen.in_air == "over":
        return [("good", message("gauge-air-over"))]
    if seen.in_air != "figure" or seen.air_micron is None:
        return []
    if gauge.over_micron >= 0.9 * air and abs(seen.air_micron - air) <= 0.1 * air:
        return [("good", message("gauge-air-shown"))]
    return [("bad", message("gauge-fouled", level=vacuum(seen.air_micron * MICRON_PA)))]


def _beside(gauge: GaugePart, seen: GaugeCheck) -> list[tuple[str, Message]]:
    """Two gauges at one place: they agree within a tenth and a step."""
    a, b = seen.this_micron, seen.other_micron
    if a is None or b is None:
        return []
    apart = abs(a - b)
    values = {"this": vacuum(a * MICRON_PA), "that": vacuum(b * MICRON_PA)}
    other: Name = seen.other or message("gauge-other")
    if apart <= AGREEING * max(a, b) + 2 * gauge.resolution_micron:
        return [("good", message("gauge-agrees", other=other, **values))]
    grave = apart > 0.3 * max(a, b)
    return [("bad" if grave else "doubtful", message("gauge-differs", other=other, **values))]
