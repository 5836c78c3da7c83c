"""People, sign-in sessions, and touches that a browser may send twice."""

from peewee import AutoField, CharField, FloatField, IntegerField, Model, TextField


def up(migrator, db):
    class Person(Model):
        id = AutoField()
        name = CharField(max_length=200)
        licence = CharField(max_length=200, default="")
        units = TextField(default="{}")

        class Meta:
            database = db
            table_name = "person"

    class Session(Model):
        token = CharField(primary_key=True, max_length=64)
        person = IntegerField(null=True)
        began_at = FloatField()
        seen_at = FloatField()

        class Meta:
            database = db
            table_name = "session"

    db.create_tables([Person, Session])
    db.execute_sql("ALTER TABLE touch ADD COLUMN client_key VARCHAR(64)")
    db.execute_sql(
        "CREATE UNIQUE INDEX touch_job_client_key ON touch (job_id, client_key) WHERE client_key IS NOT NULL"
    )


def down(migrator, db):
    db.execute_sql("DROP INDEX touch_job_client_key")
    db.execute_sql("ALTER TABLE touch DROP COLUMN client_key")
    db.execute_sql("DROP TABLE person")
    db.execute_sql("DROP TABLE session")
