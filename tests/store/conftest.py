"""Shared by the tests of the store: a job that can be sealed."""

from __future__ import annotations

import pytest
from peewee import SqliteDatabase

from rough_draw.core.sheet.job import Job, Party
from rough_draw.store import jobs, weights
from tests.store.sealed_example import AT, PA, TOUCHES


@pytest.fixture
def key(db: SqliteDatabase) -> str:
    stored = jobs.create(Job(party=Party(customer="Larkspur", unit="Cold room 1")))
    for t in TOUCHES:
        jobs.add_touch(stored.key, str(t["kind"]), float(t["at"]), str(t["note"]))  # type: ignore[arg-type]
    jobs.add_readings(stored.key, [jobs.NewReading("Gauge 2", a, p) for a, p in zip(AT, PA, strict=True)], "gauge")
    weights.add(stored.key, [weights.Weighed(1.0, 16.5), weights.Weighed(2.0, 16.4)])
    return stored.key
