"""The right-hand side of a network and its Jacobian, compiled: what flows through elements, what water gives off."""

from __future__ import annotations

import numpy as np

from rough_draw.core.engine.kernels import MOLAR_MASS, TUBE, element_flow, jit, pool_rates, reservoir_rate
from rough_draw.core.physics.gas import R_WATER, T_REF, R


@jit
def pressures(gas, per_amount, p):  # type: ignore[no-untyped-def]
    """Partial pressures, Pa, from amounts (pV at 293.15 K).

    A trace may be under zero by the tolerance: cut off here, it would have no slope where the Jacobian has one, and the
    steps would chatter on it.
    """
    for i in range(gas.shape[0]):
        for k in range(3):
            p[i, k] = gas[i, k] * per_amount[i]


@jit
def _element_rates(time, elements, volumes, out, jac, want_jac):  # type: ignore[no-untyped-def]
    """What flows through every element, at the pressures in ``out``."""
    # Arrays are taken out of their tuples once: inside the loops each look would count references.
    kind, ea, eb, par, temp = elements.kind, elements.a, elements.b, elements.par, elements.temperature
    slot_ab, slot_ba, account = elements.slot_ab, elements.slot_ba, elements.account
    per_amount, outside, p, gas, crossed = volumes.per_amount, volumes.outside, out.pressure, out.gas, out.crossed
    diag, off, jac_crossed = jac.diag, jac.off, jac.crossed
    q = np.empty(3)
    dqa = np.empty((3, 3))
    dqb = np.empty((3, 3))
    for e in range(kind.size):
        a, b, c = ea[e], eb[e], account[e]
        pb = p[b] if b >= 0 else outside[-1 - b]
        element_flow(kind[e], par[e], p[a], pb, temp[e], time, q, dqa, dqb, want_jac)
        scale = T_REF / temp[e] if kind[e] == TUBE else 1.0
        for k in range(3):
            v = q[k] * scale
            gas[a, k] -= v
            if b >= 0:
                gas[b, k] += v
            if c >= 0:
                crossed[c, k] = v
        if want_jac:
            fa = scale * per_amount[a]
            for k in range(3):
                for m in range(3):
                    d = dqa[k, m] * fa
                    diag[a, k, m] -= d
                    if c >= 0:
                        jac_crossed[c, k, m] = d
                    if b >= 0:
                        off[slot_ba[e], k, m] += d
                        d = dqb[k, m] * scale * per_amount[b]
                        off[slot_ab[e], k, m] -= d
                        diag[b, k, m] += d


@jit
def _water_rates(now, volumes, waters, out, jac, want_jac):  # type: ignore[no-untyped-def]
    """What free water and sorbed gas give off."""
    p, per_amount, temperature = out.pressure, volumes.per_amount, volumes.temperature
    pool, store, gas, diag, jac_pool, jac_store = now.pool, now.store, out.gas, jac.diag, jac.pool, jac.store
    pool_node, pool_par = waters.pool_node, waters.pool_par
    store_node, store_gas, store_par = waters.store_node, waters.store_gas, waters.store_par
    to_gas = R_WATER * T_REF
    for j in range(pool_node.size):
        i = pool_node[j]
        par, t_node = pool_par[j], temperature[i]
        m, h = pool[j, 0], pool[j, 1]
        rate, heat = pool_rates(m, h, p[i, 1], par, t_node)
        out.pool[j, 0] = -rate
        out.pool[j, 1] = heat
        gas[i, 1] += rate * to_gas
        if want_jac:
            em = 1e-4 * abs(m) + 1e-9
            eh = 1e-4 * abs(h) + 1e-3
            ep = 1e-4 * p[i, 1] + 1e-4
            r1, h1 = pool_rates(m + em, h, p[i, 1], par, t_node)
            r2, h2 = pool_rates(m, h + eh, p[i, 1], par, t_node)
            r3, h3 = pool_rates(m, h, p[i, 1] + ep, par, t_node)
            jac_pool[j, 0] = (r1 - rate) / em
            jac_pool[j, 1] = (r2 - rate) / eh
            jac_pool[j, 2] = (r3 - rate) / ep * per_amount[i]
            jac_pool[j, 3] = (h1 - heat) / em
            jac_pool[j, 4] = (h2 - heat) / eh
            jac_pool[j, 5] = (h3 - heat) / ep * per_amount[i]
            diag[i, 1, 1] += jac_pool[j, 2] * to_gas
    for j in range(store_node.size):
        i, k = store_node[j], store_gas[j]
        rate, slope = reservoir_rate(store[j], p[i, k], store_par[j])
        amount = R / MOLAR_MASS[k] * T_REF
        out.store[j] = -rate
        gas[i, k] += rate * amount
        if want_jac:
            jac_store[j] = -slope * per_amount[i]
            diag[i, k, k] -= jac_store[j] * amount


@jit
def rates(time, now, elements, volumes, waters, out, jac, want_jac):  # type: ignore[no-untyped-def]
    """Right-hand side of the whole network, and with ``want_jac`` its Jacobian in structured form."""
    pressures(now.gas, volumes.per_amount, out.pressure)
    out.gas[:] = 0.0
    if want_jac:
        jac.diag[:] = 0.0
        jac.off[:] = 0.0
    _element_rates(time, elements, volumes, out, jac, want_jac)
    _water_rates(now, volumes, waters, out, jac, want_jac)
