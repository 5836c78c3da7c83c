"""The rig line as plain shapes, laid out as on the screen: the SVG and the printed page draw the same."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.advice.drawing import draw
from rough_draw.core.advice.drawing_types import BOX_H, Box, Drawing, Flag, Round, stroke_width
from rough_draw.core.message import message
from rough_draw.core.planning.plan import Plan
from rough_draw.core.sheet.job import Job
from rough_draw.text import say

Ink = Literal["ink", "soft", "sheet", "green", "stop", "measured", "white"]


@dataclass(frozen=True)
class Line:
    """A stroke by an SVG path of moves, level and upright lines."""

    path: str
    width: float
    ink: Ink = "ink"


@dataclass(frozen=True, kw_only=True)
class Block:
    """A rectangle with rounded corners; ``dash`` of its outline, where it has one."""

    x: float
    y: float
    w: float
    h: float
    r: float = 0.0
    fill: Ink = "sheet"
    outlined: bool = False
    dash: tuple[int, int] | None = None


@dataclass(frozen=True)
class Ring:
    """A circle with an outline."""

    x: float
    y: float
    r: float


@dataclass(frozen=True, kw_only=True)
class Words:
    """Words with their middle at ``x``; made smaller to go into ``within``, where that is given."""

    x: float
    y: float
    text: str
    size: int = 14
    ink: Ink = "soft"
    bold: bool = False
    within: float | None = None


Shape = Line | Block | Ring | Words
DASHES = {"left-out": (7, 5), "charge": (2, 4)}


def rig_shapes(job: Job, plan: Plan) -> tuple[Drawing, list[Shape]]:
    """The layout of a planned job, and its shapes from the back to the front: strokes by conductance at the target,
    valves as the sheet has them.
    """
    d = draw(job, plan.assembly)
    widths = {p.name: stroke_width(p.conductance) for p in plan.steady.parts}
    tubes = {t.name: t.open for t in plan.assembly.network.tubes}
    found: list[Shape] = []
    for s in d.strokes:
        found.append(Line(s.path, widths.get(s.part, 4.0)))
        if s.label:
            found.append(Words(x=s.x, y=s.y, text=say(s.label)))
    for b in d.boxes:
        found += _box(b)
    found += [Words(x=m.x, y=m.y, text=say(m.text)) for m in d.marks]
    for v in d.valves:
        found += _valve(v, tubes.get(plan.assembly.valves[v.valve].tube, False))
    for f in d.flags:
        found += _flag(f)
    return d, found


def _box(b: Box) -> Iterator[Shape]:
    note = say(message(f"section-{b.state}")) if b.state in DASHES else ""
    yield Block(x=b.x, y=b.y, w=b.w, h=b.h, r=6, outlined=True, dash=DASHES.get(b.state))
    middle = b.y + (26 if note else b.h / 2 + 5)
    yield Words(x=b.x + b.w / 2, y=middle, text=say(b.label), ink="ink", bold=True, within=b.w - 8)
    if note:
        yield Words(x=b.x + b.w / 2, y=b.y + BOX_H - 12, text=note, size=12)


def _valve(v: Round, is_open: bool) -> Iterator[Shape]:
    """Round with a bar: along the way where it is open, across it where it is closed."""
    r = 11 if v.small else 19
    along = is_open != v.upright
    w, h = (2 * r - 10, 5) if along else (5, 2 * r - 10)
    yield Ring(v.x, v.y, r)
    yield Block(x=v.x - w / 2, y=v.y - h / 2, w=w, h=h, r=2.5, fill="green" if is_open else "stop")


def _flag(f: Flag) -> Iterator[Shape]:
    x = f.x - 85 if f.left else f.x
    pole = f"H{x + 70:.0f}" if f.left else f"V{f.y:.0f}"
    yield Line(f"M{f.x:.0f} {f.foot:.0f}{pole}", 3, "measured")
    yield Block(x=x, y=f.y, w=70, h=22, fill="measured")
    yield Words(x=x + 35, y=f.y + 16, text=say(message("mark-gauge")), ink="white", bold=True)
