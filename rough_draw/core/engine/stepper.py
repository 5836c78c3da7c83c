"""The compiled integrator: a Rosenbrock method on the network's own structure.

Rodas3 (Sandu et al. 1997): four stages, order 3 with an embedded order 2, L-stable and stiffly accurate;
linear, so no Newton iteration. Gas flows through the network are solved by sparse 3 × 3 blocks; free
water (mass, heat) and sorbed gas are eliminated locally. What passes each boundary is integrated with
the same stages, so that the balance is a real check.
"""

from __future__ import annotations

import numpy as np

from rough_draw.core.engine.arrays import Amounts, History, Jacobian, Rates, Stages
from rough_draw.core.engine.kernels import MOLAR_MASS, jit
from rough_draw.core.engine.rates import rates
from rough_draw.core.engine.sparse import factor, solve
from rough_draw.core.physics.gas import R_WATER, T_REF, R

GAMMA = 0.5
DONE, TOO_MANY_STEPS, STEP_TOO_SMALL = 0, 1, 2
# Coefficients of Rodas3: of the stages' arguments, of their right-hand sides, of the step and its error.
COEF_A = ((0.0, 0.0, 0.0), (0.0, 0.0, 0.0), (2.0, 0.0, 0.0), (2.0, 0.0, 1.0))
COEF_C = ((0.0, 0.0, 0.0), (4.0, 0.0, 0.0), (1.0, -1.0, 0.0), (1.0, -1.0, -8.0 / 3.0))
COEF_M = (2.0, 0.0, 1.0, 1.0)


@jit
def _stage(w, x_gas, x_pool, x_store, jac, waters, plan, inverse):  # type: ignore[no-untyped-def]
    """Solve (w − J) x = b in place, pools and reservoirs eliminated first."""
    jpool, jstore = jac.pool, jac.store
    to_gas = R_WATER * T_REF
    for j in range(waters.pool_node.size):
        a00, a01 = w + jpool[j, 0], jpool[j, 1]
        a10, a11 = -jpool[j, 3], w - jpool[j, 4]
        det = a00 * a11 - a01 * a10
        y0 = (a11 * x_pool[j, 0] - a01 * x_pool[j, 1]) / det
        y1 = (a00 * x_pool[j, 1] - a10 * x_pool[j, 0]) / det
        x_gas[waters.pool_node[j], 1] += to_gas * (jpool[j, 0] * y0 + jpool[j, 1] * y1)
    for j in range(waters.store_node.size):
        k, tau = waters.store_gas[j], waters.store_par[j, 0]
        amount = R / MOLAR_MASS[k] * T_REF
        x_gas[waters.store_node[j], k] += amount / tau * x_store[j] / (w + 1.0 / tau)
    solve(jac.off, inverse, plan.order, plan.ptr, plan.node, plan.into, plan.out, x_gas)
    for j in range(waters.pool_node.size):
        g = x_gas[waters.pool_node[j], 1]
        b0 = x_pool[j, 0] - jpool[j, 2] * g
        b1 = x_pool[j, 1] + jpool[j, 5] * g
        a00, a01 = w + jpool[j, 0], jpool[j, 1]
        a10, a11 = -jpool[j, 3], w - jpool[j, 4]
        det = a00 * a11 - a01 * a10
        x_pool[j, 0] = (a11 * b0 - a01 * b1) / det
        x_pool[j, 1] = (a00 * b1 - a10 * b0) / det
    for j in range(waters.store_node.size):
        g = x_gas[waters.store_node[j], waters.store_gas[j]]
        x_store[j] = (x_store[j] + jstore[j] * g) / (w + 1.0 / waters.store_par[j, 0])


@jit
def _prepare(w, jac, waters, plan, inverse):  # type: ignore[no-untyped-def]
    """Turn the stored Jacobian into the factors of (w − J)."""
    diag, off, jpool = jac.diag, jac.off, jac.pool
    to_gas = R_WATER * T_REF
    for i in range(diag.shape[0]):
        for r in range(3):
            for c in range(3):
                diag[i, r, c] = -diag[i, r, c]
            diag[i, r, r] += w
    for s in range(off.shape[0]):
        for r in range(3):
            for c in range(3):
                off[s, r, c] = -off[s, r, c]
    for j in range(waters.pool_node.size):
        a00, a01 = w + jpool[j, 0], jpool[j, 1]
        a10, a11 = -jpool[j, 3], w - jpool[j, 4]
        det = a00 * a11 - a01 * a10
        y0 = (-a11 * jpool[j, 2] - a01 * jpool[j, 5]) / det
        y1 = (a00 * jpool[j, 5] + a10 * jpool[j, 2]) / det
        diag[waters.pool_node[j], 1, 1] -= to_gas * (jpool[j, 0] * y0 + jpool[j, 1] * y1)
    for j in range(waters.store_node.size):
        k, tau = waters.store_gas[j], waters.store_par[j, 0]
        amount = R / MOLAR_MASS[k] * T_REF
        diag[waters.store_node[j], k, k] -= amount / tau * jac.store[j] / (w + 1.0 / tau)
    factor(diag, off, inverse, plan.order, plan.ptr, plan.into, plan.update_ptr, plan.update)


# Plain loops: an expression on whole arrays takes the compiler longer than all the rest of a function.
@jit
def _copy(x, y):  # type: ignore[no-untyped-def]
    """y into x, both (n, m)."""
    for i in range(x.shape[0]):
        for j in range(x.shape[1]):
            x[i, j] = y[i, j]


@jit
def _copy1(x, y):  # type: ignore[no-untyped-def]
    """y into x, both (n,)."""
    for i in range(x.size):
        x[i] = y[i]


@jit
def _add(x, c, y):  # type: ignore[no-untyped-def]
    """x + c y into x, both (n, m)."""
    for i in range(x.shape[0]):
        for j in range(x.shape[1]):
            x[i, j] += c * y[i, j]


@jit
def _add1(x, c, y):  # type: ignore[no-untyped-def]
    """x + c y into x, both (n,)."""
    for i in range(x.size):
        x[i] += c * y[i]


@jit
def _moved(now, y, k, s):  # type: ignore[no-untyped-def]
    """Where the right-hand side of stage ``s`` is taken: into ``y``."""
    gas, pool, store = y.gas, y.pool, y.store
    _copy(gas, now.gas)
    _copy(pool, now.pool)
    _copy1(store, now.store)
    for j in range(s):
        c = COEF_A[s][j]
        if c != 0.0:
            _add(gas, c, k.gas[j])
            _add(pool, c, k.pool[j])
            _add1(store, c, k.store[j])


@jit
def _crossing(h, w, s, k, out, jac, crosses):  # type: ignore[no-untyped-def]
    """Stage ``s`` of what crosses each boundary, at its node ``crosses``."""
    flow, slope, k_gas, k_crossed = out.crossed, jac.crossed, k.gas, k.crossed
    for b in range(crosses.size):
        i = crosses[b]
        for g in range(3):
            v = flow[b, g]
            for m in range(3):
                v += slope[b, g, m] * k_gas[s, i, m]
            for j in range(s):
                v += COEF_C[s][j] / h * k_crossed[j, b, g]
            k_crossed[s, b, g] = v / w


@jit
def _stages(t, h, now, y, k, elements, volumes, waters, plan, out, jac, inverse, crosses):  # type: ignore[no-untyped-def]
    """The four stages of one step from ``now``, into ``k``."""
    w = 1.0 / (GAMMA * h)
    rates(t + 0.5 * h, now, elements, volumes, waters, out, jac, True)
    _prepare(w, jac, waters, plan, inverse)
    for s in range(4):
        if s >= 2:
            _moved(now, y, k, s)
            rates(t + 0.5 * h, y, elements, volumes, waters, out, jac, False)
        gas, pool, store = k.gas[s], k.pool[s], k.store[s]
        _copy(gas, out.gas)
        _copy(pool, out.pool)
        _copy1(store, out.store)
        for j in range(s):
            c = COEF_C[s][j] / h
            if c != 0.0:
                _add(gas, c, k.gas[j])
                _add(pool, c, k.pool[j])
                _add1(store, c, k.store[j])
        _stage(w, gas, pool, store, jac, waters, plan, inverse)
        _crossing(h, w, s, k, out, jac, crosses)


@jit
def _weighed(now, y, k, per_amount, rtol):  # type: ignore[no-untyped-def]
    """The step's end into ``y``; its error in tolerances, or −1 where it must be refused outright."""
    gas, pool, store = now.gas, now.pool, now.store
    y_gas, y_pool, y_store = y.gas, y.pool, y.store
    k_gas, k_pool, k_store = k.gas, k.pool, k.store
    err = 0.0
    bad = False
    for i in range(gas.shape[0]):
        sum_p = (gas[i, 0] + gas[i, 1] + gas[i, 2]) * per_amount[i]
        for g in range(3):
            new = gas[i, g]
            for s in range(4):
                new += COEF_M[s] * k_gas[s, i, g]
            y_gas[i, g] = new
            pn = new * per_amount[i]
            old = gas[i, g] * per_amount[i]
            tol = 2e-3 + rtol * (max(abs(old), abs(pn)) + 0.05 * sum_p)
            # A trace may undershoot zero by the tolerance; only going markedly further below is refused: one that
            # drifts there with the rest would hold every step back, however small.
            if (pn < -tol and pn < old - 0.1 * tol) or not np.isfinite(pn):
                bad = True
            err = max(err, abs(k_gas[3, i, g] * per_amount[i]) / tol)
    for j in range(pool.shape[0]):
        for g in range(2):
            new = pool[j, g]
            for s in range(4):
                new += COEF_M[s] * k_pool[s, j, g]
            y_pool[j, g] = new
            floor = 1e-6 if g == 0 else 2.0
            err = max(err, abs(k_pool[3, j, g]) / (floor + rtol * max(abs(pool[j, g]), abs(new))))
        if y_pool[j, 0] < -1e-8 and y_pool[j, 0] < pool[j, 0]:
            bad = True
    for j in range(store.size):
        new = store[j]
        for s in range(4):
            new += COEF_M[s] * k_store[s, j]
        y_store[j] = new
        err = max(err, abs(k_store[3, j]) / (1e-9 + rtol * max(abs(store[j]), abs(new))))
    return -1.0 if bad else err


@jit
def _taken(now, y):  # type: ignore[no-untyped-def]
    """Take the step's end over."""
    _copy(now.gas, y.gas)
    _copy(now.pool, y.pool)
    _copy1(now.store, y.store)
    for j in range(now.pool.shape[0]):
        # An empty pool may not be left a little under nothing: it would creep, and hold every later step back.
        if now.pool[j, 0] < 0.0:
            now.pool[j, 0] = 0.0


@jit
def _history(size, now, boundaries):  # type: ignore[no-untyped-def]
    """Room for ``size`` moments."""
    n, pools, stores = now.gas.shape[0], now.pool.shape[0], now.store.shape[0]
    return History(
        np.empty(size),
        np.empty((size, n, 3)),
        np.empty((size, pools, 2)),
        np.empty((size, stores)),
        np.empty((size, boundaries, 3)),
    )


@jit
def _noted(history, count, t, gas, pool, store, total):  # type: ignore[no-untyped-def]
    """Note a moment."""
    history.time[count] = t
    _copy(history.gas[count], gas)
    _copy(history.pool[count], pool)
    _copy1(history.store[count], store)
    _copy(history.crossed[count], total)


@jit
def _longer(old, now, boundaries):  # type: ignore[no-untyped-def]
    """The same history with twice the room."""
    made = _history(2 * old.time.size, now, boundaries)
    for i in range(old.time.size):
        _noted(made, i, old.time[i], old.gas[i], old.pool[i], old.store[i], old.crossed[i])
    return made


@jit
def _all_under(now, per_amount, watch, level):  # type: ignore[no-untyped-def]
    """Whether every watched node is at or under ``level`` Pa; False where none is watched."""
    for i in watch:
        if (now.gas[i, 0] + now.gas[i, 1] + now.gas[i, 2]) * per_amount[i] > level:
            return False
    return watch.size > 0


@jit
def integrate(  # type: ignore[no-untyped-def]
    t0, t1, start, h0, rtol, elements, volumes, waters, plan, slots, crosses, max_steps, watch, level
):
    """Run from ``t0`` to ``t1`` s. Returns the history, how much of it is filled, a status, and the step
    that would come next.

    Status `DONE`, `TOO_MANY_STEPS`, or `STEP_TOO_SMALL` (under 1e-9 s). ``crosses`` (B,) is the node of each boundary
    element. With nodes in ``watch`` the run ends early, as done, once every one of them is under ``level`` Pa.
    """
    n, pools, stores, boundaries = start.gas.shape[0], start.pool.shape[0], start.store.shape[0], crosses.size
    now = Amounts(start.gas.copy(), start.pool.copy(), start.store.copy())
    y = Amounts(start.gas.copy(), start.pool.copy(), start.store.copy())
    k = Stages(np.zeros((4, n, 3)), np.zeros((4, pools, 2)), np.zeros((4, stores)), np.zeros((4, boundaries, 3)))
    out = Rates(np.zeros((n, 3)), np.zeros((pools, 2)), np.zeros(stores), np.zeros((boundaries, 3)), np.zeros((n, 3)))
    jac = Jacobian(
        np.zeros((n, 3, 3)),
        np.zeros((slots, 3, 3)),
        np.zeros((pools, 6)),
        np.zeros(stores),
        np.zeros((boundaries, 3, 3)),
    )
    inverse = np.zeros((n, 3, 3))
    total = np.zeros((boundaries, 3))
    history = _history(256, now, boundaries)
    t, h = t0, min(h0, t1 - t0)
    count, tries, status = 0, 0, DONE
    _noted(history, count, t, now.gas, now.pool, now.store, total)
    count += 1
    while t < t1 - 1e-9:
        tries += 1
        if tries > max_steps or h < 1e-9:
            status = TOO_MANY_STEPS if tries > max_steps else STEP_TOO_SMALL
            break
        if t + h > t1:
            h = t1 - t
        _stages(t, h, now, y, k, elements, volumes, waters, plan, out, jac, inverse, crosses)
        err = _weighed(now, y, k, volumes.per_amount, rtol)
        if err < 0.0:
            h *= 0.25
            continue
        grow = 5.0 if err < 1e-6 else min(5.0, max(0.2, 0.85 * err ** (-1.0 / 3.0)))
        if err > 1.0:
            h *= min(grow, 0.7)
            continue
        t += h
        _taken(now, y)
        for s in range(4):
            _add(total, COEF_M[s], k.crossed[s])
        if count == history.time.size:
            history = _longer(history, now, boundaries)
        _noted(history, count, t, now.gas, now.pool, now.store, total)
        count += 1
        h *= grow
        if _all_under(now, volumes.per_amount, watch, level):
            break
    return history, count, status, h
