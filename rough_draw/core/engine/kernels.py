"""Compiled rate laws of the network: flow through each element, evaporation and sorption, with derivatives.

The scalar relations of `gas`, `water` and `conductance` are registered with numba as they stand, so there
is one source for what the tests check and what the engine runs.
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit
from numba.extending import register_jitable

from rough_draw.core.physics.aperture import choked_hole, even_difference, molecular_aperture, viscous_aperture
from rough_draw.core.physics.conductance import molecular_tube, tube_parts, turbulent_throughput, viscous_tube
from rough_draw.core.physics.gas import (
    M_AIR,
    M_REFRIGERANT,
    M_WATER,
    R_WATER,
    T_REF,
    mean_speed,
    mutual_diffusion,
)
from rough_draw.core.physics.regime import air_equivalent, carried, slip_factor
from rough_draw.core.physics.slot import molecular_slot, parallel_plates, slot_drag, slot_parts, viscous_slot
from rough_draw.core.physics.sorption import sorbed_at
from rough_draw.core.physics.water import (
    HEAT_ICE,
    HEAT_LIQUID,
    HEAT_VAPOUR,
    LATENT_FUSION,
    LATENT_VAPOUR_TRIPLE,
    TRIPLE_K,
    saturation_ice,
    saturation_liquid,
    saturation_pressure,
)

for _relation in (
    mean_speed,
    mutual_diffusion,
    air_equivalent,
    carried,
    even_difference,
    molecular_aperture,
    viscous_aperture,
    choked_hole,
    molecular_tube,
    slip_factor,
    turbulent_throughput,
    viscous_tube,
    tube_parts,
    parallel_plates,
    slot_drag,
    viscous_slot,
    molecular_slot,
    slot_parts,
    sorbed_at,
    saturation_ice,
    saturation_liquid,
    saturation_pressure,
):
    register_jitable(error_model="numpy")(_relation)

TUBE, PUMP, LEAK, SOURCE = 0, 1, 2, 3

MOLAR_MASS = (M_AIR, M_WATER, M_REFRIGERANT)
"""By gas, in the order of `network.Gas`."""
_POOL_FADE = 2.0e-6
"""Mass, kg, below which the last film of free water fades smoothly to nothing."""

jit = njit(cache=True, error_model="numpy", nogil=True)


@jit
def _up_parts(par, total_a, total_b, m_mix, eta, t):  # type: ignore[no-untyped-def]
    up, down = (total_a, total_b) if total_a >= total_b else (total_b, total_a)
    if par[5] > 0.0:
        return slot_parts(par[0], par[5], par[1], up, down, (m_mix, eta, t))
    return tube_parts(par[0], par[1], up, down, (m_mix, eta, t))


@jit
def _lift(par, difference):  # type: ignore[no-untyped-def]
    """How far a one-way passage is open (0–1) and the slope of that: it lifts over half its cracking pressure."""
    if par[3] <= 0.0:
        return 1.0, 0.0
    width = 0.5 * par[4] + 1.0
    x = (difference - par[4]) / width
    if x <= 0.0:
        return 0.0, 0.0
    if x < 1.0:
        return x * x * (3.0 - 2.0 * x), 6.0 * x * (1.0 - x) / width
    return 1.0, 0.0


@jit
def tube_flow(par, pa, pb, t, q, dqa, dqb, want_jac):  # type: ignore[no-untyped-def]
    """Throughput of each gas a → b through a tube into ``q``; derivatives by end pressures into ``dqa``, ``dqb``.

    ``par`` = bore, length, count, one_way, crack, width, and the viscosities of the three gases at ``t``; with a width
    it is a slot, whose gap is the bore. Gas is carried with the composition of the upstream end and diffuses down its
    own gradient. Derivatives of the mixture's properties with composition are left out of the Jacobian (they are
    small); all else is in.
    """
    count = par[2]
    total_a = pa[0] + pa[1] + pa[2]
    total_b = pb[0] + pb[1] + pb[2]
    for k in range(3):
        q[k] = 0.0
    if want_jac:
        for k in range(3):
            for m in range(3):
                dqa[k, m] = 0.0
                dqb[k, m] = 0.0
    diff = total_a - total_b
    lift, lift_slope = _lift(par, diff)
    forward = total_a >= total_b
    up = total_a if forward else total_b
    if count == 0.0 or lift == 0.0 or up < 1e-9:
        return
    source = pa if forward else pb
    x0, x1, x2 = source[0] / up, source[1] / up, source[2] / up
    m_mix = x0 * MOLAR_MASS[0] + x1 * MOLAR_MASS[1] + x2 * MOLAR_MASS[2]
    eta = x0 * par[6] + x1 * par[7] + x2 * par[8]
    conv, f_mol, scale = _up_parts(par, total_a, total_b, m_mix, eta, t)
    speed = mean_speed(MOLAR_MASS[0], t)
    c_mol0 = molecular_slot(par[0], par[5], par[1], speed) if par[5] > 0.0 else molecular_tube(par[0], par[1], speed)
    share = (x0, x1, x2)
    for k in range(3):
        c_mol = c_mol0 * math.sqrt(MOLAR_MASS[0] / MOLAR_MASS[k])
        q[k] = lift * count * scale * (conv * diff * share[k] + f_mol * c_mol * (pa[k] - pb[k]))
    if not want_jac:
        return
    eps = 1e-5 * up
    conv_a, f_a, scale_a = _up_parts(par, total_a + eps, total_b, m_mix, eta, t)
    conv_b, f_b, scale_b = _up_parts(par, total_a, total_b + eps, m_mix, eta, t)
    bulk, mol = scale * conv, scale * f_mol
    bulk_da, bulk_db = (scale_a * conv_a - bulk) / eps, (scale_b * conv_b - bulk) / eps
    mol_da, mol_db = (scale_a * f_a - mol) / eps, (scale_b * f_b - mol) / eps
    for k in range(3):
        c_mol = c_mol0 * math.sqrt(MOLAR_MASS[0] / MOLAR_MASS[k])
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
        # par = gas, steady, fresh, how fast the fresh part fades
        q[int(par[0])] = -(par[1] + par[2] * math.exp(-time / par[3]))


@jit
def flows(elements, p, outside, time):  # type: ignore[no-untyped-def]
    """Throughput of each gas through every element (elements × 3), Pa·m³/s at 293.15 K, at node pressures ``p``."""
    kind, ea, eb, par, temp = elements.kind, elements.a, elements.b, elements.par, elements.temperature
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
        return TRIPLE_K + heat / (m * HEAT_LIQUID + metal)
    frozen = m * LATENT_FUSION
    if heat >= -frozen:
        return TRIPLE_K
    return TRIPLE_K + (heat + frozen) / (m * HEAT_ICE + metal)


@jit
def pool_temperatures(mass, heat, metal):  # type: ignore[no-untyped-def]
    """The same for a history of one pool: (n,) K of (n,) kg and (n,) J."""
    found = np.empty(mass.shape[0])
    for i in range(mass.shape[0]):
        found[i] = pool_temperature(mass[i], heat[i], metal)
    return found


@jit
def pool_heat(mass, t, metal):  # type: ignore[no-untyped-def]
    """Heat, J, of free water and its metal at ``t`` K: liquid at and above 0.01 °C, ice below."""
    if t >= TRIPLE_K:
        return (mass * HEAT_LIQUID + metal) * (t - TRIPLE_K)
    return (mass * HEAT_ICE + metal) * (t - TRIPLE_K) - mass * LATENT_FUSION


@jit
def pool_rates(mass, heat, p_water, par, t_node):  # type: ignore[no-untyped-def]
    """Evaporation, kg/s, and heating, W, of free water. ``par`` = transfer m³/s, heat inflow W/K, metal J/K."""
    m = max(mass, 0.0)
    t = pool_temperature(m, heat, par[2])
    psat = saturation_pressure(max(t, 180.0))
    drive = psat - p_water
    if drive > 0.0:
        drive *= m / (m + _POOL_FADE)
    rate = par[0] * drive / (R_WATER * t)
    vapour = LATENT_VAPOUR_TRIPLE + HEAT_VAPOUR * (t - TRIPLE_K)
    return rate, par[1] * (t_node - t) - rate * vapour


@jit
def reservoir_rate(mass, p, par):  # type: ignore[no-untyped-def]
    """Desorption, kg/s, and its slope by pressure: (m − held(p))/τ. ``par`` = τ s, capacity kg/Pa, power of the law."""
    held, slope = sorbed_at(p, par[1], par[2])
    return (mass - held) / par[0], -slope / par[0]
