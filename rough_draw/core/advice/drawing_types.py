"""What a drawn rig line consists of, and the grid its sections fall into."""

from __future__ import annotations

import math
from collections import deque
from dataclasses import dataclass, field

from rough_draw.core.message import Name
from rough_draw.core.sheet.job import Job

BOX_H = 60.0


@dataclass(frozen=True)
class Stroke:
    """A drawn pipe. ``part``: what it belongs to (a rig part's id, or ``link:`` and a link's id)."""

    part: str
    path: str
    label: Name = ""
    x: float = 0.0
    y: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Box:
    """A compartment: the pump, a manifold, a cylinder, or a section with its state."""

    name: str
    kind: str
    label: Name
    x: float
    y: float
    w: float
    h: float = BOX_H
    state: str = "pumped"


@dataclass(frozen=True, kw_only=True)
class Round:
    """A valve: a circle with a bar along the pipe (``upright`` for a vertical one)."""

    valve: str
    part: str
    label: Name
    x: float
    y: float
    small: bool = False
    upright: bool = False


@dataclass(frozen=True, kw_only=True)
class Flag:
    """A gauge as a flag: its foot, where the flag hangs (``left`` of its pole), and in words where it sits."""

    part: str
    x: float
    y: float
    foot: float
    where: Name = ""
    left: bool = False


@dataclass(frozen=True)
class Mark:
    """A small label."""

    text: Name
    x: float
    y: float


@dataclass(frozen=True)
class Way:
    """One way from the pump to a port: part ids in order, for the upright drawing."""

    port: str
    label: Name
    parts: tuple[str, ...]


@dataclass(kw_only=True)
class Drawing:
    """Everything that is drawn."""

    width: float = 1120.0
    height: float = 140.0
    strokes: list[Stroke] = field(default_factory=list)
    boxes: list[Box] = field(default_factory=list)
    valves: list[Round] = field(default_factory=list)
    flags: list[Flag] = field(default_factory=list)
    marks: list[Mark] = field(default_factory=list)
    ways: list[Way] = field(default_factory=list)


def stroke_width(conductance: float) -> float:
    """Width of a stroke, 2 to 17, by the logarithm of a conductance in m³/s."""
    return min(17.0, max(2.0, 2.0 + 4.2 * (math.log10(max(conductance, 1e-7)) + 5.5)))


def columns(job: Job, start: str, end: str | None) -> dict[str, tuple[int, int]]:
    """Column and row of every section: column by steps from ``start``, the way to ``end`` along the top row.

    What nothing joins to ``start`` begins again at the left, below; sections that keep their charge stand last.
    """
    ids = [s.id for s in job.scope.sections]
    kept = {s.id for s in job.scope.sections if s.holds_charge}
    near: dict[str, list[str]] = {i: [] for i in ids}
    for x in job.scope.links:
        near[x.a].append(x.b)
        near[x.b].append(x.a)
    steps: dict[str, int] = {}
    before: dict[str, str] = {}
    ports = [p.section for p in job.scope.ports]
    for root in [start, *ports, *ids]:
        if root in steps or root in kept:
            continue
        steps[root] = 0
        todo = deque([root])
        while todo:
            here = todo.popleft()
            for n in sorted(near[here], key=ids.index):
                if n not in steps and n not in kept:
                    steps[n], before[n] = steps[here] + 1, here
                    todo.append(n)
    for i in [i for i in ids if i in kept]:
        steps[i] = min((steps[n] for n in near[i] if n not in kept and n in steps), default=0) + 1
    mine = {start} | {i for i in ids if i in before and _root(before, i) == start}
    goal = end if end in mine else max(mine, key=lambda n: steps[n])
    chain = [goal]
    while chain[-1] in before:
        chain.append(before[chain[-1]])
    taken: dict[int, int] = {}
    place = {}
    rest = sorted((i for i in ids if i not in chain), key=lambda i: (i in kept, steps[i], ids.index(i)))
    for i in [*reversed(chain), *rest]:
        column = steps[i]
        place[i] = (column, taken.get(column, 0))
        taken[column] = taken.get(column, 0) + 1
    return place


def _root(before: dict[str, str], name: str) -> str:
    while name in before:
        name = before[name]
    return name
