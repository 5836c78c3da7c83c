"""How much of what is like what was tested already is tested again.

``scripts/test``, and so each landing, makes a *plain* run: the rules, each page and each hand, in minutes.
``scripts/test --whole`` goes on to all that is like it: further jobs, sizes, systems and scenarios, whole jobs by other
hands, further features, three times as many random cases. A run of named files is whole. In both, what is drawn at
random follows from the test alone, so that two runs of the same code say the same; ``scripts/test --deep`` and
``make soak`` draw anew each time, and many times as many.
"""

from __future__ import annotations

import os
from collections.abc import Iterable
from typing import Any

import pytest

LEVEL = os.environ.get("ROUGH_DRAW_TESTS", "whole")
WHOLE = LEVEL != "plain"
DEEP = LEVEL == "deep"

whole = pytest.mark.whole
"""A test that a plain run leaves out, since it has its like, of the page or of the API beneath it."""


def first(plain: int, members: Iterable[Any]) -> list[Any]:
    """Members of a family, for ``parametrize``: a plain run takes the first so many."""
    told = []
    for n, member in enumerate(members):
        values = member if isinstance(member, tuple) else (member,)
        told.append(pytest.param(*values, marks=whole if n >= plain else ()))
    return told


def times(few: int, many: int) -> int:
    """``many`` in a deep run, else ``few``."""
    return many if DEEP else few


def drawn(cases: int) -> int:
    """How many cases are drawn of what a whole run draws ``cases`` of."""
    return times(cases if WHOLE else -(-cases // 3), 16 * cases)
