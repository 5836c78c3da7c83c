"""The rig line on paper: the same layout as on screen, strokes by conductance, in ink."""

from __future__ import annotations

import re

from reportlab.graphics.shapes import Circle, Drawing, Group, Line, Path, Rect, String
from reportlab.lib.colors import white
from reportlab.pdfbase.pdfmetrics import stringWidth

from rough_draw.core.advice.drawing import draw
from rough_draw.core.advice.drawing_types import BOX_H, Box, Flag, Round, stroke_width
from rough_draw.core.message import message
from rough_draw.core.planning.plan import Plan
from rough_draw.core.sheet.job import Job
from rough_draw.store.report.fonts import BOLD, TEXT, plain
from rough_draw.store.report.inks import GREEN, INK, MEASURED, PAPER, SOFT, STOP
from rough_draw.text import say

DASHES = {"left-out": [7, 5], "charge": [2, 4]}


def rig_drawing(job: Job, plan: Plan, width: float) -> Drawing:
    """The rig line, as wide as the page at the most."""
    d = draw(job, plan.assembly)
    scale = min(0.62, width / d.width)
    widths = {p.name: stroke_width(p.conductance) for p in plan.steady.parts}
    tubes = {t.name: t.open for t in plan.assembly.network.tubes}
    # The screen counts down from the top, paper up from the foot.
    sheet = Group(transform=(scale, 0, 0, -scale, 0, scale * d.height))
    for s in d.strokes:
        sheet.add(_stroke(s.path, widths.get(s.part, 4.0)))
        if s.label:
            sheet.add(_words(s.x, s.y, say(s.label)))
    for b in d.boxes:
        _box(sheet, b)
    for m in d.marks:
        sheet.add(_words(m.x, m.y, say(m.text)))
    for v in d.valves:
        _valve(sheet, v, tubes.get(plan.assembly.valves[v.valve].tube, False))
    for f in d.flags:
        _flag(sheet, f)
    found = Drawing(width, scale * d.height)
    found.add(sheet)
    return found


def _stroke(path: str, width: float) -> Path:
    """A path of moves, level and upright strokes."""
    made = Path(strokeColor=INK, strokeWidth=width, fillColor=None)
    x = y = 0.0
    for move, values in re.findall(r"([MHVL])([-\d. ]+)", path):
        numbers = [float(v) for v in values.split()]
        x = numbers[0] if move in "MHL" else x
        y = numbers[-1] if move in "MVL" else y
        (made.moveTo if move == "M" else made.lineTo)(x, y)
    return made


def _words(x: float, y: float, words: str, size: float = 14, colour=SOFT, font: str = TEXT) -> Group:  # type: ignore[no-untyped-def]
    """Words upright on a sheet that is turned upside down."""
    turned = Group(transform=(1, 0, 0, -1, 0, 2 * y))
    turned.add(String(x, y, plain(words, font), fontName=font, fontSize=size, fillColor=colour, textAnchor="middle"))
    return turned


def _box(sheet: Group, b: Box) -> None:
    shape = Rect(b.x, b.y, b.w, b.h, rx=6, ry=6, strokeColor=INK, strokeWidth=2.5, fillColor=PAPER)
    shape.strokeDashArray = DASHES.get(b.state)
    sheet.add(shape)
    note = say(message(f"section-{b.state}")) if b.state in DASHES else ""
    label = say(b.label)
    size = min(14.0, 14.0 * (b.w - 8) / max(1.0, stringWidth(label, BOLD, 14)))
    sheet.add(_words(b.x + b.w / 2, b.y + (26 if note else b.h / 2 + 5), label, size, INK, BOLD))
    if note:
        sheet.add(_words(b.x + b.w / 2, b.y + BOX_H - 12, note, 12))


def _valve(sheet: Group, v: Round, is_open: bool) -> None:
    """Round with a bar: along the way where it is open, across it where it is closed."""
    r = 11 if v.small else 19
    along = is_open != v.upright
    w, h = (2 * r - 10, 5) if along else (5, 2 * r - 10)
    sheet.add(Circle(v.x, v.y, r, strokeColor=INK, strokeWidth=2.5, fillColor=PAPER))
    colour = GREEN if is_open else STOP
    sheet.add(Rect(v.x - w / 2, v.y - h / 2, w, h, rx=2, ry=2, strokeColor=None, fillColor=colour))


def _flag(sheet: Group, f: Flag) -> None:
    x = f.x - 85 if f.left else f.x
    sheet.add(
        Line(f.x, f.foot, x + 70 if f.left else f.x, f.foot if f.left else f.y, strokeColor=MEASURED, strokeWidth=3)
    )
    sheet.add(Rect(x, f.y, 70, 22, strokeColor=None, fillColor=MEASURED))
    sheet.add(_words(x + 35, f.y + 16, say(message("mark-gauge")), 14, white, BOLD))
