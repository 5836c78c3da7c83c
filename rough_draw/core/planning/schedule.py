"""The touches of a day: when each comes on one job, and how several jobs, pumps and one person fit together."""

from __future__ import annotations

from dataclasses import dataclass, replace

from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import vacuum
from rough_draw.core.physics.interval import Range
from rough_draw.core.planning.next_step import CHECK_AT, FLUSH_AT, ballast_at
from rough_draw.core.planning.plan import Plan
from rough_draw.core.planning.pump_use import name_of
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job

RIGGING, PACKING = 20 * 60.0, 15 * 60.0
"""Seconds a hand is needed for before the pump runs, and after the hold (estimates)."""


@dataclass(frozen=True)
class DayTouch:
    """One touch ahead: seconds after the pump starts (early, expected, late), and seconds a hand is needed for."""

    kind: str
    title: Message
    at: Range
    hands: float


@dataclass(frozen=True)
class Planned:
    """A job in the day: key, words, the pump it takes, when the pump starts (epoch s; None: not set), its touches."""

    key: str
    title: str
    pump: str
    start: float | None
    touches: tuple[DayTouch, ...]

    def span(self) -> tuple[float, float]:
        """From the rigging to the last touch done, late case, epoch s. Only with a start."""
        start = self.start or 0.0
        last = self.touches[-1]
        return start - RIGGING, start + last.at.high + last.hands

    def pumping(self) -> tuple[float, float]:
        """While the pump is taken: from the rigging until the system is isolated, late case."""
        start = self.start or 0.0
        off = next((t for t in self.touches if t.kind == "isolate"), self.touches[-1])
        return start - RIGGING, start + off.at.high + off.hands

    def hands(self) -> list[tuple[float, float, DayTouch]]:
        """When a hand is needed, expected case, epoch s."""
        start = self.start or 0.0
        return [(start + t.at.value, start + t.at.value + t.hands, t) for t in self.touches]


@dataclass(frozen=True)
class Conflict:
    """Two jobs that want the same thing at once; ``at`` epoch s."""

    keys: tuple[str, str]
    what: str
    at: float
    words: Message


def touches(job: Job, plan: Plan) -> tuple[DayTouch, ...]:
    """Touches of one job from its plan; without a time to target, those that can be told."""
    c = chosen(job.criterion)

    def passes(level: float) -> Range | None:
        fast = [time_at_level(plan.times, curve, level) for curve in plan.gauge_band]
        known = [t for t in fast if t is not None]
        return Range(min(known), sorted(known)[len(known) // 2], max(known)) if len(known) == 3 else None

    found = [DayTouch("rig", message("day-rig"), Range(-RIGGING, -RIGGING, -RIGGING), RIGGING)]
    level = ballast_at(job)
    found.append(DayTouch("pump-on", message("day-pump-on", ballast="open" if level else "none"), Range(0, 0, 0), 120))
    ballast = passes(level) if level is not None else None
    if ballast is not None:
        found.append(DayTouch("ballast-shut", message("day-ballast-shut"), ballast, 60))
    check_at = c.check or (CHECK_AT if job.habits.check_hold else None)
    if check_at is not None and (check := passes(check_at)) is not None:
        found.append(DayTouch("check-hold", message("day-check-hold", level=vacuum(check_at)), check, 300))
    flush = passes(FLUSH_AT * c.target) if job.habits.valve_flush else None
    if flush is not None:
        found.append(DayTouch("valve-flush", message("day-valve-flush"), flush, 120))
    lost = 0.0
    for n, level in enumerate(c.breaks, 1):
        down = passes(level)
        if down is None or plan.time_to_target is None:
            break
        at = Range(down.low + lost, down.value + lost, down.high + lost * 1.3)
        found.append(DayTouch(f"break-{n}", message("day-break", number=n), at, 600))
        lost += down.value + 900.0
    target = plan.time_to_target
    if target is not None:
        dwell = c.dwell * 60.0
        at = Range(target.low + lost + dwell, target.value + lost + dwell, target.high + 1.3 * lost + dwell)
        found.append(DayTouch("isolate", message("day-isolate"), at, 180))
        hold = c.minutes * 60.0 + 180.0
        end = Range(at.low + hold, at.value + hold, at.high + hold)
        found.append(DayTouch("read-hold", message("day-read-hold"), end, PACKING))
    order = sorted(found, key=lambda t: t.at.value)
    return tuple(order)


def underway(
    planned: tuple[DayTouch, ...], done: frozenset[str], now: float, target: Range | None
) -> tuple[DayTouch, ...]:
    """What is left of a draw that runs, ``now`` s after its pump started, kinds of touch in ``done`` made.

    ``target`` s after the start is when the system gets there by its readings: what leads there moves in proportion,
    what follows keeps its distance. Nothing lies in the past.
    """
    was = next((t.at for t in planned if t.kind == "isolate"), None)
    left = []
    for t in planned:
        if t.kind in done or t.kind in ("rig", "pump-on"):
            continue
        at = t.at
        if target is not None and was is not None and was.value > 0:
            if t.at.value <= was.value:
                share = t.at.value / was.value
                at = Range(target.low * share, target.value * share, target.high * share)
            else:
                after = t.at.value - was.value
                at = Range(target.low + after, target.value + after, target.high + after)
        left.append(replace(t, at=Range(max(now, at.low), max(now, at.value), max(now, at.high))))
    return tuple(left)


def conflicts(jobs: list[Planned], travel_s: float) -> list[Conflict]:
    """Pumps taken twice, and hands wanted in two places with less than the way between."""
    found = []
    set_jobs = [j for j in jobs if j.start is not None]
    for i, a in enumerate(set_jobs):
        for b in set_jobs[i + 1 :]:
            (a0, a1), (b0, b1) = a.pumping(), b.pumping()
            if a.pump and a.pump == b.pump and a0 < b1 and b0 < a1:
                at = max(a0, b0)
                found.append(Conflict((a.key, b.key), "pump", at, message("clash-pump", pump=name_of(a.pump))))
            clash = _hands(a, b, travel_s)
            if clash is not None:
                at, first, second = clash
                words = message("clash-hands", one=first.title, two=second.title)
                found.append(Conflict((a.key, b.key), "hands", at, words))
    return sorted(found, key=lambda c: c.at)


def _hands(a: Planned, b: Planned, travel_s: float) -> tuple[float, DayTouch, DayTouch] | None:
    for s0, e0, t0 in a.hands():
        for s1, e1, t1 in b.hands():
            if s0 < e1 + travel_s and s1 < e0 + travel_s:
                return max(s0, s1), t0, t1
    return None


def fit(jobs: list[Planned], day_start: float, travel_s: float, step: float = 300.0) -> list[Planned]:
    """Propose starts for jobs that have none: each, in turn, as early as pump and hands allow.

    Jobs with a start keep it. ``day_start`` epoch s. A simple schedule, first come first served, not the shortest.
    """
    placed = [j for j in jobs if j.start is not None]
    result: dict[str, Planned] = {j.key: j for j in placed}
    for j in jobs:
        if j.start is not None:
            continue
        start = day_start + RIGGING
        for _ in range(600):
            tried = replace(j, start=start)
            if not any(j.key in c.keys for c in conflicts([*placed, tried], travel_s)):
                break
            start += step
        tried = replace(j, start=start)
        placed.append(tried)
        result[j.key] = tried
    return [result[j.key] for j in jobs]
