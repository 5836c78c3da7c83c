"""The system's volume from the data: from the early draw, or from an expansion out of a known cylinder."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.catalogue.quantity import Quantity
from rough_draw.core.units import MICRON_PA

FloatArray = NDArray[np.float64]

EARLY = (20_000.0 * MICRON_PA, 400_000.0 * MICRON_PA)
"""Range in which the pump is the limit and the gas is still the air that filled the system, Pa."""


def from_draw(
    times: FloatArray, pressures: FloatArray, speed: Quantity, level: tuple[float, float] = EARLY
) -> Quantity:
    """Volume, m³, from the early draw: ln p falls with slope −S/V while the pump is the limit.

    ``times`` s, ``pressures`` Pa at the system, ``speed`` m³/s at it with its range. Least squares on ln p within
    ``level``; the spread of the slope and that of the speed go into the range. Raises ValueError if fewer than
    four readings lie in that range (most micron gauges start below it: use a rough dial or the expansion).
    """
    keep = np.isfinite(pressures) & (pressures > level[0]) & (pressures < level[1])
    if int(keep.sum()) < 4:
        raise ValueError(
            f"only {int(keep.sum())} readings between {level[0] / MICRON_PA:,.0f} and {level[1] / MICRON_PA:,.0f} µ; "
            "four are needed to tell the volume from the draw"
        )
    t, y = times[keep], np.log(pressures[keep])
    t = t - t.mean()
    spread = float(t @ t)
    slope = float(t @ (y - y.mean())) / spread
    if slope >= 0.0:
        raise ValueError("the pressure does not fall in that range; is the pump running and open to the system?")
    residual = y - y.mean() - slope * t
    sd = math.sqrt(float(residual @ residual) / max(1, t.size - 2) / spread)
    doubt = 1.2816 * sd / abs(slope)
    value = speed.value / -slope
    low = value * (1.0 - math.hypot(doubt, 1.0 - speed.low / speed.value))
    high = value * (1.0 + math.hypot(doubt, speed.high / speed.value - 1.0))
    return Quantity(value, max(0.0, low), high, "m³", "estimate: from the early draw")


def from_expansion(known: Quantity, before: float, system: float, after: float, resolution: float) -> Quantity:
    """Volume, m³, from gas let out of a known cylinder: V = V₀ (p₀ − p)/(p − p_s), isothermal.

    ``known`` m³ at ``before`` Pa, the system at ``system`` Pa, both at ``after`` Pa once joined and settled;
    ``resolution`` Pa of the gauge. Raises ValueError where the pressures cannot be.
    """
    if not before > after > system:
        raise ValueError("the joined pressure must lie between the cylinder's and the system's")

    def volume(v: float, p: float) -> float:
        return v * (before - p) / (p - system)

    value = volume(known.value, after)
    part = [
        abs(volume(known.value, min(after + resolution, before)) - value),
        value * (known.high / known.value - 1.0),
    ]
    other = [
        abs(volume(known.value, max(after - resolution, system + 1e-9)) - value),
        value * (1.0 - known.low / known.value),
    ]
    return Quantity(value, max(0.0, value - math.hypot(*part)), value + math.hypot(*other), "m³", "from an expansion")
