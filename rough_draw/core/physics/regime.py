"""Between molecular and viscous flow: the size that counts, the slip at walls, gases through each other.

Scalar functions on floats with only `math`, so that the compiled engine can use the same source.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from rough_draw.core.physics.gas import ETA_AIR_REF, M_AIR, T_REF, mutual_diffusion


class Passage(NamedTuple):
    """What of a passage does not change with pressure.

    Its molecular conductance m³/s; its laminar one, m³/s per Pa of mean pressure; air-equivalent size, Pa·m per Pa;
    `meetings` 1/Pa; Reynolds number per Pa·m³/s if flow were laminar; the two of `aperture.hole_at`; a slot's drag, 0
    of a tube.
    """

    molecular: float
    laminar: float
    size: float
    met: float
    reynolds: float
    hole_molecular: float
    hole_viscous: float
    drag: float


def with_gas(passage: Passage, molar_mass: float, viscosity: float) -> Passage:
    """A passage with a mixture in it, from the same with air of unit viscosity.

    What molecules do at walls goes as 1/√M, laminar flow as 1/η, a size in mean free paths as √M/η, inertia over
    friction as M/η.

    Parameters
    ----------
    passage : Passage
        Of air with a viscosity of 1 Pa·s: `conductance.tube_passage`, `slot.slot_passage`.
    molar_mass : float
        kg/mol.
    viscosity : float
        Pa·s.

    Returns
    -------
    Passage
        The same with the mixture.

    Examples
    --------
    >>> tuple(with_gas(Passage(1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 4.0), M_AIR / 4, 0.5))
    (2.0, 2.0, 1.0, 2.0, 0.5, 2.0, 2.0, 4.0)
    """
    root = math.sqrt(M_AIR / molar_mass)
    thin = 1.0 / viscosity
    inert = molar_mass / M_AIR * thin
    return Passage(
        passage.molecular * root,
        passage.laminar * thin,
        passage.size * root * inert,
        passage.met * root,
        passage.reynolds * inert,
        passage.hole_molecular * root,
        passage.hole_viscous * root,
        passage.drag,
    )


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


def meetings(knudsen_diffusion: float, t: float) -> float:
    """Meetings of a molecule with others for each with a wall, per Pa: D_K/(D₁₂ p).

    Parameters
    ----------
    knudsen_diffusion : float
        D_K of the passage, m²/s: d v̄/3 of a tube.
    t : float
        K.

    Returns
    -------
    float
        1/Pa.

    Examples
    --------
    >>> round(meetings(0.01 * 463.0 / 3.0, 293.15), 2)
    0.62
    """
    return knudsen_diffusion / mutual_diffusion(t)


def carried(met: float) -> float:
    """Share of the molecular flow that moves with the mixture instead of each gas down its own gradient.

    Bosanquet's rule, 1/D = 1/D_K + 1/D₁₂: where molecules meet each other more often than the wall, one gas gets
    through another only by mutual diffusion, which falls with pressure. (Pollard & Present, Phys. Rev. 73 (1948) 762.)

    Parameters
    ----------
    met : float
        `meetings` × pressure, without unit.

    Returns
    -------
    float
        0 (molecular) to 1 (atmosphere).

    Examples
    --------
    >>> each = meetings(0.01 * 463.0 / 3.0, 293.15)
    >>> round(carried(each * 1e5), 5)
    0.99998
    >>> round(carried(each * 0.1), 2)
    0.06
    """
    return met / (1.0 + met)
