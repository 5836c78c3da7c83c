"""How much of what a test goes through it goes through each time.

Every test runs each time. What would only say the same of more members of a family (all fourteen kinds of system, each
of the scenarios) or of more random ones is done by ``scripts/test --whole``, before a release and after what touches a
whole family.
"""

from __future__ import annotations

import os
from collections.abc import Iterable
from typing import TypeVar

T = TypeVar("T")

WHOLE = os.environ.get("ROUGH_DRAW_TESTS") == "whole"


def some(family: Iterable[T], few: int) -> list[T]:
    """The whole family, or so few of it: the first, the last and what stands evenly between."""
    every = list(family)
    if WHOLE or len(every) <= few:
        return every
    return [every[round(n * (len(every) - 1) / max(few - 1, 1))] for n in range(few)]


def turn(family: Iterable[T], at: int, of: int) -> list[T]:
    """The whole family, or every ``of``-th from ``at`` on: where ``of`` tests go through it, each takes its turn."""
    every = list(family)
    return every if WHOLE else every[at::of]


def times(few: int, whole: int) -> int:
    """How often something random is done."""
    return whole if WHOLE else few
