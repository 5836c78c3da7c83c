"""Weighing in: how much is in, how fast it goes, when to slow down and when to stop, and what to mind.

The scale stands under the cylinder: what it loses is in the system and in the hose. It is stopped a little short;
the rest is trimmed in while the system runs.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.catalogue.fluids import AMBIENT_SHARE, UNTABLED_LIQUID, Refrigerant
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import duration, mass
from rough_draw.core.physics.gas import R
from rough_draw.core.physics.refrigerant import saturated_below
from rough_draw.core.physics.scatter import sigma_of

FloatArray = NDArray[np.float64]
Phase = Literal["before", "flowing", "slow", "stop", "over", "still"]

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
SCATTER_KG = 0.003
"""Of one reading of a scale with steps of 5 g: its rounding and its unrest (estimate, 0.001 to 0.005)."""
SURE = 3.0
"""Of its standard error a flow is, or none is shown: a single step of the scale is no liquid on its way."""


@dataclass(frozen=True, kw_only=True)
class Weighing:
    """Where a charge stands. Weights kg, flow kg/s, times s."""

    phase: Phase
    added: float
    left: float
    stop_at: float
    flow: float
    seconds: float | None
    why: Message
    cautions: tuple[Message, ...] = ()

    @property
    def order(self) -> Message:
        """What to do now."""
        return message(f"weigh-{self.phase}")


def flow_of(times: FloatArray, weights: FloatArray, window: float = WINDOW_S) -> float:
    """How fast the cylinder loses weight at the end, kg/s: least squares over the last ``window`` s.

    0 where it can't be told from a scale at rest: under three readings, less than ``SETTLED_KG`` in a window, or less
    than ``SURE`` standard errors of the slope. Its scatter is taken from step to step, by the median: a valve that has
    just been opened is a bend and no unrest. ``times`` s, ascending, and ``weights`` kg: both (n,).
    """
    if times.size < 3:
        return 0.0
    keep = times >= times[-1] - window
    t, w = times[keep], weights[keep]
    if t.size < 3 or t[-1] - t[0] < 1.0:
        return 0.0
    t, w = t - t.mean(), w - w.mean()
    across = float(t @ t)
    flow = -float(t @ w) / across
    steps = np.diff(w)
    scatter = max(SCATTER_KG, sigma_of(steps - np.median(steps)) / math.sqrt(2.0))
    known = max(SURE * scatter / math.sqrt(across), SETTLED_KG / window)
    return flow if flow > known else 0.0


def weigh(
    times: FloatArray,
    weights: FloatArray,
    start: float,
    to_weigh: float,
    margin: float = MARGIN,
    full_kg: float | None = None,
    tare_kg: float = 0.0,
    earlier: float = 0.0,
) -> Weighing:
    """Where the charge stands by the scale. ``weights`` kg on it (cylinder and all), ``start`` kg when it was opened.

    ``full_kg`` of refrigerant that the cylinder held full, ``tare_kg`` its empty weight; ``earlier`` kg came out of the
    cylinders before it. Negative additions are the scale's drift and count as none.
    """
    now = float(np.median(weights[-3:])) if weights.size else start
    added = earlier + max(0.0, start - now)
    stop_at = max(0.0, to_weigh * (1.0 - margin))
    flow = flow_of(times, weights)
    seconds = (stop_at - added) / flow if flow > 0.0 and added < stop_at else None
    phase, why = _told(added, to_weigh, stop_at, flow, seconds, fresh=added - earlier < 0.01)
    return Weighing(
        phase=phase,
        added=added,
        left=max(0.0, to_weigh - added),
        stop_at=stop_at,
        flow=flow,
        seconds=seconds,
        why=why,
        cautions=_heel(now - tare_kg, full_kg, to_weigh - added),
    )


def _heel(inside: float, full_kg: float | None, rest: float) -> tuple[Message, ...]:
    """Whether the cylinder, with ``inside`` kg in it, gives the ``rest`` kg that are still wanted."""
    if full_kg is None:
        return ()
    heel = HEEL_SHARE * full_kg
    if inside < heel:
        return (message("weigh-heel"),)
    if inside - heel < rest:
        return (message("weigh-next-cylinder", given=mass(max(0.0, inside - heel)), rest=mass(rest)),)
    return ()


def _told(
    added: float, to_weigh: float, stop_at: float, flow: float, seconds: float | None, *, fresh: bool
) -> tuple[Phase, Message]:
    """What to do now, and why. ``fresh``: nothing has come out of the cylinder that stands there."""
    if added > to_weigh * 1.02 + 0.01:
        return "over", message("weigh-over.why", more=mass(added - to_weigh))
    if added >= stop_at:
        return "stop", message("weigh-stop.why", added=mass(added), left=mass(max(0.0, to_weigh - added)))
    if flow == 0.0 and fresh:
        return "before", message("weigh-before.why", stop=mass(stop_at))
    if flow == 0.0:
        return "still", message("weigh-still.why")
    slow = added >= SLOW_FROM * stop_at or (seconds is not None and seconds < 20.0)
    phase: Phase = "slow" if slow else "flowing"
    return phase, message(f"weigh-{phase}.why", left=mass(stop_at - added), time=duration(seconds or 0.0))


def liquid_words(refrigerant: Refrigerant) -> Message:
    """How this refrigerant leaves its cylinder, and why."""
    told = "leaves-as-liquid" if refrigerant.zeotropic else "leaves-as-either"
    return message(told, refrigerant=refrigerant.name)


def at_ambient(refrigerant: Refrigerant, kelvin: float) -> tuple[float, float] | None:
    """Bubble and dew pressure, Pa absolute, of this refrigerant at ``kelvin``: what a standing system and its
    cylinder show. None where no table has it."""
    if not refrigerant.tabled:
        return None
    s = saturated_below(refrigerant.name, kelvin)
    return s.bubble, s.dew


def hose_holds(refrigerant: Refrigerant, kelvin: float, litres: float, liquid: bool) -> float:
    """kg that a charging hose of ``litres`` holds, full of liquid, or of vapour at saturation (ideal gas).

    Where no table has the refrigerant, by a usual density of liquids and its pressure at 40 °C (estimates).
    """
    s = saturated_below(refrigerant.name, kelvin) if refrigerant.tabled else None
    if liquid:
        return (s.liquid_density if s is not None else UNTABLED_LIQUID.value) * litres * 1e-3
    dew = s.dew if s is not None else AMBIENT_SHARE.value * refrigerant.pressure_40c.value
    return dew * litres * 1e-3 * refrigerant.molar_mass / (R * kelvin)
