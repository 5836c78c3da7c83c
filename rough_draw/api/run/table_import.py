"""A table of readings taken into a job: its gauges found on the sheet, its notes logged, the same table never twice."""

from __future__ import annotations

import hashlib

import numpy as np

from rough_draw.core.message import message
from rough_draw.core.readings.csv_table import Import
from rough_draw.core.readings.series import Series, noted_isolation
from rough_draw.core.sheet.gauge_owner import DIAL, owners
from rough_draw.core.sheet.rig import Rig
from rough_draw.store import jobs
from rough_draw.store.reading_cache import SIMULATED
from rough_draw.text import say


def take_table(key: str, rig: Rig, found: Import, main: Series, start: float, data: bytes) -> bool:
    """Store a table whose first row stands at ``start`` (epoch s): all of it, or nothing. False where these very bytes
    are there already from that moment on, whoever pressed twice.
    """
    mark = f"import:{hashlib.sha256(data).hexdigest()[:32]}:{start:.0f}"
    with jobs.writing():
        if jobs.touch_of(key, mark) is not None:
            return False
        labels = [(s.label or f"gauge {n + 1}")[:60] for n, s in enumerate(found.series)]
        sizes = {label: 1 + int(s is main) for label, s in zip(labels, found.series, strict=True) if not s.dial}
        whose = owners(rig, sizes)
        for label, s in zip(labels, found.series, strict=True):
            # A needle is no gauge of the sheet, whatever the column is called.
            part = DIAL if s.dial else whose.get(label)
            rows = [
                jobs.NewReading(label, start + float(t), None if np.isnan(p) else float(p), part=part)
                for t, p in zip(s.time, s.pressure, strict=True)
            ]
            jobs.add_readings(key, rows, SIMULATED if s.simulated else "import")
        for t, text in main.notes:
            jobs.add_touch(key, "note", start + t, text[:500])
        noted = noted_isolation(main)
        if noted is not None:
            jobs.add_touch(key, "isolate", start + noted, say(message("import-noted")))
        jobs.add_touch(key, "note", start, say(message("import-taken", count=found.rows)), mark)
    return True
