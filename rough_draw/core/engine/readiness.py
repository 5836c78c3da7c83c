"""Whether the engine may be used: not while it is compiled for the first time beside a server that answers already."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from rough_draw.core.message import message
from rough_draw.core.message.fault import Telling

_ready = threading.Event()
_ready.set()


class NotReady(Telling):
    """The engine is being compiled; what needs it is to be asked for again."""


def must_be_ready() -> None:
    """Go on, unless the engine is being compiled. Raises NotReady."""
    if not _ready.is_set():
        raise NotReady(message("engine-building"))


@contextmanager
def building() -> Iterator[None]:
    """While this lasts nobody uses the engine."""
    _ready.clear()
    try:
        yield
    finally:
        _ready.set()
