"""Rows read in one step are the rows as the library gives them, whatever stands in them."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from peewee import SqliteDatabase

from rough_draw.core.sheet.job import Job
from rough_draw.store import jobs
from rough_draw.store.at_once import at_once
from rough_draw.store.models import database
from rough_draw.store.reading_cache import forget_all, readings_of
from tests.depth import drawn

WORDS = st.text(st.characters(exclude_characters="\0", exclude_categories=["Cs"]))
VALUES = st.none() | st.integers(-(2**63), 2**63 - 1) | st.floats(allow_nan=False) | WORDS | st.binary()
ROWS = st.lists(st.tuples(VALUES, st.text(st.characters(exclude_categories=["Cs"])), VALUES), max_size=12)


@settings(max_examples=drawn(200), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(ROWS)
def test_every_value_is_as_it_was(db: SqliteDatabase, rows: list[tuple[Any, str, Any]]) -> None:
    database.execute_sql("CREATE TEMP TABLE IF NOT EXISTS odd (a, b, c)")
    database.execute_sql("DELETE FROM odd")
    for row in rows:
        database.execute_sql("INSERT INTO odd VALUES (?, ?, ?)", row)
    plain = database.execute_sql("SELECT a, b, c FROM odd ORDER BY rowid").fetchall()
    found = list(at_once("SELECT a, b, c FROM odd ORDER BY rowid", 3, long=1))
    assert found == plain
    assert [[type(v) for v in row] for row in found] == [[type(v) for v in row] for row in plain]


@pytest.mark.parametrize("odd", [None, b"\xff\xfe", 7, 1.5])
def test_a_long_text_that_is_none_is_given_as_it_is(db: SqliteDatabase, odd: object) -> None:
    database.execute_sql("CREATE TEMP TABLE long (a, b)")
    for row in ((1, "so"), (2, odd)):
        database.execute_sql("INSERT INTO long VALUES (?, ?)", row)
    assert list(at_once("SELECT a, b FROM long ORDER BY a", 2, long=1)) == [(1, "so"), (2, odd)]


STEPS = st.lists(
    st.tuples(st.integers(0, 2), st.sampled_from(["reads", "says", "says", "late", "all"])), min_size=1, max_size=25
)


@settings(max_examples=drawn(40), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(STEPS)
def test_of_several_jobs_at_once_is_what_each_has(db: SqliteDatabase, steps: list[tuple[int, str]]) -> None:
    keys = [jobs.create(Job()).key for _ in range(3)]
    said: dict[str, list[tuple[float, float]]] = {k: [] for k in keys}
    for n, (which, what) in enumerate(steps):
        key = keys[which]
        if what == "reads":
            jobs.readings(key)
        elif what == "all":
            readings_of(keys)
        else:
            at = float(n) if what == "says" else -1.0 - n
            pa = math.nan if n % 5 == 0 else 10.0 + n
            said[key].append((at, pa))
            jobs.add_readings(key, [jobs.NewReading(gauge="g", at=at, pa=None if math.isnan(pa) else pa)], "gauge")
    for _ in range(2):
        together = readings_of(keys)
        for key in keys:
            found = [(a, p) for s in together[key] for a, p in zip(s.at.tolist(), s.pa.tolist(), strict=True)]
            assert str(found) == str(sorted(said[key]))
            assert str(jobs.readings(key)) == str(together[key])
        forget_all()
