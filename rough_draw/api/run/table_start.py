"""When a table of readings began: as it is written in it, or with the day or the moment that somebody says."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Literal

Asked = Literal["", "day", "moment"]
"""What has to be said of a table's start: nothing, the day of its clock times, or day and time."""


def asked_of(time_kind: str) -> Asked:
    """What a table with times of this kind leaves open."""
    return {"datetime": "", "clock": "day"}.get(time_kind, "moment")  # type: ignore[return-value]


def start_of(time_kind: str, first: str, said: datetime | None) -> datetime | None:
    """When the first row was read; None where it has still to be said. Times without a zone are this machine's.

    ``first``: the first time as it is written. ``said``: the day of clock times, or the moment of elapsed ones; what
    the table itself says stands.

    >>> start_of("datetime", "2026-07-11T13:34:05+02:00", None).isoformat()
    '2026-07-11T13:34:05+02:00'
    >>> start_of("clock", "1:34:05 PM", datetime(2026, 7, 11)).replace(tzinfo=None).isoformat()
    '2026-07-11T13:34:05'
    """
    if time_kind == "datetime":
        return _zoned(datetime.fromisoformat(first))
    if said is None:
        return None
    if time_kind != "clock":
        return _zoned(said)
    midnight = said.replace(hour=0, minute=0, second=0, microsecond=0)
    return _zoned(midnight + _of_day(first))


def _zoned(moment: datetime) -> datetime:
    return moment if moment.tzinfo is not None else moment.astimezone()


def _of_day(text: str) -> timedelta:
    """Time since midnight of a clock time as it is written: 13:34:05, 1:34 pm."""
    low = text.strip().lower()
    digits = low.removesuffix("am").removesuffix("pm").strip().replace(",", ".")
    hours, minutes, *rest = digits.split(":")
    hour = int(hours)
    if low.endswith(("am", "pm")):
        hour = hour % 12 + (12 if low.endswith("pm") else 0)
    return timedelta(hours=hour, minutes=int(minutes), seconds=float(rest[0]) if rest else 0.0)
