"""What happened to each part of the kit: one event of a kind for each job."""

from peewee import AutoField, CharField, FloatField, IntegerField, Model, TextField


def up(migrator, db):
    class KitEvent(Model):
        id = AutoField()
        kit = IntegerField(index=True)
        kind = CharField(max_length=20)
        job = CharField(max_length=40, default="")
        at = FloatField()
        document = TextField()
        verdict = CharField(max_length=20, default="")
        words = TextField(default="")

        class Meta:
            database = db
            table_name = "kit_event"
            indexes = ((("kit", "kind", "job"), True),)

    db.create_tables([KitEvent])


def down(migrator, db):
    db.execute_sql("DROP TABLE kit_event")
