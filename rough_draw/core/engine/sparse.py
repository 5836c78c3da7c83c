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
def _invert(diag, k, out):  # type: ignore[no-untyped-def]
    """The inverse of block ``k`` of ``diag`` into that of ``out``."""
    a00, a01, a02 = diag[k, 0, 0], diag[k, 0, 1], diag[k, 0, 2]
    a10, a11, a12 = diag[k, 1, 0], diag[k, 1, 1], diag[k, 1, 2]
    a20, a21, a22 = diag[k, 2, 0], diag[k, 2, 1], diag[k, 2, 2]
    c00 = a11 * a22 - a12 * a21
    c01 = a12 * a20 - a10 * a22
    c02 = a10 * a21 - a11 * a20
    inv = 1.0 / (a00 * c00 + a01 * c01 + a02 * c02)
    out[k, 0, 0] = c00 * inv
    out[k, 1, 0] = c01 * inv
    out[k, 2, 0] = c02 * inv
    out[k, 0, 1] = (a02 * a21 - a01 * a22) * inv
    out[k, 1, 1] = (a00 * a22 - a02 * a20) * inv
    out[k, 2, 1] = (a01 * a20 - a00 * a21) * inv
    out[k, 0, 2] = (a01 * a12 - a02 * a11) * inv
    out[k, 1, 2] = (a02 * a10 - a00 * a12) * inv
    out[k, 2, 2] = (a00 * a11 - a01 * a10) * inv


@jit
def _scaled(off, s, inverse, k):  # type: ignore[no-untyped-def]
    """Block ``s`` times block ``k`` of ``inverse``, in place."""
    b00, b01, b02 = inverse[k, 0, 0], inverse[k, 0, 1], inverse[k, 0, 2]
    b10, b11, b12 = inverse[k, 1, 0], inverse[k, 1, 1], inverse[k, 1, 2]
    b20, b21, b22 = inverse[k, 2, 0], inverse[k, 2, 1], inverse[k, 2, 2]
    for r in range(3):
        x, y, z = off[s, r, 0], off[s, r, 1], off[s, r, 2]
        off[s, r, 0] = x * b00 + y * b10 + z * b20
        off[s, r, 1] = x * b01 + y * b11 + z * b21
        off[s, r, 2] = x * b02 + y * b12 + z * b22


@jit
def _less(off, a, b, into, target):  # type: ignore[no-untyped-def]
    """Take block ``a`` times block ``b`` off what stands at ``target``, which is neither of them."""
    # All nine are read first: the compiler cannot know that what is written is not what is read.
    b00, b01, b02 = off[b, 0, 0], off[b, 0, 1], off[b, 0, 2]
    b10, b11, b12 = off[b, 1, 0], off[b, 1, 1], off[b, 1, 2]
    b20, b21, b22 = off[b, 2, 0], off[b, 2, 1], off[b, 2, 2]
    for r in range(3):
        x, y, z = off[a, r, 0], off[a, r, 1], off[a, r, 2]
        into[target, r, 0] -= x * b00 + y * b10 + z * b20
        into[target, r, 1] -= x * b01 + y * b11 + z * b21
        into[target, r, 2] -= x * b02 + y * b12 + z * b22


@jit
def factor(diag, off, inverse, order, ptr, into, update_ptr, update):  # type: ignore[no-untyped-def]
    """Factor in place: ``off`` keeps the multipliers, ``inverse`` the inverted pivots."""
    for step in range(order.size):
        k = order[step]
        _invert(diag, k, inverse)
        for n in range(ptr[step], ptr[step + 1]):
            _scaled(off, into[n], inverse, k)
        for u in range(update_ptr[step], update_ptr[step + 1]):
            if update[u, 2] == 1:
                _less(off, update[u, 0], update[u, 1], diag, update[u, 3])
            else:
                _less(off, update[u, 0], update[u, 1], off, update[u, 3])


@jit
def solve(off, inverse, order, ptr, node, into, out, x):  # type: ignore[no-untyped-def]
    """Solve in place for one right-hand side ``x`` (nodes × 3) with the factors of `factor`."""
    for step in range(order.size):
        k = order[step]
        x0, x1, x2 = x[k, 0], x[k, 1], x[k, 2]
        for n in range(ptr[step], ptr[step + 1]):
            i, s = node[n], into[n]
            for r in range(3):
                x[i, r] -= off[s, r, 0] * x0 + off[s, r, 1] * x1 + off[s, r, 2] * x2
    for step in range(order.size - 1, -1, -1):
        k = order[step]
        y0, y1, y2 = x[k, 0], x[k, 1], x[k, 2]
        for n in range(ptr[step], ptr[step + 1]):
            j, s = node[n], out[n]
            x0, x1, x2 = x[j, 0], x[j, 1], x[j, 2]
            y0 -= off[s, 0, 0] * x0 + off[s, 0, 1] * x1 + off[s, 0, 2] * x2
            y1 -= off[s, 1, 0] * x0 + off[s, 1, 1] * x1 + off[s, 1, 2] * x2
            y2 -= off[s, 2, 0] * x0 + off[s, 2, 1] * x1 + off[s, 2, 2] * x2
        for r in range(3):
            x[k, r] = inverse[k, r, 0] * y0 + inverse[k, r, 1] * y1 + inverse[k, r, 2] * y2
