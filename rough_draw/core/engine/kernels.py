"""Compiled rate laws of the network: flow through each element, evaporation and sorption, with derivatives.

The scalar relations of `gas`, `water` and `conductance` are registered with numba as they stand, so there
is one source for what the tests check and what the engine runs.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numba import njit
from numba.extending import register_jitable

from rough_draw.core.physics.aperture import even_difference, hole_at, hole_between, molecular_aperture, nozzle
from rough_draw.core.physics.conductance import (
    molecular_tube,
    tube_between,
    tube_passage,
    turbulent_throughput,
    viscous_tube,
)
from rough_draw.core.physics.gas import (
    M_AIR,
    M_REFRIGERANT,
    M_WATER,
    R_WATER,
    T_REF,
    mean_speed,
    mutual_diffusion,
)
from rough_draw.core.physics.regime import Passage, air_equivalent, carried, meetings, slip_factor, with_gas
from rough_draw.core.physics.slot import (
    molecular_slot,
    parallel_plates,
    slot_between,
    slot_drag,
    slot_passage,
    viscous_slot,
)
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
    with_gas,
    meetings,
    carried,
    even_difference,
    nozzle,
    molecular_aperture,
    hole_at,
    hole_between,
    molecular_tube,
    slip_factor,
    turbulent_throughput,
    viscous_tube,
    tube_passage,
    tube_between,
    parallel_plates,
    slot_drag,
    viscous_slot,
    molecular_slot,
    slot_passage,
    slot_between,
    sorbed_at,
    saturation_ice,
    saturation_liquid,
    saturation_pressure,
):
    register_jitable(error_model="numpy")(_relation)

TUBE, PUMP, LEAK, SOURCE = 0, 1, 2, 3

MOLAR_MASS = (M_AIR, M_WATER, M_REFRIGERANT)
"""By gas, in the order of `network.Gas`."""
WATER_LIGHTER, REFRIGERANT_LIGHTER = math.sqrt(M_AIR / M_WATER), math.sqrt(M_AIR / M_REFRIGERANT)
"""How much faster than air's the molecules of a gas are, and with them its molecular conductance."""
_POOL_FADE = 2.0e-6
"""Mass, kg, below which the last film of free water fades smoothly to nothing."""

jit = njit(cache=True, error_model="numpy", nogil=True)
brief = njit(cache=True, error_model="numpy")
"""For what takes a few microseconds: who lets other threads in meanwhile waits a thousand times that for its turn."""


@brief
def passages(kind, par, temp):  # type: ignore[no-untyped-def]
    """What of each element (E) does not change while it is run: (E, 8), a `Passage` each; nothing but tubes has one."""
    found = np.zeros((kind.size, 8))
    for e in range(kind.size):
        if kind[e] == TUBE:
            bore, length, width = par[e, 0], par[e, 1], par[e, 5]
            if width > 0.0:
                one = slot_passage(bore, width, length, temp[e])
            else:
                one = tube_passage(bore, length, temp[e])
            for k in range(8):
                found[e, k] = one[k]
    return found


@jit
def _between(passage, size, total_a, total_b, gas):  # type: ignore[no-untyped-def]
    """A passage (bore, length, width) with its gas between two ends, whichever of them is upstream."""
    up, down = (total_a, total_b) if total_a >= total_b else (total_b, total_a)
    if size[2] > 0.0:
        return slot_between(passage, size[0], size[1], up, down)
    return tube_between(passage, size[0], size[1], up, down, gas)


@jit
def _lift(one_way, crack, difference):  # type: ignore[no-untyped-def]
    """How far a passage is open (0–1) and the slope of that: a one-way one lifts over half its cracking pressure."""
    if one_way <= 0.0:
        return 1.0, 0.0
    width = 0.5 * crack + 1.0
    x = (difference - crack) / width
    if x <= 0.0:
        return 0.0, 0.0
    if x < 1.0:
        return x * x * (3.0 - 2.0 * x), 6.0 * x * (1.0 - x) / width
    return 1.0, 0.0


class Flow(NamedTuple):
    """What flows through an element, by gas, and its slopes by the pressures at its ends.

    ``q`` throughput from a to b; ``each_a`` its slope by any gas's pressure at a, ``own_a`` what its own gas's has
    beyond that; ``each_b``, ``own_b`` the same at b. Not arrays: a view of one for each element costs as much as what
    flows through it.
    """

    q: tuple[float, float, float]
    each_a: tuple[float, float, float]
    own_a: tuple[float, float, float]
    each_b: tuple[float, float, float]
    own_b: tuple[float, float, float]


NONE = (0.0, 0.0, 0.0)


@jit
def _tube(par, alone, e, a, b, t, want_jac):  # type: ignore[no-untyped-def]
    """What flows through a tube, as a `Flow`, between the partial pressures ``a`` and ``b``.

    Its row ``e`` of ``par`` = bore, length, count, one_way, crack, width, and the viscosities of the three gases at
    ``t``; with a width it is a slot, whose gap is the bore. Gas is carried with the composition of the upstream end
    and diffuses down its own gradient. Derivatives of the mixture's properties with composition are left out of the
    Jacobian (they are small); all else is in.
    """
    a0, a1, a2 = a
    b0, b1, b2 = b
    total_a, total_b = a0 + a1 + a2, b0 + b1 + b2
    diff = total_a - total_b
    lift, lift_slope = _lift(par[e, 3], par[e, 4], diff)
    forward = total_a >= total_b
    up = total_a if forward else total_b
    passes = lift * par[e, 2]
    if passes == 0.0 or up < 1e-9:
        return Flow(NONE, NONE, NONE, NONE, NONE)
    per = 1.0 / up
    x0, x1, x2 = (a0 * per, a1 * per, a2 * per) if forward else (b0 * per, b1 * per, b2 * per)
    m_mix = x0 * M_AIR + x1 * M_WATER + x2 * M_REFRIGERANT
    eta = x0 * par[e, 6] + x1 * par[e, 7] + x2 * par[e, 8]
    known = Passage(
        *(alone[e, 0], alone[e, 1], alone[e, 2], alone[e, 3], alone[e, 4], alone[e, 5], alone[e, 6], alone[e, 7])
    )
    passage = with_gas(known, m_mix, eta)
    size = (par[e, 0], par[e, 1], par[e, 5])
    gas = (m_mix, eta, t)
    conv, f_mol, scale = _between(passage, size, total_a, total_b, gas)
    bulk, mol = passes * scale * conv, passes * scale * f_mol
    # The molecular conductance of each gas by itself.
    c0, c1, c2 = known.molecular, known.molecular * WATER_LIGHTER, known.molecular * REFRIGERANT_LIGHTER
    moved = bulk * diff
    q0 = moved * x0 + mol * c0 * (a0 - b0)
    q1 = moved * x1 + mol * c1 * (a1 - b1)
    q2 = moved * x2 + mol * c2 * (a2 - b2)
    if not want_jac:
        return Flow((q0, q1, q2), NONE, NONE, NONE, NONE)
    eps = 1e-5 * up
    conv_a, f_a, scale_a = _between(passage, size, total_a + eps, total_b, gas)
    conv_b, f_b, scale_b = _between(passage, size, total_a, total_b + eps, gas)
    slope = 1.0 / eps
    bulk_da, bulk_db = (passes * scale_a * conv_a - bulk) * slope, (passes * scale_b * conv_b - bulk) * slope
    mol_da, mol_db = (passes * scale_a * f_a - mol) * slope, (passes * scale_b * f_b - mol) * slope
    opens = lift_slope / lift
    # More of one gas upstream is less of the others in what is carried.
    mixed = moved * per
    mixed_a, mixed_b = (mixed, 0.0) if forward else (0.0, mixed)
    all_a, all_b = bulk_da * diff + bulk - mixed_a, bulk_db * diff - bulk - mixed_b
    return Flow(
        (q0, q1, q2),
        (
            all_a * x0 + mol_da * c0 * (a0 - b0) + opens * q0,
            all_a * x1 + mol_da * c1 * (a1 - b1) + opens * q1,
            all_a * x2 + mol_da * c2 * (a2 - b2) + opens * q2,
        ),
        (mol * c0 + mixed_a, mol * c1 + mixed_a, mol * c2 + mixed_a),
        (
            all_b * x0 + mol_db * c0 * (a0 - b0) - opens * q0,
            all_b * x1 + mol_db * c1 * (a1 - b1) - opens * q1,
            all_b * x2 + mol_db * c2 * (a2 - b2) - opens * q2,
        ),
        (mixed_b - mol * c0, mixed_b - mol * c1, mixed_b - mol * c2),
    )


@jit
def _leak(most, wet, a, b):  # type: ignore[no-untyped-def]
    """What comes in through a leak that is choked at ``most`` Pa·m³/s, of which ``wet`` is water; ``b`` is outside."""
    outside = b[0] + b[1] + b[2]
    r = (a[0] + a[1] + a[2]) / outside
    if r < 0.528:
        flow, slope = most, 0.0
    else:
        # Elliptic fall of an orifice from choked to no flow (subcritical orifice approximation), made
        # straight through the last twentieth so that pressures even out without a kink.
        s = (r - 0.528) / 0.472
        if s < 0.95:
            root = math.sqrt(1.0 - s * s)
            flow = most * root
            slope = -most * s / root / (0.472 * outside)
        else:
            end = math.sqrt(1.0 - 0.95 * 0.95)
            flow = most * end * (1.0 - s) / 0.05
            slope = -most * end / 0.05 / (0.472 * outside)
    dry = 1.0 - wet
    return Flow((-flow * dry, -flow * wet, 0.0), (-slope * dry, -slope * wet, 0.0), NONE, NONE, NONE)


@jit
def _source(gas, gives):  # type: ignore[no-untyped-def]
    """What a surface gives off into a: of one gas, whatever the pressure."""
    q = (-gives if gas == 0.0 else 0.0, -gives if gas == 1.0 else 0.0, -gives if gas == 2.0 else 0.0)
    return Flow(q, NONE, NONE, NONE, NONE)


@jit
def element_flow(kind, par, alone, e, a, b, t, time, want_jac):  # type: ignore[no-untyped-def]
    """What flows through element ``e`` from a to b, as a `Flow`; see the module constants for the kinds.

    Rows of ``par``: of a pump its speed and its ultimates of air, water, refrigerant; of a leak its choked throughput
    and the share of water outside; of a source its gas, what it gives steadily, what while it is fresh, how fast that
    fades.
    """
    if kind == TUBE:
        return _tube(par, alone, e, a, b, t, want_jac)
    if kind == PUMP:
        speed = par[e, 0]
        q = (speed * (a[0] - par[e, 1]), speed * (a[1] - par[e, 2]), speed * (a[2] - par[e, 3]))
        return Flow(q, NONE, (speed, speed, speed), NONE, NONE)
    if kind == LEAK:
        return _leak(par[e, 0], par[e, 1], a, b)
    return _source(par[e, 0], par[e, 1] + par[e, 2] * math.exp(-time / par[e, 3]))


@brief
def flows(elements, p, outside, time):  # type: ignore[no-untyped-def]
    """Throughput of each gas through every element (elements × 3), Pa·m³/s at 293.15 K, at node pressures ``p``."""
    kind, ea, eb, par, temp = elements.kind, elements.a, elements.b, elements.par, elements.temperature
    alone = elements.alone
    out = np.zeros((kind.size, 3))
    for e in range(kind.size):
        i, j = ea[e], eb[e]
        b = (p[j, 0], p[j, 1], p[j, 2]) if j >= 0 else (outside[-1 - j, 0], outside[-1 - j, 1], outside[-1 - j, 2])
        found = element_flow(kind[e], par, alone, e, (p[i, 0], p[i, 1], p[i, 2]), b, temp[e], time, False)
        scale = T_REF / temp[e] if kind[e] == TUBE else 1.0
        out[e, 0], out[e, 1], out[e, 2] = scale * found.q[0], scale * found.q[1], scale * found.q[2]
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


@brief
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
