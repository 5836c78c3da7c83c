"""Water: saturation over liquid and ice, moist air, heat of evaporation.

Scalar functions on floats with only `math`, so that the compiled engine can use the same source.
"""

from __future__ import annotations

import math

from rough_draw.core.physics.gas import R_WATER

TRIPLE_K = 273.16
TRIPLE_PA = 611.657
"""Triple point of water (IAPWS)."""

LATENT_FUSION = 333_550.0
"""Heat of fusion at 0 °C, J/kg (IAPWS)."""

HEAT_LIQUID = 4_190.0
"""Specific heat of liquid water, J/(kg·K), 5–40 °C to 0.5 %."""

HEAT_ICE = 2_060.0
"""Specific heat of ice, J/(kg·K), −20–0 °C to 3 %."""

HEAT_VAPOUR = 1_860.0
"""Specific heat of water vapour at low pressure, J/(kg·K)."""

LATENT_VAPOUR_TRIPLE = 2_500_900.0
"""Heat of evaporation at the triple point, J/kg (IAPWS)."""


def saturation_liquid(t: float) -> float:
    """Saturation pressure over liquid water, Pa, at ``t`` K (273–640 K; 0.01 %).

    Wagner & Pruß auxiliary equation, IAPWS SR1-86(1992). Below 273 K it is used, extrapolated,
    only for supercooled water.

    Parameters
    ----------
    t : float
        K, 273 to 640.

    Returns
    -------
    float
        Pa, to 0.01 %.

    Examples
    --------
    >>> round(saturation_liquid(293.15))
    2339
    """
    tau = 1.0 - t / 647.096
    s = (
        -7.85951783 * tau
        + 1.84408259 * tau**1.5
        - 11.7866497 * tau**3
        + 22.6807411 * tau**3.5
        - 15.9618719 * tau**4
        + 1.80122502 * tau**7.5
    )
    return 22.064e6 * math.exp(647.096 / t * s)


def saturation_ice(t: float) -> float:
    """Sublimation pressure over ice, Pa, at ``t`` K (180–273.16 K; 0.1 %).

    Wagner et al. 2011, IAPWS R14-08(2011).

    Parameters
    ----------
    t : float
        K, 180 to 273.16.

    Returns
    -------
    float
        Pa, to 0.1 %.

    Examples
    --------
    >>> round(saturation_ice(263.15), 1)
    259.9
    """
    theta = t / TRIPLE_K
    s = -21.2144006 * theta**0.00333333333 + 27.3203819 * theta**1.20666667 - 6.10598130 * theta**1.70333333
    return TRIPLE_PA * math.exp(s / theta)


def saturation_pressure(t: float) -> float:
    """Saturation pressure of water, Pa, at ``t`` K: over liquid from the triple point up, over ice below.

    Parameters
    ----------
    t : float
        K.

    Returns
    -------
    float
        Pa.

    Examples
    --------
    >>> round(saturation_pressure(273.16), 2)
    611.66
    """
    if t >= TRIPLE_K:
        return saturation_liquid(t)
    return saturation_ice(t)


def boiling_point(pressure: float) -> float:
    """Temperature, K, at which water at ``pressure`` Pa boils (or ice sublimes); inverse of `saturation_pressure`.

    Bisection to 1e-6 K over 180–640 K.

    Parameters
    ----------
    pressure : float
        Pa, 0.01 to 2e7.

    Returns
    -------
    float
        K, to 1e-6.

    Raises
    ------
    ValueError
        Outside the range.

    Examples
    --------
    >>> round(boiling_point(101_325.0), 1)
    373.1
    """
    if not 0.01 <= pressure <= 2.0e7:
        raise ValueError(f"no boiling point of water is tabulated at {pressure:g} Pa")
    low, high = 180.0, 640.0
    while high - low > 1e-6:
        mid = 0.5 * (low + high)
        if saturation_pressure(mid) < pressure:
            low = mid
        else:
            high = mid
    return 0.5 * (low + high)


def vapour_volume(mass: float, t: float, pressure: float) -> float:
    """Volume, m³, that ``mass`` kg of water takes as ideal vapour at ``t`` K and ``pressure`` Pa: mRT/(Mp).

    Parameters
    ----------
    mass : float
        kg.
    t : float
        K.
    pressure : float
        Pa.

    Returns
    -------
    float
        m³.

    Examples
    --------
    >>> round(vapour_volume(1.0, 295.15, 66.66))
    2043
    """
    return mass * R_WATER * t / pressure


def vapour_mass(volume: float, relative_humidity: float, t: float) -> float:
    """Water, kg, in ``volume`` m³ of air at ``t`` K and ``relative_humidity`` (0–1): ideal gas at φ·p_sat.

    Parameters
    ----------
    volume : float
        m³.
    relative_humidity : float
        0 to 1.
    t : float
        K.

    Returns
    -------
    float
        kg.

    Examples
    --------
    >>> round(1000.0 * vapour_mass(1.0, 0.5, 293.15), 1)
    8.6
    """
    return relative_humidity * saturation_pressure(t) * volume / (R_WATER * t)
