"""Charts of the report, as vectors: the draw on a log scale, the hold on a linear one."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from reportlab.graphics.shapes import Drawing, Line, PolyLine, Rect, String
from reportlab.lib.colors import Color
from reportlab.pdfbase.pdfmetrics import stringWidth

from rough_draw.core.hold.posterior import Reading
from rough_draw.core.message import message
from rough_draw.core.message.figure import vacuum
from rough_draw.core.physics.display_units import DisplayUnit
from rough_draw.core.physics.units import ATMOSPHERE_PA, MICRON_PA
from rough_draw.core.readings.downsampling import decimate
from rough_draw.store.report.fonts import BOLD, FIGURES, plain, registered
from rough_draw.store.report.inks import GREEN, INK, MEASURED, PENCIL, RULE, SOFT, STRONG
from rough_draw.text import say
from rough_draw.text.figures import UNITS
from rough_draw.text.numbers import significant
from rough_draw.text.reader import reader

FloatArray = NDArray[np.float64]
Dash = bool | Sequence[float]


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
        registered()
        self.x_label = say(message("chart-minutes")) if x_label is None else x_label
        self.y_label = _unit().label if y_label is None else y_label
        self.drawing = Drawing(width, height)
        self.left, self.bottom, self.right, self.top = 46.0, 26.0, width - 8.0, height - 8.0
        self.rows: list[float] = []
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
                    fontName=FIGURES,
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
            d.add(String(x, self.bottom - 10, label, fontName=FIGURES, fontSize=7, textAnchor="middle", fillColor=INK))
        d.add(String(self.right, 3, self.x_label, fontName=FIGURES, fontSize=7, textAnchor="end", fillColor=INK))
        d.add(String(self.left + 4, self.bottom + 4, self.y_label, fontName=FIGURES, fontSize=7, fillColor=INK))
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
        self, minutes: FloatArray, values: FloatArray, colour: Color, dash: Dash = False, width: float = 1.2
    ) -> None:
        """Draw a curve; NaN breaks it. ``dash``: its own, or the usual one."""
        piece: list[float] = []
        for m, v in zip(minutes, values, strict=True):
            if math.isnan(v):
                self._stroke(piece, colour, dash, width)
                piece = []
            else:
                piece += [self.x(float(m)), self.y(float(v))]
        self._stroke(piece, colour, dash, width)

    def _stroke(self, piece: list[float], colour: Color, dash: Dash, width: float) -> None:
        if len(piece) >= 4:
            line = PolyLine(piece, strokeColor=colour, strokeWidth=width)
            if dash:
                line.strokeDashArray = [4, 2] if dash is True else list(dash)
            self.drawing.add(line)

    def level(self, value: float, label: str, colour: Color) -> None:
        """A level with its name."""
        y = self.y(value)
        self.drawing.add(Line(self.left, y, self.right, y, strokeColor=colour, strokeWidth=1.0))
        self.drawing.add(_lettered(self.right - 4, y + 2.5, label, 7, colour, "end"))

    def note(self, minutes: float, value: float, text: str, colour: Color) -> None:
        """A name beside a curve."""
        x, y = self.x(minutes) + 3, self.y(value) + 4
        self.drawing.add(_lettered(x, y, text, 7, colour))

    def mark(self, minutes: float, number: str) -> None:
        """An event: a tick with its number on the top edge; those close by each other stand in rows under it."""
        x = self.x(minutes)
        wide = stringWidth(number, BOLD, 7) + 4
        row = next((r for r, end in enumerate(self.rows) if x >= end), len(self.rows))
        if row >= MOST_ROWS:
            row = min(range(MOST_ROWS), key=lambda r: self.rows[r])
        self.rows[row : row + 1] = [x + wide]
        foot = self.top - 11 - 9.5 * row
        self.drawing.add(Line(x, self.top, x, foot - 1, strokeColor=INK, strokeWidth=0.6))
        self.drawing.add(String(x + 2, foot, number, fontName=BOLD, fontSize=7, fillColor=INK))

    def not_real(self, start: float, end: float) -> None:
        """Minutes in which a simulated gauge gave the readings: written over the sheet."""
        word = say(message("report-simulated-mark"))
        wide = stringWidth(word, BOLD, 9) + 18
        x, last = self.x(start) + 4, self.x(end)
        while True:
            self.drawing.add(String(x, self.bottom + 14, word, fontName=BOLD, fontSize=9, fillColor=PENCIL))
            x += wide
            if x + wide > last:
                return


MOST_ROWS = 6


def _nice(step: float) -> float:
    power = 10.0 ** math.floor(math.log10(max(step, 1e-9)))
    return next(power * k for k in (1, 2, 5, 10) if power * k >= step)


def _unit() -> DisplayUnit:
    """The unit in which whoever reads wants a vacuum."""
    return UNITS["pressure"][reader().vacuum]


@dataclass(frozen=True, kw_only=True)
class Curve:
    """Readings of a gauge: s since the first of the record, Pa with NaN over range; spans (s) that are simulated."""

    at: FloatArray
    pa: FloatArray
    simulated: tuple[tuple[float, float], ...] = ()


LEAST_PA = MICRON_PA
"""What stands below this on the log axis, Pa, is a gauge's zero that is off: it takes no axis down with it."""


def draw_chart(
    curves: Sequence[Curve], marks: Sequence[tuple[float, str]], target: float, width: float, height: float = 215
) -> Drawing:
    """The draw: the gauge that is read first, further ones dashed; ``marks`` (s, number); ``target`` Pa."""
    factor = _unit().factor
    thin = [(t / 60.0, factor * p) for t, p in (decimate(c.at, c.pa, 900) for c in curves)]
    every = np.concatenate([p[np.isfinite(p)] for _, p in thin])
    drawn = np.append(every[every >= LEAST_PA * factor], target * factor)
    low = 10.0 ** math.floor(math.log10(drawn.min()))
    high = 10.0 ** math.ceil(math.log10(ATMOSPHERE_PA * factor))
    frame = Frame(width, height, max(float(c.at[-1]) for c in curves) / 60.0, low, high, log=True)
    for c in curves:
        for start, end in c.simulated:
            frame.not_real(start / 60.0, end / 60.0)
    frame.level(target * factor, say(message("chart-target", level=vacuum(target))), GREEN)
    for n, (t, p) in enumerate(thin):
        frame.curve(t, p, MEASURED, dash=n > 0)
    for seconds, number in marks:
        frame.mark(seconds / 60.0, number)
    return frame.drawing


def hold_chart(
    t: FloatArray,
    p: FloatArray,
    fits: Sequence[tuple[str, Reading]],
    limit: float,
    width: float,
    simulated: bool = False,
) -> Drawing:
    """The hold: ``t`` s since isolation, ``p`` Pa; the causes in pencil, each with its name and its own dash."""
    x, y = decimate(t, p, 600)
    factor = _unit().factor
    top = factor * max(limit * 1.15, float(p.max()) * 1.12)
    frame = Frame(width, 165, float(t[-1]) / 60.0, 0.0, top, log=False)
    if simulated:
        frame.not_real(0.0, float(t[-1]) / 60.0)
    frame.level(limit * factor, say(message("chart-limit", level=vacuum(limit))), GREEN)
    grid = np.linspace(0, float(t[-1]), 100)
    for n, (_, fit) in enumerate(fits):
        frame.curve(grid / 60.0, factor * fit.curve(grid, float(t[-1])), PENCIL, dash=DASHES[n % len(DASHES)])
    frame.curve(x / 60.0, factor * y, MEASURED)
    for n, (name, _) in enumerate(fits):
        _legend(frame, n, name)
    return frame.drawing


DASHES = ([5, 3], [1.5, 2.5], [8, 2.5, 1.5, 2.5])


def _lettered(x: float, y: float, words: str, size: float, colour: Color, anchor: str = "start") -> String:
    """Words on a sheet, in a font that has their letters."""
    shown, font = plain(words, FIGURES)
    return String(x, y, shown, fontName=font, fontSize=size, fillColor=colour, textAnchor=anchor)


def _legend(frame: Frame, n: int, name: str) -> None:
    """A cause beside its dash, under each other in the corner where a rise begins."""
    y = frame.top - 12 - 11 * n
    line = Line(frame.left + 8, y + 2.5, frame.left + 34, y + 2.5, strokeColor=PENCIL, strokeWidth=1.2)
    line.strokeDashArray = DASHES[n % len(DASHES)]
    frame.drawing.add(line)
    frame.drawing.add(_lettered(frame.left + 39, y, name, 7.5, SOFT))
