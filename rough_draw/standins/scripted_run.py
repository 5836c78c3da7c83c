"""A whole evacuation played in the simulated world by a careful hand: for the command line and the demo data."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.planning.next_step import FLUSH_AT, ballast_at
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.standins.world import Truth, World


@dataclass(frozen=True)
class Played:
    """Readings (s, Pa or None over range) and touches (times in s since the pump started)."""

    readings: list[tuple[float, float | None]]
    touches: list[Touch]
    reached: bool


class _Hand:
    """A careful hand at a simulated job: reads, logs what it does, and does it."""

    def __init__(self, job: Job, truth: Truth, stop_at: float | None) -> None:
        self.world = World(job, truth)
        self.stop_at = stop_at
        self.readings: list[tuple[float, float | None]] = []
        self.touches: list[Touch] = []
        self.time = 0.0

    def wait(self, seconds: float) -> float | None:
        """Let time pass, and read."""
        self.time += seconds
        self.world.advance(self.time)
        value = self.world.read()
        self.readings.append((self.time, value))
        return value

    def do(self, kind: str) -> None:
        """Do something, and log it."""
        self.world.touch(kind)
        self.touches.append(Touch(kind, self.time))

    def stopped(self) -> bool:
        """Whether the play ends here, in the middle of whatever is going on."""
        return self.stop_at is not None and self.time >= self.stop_at

    def hold(self, minutes: float) -> None:
        """Isolate, stop the pump, wait."""
        self.do("isolate")
        self.wait(4.0)
        self.do("pump-off")
        end = self.time + minutes * 60.0 + 5.0
        while self.time < end and not self.stopped():
            self.wait(1.0 if end - self.time < 1900 else 2.0)


def play(
    job: Job,
    truth: Truth,
    hold_min: float | None = None,
    longest_h: float = 8.0,
    stop_at: float | None = None,
    below: float = 1.0,
    forgets: bool = False,
    before_min: float | None = None,
) -> Played:
    """Draw to the target, isolate, stop the pump, hold.

    ``before_min``: a first hold of so many minutes, after which it is opened to the pump again and drawn anew.

    ``hold_min`` minutes (the school's own if None); gives up drawing after ``longest_h`` hours and holds all the
    same. ``stop_at`` s ends the play there, in the middle of whatever is going on. ``below`` × target is where the
    hand isolates. ``forgets``: the ballast stays open.
    """
    criterion = chosen(job.criterion)
    level = ballast_at(job)
    hand = _Hand(job, truth, stop_at)
    if level is not None:
        hand.do("ballast-open")
    hand.do("pump-on")
    ballast, flushed = level is not None, not job.habits.valve_flush

    def draw() -> bool:
        nonlocal ballast, flushed
        while hand.time < longest_h * 3600.0 and not hand.stopped():
            value = hand.wait(1.0 if hand.time < 1800 else 5.0)
            if value is None:
                continue
            if ballast and not forgets and level is not None and value <= level:
                hand.do("ballast-shut")
                ballast = False
            if not flushed and value <= FLUSH_AT * criterion.target:
                hand.do("valve-flush")
                flushed = True
            if value <= criterion.target * below:
                return True
        return False

    reached = draw()
    if hand.stopped():
        return Played(hand.readings, hand.touches, reached)
    if before_min is not None:
        hand.hold(before_min)
        hand.do("pump-on")
        hand.wait(4.0)
        hand.do("reopen")
        reached = draw() or reached
    hand.hold(hold_min if hold_min is not None else criterion.minutes)
    return Played(hand.readings, hand.touches, reached)
