"""Weighing in: how much is in, how fast it goes, when to slow down and when to stop, and what to mind.

The scale stands under the cylinder: what it loses is in the system and in the hose. It is stopped a little short;
the rest is trimmed in while the system runs.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.physics.gas import R
from rough_draw.core.physics.refrigerant import saturated

FloatArray = NDArray[np.float64]

MARGIN = 0.05
"""Share of the charge that is left for trimming while it runs, unless the sheet says otherwise."""
SLOW_FROM = 0.85
"""Share of what is to go in before the stop, from which the valve is throttled."""
WINDOW_S = 40.0
"""s over which the flow is taken."""
HEEL_SHARE = 0.02
"""Of a cylinder's full weight: vapour and the last liquid, which do not come out as liquid (estimate)."""
SETTLED_KG = 0.004
"""A scale that moves less than this over its window stands still: its own drift."""


@dataclass(frozen=True, kw_only=True)
class Weighing:
    """Where a charge stands. Weights kg, flow kg/s, times s.

    ``phase``: before, flowing, slow, stop, over or still.
    """

    phase: str
    added: float
    left: float
    stop_at: float
    flow: float
    seconds: float | None
    order: str
    why: str
    cautions: tuple[str, ...] = ()


def flow_of(times: FloatArray, weights: FloatArray, window: float = WINDOW_S) -> float:
    """How fast the cylinder loses weight at the end, kg/s: least squares over the last ``window`` s; 0 for under 3."""
    if times.size < 3:
        return 0.0
    keep = times >= times[-1] - window
    t, w = times[keep], weights[keep]
    if t.size < 3 or t[-1] - t[0] < 1.0:
        return 0.0
    t = t - t.mean()
    return max(0.0, -float(t @ (w - w.mean())) / float(t @ t))


def weigh(
    times: FloatArray,
    weights: FloatArray,
    start: float,
    to_weigh: float,
    margin: float = MARGIN,
    full_kg: float | None = None,
    tare_kg: float = 0.0,
) -> Weighing:
    """Where the charge stands by the scale. ``weights`` kg on it (cylinder and all), ``start`` kg when it was opened.

    ``full_kg`` of refrigerant that the cylinder held full, ``tare_kg`` its empty weight. Negative additions are the
    scale's drift and count as none.
    """
    now = float(np.median(weights[-3:])) if weights.size else start
    added = max(0.0, start - now)
    stop_at = max(0.0, to_weigh * (1.0 - margin))
    flow = flow_of(times, weights)
    if flow * WINDOW_S < SETTLED_KG:
        flow = 0.0
    seconds = (stop_at - added) / flow if flow > 0.0 and added < stop_at else None
    told = _told(added, to_weigh, stop_at, flow, seconds)
    return Weighing(
        phase=told.phase,
        added=added,
        left=max(0.0, to_weigh - added),
        stop_at=stop_at,
        flow=flow,
        seconds=seconds,
        order=told.order,
        why=told.why,
        cautions=_heel(now - tare_kg, full_kg, to_weigh - added),
    )


@dataclass(frozen=True)
class _Told:
    """What to do now, and why."""

    phase: str
    order: str
    why: str


def _heel(inside: float, full_kg: float | None, rest: float) -> tuple[str, ...]:
    """Whether the cylinder, with ``inside`` kg in it, gives the ``rest`` kg that are still wanted."""
    if full_kg is None:
        return ()
    heel = HEEL_SHARE * full_kg
    if inside < heel:
        return ("The cylinder is down to its heel: vapour comes now. Change it before liquid is wanted.",)
    if inside - heel < rest:
        given = f"This cylinder gives {max(0.0, inside - heel):.2f} kg more, and {rest:.2f} kg are still wanted: "
        return (f"{given}have the next one ready.",)
    return ()


def _told(added: float, to_weigh: float, stop_at: float, flow: float, seconds: float | None) -> _Told:
    if added > to_weigh * 1.02 + 0.01:
        why = f"{added - to_weigh:.2f} kg more than was to go in. Recover it, and write it down."
        return _Told("over", "Over", why)
    if added >= stop_at:
        why = f"{added:.2f} kg are in; the last {max(0.0, to_weigh - added):.2f} kg are trimmed while it runs."
        return _Told("stop", "Close the cylinder", why)
    if flow == 0.0 and added < 0.01:
        return _Told("before", "Open the cylinder slowly", f"To {stop_at:.2f} kg, and no further before it runs.")
    if flow == 0.0:
        why = "Pressures have evened out, or a valve is closed. Warm water round the cylinder, never a flame; or run."
        return _Told("still", "It has stopped flowing", why)
    why = f"{stop_at - added:.2f} kg to the stop, {_seconds(seconds)} at this flow."
    if added >= SLOW_FROM * stop_at or (seconds is not None and seconds < 20.0):
        return _Told("slow", "Throttle it now", why)
    return _Told("flowing", "Let it flow", why)


def _seconds(s: float | None) -> str:
    if s is None:
        return "no end"
    return f"{s:.0f} s" if s < 90 else f"{s / 60:.0f} min"


def liquid_words(refrigerant: str) -> str:
    """How this refrigerant leaves its cylinder, and why."""
    r = REFRIGERANTS[refrigerant]
    if r.zeotropic:
        return (
            f"{r.name} is a zeotropic blend: out of the cylinder as liquid only, or what stays behind is another one."
        )
    return f"{r.name} may leave its cylinder as liquid or as vapour; liquid is quicker, and goes into the liquid line."


def at_ambient(refrigerant: str, kelvin: float) -> tuple[float, float]:
    """Bubble and dew pressure, Pa absolute, of this refrigerant at ``kelvin``: what a standing system and its
    cylinder show."""
    s = saturated(refrigerant, kelvin)
    return s.bubble, s.dew


def hose_holds(refrigerant: str, kelvin: float, litres: float, liquid: bool) -> float:
    """kg that a charging hose of ``litres`` holds, full of liquid, or of vapour at saturation (ideal gas)."""
    if liquid:
        return saturated(refrigerant, kelvin).liquid_density * litres * 1e-3
    s = saturated(refrigerant, kelvin)
    return s.dew * litres * 1e-3 * REFRIGERANTS[refrigerant].molar_mass / (R * kelvin)
