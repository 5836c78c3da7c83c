"""The first running readings: saturation by pressure, superheat and subcooling, and what they should be."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.message import Fault, Message, message
from rough_draw.core.message.figure import absolute_pressure, temperature_step
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.refrigerant import COLDEST, hottest, saturated
from rough_draw.core.physics.saturation import SATURATION

SUPERHEAT = Range(4.0, 6.0, 8.0)
"""K at the bulb of a metering valve that holds a superheat: the usual setting (estimate; the maker's figure wins)."""
SUBCOOLING = Range(4.0, 6.0, 10.0)
"""K at the condenser's end of a system charged by subcooling (estimate; the maker's figure wins)."""


Judgement = Literal["misread", "under", "within", "over"]


@dataclass(frozen=True)
class Judged:
    """One figure against what it should be, and the words for it."""

    case: Judgement
    words: Message


@dataclass(frozen=True)
class Read:
    """What two pressures and two temperatures say: dew and bubble temperature K, superheat and subcooling K."""

    dew: float | None
    bubble: float | None
    superheat: float | None
    subcooling: float | None
    judged: tuple[Judged, ...]


class NoSaturation(Fault):
    """No saturation is known, of this refrigerant or at this pressure."""


class Untabled(NoSaturation):
    """A refrigerant that no table has."""

    def __init__(self, name: str) -> None:
        super().__init__(message("no-saturation", refrigerant=name))


class OutsideTable(NoSaturation):
    """A pressure at which no saturation of this refrigerant is known."""

    def __init__(self, name: str, pressure: float, low: float, high: float) -> None:
        ends = {"low": absolute_pressure(low), "high": absolute_pressure(high)}
        super().__init__(message("outside-saturation", pressure=absolute_pressure(pressure), refrigerant=name, **ends))


def temperature_at(name: str, pressure: float, quality: int) -> float:
    """Saturation temperature, K, at ``pressure`` Pa: dew (``quality`` 1) or bubble (0).

    By halving the interval 230–340 K on `refrigerant.saturated`, to a thousandth of a kelvin. Raises OutsideTable
    where the pressure lies outside of it, Untabled where no table has the refrigerant.
    """

    def at(t: float) -> float:
        s = saturated(name, t)
        return s.dew if quality else s.bubble

    if name not in SATURATION:
        raise Untabled(name)
    low, high = COLDEST, hottest(name)
    if not at(low) <= pressure <= at(high):
        raise OutsideTable(name, pressure, at(low), at(high))
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

    Blends have a glide: dew at the suction, bubble at the liquid. Raises OutsideTable.
    """
    dew = temperature_at(name, suction, 1) if suction is not None else None
    bubble = temperature_at(name, liquid, 0) if liquid is not None else None
    superheat = suction_temp - dew if suction_temp is not None and dew is not None else None
    subcooling = bubble - liquid_temp if bubble is not None and liquid_temp is not None else None
    judged = []
    if superheat is not None:
        judged.append(_judged("superheat", superheat, targets[0]))
    if subcooling is not None:
        judged.append(_judged("subcooling", subcooling, targets[1]))
    return Read(dew, bubble, superheat, subcooling, tuple(judged))


def _judged(what: str, value: float, target: Range) -> Judged:
    case: Judgement
    if value < 0.0:
        case = "misread"
    else:
        case = "under" if value < target.low else "over" if value > target.high else "within"
    low, high = temperature_step(target.low), temperature_step(target.high)
    return Judged(case, message(f"running-{what}-{case}", value=temperature_step(value), low=low, high=high))
