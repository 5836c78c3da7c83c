"""Simulated readings are marked, steps say whose hand they were, and photos have a place."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE touch ADD COLUMN hand VARCHAR(200) NOT NULL DEFAULT ''")
    # Earlier versions had one kind of line for both: what came by it to a job with a simulated gauge is simulated.
    db.execute_sql(
        "UPDATE reading SET source = 'simulated' WHERE source = 'gauge' AND job_id IN "
        "(SELECT job_id FROM touch WHERE kind = 'gauge-attached')"
    )
    db.execute_sql(
        "CREATE TABLE photo (id INTEGER NOT NULL PRIMARY KEY, job VARCHAR(40) NOT NULL, sha256 VARCHAR(64) NOT NULL, "
        "about VARCHAR(80) NOT NULL, caption TEXT NOT NULL, at REAL NOT NULL, hand VARCHAR(200) NOT NULL, "
        "width INTEGER NOT NULL, height INTEGER NOT NULL, data BLOB)"
    )
    db.execute_sql("CREATE INDEX photo_job ON photo (job)")


def down(migrator, db):
    db.execute_sql("DROP TABLE photo")
    db.execute_sql("ALTER TABLE touch DROP COLUMN hand")
