"""What the report is put together from: styles, paragraphs, tables."""

from __future__ import annotations

from collections.abc import Sequence

from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, Paragraph, Table, TableStyle

from rough_draw.core.message import Name, message
from rough_draw.store.report.fonts import BOLD, CASUAL, FIGURES, TEXT, marked_up
from rough_draw.store.report.inks import INK, RULE, SOFT, STRONG
from rough_draw.text import say

WIDTH = A4[0] - 36 * mm

BODY = ParagraphStyle("body", fontName=TEXT, fontSize=9, leading=12, textColor=INK)
SMALL = ParagraphStyle("small", parent=BODY, fontSize=7.5, leading=10, textColor=SOFT)
HEAD = ParagraphStyle("head", parent=BODY, fontName=CASUAL, fontSize=12, leading=15, spaceBefore=9, spaceAfter=3)
TITLE = ParagraphStyle("title", parent=BODY, fontName=CASUAL, fontSize=19, leading=23)
VERDICT = ParagraphStyle("verdict", parent=BODY, fontName=CASUAL, fontSize=16, leading=20)
FIGURE = ParagraphStyle("figure", parent=BODY, fontName=FIGURES, fontSize=12, leading=15)
STRONG_TEXT = ParagraphStyle("strong", parent=BODY, fontName=BOLD)


def text(value: Name, style: ParagraphStyle = BODY) -> Paragraph:
    """A paragraph of plain text, said to whoever reads."""
    return Paragraph(marked_up(say(value), style.fontName), style)


class Heading(Paragraph):
    """A heading that stands among the document's bookmarks too."""

    def __init__(self, value: Name, style: ParagraphStyle = HEAD) -> None:
        self.words = say(value)
        super().__init__(marked_up(self.words, style.fontName), style)

    def draw(self) -> None:
        """Print it, and keep its place."""
        canvas: Canvas = self.canv
        place = f"heading-{id(self)}"
        canvas.bookmarkHorizontal(place, 0, self.height)
        canvas.addOutlineEntry(self.words, place, 0)
        super().draw()


def grid(rows: Sequence[tuple[str, Name]], columns: int = 2, width: float = WIDTH) -> Table:
    """Pairs of a label, by its key, and its value, ``columns`` pairs to a line."""
    cells: list[list[Flowable]] = []
    for start in range(0, len(rows), columns):
        line: list[Flowable] = []
        for name, value in rows[start : start + columns]:
            line += [text(message(f"report-{name}"), SMALL), text(value or message("report-not-given"))]
        while len(line) < 2 * columns:
            line += [text("", SMALL), text("")]
        cells.append(line)
    name_width = 27 * mm
    table = Table(cells, colWidths=[name_width, width / columns - name_width] * columns)
    table.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE),
                ("TOPPADDING", (0, 0), (-1, -1), 1.5),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
                ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ]
        )
    )
    return table


def listed(
    head: Sequence[Name], rows: Sequence[Sequence[Name]], widths: list[float], style: ParagraphStyle = BODY
) -> Table:
    """A table with a head that is repeated on every page."""
    cells = [[text(h, SMALL) for h in head], *[[text(c, style) for c in row] for row in rows]]
    table = Table(cells, colWidths=widths, repeatRows=1)
    table.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LINEBELOW", (0, 0), (-1, 0), 0.8, INK),
                ("LINEBELOW", (0, 1), (-1, -1), 0.4, STRONG),
                ("TOPPADDING", (0, 0), (-1, -1), 1.5),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
                ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ]
        )
    )
    return table
