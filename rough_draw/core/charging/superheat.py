"""The first running readings: saturation by pressure, superheat and subcooling, and what they should be."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.refrigerant import COLDEST, hottest, saturated

SUPERHEAT = Range(4.0, 6.0, 8.0)
"""K at the bulb of a metering valve that holds a superheat: the usual setting (estimate; the maker's figure wins)."""
SUBCOOLING = Range(4.0, 6.0, 10.0)
"""K at the condenser's end of a system charged by subcooling (estimate; the maker's figure wins)."""


@dataclass(frozen=True)
class Read:
    """What two pressures and two temperatures say: dew and bubble temperature K, superheat and subcooling K."""

    dew: float | None
    bubble: float | None
    superheat: float | None
    subcooling: float | None
    words: tuple[str, ...]


def temperature_at(name: str, pressure: float, quality: int) -> float:
    """Saturation temperature, K, at ``pressure`` Pa: dew (``quality`` 1) or bubble (0).

    By halving the interval 230–340 K on `refrigerant.saturated`, to a thousandth of a kelvin. Raises ValueError
    where the pressure lies outside of it.
    """

    def at(t: float) -> float:
        s = saturated(name, t)
        return s.dew if quality else s.bubble

    low, high = COLDEST, hottest(name)
    if not at(low) <= pressure <= at(high):
        raise ValueError(
            f"{pressure / 1e5:.2f} bar absolute is outside {at(low) / 1e5:.2f} … {at(high) / 1e5:.2f} bar of {name}"
        )
    for _ in range(18):
        middle = 0.5 * (low + high)
        if at(middle) < pressure:
            low = middle
        else:
            high = middle
    return 0.5 * (low + high)


def read_running(
    name: str,
    suction: float | None,
    suction_temp: float | None,
    liquid: float | None,
    liquid_temp: float | None,
    targets: tuple[Range, Range] = (SUPERHEAT, SUBCOOLING),
) -> Read:
    """Superheat = suction temperature − dew; subcooling = bubble − liquid temperature. Pressures Pa absolute, K.

    Blends have a glide: dew at the suction, bubble at the liquid. Raises ValueError for a pressure out of range.
    """
    dew = temperature_at(name, suction, 1) if suction is not None else None
    bubble = temperature_at(name, liquid, 0) if liquid is not None else None
    superheat = suction_temp - dew if suction_temp is not None and dew is not None else None
    subcooling = bubble - liquid_temp if bubble is not None and liquid_temp is not None else None
    words = []
    if superheat is not None:
        words.append(
            _judged("superheat", superheat, targets[0], "liquid may come back to the compressor", "it is starved")
        )
    if subcooling is not None:
        words.append(
            _judged("subcooling", subcooling, targets[1], "a little short of charge", "overcharged, or air in it")
        )
    return Read(dew, bubble, superheat, subcooling, tuple(words))


def _judged(what: str, value: float, target: Range, under: str, over: str) -> str:
    if value < 0.0:
        return f"{what} {value:.1f} K: cannot be, one of the two is misread"
    if value < target.low:
        return f"{what} {value:.1f} K, under {target.low:g} to {target.high:g}: {under}"
    if value > target.high:
        return f"{what} {value:.1f} K, over {target.low:g} to {target.high:g}: {over}"
    return f"{what} {value:.1f} K, within {target.low:g} to {target.high:g}"
