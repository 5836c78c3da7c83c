"""The compiled integrator: a Rosenbrock method on the network's own structure.

Rodas3 (Sandu et al. 1997): four stages, order 3 with an embedded order 2, L-stable and stiffly accurate;
linear, so no Newton iteration. Gas flows through the network are solved by sparse 3 × 3 blocks; free
water (mass, heat) and sorbed gas are eliminated locally. What passes each boundary is integrated with
the same stages, so that the balance is a real check.
"""

from __future__ import annotations

import numpy as np

from rough_draw.core.engine.kernels import _RW, T_REF, element_flow, jit, pool_rates, reservoir_rate
from rough_draw.core.engine.sparse import factor, solve

GAMMA = 0.5
_M = (28.97e-3, 18.015268e-3, 0.090)
_R_GAS = 8.314462618


@jit
def pressures(gas, per_amount, p):  # type: ignore[no-untyped-def]
    """Partial pressures, Pa, from amounts (pV at 293.15 K), never below zero."""
    for i in range(gas.shape[0]):
        for k in range(3):
            v = gas[i, k] * per_amount[i]
            p[i, k] = v if v > 0.0 else 0.0


@jit
def rates(time, gas, pool, res, elements, volumes, waters, out, jac, want_jac):  # type: ignore[no-untyped-def]
    """Right-hand side of the whole network, and with ``want_jac`` its Jacobian in structured form."""
    kind, ea, eb, par, temp, sa, sb, acc = elements
    per_amount, t_node, outside = volumes
    pool_node, pool_par, res_node, res_gas, res_par = waters
    dgas, dpool, dres, dacc, p = out
    diag, off, jpool, jres, jacc = jac
    pressures(gas, per_amount, p)
    dgas[:] = 0.0
    if want_jac:
        diag[:] = 0.0
        off[:] = 0.0
    q = np.empty(3)
    dqa = np.empty((3, 3))
    dqb = np.empty((3, 3))
    for e in range(kind.size):
        a, b = ea[e], eb[e]
        pb = p[b] if b >= 0 else outside[-1 - b]
        element_flow(kind[e], par[e], p[a], pb, temp[e], time, q, dqa, dqb, want_jac)
        scale = T_REF / temp[e] if kind[e] == 0 else 1.0
        for k in range(3):
            v = q[k] * scale
            dgas[a, k] -= v
            if b >= 0:
                dgas[b, k] += v
            if acc[e] >= 0:
                dacc[acc[e], k] = v
        if want_jac:
            fa = scale * per_amount[a]
            for k in range(3):
                for m in range(3):
                    d = dqa[k, m] * fa
                    diag[a, k, m] -= d
                    if acc[e] >= 0:
                        jacc[acc[e], k, m] = d
                    if b >= 0:
                        off[sb[e], k, m] += d
                        d = dqb[k, m] * scale * per_amount[b]
                        off[sa[e], k, m] -= d
                        diag[b, k, m] += d
    to_gas = _RW * T_REF
    for j in range(pool_node.size):
        i = pool_node[j]
        m, h = pool[j, 0], pool[j, 1]
        rate, heat = pool_rates(m, h, p[i, 1], pool_par[j], t_node[i])
        dpool[j, 0] = -rate
        dpool[j, 1] = heat
        dgas[i, 1] += rate * to_gas
        if want_jac:
            em = 1e-4 * abs(m) + 1e-9
            eh = 1e-4 * abs(h) + 1e-3
            ep = 1e-4 * p[i, 1] + 1e-4
            r1, h1 = pool_rates(m + em, h, p[i, 1], pool_par[j], t_node[i])
            r2, h2 = pool_rates(m, h + eh, p[i, 1], pool_par[j], t_node[i])
            r3, h3 = pool_rates(m, h, p[i, 1] + ep, pool_par[j], t_node[i])
            jpool[j, 0] = (r1 - rate) / em
            jpool[j, 1] = (r2 - rate) / eh
            jpool[j, 2] = (r3 - rate) / ep * per_amount[i]
            jpool[j, 3] = (h1 - heat) / em
            jpool[j, 4] = (h2 - heat) / eh
            jpool[j, 5] = (h3 - heat) / ep * per_amount[i]
            diag[i, 1, 1] += jpool[j, 2] * to_gas
    for j in range(res_node.size):
        i, k = res_node[j], res_gas[j]
        rate = reservoir_rate(res[j], p[i, k], res_par[j])
        amount = _R_GAS / _M[k] * T_REF
        dres[j] = -rate
        dgas[i, k] += rate * amount
        if want_jac:
            jres[j] = res_par[j, 1] / res_par[j, 0] * per_amount[i]
            diag[i, k, k] -= jres[j] * amount


@jit
def _stage(w, x_gas, x_pool, x_res, jac, waters, plan, inverse):  # type: ignore[no-untyped-def]
    """Solve (w − J) x = b in place, pools and reservoirs eliminated first."""
    _diag, off, jpool, jres, _jacc = jac
    pool_node, _pool_par, res_node, res_gas, res_par = waters
    order, ptr, node, into, out, _update_ptr, _update = plan
    to_gas = _RW * T_REF
    for j in range(pool_node.size):
        a00, a01 = w + jpool[j, 0], jpool[j, 1]
        a10, a11 = -jpool[j, 3], w - jpool[j, 4]
        det = a00 * a11 - a01 * a10
        y0 = (a11 * x_pool[j, 0] - a01 * x_pool[j, 1]) / det
        y1 = (a00 * x_pool[j, 1] - a10 * x_pool[j, 0]) / det
        x_gas[pool_node[j], 1] += to_gas * (jpool[j, 0] * y0 + jpool[j, 1] * y1)
    for j in range(res_node.size):
        k = res_gas[j]
        amount = _R_GAS / _M[k] * T_REF
        x_gas[res_node[j], k] += amount / res_par[j, 0] * x_res[j] / (w + 1.0 / res_par[j, 0])
    solve(off, inverse, order, ptr, node, into, out, x_gas)
    for j in range(pool_node.size):
        g = x_gas[pool_node[j], 1]
        b0 = x_pool[j, 0] - jpool[j, 2] * g
        b1 = x_pool[j, 1] + jpool[j, 5] * g
        a00, a01 = w + jpool[j, 0], jpool[j, 1]
        a10, a11 = -jpool[j, 3], w - jpool[j, 4]
        det = a00 * a11 - a01 * a10
        x_pool[j, 0] = (a11 * b0 - a01 * b1) / det
        x_pool[j, 1] = (a00 * b1 - a10 * b0) / det
    for j in range(res_node.size):
        g = x_gas[res_node[j], res_gas[j]]
        x_res[j] = (x_res[j] + jres[j] * g) / (w + 1.0 / res_par[j, 0])


@jit
def _prepare(w, jac, waters, plan, inverse):  # type: ignore[no-untyped-def]
    """Turn the stored Jacobian into the factors of (w − J)."""
    diag, off, jpool, jres, _jacc = jac
    pool_node, _pool_par, res_node, res_gas, res_par = waters
    order, ptr, _node, into, _out, update_ptr, update = plan
    to_gas = _RW * T_REF
    for i in range(diag.shape[0]):
        for r in range(3):
            for c in range(3):
                diag[i, r, c] = -diag[i, r, c]
            diag[i, r, r] += w
    for s in range(off.shape[0]):
        for r in range(3):
            for c in range(3):
                off[s, r, c] = -off[s, r, c]
    for j in range(pool_node.size):
        a00, a01 = w + jpool[j, 0], jpool[j, 1]
        a10, a11 = -jpool[j, 3], w - jpool[j, 4]
        det = a00 * a11 - a01 * a10
        y0 = (-a11 * jpool[j, 2] - a01 * jpool[j, 5]) / det
        y1 = (a00 * jpool[j, 5] + a10 * jpool[j, 2]) / det
        diag[pool_node[j], 1, 1] -= to_gas * (jpool[j, 0] * y0 + jpool[j, 1] * y1)
    for j in range(res_node.size):
        k = res_gas[j]
        amount = _R_GAS / _M[k] * T_REF
        diag[res_node[j], k, k] -= amount / res_par[j, 0] * jres[j] / (w + 1.0 / res_par[j, 0])
    factor(diag, off, inverse, order, ptr, into, update_ptr, update)


@jit
def integrate(  # type: ignore[no-untyped-def]
    t0, t1, gas0, pool0, res0, h0, rtol, elements, volumes, waters, plan, slots, boundaries, max_steps, watch, level
):
    """Run from ``t0`` to ``t1`` s. Returns times, gas, pool, reservoir and boundary histories, and a status.

    Status 0: done; 1: ran out of steps; 2: the step fell below 1e-9 s. With nodes in ``watch`` the run ends early,
    as done, once every one of them is under ``level`` Pa.
    """
    n, np_, nr = gas0.shape[0], pool0.shape[0], res0.shape[0]
    per_amount, _t_node, _outside = volumes
    kind, ea, _eb, _par, _temp, _sa, _sb, acc = elements
    has_boundary = boundaries > 0
    coef_a = ((0.0, 0.0, 0.0), (0.0, 0.0, 0.0), (2.0, 0.0, 0.0), (2.0, 0.0, 1.0))
    coef_c = ((0.0, 0.0, 0.0), (4.0, 0.0, 0.0), (1.0, -1.0, 0.0), (1.0, -1.0, -8.0 / 3.0))
    coef_m = (2.0, 0.0, 1.0, 1.0)
    size = 256
    ts = np.empty(size)
    hg = np.empty((size, n, 3))
    hp = np.empty((size, np_, 2))
    hr = np.empty((size, nr))
    ha = np.empty((size, boundaries, 3))
    gas, pool, res = gas0.copy(), pool0.copy(), res0.copy()
    total = np.zeros((boundaries, 3))
    kg = np.zeros((4, n, 3))
    kp = np.zeros((4, np_, 2))
    kr = np.zeros((4, nr))
    ka = np.zeros((4, boundaries, 3))
    yg, yp, yr = gas.copy(), pool.copy(), res.copy()
    out = (np.zeros((n, 3)), np.zeros((np_, 2)), np.zeros(nr), np.zeros((boundaries, 3)), np.zeros((n, 3)))
    dgas, dpool, dres, dacc, _p = out
    jac = (np.zeros((n, 3, 3)), np.zeros((slots, 3, 3)), np.zeros((np_, 6)), np.zeros(nr), np.zeros((boundaries, 3, 3)))
    jacc = jac[4]
    bnode = np.zeros(boundaries, dtype=np.int64)
    for e in range(kind.size):
        if acc[e] >= 0:
            bnode[acc[e]] = ea[e]
    inverse = np.zeros((n, 3, 3))
    t = t0
    h = min(h0, t1 - t0)
    count = 0
    ts[0] = t
    hg[0], hp[0], hr[0], ha[0] = gas, pool, res, total
    count = 1
    status = 0
    tries = 0
    while t < t1 - 1e-9:
        tries += 1
        if tries > max_steps:
            status = 1
            break
        if h < 1e-9:
            status = 2
            break
        if t + h > t1:
            h = t1 - t
        w = 1.0 / (GAMMA * h)
        rates(t + 0.5 * h, gas, pool, res, elements, volumes, waters, out, jac, True)
        _prepare(w, jac, waters, plan, inverse)
        for s in range(4):
            if s >= 2:
                yg[:] = gas
                yp[:] = pool
                yr[:] = res
                for j in range(s):
                    c = coef_a[s][j]
                    if c != 0.0:
                        yg += c * kg[j]
                        yp += c * kp[j]
                        yr += c * kr[j]
                rates(t + 0.5 * h, yg, yp, yr, elements, volumes, waters, out, jac, False)
            kg[s], kp[s], kr[s] = dgas, dpool, dres
            for j in range(s):
                c = coef_c[s][j] / h
                if c != 0.0:
                    kg[s] += c * kg[j]
                    kp[s] += c * kp[j]
                    kr[s] += c * kr[j]
            _stage(w, kg[s], kp[s], kr[s], jac, waters, plan, inverse)
            if has_boundary:
                for b in range(boundaries):
                    i = bnode[b]
                    for k in range(3):
                        v = dacc[b, k]
                        for m in range(3):
                            v += jacc[b, k, m] * kg[s, i, m]
                        for j in range(s):
                            v += coef_c[s][j] / h * ka[j, b, k]
                        ka[s, b, k] = v / w
        err = 0.0
        bad = False
        for i in range(n):
            sum_p = (gas[i, 0] + gas[i, 1] + gas[i, 2]) * per_amount[i]
            for k in range(3):
                new = gas[i, k]
                for s in range(4):
                    new += coef_m[s] * kg[s, i, k]
                yg[i, k] = new
                pn = new * per_amount[i]
                old = gas[i, k] * per_amount[i]
                tol = 2e-3 + rtol * (max(abs(old), abs(pn)) + 0.05 * sum_p)
                # A trace may undershoot zero by the tolerance; only going further below is refused.
                if (pn < -tol and pn < old) or not np.isfinite(pn):
                    bad = True
                err = max(err, abs(kg[3, i, k] * per_amount[i]) / tol)
        for j in range(np_):
            for k in range(2):
                new = pool[j, k]
                for s in range(4):
                    new += coef_m[s] * kp[s, j, k]
                yp[j, k] = new
                floor = 1e-6 if k == 0 else 2.0
                err = max(err, abs(kp[3, j, k]) / (floor + rtol * max(abs(pool[j, k]), abs(new))))
            if yp[j, 0] < -1e-8 and yp[j, 0] < pool[j, 0]:
                bad = True
        for j in range(nr):
            new = res[j]
            for s in range(4):
                new += coef_m[s] * kr[s, j]
            yr[j] = new
            err = max(err, abs(kr[3, j]) / (1e-9 + rtol * max(abs(res[j]), abs(new))))
        if bad:
            h *= 0.25
            continue
        grow = 5.0 if err < 1e-6 else min(5.0, max(0.2, 0.85 * err ** (-1.0 / 3.0)))
        if err > 1.0:
            h *= min(grow, 0.7)
            continue
        t += h
        gas[:] = yg
        pool[:] = yp
        for j in range(np_):
            # An empty pool may not be left a little under nothing: it would creep, and hold every later step back.
            if pool[j, 0] < 0.0:
                pool[j, 0] = 0.0
        res[:] = yr
        for s in range(4):
            total += coef_m[s] * ka[s]
        if count == size:
            size *= 2
            ts2, hg2, hp2 = np.empty(size), np.empty((size, n, 3)), np.empty((size, np_, 2))
            hr2, ha2 = np.empty((size, nr)), np.empty((size, boundaries, 3))
            ts2[:count], hg2[:count], hp2[:count], hr2[:count], ha2[:count] = ts, hg, hp, hr, ha
            ts, hg, hp, hr, ha = ts2, hg2, hp2, hr2, ha2
        ts[count] = t
        hg[count], hp[count], hr[count], ha[count] = gas, pool, res, total
        count += 1
        h *= grow
        if watch.size > 0:
            under = True
            for i in watch:
                if (gas[i, 0] + gas[i, 1] + gas[i, 2]) * per_amount[i] > level:
                    under = False
                    break
            if under:
                break
    return ts[:count], hg[:count], hp[:count], hr[:count], ha[:count], status, h
