"""Sparse elimination against a dense solve."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.engine.sparse import factor, plan_elimination, solve


@given(st.integers(2, 14), st.integers(0, 2**31), st.integers(0, 6))
def test_same_as_dense(count: int, seed: int, loops: int) -> None:
    rng = np.random.default_rng(seed)
    edges = {(int(rng.integers(0, k)), k) for k in range(1, count)}
    for _ in range(loops):
        a, b = sorted(int(x) for x in rng.integers(0, count, 2))
        if a != b:
            edges.add((a, b))
    plan = plan_elimination(count, edges)
    diag = rng.normal(size=(count, 3, 3)) + 12 * np.eye(3)
    off = np.zeros((len(plan.slot), 3, 3))
    dense = np.zeros((3 * count, 3 * count))
    for i in range(count):
        dense[3 * i : 3 * i + 3, 3 * i : 3 * i + 3] = diag[i]
    for a, b in edges:
        for i, j in ((a, b), (b, a)):
            off[plan.slot[i, j]] = rng.normal(size=(3, 3))
            dense[3 * i : 3 * i + 3, 3 * j : 3 * j + 3] = off[plan.slot[i, j]]
    right = rng.normal(size=(count, 3))
    expected = np.linalg.solve(dense, right.ravel()).reshape(count, 3)
    inverse = np.zeros((count, 3, 3))
    a = plan.arrays
    factor(diag, off, inverse, a.order, a.ptr, a.into, a.update_ptr, a.update)
    x = right.copy()
    solve(off, inverse, a.order, a.ptr, a.node, a.into, a.out, x)
    assert x == pytest.approx(expected, rel=1e-8, abs=1e-10)


def test_a_tree_makes_no_fill() -> None:
    edges = {(k // 2, k) for k in range(1, 60)}
    plan = plan_elimination(60, edges)
    assert len(plan.slot) == 2 * len(edges)
