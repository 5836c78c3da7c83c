"""Readings belong to a gauge of the sheet by its id. What was stored before knew its gauge by name alone."""

import json


def _main(names):
    """The gauge that earlier versions judged a run by: one named so, or else the one with most readings."""
    named = [n for n in names if "system" in n.lower()]
    there = [n for n in names if not any(w in n.lower() for w in ("pump", "manifold", "dial"))]
    return named[0] if named else max(there or list(names), key=lambda n: names[n])


def up(migrator, db):
    db.execute_sql("ALTER TABLE reading ADD COLUMN part VARCHAR(40)")
    for key, document in db.execute_sql("SELECT key, document FROM job").fetchall():
        parts = (json.loads(document).get("rig") or {}).get("parts") or []
        gauges = [p["id"] for p in parts if p.get("kind") == "gauge"]
        found = db.execute_sql(
            "SELECT gauge, COUNT(*) FROM reading WHERE job_id = ? AND source <> 'bench' GROUP BY gauge", (key,)
        )
        names = dict(found.fetchall())
        if gauges and names:
            db.execute_sql("UPDATE reading SET part = ? WHERE job_id = ? AND gauge = ?", (gauges[0], key, _main(names)))
    db.execute_sql("UPDATE reading SET part = 'at-pump' WHERE part IS NULL AND gauge = 'Gauge at the pump'")


def down(migrator, db):
    db.execute_sql("ALTER TABLE reading DROP COLUMN part")
