"""Who reads: units, the way numbers are written, and the English of the trade here or there."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from functools import cache

from rough_draw.core.sheet.settings import Settings

LOCALES = {"us": "en-US", "uk": "en-GB"}
"""The files of messages for each English."""


@dataclass(frozen=True, kw_only=True)
class Reader:
    """Keys of units as in the settings, and how numbers are written."""

    vacuum: str = "micron"
    gauge: str = "psig"
    temperature: str = "c"
    flow: str = "cfm"
    length: str = "m"
    mass: str = "kg"
    volume: str = "l"
    locale: str = "en-US"
    numbers: str = "point"


AMERICAN = Reader(temperature="f", length="ft", mass="lb-oz", volume="ft3")
METRIC = Reader(vacuum="pa", gauge="bar", flow="m3-h")
"""The two usual sets."""


def reader_of(settings: Settings) -> Reader:
    """The reader that somebody's settings describe."""
    return Reader(
        vacuum=settings.pressure,
        gauge=settings.gauge,
        temperature=settings.temperature,
        flow=settings.flow,
        length=settings.length,
        mass=settings.mass,
        volume=settings.volume,
        locale=LOCALES[settings.english],
        numbers=settings.numbers,
    )


_reader: ContextVar[Callable[[], Reader]] = ContextVar("reader", default=Reader)


def reader() -> Reader:
    """Who reads now."""
    return _reader.get()()


@contextmanager
def reading_as(who: Reader | Callable[[], Reader]) -> Iterator[None]:
    """Everything said inside is said to ``who``: a reader, or how to find one out once something is said."""
    token = _reader.set((lambda: who) if isinstance(who, Reader) else cache(who))
    try:
        yield
    finally:
        _reader.reset(token)
