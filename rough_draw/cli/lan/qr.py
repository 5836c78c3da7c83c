"""An address as a QR code: for a terminal, and for a page."""

from __future__ import annotations

from reportlab.graphics.barcode.qrencoder import QRCode, QRErrorCorrectLevel

QUIET = 2
"""Free modules around a code."""


def modules(text: str) -> list[list[bool]]:
    """The code's modules, dark ones true, row by row, with what is to stay free around it."""
    code = QRCode(None, QRErrorCorrectLevel.M)
    code.addData(text)
    code.make()
    n = code.getModuleCount()
    return [
        [0 <= r < n and 0 <= c < n and bool(code.isDark(r, c)) for c in range(-QUIET, n + QUIET)]
        for r in range(-QUIET, n + QUIET)
    ]


def qr_terminal(text: str) -> str:
    """Two rows of modules to a line of a terminal with light letters on a dark ground."""
    rows = modules(text)
    if len(rows) % 2:
        rows.append([False] * len(rows[0]))
    marks = {(False, False): "█", (False, True): "▀", (True, False): "▄", (True, True): " "}
    return "\n".join(
        "".join(marks[a, b] for a, b in zip(*pair, strict=True)) for pair in zip(rows[::2], rows[1::2], strict=True)
    )


def qr_svg(text: str) -> str:
    """The code as an SVG picture."""
    rows = modules(text)
    path = "".join(f"M{c} {r}h1v1h-1z" for r, row in enumerate(rows) for c, dark in enumerate(row) if dark)
    n = len(rows)
    return f'<svg viewBox="0 0 {n} {n}" role="img" aria-label="QR code of the address"><path d="{path}"/></svg>'
