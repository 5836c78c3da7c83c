"""A canvas that knows at its end how many pages there are, and says so on each."""

from __future__ import annotations

from typing import Any

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from rough_draw.core.message import message
from rough_draw.store.report.fonts import plain
from rough_draw.store.report.inks import INK
from rough_draw.text import say

FOOT = 7
"""Size of what stands at the foot of a page."""


class Numbered(Canvas):
    """A canvas that knows at its end how many pages there are, and says so on each."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._kept: list[dict[str, Any]] = []
        self.showOutline()

    def showPage(self) -> None:
        """Keep the page until all are there."""
        self._kept.append(dict(self.__dict__))
        self._startPage()

    def save(self) -> None:
        """Write every page with its number and the number of all."""
        for n, state in enumerate(self._kept, 1):
            self.__dict__.update(state)
            count, font = plain(say(message("report-page", number=n, count=len(self._kept))))
            self.setFont(font, FOOT)
            self.setFillColor(INK)
            self.drawRightString(A4[0] - 18 * mm, 10 * mm, count)
            super().showPage()
        super().save()
