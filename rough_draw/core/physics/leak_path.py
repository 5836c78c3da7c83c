"""What a leak known from a vacuum passes under pressure, and what that leaves of a closed volume's gas.

Scalar functions on floats with only `math`.
"""

from __future__ import annotations

import math


def outward_viscous(inward: float, inside: float, outside: float) -> float:
    """Throughput outward, Pa·m³/s, of a path that lets ``inward`` in from ``outside`` to a vacuum; laminar, one gas.

    Compressible laminar flow goes with the difference of the squares of the pressures (Hagen and Poiseuille,
    integrated along the path): Q = Q₀ (p² − p₀²)/p₀². Holds for paths that are viscous at the atmosphere, from about
    1e-5 Pa·m³/s; under that they are molecular and pass less.

    Parameters
    ----------
    inward : float
        Pa·m³/s into a vacuum.
    inside : float
        Pa, absolute.
    outside : float
        Pa, absolute, over 0.

    Returns
    -------
    float
        Pa·m³/s; negative where the inside is under the outside.

    Examples
    --------
    >>> outward_viscous(1e-3, 2.0e5, 1.0e5)
    0.003
    """
    return inward * (inside**2 - outside**2) / outside**2


def pressure_left(inward: float, start: float, outside: float, volume: float, seconds: float) -> float:
    """Pressure, Pa, in a closed volume that has leaked for some time through a viscous path.

    The solution of V dp/dt = −Q₀ (p² − p₀²)/p₀²: with c = (p₁ − p₀)/(p₁ + p₀) and e = c exp(−2 Q₀ t/(V p₀)) it is
    p = p₀ (1 + e)/(1 − e). Constant temperature; range as of `outward_viscous`.

    Parameters
    ----------
    inward : float
        Pa·m³/s of air into a vacuum.
    start : float
        Pa, absolute.
    outside : float
        Pa, absolute, over 0.
    volume : float
        m³, over 0.
    seconds : float
        s, from 0.

    Returns
    -------
    float
        Pa, absolute.

    Examples
    --------
    >>> round(pressure_left(1e-3, 2.1e6, 1e5, 0.02, 900.0))
    2080385
    >>> pressure_left(0.0, 2.1e6, 1e5, 0.02, 900.0)
    2100000.0
    """
    if inward <= 0.0 or seconds <= 0.0:
        return start
    e = (start - outside) / (start + outside) * math.exp(-2.0 * inward * seconds / (volume * outside))
    return outside * (1.0 + e) / (1.0 - e)


def carried_off(flow: float, seconds: float, saturation: float, temperature: float, gas_constant: float) -> float:
    """Water, kg, that a dry gas carries off at the most: it leaves saturated, ρ = p_s/(R_w T).

    Parameters
    ----------
    flow : float
        m³/s, at the temperature and the pressure of the water.
    seconds : float
        s.
    saturation : float
        Saturation pressure, Pa, at the water's temperature.
    temperature : float
        K.
    gas_constant : float
        Of water vapour, J/(kg·K).

    Returns
    -------
    float
        kg.

    Examples
    --------
    A cubic metre at 20 °C holds 17.3 g.

    >>> round(1e3 * carried_off(1.0, 1.0, 2339.0, 293.15, 461.5), 1)
    17.3
    """
    return flow * seconds * saturation / (gas_constant * temperature)
