"""A hole: molecular, viscous, choked; and what of a pressure difference counts where pressures are even.

Scalar functions on floats with only `math`, so that the compiled engine can use the same source.
"""

from __future__ import annotations

import math

from rough_draw.core.physics.gas import M_AIR, T_REF, mean_speed

EVEN = 5e-4
"""Share of the pressure below which a difference is rounded off, so that flow is linear there."""


def molecular_aperture(area: float, speed: float) -> float:
    """Molecular conductance, m³/s, of a thin aperture: A v̄ / 4. Air at 20 °C: 11.6 l/s per cm².

    Parameters
    ----------
    area : float
        m².
    speed : float
        Mean thermal speed, m/s.

    Returns
    -------
    float
        m³/s.

    Examples
    --------
    >>> round(1e3 * molecular_aperture(1e-4, 463.0), 1)
    11.6
    """
    return 0.25 * area * speed


def nozzle(ratio: float) -> float:
    """Viscous conductance of a hole per its area, m/s, for air at 20 °C, at downstream/upstream pressure ``ratio``.

    200/(1 − r) when choked (r < 0.528), else 766 r^0.712 √(1 − r^0.288)/(1 − r): 20 and 76.6 l/s per cm² (isentropic
    nozzle, γ = 1.4; Roth, *Vacuum Technology*, §3.2).

    Parameters
    ----------
    ratio : float
        Downstream over upstream pressure, 0 to 1.

    Returns
    -------
    float
        m/s.

    Examples
    --------
    >>> nozzle(0.0)
    200.0
    """
    r = min(ratio, 0.999999)
    if r < 0.528:
        return 200.0 / (1.0 - r)
    power: float = r**0.712
    return 766.0 * power * math.sqrt(1.0 - r / power) / (1.0 - r)


def viscous_aperture(area: float, ratio: float, molar_mass: float, t: float) -> float:
    """Viscous conductance, m³/s, of an aperture at downstream/upstream pressure ``ratio`` (0–1).

    As `nozzle` for air at 20 °C; it goes as √(T/M).

    Parameters
    ----------
    area : float
        m².
    ratio : float
        Downstream over upstream pressure, 0 to 1.
    molar_mass : float
        kg/mol.
    t : float
        K.

    Returns
    -------
    float
        m³/s.

    Examples
    --------
    >>> round(1e3 * viscous_aperture(1e-4, 0.0, M_AIR, 293.15), 1)
    20.0
    """
    return hole_at(area, molar_mass, t)[1] * nozzle(ratio)


def even_difference(p_up: float, p_down: float) -> float:
    """Difference of two pressures, Pa, rounded off where they are even.

    Orifice and turbulent flow go as a root of the difference, whose slope is without bound where pressures are even.
    Below 0.05 % of the pressure the difference is rounded off, so that flow there is linear.

    Parameters
    ----------
    p_up : float
        Pa.
    p_down : float
        Pa.

    Returns
    -------
    float
        Pa.

    Examples
    --------
    >>> even_difference(100.0, 100.0)
    0.05
    """
    floor = EVEN * p_up
    return math.sqrt((p_up - p_down) * (p_up - p_down) + floor * floor)


def hole_at(area: float, molar_mass: float, t: float) -> tuple[float, float]:
    """What of a hole's conductance does not change with pressure: its molecular one, m³/s, and A √(T/M), m², for air.

    Parameters
    ----------
    area : float
        m².
    molar_mass : float
        kg/mol.
    t : float
        K.

    Returns
    -------
    tuple of float
        m³/s, and m² of a hole that passes as much air at 20 °C.

    Examples
    --------
    >>> [round(1e4 * x, 2) for x in hole_at(1e-4, M_AIR, 293.15)]
    [115.72, 1.0]
    """
    return molecular_aperture(area, mean_speed(molar_mass, t)), area * math.sqrt(t / T_REF * M_AIR / molar_mass)


def hole_between(hole: tuple[float, float], dp: float, p_up: float, diff: float) -> float:
    """Conductance, m³/s, of a hole of `hole_at`: molecular, then choked, by ``dp`` (air-equivalent Pa·m).

    The aperture passes from molecular to viscous around Kn = 0.1 (dp = 0.066).

    Parameters
    ----------
    hole : tuple of float
        From `hole_at`.
    dp : float
        Size × pressure, Pa·m, as for air at 20 °C.
    p_up : float
        Pa.
    diff : float
        Pa, from `even_difference`.

    Returns
    -------
    float
        m³/s.

    Examples
    --------
    >>> round(1e3 * hole_between(hole_at(1e-4, M_AIR, 293.15), 1e3, 1e5, 9e4), 1)
    22.2
    """
    weight = dp / (dp + 0.066)
    ratio = max(0.0, 1.0 - diff / p_up) if p_up > 0.0 else 1.0
    return (1.0 - weight) * hole[0] + weight * hole[1] * nozzle(ratio)
