"""A QR code as a drawing of a given size: for labels and papers."""

from __future__ import annotations

from reportlab.graphics.barcode.qr import QrCodeWidget
from reportlab.graphics.shapes import Drawing
from reportlab.lib.colors import Color, black


def qr_drawing(text: str, size: float, colour: Color = black) -> Drawing:
    """The code of ``text``, ``size`` points wide and high, with the free ground around it that a camera needs."""
    code = QrCodeWidget(text, barLevel="M", barFillColor=colour)
    left, bottom, right, top = code.getBounds()
    drawing = Drawing(size, size, transform=[size / (right - left), 0, 0, size / (top - bottom), 0, 0])
    drawing.add(code)
    return drawing
