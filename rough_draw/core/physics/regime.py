"""Between molecular and viscous flow: the size that counts, the slip at walls, gases through each other.

Scalar functions on floats with only `math`, so that the compiled engine can use the same source.
"""

from __future__ import annotations

import math

from rough_draw.core.physics.gas import ETA_AIR_REF, M_AIR, T_REF, mutual_diffusion


def slip_factor(dp: float) -> float:
    """Knudsen's transition factor (1 + 192 d p̄)/(1 + 237 d p̄); ``dp`` in Pa·m, air-equivalent.

    Parameters
    ----------
    dp : float
        d·p̄, Pa·m, as for air at 20 °C.

    Returns
    -------
    float
        From 1 (molecular) to 192/237 (viscous).

    Examples
    --------
    >>> round(slip_factor(0.0), 3)
    1.0
    >>> round(slip_factor(1.0), 3)
    0.811
    """
    return (1.0 + 192.0 * dp) / (1.0 + 237.0 * dp)


def air_equivalent(size: float, pressure: float, molar_mass: float, viscosity: float, t: float) -> float:
    """Size × pressure, Pa·m, at which air at 20 °C has the Knudsen number that this gas has: λ p goes as η √(T/M).

    Parameters
    ----------
    size : float
        Bore or gap, m.
    pressure : float
        Pa.
    molar_mass : float
        kg/mol.
    viscosity : float
        Pa·s.
    t : float
        K.

    Returns
    -------
    float
        Pa·m.

    Examples
    --------
    >>> air_equivalent(0.01, 100.0, M_AIR, ETA_AIR_REF, T_REF)
    1.0
    """
    return size * pressure * (ETA_AIR_REF / viscosity) * math.sqrt(molar_mass / M_AIR * T_REF / t)


def carried(knudsen_diffusion: float, pressure: float, t: float) -> float:
    """Share of the molecular flow that moves with the mixture instead of each gas down its own gradient.

    Bosanquet's rule, 1/D = 1/D_K + 1/D₁₂: where molecules meet each other more often than the wall, one gas gets
    through another only by mutual diffusion, which falls with pressure. (Pollard & Present, Phys. Rev. 73 (1948) 762.)

    Parameters
    ----------
    knudsen_diffusion : float
        D_K of the passage, m²/s: d v̄/3 of a tube.
    pressure : float
        Pa.
    t : float
        K.

    Returns
    -------
    float
        0 (molecular) to 1 (atmosphere).

    Examples
    --------
    >>> round(carried(0.01 * 463.0 / 3.0, 1e5, 293.15), 5)
    0.99998
    >>> round(carried(0.01 * 463.0 / 3.0, 0.1, 293.15), 2)
    0.06
    """
    x = knudsen_diffusion * pressure / mutual_diffusion(t)
    return x / (1.0 + x)
