"""How often what is random or is killed is done in a run of the tests.

Every test goes through all its cases each time. What is drawn at random beside them follows from the test alone in a
plain run, so that two runs of the same code say the same; ``scripts/test --deep`` and ``make soak`` draw anew each
time, and many times as many.
"""

from __future__ import annotations

import os

DEEP = os.environ.get("ROUGH_DRAW_TESTS") == "deep"


def times(few: int, many: int) -> int:
    """``many`` in a deep run, else ``few``."""
    return many if DEEP else few


def drawn(cases: int) -> int:
    """How many cases are drawn of what a plain run draws ``cases`` of."""
    return times(cases, 16 * cases)
