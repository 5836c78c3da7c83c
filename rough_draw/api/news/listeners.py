"""Fan-out to open streams: the readings of a job to who watches it, and to everybody what has changed."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator, Collection
from dataclasses import dataclass, field

SOON_S = 0.08
"""What changes within this many seconds is told at once: an edit, and what follows from it, is one piece of news."""
READINGS_S = 2.0
"""The same for readings: a page that does not show a job's trace has no use for each of them."""
MOST_WAITING = 500

Heard = dict[str, object]


@dataclass(eq=False)
class _Stream:
    jobs: frozenset[str]
    everything: bool
    queue: asyncio.Queue[Heard] = field(default_factory=lambda: asyncio.Queue(MOST_WAITING))

    def put(self, message: Heard) -> None:
        if self.queue.full():
            while not self.queue.empty():
                self.queue.get_nowait()
            self.queue.put_nowait({"kind": "reload"})
        else:
            self.queue.put_nowait(message)


class Listeners:
    """The open streams. Belongs to the event loop; `changed_from_thread` is for everybody else."""

    def __init__(self) -> None:
        self._streams: set[_Stream] = set()
        self.count = 0
        """Grows with whatever may have changed anything but a live figure: what was worked out at one count stands."""
        self._loop: asyncio.AbstractEventLoop | None = None
        self._jobs: set[tuple[str, str]] = set()
        self._lists: set[tuple[str, str]] = set()
        self._read: set[str] = set()
        self._soon: asyncio.TimerHandle | None = None
        self._later: asyncio.TimerHandle | None = None

    @property
    def any_page(self) -> bool:
        """Whether somebody hears what changes."""
        return any(s.everything for s in self._streams)

    def tell(self, key: str, message: Heard) -> None:
        """Hand a message to every stream of a job; one that does not keep up is told to reload instead."""
        if message.get("kind") != "readings":
            self.count += 1
        for stream in self._streams:
            if key in stream.jobs:
                stream.put({"job": key, **message})
        if message.get("kind") == "readings" and self.any_page:
            self._read.add(key)
            if self._later is None:
                self._later = asyncio.get_running_loop().call_later(READINGS_S, self._tell_read)

    def changed(self, job: str = "", group: str = "", by: str = "") -> None:
        """A job or a group of things (kit, settings, …) has changed, by the page ``by`` where it is known."""
        self.count += 1
        if not self.any_page:
            return
        if job:
            self._jobs.add((job, by))
        if group:
            self._lists.add((group, by))
        if self._soon is None:
            self._soon = asyncio.get_running_loop().call_later(SOON_S, self._tell_changed)

    def changed_from_thread(self, job: str = "", group: str = "") -> None:
        """The same from any thread; nothing where nobody has listened yet."""
        if self._loop is not None and not self._loop.is_closed():
            self._loop.call_soon_threadsafe(self.changed, job, group)

    async def listen(self, jobs: Collection[str], everything: bool = False) -> AsyncIterator[Heard]:
        """A hello, from which on nothing is missed; then messages of these jobs as they come. ``everything``: and what
        has changed anywhere.
        """
        self._loop = asyncio.get_running_loop()
        stream = _Stream(frozenset(jobs), everything)
        self._streams.add(stream)
        try:
            yield {"kind": "hello"}
            while True:
                yield await stream.queue.get()
        finally:
            self._streams.discard(stream)

    def _tell_changed(self) -> None:
        self._soon = None
        jobs = [{"job": job, "by": by} for job, by in sorted(self._jobs)]
        lists = [{"group": group, "by": by} for group, by in sorted(self._lists)]
        self._jobs.clear()
        self._lists.clear()
        self._tell_all({"kind": "changed", "jobs": jobs, "groups": lists})

    def _tell_read(self) -> None:
        self._later = None
        read = sorted(self._read)
        self._read.clear()
        self._tell_all({"kind": "read", "jobs": read})

    def _tell_all(self, message: Heard) -> None:
        for stream in self._streams:
            if stream.everything:
                stream.put(message)
