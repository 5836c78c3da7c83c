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
    world = World(job, truth)
    criterion = chosen(job.criterion)
    level = ballast_at(job)
    touches = [*([Touch("ballast-open", 0.0)] if level is not None else []), Touch("pump-on", 0.0)]
    for t in touches:
        world.touch(t.kind)
    readings: list[tuple[float, float | None]] = []
    ballast, flushed, reached = level is not None, not job.habits.valve_flush, False
    time = 0.0

    def step(seconds: float) -> float | None:
        nonlocal time
        time += seconds
        world.advance(time)
        value = world.read()
        readings.append((time, value))
        return value

    def log(kind: str) -> None:
        world.touch(kind)
        touches.append(Touch(kind, time))

    def draw() -> None:
        nonlocal ballast, flushed, reached
        while time < longest_h * 3600.0 and (stop_at is None or time < stop_at):
            value = step(1.0 if time < 1800 else 5.0)
            if value is None:
                continue
            if ballast and not forgets and level is not None and value <= level:
                log("ballast-shut")
                ballast = False
            if not flushed and value <= FLUSH_AT * criterion.target:
                log("valve-flush")
                flushed = True
            if value <= criterion.target * below:
                reached = True
                return

    def hold(minutes: float) -> None:
        log("isolate")
        step(4.0)
        log("pump-off")
        end = time + minutes * 60.0 + 5.0
        while time < end and (stop_at is None or time < stop_at):
            step(1.0 if end - time < 1900 else 2.0)

    draw()
    if stop_at is not None and time >= stop_at:
        return Played(readings, touches, reached)
    if before_min is not None:
        hold(before_min)
        log("pump-on")
        step(4.0)
        log("reopen")
        draw()
    hold(hold_min if hold_min is not None else criterion.minutes)
    return Played(readings, touches, reached)
