"""What the machine itself was like meanwhile: moments in which it stood, since a process that only sleeps was not woken
either; seconds in which its cores were given to another guest of its host; and how fast it went, by a small piece of
work that is always the same.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from pathlib import Path

NAP_S = 0.02
STOOD_S = 0.1
"""Longer than this after its nap a process that does nothing was not given a core, s."""
WORK_S = 1.0
"""How often the piece of work is done, s."""
ADDITIONS = 20_000
TAKEN = 0.05
"""Share of the cores' time from which a second counts as one in which the machine was not whole."""
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
        self.work: list[float] = []

    def begin(self) -> None:
        """From now on they count."""
        self.since = time.monotonic()

    def stop(self) -> list[Span]:
        """End the watch; what it saw."""
        if self.found is None:
            self.process.terminate()
            self.process.wait()
            self.told.seek(0)
            rows = [(kind, float(a), float(b)) for kind, a, b in map(str.split, self.told)]
            self.found = [(a, b) for kind, a, b in rows if kind in ("stood", "taken") and b >= self.since]
            self.work = sorted(1e3 * took for kind, at, took in rows if kind == "worked" and at >= self.since)
            self.until = time.monotonic()
        return self.found

    def clear(self, spans: list[Span]) -> list[Span]:
        """Those during which the machine did not stand and was whole."""
        stood = self.stop()
        return [(a, b) for a, b in spans if not any(x < b and y > a for x, y in stood)]

    def percent(self) -> float:
        """Of the time, how much the machine stood or was not whole."""
        end, total = self.since, 0.0
        for a, b in sorted(self.stop()):
            total += max(0.0, b - max(a, end))
            end = max(end, b)
        return 100.0 * total / (self.until - self.since)

    def work_ms(self) -> float:
        """How long the piece of work took, median, ms: where it takes longer, so does everything."""
        self.stop()
        return self.work[len(self.work) // 2] if self.work else 0.0


def worked() -> float:
    """Do the piece of work; how long it took by this process's own time, s."""
    begun = time.process_time()
    total = 0
    for n in range(ADDITIONS):
        total += n
    return time.process_time() - begun


def taken() -> tuple[int, int]:
    """Time of all cores since the machine began that its host gave to others, and all of it, in ticks."""
    ticks = [int(n) for n in Path("/proc/stat").read_text().splitlines()[0].split()[1:9]]
    return ticks[7], sum(ticks)


def main() -> None:
    """Nap, look at the clock, say where the nap was longer than it should be; now and then do a piece of work, and say
    where the second before it was not the machine's own.
    """
    last = worked_at = time.monotonic()
    before = taken()
    while True:
        if last - worked_at > WORK_S:
            counted = taken()
            if counted[0] - before[0] > TAKEN * (counted[1] - before[1]):
                print(f"taken {worked_at:.3f} {last:.3f}", flush=True)
            before, worked_at = counted, last
            print(f"worked {last:.3f} {worked():.6f}", flush=True)
            last = time.monotonic()
        time.sleep(NAP_S)
        now = time.monotonic()
        if now - last > NAP_S + STOOD_S:
            print(f"stood {last + NAP_S:.3f} {now:.3f}", flush=True)
        last = now


if __name__ == "__main__":
    main()
