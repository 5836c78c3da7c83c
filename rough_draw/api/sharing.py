"""An answer that many ask for at once: worked out by one of them, and given to all who asked before it was begun.

Tablets hear of a change at the same moment and ask for the same. Two that work it out beside each other take twice as
long, and so does the next; here one works, and who comes meanwhile shares what is worked out after they came.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from typing import Generic, TypeVar

from cachetools import LRUCache

T = TypeVar("T")


@dataclass
class _Slot(Generic[T]):
    lock: threading.Lock = field(default_factory=threading.Lock)
    rests_on: object = None
    begun: float = float("-inf")
    answer: T | None = None


class Shared(Generic[T]):
    """Answers by what was asked for. ``fresh_s``: how old one may be whose ground has not changed, s."""

    def __init__(self, fresh_s: float, most: int = 64) -> None:
        self.fresh_s = fresh_s
        self._slots: LRUCache[Hashable, _Slot[T]] = LRUCache(most)
        self._guard = threading.Lock()

    def of(self, asked: Hashable, rests_on: Callable[[], object], make: Callable[[], T]) -> T:
        """The answer, made where it is not there. ``rests_on``: what differs once it would be another."""
        came = time.monotonic()
        with self._guard:
            slot = self._slots.setdefault(asked, _Slot())
        with slot.lock:
            if slot.answer is not None and slot.begun >= came:
                return slot.answer
            ground, now = rests_on(), time.monotonic()
            if slot.answer is not None and ground == slot.rests_on and now - slot.begun <= self.fresh_s:
                return slot.answer
            slot.answer = make()
            slot.rests_on, slot.begun = ground, now
            return slot.answer
