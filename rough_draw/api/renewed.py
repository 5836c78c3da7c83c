"""Values that may be some seconds old: who asks gets the last one, and where that has become old the next is made
beside.

Whoever asks waits only for what is not there yet, rests on another ground, or is so old that it would mislead.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Hashable
from contextvars import copy_context
from dataclasses import dataclass
from functools import partial
from typing import Generic, TypeVar

from cachetools import LRUCache

from rough_draw.api.beside import Beside

T = TypeVar("T")

# One after the other: what nobody waits for takes no more than its turn from what somebody does.
_beside = Beside("renewed")


@dataclass(kw_only=True)
class _Kept(Generic[T]):
    value: T
    ground: object
    made: float


class Renewed(Generic[T]):
    """Values by a name each. ``fresh_s``: how old one may be before the next is made beside, s; ``most_s``: how old it
    may be given at all. ``most``: how many are kept.
    """

    def __init__(self, fresh_s: float, most_s: float, most: int = 4096) -> None:
        self.fresh_s, self.most_s = fresh_s, most_s
        self._kept: LRUCache[Hashable, _Kept[T]] = LRUCache(most)
        self._guard = threading.Lock()

    def of(self, name: Hashable, ground: object, make: Callable[[], T]) -> T:
        """The value. ``ground``: what differs once it would be another, age apart. Raises what ``make`` raises, to who
        waits for it: what fails beside is made anew for the next who asks.
        """
        now = time.monotonic()
        with self._guard:
            kept = self._kept.get(name)
            if kept is not None and kept.ground == ground and now - kept.made <= self.most_s:
                if now - kept.made > self._fresh(name):
                    _beside.wish((id(self), name), partial(copy_context().run, self._renew, name, kept, make))
                return kept.value
        made = _Kept(value=make(), ground=ground, made=now)
        with self._guard:
            self._kept[name] = made
        return made.value

    def _fresh(self, name: Hashable) -> float:
        """An age of its own for every name: else what was made at one moment would be made anew at one moment."""
        return self.fresh_s * (1.0 + (hash(name) % 16) / 32.0)

    def _renew(self, name: Hashable, kept: _Kept[T], make: Callable[[], T]) -> None:
        now = time.monotonic()
        try:
            made = _Kept(value=make(), ground=kept.ground, made=now)
        except Exception:
            made = None
        with self._guard:
            if self._kept.get(name) is not kept:
                return
            if made is None:
                del self._kept[name]
            else:
                self._kept[name] = made
