"""Charts of the report, as vectors: the draw on a log scale, the hold on a linear one."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from reportlab.graphics.shapes import Drawing, Line, PolyLine, Rect, String
from reportlab.lib.colors import Color, HexColor

from rough_draw.core.hold.posterior import Reading
from rough_draw.core.message import message
from rough_draw.core.message.figure import vacuum
from rough_draw.core.physics.display_units import DisplayUnit
from rough_draw.core.physics.units import ATMOSPHERE_PA, MICRON_PA
from rough_draw.core.readings.downsampling import decimate
from rough_draw.text import say
from rough_draw.text.figures import UNITS
from rough_draw.text.numbers import significant
from rough_draw.text.reader import reader

FloatArray = NDArray[np.float64]

INK = HexColor("#16212B")
RULE = HexColor("#DCE4CC")
STRONG = HexColor("#BBCBA6")
MEASURED = HexColor("#1B3F9C")
PENCIL = HexColor("#7A7F70")
GREEN = HexColor("#1C6A43")
FONT = "Helvetica"


class Frame:
    """A ruled chart with axes; converts values to places on the page."""

    def __init__(
        self,
        width: float,
        height: float,
        x_max: float,
        y_low: float,
        y_high: float,
        log: bool,
        x_label: str | None = None,
        y_label: str | None = None,
    ) -> None:
        self.x_label = say(message("chart-minutes")) if x_label is None else x_label
        self.y_label = _unit().label if y_label is None else y_label
        self.drawing = Drawing(width, height)
        self.left, self.bottom, self.right, self.top = 46.0, 26.0, width - 8.0, height - 8.0
        self.x_max, self.y_low, self.y_high, self.log = max(x_max, 1.0), y_low, y_high, log
        self._rule()

    def x(self, minutes: float) -> float:
        """Place of a time."""
        return self.left + (self.right - self.left) * min(max(minutes / self.x_max, 0.0), 1.0)

    def y(self, value: float) -> float:
        """Place of a pressure in the reader's unit."""
        low, high = self.y_low, self.y_high
        if self.log:
            value, low, high = math.log10(max(value, 1e-3)), math.log10(low), math.log10(high)
        share = min(max((value - low) / (high - low), 0.0), 1.0)
        return self.bottom + (self.top - self.bottom) * share

    def _rule(self) -> None:
        d = self.drawing
        for value in self._levels():
            y = self.y(value)
            d.add(Line(self.left, y, self.right, y, strokeColor=STRONG, strokeWidth=0.5))
            d.add(
                String(
                    self.left - 4,
                    y - 3,
                    significant(value, 2, reader().numbers),
                    fontName=FONT,
                    fontSize=7,
                    textAnchor="end",
                    fillColor=INK,
                )
            )
        step = _nice(self.x_max / 8)
        for k in range(int(self.x_max / step) + 1):
            x = self.x(k * step)
            d.add(Line(x, self.bottom, x, self.top, strokeColor=RULE, strokeWidth=0.5))
            label = f"{k * step:g}"
            d.add(String(x, self.bottom - 10, label, fontName=FONT, fontSize=7, textAnchor="middle", fillColor=INK))
        d.add(String(self.right, 3, self.x_label, fontName=FONT, fontSize=7, textAnchor="end", fillColor=INK))
        d.add(String(self.left + 4, self.bottom + 4, self.y_label, fontName=FONT, fontSize=7, fillColor=INK))
        box = Rect(self.left, self.bottom, self.right - self.left, self.top - self.bottom)
        box.fillColor, box.strokeColor, box.strokeWidth = None, INK, 1.0
        d.add(box)

    def _levels(self) -> list[float]:
        if self.log:
            a, b = math.ceil(math.log10(self.y_low)), math.floor(math.log10(self.y_high))
            return [10.0**k for k in range(a, b + 1)]
        step = _nice((self.y_high - self.y_low) / 5)
        first = math.ceil(self.y_low / step) * step
        return [first + k * step for k in range(int((self.y_high - first) / step) + 1)]

    def curve(
        self, minutes: FloatArray, values: FloatArray, colour: Color, dash: bool = False, width: float = 1.2
    ) -> None:
        """Draw a curve; NaN breaks it."""
        piece: list[float] = []
        for m, v in zip(minutes, values, strict=True):
            if math.isnan(v):
                self._stroke(piece, colour, dash, width)
                piece = []
            else:
                piece += [self.x(float(m)), self.y(float(v))]
        self._stroke(piece, colour, dash, width)

    def _stroke(self, piece: list[float], colour: Color, dash: bool, width: float) -> None:
        if len(piece) >= 4:
            line = PolyLine(piece, strokeColor=colour, strokeWidth=width)
            if dash:
                line.strokeDashArray = [4, 2]
            self.drawing.add(line)

    def level(self, value: float, label: str, colour: Color) -> None:
        """A level with its name."""
        y = self.y(value)
        self.drawing.add(Line(self.left, y, self.right, y, strokeColor=colour, strokeWidth=1.0))
        self.drawing.add(
            String(self.right - 4, y + 2.5, label, fontName=FONT, fontSize=7, textAnchor="end", fillColor=colour)
        )

    def note(self, minutes: float, value: float, text: str, colour: Color) -> None:
        """A name beside a curve."""
        x, y = self.x(minutes) + 3, self.y(value) + 4
        self.drawing.add(String(x, y, text, fontName=FONT, fontSize=8, fillColor=colour))

    def mark(self, minutes: float, number: str) -> None:
        """An event: a tick with its number on the top edge."""
        x = self.x(minutes)
        self.drawing.add(Line(x, self.top, x, self.top - 14, strokeColor=INK, strokeWidth=0.8))
        self.drawing.add(String(x + 2, self.top - 11, number, fontName=FONT, fontSize=7, fillColor=INK))


def _nice(step: float) -> float:
    power = 10.0 ** math.floor(math.log10(max(step, 1e-9)))
    return next(power * k for k in (1, 2, 5, 10) if power * k >= step)


def _unit() -> DisplayUnit:
    """The unit in which whoever reads wants a vacuum."""
    return UNITS["pressure"][reader().vacuum]


def draw_chart(at: FloatArray, pa: FloatArray, marks: list[tuple[float, str]], target: float, width: float) -> Drawing:
    """The draw: ``at`` s since the first reading, ``pa`` Pa with NaN over range, ``marks`` (s, number)."""
    t, p = decimate(at, pa, 900)
    factor = _unit().factor
    values = factor * p
    finite = values[np.isfinite(values)]
    least = 10.0 * MICRON_PA * factor
    low = 10.0 ** math.floor(math.log10(max(least, float(finite.min()) if finite.size else 10.0 * least)))
    high = 10.0 ** math.ceil(math.log10(ATMOSPHERE_PA * factor))
    frame = Frame(width, 128, float(at[-1]) / 60.0, low, high, log=True)
    frame.level(target * factor, say(message("chart-target", level=vacuum(target))), GREEN)
    frame.curve(t / 60.0, values, MEASURED)
    for seconds, number in marks:
        frame.mark(seconds / 60.0, number)
    return frame.drawing


def hold_chart(t: FloatArray, p: FloatArray, fit: Reading | None, limit: float, width: float) -> Drawing:
    """The hold: ``t`` s since isolation, ``p`` Pa, with the chosen cause in pencil."""
    x, y = decimate(t, p, 600)
    factor = _unit().factor
    top = factor * max(limit * 1.15, float(p.max()) * 1.1)
    frame = Frame(width, 112, float(t[-1]) / 60.0, 0.0, top, log=False)
    frame.level(limit * factor, say(message("chart-limit", level=vacuum(limit))), GREEN)
    if fit is not None:
        grid = np.linspace(0, float(t[-1]), 100)
        frame.curve(grid / 60.0, factor * fit.curve(grid, float(t[-1])), PENCIL, dash=True)
    frame.curve(x / 60.0, factor * y, MEASURED)
    return frame.drawing
