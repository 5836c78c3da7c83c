"""The rig line as an SVG file: the same layout as on screen, in ink on paper."""

from __future__ import annotations

from xml.sax.saxutils import escape

from rough_draw.core.advice.drawing import draw
from rough_draw.core.advice.drawing_types import BOX_H, Box, Round, stroke_width
from rough_draw.core.message import message
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.planning.plan import Plan
from rough_draw.core.sheet.job import Job
from rough_draw.text import say

INK, SOFT, SHEET, GREEN, STOP, MEASURE = "#16212B", "#55604F", "#FAFBF3", "#1C6A43", "#B3261A", "#1B3F9C"
TEXT = 'font-family="Atkinson Hyperlegible Next, Helvetica, Arial, sans-serif"'


def _text(x: float, y: float, words: str, size: int = 14, colour: str = SOFT, bold: bool = False) -> str:
    weight = ' font-weight="700"' if bold else ""
    return (
        f'<text x="{x:.0f}" y="{y:.0f}" text-anchor="middle" font-size="{size}" fill="{colour}" {TEXT}{weight}>'
        f"{escape(words)}</text>"
    )


def _box(b: Box) -> str:
    dash = {"left-out": ' stroke-dasharray="7 5"', "charge": ' stroke-dasharray="2 4"'}.get(b.state, "")
    note = say(message(f"section-{b.state}")) if b.state in ("left-out", "charge") else ""
    at = f'x="{b.x:.0f}" y="{b.y:.0f}" width="{b.w:.0f}" height="{b.h:.0f}" rx="6"'
    shape = f'<rect {at} fill="{SHEET}" stroke="{INK}" stroke-width="2.5"{dash}/>'
    middle = b.y + (b.h / 2 + 5 if not note else 26)
    label = say(b.label)
    size = min(14, int(1.75 * (b.w - 8) / max(1, len(label))))
    words = _text(b.x + b.w / 2, middle, label, size, INK, True)
    return shape + words + (_text(b.x + b.w / 2, b.y + BOX_H - 12, note, 12) if note else "")


def _valve(v: Round, is_open: bool) -> str:
    r = 11 if v.small else 19
    along = is_open != v.upright
    w, h = (2 * r - 10, 5) if along else (5, 2 * r - 10)
    colour = GREEN if is_open else STOP
    return (
        f'<circle cx="{v.x:.0f}" cy="{v.y:.0f}" r="{r}" fill="{SHEET}" stroke="{INK}" stroke-width="2.5"/>'
        f'<rect x="{v.x - w / 2:.0f}" y="{v.y - h / 2:.0f}" width="{w}" height="{h}" rx="2.5" fill="{colour}"/>'
    )


def rig_svg(job: Job, plan: Plan) -> str:
    """The rig line of a planned job, strokes by conductance at the target, valves as the sheet has them."""
    d = draw(job, plan.assembly)
    widths = {p.name: stroke_width(p.conductance) for p in plan.steady.parts}
    tubes = {t.name: t.open for t in plan.assembly.network.tubes}
    parts = []
    for s in d.strokes:
        width = widths.get(s.part, 4.0)
        parts.append(f'<path d="{s.path}" fill="none" stroke="{INK}" stroke-width="{width:.1f}"/>')
        if s.label:
            parts.append(_text(s.x, s.y, say(s.label)))
    parts += [_box(b) for b in d.boxes]
    parts += [_text(m.x, m.y, say(m.text)) for m in d.marks]
    parts += [_valve(v, tubes.get(plan.assembly.valves[v.valve].tube, False)) for v in d.valves]
    for f in d.flags:
        x = f.x - 85 if f.left else f.x
        pole = f"H{x + 70:.0f}" if f.left else f"V{f.y:.0f}"
        parts.append(f'<path d="M{f.x:.0f} {f.foot:.0f}{pole}" stroke="{MEASURE}" stroke-width="3"/>')
        parts.append(f'<rect x="{x:.0f}" y="{f.y:.0f}" width="70" height="22" fill="{MEASURE}"/>')
        parts.append(_text(x + 35, f.y + 16, say(message("mark-gauge")), 14, "#FFFFFF", True))
    span = plan.time_to_target
    title = job.title or message("drawing-untitled")
    if span is None:
        told = message("drawing-out-of-reach", title=title)
    else:
        told = message("drawing-time", title=title, level=vacuum(plan.target), time=duration(span.value))
    parts.append(_text(d.width / 2, d.height + 16, say(told)))
    size = f'width="{d.width:.0f}" height="{d.height + 26:.0f}" viewBox="0 0 {d.width:.0f} {d.height + 26:.0f}"'
    paper = f'<rect width="100%" height="100%" fill="{SHEET}"/>'
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size}>{paper}{"".join(parts)}</svg>\n'
