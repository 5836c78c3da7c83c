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

from rough_draw.core.physics.units import PA_PER, dial_to_absolute, to_pa
from rough_draw.core.readings import table_layout as table
from rough_draw.core.readings.series import Series

MOST_BYTES = 48 * 1024 * 1024
MOST_ROWS = 1_500_000
OVER_WORDS = {"over", "ovr", "ol", "o.l", "hi", "high", "over range", "overrange", "--", "---", "----", "or", ">>>"}
HIGHEST_PA = 120_000.0
"""No absolute reading in this trade's draw lies above this."""


@dataclass(frozen=True)
class Fault:
    """One thing wrong: the line in the file (from 1), and what to do about it."""

    line: int
    message: str

    def __str__(self) -> str:
        return f"line {self.line}: {self.message}" if self.line else self.message


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
    guesses: tuple[str, ...]
    rows: int
    over: int
    preview: tuple[tuple[str, ...], ...] = field(default=())

    def main(self) -> Series:
        """The series nearest the system: one named so, or else the first."""
        for s in self.series:
            if "system" in s.label.lower():
                return s
        return self.series[0]


def decode(data: bytes) -> str:
    """Text of a file in UTF-8, UTF-16 (either order) or Windows-1252. Raises ReadingsError for other bytes."""
    if len(data) > MOST_BYTES:
        size = f"{len(data) / 1e6:.0f} MB"
        raise ReadingsError(
            [Fault(0, f"the file has {size}; the most is {MOST_BYTES // 1048576} MB. Export one draw only")]
        )
    if not data.strip():
        raise ReadingsError([Fault(0, "the file is empty")])
    if data[:4] == b"PK\x03\x04":
        raise ReadingsError([Fault(0, "this is a zip archive or a spreadsheet file, not CSV; save it as CSV first")])
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            return data.decode("utf-16")
        except UnicodeDecodeError:
            raise ReadingsError([Fault(0, "the file begins as UTF-16 but is cut off or damaged")]) from None
    if data.count(b"\x00") > len(data) // 5:
        guess = "utf-16-le" if data[1:2] == b"\x00" else "utf-16-be"
        try:
            return data.decode(guess)
        except UnicodeDecodeError:
            pass
    if b"\x00" in data:
        raise ReadingsError([Fault(0, "this is not a text file; export the readings as CSV")])
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("cp1252", errors="replace")
        odd = sum(1 for c in text if c == "\ufffd" or (ord(c) < 32 and c not in "\r\n\t"))
        if odd > max(2, len(text) // 200):
            raise ReadingsError([Fault(0, "the encoding is not known; save the file as UTF-8")]) from None
        return text


def _rows(text: str, delimiter: str) -> list[tuple[int, list[str]]]:
    rows = []
    reader = csv.reader(io.StringIO(text), delimiter=delimiter)
    try:
        for cells in reader:
            if any(c.strip() for c in cells):
                rows.append((reader.line_num, [c.strip() for c in cells]))
            if len(rows) > MOST_ROWS:
                raise ReadingsError([Fault(reader.line_num, f"more than {MOST_ROWS:,} rows; export one draw only")])
    except csv.Error as e:
        raise ReadingsError([Fault(reader.line_num, f"this line is not CSV ({e})")]) from None
    return rows


def read_table(data: bytes, mapping: table.Mapping | None = None, atmosphere: float = 101_325.0) -> Import:
    """Read a table of readings. With ``mapping`` given, nothing is guessed.

    Raises ReadingsError with up to 50 line-numbered faults; then nothing is imported.
    """
    text = decode(data)
    delimiter = mapping.delimiter if mapping else table.guess_delimiter(text)
    rows = _rows(text, delimiter)
    guesses: list[str] = []
    if mapping is None:
        try:
            mapping = table.guess_mapping(rows, delimiter, guesses)
        except table.MappingError as e:
            raise ReadingsError([Fault(e.line, str(e))]) from None
    body = [r for r in rows if r[0] > mapping.header_line]
    if not body:
        raise ReadingsError([Fault(mapping.header_line, "there are no rows under the header")])
    preview = tuple(tuple(cells) for _, cells in body[:6])
    series, over = _parse(body, mapping, atmosphere)
    return Import(series=series, mapping=mapping, guesses=tuple(guesses), rows=len(body), over=over, preview=preview)


def _parse(body: list[tuple[int, list[str]]], m: table.Mapping, atmosphere: float) -> tuple[tuple[Series, ...], int]:
    faults: list[Fault] = []
    times: list[float] = []
    columns: list[list[float]] = [[] for _ in m.pressures]
    notes: list[tuple[float, str]] = []
    clock = table.Clock(m.time_kind)
    width = len(body[0][1])
    over = 0
    start_clock = ""
    last: tuple[float, int, tuple[float, ...]] | None = None
    for line, cells in body:
        if len(faults) >= 50:
            faults.append(Fault(line, "and more; the rest was not looked at"))
            break
        if len(cells) < max(m.time_columns) + 1 or (len(cells) < 2 and width >= 2):
            what = f"has {len(cells)} column{'s' if len(cells) != 1 else ''} where {width} are expected"
            faults.append(Fault(line, f"{what}; is another separator used here?"))
            continue
        written = " ".join(cells[c] for c in m.time_columns)
        try:
            t = clock.seconds(written, m.decimal_comma)
        except ValueError as e:
            faults.append(Fault(line, str(e)))
            continue
        if not start_clock:
            start_clock = clock.first
        values: list[float] = []
        for column in m.pressures:
            cell = cells[column.index] if column.index < len(cells) else ""
            try:
                value, is_over = _pressure(cell, column, cells, m, atmosphere)
            except ValueError as e:
                faults.append(Fault(line, str(e)))
                value, is_over = float("nan"), False
            over += is_over
            values.append(value)
        if last is not None and t < last[0]:
            back = last[0] - t
            faults.append(
                Fault(line, f"time goes back by {back:g} s against line {last[1]}; sort the rows or remove this one")
            )
            continue
        if last is not None and t == last[0]:
            if _same(values, last[2]):
                continue
            faults.append(Fault(line, f"the same time as line {last[1]} with another pressure; which one is right?"))
            continue
        last = (t, line, tuple(values))
        times.append(t)
        for store, value in zip(columns, values, strict=True):
            store.append(value)
        if m.note_column is not None and m.note_column < len(cells) and cells[m.note_column]:
            notes.append((t, cells[m.note_column]))
    if faults:
        raise ReadingsError(faults)
    t0 = times[0]
    time = np.array(times) - t0
    shifted = tuple((a - t0, b) for a, b in notes)
    result = []
    for column, store in zip(m.pressures, columns, strict=True):
        values_array = np.array(store)
        if np.isfinite(values_array).sum() < 2:
            raise ReadingsError([Fault(m.header_line, f"column '{column.label}' carries no readings in range")])
        result.append(Series(time, values_array, column.label, shifted, start_clock))
    return tuple(result), over


def _same(a: list[float], b: tuple[float, ...]) -> bool:
    return all(x == y or (x != x and y != y) for x, y in zip(a, b, strict=True))


def _pressure(
    cell: str, column: table.PressureColumn, cells: list[str], m: table.Mapping, atmosphere: float
) -> tuple[float, bool]:
    """Pressure, Pa, of one cell, NaN for over range. Raises ValueError that says what is wrong."""
    if cell == "" or cell.lower().strip("*<> ") in OVER_WORDS:
        return float("nan"), True
    unit = column.unit
    if m.unit_column is not None and m.unit_column < len(cells):
        written = table.pressure_unit(cells[m.unit_column])
        if written is None:
            raise ValueError(f"'{cells[m.unit_column]}' is not a unit of pressure")
        unit = written
    try:
        value = table.number(cell, m.decimal_comma)
    except ValueError:
        raise ValueError(f"'{cell[:40]}' is not a pressure; write a number, or OVER for over range") from None
    if unit not in PA_PER:
        raise ValueError(f"the unit of '{column.label}' is not known; choose one")
    if column.dial or (value < 0 and unit in ("inhg", "psi")):
        return dial_to_absolute(value, unit, atmosphere), False
    if value < 0:
        raise ValueError(f"{cell} is negative; an absolute pressure cannot be below zero")
    pa = to_pa(value, unit)
    if pa > HIGHEST_PA:
        raise ValueError(f"{cell} is above the atmosphere ({pa / 1000:.0f} kPa); wrong unit, or a slip of the pen")
    return pa, False
