"""Moments in which the machine itself stood: a process that only sleeps was not woken either."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time

NAP_S = 0.02
STOOD_S = 0.1
"""Longer than this after its nap a process that does nothing was not given a core, s."""
Span = tuple[float, float]
"""From when to when something took, s by the monotonic clock, which all processes of a machine share."""


def share_of(spans: list[Span], at: float) -> float:
    """A quantile of how long spans are, ms."""
    values = sorted(1e3 * (b - a) for a, b in spans)
    return values[int(at * (len(values) - 1))] if values else 0.0


class Stalls:
    """Stalls since `begin`, watched by a process of its own."""

    def __init__(self) -> None:
        # Not a pipe: nobody reads before the end, and a full one would hold up who only watches.
        self.told = tempfile.TemporaryFile("w+")  # noqa: SIM115  open as long as the watch
        self.process = subprocess.Popen([sys.executable, "-m", "bench.stalls"], stdout=self.told)
        self.since = time.monotonic()
        self.found: list[Span] | None = None

    def begin(self) -> None:
        """From now on they count."""
        self.since = time.monotonic()

    def stop(self) -> list[Span]:
        """End the watch; what it saw."""
        if self.found is None:
            self.process.terminate()
            self.process.wait()
            self.told.seek(0)
            spans = [tuple(map(float, line.split())) for line in self.told]
            self.found = [(a, b) for a, b in spans if b >= self.since]
            self.until = time.monotonic()
        return self.found

    def clear(self, spans: list[Span]) -> list[Span]:
        """Those that no stall lies in."""
        stood = self.stop()
        return [(a, b) for a, b in spans if not any(x < b and y > a for x, y in stood)]

    def percent(self) -> float:
        """Of the time, how much the machine stood."""
        stood = sum(b - a for a, b in self.stop())
        return 100.0 * stood / (self.until - self.since)


def main() -> None:
    """Nap, look at the clock, say where the nap was longer than it should be."""
    last = time.monotonic()
    while True:
        time.sleep(NAP_S)
        now = time.monotonic()
        if now - last > NAP_S + STOOD_S:
            print(f"{last + NAP_S:.3f} {now:.3f}", flush=True)
        last = now


if __name__ == "__main__":
    main()
