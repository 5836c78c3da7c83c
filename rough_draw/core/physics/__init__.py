"""Relations of gas, water, tubes and refrigerants: scalar functions in SI, each with its source and range."""

from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import ATMOSPHERE_PA, MICRON_PA, celsius, kelvin, micron

__all__ = [
    "ATMOSPHERE_PA",
    "MICRON_PA",
    "Quantity",
    "Range",
    "celsius",
    "kelvin",
    "micron",
]
