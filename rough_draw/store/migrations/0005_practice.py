"""Practice: sessions as their deeds, and scenarios of one's own."""

from peewee import AutoField, CharField, FloatField, Model, TextField


def up(migrator, db):
    class PracticeRun(Model):
        key = CharField(primary_key=True, max_length=40)
        scenario = CharField(max_length=40)
        document = TextField()
        deeds = TextField(default="[]")
        clock = FloatField(default=0.0)
        began_at = FloatField()
        ended_at = FloatField(null=True)
        marks = TextField(default="")

        class Meta:
            database = db
            table_name = "practice_run"

    class OwnScenario(Model):
        id = AutoField()
        key = CharField(max_length=40, unique=True)
        document = TextField()

        class Meta:
            database = db
            table_name = "own_scenario"

    db.create_tables([PracticeRun, OwnScenario])


def down(migrator, db):
    db.execute_sql("DROP TABLE practice_run")
    db.execute_sql("DROP TABLE own_scenario")
