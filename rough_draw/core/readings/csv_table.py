"""Tolerant reading of a readings table: bytes in, series out, or reasons with line numbers.

Understands comma, semicolon or tab; decimal comma; elapsed time, m:ss, clock time (past midnight too), date and
time, ISO timestamps; µ, Torr, Pa, mbar, inHg and others by header or unit column; a preamble above the header;
several gauges; "OVER" or a blank as over range. Where it had to guess, it says so, so that a person can confirm.
"""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass, field

import numpy as np

from rough_draw.core.message import Fault as Told
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import absolute_pressure, duration, number
from rough_draw.core.physics.dial import DIAL_UNITS, dial_to_absolute
from rough_draw.core.physics.units import ATMOSPHERE_PA, PA_PER, to_pa
from rough_draw.core.readings import table_layout as table
from rough_draw.core.readings.bounds import HIGHEST_PA
from rough_draw.core.readings.series import Series
from rough_draw.core.readings.time_unit import TimeUnit

MOST_BYTES = 48 * 1024 * 1024
MOST_ROWS = 1_500_000
MOST_FAULTS = 50
CODE_PAGES = ["cp1252", "cp1250", "cp1251", "cp1253", "cp1254", "mac_roman"]
OVER_WORDS = {"over", "ovr", "ol", "o.l", "hi", "high", "over range", "overrange", "--", "---", "----", "or", ">>>"}


@dataclass(frozen=True)
class Fault:
    """One thing wrong: the line in the file (from 1), and what to do about it."""

    line: int
    message: Name

    def __str__(self) -> str:
        told = self.message if isinstance(self.message, str) else self.message.key
        return f"line {self.line}: {told}" if self.line else told


class ReadingsError(ValueError):
    """The table cannot be imported; ``faults`` say why, line by line. Nothing of it was taken."""

    def __init__(self, faults: list[Fault]) -> None:
        super().__init__("; ".join(str(f) for f in faults[:8]))
        self.faults = faults


@dataclass(frozen=True, kw_only=True)
class Import:
    """What was read: one series per gauge, the mapping used, and what was guessed."""

    series: tuple[Series, ...]
    mapping: table.Mapping
    guesses: tuple[Message, ...]
    rows: int
    over: int
    preview: tuple[tuple[str, ...], ...] = field(default=())

    def main(self) -> Series:
        """The series nearest the system: one named so, or else the first; a needle only where there is no other."""
        read = [s for s in self.series if not s.dial] or list(self.series)
        return next((s for s in read if "system" in s.label.lower()), read[0])


def decode(data: bytes) -> str:
    """Text of a file in UTF-8, UTF-16 (either order) or Windows-1252. Raises ReadingsError for other bytes."""
    if len(data) > MOST_BYTES:
        size, most = len(data) / 1e6, MOST_BYTES // 1048576
        raise ReadingsError([Fault(0, message("table-too-large", size=number(size), most=most))])
    if not data.strip():
        raise ReadingsError([Fault(0, message("table-empty"))])
    if data[:4] == b"PK\x03\x04":
        raise ReadingsError([Fault(0, message("table-zip"))])
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            return data.decode("utf-16")
        except UnicodeDecodeError:
            raise ReadingsError([Fault(0, message("table-cut-off"))]) from None
    if data.count(b"\x00") > len(data) // 5:
        guess = "utf-16-le" if data[1:2] == b"\x00" else "utf-16-be"
        try:
            return data.decode(guess)
        except UnicodeDecodeError:
            pass
    if b"\x00" in data:
        raise ReadingsError([Fault(0, message("table-not-text"))])
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return _older(data)


def _older(data: bytes) -> str:
    """Text in a code page of one byte a letter: the one its words are likeliest written in, Windows-1252 in doubt."""
    # Takes a while to import, and few files ask for it.
    from charset_normalizer import from_bytes

    best = from_bytes(data[:200_000], cp_isolation=CODE_PAGES, threshold=0.3).best()
    text = data.decode(best.encoding if best is not None else "cp1252", errors="replace")
    odd = sum(1 for c in text if c == "\ufffd" or (ord(c) < 32 and c not in "\r\n\t"))
    if odd > max(2, len(text) // 200):
        raise ReadingsError([Fault(0, message("table-encoding"))])
    return text


def _rows(text: str, delimiter: str) -> list[tuple[int, list[str]]]:
    rows = []
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    try:
        for cells in reader:
            if any(c.strip() for c in cells):
                rows.append((reader.line_num, [c.strip() for c in cells]))
            if len(rows) > MOST_ROWS:
                raise ReadingsError([Fault(reader.line_num, message("table-too-long", most=MOST_ROWS))])
    except csv.Error as e:
        raise ReadingsError([Fault(reader.line_num, message("table-not-csv", fault=str(e)))]) from None
    return rows


def read_table(
    data: bytes,
    mapping: table.Mapping | None = None,
    atmosphere: float = ATMOSPHERE_PA,
    time_unit: TimeUnit | None = None,
    day_first: bool | None = None,
) -> Import:
    """Read a table of readings. With ``mapping`` given, nothing is guessed.

    ``time_unit`` and ``day_first`` decide what the table does not say; what it says itself stands. What is left
    undecided is in the mapping, taken as usual.

    Raises ReadingsError with up to 50 line-numbered faults; then nothing is imported.
    """
    text = decode(data)
    delimiter = mapping.delimiter if mapping else table.guess_delimiter(text)
    rows = _rows(text, delimiter)
    guesses: list[Message] = []
    if mapping is None:
        try:
            mapping = table.guess_mapping(rows, delimiter, guesses, time_unit, day_first)
        except table.MappingError as e:
            raise ReadingsError([Fault(e.line, e.told)]) from None
    body = [r for r in rows if r[0] > mapping.header_line]
    if not body:
        raise ReadingsError([Fault(mapping.header_line, message("table-no-rows"))])
    preview = tuple(tuple(cells) for _, cells in body[:6])
    series, over, put_back = _parse(body, mapping, atmosphere)
    if put_back:
        guesses.append(message("guess-put-back"))
    return Import(series=series, mapping=mapping, guesses=tuple(guesses), rows=len(body), over=over, preview=preview)


class _Reader:
    """Rows of a table taken in one by one; what is wrong with one is noted with its line."""

    def __init__(self, mapping: table.Mapping, atmosphere: float, width: int) -> None:
        self.m = mapping
        self.atmosphere = atmosphere
        self.width = width
        self.clock = table.Clock(mapping.time_kind, mapping.day_first)
        self.start_clock = ""
        self.faults: list[Fault] = []
        self.times: list[float] = []
        self.columns: list[list[float]] = [[] for _ in mapping.pressures]
        self.notes: list[tuple[float, str]] = []
        self.over = 0
        self.below = False
        self.simulated = False
        self.last: tuple[float, int, tuple[float, ...]] | None = None

    def take(self, line: int, cells: list[str]) -> None:
        """One row."""
        m = self.m
        if len(cells) < max(m.time_columns) + 1 or (len(cells) < 2 and self.width >= 2):
            self.faults.append(Fault(line, message("table-columns", count=len(cells), width=self.width)))
            return
        try:
            t = self.clock.seconds(" ".join(cells[c] for c in m.time_columns), m.decimal_comma)
        except Told as e:
            self.faults.append(Fault(line, e.told))
            return
        self.start_clock = self.start_clock or self.clock.first
        values = [self._value(line, column, cells) for column in m.pressures]
        if not self._follows(line, t, values):
            return
        self.last = (t, line, tuple(values))
        self.times.append(t)
        for store, value in zip(self.columns, values, strict=True):
            store.append(value)
        if m.source_column is not None and m.source_column < len(cells):
            self.simulated |= cells[m.source_column].lower() == "simulated"
        if m.note_column is not None and m.note_column < len(cells) and cells[m.note_column]:
            self.notes.append((t, cells[m.note_column]))

    def _value(self, line: int, column: table.PressureColumn, cells: list[str]) -> float:
        cell = cells[column.index] if column.index < len(cells) else ""
        try:
            value, is_over = _pressure(cell, column, cells, self.m, self.atmosphere)
            self.below |= self.m.unit_column is not None and cell.strip()[:1] in ("-", "−")
        except Told as e:
            self.faults.append(Fault(line, e.told))
            return float("nan")
        self.over += is_over
        return value

    def _follows(self, line: int, t: float, values: list[float]) -> bool:
        """Whether a row comes after the last one; the same row twice is passed over."""
        if self.last is None or t > self.last[0]:
            return True
        before, at, seen = self.last
        if t < before:
            self.faults.append(Fault(line, message("table-time-back", time=duration(before - t), at=at)))
        elif not _same(values, seen):
            self.faults.append(Fault(line, message("table-same-time", at=at)))
        return False

    def _is_dial(self, column: table.PressureColumn) -> bool:
        """Whether a needle was read: the column's own layout, or figures under nothing in a column of units."""
        return column.dial or self.below

    def series(self) -> tuple[Series, ...]:
        """One series a gauge, times from the first row. Raises ReadingsError."""
        if self.faults:
            raise ReadingsError(self.faults)
        t0 = self.times[0]
        time = np.array(self.times) - t0
        notes = tuple((a - t0, b) for a, b in self.notes)
        found = []
        for column, store in zip(self.m.pressures, self.columns, strict=True):
            values = np.array(store)
            if np.isfinite(values).sum() < 2:
                raise ReadingsError([Fault(self.m.header_line, message("table-nothing-in-range", column=column.label))])
            dial = self._is_dial(column)
            found.append(Series(time, values, column.label, notes, self.start_clock, dial, self.simulated))
        return tuple(found)


def _parse(
    body: list[tuple[int, list[str]]], m: table.Mapping, atmosphere: float
) -> tuple[tuple[Series, ...], int, bool]:
    reader = _Reader(m, atmosphere, len(body[0][1]))
    for line, cells in body:
        if len(reader.faults) >= MOST_FAULTS:
            reader.faults.append(Fault(line, message("table-more")))
            break
        reader.take(line, cells)
    return reader.series(), reader.over, reader.clock.put_back


def _same(a: list[float], b: tuple[float, ...]) -> bool:
    return all(x == y or (x != x and y != y) for x, y in zip(a, b, strict=True))


def _pressure(
    cell: str, column: table.PressureColumn, cells: list[str], m: table.Mapping, atmosphere: float
) -> tuple[float, bool]:
    """Pressure, Pa, of one cell, NaN for over range. Raises Fault that says what is wrong."""
    if cell == "" or cell.lower().strip("*<> ") in OVER_WORDS:
        return float("nan"), True
    unit = column.unit
    if m.unit_column is not None and m.unit_column < len(cells):
        written = table.pressure_unit(cells[m.unit_column])
        if written is None:
            raise Told(message("table-unit", text=cells[m.unit_column][:40]))
        unit = written
    try:
        value = table.number(cell, m.decimal_comma)
    except Told:
        raise Told(message("table-pressure", text=cell[:40])) from None
    if unit not in PA_PER:
        raise Told(message("table-no-unit", column=column.label))
    if column.dial or (value < 0 and m.unit_column is not None and unit in DIAL_UNITS):
        return dial_to_absolute(value, unit, atmosphere), False
    if value < 0:
        raise Told(message("table-negative", text=cell[:40]))
    pa = to_pa(value, unit)
    if pa > HIGHEST_PA:
        raise Told(message("table-above-air", text=cell[:40], pressure=absolute_pressure(pa)))
    return pa, False
