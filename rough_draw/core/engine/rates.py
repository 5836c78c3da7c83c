"""The right-hand side of a network and its Jacobian, compiled: what flows through elements, what water gives off."""

from __future__ import annotations

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
def _add_block(blocks, s, factor, each, own):  # type: ignore[no-untyped-def]
    """Add slopes to block ``s``: those of a row are alike, but for its own gas's."""
    e0, e1, e2 = factor * each[0], factor * each[1], factor * each[2]
    blocks[s, 0, 0] += e0 + factor * own[0]
    blocks[s, 0, 1] += e0
    blocks[s, 0, 2] += e0
    blocks[s, 1, 0] += e1
    blocks[s, 1, 1] += e1 + factor * own[1]
    blocks[s, 1, 2] += e1
    blocks[s, 2, 0] += e2
    blocks[s, 2, 1] += e2
    blocks[s, 2, 2] += e2 + factor * own[2]


@jit
def _element_rates(time, elements, volumes, out, jac, want_jac):  # type: ignore[no-untyped-def]
    """What flows through every element, at the pressures in ``out``."""
    # Arrays are taken out of their tuples once: inside the loops each look would count references.
    kind, ea, eb, par, temp = elements.kind, elements.a, elements.b, elements.par, elements.temperature
    alone, slot_ab, slot_ba, account = elements.alone, elements.slot_ab, elements.slot_ba, elements.account
    per_amount, outside, p, gas, crossed = volumes.per_amount, volumes.outside, out.pressure, out.gas, out.crossed
    diag, off, jac_crossed = jac.diag, jac.off, jac.crossed
    for e in range(kind.size):
        a, b, c = ea[e], eb[e], account[e]
        at_a = (p[a, 0], p[a, 1], p[a, 2])
        at_b = (p[b, 0], p[b, 1], p[b, 2]) if b >= 0 else (outside[-1 - b, 0], outside[-1 - b, 1], outside[-1 - b, 2])
        found = element_flow(kind[e], par, alone, e, at_a, at_b, temp[e], time, want_jac)
        scale = T_REF / temp[e] if kind[e] == TUBE else 1.0
        q0, q1, q2 = scale * found.q[0], scale * found.q[1], scale * found.q[2]
        gas[a, 0] -= q0
        gas[a, 1] -= q1
        gas[a, 2] -= q2
        if b >= 0:
            gas[b, 0] += q0
            gas[b, 1] += q1
            gas[b, 2] += q2
        if c >= 0:
            crossed[c, 0], crossed[c, 1], crossed[c, 2] = q0, q1, q2
        if want_jac:
            fa = scale * per_amount[a]
            _add_block(diag, a, -fa, found.each_a, found.own_a)
            if c >= 0:
                _add_block(jac_crossed, c, fa, found.each_a, found.own_a)
            if b >= 0:
                _add_block(off, slot_ba[e], fa, found.each_a, found.own_a)
                fb = scale * per_amount[b]
                _add_block(off, slot_ab[e], -fb, found.each_b, found.own_b)
                _add_block(diag, b, fb, found.each_b, found.own_b)


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
        jac.crossed[:] = 0.0
    _element_rates(time, elements, volumes, out, jac, want_jac)
    _water_rates(now, volumes, waters, out, jac, want_jac)
