"""A moment on the calendar, for files and papers."""

from __future__ import annotations

from datetime import datetime, tzinfo

LAST = 253_402_000_000.0
"""Epoch s, late in the year 9999."""


def moment(at: float, zone: tzinfo | None = None) -> datetime:
    """Epoch s as day and time, of this machine's clock where no zone is given.

    What no calendar has (the earliest versions let it in) stands at the nearest end of it: a paper with one odd stamp
    is better than none.
    """
    return datetime.fromtimestamp(min(max(0.0, at), LAST), zone)
