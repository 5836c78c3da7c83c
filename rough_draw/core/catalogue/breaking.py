"""What is known of breaks with nitrogen: estimates, each with its range."""

from __future__ import annotations

from rough_draw.core.physics.quantity import Quantity

FILL_S = Quantity(60.0, 20.0, 180.0, "s", "estimate: nitrogen from the regulator fills the system to 0 gauge")
STAND_S = Quantity(300.0, 120.0, 900.0, "s", "estimate: how long nitrogen is left standing before the next draw")
WARMS = Quantity(3.0, 1.5, 6.0, "", "estimate: heat to water or ice through still nitrogen over that in a vacuum")
WARMTH = Quantity(12.0, 4.0, 30.0, "", "estimate: heat to water or ice with blanket or warm air over that left alone")
