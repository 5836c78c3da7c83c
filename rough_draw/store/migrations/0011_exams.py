"""Examinations: who took which, on what numbers, and the certificate of one that was passed."""


def up(migrator, db):
    db.execute_sql(
        "CREATE TABLE practice_exam (key VARCHAR(40) NOT NULL PRIMARY KEY, person INTEGER, name TEXT NOT NULL, "
        "level INTEGER NOT NULL, seeds TEXT NOT NULL, began_at REAL NOT NULL, certificate TEXT NOT NULL DEFAULT '')"
    )


def down(migrator, db):
    db.execute_sql("DROP TABLE practice_exam")
