"""Gas properties for rarefied flow: dry air (or nitrogen), water vapour, refrigerant vapour.

Scalar functions on floats with only `math`, so that the compiled engine can use the same source.
"""

from __future__ import annotations

import math

R = 8.314462618
"""Molar gas constant, J/(mol·K) (exact, CODATA 2018)."""

T_REF = 293.15
"""20 °C in K: amounts and throughputs are counted at this temperature, and handbook figures are given at it."""

ETA_AIR_REF = 1.82e-5
"""Viscosity of air at 20 °C, Pa·s, as the handbook form of Knudsen's formula has it."""

M_AIR = 28.97e-3
"""Molar mass of dry air, kg/mol."""

M_WATER = 18.015268e-3
"""Molar mass of water, kg/mol."""

M_REFRIGERANT = 0.090
"""Molar mass of a typical refrigerant vapour, kg/mol (estimate; common ones span 52 to 120 g/mol)."""

R_WATER = R / M_WATER
"""Specific gas constant of water vapour, J/(kg·K)."""

MEAN_FREE_PATH_AIR = 6.6e-3
"""λ·p of air at 20 °C, Pa·m."""


def viscosity_air(t: float) -> float:
    """Dynamic viscosity of air, Pa·s, at ``t`` K (200–500 K, ±1 %).

    Sutherland's formula, constants of the US Standard Atmosphere 1976.

    Parameters
    ----------
    t : float
        K, 200 to 500.

    Returns
    -------
    float
        Pa·s, ±1 %.

    Examples
    --------
    >>> f"{viscosity_air(293.15):.3g}"
    '1.81e-05'
    """
    return 1.458e-6 * t * math.sqrt(t) / (t + 110.4)


def viscosity_water(t: float) -> float:
    """Dynamic viscosity of dilute water vapour, Pa·s, at ``t`` K (250–400 K, ±2 %).

    Power law through the dilute-gas values of IAPWS R12-08 (9.73e-6 at 293 K, 12.3e-6 at 373 K).

    Parameters
    ----------
    t : float
        K, 250 to 400.

    Returns
    -------
    float
        Pa·s, ±2 %.

    Examples
    --------
    >>> f"{viscosity_water(293.15):.3g}"
    '9.73e-06'
    """
    return 9.73e-6 * math.exp(0.97 * math.log(t / T_REF))


def viscosity_refrigerant(t: float) -> float:
    """Dynamic viscosity of low-pressure refrigerant vapour, Pa·s (estimate, 11–13e-6 at 20 °C).

    Parameters
    ----------
    t : float
        K.

    Returns
    -------
    float
        Pa·s; an estimate, 11 to 13e-6 at 20 °C.

    Examples
    --------
    >>> f"{viscosity_refrigerant(293.15):.3g}"
    '1.2e-05'
    """
    return 12.0e-6 * math.exp(0.9 * math.log(t / T_REF))


def mutual_diffusion(t: float) -> float:
    """Mutual diffusion of water vapour and air times pressure, Pa·m²/s, at ``t`` K (250–370 K).

    Massman, Atmos. Environ. 32 (1998) 1111: 0.2178 cm²/s at 0 °C and one atmosphere; as T^1.75 (Fuller et al. 1966),
    which two roots give. Taken for the other pairs too: nitrogen is the same, refrigerant vapours are at two fifths.

    Parameters
    ----------
    t : float
        K.

    Returns
    -------
    float
        Pa·m²/s.

    Examples
    --------
    >>> round(mutual_diffusion(293.15), 2)
    2.5
    """
    x = t / 273.15
    return 2.207 * x * x / math.sqrt(math.sqrt(x))


def mean_speed(molar_mass: float, t: float) -> float:
    """Mean thermal speed √(8RT/πM), m/s, of a gas of ``molar_mass`` kg/mol at ``t`` K.

    Parameters
    ----------
    molar_mass : float
        kg/mol.
    t : float
        K.

    Returns
    -------
    float
        m/s.

    Examples
    --------
    >>> round(mean_speed(M_AIR, 293.15))
    463
    """
    return math.sqrt(8.0 * R * t / (math.pi * molar_mass))


def mean_free_path(pressure: float) -> float:
    """Mean free path of air at 20 °C, m, at ``pressure`` Pa: λ = 6.6e-3 Pa·m / p.

    Parameters
    ----------
    pressure : float
        Pa.

    Returns
    -------
    float
        m.

    Examples
    --------
    >>> round(mean_free_path(100.0), 8)
    6.6e-05
    """
    return MEAN_FREE_PATH_AIR / pressure


def knudsen_number(pressure: float, bore: float) -> float:
    """λ/d of air at 20 °C in a tube of ``bore`` m. Viscous < 0.01 < transitional < 0.5 < molecular.

    Parameters
    ----------
    pressure : float
        Pa.
    bore : float
        m.

    Returns
    -------
    float
        λ/d, without unit.

    Examples
    --------
    >>> round(knudsen_number(66.7, 0.00635), 4)
    0.0156
    """
    return mean_free_path(pressure) / bore
