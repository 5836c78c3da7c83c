"""The unit of a column of plain times: from its header, from a row of units under it, or asked."""

from __future__ import annotations

import re
from typing import Literal

TimeUnit = Literal["milliseconds", "seconds", "minutes", "hours", "days"]
SECONDS: dict[str, float] = {"milliseconds": 1e-3, "seconds": 1.0, "minutes": 60.0, "hours": 3600.0, "days": 86_400.0}
"""Seconds in one of each."""
WORDS: dict[str, TimeUnit] = {
    **dict.fromkeys(("ms", "msec", "msecs", "millis", "millisecond", "milliseconds", "millisekunden"), "milliseconds"),
    **dict.fromkeys(
        ("s", "sec", "secs", "second", "seconds", "sek", "sekunden", "secondes", "segundos", "secondi", "seconden"),
        "seconds",
    ),
    **dict.fromkeys(("min", "mins", "minute", "minutes", "minuten", "minutos", "minuti", "minuter"), "minutes"),
    **dict.fromkeys(("h", "hr", "hrs", "hour", "hours", "std", "stunden", "heures", "horas", "ore", "uren"), "hours"),
    **dict.fromkeys(("days", "tage", "jours", "días", "giorni", "dagen"), "days"),
}


def time_unit_in(name: str) -> TimeUnit | None:
    """A unit of time named in a header cell or a row of units.

    Parameters
    ----------
    name : str
        As written: ``"time (min)"``, ``"t_min"``, ``"elapsed [h]"``, ``"elapsedSeconds"``.

    Returns
    -------
    TimeUnit or None
        None where none is named, or more than one is.

    Examples
    --------
    >>> time_unit_in("time (min)"), time_unit_in("t_ms"), time_unit_in("Elapsed [h]"), time_unit_in("time")
    ('minutes', 'milliseconds', 'hours', None)
    >>> time_unit_in("elapsedSeconds"), time_unit_in("h:min:s")
    ('seconds', None)
    """
    spaced = re.sub(r"(?<=[a-z])(?=[A-Z])", " ", name)
    found = {WORDS[w] for w in re.findall(r"[^\W\d_]+", spaced.lower()) if w in WORDS}
    return found.pop() if len(found) == 1 else None
