"""Sealed records: when a job was closed, and its chain. Weights of the scale under a cylinder."""

from peewee import AutoField, CharField, FloatField, IntegerField, Model, TextField


def up(migrator, db):
    class Chain(Model):
        id = AutoField()
        job = CharField(max_length=40)
        number = IntegerField()
        kind = CharField(max_length=20)
        at = FloatField()
        body = TextField()
        before = CharField(max_length=64)
        hash = CharField(max_length=64)

        class Meta:
            database = db
            table_name = "chain"
            indexes = ((("job", "number"), True),)

    class Weight(Model):
        id = AutoField()
        job = CharField(max_length=40, index=True)
        at = FloatField()
        kg = FloatField()

        class Meta:
            database = db
            table_name = "weight"

    db.create_tables([Chain, Weight])
    db.execute_sql("ALTER TABLE job ADD COLUMN sealed_at REAL")


def down(migrator, db):
    db.execute_sql("DROP TABLE chain")
    db.execute_sql("DROP TABLE weight")
    db.execute_sql("ALTER TABLE job DROP COLUMN sealed_at")
