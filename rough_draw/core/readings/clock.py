"""Times as people write them: plain figures in a unit, m:ss, clock times past midnight, dates with a time of day."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta

from rough_draw.core.message import Fault, message
from rough_draw.core.readings.cell import number
from rough_draw.core.readings.time_unit import SECONDS

HOUR_S, STEPS = 3600.0, 5.0
"""How far clocks are put back, and how many of the table's own steps may lie between the rows where that is seen."""


class Clock:
    """Turns written times into seconds, carrying clock times past midnight."""

    def __init__(self, kind: str, day_first: bool = True) -> None:
        self.kind = kind
        self.day_first = day_first
        self.first = ""
        self.put_back = False
        self._day = 0
        self._last: float | None = None
        self._before: float | None = None
        self._step = 0.0

    def seconds(self, text: str, decimal_comma: bool = False) -> float:
        """Seconds of ``text`` on an arbitrary but steady origin. Raises Fault that says what is wrong."""
        s = text.strip()
        if not s:
            raise Fault(message("table-no-time"))
        if self.kind in SECONDS:
            try:
                return number(s, decimal_comma) * SECONDS[self.kind]
            except Fault:
                raise Fault(message("table-time", text=s[:40], kind=self.kind)) from None
        if self.kind == "datetime":
            value = _datetime(s, self.day_first)
            self.first = self.first or value.isoformat(timespec="seconds")
            # With a zone, clocks that are put forward or back in the middle do not matter.
            origin = datetime(2000, 1, 1, tzinfo=UTC if value.tzinfo is not None else None)
            at = (value - origin) / timedelta(seconds=1)
            return at if value.tzinfo is not None else self._through_the_night(at)
        match = re.fullmatch(r"(\d+):(\d{1,2})(?::(\d{1,2}(?:[.,]\d+)?))?\s*([AaPp][Mm])?", s)
        if not match:
            raise Fault(message("table-time", text=s[:40], kind="clock"))
        a, b = int(match[1]), int(match[2])
        c = float(match[3].replace(",", ".")) if match[3] else 0.0
        if b > 59 or c >= 60:
            raise Fault(message("table-time-59", text=s[:40]))
        if self.kind == "m:ss" and match[3] is None:
            return a * 60.0 + b
        if match[4]:
            a = a % 12 + (12 if match[4].lower() == "pm" else 0)
        self.first = self.first or s
        value_s = a * 3600.0 + b * 60.0 + c
        if self._last is not None and value_s < self._last - 12 * 3600:
            self._day += 1
        self._last = value_s
        return self._through_the_night(value_s + self._day * 86_400.0)

    def _through_the_night(self, at: float) -> float:
        """A time on a clock that may be put back an hour in the middle of the table: once, and where the rows go on
        as before."""
        at += HOUR_S if self.put_back else 0.0
        if self._before is not None and not self.put_back and 0.0 < self._before - at < HOUR_S:
            step = at + HOUR_S - self._before
            if step <= STEPS * max(self._step, 1.0):
                self.put_back = True
                at += HOUR_S
        if self._before is not None and at > self._before:
            self._step = at - self._before
        self._before = at
        return at


_TIMES = ("%I:%M:%S %p", "%H:%M:%S", "%H:%M", "%I:%M %p", "%H:%M:%S.%f")
_PLAIN = ("%d.%m.%Y", "%Y-%m-%d", "%d.%m.%y")
_STROKES = {True: ("%d/%m/%Y", "%d/%m/%y"), False: ("%m/%d/%Y", "%m/%d/%y")}
_FORMATS = {first: tuple(f"{d} {t}" for d in (*_STROKES[first], *_PLAIN) for t in _TIMES) for first in (True, False)}


def _names_a_zone(s: str) -> bool:
    """Whether a zone is written by letters: they mean other zones elsewhere, and all rows bear the same."""
    return bool(re.search(r"\d\s*[A-Za-z]{3,5}$", s)) and not s.endswith(("UTC", "GMT"))


def _datetime(s: str, day_first: bool = True) -> datetime:
    """A date with a time of day. The common ways are tried by name; others are left to the date library."""
    try:
        return datetime.fromisoformat(s.replace("Z", "+00:00"))
    except ValueError:
        pass
    for form in _FORMATS[day_first]:
        try:
            return datetime.strptime(s, form)
        except ValueError:
            continue
    # Takes a while to import, and few files ask for it.
    from dateutil import parser

    try:
        # Two origins: what is not written in the cell would be taken from them, and must not be.
        one, other = (
            parser.parse(s, dayfirst=day_first, default=d, ignoretz=_names_a_zone(s))
            for d in (datetime(2001, 2, 3), datetime(2004, 5, 6))
        )
    except (ValueError, OverflowError):
        one, other = datetime.min, datetime.max
    if one != other:
        raise Fault(message("table-time", text=s[:40], kind="datetime"))
    found: datetime = one
    return found
