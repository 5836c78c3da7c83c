"""A network as arrays: what the compiled stepper is handed, by name.

The classes are tuples with names, which the compiler takes as they are. Sizes: E elements, N nodes, P pools of free
water, S reservoirs of sorbed gas, B elements that cross the boundary, L off-diagonal blocks, three gases everywhere.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]


class Elements(NamedTuple):
    """Tubes, pumps, leaks and sources.

    ``kind`` (E,); ``a``, ``b`` (E,) nodes at the ends, −1 the atmosphere and −2 the exhaust; ``par`` (E, 9) by kind;
    ``alone`` (E, 8) what `kernels.passages` makes of it; ``temperature`` (E,) K; ``slot_ab``, ``slot_ba`` (E,) places
    of the blocks; ``account`` (E,) which boundary it crosses, −1 for none.
    """

    kind: IntArray
    a: IntArray
    b: IntArray
    par: FloatArray
    alone: FloatArray
    temperature: FloatArray
    slot_ab: IntArray
    slot_ba: IntArray
    account: IntArray


class Volumes(NamedTuple):
    """``per_amount`` (N,) Pa for a unit of amount; ``temperature`` (N,) K; ``outside`` (2, 3) Pa beyond."""

    per_amount: FloatArray
    temperature: FloatArray
    outside: FloatArray


class Waters(NamedTuple):
    """Free water and sorbed gas: node of each pool and reservoir, which gas, and their parameters.

    ``pool_par`` (P, 3) transfer m³/s, heat inflow W/K, metal J/K; ``store_par`` (S, 3) τ s, capacity kg/Pa, power.
    """

    pool_node: IntArray
    pool_par: FloatArray
    store_node: IntArray
    store_gas: IntArray
    store_par: FloatArray


class Elimination(NamedTuple):
    """The order of elimination, and every block that a step of it touches."""

    order: IntArray
    ptr: IntArray
    node: IntArray
    into: IntArray
    out: IntArray
    update_ptr: IntArray
    update: IntArray


class Rates(NamedTuple):
    """Right-hand side: of gas (N, 3), pools (P, 2), stores (S,), what crosses (B, 3); and pressures (N, 3) Pa."""

    gas: FloatArray
    pool: FloatArray
    store: FloatArray
    crossed: FloatArray
    pressure: FloatArray


class Jacobian(NamedTuple):
    """``diag`` (N, 3, 3), ``off`` (L, 3, 3); of the pools (P, 6), the stores (S,), what crosses (B, 3, 3)."""

    diag: FloatArray
    off: FloatArray
    pool: FloatArray
    store: FloatArray
    crossed: FloatArray


class Stages(NamedTuple):
    """The four stages of a step: of gas (4, N, 3), pools (4, P, 2), stores (4, S), what crosses (4, B, 3)."""

    gas: FloatArray
    pool: FloatArray
    store: FloatArray
    crossed: FloatArray


class Amounts(NamedTuple):
    """All that changes: gas (N, 3) pV at 20 °C, pools (P, 2) kg and J, stores (S,) kg."""

    gas: FloatArray
    pool: FloatArray
    store: FloatArray


class History(NamedTuple):
    """Times (n,) s and what stood at each: gas (n, N, 3), pools (n, P, 2), stores (n, S), crossed so far (n, B, 3)."""

    time: FloatArray
    gas: FloatArray
    pool: FloatArray
    store: FloatArray
    crossed: FloatArray
