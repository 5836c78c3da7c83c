"""Flow through a narrow slot: what a valve core pushed open leaves, an annulus of a tenth of a millimetre.

A slot is not a round hole of the same area: viscous flow falls with the cube of its gap, so near the atmosphere it is
choked like any hole and at a few hundred microns it passes a fraction of what a round bore would. Scalar functions on
floats with only `math`, so that the compiled engine can use the same source.
"""

from __future__ import annotations

import math

from rough_draw.core.physics.aperture import even_difference, hole_at, hole_between
from rough_draw.core.physics.gas import M_AIR, MEAN_FREE_PATH_AIR, T_REF, mean_speed, viscosity_air
from rough_draw.core.physics.regime import Passage, air_equivalent, carried, meetings, with_gas

PATHS = 2.0
"""Mean free paths after which a molecule counts as having met another: fitted to the linear BGK equation."""


def parallel_plates(aspect: float) -> float:
    """Share of molecules that get through between two parallel plates, ``aspect`` = length over gap.

    Berman, J. Appl. Phys. 36 (1965) 3356; diffuse walls, molecular flow, any aspect over 0.

    Parameters
    ----------
    aspect : float
        L/h.

    Returns
    -------
    float
        0 to 1.

    Examples
    --------
    >>> round(parallel_plates(1.0), 4)
    0.6844
    >>> round(parallel_plates(10.0), 4)
    0.2408
    """
    root = math.sqrt(1.0 + aspect * aspect)
    bent = aspect - math.log(aspect + root)
    square = aspect * aspect
    return 0.5 * (1.0 + root - aspect) - 1.5 * bent * bent / (
        aspect * square + 3.0 * square + 4.0 - (square + 4.0) * root
    )


def slot_drag(aspect: float) -> float:
    """l/(1/W(l) − 1): how much more a slot of aspect l passes than molecules hopping one gap at a time.

    Parameters
    ----------
    aspect : float
        L/h.

    Returns
    -------
    float
        From 2 (short) up as the logarithm of the aspect.

    Examples
    --------
    >>> round(slot_drag(80.0), 2)
    4.77
    """
    return aspect / (1.0 / parallel_plates(aspect) - 1.0)


def viscous_slot(gap: float, width: float, length: float, mean_pressure: float, viscosity: float) -> float:
    """Laminar conductance, m³/s, of a slot: w h³ p̄ / (12 η L) (plane Poiseuille). SI units.

    Parameters
    ----------
    gap : float
        h, m.
    width : float
        w, m; much more than the gap.
    length : float
        L along the flow, m.
    mean_pressure : float
        Pa.
    viscosity : float
        Pa·s.

    Returns
    -------
    float
        m³/s.

    Examples
    --------
    >>> round(1e6 * viscous_slot(0.15e-3, 6.3e-3, 12e-3, 66.7, 1.82e-5), 3)
    0.541
    """
    return width * gap**3 * mean_pressure / (12.0 * viscosity * length)


def molecular_slot(gap: float, width: float, length: float, speed: float) -> float:
    """Molecular conductance, m³/s, of a slot without its entrance: (w h v̄/4)/(1/W − 1), W by `parallel_plates`.

    Parameters
    ----------
    gap : float
        m.
    width : float
        m.
    length : float
        m.
    speed : float
        Mean thermal speed, m/s.

    Returns
    -------
    float
        m³/s.

    Examples
    --------
    >>> round(1e6 * molecular_slot(0.15e-3, 6.3e-3, 12e-3, 463.0), 2)
    6.52
    """
    return 0.25 * speed * width * gap * gap / length * slot_drag(length / gap)


def slot_passage(gap: float, width: float, length: float, t: float) -> Passage:
    """A slot with air of unit viscosity in it (see `regime.Passage`). Turbulence is left out, `meetings` without drag.

    Parameters
    ----------
    gap : float
        m.
    width : float
        m.
    length : float
        m.
    t : float
        K.

    Returns
    -------
    Passage
        For `regime.with_gas`.

    Examples
    --------
    >>> [float(f"{x:.3g}") for x in with_gas(slot_passage(0.15e-3, 6.3e-3, 12e-3, 293.15), M_AIR, 1.82e-5)[:2]]
    [6.52e-06, 8.11e-09]
    """
    speed = mean_speed(M_AIR, t)
    hole = hole_at(width * gap, M_AIR, t)
    return Passage(
        molecular_slot(gap, width, length, speed),
        viscous_slot(gap, width, length, 1.0, 1.0),
        air_equivalent(gap, 1.0, M_AIR, 1.0, t),
        meetings(0.25 * gap * speed, t),
        0.0,
        hole[0],
        hole[1],
        slot_drag(length / gap),
    )


def slot_between(passage: Passage, gap: float, length: float, p_up: float, p_down: float) -> tuple[float, float, float]:
    """As `conductance.tube_between`, for a slot: what is carried m³/s, the factor on diffusion, the entrance's scale.

    Between molecular and viscous flow the logarithm of the aspect gives way to that of the free path: the way a
    molecule goes unhindered is 1/(h/L + h/(2 λ)). Against the linear BGK equation between plates this holds within
    4 % from molecular to viscous flow; without it the slip flow would be 2.4 times too large. Turbulence is left out:
    near the atmosphere the hole in series (w h, choked) is what limits.

    Parameters
    ----------
    passage : Passage
        The same slot with its gas.
    gap : float
        m.
    length : float
        m.
    p_up : float
        Pa.
    p_down : float
        Pa.

    Returns
    -------
    tuple of float
        Conductance that carries the mixture m³/s, factor on the molecular one of each gas, scale of both.

    Examples
    --------
    >>> core = with_gas(slot_passage(0.15e-3, 6.3e-3, 12e-3, 293.15), M_AIR, 1.82e-5)
    >>> [float(f"{x:.3g}") for x in slot_between(core, 0.15e-3, 12e-3, 100.0, 50.0)]
    [2.22e-06, 0.215, 0.976]
    """
    mean = 0.5 * (p_up + p_down)
    dp = passage.size * mean
    drag = slot_drag(1.0 / (gap / length + dp / (PATHS * MEAN_FREE_PATH_AIR)))
    f_mol = drag / passage.drag
    stays = carried(passage.met * drag * mean)
    conv = passage.laminar * mean
    hole = hole_between((passage.hole_molecular, passage.hole_viscous), dp, p_up, even_difference(p_up, p_down))
    slips = f_mol * passage.molecular
    return conv + stays * slips, f_mol * (1.0 - stays), 1.0 / (1.0 + (conv + slips) / hole)


def slot_conductance(gap: float, width: float, length: float, p_up: float, p_down: float, t: float = T_REF) -> float:
    """Conductance, m³/s, of a slot to air between two pressures (Pa), entrance included.

    Parameters
    ----------
    gap : float
        m.
    width : float
        m.
    length : float
        m.
    p_up : float
        Pa.
    p_down : float
        Pa.
    t : float
        K.

    Returns
    -------
    float
        m³/s.

    Examples
    --------
    >>> round(1e6 * slot_conductance(0.15e-3, 6.3e-3, 12e-3, 70.0, 60.0), 2)
    3.53
    """
    passage = with_gas(slot_passage(gap, width, length, t), M_AIR, viscosity_air(t))
    bulk, f_mol, scale = slot_between(passage, gap, length, p_up, p_down)
    return scale * (bulk + f_mol * passage.molecular)
