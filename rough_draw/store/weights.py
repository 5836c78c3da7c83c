"""Weights of the scale under a job's cylinder."""

from __future__ import annotations

from collections.abc import Sequence

from rough_draw.store.jobs import must_be_open, writing
from rough_draw.store.models import WeightRow


def add(key: str, rows: Sequence[tuple[float, float]]) -> None:
    """Keep weights (epoch s, kg) in one transaction. Raises NotFound, or Sealed."""
    if not rows:
        return
    with writing():
        must_be_open(key)
        for start in range(0, len(rows), 100):
            part = [{"job": key, "at": at, "kg": kg} for at, kg in rows[start : start + 100]]
            WeightRow.insert_many(part).execute()


def of(key: str, since: float = -1.0) -> list[tuple[float, float]]:
    """Weights of a job after ``since`` (epoch s), in time order."""
    query = WeightRow.select(WeightRow.at, WeightRow.kg).where(WeightRow.job == key, WeightRow.at > since)
    return [(float(at), float(kg)) for at, kg in query.order_by(WeightRow.at, WeightRow.id).tuples()]
