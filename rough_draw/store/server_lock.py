"""One server to a database file: the second is told who has it, and ends."""

from __future__ import annotations

import os
from pathlib import Path
from typing import IO

from rough_draw.core.message import Telling, message

try:
    import fcntl
except ImportError:  # Elsewhere than on Unix nothing is locked.
    fcntl = None  # type: ignore[assignment]


class InUse(Telling, RuntimeError):
    """Another process serves this file."""


def lock(database: str | Path) -> IO[str]:
    """Hold the file's lock until the handle that is returned is closed, or the process ends, however it ends.

    Raises InUse, with the number of the process that has it.
    """
    beside = Path(f"{database}.lock")
    beside.parent.mkdir(parents=True, exist_ok=True)
    held = open(beside, "a+", encoding="ascii")  # noqa: SIM115 (it is held for as long as the server runs)
    if fcntl is not None:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            held.seek(0)
            who = held.read(20).strip()
            held.close()
            raise InUse(message("database-in-use", file=str(database), process=who or "?")) from None
    held.truncate(0)
    held.write(str(os.getpid()))
    held.flush()
    return held
