"""The rows of a question in one step.

The library gives the interpreter's lock away at each row and has to wait for it again: beside a thread that works
something out, the two hundred rows of a Yard took more than a second, and as one row a hundredth of it.
"""

from __future__ import annotations

import secrets
import sqlite3
from collections.abc import Sequence
from typing import Any

from rough_draw.store.models import database

BETWEEN = f"<{secrets.token_hex(8)}>"
"""What stands between two values of a column: nobody can have written it."""


def at_once(
    columns: Sequence[str], rest: str, given: Sequence[object] = (), long: str | None = None
) -> list[tuple[Any, ...]]:
    """The rows of ``SELECT columns rest``, each value as the library would give it; short text ends at a NUL.

    ``given``: what stands for the question marks of ``columns`` and ``rest``. ``long``: the column of long texts.
    """
    named = ", ".join(f"{c} AS c{n}" for n, c in enumerate(columns))
    # A text needs no marks of its own; what is none there is found by its kind.
    joined = ", ".join(
        f"group_concat({f'c{n}' if c == long else f'quote(c{n})'}, '{BETWEEN}')" for n, c in enumerate(columns)
    )
    other = f"total(typeof(c{columns.index(long)}) <> 'text')" if long is not None else "0"
    try:
        (whole,) = database.execute_sql(f"SELECT {joined}, {other} FROM (SELECT {named} {rest})", given).fetchall()
    except sqlite3.OperationalError:
        whole = ("", 1)
    if whole[-1]:
        # What should be text is none: whoever asks is told of the row that it is in.
        return list(database.execute_sql(f"SELECT {named} {rest}", given).fetchall())
    if whole[0] is None:
        return []
    apart = [column.split(BETWEEN) for column in whole[:-1]]
    return list(zip(*(x if c == long else map(_value, x) for c, x in zip(columns, apart, strict=True)), strict=True))


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
