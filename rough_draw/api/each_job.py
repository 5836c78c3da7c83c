"""Over every job: what one of them cannot give is said in its place, and never takes the rest down."""

from __future__ import annotations

import logging
from collections.abc import Callable, Collection
from dataclasses import dataclass
from typing import Generic, TypeVar

from cachetools import TTLCache

from rough_draw.core.message import Name, message
from rough_draw.core.message.fault import Telling
from rough_draw.store import jobs

log = logging.getLogger(__name__)
T = TypeVar("T")
AGAIN_S = 600.0
_logged: TTLCache[tuple[str, str], bool] = TTLCache(256, AGAIN_S)
"""Faults that are in the log already: shared pages look at every job each second, and a full disk helps nobody."""


@dataclass(frozen=True)
class Given(Generic[T]):
    """What a job gave, or why it gave nothing."""

    stored: jobs.StoredJob
    value: T | None
    fault: Name = ""


def each_job(work: Callable[[jobs.StoredJob], T], only: Collection[str] | None = None) -> list[Given[T]]:
    """``work`` done for every job in the store, or for those of these keys that are there."""
    return [of_job(stored, work) for stored in jobs.listing(only, unreadable=True)]


def of_job(stored: jobs.StoredJob, work: Callable[[jobs.StoredJob], T]) -> Given[T]:
    """``work`` done for one job. A fault that tells itself is passed on; any other is named as one, and logged once in
    a while.
    """
    if stored.fault:
        return Given(stored, None, stored.fault)
    try:
        return Given(stored, work(stored))
    except Telling as e:
        return Given(stored, None, e.told)
    except Exception as e:
        fault = (stored.key, repr(e))
        if fault not in _logged:
            _logged[fault] = True
            log.exception("job %s cannot be worked out", stored.key)
        return Given(stored, None, message("job-cannot-be-worked-out"))


def title_of(stored: jobs.StoredJob) -> Name:
    """A job by its customer and unit, by its title, or as one without a name."""
    party = stored.job.party
    names = ", ".join(x for x in (party.customer, party.unit) if x)
    return names or stored.job.title or message("job-unnamed")
