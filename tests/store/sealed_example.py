"""A job with steps and readings, as the tests of sealed records have it, and a chain closed over the same."""

from __future__ import annotations

from typing import Any

from rough_draw.core.records.hash_chain import (
    Contents,
    Read,
    sealed,
)

SHEET: dict[str, Any] = {"unit": "Cold room 1", "kg": 6.4}


TOUCHES = [{"kind": "pump-on", "at": 10.0, "note": ""}, {"kind": "isolate", "at": 900.0, "note": "both tools"}]


AT = [float(x) for x in range(200)]


PA: list[float | None] = [None, *(200.0 - x for x in range(1, 200))]


READINGS = [Read("Gauge 2", AT, PA)]


PHOTOS = [{"sha256": "0" * 64, "about": "oil", "caption": "", "at": 5.0, "hand": ""}]


HELD = Contents(SHEET, TOUCHES, READINGS, PHOTOS)


def closed() -> list[Any]:
    return sealed(HELD, {"verdict": "tight-and-dry"}, {"by": "Mara Tollivet"}, 1000.0)
