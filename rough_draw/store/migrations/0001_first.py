"""The first tables: jobs with their revisions, touches and readings, and the kit."""

from peewee import AutoField, CharField, FloatField, ForeignKeyField, IntegerField, Model, TextField


def up(migrator, db):
    class Job(Model):
        key = CharField(primary_key=True, max_length=40)
        version = IntegerField(default=1)
        document = TextField()
        created_at = FloatField()
        updated_at = FloatField()

        class Meta:
            database = db
            table_name = "job"

    class Revision(Model):
        id = AutoField()
        job = ForeignKeyField(Job, on_delete="CASCADE")
        version = IntegerField()
        document = TextField()
        at = FloatField()

        class Meta:
            database = db
            table_name = "revision"

    class Touch(Model):
        id = AutoField()
        job = ForeignKeyField(Job, on_delete="CASCADE")
        kind = CharField(max_length=40)
        at = FloatField()
        note = TextField(default="")

        class Meta:
            database = db
            table_name = "touch"

    class Reading(Model):
        id = AutoField()
        job = ForeignKeyField(Job, on_delete="CASCADE")
        gauge = CharField(max_length=60)
        at = FloatField()
        pa = FloatField(null=True)
        source = CharField(max_length=12)
        client_key = CharField(max_length=64, null=True)

        class Meta:
            database = db
            table_name = "reading"
            indexes = ((("job", "at"), False),)

    class Kit(Model):
        id = AutoField()
        kind = CharField(max_length=20)
        name = CharField(max_length=80)
        document = TextField()

        class Meta:
            database = db
            table_name = "kit"

    db.create_tables([Job, Revision, Touch, Reading, Kit])
    # A reading typed on a phone carries its own key: sent twice, it is stored once.
    db.execute_sql(
        "CREATE UNIQUE INDEX reading_client_key ON reading (job_id, client_key) WHERE client_key IS NOT NULL"
    )


def down(migrator, db):
    for table in ("kit", "reading", "touch", "revision", "job"):
        db.execute_sql(f"DROP TABLE {table}")
