"""Sparse elimination of the network's 3 × 3 blocks: planned once in Python, run compiled at every step.

A rig with its system is nearly a tree, so elimination from the leaves inwards (least degree first) makes
almost no fill, and the cost of a solve grows linearly with the number of nodes.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rough_draw.core.engine.arrays import Elimination, IntArray
from rough_draw.core.engine.kernels import jit


@dataclass(frozen=True)
class EliminationPlan:
    """Where each block lives (by its pair of nodes), and the order in which the nodes are eliminated."""

    slot: dict[tuple[int, int], int]
    arrays: Elimination


def plan_elimination(count: int, edges: set[tuple[int, int]]) -> EliminationPlan:
    """Order the nodes by least degree and list every block update, fill-in included.

    ``edges`` holds undirected pairs (i, j), i ≠ j, 0 ≤ i, j < ``count``.

    Parameters
    ----------
    count : int
        Nodes.
    edges : set of (int, int)
        Undirected, i ≠ j.

    Returns
    -------
    EliminationPlan
        Where each block lives, and every update in order.

    Examples
    --------
    >>> plan_elimination(3, {(0, 1), (1, 2)}).arrays.order.tolist()
    [0, 1, 2]
    """
    adjacent: list[set[int]] = [set() for _ in range(count)]
    slot: dict[tuple[int, int], int] = {}

    def join(i: int, j: int) -> None:
        for pair in ((i, j), (j, i)):
            slot.setdefault(pair, len(slot))
        adjacent[i].add(j)
        adjacent[j].add(i)

    for i, j in sorted(edges):
        join(i, j)
    left = set(range(count))
    order: list[int] = []
    ptr, nodes, into, out = [0], [], [], []
    update_ptr: list[int] = [0]
    update: list[tuple[int, int, int, int]] = []
    while left:
        k = min(left, key=lambda n: (len(adjacent[n]), n))
        left.discard(k)
        order.append(k)
        around = sorted(adjacent[k])
        for a in range(len(around)):
            for b in range(a + 1, len(around)):
                join(around[a], around[b])
        for i in around:
            adjacent[i].discard(k)
            nodes.append(i)
            into.append(slot[i, k])
            out.append(slot[k, i])
            for j in around:
                target = i if i == j else slot[i, j]
                update.append((slot[i, k], slot[k, j], 1 if i == j else 0, target))
        ptr.append(len(nodes))
        update_ptr.append(len(update))

    def arr(values: list[int]) -> IntArray:
        return np.array(values, dtype=np.int64)

    arrays = Elimination(
        order=arr(order),
        ptr=arr(ptr),
        node=arr(nodes),
        into=arr(into),
        out=arr(out),
        update_ptr=arr(update_ptr),
        update=np.array(update, dtype=np.int64).reshape(-1, 4),
    )
    return EliminationPlan(slot, arrays)


@jit
def _invert(a, out):  # type: ignore[no-untyped-def]
    c00 = a[1, 1] * a[2, 2] - a[1, 2] * a[2, 1]
    c01 = a[1, 2] * a[2, 0] - a[1, 0] * a[2, 2]
    c02 = a[1, 0] * a[2, 1] - a[1, 1] * a[2, 0]
    inv = 1.0 / (a[0, 0] * c00 + a[0, 1] * c01 + a[0, 2] * c02)
    out[0, 0] = c00 * inv
    out[1, 0] = c01 * inv
    out[2, 0] = c02 * inv
    out[0, 1] = (a[0, 2] * a[2, 1] - a[0, 1] * a[2, 2]) * inv
    out[1, 1] = (a[0, 0] * a[2, 2] - a[0, 2] * a[2, 0]) * inv
    out[2, 1] = (a[0, 1] * a[2, 0] - a[0, 0] * a[2, 1]) * inv
    out[0, 2] = (a[0, 1] * a[1, 2] - a[0, 2] * a[1, 1]) * inv
    out[1, 2] = (a[0, 2] * a[1, 0] - a[0, 0] * a[1, 2]) * inv
    out[2, 2] = (a[0, 0] * a[1, 1] - a[0, 1] * a[1, 0]) * inv


@jit
def factor(diag, off, inverse, order, ptr, into, update_ptr, update):  # type: ignore[no-untyped-def]
    """Factor in place: ``off`` keeps the multipliers, ``inverse`` the inverted pivots."""
    left = np.empty((3, 3))
    for step in range(order.size):
        k = order[step]
        _invert(diag[k], inverse[k])
        for n in range(ptr[step], ptr[step + 1]):
            s = into[n]
            for r in range(3):
                for c in range(3):
                    left[r, c] = (
                        off[s, r, 0] * inverse[k, 0, c]
                        + off[s, r, 1] * inverse[k, 1, c]
                        + off[s, r, 2] * inverse[k, 2, c]
                    )
            off[s] = left
        for u in range(update_ptr[step], update_ptr[step + 1]):
            a, b, on_diag, target = update[u]
            for r in range(3):
                for c in range(3):
                    v = off[a, r, 0] * off[b, 0, c] + off[a, r, 1] * off[b, 1, c] + off[a, r, 2] * off[b, 2, c]
                    if on_diag == 1:
                        diag[target, r, c] -= v
                    else:
                        off[target, r, c] -= v


@jit
def solve(off, inverse, order, ptr, node, into, out, x):  # type: ignore[no-untyped-def]
    """Solve in place for one right-hand side ``x`` (nodes × 3) with the factors of `factor`."""
    for step in range(order.size):
        k = order[step]
        for n in range(ptr[step], ptr[step + 1]):
            i, s = node[n], into[n]
            for r in range(3):
                x[i, r] -= off[s, r, 0] * x[k, 0] + off[s, r, 1] * x[k, 1] + off[s, r, 2] * x[k, 2]
    y = np.empty(3)
    for step in range(order.size - 1, -1, -1):
        k = order[step]
        for r in range(3):
            y[r] = x[k, r]
        for n in range(ptr[step], ptr[step + 1]):
            j, s = node[n], out[n]
            for r in range(3):
                y[r] -= off[s, r, 0] * x[j, 0] + off[s, r, 1] * x[j, 1] + off[s, r, 2] * x[j, 2]
        for r in range(3):
            x[k, r] = inverse[k, r, 0] * y[0] + inverse[k, r, 1] * y[1] + inverse[k, r, 2] * y[2]
