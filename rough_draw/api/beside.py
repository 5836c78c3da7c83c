"""Work that nobody waits for: done beside the answering, in its turn, and let go when the server ends."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable, Hashable
from concurrent.futures import ThreadPoolExecutor

log = logging.getLogger("rough_draw.beside")


class Beside:
    """A thread for one kind of work, one after the other. Of what has one name, the latest wish waits and no more; and
    none is taken while it is under way. ``rest``: times as long as a work took does the thread rest after it.
    """

    def __init__(self, kind: str, rest: float = 0.0) -> None:
        self._kind, self._rest = kind, rest
        self._ended = threading.Event()
        self._guard = threading.Lock()
        self._waiting: dict[Hashable, Callable[[], object]] = {}
        self._under_way: Hashable | None = None
        self._pool = ThreadPoolExecutor(1, kind)
        _every.append(self)

    def wish(self, name: Hashable, work: Callable[[], object]) -> None:
        """Have it done. Returns at once; what it raises is logged."""
        with self._guard:
            if name == self._under_way:
                return
            first = name not in self._waiting
            self._waiting[name] = work
            if first:
                self._pool.submit(self._next, name)

    def waiting(self) -> list[Hashable]:
        """Names of what has not begun yet."""
        with self._guard:
            return list(self._waiting)

    def has(self, name: Hashable) -> bool:
        """Whether it waits, or is under way."""
        with self._guard:
            return name in self._waiting or name == self._under_way

    def end(self) -> None:
        """Let go what has not begun: a process that ends waits for no more than is under way."""
        with self._guard:
            self._waiting.clear()
            self._ended.set()

    def _next(self, name: Hashable) -> None:
        with self._guard:
            work = self._waiting.pop(name, None)
            if work is None:
                # It was let go.
                return
            self._under_way = name
            self._ended.clear()
        begun = time.monotonic()
        try:
            work()
        except Exception:
            # Cut short by the end of the process it may break, and that is no fault.
            if not self._ended.is_set():
                log.exception("%s: %s", self._kind, name)
        finally:
            with self._guard:
                self._under_way = None
        self._ended.wait(self._rest * (time.monotonic() - begun))


_every: list[Beside] = []


def end_all() -> None:
    """Let go everything that waits beside."""
    for one in _every:
        one.end()
