"""Conductance of round tubes and apertures in every flow regime.

Knudsen's formula for long tubes, an entrance in series for short ones, choking and turbulence as
bounds. Conductance is m³/s: throughput (Pa·m³/s) per pressure difference (Pa). Scalar functions on
floats with only `math`, so that the compiled engine can use the same source.
"""

from __future__ import annotations

import math

from rough_draw.core.physics.aperture import even_difference, hole_at, hole_between
from rough_draw.core.physics.gas import ETA_AIR_REF, M_AIR, T_REF, R, mean_speed, viscosity_air
from rough_draw.core.physics.regime import Passage, air_equivalent, carried, meetings, slip_factor, with_gas


def viscous_tube(bore: float, length: float, mean_pressure: float, viscosity: float) -> float:
    """Laminar conductance, m³/s, of a long tube: π d⁴ p̄ / (128 η l) (Hagen–Poiseuille). SI units.

    Parameters
    ----------
    bore : float
        m.
    length : float
        m.
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
    >>> round(1e3 * viscous_tube(0.01, 1.0, 100.0, 1.82e-5), 2)
    1.35
    """
    return math.pi * bore**4 * mean_pressure / (128.0 * viscosity * length)


def molecular_tube(bore: float, length: float, speed: float) -> float:
    """Molecular conductance, m³/s, of a long tube: π d³ v̄ / (12 l) (Knudsen 1909). SI units.

    Parameters
    ----------
    bore : float
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
    >>> round(1e3 * molecular_tube(0.01, 1.0, 463.0), 3)
    0.121
    """
    return math.pi * bore**3 * speed / (12.0 * length)


def turbulent_throughput(
    bore: float, length: float, p_up: float, p_down: float, gas: tuple[float, float, float]
) -> float:
    """Isothermal turbulent throughput, Pa·m³/s, of a smooth long tube; ``gas`` = (molar mass, viscosity, K).

    Compressible Darcy flow with Blasius friction f = 0.3164 Re^-1/4 (3,000 < Re < 1e5):
    G^1.75 = (p1² − p2²) d^1.25 M / (0.3164 l η^0.25 R T).

    Parameters
    ----------
    bore : float
        m.
    length : float
        m.
    p_up : float
        Pa.
    p_down : float
        Pa.
    gas : tuple of float
        Molar mass kg/mol, viscosity Pa·s, temperature K.

    Returns
    -------
    float
        Pa·m³/s.

    Examples
    --------
    >>> round(turbulent_throughput(0.01, 1.0, 1e5, 5e4, (M_AIR, 1.82e-5, 293.15)))
    1523
    """
    molar_mass, viscosity, t = gas
    rst = R * t / molar_mass
    # Fourth roots by two square roots: a power costs several times that.
    lossy = 0.3164 * length * math.sqrt(math.sqrt(viscosity)) * rst
    g: float = ((p_up * p_up - p_down * p_down) * bore * math.sqrt(math.sqrt(bore)) / lossy) ** (1.0 / 1.75)
    return g * 0.25 * math.pi * bore * bore * rst


def tube_passage(bore: float, length: float, t: float) -> Passage:
    """One tube with air of unit viscosity in it (see `regime.Passage`): worked out once for all pressures and mixtures.

    Parameters
    ----------
    bore : float
        m.
    length : float
        m.
    t : float
        K.

    Returns
    -------
    Passage
        For `with_gas`.

    Examples
    --------
    >>> [float(f"{x:.3g}") for x in with_gas(tube_passage(0.008, 1.5, 293.15), M_AIR, 1.82e-5)[:4]]
    [4.14e-05, 3.68e-06, 0.008, 0.494]
    """
    speed = mean_speed(M_AIR, t)
    hole = hole_at(0.25 * math.pi * bore * bore, M_AIR, t)
    return Passage(
        molecular_tube(bore, length, speed),
        viscous_tube(bore, length, 1.0, 1.0),
        air_equivalent(bore, 1.0, M_AIR, 1.0, t),
        meetings(bore * speed / 3.0, t),
        M_AIR / (0.25 * math.pi * bore * R * t),
        hole[0],
        hole[1],
        0.0,
    )


def tube_between(
    passage: Passage, bore: float, length: float, p_up: float, p_down: float, gas: tuple[float, float, float]
) -> tuple[float, float, float]:
    """What one tube carries of the mixture, what diffuses, and the scale of its entrance, between two pressures.

    Returns ``(c_bulk, f_mol, scale)``: the conductance that carries the mixture as it is (m³/s: laminar or
    turbulent flow, and the slip that moves with it), Knudsen's factor on what each gas diffuses down its own gradient
    (see `carried`), and the factor 0–1 by which the entrance in series lowers both. The molecular conductance itself
    differs by gas, so the caller multiplies it in.

    Parameters
    ----------
    passage : Passage
        The same tube with the same gas.
    bore : float
        m.
    length : float
        m.
    p_up : float
        Pa.
    p_down : float
        Pa.
    gas : tuple of float
        Molar mass kg/mol, viscosity Pa·s, temperature K of the mixture.

    Returns
    -------
    tuple of float
        Conductance that carries the mixture m³/s, factor on the molecular one, scale of both by the entrance.

    Examples
    --------
    >>> air = (M_AIR, 1.82e-5, 293.15)
    >>> hose = with_gas(tube_passage(0.008, 1.5, 293.15), M_AIR, 1.82e-5)
    >>> [round(x, 5) for x in tube_between(hose, 0.008, 1.5, 100.0, 50.0, air)]
    [0.00031, 0.02132, 0.9837]
    """
    mean = 0.5 * (p_up + p_down)
    dp = passage.size * mean
    f_mol = slip_factor(dp)
    conv = passage.laminar * mean
    diff = even_difference(p_up, p_down)
    # Reynolds number if the flow were laminar; under 10 turbulence takes off less than one part in 10,000.
    if passage.reynolds * conv * diff > 10.0:
        turbulent = turbulent_throughput(bore, length, p_up, max(p_up - diff, 0.0), gas) / diff
        x = (conv / turbulent) ** 2
        conv = conv / math.sqrt(math.sqrt(1.0 + x * x))
    slips = f_mol * passage.molecular
    hole = hole_between((passage.hole_molecular, passage.hole_viscous), dp, p_up, diff)
    stays = carried(passage.met * mean)
    return conv + stays * slips, f_mol * (1.0 - stays), 1.0 / (1.0 + (conv + slips) / hole)


def tube_conductance(bore: float, length: float, p_up: float, p_down: float, t: float = T_REF) -> float:
    """Conductance, m³/s, of a round tube to air between two pressures (Pa), entrance included.

    Parameters
    ----------
    bore : float
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
    >>> round(1e3 * tube_conductance(0.01, 1.0, 101.0, 99.0), 2)
    1.44
    """
    eta = viscosity_air(t)
    passage = with_gas(tube_passage(bore, length, t), M_AIR, eta)
    bulk, f_mol, scale = tube_between(passage, bore, length, p_up, p_down, (M_AIR, eta, t))
    return scale * (bulk + f_mol * passage.molecular)


def knudsen_long_tube(bore: float, length: float, mean_pressure: float, t: float = T_REF) -> float:
    """Knudsen's long-tube conductance to air, m³/s, without entrance, choking or turbulence.

    In the handbook form at 20 °C (d, l in cm, p̄ in mbar, l/s):
    135 d⁴/l p̄ + 12.1 d³/l (1 + 192 d p̄)/(1 + 237 d p̄).

    Parameters
    ----------
    bore : float
        m.
    length : float
        m.
    mean_pressure : float
        Pa.
    t : float
        K.

    Returns
    -------
    float
        m³/s.

    Examples
    --------
    >>> round(1e3 * knudsen_long_tube(0.01, 1.0, 100.0), 3)
    1.452
    """
    eta = viscosity_air(t)
    dp = bore * mean_pressure * (ETA_AIR_REF / eta) * math.sqrt(T_REF / t)
    speed = mean_speed(M_AIR, t)
    return viscous_tube(bore, length, mean_pressure, eta) + slip_factor(dp) * molecular_tube(bore, length, speed)


def series(*conductances: float) -> float:
    """Conductance of parts in series, m³/s: 1/C = Σ 1/Cᵢ. A shut part (0) shuts the chain.

    Parameters
    ----------
    *conductances : float
        m³/s each.

    Returns
    -------
    float
        m³/s; 0 where a part is shut.

    Examples
    --------
    >>> series(2.0, 2.0)
    1.0
    >>> series(2.0, 0.0)
    0.0
    """
    if any(c <= 0.0 for c in conductances):
        return 0.0
    return 1.0 / sum(1.0 / c for c in conductances)
