"""What goes on paper, gathered: the job, its run and its hold, and what its end rests on."""

from __future__ import annotations

import time
from dataclasses import dataclass, field
from datetime import UTC

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.hold.result import Verdict
from rough_draw.core.message import Message, Name
from rough_draw.core.planning.plan import Plan
from rough_draw.core.records.hash_chain import Entry
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.store.moments import moment
from rough_draw.store.photos import Photo

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Firm:
    """Who prints: name, address (lines), and a logo as PNG."""

    name: str = ""
    address: str = ""
    logo: bytes | None = None


@dataclass(frozen=True, kw_only=True)
class Gauge:
    """Readings of a further gauge: its name, epoch s, Pa with NaN over range, spans that are simulated."""

    name: Name
    at: FloatArray
    pa: FloatArray
    simulated: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True, kw_only=True)
class Closing:
    """What the end of the report rests on beside the sheet.

    ``cylinders`` kg before and after (None: not closed yet), from the scale or as typed, and whether the simulated
    scale gave any; ``running`` judged words by "first" and "later"; ``kit`` rows of name, number and how it stands; the
    ``chain`` of a sealed record and what is ``wrong`` with it.
    """

    cylinders: tuple[tuple[float, float | None], ...] = ()
    scale_simulated: bool = False
    running: tuple[tuple[str, tuple[Name, ...]], ...] = ()
    kit: tuple[tuple[Name, Name, Name], ...] = ()
    chain: tuple[Entry, ...] = ()
    wrong: tuple[Message, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Record:
    """Everything that goes on paper. Times are epoch seconds, pressures Pa; ``deviations`` with their reasons."""

    job: Job
    touches: tuple[Touch, ...]
    at: FloatArray | None
    pa: FloatArray | None
    gauge: str
    verdict: Verdict | None
    hold_start: float | None
    inside: Name
    inputs_hash: str
    volume: float = 0.0
    judged_on: tuple[Message, ...] = ()
    deviations: tuple[tuple[Name, str], ...] = ()
    plan: Plan | None = None
    simulated: tuple[tuple[float, float], ...] = ()
    others: tuple[Gauge, ...] = ()
    photos: tuple[Photo, ...] = ()
    firm: Firm = Firm()
    closing: Closing = field(default_factory=Closing)

    @property
    def is_simulated(self) -> bool:
        """Whether any reading on it comes from a simulated gauge."""
        return bool(self.simulated) or any(g.simulated for g in self.others)


def clock(at: float) -> str:
    """Clock time of epoch s on this machine, with seconds."""
    return moment(at).astimezone().strftime("%H:%M:%S")


def stamp_both(at: float) -> str:
    """Day and clock time with its zone, and the same in UTC: read elsewhere, or years later, it is the same time."""
    local = moment(at).astimezone()
    zone = local.strftime("%Z") or time.tzname[0]
    there = local.astimezone(UTC)
    if local.utcoffset() == there.utcoffset():
        return there.strftime("%Y-%m-%d %H:%M:%S UTC")
    day = "" if local.date() == there.date() else there.strftime("%Y-%m-%d ")
    return f"{local.strftime('%Y-%m-%d %H:%M:%S')} {zone} ({day}{there.strftime('%H:%M:%S')} UTC)"
