"""Tables. Readings and touches are only ever added to."""

from __future__ import annotations

from peewee import (
    AutoField,
    BlobField,
    BooleanField,
    CharField,
    DatabaseProxy,
    ForeignKeyField,
    Model,
    TextField,
)

from rough_draw.store.columns import CountColumn, NumberColumn

database = DatabaseProxy()


class Table(Model):
    """Base of all tables."""

    class Meta:
        database = database


class JobRow(Table):
    """A job: its sheet as it now stands. ``key`` is its name in addresses, ``head`` the last hash of its chain."""

    key = CharField(primary_key=True, max_length=40)
    version = CountColumn(default=1)
    document = TextField()
    created_at = NumberColumn()
    updated_at = NumberColumn()
    sealed_at = NumberColumn(null=True)
    head = CharField(max_length=64, default="")

    class Meta:
        table_name = "job"


class Revision(Table):
    """An earlier state of a sheet, kept for undo."""

    id = AutoField()
    job = ForeignKeyField(JobRow, backref="revisions", on_delete="CASCADE")
    version = CountColumn()
    document = TextField()
    at = NumberColumn()

    class Meta:
        table_name = "revision"


class TouchRow(Table):
    """One touch of a run: ``at`` is seconds since the epoch on the job's own clock."""

    id = AutoField()
    job = ForeignKeyField(JobRow, backref="touches", on_delete="CASCADE")
    kind = CharField(max_length=40)
    at = NumberColumn()
    note = TextField(default="")
    client_key = CharField(max_length=64, null=True)
    hand = CharField(max_length=200, default="")

    class Meta:
        table_name = "touch"


class ReadingRow(Table):
    """One reading: ``pa`` is null when the gauge was over range."""

    id = AutoField()
    job = ForeignKeyField(JobRow, backref="readings", on_delete="CASCADE")
    gauge = CharField(max_length=60)
    at = NumberColumn()
    pa = NumberColumn(null=True)
    source = CharField(max_length=12)
    client_key = CharField(max_length=64, null=True)
    part = CharField(max_length=40, null=True)

    class Meta:
        table_name = "reading"


class ChainRow(Table):
    """One entry of a sealed record's chain: ``body`` is JSON, hashes are SHA-256 in hex."""

    id = AutoField()
    job = CharField(max_length=40)
    number = CountColumn()
    kind = CharField(max_length=20)
    at = NumberColumn()
    body = TextField()
    before = CharField(max_length=64)
    hash = CharField(max_length=64)

    class Meta:
        table_name = "chain"


class PhotoRow(Table):
    """A picture of a job: its hash, what it is about, who took it when. ``data`` is JPEG; null where only its
    description came.
    """

    id = AutoField()
    job = CharField(max_length=40, index=True)
    sha256 = CharField(max_length=64)
    about = CharField(max_length=80)
    caption = TextField(default="")
    at = NumberColumn()
    hand = CharField(max_length=200, default="")
    width = CountColumn()
    height = CountColumn()
    data = BlobField(null=True)

    class Meta:
        table_name = "photo"


class WeightRow(Table):
    """What the scale under the cylinder showed, kg."""

    id = AutoField()
    job = CharField(max_length=40, index=True)
    at = NumberColumn()
    kg = NumberColumn()
    simulated = BooleanField(default=False)

    class Meta:
        table_name = "weight"


class TemplateRow(Table):
    """A person's own kind of system: sections, links, ports and scope values (JSON)."""

    id = AutoField()
    name = CharField(max_length=80)
    document = TextField()

    class Meta:
        table_name = "template"


class Setting(Table):
    """Settings by name (JSON)."""

    key = CharField(primary_key=True, max_length=40)
    document = TextField()

    class Meta:
        table_name = "setting"


class KitEventRow(Table):
    """What happened to a part of the kit in a job: its figures (JSON), the judgement of them, its words."""

    id = AutoField()
    kit = CountColumn(index=True)
    kind = CharField(max_length=20)
    job = CharField(max_length=40, default="")
    at = NumberColumn()
    document = TextField()
    verdict = CharField(max_length=20, default="")
    words = TextField(default="")

    class Meta:
        table_name = "kit_event"


class KitItem(Table):
    """A part in the van: ``kind`` is that of the rig's part; ``document`` its values (JSON) as the rig uses them."""

    id = AutoField()
    kind = CharField(max_length=20)
    name = CharField(max_length=80)
    document = TextField()

    class Meta:
        table_name = "kit"


class PracticeRun(Table):
    """A practice session: its scenario, the deeds (JSON) and the clock (s) from which it is played again.

    ``replay_of``: the session it goes on from, in part; ``exam``: the examination it belongs to.
    """

    key = CharField(primary_key=True, max_length=40)
    scenario = CharField(max_length=40)
    document = TextField()
    deeds = TextField(default="[]")
    clock = NumberColumn(default=0.0)
    began_at = NumberColumn()
    ended_at = NumberColumn(null=True)
    marks = TextField(default="")
    person = CountColumn(null=True)
    replay_of = CharField(max_length=40, default="")
    exam = CharField(max_length=40, default="")

    class Meta:
        table_name = "practice_run"


class ExamRow(Table):
    """An examination in practice: whose, at which level, on which numbers; the text of its certificate."""

    key = CharField(primary_key=True, max_length=40)
    person = CountColumn(null=True)
    name = TextField()
    level = CountColumn()
    seeds = TextField()
    began_at = NumberColumn()
    certificate = TextField(default="")

    class Meta:
        table_name = "practice_exam"


class OwnScenario(Table):
    """A scenario composed or read in here."""

    id = AutoField()
    key = CharField(max_length=40, unique=True)
    document = TextField()

    class Meta:
        table_name = "own_scenario"


class PersonRow(Table):
    """A technician: name, licence, and the units they read (JSON)."""

    id = AutoField()
    name = CharField(max_length=200)
    licence = CharField(max_length=200, default="")
    units = TextField(default="{}")

    class Meta:
        table_name = "person"


class SignIn(Table):
    """A session behind the passphrase: ``token`` is the SHA-256 of what the browser has."""

    token = CharField(primary_key=True, max_length=64)
    person = CountColumn(null=True)
    began_at = NumberColumn()
    seen_at = NumberColumn()

    class Meta:
        table_name = "session"
