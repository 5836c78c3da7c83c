"""A server on a rough machine, for the soak: its clock stands off by what a file says, and its disk is slow.

``python -m bench.rough_server STEPS serve --db …``: `time.time` is off by the seconds in the file STEPS, read again all
the time, so that the clock is stepped while it runs; each transaction waits before it is on disk, as behind a slow one.
"""

from __future__ import annotations

import random
import sys
import time
from pathlib import Path

STEPS = (0.0, -3600.0, -90.0, -2.0, 2.0, 45.0, 600.0)
"""What a clock is stepped to, s off: an hour back, a few seconds, ten minutes ahead."""
SLOW_S = (0.002, 0.015)
"""What a transaction waits at the disk, s: as a worn card in a small machine does."""
LOOK_S = 0.5


def step_clock(file: Path) -> None:
    """From now on `time.time` is off by what the file says."""
    true = time.time
    kept = {"looked": 0.0, "off": 0.0}

    def stepped() -> float:
        if time.monotonic() - kept["looked"] > LOOK_S:
            kept["looked"] = time.monotonic()
            kept["off"] = float(file.read_text() or 0.0)
        return true() + kept["off"]

    time.time = stepped


def slow_disk() -> None:
    """From now on a transaction takes its time to be on disk, and holds the lock meanwhile, as one does."""
    from peewee import SqliteDatabase

    plain = SqliteDatabase.commit

    def slowly(self: SqliteDatabase) -> object:
        time.sleep(random.uniform(*SLOW_S))
        return plain(self)

    SqliteDatabase.commit = slowly  # type: ignore[method-assign, assignment]


def main() -> None:
    """The command line of the application, on such a machine."""
    step_clock(Path(sys.argv[1]))
    slow_disk()
    from rough_draw.cli.main import main as command

    command(sys.argv[2:])


if __name__ == "__main__":
    main()
