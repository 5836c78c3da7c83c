"""What is known of a working unit's low side while it is pumped down: estimates of small units, each with its range."""

from __future__ import annotations

from rough_draw.core.physics.quantity import Quantity

RUNS_AT = Quantity(0.5, 0.35, 0.65, "1", "estimate: suction pressure of a running unit over that standing still")
FALLS_S = Quantity(90.0, 40.0, 240.0, "s", "estimate: the low side of a small unit emptied to 1/e, liquid valve closed")
RISES_S = Quantity(60.0, 20.0, 300.0, "s", "estimate: it comes back through a stopped compressor")
DEEPEST = Quantity(0.3, 0.1, 0.6, "atm", "estimate: as far as such a compressor pulls its low side")
