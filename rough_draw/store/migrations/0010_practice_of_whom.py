"""Practice sessions know whose they are, what they replay, and the examination they belong to."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE practice_run ADD COLUMN person INTEGER")
    db.execute_sql("ALTER TABLE practice_run ADD COLUMN replay_of VARCHAR(40) NOT NULL DEFAULT ''")
    db.execute_sql("ALTER TABLE practice_run ADD COLUMN exam VARCHAR(40) NOT NULL DEFAULT ''")


def down(migrator, db):
    for column in ("person", "replay_of", "exam"):
        db.execute_sql(f"ALTER TABLE practice_run DROP COLUMN {column}")
