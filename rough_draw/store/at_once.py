"""The rows of a question in one step.

The library gives the interpreter's lock away at each row and has to wait for it again: beside a thread that works
something out, the two hundred rows of a Yard took more than a second, and as one row a hundredth of it.
"""

from __future__ import annotations

import secrets
import sqlite3
from collections.abc import Iterable, Sequence
from typing import Any

from rough_draw.store.models import database

BETWEEN = f"<{secrets.token_hex(8)}>"
"""What stands between two values of a column: nobody can have written it."""


def at_once(
    select: str, width: int, given: Sequence[object] = (), long: int | None = None
) -> Iterable[tuple[Any, ...]]:
    """The rows of a ``SELECT`` of ``width`` columns, each value as the library would give it; short text ends at a NUL.

    ``given``: what stands for its question marks. ``long``: the number of a column of long texts.
    """
    # A text needs no marks of its own; what is none there is found by its kind.
    joined = ", ".join(f"group_concat({f'c{n}' if n == long else f'quote(c{n})'}, '{BETWEEN}')" for n in range(width))
    other = "0" if long is None else f"total(typeof(c{long}) <> 'text')"
    names = ", ".join(f"c{n}" for n in range(width))
    try:
        (whole,) = database.execute_sql(f"WITH found({names}) AS ({select}) SELECT {joined}, {other} FROM found", given)
    except sqlite3.OperationalError:
        whole = ("", 1)
    if whole[-1]:
        # What should be text is none: whoever asks is told of the row that it is in.
        return list(database.execute_sql(select, given))
    if whole[0] is None:
        return []
    columns = [column.split(BETWEEN) for column in whole[:-1]]
    return zip(*(c if n == long else map(_value, c) for n, c in enumerate(columns)), strict=True)


def _value(written: str) -> Any:
    """A value by its literal in SQL."""
    if written[0] == "'":
        return written[1:-1].replace("''", "'")
    if written == "NULL":
        return None
    if written[0] == "X":
        return bytes.fromhex(written[2:-1])
    try:
        return int(written)
    except ValueError:
        return float(written)
