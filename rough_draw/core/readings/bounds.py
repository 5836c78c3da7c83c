"""What a reading may be, wherever it comes from: a line, a file, a form. One rule for its moment and its pressure."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

LATEST = 4e9
"""Epoch s; what is later is no moment of any job."""
HIGHEST_PA = 120_000.0
"""Pa, absolute: more than the air at the deepest place anybody works at."""
MILLI_FROM = 1e11
"""A stamp from here on is in milliseconds: in seconds it would lie thousands of years ahead."""

Moment = Annotated[float, Field(ge=0, le=LATEST, allow_inf_nan=False)]
"""Epoch s."""
Pressure = Annotated[float, Field(ge=0, le=HIGHEST_PA, allow_inf_nan=False)]
"""Pa, absolute."""


def seconds(at: float) -> float:
    """A stamp in epoch s, given in s or ms. Raises ValueError for what is no moment.

    >>> seconds(1.8e9), seconds(1.8e12)
    (1800000000.0, 1800000000.0)
    """
    found = at / 1000.0 if at >= MILLI_FROM else at
    if not (math.isfinite(found) and 0 <= found <= LATEST):
        raise ValueError("no moment")
    return found


def pressure(pa: float | None) -> float | None:
    """A pressure, Pa, or None for over range. Raises ValueError for what a vacuum gauge cannot show."""
    if pa is not None and not (math.isfinite(pa) and 0 <= pa <= HIGHEST_PA):
        raise ValueError("no pressure")
    return pa
