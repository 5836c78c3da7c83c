"""Labels for the kit: a sheet of stickers, each with a code that a camera reads and a hand can type."""

from __future__ import annotations

import io
import re
from collections.abc import Sequence
from textwrap import wrap

from reportlab.graphics import renderPDF
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from rough_draw.core.message import message
from rough_draw.core.sheet.kit import KitItem
from rough_draw.store.qr import qr_drawing
from rough_draw.store.report.fonts import BOLD, TEXT, plain
from rough_draw.text import say

ACROSS, DOWN = 3, 8
WIDE, HIGH = 63.5 * mm, 33.9 * mm
LEFT, TOP, GAP = 7.2 * mm, 12.9 * mm, 2.5 * mm
"""A4 with 24 stickers of 63.5 by 33.9 mm, as office sheets have them."""
CODE = re.compile(r"^RD-K(\d{1,9})$", re.IGNORECASE)


def code_of(number: int) -> str:
    """The code on a part's label."""
    return f"RD-K{number}"


LETTERS, LINES = 19, 4
"""Letters to a line of a label, and lines of a name."""


def number_of(code: str) -> int | None:
    """The part that a code stands for; None where it is none of ours."""
    found = CODE.match(code.strip())
    return int(found.group(1)) if found else None


def sheet(items: Sequence[KitItem], skip: int = 0) -> bytes:
    """Labels as a PDF, 24 to a page; the first ``skip`` places of the first page stay empty: they are used up."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4)
    canvas.setTitle(say(message("labels-title")))
    for n, item in enumerate(items, skip):
        place = n % (ACROSS * DOWN)
        if n > skip and place == 0:
            canvas.showPage()
        x = LEFT + (place % ACROSS) * (WIDE + GAP)
        y = A4[1] - TOP - (place // ACROSS + 1) * HIGH
        _label(canvas, item, x, y)
    canvas.save()
    return out.getvalue()


def _label(canvas: Canvas, item: KitItem, x: float, y: float) -> None:
    size = 26 * mm
    renderPDF.draw(qr_drawing(code_of(item.id), size), canvas, x + 1 * mm, y + 4 * mm)
    left = x + size + 3 * mm
    _line(canvas, left, y + HIGH - 9 * mm, code_of(item.id), 10, BOLD)
    for n, line in enumerate(wrap(item.name, LETTERS)[:LINES]):
        _line(canvas, left, y + HIGH - (14 + 3.6 * n) * mm, line, 8)
    _line(canvas, left, y + 5 * mm, say(item.called), 7)


def _line(canvas: Canvas, x: float, y: float, words: str, size: float, font: str = TEXT) -> None:
    shown, own = plain(words, font)
    canvas.setFont(own, size)
    canvas.drawString(x, y, shown)
