"""The report put together: the answer on the first page, then the hold, then the technical pages."""

from __future__ import annotations

import io
from datetime import datetime

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, PageBreak, SimpleDocTemplate

from rough_draw import __version__
from rough_draw.core.hold.verdict import ALGORITHM
from rough_draw.core.message import message
from rough_draw.store.report.answer import answer
from rough_draw.store.report.closing import closing
from rough_draw.store.report.fonts import plain
from rough_draw.store.report.hold_page import hold
from rough_draw.store.report.inks import INK
from rough_draw.store.report.numbered import FOOT, Numbered
from rough_draw.store.report.record import Record
from rough_draw.store.report.seal_page import photos, seal, visits
from rough_draw.store.report.technical import proved, readings, steps, system
from rough_draw.text import say
from rough_draw.text.reader import reader

REST = (hold, steps, system, proved, readings, closing, photos, visits, seal)
"""What follows the first page, in its order."""
PADDING = 6
"""Points that the library keeps free inside its margins."""


def render(record: Record, printed_at: datetime | None = None, one_page: bool = False) -> bytes:
    """The report as PDF bytes. ``printed_at`` is the time in the footer (now, if not given); ``one_page``: the answer
    alone, with the seal.
    """
    out = io.BytesIO()
    job = record.job
    when = (printed_at or datetime.now()).astimezone().strftime("%Y-%m-%d %H:%M %Z").strip()
    made = {"version": __version__, "algorithm": ALGORITHM, "when": when}
    foot = say(message("report-foot", **made))
    if record.inputs_hash:
        foot = say(message("report-foot-hash", hash=record.inputs_hash[:16], **made))

    def page(canvas: Canvas, _: SimpleDocTemplate) -> None:
        canvas.saveState()
        shown, font = plain(foot)
        canvas.setFont(font, FOOT)
        canvas.setFillColor(INK)
        canvas.drawString(18 * mm, 10 * mm, shown)
        canvas.setStrokeColor(INK)
        canvas.setLineWidth(1.2)
        canvas.line(18 * mm, 14 * mm, A4[0] - 18 * mm, 14 * mm)
        canvas.restoreState()

    doc = SimpleDocTemplate(
        out,
        pagesize=A4,
        leftMargin=18 * mm - PADDING,
        rightMargin=18 * mm - PADDING,
        topMargin=14 * mm,
        bottomMargin=18 * mm,
        title=say(message("report-title-of", customer=job.party.customer, unit=job.party.unit)).strip(" :"),
        author=record.firm.name or job.party.firm,
        lang=reader().locale,
        displayDocTitle=True,
    )
    story: list[Flowable] = answer(record)
    rest = [seal(record)] if one_page else [section(record) for section in REST]
    if not one_page and any(rest):
        story.append(PageBreak())
    for part in rest:
        story += part
    doc.build(story, onFirstPage=page, onLaterPages=page, canvasmaker=Numbered)
    return out.getvalue()
