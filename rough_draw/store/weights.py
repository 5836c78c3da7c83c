"""Weights of the scale under a job's cylinder."""

from __future__ import annotations

from collections.abc import Sequence

from peewee import SQL

from rough_draw.core.records.hash_chain import Weighed
from rough_draw.store.columns import is_number
from rough_draw.store.jobs import must_be_open, writing
from rough_draw.store.models import WeightRow


def add(key: str, rows: Sequence[Weighed]) -> None:
    """Keep weights in one transaction. Raises NotFound, or Sealed."""
    if not rows:
        return
    with writing():
        must_be_open(key)
        for start in range(0, len(rows), 100):
            WeightRow.insert_many([{"job": key, **w._asdict()} for w in rows[start : start + 100]]).execute()


def of(key: str) -> list[Weighed]:
    """Weights of a job, in time order."""
    query = WeightRow.select(WeightRow.at, WeightRow.kg, WeightRow.simulated).where(
        WeightRow.job == key, SQL(is_number("at")), SQL(is_number("kg"))
    )
    return [Weighed(float(at), float(kg), bool(s)) for at, kg, s in query.order_by(WeightRow.at, WeightRow.id).tuples()]


def any_simulated(key: str) -> bool:
    """Whether the simulated scale gave any of a job's weights."""
    return WeightRow.select().where(WeightRow.job == key, WeightRow.simulated).exists()
