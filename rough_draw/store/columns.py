"""Columns of numbers that read what other hands left in them.

The database keeps a text in a column of numbers where it is written one: of a damaged file, or one that another
program was in. Such a number is read as 0, where nothing but an order or a stamp on a page hangs on it, and stays in
the file as it is. What is measured is never made up: readings, steps and weights whose number is none are passed over
(`is_number`).
"""

from __future__ import annotations

import logging
import math
from functools import lru_cache
from typing import Any

from peewee import FloatField, IntegerField

log = logging.getLogger(__name__)
MOST = 1.7e308


def is_number(column: str) -> str:
    """The condition, in SQL, that a column has a number in it: text and what is past all numbers sort elsewhere."""
    return f"{column} BETWEEN -{MOST} AND {MOST}"


@lru_cache
def _tell(where: str) -> None:
    # Once: shared pages read every row each second, and a full disk helps nobody.
    log.warning("no number stands in %s: read as 0", where)


def number(value: object, where: str) -> float | None:
    """A stored number, 0 for what is none; None where nothing stands. ``where``: its table and column."""
    if value is None or (isinstance(value, int | float) and math.isfinite(value)):
        return None if value is None else float(value)
    _tell(where)
    return 0.0


def _where(field: Any) -> str:
    return f"{field.model._meta.table_name}.{field.column_name}"


class NumberColumn(FloatField):
    """A number; 0 for what is none."""

    def python_value(self, value: Any) -> float | None:
        """As the application has it."""
        return number(value, _where(self))


class CountColumn(IntegerField):
    """A whole number; 0 for what is none."""

    def python_value(self, value: Any) -> int | None:
        """As the application has it."""
        if isinstance(value, int):
            return value
        found = number(value, _where(self))
        return None if found is None else int(found)
