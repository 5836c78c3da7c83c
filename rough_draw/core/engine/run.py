"""A run as it was computed, and the state that it goes on from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from rough_draw.core.engine.arrays import FloatArray
from rough_draw.core.engine.network import Network
from rough_draw.core.readings.series import time_at_level


@dataclass(frozen=True, slots=True)
class State:
    """Everything that changes: amounts by node (pV at 293.15 K, Pa·m³), free water (kg, J), sorbed gas (kg)."""

    time: float
    gas: FloatArray
    pool: FloatArray
    sorbed: FloatArray
    step: float = 1e-3


@dataclass(frozen=True, kw_only=True)
class Run:
    """One computed run.

    ``time`` (n,) s; ``pressure`` (n, nodes, 3) Pa by gas; ``pool`` (n, pools, 2) kg and K; ``sorbed``
    (n, reservoirs) kg; ``crossed`` (n, boundary elements, 3) Pa·m³ that left through each since the start.
    """

    network: Network
    time: FloatArray
    pressure: FloatArray
    pool: FloatArray
    sorbed: FloatArray
    crossed: FloatArray
    boundary_names: tuple[str, ...]
    final: State

    def total(self, node: str) -> FloatArray:
        """Total pressure, Pa, at a node against `time`."""
        values: FloatArray = self.pressure[:, self.network.index(node), :].sum(axis=1)
        return values

    def at(self, node: str, times: Sequence[float] | FloatArray) -> FloatArray:
        """Total pressure at chosen times, interpolated in log pressure between steps."""
        logs = np.log(np.maximum(self.total(node), 1e-9))
        result: FloatArray = np.exp(np.interp(np.asarray(times, dtype=float), self.time, logs))
        return result

    def time_to(self, node: str, level: float) -> float | None:
        """First time, s, at which ``node`` is at or under ``level`` Pa; None if it never is."""
        return time_at_level(self.time, self.total(node), level)


@dataclass(frozen=True)
class Stop:
    """End a run early, once every node of ``nodes`` is under ``level`` Pa."""

    nodes: tuple[str, ...]
    level: float
