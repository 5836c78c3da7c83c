"""The same equations for a general solver: one flat vector, the compiled right-hand side."""

from __future__ import annotations

from typing import Any

import numpy as np
from scipy.integrate import solve_ivp
from scipy.sparse import lil_matrix

from rough_draw.core.engine.arrays import Amounts, Jacobian, Rates
from rough_draw.core.engine.compile import compile_network
from rough_draw.core.engine.network import Network
from rough_draw.core.engine.rates import rates
from rough_draw.core.engine.simulate import initial_state


class Flat:
    """A network as y' = f(t, y), with its sparsity."""

    def __init__(self, net: Network) -> None:
        self.compiled = compile_network(net)
        self.start = initial_state(net)
        self.n, self.pools, self.res = len(net.nodes), len(net.pools), len(net.sorbed)
        bounds = len(self.compiled.boundary_names)
        n, p, r = self.n, self.pools, self.res
        self.out = Rates(np.zeros((n, 3)), np.zeros((p, 2)), np.zeros(r), np.zeros((bounds, 3)), np.zeros((n, 3)))
        slots = len(self.compiled.plan.slot)
        zeros = np.zeros
        self.jac = Jacobian(zeros((n, 3, 3)), zeros((slots, 3, 3)), zeros((p, 6)), zeros(r), zeros((bounds, 3, 3)))
        self.y0 = np.concatenate([self.start.gas.ravel(), self.start.pool.ravel(), self.start.sorbed])
        self.per_amount = self.compiled.volumes.per_amount

    def rhs(self, t: float, y: np.ndarray[Any, Any]) -> np.ndarray[Any, Any]:
        """Right-hand side."""
        n, p = self.n, self.pools
        gas, pool, res = y[: 3 * n].reshape(n, 3), y[3 * n : 3 * n + 2 * p].reshape(p, 2), y[3 * n + 2 * p :]
        c = self.compiled
        rates(t, Amounts(gas, pool, res), c.elements, c.volumes, c.waters, self.out, self.jac, False)
        return np.concatenate([self.out.gas.ravel(), self.out.pool.ravel(), self.out.store])

    def sparsity(self) -> Any:
        """Which unknown moves which."""
        size = self.y0.size
        s = lil_matrix((size, size))
        ea, eb = self.compiled.elements.a, self.compiled.elements.b
        for a, b in zip(ea, eb, strict=True):
            ends = [e for e in (a, b) if e >= 0]
            for i in ends:
                for j in ends:
                    s[3 * i : 3 * i + 3, 3 * j : 3 * j + 3] = 1
        base = 3 * self.n
        for k, i in enumerate(self.compiled.waters.pool_node):
            at = [base + 2 * k, base + 2 * k + 1, 3 * i + 1]
            for a in at:
                for b in at:
                    s[a, b] = 1
        base += 2 * self.pools
        for k, i in enumerate(self.compiled.waters.store_node):
            for g in range(3):
                s[base + k, 3 * i + g] = s[3 * i + g, base + k] = 1
            s[base + k, base + k] = 1
        return s.tocsr()

    def solve(self, until: float, method: str, rtol: float, sparse: bool = False) -> Any:
        """Run a scipy solver; tolerances on amounts scaled by each volume."""
        atol = np.concatenate(
            [np.repeat(2e-3 / self.per_amount, 3), np.tile([1e-8, 0.5], self.pools), np.full(self.res, 1e-10)]
        )
        extra = {"jac_sparsity": self.sparsity()} if sparse else {}
        return solve_ivp(self.rhs, (0.0, until), self.y0, method=method, rtol=rtol, atol=atol, **extra)

    def time_to(self, solution: Any, node: int, level: float) -> float:
        """Time at which a node passes a level, from a scipy solution."""
        p = solution.y[3 * node : 3 * node + 3].sum(axis=0) * self.per_amount[node]
        i = int(np.nonzero(p <= level)[0][0])
        a, b = np.log(p[i - 1]), np.log(p[i])
        return float(solution.t[i - 1] + (a - np.log(level)) / (a - b) * (solution.t[i] - solution.t[i - 1]))
