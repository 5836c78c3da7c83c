"""A person's own templates of systems, and the settings of the firm."""

from peewee import AutoField, CharField, Model, TextField


def up(migrator, db):
    class Template(Model):
        id = AutoField()
        name = CharField(max_length=80)
        document = TextField()

        class Meta:
            database = db
            table_name = "template"

    class Setting(Model):
        key = CharField(primary_key=True, max_length=40)
        document = TextField()

        class Meta:
            database = db
            table_name = "setting"

    db.create_tables([Template, Setting])


def down(migrator, db):
    for table in ("setting", "template"):
        db.execute_sql(f"DROP TABLE {table}")
