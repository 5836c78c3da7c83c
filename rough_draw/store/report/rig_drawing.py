"""The rig line on paper: the same shapes as on screen and in the SVG, in ink."""

from __future__ import annotations

import re

from reportlab.graphics import shapes as paper
from reportlab.lib.colors import Color, white
from reportlab.pdfbase.pdfmetrics import stringWidth

from rough_draw.core.planning.plan import Plan
from rough_draw.core.sheet.job import Job
from rough_draw.store.report.fonts import BOLD, TEXT, plain
from rough_draw.store.report.inks import GREEN, INK, MEASURED, PAPER, SOFT, STOP
from rough_draw.store.rig_shapes import Block, Ink, Line, Ring, Shape, Words, rig_shapes

INKS: dict[Ink, Color] = {
    "ink": INK,
    "soft": SOFT,
    "sheet": PAPER,
    "green": GREEN,
    "stop": STOP,
    "measured": MEASURED,
    "white": white,
}
MOST_SCALE = 0.62
"""Points to a pixel of the screen at the most."""


def rig_drawing(job: Job, plan: Plan, width: float) -> paper.Drawing:
    """The rig line, as wide as the page at the most."""
    d, shapes = rig_shapes(job, plan)
    scale = min(MOST_SCALE, width / d.width)
    # The screen counts down from the top, paper up from the foot.
    sheet = paper.Group(transform=(scale, 0, 0, -scale, 0, scale * d.height))
    for s in shapes:
        sheet.add(_drawn(s))
    found = paper.Drawing(width, scale * d.height)
    found.add(sheet)
    return found


def _drawn(s: Shape) -> paper.Shape:
    match s:
        case Line():
            return _stroke(s)
        case Ring(x, y, r):
            return paper.Circle(x, y, r, strokeColor=INK, strokeWidth=2.5, fillColor=PAPER)
        case Block():
            outline = {"strokeColor": INK, "strokeWidth": 2.5} if s.outlined else {"strokeColor": None}
            made = paper.Rect(s.x, s.y, s.w, s.h, rx=s.r, ry=s.r, fillColor=INKS[s.fill], **outline)
            made.strokeDashArray = list(s.dash) if s.dash else None
            return made
        case Words():
            return _words(s)


def _stroke(line: Line) -> paper.Path:
    """A path of moves, level and upright strokes."""
    made = paper.Path(strokeColor=INKS[line.ink], strokeWidth=line.width, fillColor=None)
    x = y = 0.0
    for move, values in re.findall(r"([MHVL])([-\d. ]+)", line.path):
        numbers = [float(v) for v in values.split()]
        x = numbers[0] if move in "MHL" else x
        y = numbers[-1] if move in "MVL" else y
        (made.moveTo if move == "M" else made.lineTo)(x, y)
    return made


def _words(w: Words) -> paper.Group:
    """Words upright on a sheet that is turned upside down."""
    text, font = plain(w.text, BOLD if w.bold else TEXT)
    size = float(w.size)
    if w.within is not None:
        size = min(size, size * w.within / max(1.0, stringWidth(text, font, size)))
    turned = paper.Group(transform=(1, 0, 0, -1, 0, 2 * w.y))
    turned.add(paper.String(w.x, w.y, text, fontName=font, fontSize=size, fillColor=INKS[w.ink], textAnchor="middle"))
    return turned
