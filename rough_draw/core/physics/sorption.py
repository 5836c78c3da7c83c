"""What oil and walls hold of a vapour at its pressure.

Scalar functions on floats with only `math`, so that the compiled engine can use the same source.
"""

from __future__ import annotations

import math

SORPTION_REF = 1500.0
"""Pressure, Pa, about room air's vapour, at which the uptake of walls is given."""
SORPTION_FLOOR = 0.05
"""Pa added to the pressure over a wall, so that a power law has a slope at nothing."""


def sorbed_at(pressure: float, capacity: float, power: float) -> tuple[float, float]:
    """What is held in balance with a vapour, kg, and its slope, kg/Pa.

    ``power`` 1 is Henry's law, capacity × p: water or refrigerant in oil, far under saturation. Under 1 it is
    Freundlich's, capacity p₁ (p/p₁)^power with p₁ = 1,500 Pa: walls with their film of oil and oxide, 1 to 2,300 Pa
    (the form is usual for such walls; exponent and amount are estimates, in the catalogue).

    Parameters
    ----------
    pressure : float
        Pa.
    capacity : float
        kg/Pa; of a power law that at 1,500 Pa.
    power : float
        Over 0, at most 1.

    Returns
    -------
    tuple of float
        kg, kg/Pa.

    Examples
    --------
    >>> sorbed_at(128.0, 0.5, 1.0)
    (64.0, 0.5)
    >>> [round(1e6 * sorbed_at(p, 1e-6 / 1500.0, 0.3)[0], 2) for p in (1500.0, 10.0)]
    [1.0, 0.22]
    """
    if power == 1.0:
        return capacity * pressure, capacity
    base = (max(pressure, 0.0) + SORPTION_FLOOR) / SORPTION_REF
    held = capacity * SORPTION_REF * math.exp(power * math.log(base))
    return held, power * held / (base * SORPTION_REF)
