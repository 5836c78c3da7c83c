"""The schools' own acceptance rules, as plain rules, applied beside the physical verdict."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.physics.gas import R_WATER
from rough_draw.core.physics.units import MICRON_PA, PA_PER, micron
from rough_draw.core.sheet.job import CriterionChoice
from rough_draw.core.sheet.scope import Scope

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Criterion:
    """A school with its figures: pull to ``target``, hold ``minutes``, accept at or under ``limit`` (Pa).

    ``flat_rate`` µ/s, where the school asks for the rise to die out. ``check`` Pa, where it isolates for a short
    look on the way. ``breaks``: pressures Pa at which the vacuum is broken with nitrogen before the last draw.
    ``dwell`` minutes under the target with the pump on before the hold may start. ``dial``: read on a needle only.
    """

    key: str
    name: str
    target: float
    limit: float
    minutes: float
    flat_rate: float | None = None
    check: float | None = None
    breaks: tuple[float, ...] = ()
    dwell: float = 0.0
    dial: bool = False

    def rule(self) -> str:
        """The rule in words."""
        words = ""
        if self.breaks:
            to = " and ".join(f"{micron(b):,.0f} µ" for b in dict.fromkeys(self.breaks))
            words = f"{len(self.breaks)} × down to {to} and broken with nitrogen, then "
        words += f"pull to {micron(self.target):,.0f} µ"
        if self.dwell:
            words += f", keep it there {self.dwell:g} min"
        words += f", hold {self.minutes:g} min, stay at or under {micron(self.limit):,.0f} µ"
        if self.flat_rate is not None:
            words += f" and flatten to under {self.flat_rate:g} µ/s"
        if self.dial:
            words += "; the needle must not move, and that proves little"
        return words


def _m(value: float) -> float:
    return value * MICRON_PA


SCHOOLS: dict[str, Criterion] = {
    c.key: c
    for c in (
        Criterion(key="code-minimum", name="Code minimum", target=_m(500), limit=_m(500), minutes=10),
        Criterion(key="deep-and-flat", name="Deep and flat", target=_m(200), limit=_m(500), minutes=10, flat_rate=0.1),
        Criterion(key="two-limit", name="Two-limit", target=_m(500), limit=_m(1000), minutes=20, check=_m(1000)),
        Criterion(key="single-deep", name="Single deep draw", target=270.0, limit=335.0, minutes=30, flat_rate=0.1),
        Criterion(
            key="triple",
            name="Triple evacuation",
            target=_m(500),
            limit=_m(1000),
            minutes=20,
            breaks=(_m(1500), _m(1500)),
        ),
        Criterion(key="makers-own", name="Maker's own", target=_m(500), limit=_m(500), minutes=30),
        Criterion(key="dial-only", name="Dial gauge only", target=_m(508), limit=_m(508), minutes=30, dial=True),
    )
}
DIAL_SHARE = 0.01
"""One ± of a dial of 30 inHg as a share of its scale: its needle, its parallax, its zero (estimate)."""


@dataclass(frozen=True)
class Outcome:
    """What one school says of one hold: ``passed`` is None while it cannot say yet."""

    key: str
    name: str
    passed: bool | None
    reason: str


def chosen(choice: CriterionChoice) -> Criterion:
    """The school of the sheet with its typed figures put in."""
    base = SCHOOLS[choice.school]
    return replace(
        base,
        target=_m(choice.target_micron) if choice.target_micron else base.target,
        limit=_m(choice.limit_micron) if choice.limit_micron else base.limit,
        minutes=choice.hold_min or base.minutes,
        dwell=choice.dwell_min if choice.dwell_min is not None else base.dwell,
    )


def watched(choice: CriterionChoice) -> list[Criterion]:
    """The chosen criterion, and the second one that is watched with it, with that one's own figures."""
    also = [SCHOOLS[choice.also]] if choice.also and choice.also != choice.school else []
    return [chosen(choice), *also]


def default_school(scope: Scope) -> tuple[str, str]:
    """Key of the school we propose for this system, and why: duty first, then oil, then the country's custom."""
    if scope.low_temperature:
        return "deep-and-flat", "low-temperature duty: what water is left freezes at the expansion valve"
    if scope.oil in ("POE", "PVE") and scope.oil_kg > 0:
        return "deep-and-flat", f"{scope.oil} oil takes up water and keeps it; pull deep and watch it go flat"
    if scope.custom == "bar":
        return "single-deep", "one deep draw under 2.7 mbar and a long look is the custom where pressure is in mbar"
    if scope.oil_kg <= 0:
        return "code-minimum", "no oil to hold water; the code minimum is the usual ask"
    return "code-minimum", f"{scope.oil} oil holds little water; the code minimum is the usual ask"


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
    blind = DIAL_SHARE * 30.0 * PA_PER["inhg"]
    leak = blind * volume / (criterion.minutes * 60.0)
    water = blind * volume / (R_WATER * temperature) * 1000.0
    return DialBlind(criterion.target, (atmosphere - criterion.target) / PA_PER["inhg"], blind, leak, water)


def apply(criterion: Criterion, times: FloatArray, pressures: FloatArray) -> Outcome:
    """Apply one school to a hold: ``times`` s since isolation, ``pressures`` Pa (same length, time ascending)."""
    key, name = criterion.key, criterion.name
    if times.size == 0:
        return Outcome(key, name, None, "no readings in the hold yet")
    if criterion.dial:
        blind = micron(DIAL_SHARE * 30.0 * PA_PER["inhg"])
        return Outcome(key, name, None, f"unverified: one ± of a needle is {blind:,.0f} µ; it cannot see this hold")
    need = criterion.minutes * 60.0
    # A school that waits until it is flat looks at all of it; the others at their own minutes.
    inside = times <= need if criterion.flat_rate is None else times >= 0.0
    peak = float(pressures[inside].max()) if inside.any() else float(pressures[0])
    if peak > criterion.limit * 1.0001:
        when = float(times[inside][np.argmax(pressures[inside] > criterion.limit)])
        text = f"passed {micron(criterion.limit):,.0f} µ after {when / 60:.1f} min (reached {micron(peak):,.0f} µ)"
        return Outcome(key, name, False, text)
    start = float(pressures[0])
    if start > criterion.target * 1.02:
        text = f"the hold began at {micron(start):,.0f} µ, above the {micron(criterion.target):,.0f} µ to pull to"
        return Outcome(key, name, False, text)
    if times[-1] < need - 1.0:
        left = need - float(times[-1])
        return Outcome(key, name, None, f"{micron(peak):,.0f} µ at most so far; {left / 60:.1f} min to go")
    if criterion.flat_rate is not None:
        rate = end_rate(times, pressures)
        if rate > criterion.flat_rate:
            return Outcome(
                key, name, False, f"still rising {rate:.2f} µ/s at the end, over {criterion.flat_rate:g} µ/s"
            )
        return Outcome(
            key, name, True, f"settled at {micron(float(pressures[-1])):,.0f} µ, {max(rate, 0):.2f} µ/s at the end"
        )
    return Outcome(key, name, True, f"at most {micron(peak):,.0f} µ in {criterion.minutes:g} min")


def end_rate(times: FloatArray, pressures: FloatArray, share: float = 0.25) -> float:
    """Rate of rise, µ/s, over the last quarter of a hold (least squares line)."""
    span = float(times[-1] - times[0])
    tail = times >= times[-1] - max(60.0, share * span)
    if int(tail.sum()) < 3:
        return 0.0
    t = times[tail] - times[tail].mean()
    spread = float((t * t).sum())
    return float((t * pressures[tail]).sum() / spread / MICRON_PA) if spread > 0 else 0.0
