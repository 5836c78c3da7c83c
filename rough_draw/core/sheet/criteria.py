"""The acceptance standards' own rules, as plain rules, applied beside the physical verdict."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.message import Figure, Message, Value, listed, message
from rough_draw.core.message.figure import duration, rise, vacuum
from rough_draw.core.physics.gas import R_WATER
from rough_draw.core.physics.units import MICRON_PA, PA_PER
from rough_draw.core.sheet.job import CriterionChoice
from rough_draw.core.sheet.scope import Scope

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Criterion:
    """A standard with its figures: pull to ``target``, hold ``minutes``, accept at or under ``limit`` (Pa).

    ``flat_rate`` µ/s, where the standard asks for the rise to die out. ``check`` Pa, where it isolates for a short
    look on the way. ``breaks``: pressures Pa at which the vacuum is broken with nitrogen before the last draw.
    ``dwell`` minutes under the target with the pump on before the hold may start. ``dial``: read on a needle only.
    """

    key: str
    target: float
    limit: float
    minutes: float
    flat_rate: float | None = None
    check: float | None = None
    breaks: tuple[float, ...] = ()
    dwell: float = 0.0
    dial: bool = False

    @property
    def name(self) -> Message:
        """What it is called."""
        return message(f"standard-{self.key}")

    @property
    def about(self) -> Message:
        """What it is for, in a line."""
        return message(f"standard-{self.key}.about")

    def rule(self) -> Message:
        """The rule as a sentence without its full stop."""
        none = ""
        broken: Value = none
        if self.breaks:
            to = listed([message("level", level=vacuum(b)) for b in dict.fromkeys(self.breaks)])
            broken = message("rule-broken", count=len(self.breaks), to=to)
        return message(
            "rule",
            broken=broken,
            target=vacuum(self.target),
            kept=message("rule-kept", time=duration(60.0 * self.dwell)) if self.dwell else none,
            time=duration(60.0 * self.minutes),
            limit=vacuum(self.limit),
            flat=message("rule-flat", rate=rise(self.flat_rate * MICRON_PA)) if self.flat_rate is not None else none,
            dial=message("rule-dial") if self.dial else none,
        )


def _m(value: float) -> float:
    return value * MICRON_PA


STANDARDS: dict[str, Criterion] = {
    c.key: c
    for c in (
        Criterion(key="code-minimum", target=_m(500), limit=_m(500), minutes=10),
        Criterion(key="deep-and-flat", target=_m(200), limit=_m(500), minutes=10, flat_rate=0.1),
        Criterion(key="two-limit", target=_m(500), limit=_m(1000), minutes=20, check=_m(1000)),
        Criterion(key="single-deep", target=270.0, limit=335.0, minutes=30, flat_rate=0.1),
        Criterion(
            key="triple",
            target=_m(500),
            limit=_m(1000),
            minutes=20,
            breaks=(_m(1500), _m(1500)),
        ),
        Criterion(key="makers-own", target=_m(500), limit=_m(500), minutes=30),
        Criterion(key="dial-only", target=_m(508), limit=_m(508), minutes=30, dial=True),
    )
}
DIAL_SHARE = 0.01
"""One ± of a dial of 30 inHg as a share of its scale: its needle, its parallax, its zero (estimate)."""

NEEDLE_PA = DIAL_SHARE * 30.0 * PA_PER["inhg"]
"""One ± of a needle, Pa."""
NEEDLE_MOVED = 1.5
"""Times one ± of it, by which a needle that is read twice has moved for certain (estimate)."""


@dataclass(frozen=True)
class Outcome:
    """What one standard says of one hold: ``passed`` is None while it cannot say yet."""

    key: str
    passed: bool | None
    reason: Message

    @property
    def name(self) -> Message:
        """The standard's name."""
        return message(f"standard-{self.key}")


def chosen(choice: CriterionChoice) -> Criterion:
    """The standard of the sheet with its typed figures put in."""
    base = STANDARDS[choice.school]
    return replace(
        base,
        target=_m(choice.target_micron) if choice.target_micron else base.target,
        limit=_m(choice.limit_micron) if choice.limit_micron else base.limit,
        minutes=choice.hold_min or base.minutes,
        dwell=choice.dwell_min if choice.dwell_min is not None else base.dwell,
    )


def watched(choice: CriterionChoice) -> list[Criterion]:
    """The chosen criterion, and the second one that is watched with it, with that one's own figures."""
    also = [STANDARDS[choice.also]] if choice.also and choice.also != choice.school else []
    return [chosen(choice), *also]


def default_school(scope: Scope) -> tuple[str, Message]:
    """Key of the standard we propose for this system, and why: what got in first, then duty, oil, and custom."""
    if scope.condition in ("flooded", "compressor-burnt"):
        return "triple", message(f"proposed-{scope.condition}")
    if scope.low_temperature:
        return "deep-and-flat", message("proposed-low-temperature")
    if scope.oil in ("POE", "PVE") and scope.oil_kg > 0:
        return "deep-and-flat", message("proposed-thirsty-oil", oil=scope.oil)
    if scope.custom == "bar":
        return "single-deep", message("proposed-custom")
    if scope.oil_kg <= 0:
        return "code-minimum", message("proposed-no-oil")
    return "code-minimum", message("proposed-dry-oil", oil=scope.oil)


@dataclass(frozen=True)
class DialBlind:
    """What a needle cannot see: ± Pa, the leak Pa·m³/s that stays under it in the hold, the grams of water."""

    reads_pa: float
    inhg: float
    blind_pa: float
    leak: float
    water_g: float


def dial_blind(criterion: Criterion, atmosphere: float, volume: float, temperature: float) -> DialBlind:
    """What a dial gauge only leaves open. ``atmosphere`` Pa, ``volume`` m³, ``temperature`` K of the vapour.

    The reading that belongs to the target here, in inHg below this atmosphere; one ± of the scale; the straight
    leak that would lift the needle by no more than that in the hold; the vapour that would stand unseen.
    """
    blind = NEEDLE_PA
    leak = blind * volume / (criterion.minutes * 60.0)
    water = blind * volume / (R_WATER * temperature) * 1000.0
    return DialBlind(criterion.target, (atmosphere - criterion.target) / PA_PER["inhg"], blind, leak, water)


def apply(criterion: Criterion, times: FloatArray, pressures: FloatArray) -> Outcome:
    """Apply one standard to a hold: ``times`` s since isolation, ``pressures`` Pa (same length, time ascending)."""

    def says(passed: bool | None, told: str, **values: Figure) -> Outcome:
        return Outcome(criterion.key, passed, message(f"outcome-{told}", **values))

    if times.size == 0:
        return says(None, "no-readings")
    if criterion.dial:
        return by_needle(criterion, times, pressures)
    need = criterion.minutes * 60.0
    # A standard that waits until it is flat looks at all of it; the others at their own minutes.
    inside = times <= need if criterion.flat_rate is None else times >= 0.0
    if not inside.any() and float(pressures[0]) > criterion.limit:
        # First read when its minutes were over: what it was within them nobody knows.
        return says(None, "no-readings")
    peak = float(pressures[inside].max()) if inside.any() else float(pressures[0])
    if peak > criterion.limit * 1.0001:
        when = float(times[inside][np.argmax(pressures[inside] > criterion.limit)])
        return says(False, "rose-above", limit=vacuum(criterion.limit), time=duration(when), peak=vacuum(peak))
    start = float(pressures[0])
    if start > criterion.target * 1.02:
        return says(False, "began-above", start=vacuum(start), target=vacuum(criterion.target))
    if times[-1] < need - 1.0:
        return says(None, "so-far", peak=vacuum(peak), left=duration(need - float(times[-1])))
    if criterion.flat_rate is not None:
        rate = end_rate(times, pressures)
        if rate > criterion.flat_rate:
            asked = rise(criterion.flat_rate * MICRON_PA)
            return says(False, "still-rising", rate=rise(rate * MICRON_PA), asked=asked)
        return says(True, "settled", level=vacuum(float(pressures[-1])), rate=rise(max(rate, 0.0) * MICRON_PA))
    return says(True, "stayed", peak=vacuum(peak), time=duration(need))


def needle_rise(pressures: FloatArray) -> tuple[float, bool]:
    """By how much a needle came up over a hold, Pa, and whether that is more than it can be off."""
    up = float(pressures[-1] - pressures[0]) if pressures.size > 1 else 0.0
    return up, up > NEEDLE_MOVED * NEEDLE_PA


def by_needle(criterion: Criterion, times: FloatArray, pressures: FloatArray) -> Outcome:
    """What a standard says of a hold that was read on a needle: failed where it moved, and never passed.

    ``times`` s and ``pressures`` Pa of its positions.
    """
    rise_pa, moved = needle_rise(pressures)
    if moved:
        lasted = duration(float(times[-1] - times[0]))
        return Outcome(criterion.key, False, message("outcome-needle-moved", rise=vacuum(rise_pa), time=lasted))
    told = "outcome-dial" if criterion.dial else "outcome-no-gauge"
    return Outcome(criterion.key, None, message(told, level=vacuum(NEEDLE_PA)))


def end_rate(times: FloatArray, pressures: FloatArray, share: float = 0.25) -> float:
    """Rate of rise, µ/s, over the last quarter of a hold (least squares line)."""
    span = float(times[-1] - times[0])
    tail = times >= times[-1] - max(60.0, share * span)
    if int(tail.sum()) < 3:
        return 0.0
    t = times[tail] - times[tail].mean()
    spread = float((t * t).sum())
    return float((t * pressures[tail]).sum() / spread / MICRON_PA) if spread > 0 else 0.0
