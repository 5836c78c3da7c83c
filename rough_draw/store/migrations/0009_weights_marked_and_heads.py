"""Weights of the simulated scale are marked, and a job knows the last hash of its chain."""


def up(migrator, db):
    # No earlier version read any other scale.
    db.execute_sql("ALTER TABLE weight ADD COLUMN simulated INTEGER NOT NULL DEFAULT 1")
    db.execute_sql("ALTER TABLE job ADD COLUMN head VARCHAR(64) NOT NULL DEFAULT ''")
    db.execute_sql(
        "UPDATE job SET head = COALESCE("
        "(SELECT hash FROM chain WHERE chain.job = job.key ORDER BY number DESC LIMIT 1), '')"
    )


def down(migrator, db):
    db.execute_sql("ALTER TABLE weight DROP COLUMN simulated")
    db.execute_sql("ALTER TABLE job DROP COLUMN head")
