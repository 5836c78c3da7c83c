"""Compiled rate laws of the network: flow through each element, evaporation and sorption, with derivatives.

The scalar relations of `gas`, `water` and `conductance` are registered with numba as they stand, so there
is one source for what the tests check and what the engine runs.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit
from numba.extending import register_jitable

from rough_draw.core.physics.conductance import (
    molecular_aperture,
    molecular_tube,
    slip_factor,
    tube_parts,
    turbulent_throughput,
    viscous_aperture,
    viscous_tube,
)
from rough_draw.core.physics.gas import mean_speed
from rough_draw.core.physics.water import saturation_ice, saturation_liquid, saturation_pressure

for _relation in (
    molecular_aperture,
    molecular_tube,
    slip_factor,
    tube_parts,
    turbulent_throughput,
    viscous_aperture,
    viscous_tube,
    mean_speed,
    saturation_ice,
    saturation_liquid,
    saturation_pressure,
):
    register_jitable(error_model="numpy")(_relation)

TUBE, PUMP, LEAK, SOURCE = 0, 1, 2, 3

T_REF = 293.15
_M = (28.97e-3, 18.015268e-3, 0.090)
_R_GAS = 8.314462618
_RW = _R_GAS / 18.015268e-3
_TRIPLE = 273.16
_FUSION = 333_550.0
_C_LIQUID = 4_190.0
_C_ICE = 2_060.0
_C_VAPOUR = 1_860.0
_H_VAPOUR = 2_500_900.0
_POOL_FADE = 2.0e-6
"""Mass, kg, below which the last film of free water fades smoothly to nothing."""

jit = njit(cache=True, error_model="numpy", nogil=True)


@jit
def _up_parts(bore, length, total_a, total_b, m_mix, eta, t):  # type: ignore[no-untyped-def]
    if total_a >= total_b:
        return tube_parts(bore, length, total_a, total_b, (m_mix, eta, t))
    return tube_parts(bore, length, total_b, total_a, (m_mix, eta, t))


@jit
def tube_flow(par, pa, pb, t, q, dqa, dqb, want_jac):  # type: ignore[no-untyped-def]
    """Throughput of each gas a → b through a tube into ``q``; derivatives by end pressures into ``dqa``, ``dqb``.

    ``par`` = bore, length, count, one_way, crack, and the viscosities of the three gases at ``t``. Gas is carried
    convectively with the composition of the upstream end and diffuses molecularly down its own gradient. Derivatives
    of the mixture's properties with composition are left out of the Jacobian (they are small); all else is in.
    """
    bore, length, count = par[0], par[1], par[2]
    total_a = pa[0] + pa[1] + pa[2]
    total_b = pb[0] + pb[1] + pb[2]
    for k in range(3):
        q[k] = 0.0
    if want_jac:
        for k in range(3):
            for m in range(3):
                dqa[k, m] = 0.0
                dqb[k, m] = 0.0
    if count == 0.0:
        return
    lift, lift_slope = 1.0, 0.0
    if par[3] > 0.0:
        # A check valve lifts from its seat over half its cracking pressure, without a jump.
        width = 0.5 * par[4] + 1.0
        x = (total_a - total_b - par[4]) / width
        if x <= 0.0:
            return
        if x < 1.0:
            lift = x * x * (3.0 - 2.0 * x)
            lift_slope = 6.0 * x * (1.0 - x) / width
    forward = total_a >= total_b
    up = total_a if forward else total_b
    if up < 1e-9:
        return
    x0 = pa[0] / up if forward else pb[0] / up
    x1 = pa[1] / up if forward else pb[1] / up
    x2 = pa[2] / up if forward else pb[2] / up
    m_mix = x0 * _M[0] + x1 * _M[1] + x2 * _M[2]
    eta = x0 * par[5] + x1 * par[6] + x2 * par[7]
    conv, f_mol, scale = _up_parts(bore, length, total_a, total_b, m_mix, eta, t)
    diff = total_a - total_b
    c_mol0 = molecular_tube(bore, length, mean_speed(_M[0], t))
    share = (x0, x1, x2)
    for k in range(3):
        c_mol = c_mol0 * math.sqrt(_M[0] / _M[k])
        q[k] = lift * count * scale * (conv * diff * share[k] + f_mol * c_mol * (pa[k] - pb[k]))
    if not want_jac:
        return
    eps = 1e-5 * up
    conv_a, f_a, scale_a = _up_parts(bore, length, total_a + eps, total_b, m_mix, eta, t)
    conv_b, f_b, scale_b = _up_parts(bore, length, total_a, total_b + eps, m_mix, eta, t)
    bulk = scale * conv
    bulk_da = (scale_a * conv_a - bulk) / eps
    bulk_db = (scale_b * conv_b - bulk) / eps
    mol = scale * f_mol
    mol_da = (scale_a * f_a - mol) / eps
    mol_db = (scale_b * f_b - mol) / eps
    for k in range(3):
        c_mol = c_mol0 * math.sqrt(_M[0] / _M[k])
        da = (bulk_da * diff + bulk) * share[k] + mol_da * c_mol * (pa[k] - pb[k])
        db = (bulk_db * diff - bulk) * share[k] + mol_db * c_mol * (pa[k] - pb[k])
        for m in range(3):
            own = 1.0 if k == m else 0.0
            carried = bulk * diff * (own - share[k]) / up
            moved = lift_slope / lift * q[k]
            dqa[k, m] = lift * count * (da + mol * c_mol * own + (carried if forward else 0.0)) + moved
            dqb[k, m] = lift * count * (db - mol * c_mol * own + (0.0 if forward else carried)) - moved


@jit
def element_flow(kind, par, pa, pb, t, time, q, dqa, dqb, want_jac):  # type: ignore[no-untyped-def]
    """Throughput of each gas a → b through any element; see the module constants for the kinds."""
    if kind == TUBE:
        tube_flow(par, pa, pb, t, q, dqa, dqb, want_jac)
        return
    for k in range(3):
        q[k] = 0.0
        for m in range(3):
            dqa[k, m] = 0.0
            dqb[k, m] = 0.0
    if kind == PUMP:
        # par = speed, ultimate of air, of water, of refrigerant
        for k in range(3):
            q[k] = par[0] * (pa[k] - par[1 + k])
            dqa[k, k] = par[0]
    elif kind == LEAK:
        # par = choked throughput, water fraction outside; b is the atmosphere. Air comes in: q (a → b) < 0.
        outside = pb[0] + pb[1] + pb[2]
        inside = pa[0] + pa[1] + pa[2]
        r = inside / outside
        if r < 0.528:
            flow, slope = par[0], 0.0
        else:
            # Elliptic fall of an orifice from choked to no flow (subcritical orifice approximation), made
            # straight through the last twentieth so that pressures even out without a kink.
            s = (r - 0.528) / 0.472
            if s < 0.95:
                root = math.sqrt(1.0 - s * s)
                flow = par[0] * root
                slope = -par[0] * s / root / (0.472 * outside)
            else:
                end = math.sqrt(1.0 - 0.95 * 0.95)
                flow = par[0] * end * (1.0 - s) / 0.05
                slope = -par[0] * end / 0.05 / (0.472 * outside)
        q[0] = -flow * (1.0 - par[1])
        q[1] = -flow * par[1]
        for m in range(3):
            dqa[0, m] = -slope * (1.0 - par[1])
            dqa[1, m] = -slope * par[1]
    elif kind == SOURCE:
        # par = gas, steady, fresh
        q[int(par[0])] = -(par[1] + par[2] / (1.0 + time / 3600.0))


@jit
def flows(elements, p, outside, time):  # type: ignore[no-untyped-def]
    """Throughput of each gas through every element (elements × 3), Pa·m³/s at 293.15 K, at node pressures ``p``."""
    kind, ea, eb, par, temp = elements[0], elements[1], elements[2], elements[3], elements[4]
    out = np.zeros((kind.size, 3))
    dqa = np.zeros((3, 3))
    dqb = np.zeros((3, 3))
    for e in range(kind.size):
        pb = p[eb[e]] if eb[e] >= 0 else outside[-1 - eb[e]]
        element_flow(kind[e], par[e], p[ea[e]], pb, temp[e], time, out[e], dqa, dqb, False)
        if kind[e] == TUBE:
            out[e] *= T_REF / temp[e]
    return out


@jit
def pool_temperature(mass, heat, metal):  # type: ignore[no-untyped-def]
    """Temperature, K, of free water and the metal it cools, from its heat above liquid at 0.01 °C (J)."""
    m = max(mass, 0.0)
    if heat >= 0.0:
        return _TRIPLE + heat / (m * _C_LIQUID + metal)
    frozen = m * _FUSION
    if heat >= -frozen:
        return _TRIPLE
    return _TRIPLE + (heat + frozen) / (m * _C_ICE + metal)


@jit
def pool_heat(mass, t, metal):  # type: ignore[no-untyped-def]
    """Heat, J, of free water and its metal at ``t`` K: liquid at and above 0.01 °C, ice below."""
    if t >= _TRIPLE:
        return (mass * _C_LIQUID + metal) * (t - _TRIPLE)
    return (mass * _C_ICE + metal) * (t - _TRIPLE) - mass * _FUSION


@jit
def pool_rates(mass, heat, p_water, par, t_node):  # type: ignore[no-untyped-def]
    """Evaporation, kg/s, and heating, W, of free water. ``par`` = transfer m³/s, heat inflow W/K, metal J/K."""
    m = max(mass, 0.0)
    t = pool_temperature(m, heat, par[2])
    psat = saturation_pressure(max(t, 180.0))
    drive = psat - p_water
    if drive > 0.0:
        drive *= m / (m + _POOL_FADE)
    rate = par[0] * drive / (_RW * t)
    vapour = _H_VAPOUR + _C_VAPOUR * (t - _TRIPLE)
    return rate, par[1] * (t_node - t) - rate * vapour


@jit
def reservoir_rate(mass, p, par):  # type: ignore[no-untyped-def]
    """Desorption, kg/s: (m − capacity p)/τ. ``par`` = τ s, capacity kg/Pa."""
    return (mass - par[1] * p) / par[0]
