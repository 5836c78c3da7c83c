"""How often what is random or is killed is done in a run of the tests.

Every test goes through all its cases each time; ``scripts/test --deep`` and ``make soak`` draw more random ones.
"""

from __future__ import annotations

import os

DEEP = os.environ.get("ROUGH_DRAW_TESTS") == "deep"


def times(few: int, many: int) -> int:
    """``many`` in a deep run, else ``few``."""
    return many if DEEP else few
