"""Figures of proving a rig: what a gauge and a thermometer can be trusted with, and what a test resolves."""

from __future__ import annotations

from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA

TEMPERATURE_SLIP = Quantity(0.5, 0.2, 1.0, "K", "estimate: gas in the pipes against what a clamp or the air shows")
RIG_VOLUME_SPREAD = 0.3
"""Relative spread (90 %) of a rig's own volume worked out from bores and lengths: estimate."""
USABLE_BLANK_OFF = Quantity(100 * MICRON_PA, 80 * MICRON_PA, 150 * MICRON_PA, "Pa", "estimate: a pump still usable")
GOOD_BLANK_OFF = Quantity(50 * MICRON_PA, 30 * MICRON_PA, 60 * MICRON_PA, "Pa", "estimate: a good two-stage pump")
USABLE_SINGLE = Quantity(300 * MICRON_PA, 200 * MICRON_PA, 500 * MICRON_PA, "Pa", "estimate: a single-stage pump")
BEYOND = 0.5
"""Share of the standard's limit by which a gauge may stand above the system before its hold says nothing of that."""
AGREEING = 0.10
"""Relative difference up to which two gauges agree, beside their steps: estimate, half to twice that by their class."""
TIGHT_PART = Quantity(2e-5, 5e-6, 5e-5, "Pa·m³/s", "estimate: a manifold, tee or pair of joints that counts as tight")
LOW_BATTERY = 20.0
"""Charge, %, under which a gauge may die before the hold is over: estimate, by an hour or two of use."""
TINY = 0.5e-3
"""Volume, m³, under which a rise says little: a leak that no system would feel runs up hundreds of microns a minute."""
TEST_KPA = Quantity(2000.0, 1000.0, 3800.0, "kPa", "estimate: gauge pressure of a tightness test, no plate at hand")
BUBBLES = Quantity(1e-3, 1e-4, 1e-2, "Pa·m³/s", "estimate: outward, from this on soap shows bubbles within seconds")
