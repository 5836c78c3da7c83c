"""Whatever is changed in a sealed file, or behind the application's back in its database, is found."""

from __future__ import annotations

import json
from typing import Any

import pytest
from peewee import SqliteDatabase

from rough_draw.store import job_files, sealing
from rough_draw.store.models import ChainRow
from rough_draw.store.reading_cache import forget_all
from tests.store.sealed_example import AT
from tests.told import keys


def test_a_change_behind_the_applications_back_is_found(key: str, db: SqliteDatabase) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    db.execute_sql("UPDATE reading SET pa = pa + 1 WHERE at = 70")
    from rough_draw.store.reading_cache import forget

    forget(key)
    found = sealing.faults(key)[0].words
    assert keys(found) == ["chain-figure-changed"]
    assert (found["count"], found["start"]) == (60, "60")


FIELDS = (
    *(("job", "party", "unit"), ("job", "scope", "refrigerant"), ("job", "scope", "coldest_c"), ("job", "title")),
    *(("job", "criterion", "school"), ("job", "closing", "remarks"), ("touches", 0, "at"), ("touches", 1, "kind")),
    *(("touches", 1, "note"), ("readings", 0, "at", 5), ("readings", 0, "pa", 9), ("readings", 0, "pa", 199)),
    *(("readings", 0, "gauge"), ("chain", 0, "at"), ("chain", 0, "body", "sha256"), ("chain", 0, "body", "canonical")),
    *(("chain", 1, "body", "kind"), ("chain", 2, "hash"), ("chain", 3, "before"), ("chain", 4, "number")),
    *(("chain", -1, "body", "by"), ("chain", -1, "kind")),
)


@pytest.mark.parametrize("place", FIELDS, ids=lambda p: ".".join(map(str, p)))
def test_any_field_that_is_changed_in_a_file_is_found(key: str, place: tuple[str | int, ...]) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, {"verdict": "leak", "probability": 0.98})
    document = json.loads(job_files.text_of(job_files.dump(key)))
    assert job_files.verify(document)[1] == []
    at: Any = document
    for step in place[:-1]:
        at = at[step]
    was = at[place[-1]]
    at[place[-1]] = was + 1 if isinstance(was, int | float) else ("0" if str(was)[:1] != "0" else "1") + str(was)[1:]
    assert job_files.verify(document)[1], place


SPOILS: dict[str, Any] = {
    "customer": ("job", "party", "customer", "Other"),
    "unit": ("job", "party", "unit", "Other"),
    "technician": ("job", "party", "technician", "Other"),
    "refrigerant": ("job", "scope", "refrigerant", "R-290"),
    "oil mass": ("job", "scope", "oil_kg", 9.0),
    "coldest": ("job", "scope", "coldest_c", 30.0),
    "volume": ("job", "scope", "volume_l", 99.0),
    "nameplate": ("job", "scope", "nameplate_kg", 9.0),
    "standard": ("job", "criterion", "school", "triple"),
    "weighed": ("job", "release", "weighed_kg", 9.0),
    "new cores": ("job", "release", "cores_new", 9),
    "remarks": ("job", "closing", "remarks", "all well"),
    "signed": ("job", "closing", "signed_by", "Other"),
    "acknowledged": ("job", "closing", "acknowledged", ["power"]),
    "step kind": ("touches", 0, "kind", "pump-off"),
    "step time": ("touches", 1, "at", 901.0),
    "step note": ("touches", 1, "note", "one tool"),
    "step hand": ("touches", 1, "hand", "Other"),
    "reading": ("readings", 0, "pa", [1.0] * 200),
    "reading time": ("readings", 0, "at", [float(x) + 0.5 for x in AT]),
    "gauge": ("readings", 0, "gauge", "Gauge 9"),
    "mark": ("readings", 0, "simulated", True),
    "weight": ("weights", 1, "kg", 15.0),
    "scale's mark": ("weights", 0, "simulated", True),
    "who sealed": ("chain", -1, "body", {"by": "Other"}),
    "when sealed": ("chain", -1, "at", 5.0),
}


@pytest.mark.parametrize("name", SPOILS)
def test_any_field_of_a_sealed_file_that_is_changed_is_found(key: str, name: str) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, {"verdict": "leak"})
    document: Any = json.loads(job_files.text_of(job_files.dump(key)))
    assert job_files.verify(document).wrong == []
    *way, field, value = SPOILS[name]
    at = document
    for step in way:
        at = at[step]
    assert at.get(field) != value
    at[field] = value
    assert job_files.verify(document).wrong


@pytest.mark.parametrize(
    "sql",
    [
        "UPDATE job SET document = replace(document, 'Larkspur', 'Other')",
        "UPDATE touch SET at = at + 1 WHERE kind = 'isolate'",
        "UPDATE touch SET note = 'x' WHERE kind = 'pump-on'",
        "UPDATE touch SET hand = 'Other'",
        "DELETE FROM touch WHERE kind = 'isolate'",
        "INSERT INTO touch (job_id, kind, at, note, hand) SELECT key, 'note', 5, '', '' FROM job",
        "UPDATE reading SET pa = 100 WHERE id = (SELECT max(id) FROM reading)",
        "UPDATE reading SET pa = NULL WHERE id = (SELECT max(id) FROM reading)",
        "UPDATE reading SET source = 'simulated'",
        "DELETE FROM reading WHERE id = (SELECT max(id) FROM reading)",
        "UPDATE chain SET at = at + 1 WHERE kind = 'closed'",
        "UPDATE chain SET body = replace(body, 'Tollivet', 'Other')",
        "DELETE FROM chain WHERE kind = 'closed'",
        "DELETE FROM chain WHERE number = 2",
        "UPDATE chain SET before = hash WHERE number = 3",
        "UPDATE weight SET kg = kg + 0.1 WHERE id = (SELECT max(id) FROM weight)",
        "UPDATE weight SET simulated = 1",
        "DELETE FROM weight",
        "INSERT INTO weight (job, at, kg, simulated) SELECT key, 9, 15.0, 0 FROM job",
        "UPDATE job SET sealed_at = sealed_at + 60",
    ],
)
def test_any_row_of_a_sealed_record_that_is_changed_is_found(key: str, db: SqliteDatabase, sql: str) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    assert sealing.faults(key) == []
    changed = db.execute_sql(sql)
    assert changed.rowcount > 0
    forget_all()
    assert sealing.faults(key)


@pytest.mark.parametrize("kind", ["amendment", "visit", "weights"])
def test_entries_cut_off_at_the_end_are_found(key: str, kind: str) -> None:
    """A chain that ends earlier is whole by itself: the job knows where it ended."""
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    sealing.amend(key, {"by": "x", "reason": "y", "what": "z", "before": "", "after": "a"})
    sealing.add_visit(key, {"by": "x"})
    assert sealing.faults(key) == []
    first = min(e.number for e in sealing.chain_of(key) if e.kind == kind)
    ChainRow.delete().where(ChainRow.number >= first).execute()
    assert "chain-cut" in keys(b.words for b in sealing.faults(key))
