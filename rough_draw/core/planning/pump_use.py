"""What each pump is doing: running on a job, left on one, planned for one, or free."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.message import Name
from rough_draw.core.sheet.naming import pump_size
from rough_draw.core.sheet.rig import PumpPart

Doing = Literal["runs", "stands", "planned", "free"]
PLATE = "plate:"
ORDER: dict[Doing, int] = {"runs": 0, "stands": 1, "planned": 2, "free": 3}


def mark_of(pump: PumpPart) -> str:
    """What tells a pump from another: its name, or its plate where it has none."""
    return pump.name or f"{PLATE}{pump.plate_cfm:g}"


def name_of(mark: str) -> Name:
    """A pump as it is called, by what tells it from another."""
    return pump_size(float(mark.removeprefix(PLATE))) if mark.startswith(PLATE) else mark


@dataclass(frozen=True, kw_only=True)
class Use:
    """A job's claim on a pump. ``on``: it runs now; ``since`` it started or stopped; ``start``: planned (epoch s).

    ``over``: the job is done with it: signed, or its pump was stopped and a later job has it.
    """

    key: str
    title: str
    pump: str
    on: bool = False
    since: float | None = None
    start: float | None = None
    over: bool = False


@dataclass(frozen=True, kw_only=True)
class PumpLine:
    """One pump: what it does, for which job (key and title; empty where free), and since or at when (epoch s)."""

    pump: str
    doing: Doing
    job: str = ""
    title: str = ""
    at: float | None = None
    also: tuple[str, ...] = ()


def lines(kit: Iterable[str], uses: Sequence[Use]) -> list[PumpLine]:
    """Every pump of the kit and of the jobs, those that run first. ``also``: other jobs that claim it as running."""
    names = list(dict.fromkeys([*kit, *(u.pump for u in uses if not u.over)]))
    return sorted((_line(n, [u for u in uses if u.pump == n and not u.over]) for n in names), key=_rank)


def _rank(line: PumpLine) -> tuple[int, float, str]:
    return ORDER[line.doing], line.at or 0.0, line.pump


def _line(pump: str, mine: Sequence[Use]) -> PumpLine:
    running = [u for u in mine if u.on]
    if running:
        first, *rest = sorted(running, key=lambda u: -(u.since or 0.0))
        return PumpLine(
            pump=pump, doing="runs", job=first.key, title=first.title, at=first.since, also=tuple(u.title for u in rest)
        )
    planned = sorted((u for u in mine if u.start is not None and u.since is None), key=lambda u: u.start or 0.0)
    if planned:
        u = planned[0]
        return PumpLine(pump=pump, doing="planned", job=u.key, title=u.title, at=u.start)
    stopped = sorted((u for u in mine if u.since is not None), key=lambda u: -(u.since or 0.0))
    if stopped:
        u = stopped[0]
        return PumpLine(pump=pump, doing="stands", job=u.key, title=u.title, at=u.since)
    return PumpLine(pump=pump, doing="free")
