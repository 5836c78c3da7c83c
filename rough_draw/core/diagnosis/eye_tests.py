"""What is seen by eye of a slow draw: how long a look takes, and how often it finds what is there (estimates)."""

from __future__ import annotations

from rough_draw.core.physics.units import MICRON_PA

EYE: tuple[tuple[str, float, dict[str, float], float], ...] = (
    ("ballast", 0.3, {"ballast": 0.99}, 0.005),
    ("oil", 0.5, {"wet-oil": 0.92, "water": 0.3}, 0.01),
    ("frost", 1.5, {"ice": 0.9, "water": 0.6}, 0.03),
    ("sound", 1.0, {"slow-pump": 0.94}, 0.015),
    ("joint", 1.0, {"jumping": 0.94, "gauge-joint": 0.75}, 0.015),
    ("drops", 2.0, {"oil-carried": 0.94}, 0.01),
    ("gauge", 3.0, {"fouled": 0.95, "oil-carried": 0.3, "gauge-joint": 0.3, "gauge-shut": 0.9}, 0.01),
    ("intake", 2.0, {"choked-intake": 0.9}, 0.01),
    ("detector", 1.5, {"refrigerant": 0.88}, 0.03),
    (
        "blank",
        6.0,
        {"worn-pump": 0.95, "wet-oil": 0.93, "ballast": 0.95, "oil-carried": 0.6, "slow-pump": 0.3, "fouled": 0.95},
        0.02,
    ),
)
"""What is seen by eye: key, minutes, how likely yes is by cause or kind of cause, and by any other."""
BLANK_MOST = 100 * MICRON_PA
"""Pa over which a pump alone counts as staying high."""
