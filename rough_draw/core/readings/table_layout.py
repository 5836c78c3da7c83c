"""What a readings table looks like: separator, header, columns, units and clock, guessed and stated."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from rough_draw.core.message import Fault, Message, message
from rough_draw.core.physics.units import ATMOSPHERE_PA, PA_PER, pressure_unit

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

TIME_WORDS = ("time", "timestamp", "elapsed", "uhrzeit", "zeit", "seconds", "sec", "clock", "heure", "hora", "minutes")
DATE_WORDS = ("date", "datum", "day", "fecha")
PRESSURE_WORDS = ("pressure", "vacuum", "micron", "druck", "reading", "vac", "torr", "mbar", "_pa", "_micron", "gauge")
NOTE_WORDS = ("note", "remark", "comment", "event", "bemerkung")
BY_NAME = r"\b\d{1,2}\W+[^\W\d_]{3,}\W+\d{2,4}\b|\b[^\W\d_]{3,}\W+\d{1,2}\W+\d{2,4}\b"
"""A date with its month by name: 11 Jul 2026, Jul 11, 2026."""
NOT_PRESSURE = ("battery", "temp", "%", "humid", "volt", "serial", "°c", "°f", "flag")


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
    """How to read a table. ``time_kind``: seconds, minutes, m:ss, clock, datetime; ``day_first``: 5/7 is in July."""

    delimiter: str
    decimal_comma: bool
    header_line: int
    time_columns: tuple[int, ...]
    time_kind: str
    pressures: tuple[PressureColumn, ...]
    unit_column: int | None = None
    note_column: int | None = None
    day_first: bool = True


def number(cell: str, decimal_comma: bool) -> float:
    """A written number: thousands separators dropped, decimal comma if said so. Raises Fault."""
    s = cell.strip().replace("\u00a0", "").replace("\u2212", "-").replace("'", "")
    if decimal_comma:
        s = (
            s.replace(".", "").replace(",", ".")
            if re.fullmatch(r"-?\d{1,3}(\.\d{3})+(,\d+)?", s)
            else s.replace(",", ".")
        )
    elif re.fullmatch(r"-?\d{1,3}(,\d{3})+(\.\d+)?", s):
        s = s.replace(",", "")
    if not re.fullmatch(r"[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?", s):
        raise Fault(message("table-number", text=cell[:40]))
    return float(s)


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
        lowered = [c.lower() for c in cells]
        time = any(any(w in c for w in (*TIME_WORDS, *DATE_WORDS)) for c in lowered)
        pressure = any(_looks_like_pressure(c) for c in lowered)
        if len(cells) >= 2 and time and pressure and not any(re.fullmatch(r"[\d.,:]+", c) for c in cells if c):
            return line, cells
    return None


def _looks_like_pressure(name: str) -> bool:
    low = name.lower()
    if any(w in low for w in NOT_PRESSURE):
        return False
    return _unit_in(name) is not None or any(w in low for w in PRESSURE_WORDS)


def _unit_in(name: str) -> str | None:
    """A unit named in a header cell: in brackets, after an underscore, or as a word."""
    for part in (*re.findall(r"[\[(]([^\])]+)[\])]", name), *re.split(r"[_,/]", name), *name.split()):
        unit = pressure_unit(part)
        if unit:
            return unit
    return None


def guess_mapping(rows: list[tuple[int, list[str]]], delimiter: str, guesses: list[Message]) -> Mapping:
    """Work out the layout; what is guessed rather than read is added to ``guesses``.

    Raises MappingError if no time or no pressure column can be found.
    """
    header = _find_header(rows)
    if header is None:
        return _guess_without_header(rows, delimiter, guesses)
    line, names = header
    body = [cells for n, cells in rows if n > line][:400]
    lowered = [n.lower() for n in names]
    unit_column = next((i for i, n in enumerate(lowered) if n in ("unit", "units", "einheit")), None)
    note_column = next((i for i, n in enumerate(lowered) if any(w in n for w in NOTE_WORDS)), None)
    time_columns = tuple(
        i
        for i, n in enumerate(lowered)
        if any(w in n for w in (*TIME_WORDS, *DATE_WORDS))
        and not _unit_in(names[i])
        and i not in (unit_column, note_column)
    )
    if not time_columns:
        raise MappingError(line, message("table-no-times", names=", ".join(names)[:200]))
    if len(time_columns) > 1 and not _date_and_time(lowered, time_columns):
        time_columns = time_columns[:1]
    decimal_comma = delimiter != "," and _decimal_comma(body, time_columns)
    pressures = []
    for i, name in enumerate(names):
        if i in time_columns or i in (unit_column, note_column) or not _looks_like_pressure(name):
            continue
        unit = _unit_in(name)
        if unit is None and unit_column is None:
            unit = "micron"
            guesses.append(message("guess-microns", column=name))
        dial = unit in ("inhg", "psi") and not _says_absolute(name) and not _is_absolute(body, i, decimal_comma, unit)
        if dial:
            guesses.append(message("guess-dial", column=name, unit=unit or ""))
        elif unit in ("inhg", "psi") and not _says_absolute(name):
            guesses.append(message("guess-absolute", column=name, unit=unit or ""))
        pressures.append(PressureColumn(i, unit or "micron", name, dial))
    if not pressures:
        raise MappingError(line, message("table-no-pressures", names=", ".join(names)[:200]))
    written = [" ".join(c[i] for i in time_columns if i < len(c)) for c in body]
    kind = _time_kind(written, lowered, time_columns, guesses)
    return Mapping(
        delimiter=delimiter,
        decimal_comma=decimal_comma,
        header_line=line,
        time_columns=time_columns,
        time_kind=kind,
        pressures=tuple(pressures),
        unit_column=unit_column,
        note_column=note_column,
        day_first=kind != "datetime" or _day_first(written, guesses),
    )


def _date_and_time(names: list[str], columns: tuple[int, ...]) -> bool:
    """Whether two columns make one time together: a date, then a time of day."""
    if len(columns) != 2:
        return False
    first, second = names[columns[0]], names[columns[1]]
    is_date = any(w in first for w in DATE_WORDS)
    return is_date and "time" not in first and not any(w in second for w in DATE_WORDS)


def _guess_without_header(rows: list[tuple[int, list[str]]], delimiter: str, guesses: list[Message]) -> Mapping:
    if not rows:
        raise MappingError(0, message("table-nothing"))
    line, cells = rows[0]
    if len(cells) < 2:
        raise MappingError(line, message("table-one-column"))
    comma = delimiter != "," and _decimal_comma([c for _, c in rows[:400]], (0,))
    if not _is_number(cells[1], comma):
        raise MappingError(line, message("table-no-header", text=cells[1][:40]))
    guesses.append(message("guess-no-header"))
    written = [c[0] for _, c in rows[:400]]
    kind = _time_kind(written, [""], (0,), guesses)
    return Mapping(
        delimiter=delimiter,
        decimal_comma=comma,
        header_line=line - 1,
        time_columns=(0,),
        time_kind=kind,
        pressures=(PressureColumn(1, "micron", "pressure"),),
        day_first=kind != "datetime" or _day_first(written, guesses),
    )


def _decimal_comma(body: list[list[str]], skip: tuple[int, ...]) -> bool:
    cells = [c for row in body for i, c in enumerate(row) if i not in skip]
    commas = sum(1 for c in cells if re.fullmatch(r"-?\d+,\d+", c))
    points = sum(1 for c in cells if re.fullmatch(r"-?\d+\.\d+", c))
    return commas > points


def _says_absolute(name: str) -> bool:
    return bool(re.search(r"\babs|absol|psia\b|inhga\b|\bhga\b", name.lower()))


def _is_absolute(body: list[list[str]], index: int, comma: bool, unit: str) -> bool:
    """Whether figures in inHg or psi can only be absolute. A dial counts vacuum downward from the air, so that is what
    they are, unless they end near zero after having begun no lower: a dial that does so has lost its vacuum."""
    values = [number(c[index], comma) for c in body if index < len(c) and _is_number(c[index], comma)]
    near_nothing = 0.05 * ATMOSPHERE_PA / PA_PER[unit]
    return bool(values) and min(values) >= 0 and max(values[0], 0) >= values[-1] and values[-1] < near_nothing


def _time_kind(written: list[str], names: list[str], columns: tuple[int, ...], guesses: list[Message]) -> str:
    first = next((w for w in written if w.strip()), "")
    header = " ".join(names[i] for i in columns if i < len(names))
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
            guesses.append(message("guess-minutes"))
            return "m:ss"
        return "clock"
    if "min" in header and "minute" in header:
        return "minutes"
    return "seconds"


def _day_first(written: list[str], guesses: list[Message]) -> bool:
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
    if pairs[0][0] != pairs[0][1] and len(firsts) == 1:
        guesses.append(message("guess-day-first"))
    return True


class Clock:
    """Turns written times into seconds, carrying clock times past midnight."""

    def __init__(self, kind: str, day_first: bool = True) -> None:
        self.kind = kind
        self.day_first = day_first
        self.first = ""
        self._day = 0
        self._last: float | None = None

    def seconds(self, text: str, decimal_comma: bool = False) -> float:
        """Seconds of ``text`` on an arbitrary but steady origin. Raises Fault that says what is wrong."""
        s = text.strip()
        if not s:
            raise Fault(message("table-no-time"))
        if self.kind in ("seconds", "minutes"):
            try:
                return number(s, decimal_comma) * (60.0 if self.kind == "minutes" else 1.0)
            except Fault:
                raise Fault(message("table-time", text=s[:40], kind=self.kind)) from None
        if self.kind == "datetime":
            value = _datetime(s, self.day_first)
            self.first = self.first or value.isoformat(timespec="seconds")
            # With a zone, clocks that are put forward or back in the middle do not matter.
            origin = datetime(2000, 1, 1, tzinfo=UTC if value.tzinfo is not None else None)
            return (value - origin) / timedelta(seconds=1)
        match = re.fullmatch(r"(\d+):(\d{1,2})(?::(\d{1,2}(?:[.,]\d+)?))?\s*([AaPp][Mm])?", s)
        if not match:
            raise Fault(message("table-time", text=s[:40], kind="clock"))
        a, b = int(match[1]), int(match[2])
        c = float(match[3].replace(",", ".")) if match[3] else 0.0
        if b > 59 or c >= 60:
            raise Fault(message("table-time-59", text=s[:40]))
        if self.kind == "m:ss" and match[3] is None:
            return a * 60.0 + b
        if match[4]:
            a = a % 12 + (12 if match[4].lower() == "pm" else 0)
        self.first = self.first or s
        value_s = a * 3600.0 + b * 60.0 + c
        if self._last is not None and value_s < self._last - 12 * 3600:
            self._day += 1
        self._last = value_s
        return value_s + self._day * 86_400.0


_TIMES = ("%I:%M:%S %p", "%H:%M:%S", "%H:%M", "%I:%M %p", "%H:%M:%S.%f")
_PLAIN = ("%d.%m.%Y", "%Y-%m-%d", "%d.%m.%y")
_STROKES = {True: ("%d/%m/%Y", "%d/%m/%y"), False: ("%m/%d/%Y", "%m/%d/%y")}
_FORMATS = {first: tuple(f"{d} {t}" for d in (*_STROKES[first], *_PLAIN) for t in _TIMES) for first in (True, False)}


def _datetime(s: str, day_first: bool = True) -> datetime:
    """A date with a time of day. The common ways are tried by name; others are left to the date library."""
    try:
        return datetime.fromisoformat(s.replace("Z", "+00:00"))
    except ValueError:
        pass
    for form in _FORMATS[day_first]:
        try:
            return datetime.strptime(s, form)
        except ValueError:
            continue
    # Takes a while to import, and few files ask for it.
    from dateutil import parser

    try:
        # Two origins: what is not written in the cell would be taken from them, and must not be.
        one, other = (
            parser.parse(s, dayfirst=day_first, default=d) for d in (datetime(2001, 2, 3), datetime(2004, 5, 6))
        )
    except (ValueError, OverflowError):
        one, other = datetime.min, datetime.max
    if one != other:
        raise Fault(message("table-time", text=s[:40], kind="datetime"))
    found: datetime = one
    return found
