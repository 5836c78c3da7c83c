"""Tables for spreadsheets: the readings of a job, the kit."""

from __future__ import annotations

import csv
import io
from datetime import UTC

import numpy as np

from rough_draw.core.physics.units import from_pa
from rough_draw.store import jobs, labels, shelf
from rough_draw.store.moments import moment


def safe_cell(text: str) -> str:
    """A text cell that a spreadsheet will not take for a formula."""
    return "'" + text if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def kit_csv() -> str:
    """The kit as CSV: number, code, kind, name, and its values."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["number", "code", "kind", "name", "values"])
    for k in shelf.kit():
        values = "; ".join(f"{name}={value}" for name, value in sorted(k.values.items()))
        writer.writerow([k.id, labels.code_of(k.id), k.kind, safe_cell(k.name), safe_cell(values)])
    return out.getvalue()


def readings_csv(key: str, unit: str = "micron") -> str:
    """Readings of a job as CSV: clock, elapsed seconds, gauge, pressure with its unit in the header, note.

    Where a simulated gauge gave some, a column says which.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    series = jobs.readings(key)
    touches = jobs.touches(key)
    gauges = [s.gauge for s in series]
    heads = [f"pressure_{unit}"] if len(gauges) < 2 else [f"{safe_cell(g)}_{unit}".replace(" ", "-") for g in gauges]
    made = any(s.simulated.any() for s in series)
    writer.writerow(["timestamp", "elapsed_s", *heads, *(["source"] if made else []), "note"])
    table: dict[float, list[str]] = {}
    simulated: set[float] = set()
    for column, s in enumerate(series):
        simulated |= {float(at) for at in s.at[s.simulated]}
        for at, pa in zip(s.at, s.pa, strict=True):
            cells = table.setdefault(float(at), [""] * len(series))
            cells[column] = "OVER" if np.isnan(pa) else f"{from_pa(float(pa), unit):.6g}"
    times = sorted(table)
    notes: dict[float, list[str]] = {}
    for t in touches:
        after = [x for x in times if x >= t.at]
        if after:
            words = {"isolate": "isolated"}.get(t.kind, t.kind)
            notes.setdefault(after[0], []).append(words + (f": {t.note}" if t.note else ""))
    for at in times:
        stamp = moment(at, UTC).isoformat(timespec="milliseconds")
        note = safe_cell("; ".join(notes.get(at, [])))
        source = [["", "simulated"][at in simulated]] if made else []
        writer.writerow([stamp, f"{at - times[0]:.3f}", *table[at], *source, note])
    return out.getvalue()
