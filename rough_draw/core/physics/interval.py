"""A figure with its interval."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Range:
    """An interval at 90 %: low, value, high."""

    low: float
    value: float
    high: float
