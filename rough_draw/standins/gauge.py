"""What a micron gauge shows of the pressure at its place."""

from __future__ import annotations

import math
from dataclasses import dataclass

from rough_draw.core.physics.units import MICRON_PA


@dataclass(frozen=True)
class GaugeModel:
    """Top of its range and resolution in µ, scatter in % of reading, lag s, fouling offset µ."""

    over_micron: float = 20_000.0
    resolution_micron: float = 1.0
    noise_pct: float = 0.4
    lag_s: float = 2.0
    offset_micron: float = 0.0

    def shows(self, pressure: float, deviate: float = 0.0) -> float | None:
        """The figure shown, Pa, at ``pressure`` Pa; None when over range. ``deviate`` is a standard normal draw."""
        value = pressure / MICRON_PA * (1.0 + 0.01 * self.noise_pct * deviate) + self.offset_micron
        if value > self.over_micron:
            return None
        step = self.resolution_micron * (10.0 if value > 10_000 and self.resolution_micron < 10 else 1.0)
        return max(0.0, round(value / step) * step) * MICRON_PA

    def follow(self, shown: float, pressure: float, seconds: float) -> float:
        """First-order lag: the sensor's pressure after ``seconds`` at ``pressure``, from ``shown`` (Pa)."""
        if self.lag_s <= 0:
            return pressure
        return pressure + (shown - pressure) * math.exp(-seconds / self.lag_s)
