"""What follows from a sheet alone, worked out once for each: sheets do not change, and the store gives each again."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache, wraps
from typing import TypeVar

from rough_draw.core.sheet.job import Job

T = TypeVar("T")


class _Same:
    """A sheet, told from others by being the same object: to compare what is in two takes longer than what is asked."""

    __slots__ = ("job",)

    def __init__(self, job: Job) -> None:
        self.job = job

    def __hash__(self) -> int:
        return id(self.job)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and other.job is self.job


def once_a_sheet(most: int) -> Callable[[Callable[[Job], T]], Callable[[Job], T]]:
    """Keep what ``work`` gives for the last ``most`` sheets. They are kept with it, so none can stand for another."""

    def keeping(work: Callable[[Job], T]) -> Callable[[Job], T]:
        @lru_cache(maxsize=most)
        def kept(same: _Same) -> T:
            return work(same.job)

        @wraps(work)
        def asked(job: Job) -> T:
            return kept(_Same(job))

        return asked

    return keeping
