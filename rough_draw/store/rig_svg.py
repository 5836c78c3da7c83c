"""The rig line as an SVG file: the same layout as on screen, in ink on paper."""

from __future__ import annotations

from xml.sax.saxutils import escape

from rough_draw.core.message import message
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.planning.plan import Plan
from rough_draw.core.sheet.job import Job
from rough_draw.store.rig_shapes import Block, Ink, Line, Ring, Shape, Words, rig_shapes
from rough_draw.text import say

INKS: dict[Ink, str] = {
    "ink": "#16212B",
    "soft": "#55604F",
    "sheet": "#FAFBF3",
    "green": "#1C6A43",
    "stop": "#B3261A",
    "measured": "#1B3F9C",
    "white": "#FFFFFF",
}
TEXT = 'font-family="Atkinson Hyperlegible Next, Helvetica, Arial, sans-serif"'


def _written(s: Shape) -> str:
    match s:
        case Line(path, width, ink):
            return f'<path d="{path}" fill="none" stroke="{INKS[ink]}" stroke-width="{width:.1f}"/>'
        case Ring(x, y, r):
            at = f'cx="{x:.0f}" cy="{y:.0f}" r="{r:g}"'
            return f'<circle {at} fill="{INKS["sheet"]}" stroke="{INKS["ink"]}" stroke-width="2.5"/>'
        case Block():
            dash = f' stroke-dasharray="{s.dash[0]} {s.dash[1]}"' if s.dash else ""
            outline = f' stroke="{INKS["ink"]}" stroke-width="2.5"{dash}' if s.outlined else ""
            round_ = f' rx="{s.r:g}"' if s.r else ""
            at = f'x="{s.x:.0f}" y="{s.y:.0f}" width="{s.w:.0f}" height="{s.h:.0f}"{round_}'
            return f'<rect {at} fill="{INKS[s.fill]}"{outline}/>'
        case Words():
            # How wide letters are is for whoever shows the file: about 1.75 of them to a point of size and of width.
            fits = s.size if s.within is None else min(s.size, int(1.75 * s.within / max(1, len(s.text))))
            weight = ' font-weight="700"' if s.bold else ""
            return (
                f'<text x="{s.x:.0f}" y="{s.y:.0f}" text-anchor="middle" font-size="{fits}" fill="{INKS[s.ink]}" '
                f"{TEXT}{weight}>{escape(s.text)}</text>"
            )


def rig_svg(job: Job, plan: Plan) -> str:
    """The rig line of a planned job, strokes by conductance at the target, valves as the sheet has them."""
    d, shapes = rig_shapes(job, plan)
    span = plan.time_to_target
    title = job.title or message("drawing-untitled")
    if span is None:
        told = message("drawing-out-of-reach", title=title)
    else:
        told = message("drawing-time", title=title, level=vacuum(plan.target), time=duration(span.value))
    parts = [_written(s) for s in (*shapes, Words(x=d.width / 2, y=d.height + 16, text=say(told)))]
    size = f'width="{d.width:.0f}" height="{d.height + 26:.0f}" viewBox="0 0 {d.width:.0f} {d.height + 26:.0f}"'
    paper = f'<rect width="100%" height="100%" fill="{INKS["sheet"]}"/>'
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size}>{paper}{"".join(parts)}</svg>\n'
