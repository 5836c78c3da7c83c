"""What a readings table looks like: separator, header, columns, units and clock, guessed and stated."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Literal

from rough_draw.core.message import Fault, Message, message
from rough_draw.core.physics.dial import DIAL_UNITS, NAMES
from rough_draw.core.physics.units import ATMOSPHERE_PA, PA_PER, pressure_unit
from rough_draw.core.readings.cell import number
from rough_draw.core.readings.clock import Clock
from rough_draw.core.readings.header_words import NOT_PRESSURE, names_date, names_note, names_pressure, names_time
from rough_draw.core.readings.time_unit import TimeUnit, time_unit_in

__all__ = [
    "Clock",
    "Mapping",
    "MappingError",
    "PressureColumn",
    "guess_delimiter",
    "guess_mapping",
    "number",
    "pressure_unit",
]

BY_NAME = r"\b\d{1,2}\W+[^\W\d_]{3,}\W+\d{2,4}\b|\b[^\W\d_]{3,}\W+\d{1,2}\W+\d{2,4}\b"
"""A date with its month by name: 11 Jul 2026, Jul 11, 2026."""


Undecided = Literal["time-unit", "day-first"]


class MappingError(Fault):
    """The table's layout cannot be made out; ``line`` says where."""

    def __init__(self, line: int, told: Message) -> None:
        super().__init__(told)
        self.line = line


@dataclass(frozen=True)
class PressureColumn:
    """A column of pressures: its position, unit (a key of `units.PA_PER`), label, and whether it is a dial vacuum."""

    index: int
    unit: str
    label: str
    dial: bool = False


@dataclass(frozen=True, kw_only=True)
class Mapping:
    """How to read a table. ``time_kind``: a unit of plain times, m:ss, clock, datetime; ``day_first``: 5/7 is in July.

    ``undecided``: what the table does not say and was taken as usual: its unit of time, the order of day and month.
    """

    delimiter: str
    decimal_comma: bool
    header_line: int
    time_columns: tuple[int, ...]
    time_kind: str
    pressures: tuple[PressureColumn, ...]
    unit_column: int | None = None
    note_column: int | None = None
    source_column: int | None = None
    day_first: bool = True
    undecided: tuple[Undecided, ...] = ()


def guess_delimiter(text: str) -> str:
    """Tab, semicolon or comma: the one that splits most of the first 60 lines into the same number of cells."""
    lines = [line for line in text.splitlines()[:60] if line.strip()]
    best, score = ",", 0.0
    for d in ("\t", ";", ","):
        counts = [line.count(d) for line in lines]
        filled = [c for c in counts if c]
        if not filled:
            continue
        common = max(set(filled), key=filled.count)
        share = filled.count(common) / len(lines)
        if share > score + 0.05:
            best, score = d, share
    return best


def _is_number(cell: str, decimal_comma: bool) -> bool:
    try:
        number(cell, decimal_comma)
    except ValueError:
        return False
    return True


def _find_header(rows: list[tuple[int, list[str]]]) -> tuple[int, list[str]] | None:
    for line, cells in rows[:60]:
        time = any(_looks_like_time(c) for c in cells)
        pressure = any(_looks_like_pressure(c) for c in cells)
        if len(cells) >= 2 and time and pressure and not any(re.fullmatch(r"[\d.,:]+", c) for c in cells if c):
            return line, cells
    return None


def _looks_like_time(name: str) -> bool:
    """Whether a header cell names a time: by a word for it, as t, or by a unit of time alone."""
    low = name.lower()
    if _unit_in(name):
        return False
    if names_time(name):
        return True
    timed = time_unit_in(name) is not None
    # In French it is the time, in English what loggers write beside the pressure: the unit tells.
    if re.match(r"temps\b", low):
        return timed
    return timed and not names_pressure(name) and not any(w in low for w in NOT_PRESSURE)


def _looks_like_pressure(name: str) -> bool:
    low = name.lower()
    if any(w in low for w in NOT_PRESSURE):
        return False
    return _unit_in(name) is not None or names_pressure(name)


def _unit_in(name: str) -> str | None:
    """A unit named in a header cell: in brackets, after an underscore, or as a word."""
    for part in (*re.findall(r"[\[(]([^\])]+)[\])]", name), *re.split(r"[_,/]", name), *name.split()):
        unit = pressure_unit(part)
        if unit:
            return unit
    return None


def guess_mapping(
    rows: list[tuple[int, list[str]]],
    delimiter: str,
    guesses: list[Message],
    time_unit: TimeUnit | None = None,
    day_first: bool | None = None,
) -> Mapping:
    """Work out the layout; what is guessed rather than read is added to ``guesses``.

    ``time_unit`` and ``day_first`` decide what the table itself does not say.

    Raises MappingError if no time or no pressure column can be found.
    """
    asked = _Asked(guesses, time_unit, day_first)
    header = _find_header(rows)
    if header is None:
        return _guess_without_header(rows, delimiter, asked)
    line, names = header
    line, names = _with_units(rows, line, names)
    body = [cells for n, cells in rows if n > line][:400]
    lowered = [n.lower() for n in names]
    unit_column = next((i for i, n in enumerate(lowered) if n in ("unit", "units", "einheit")), None)
    note_column = next((i for i, n in enumerate(lowered) if names_note(n)), None)
    source_column = next((i for i, n in enumerate(lowered) if n == "source"), None)
    others = (unit_column, note_column, source_column)
    time_columns = tuple(i for i in range(len(names)) if _looks_like_time(names[i]) and i not in others)
    if not time_columns:
        raise MappingError(line, message("table-no-times", names=", ".join(names)[:200]))
    if len(time_columns) > 1 and not _date_and_time(lowered, time_columns):
        time_columns = time_columns[:1]
    decimal_comma = delimiter != "," and _decimal_comma(body, time_columns)
    pressures = []
    for i, name in enumerate(names):
        if i in time_columns or i in others or not _looks_like_pressure(name):
            continue
        unit = _unit_in(name)
        if unit is None and unit_column is None:
            unit = "micron"
            guesses.append(message("guess-microns", column=name))
        dial = _is_dial(name, unit, body, i, decimal_comma)
        if dial:
            guesses.append(message("guess-dial", column=name, unit=NAMES.get(unit or "", unit or "")))
        elif unit in COUNTED_DOWN and not _says_absolute(name):
            guesses.append(message("guess-absolute", column=name, unit=NAMES[unit or ""]))
        pressures.append(PressureColumn(i, unit or "micron", name, dial))
    if not pressures:
        raise MappingError(line, message("table-no-pressures", names=", ".join(names)[:200]))
    written = [" ".join(c[i] for i in time_columns if i < len(c)) for c in body]
    kind = _time_kind(written, [names[i] for i in time_columns], asked)
    first = kind != "datetime" or _day_first(written, asked)
    return Mapping(
        delimiter=delimiter,
        decimal_comma=decimal_comma,
        header_line=line,
        time_columns=time_columns,
        time_kind=kind,
        pressures=tuple(pressures),
        unit_column=unit_column,
        note_column=note_column,
        source_column=source_column,
        day_first=first,
        undecided=tuple(asked.open),
    )


def _date_and_time(names: list[str], columns: tuple[int, ...]) -> bool:
    """Whether two columns make one time together: a date, then a time of day."""
    if len(columns) != 2:
        return False
    first, second = names[columns[0]], names[columns[1]]
    return names_date(first) and "time" not in first and not names_date(second)


@dataclass
class _Asked:
    """What was guessed, what somebody decided beforehand, and what stays open."""

    guesses: list[Message]
    time_unit: TimeUnit | None = None
    day_first: bool | None = None
    open: list[Undecided] = field(default_factory=list)

    def leave(self, what: Undecided, told: Message) -> None:
        """Taken as usual, and said so."""
        self.open.append(what)
        self.guesses.append(told)


def _with_units(rows: list[tuple[int, list[str]]], line: int, names: list[str]) -> tuple[int, list[str]]:
    """Header cells with the units of a row of units under them, where there is one; that row is then passed over."""
    following = next((r for r in rows if r[0] > line), None)
    if following is None:
        return line, names
    n, cells = following
    bare = [c.strip("()[] ") for c in cells]
    units = [bool(c) and (pressure_unit(c) is not None or time_unit_in(c) is not None) for c in bare]
    if sum(units) < 2 or any(re.search(r"\d", c) for c in bare):
        return line, names
    padded = [*bare, *[""] * len(names)]
    return n, [f"{name} ({unit})" if unit else name for name, unit in zip(names, padded, strict=False)]


def _guess_without_header(rows: list[tuple[int, list[str]]], delimiter: str, asked: _Asked) -> Mapping:
    if not rows:
        raise MappingError(0, message("table-nothing"))
    line, cells = rows[0]
    if len(cells) < 2:
        raise MappingError(line, message("table-one-column"))
    comma = delimiter != "," and _decimal_comma([c for _, c in rows[:400]], (0,))
    if not _is_number(cells[1], comma):
        raise MappingError(line, message("table-no-header", text=cells[1][:40]))
    asked.guesses.append(message("guess-no-header"))
    written = [c[0] for _, c in rows[:400]]
    kind = _time_kind(written, [""], asked)
    first = kind != "datetime" or _day_first(written, asked)
    return Mapping(
        delimiter=delimiter,
        decimal_comma=comma,
        header_line=line - 1,
        time_columns=(0,),
        time_kind=kind,
        pressures=(PressureColumn(1, "micron", "pressure"),),
        day_first=first,
        undecided=tuple(asked.open),
    )


def _decimal_comma(body: list[list[str]], skip: tuple[int, ...]) -> bool:
    cells = [c for row in body for i, c in enumerate(row) if i not in skip]
    commas = sum(1 for c in cells if re.fullmatch(r"-?\d+,\d+", c))
    points = sum(1 for c in cells if re.fullmatch(r"-?\d+\.\d+", c))
    return commas > points


COUNTED_DOWN = ("inhg", "psi", "cmhg")
"""Units in which a vacuum is usually counted downward from the air, with or without a sign."""


def _is_dial(name: str, unit: str | None, body: list[list[str]], index: int, comma: bool) -> bool:
    """Whether a column was read on a needle: by its unit, by its name, or by figures under nothing."""
    if unit not in DIAL_UNITS or _says_absolute(name):
        return False
    if unit in COUNTED_DOWN:
        return not _is_absolute(body, index, comma, unit)
    if re.search(r"(?i)\bgauge\b|\brel(ative)?\b|barg\b|kpag\b|mpag\b", name):
        return True
    # An absolute gauge whose zero has drifted shows a little under nothing now and then; a dial shows nothing else.
    air = ATMOSPHERE_PA / PA_PER[unit]
    values = _figures(body, index, comma)
    return bool(values) and max(values) < 0.02 * air and min(values) < -0.2 * air


def _says_absolute(name: str) -> bool:
    return bool(re.search(r"\babs|absol|psia\b|inhga\b|\bhga\b", name.lower()))


def _is_absolute(body: list[list[str]], index: int, comma: bool, unit: str) -> bool:
    """Whether figures in inHg or psi can only be absolute. A dial counts vacuum downward from the air, so that is what
    they are, unless they end near zero after having begun no lower: a dial that does so has lost its vacuum."""
    values = _figures(body, index, comma)
    near_nothing = 0.05 * ATMOSPHERE_PA / PA_PER[unit]
    return bool(values) and min(values) >= 0 and max(values[0], 0) >= values[-1] and values[-1] < near_nothing


def _figures(body: list[list[str]], index: int, comma: bool) -> list[float]:
    return [number(c[index], comma) for c in body if index < len(c) and _is_number(c[index], comma)]


def _time_kind(written: list[str], names: list[str], asked: _Asked) -> str:
    first = next((w for w in written if w.strip()), "")
    header = " ".join(names).lower()
    if re.search(r"\d{4}-\d\d-\d\d|\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|" + BY_NAME, first):
        return "datetime"
    colons = first.count(":")
    if colons == 2:
        return "clock"
    if colons == 1:
        heads = [int(w.split(":")[0]) for w in written if re.match(r"\d+:\d", w)]
        if max(heads, default=0) > 23:
            return "m:ss"
        if "elapsed" in header or first in ("0:00", "00:00"):
            asked.guesses.append(message("guess-minutes"))
            return "m:ss"
        return "clock"
    named = next((u for n in names if (u := time_unit_in(n)) is not None), None)
    if named is None and re.fullmatch(r"\d+([.,]\d+)?", first.strip()):
        # Figures as large as these count from 1970, and their size says in what.
        since = float(first.strip().replace(",", "."))
        if since > 1e8:
            return "milliseconds" if since > 1e11 else "seconds"
    if named is not None or asked.time_unit is not None:
        return str(named or asked.time_unit)
    asked.leave("time-unit", message("guess-seconds"))
    return "seconds"


def _day_first(written: list[str], asked: _Asked) -> bool:
    """Whether dates with strokes or points begin with the day: by any figure over twelve in the column.

    Where none tells, the one under which the days run on without a gap of a month; in doubt the day, and that is said.
    """
    dates = [m for w in written if (m := re.match(r"\s*(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}\b", w))]
    pairs = [(int(m[1]), int(m[2])) for m in dates]
    if not pairs or any("." in m[0] for m in dates) or any(a > 12 for a, _ in pairs):
        return True
    if any(b > 12 for _, b in pairs):
        return False
    firsts, seconds = {a for a, _ in pairs}, {b for _, b in pairs}
    if len(seconds) > 1 and len(firsts) == 1:
        # The second runs on while the first stands: within one draw that is the day.
        return False
    if asked.day_first is not None:
        return asked.day_first
    if any(a != b for a, b in pairs):
        asked.leave("day-first", message("guess-day-first"))
    return True
