"""The schools' own acceptance rules, as plain rules, applied beside the physical verdict."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.job import CriterionChoice, Scope
from rough_draw.core.units import MICRON_PA, micron

FloatArray = NDArray[np.float64]


@dataclass(frozen=True)
class Criterion:
    """A school with its figures: pull to ``target``, hold ``minutes``, accept at or under ``limit`` (Pa).

    ``flat_rate`` µ/s, where the school asks for the rise to die out.
    """

    key: str
    name: str
    target: float
    limit: float
    minutes: float
    flat_rate: float | None = None
    check: float | None = None

    def rule(self) -> str:
        """The rule in words."""
        words = f"pull to {micron(self.target):,.0f} µ, hold {self.minutes:g} min, stay at or under "
        words += f"{micron(self.limit):,.0f} µ"
        if self.flat_rate is not None:
            words += f" and flatten to under {self.flat_rate:g} µ/s"
        return words


def _m(value: float) -> float:
    return value * MICRON_PA


SCHOOLS: dict[str, Criterion] = {
    "code-minimum": Criterion("code-minimum", "Code minimum", _m(500), _m(500), 10),
    "deep-and-flat": Criterion("deep-and-flat", "Deep and flat", _m(200), _m(500), 10, flat_rate=0.1),
    "two-limit": Criterion("two-limit", "Two-limit", _m(500), _m(1000), 20, check=_m(1000)),
}


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
    return Criterion(
        base.key,
        base.name,
        _m(choice.target_micron) if choice.target_micron else base.target,
        _m(choice.limit_micron) if choice.limit_micron else base.limit,
        choice.hold_min or base.minutes,
        base.flat_rate,
        base.check,
    )


def default_school(scope: Scope) -> tuple[str, str]:
    """Key of the school we propose for this system, and why."""
    if scope.low_temperature:
        return "deep-and-flat", "low-temperature duty: what water is left freezes at the expansion valve"
    if scope.oil in ("POE", "PVE"):
        return "deep-and-flat", f"{scope.oil} oil takes up water and keeps it; pull deep and watch it go flat"
    return "code-minimum", f"{scope.oil} oil holds little water; the code minimum is the usual ask"


def apply(criterion: Criterion, times: FloatArray, pressures: FloatArray) -> Outcome:
    """Apply one school to a hold: ``times`` s since isolation, ``pressures`` Pa (same length, time ascending)."""
    key, name = criterion.key, criterion.name
    if times.size == 0:
        return Outcome(key, name, None, "no readings in the hold yet")
    need = criterion.minutes * 60.0
    inside = times <= need
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
