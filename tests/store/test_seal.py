"""Sealed records: the chain, what it finds, amendments; backups taken, checked and put back."""

from __future__ import annotations

import json
import shutil
import sqlite3
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from peewee import SqliteDatabase

from rough_draw.cli.main import main
from rough_draw.core.message import message
from rough_draw.core.records.firm_signature import KIND, fingerprint, holds, new_key, signature_of
from rough_draw.core.records.hash_chain import (
    BLOCK,
    Contents,
    Read,
    append,
    canonical,
    check,
    digest,
    reading_blocks,
    sealed,
    unbroken,
)
from rough_draw.core.sheet.job import Job, Party
from rough_draw.core.sheet.settings import Settings
from rough_draw.store import backup, firm, job_files, jobs, sealing, shelf, weights
from rough_draw.store.database import open_database
from rough_draw.store.models import JobRow
from rough_draw.store.reading_cache import forget_all
from tests.told import keys

SHEET: dict[str, Any] = {"unit": "Cold room 1", "kg": 6.4}
TOUCHES = [{"kind": "pump-on", "at": 10.0, "note": ""}, {"kind": "isolate", "at": 900.0, "note": "both tools"}]
AT = [float(x) for x in range(200)]
PA: list[float | None] = [None, *(200.0 - x for x in range(1, 200))]
READINGS = [Read("Gauge 2", AT, PA)]
PHOTOS = [{"sha256": "0" * 64, "about": "oil", "caption": "", "at": 5.0, "hand": ""}]
HELD = Contents(SHEET, TOUCHES, READINGS, PHOTOS)


def closed() -> list[Any]:
    return sealed(HELD, {"verdict": "tight-and-dry"}, {"by": "Mara Tollivet"}, 1000.0)


def test_digest_is_the_published_sha_256() -> None:
    # FIPS 180-2, appendix B.1, of the three bytes abc; here of their canonical JSON, quotes and all.
    assert canonical({"b": 1, "a": "µ"}) == '{"a":"µ","b":1}'.encode()
    assert digest("abc") == "6cc43f858fbb763301637b5af970e2a46b46f461f27e5a0f41e009c59b827b25"
    with pytest.raises(ValueError, match="JCS"):
        canonical(float("nan"))


def test_a_chain_that_was_not_touched_is_whole() -> None:
    chain = closed()
    assert [e.kind for e in chain[:3]] == ["sheet", "touch", "touch"]
    assert sum(e.kind == "readings" for e in chain) == -(-len(AT) // BLOCK)
    assert chain[-1].kind == "closed"
    assert check(chain, HELD) == []


def test_a_changed_reading_is_found_to_its_block() -> None:
    pa = list(PA)
    pa[130] = 71.0
    found = check(closed(), replace(HELD, readings=[Read("Gauge 2", AT, pa)]))
    assert len(found) == 1
    assert found[0].words == message("chain-figure-changed", gauge="Gauge 2", count=60, start="120")


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"sheet": {**SHEET, "kg": 9.9}}, "chain-other-sheet"),
        ({"touches": [{**TOUCHES[0], "note": "later"}, TOUCHES[1]]}, "chain-other-step"),
        ({"touches": [{**TOUCHES[0], "hand": "Ossi Brandt"}, TOUCHES[1]]}, "chain-other-step"),
        ({"readings": [Read("Gauge 2", AT[:-1], PA[:-1])]}, "chain-readings-changed"),
        ({"readings": [Read("Gauge 2", AT, PA, simulated=True)]}, "chain-figure-changed"),
        ({"readings": [*READINGS, Read("Gauge 3", [1.0], [2.0])]}, "chain-other-photo"),
        ({"photos": [{**PHOTOS[0], "sha256": "1" * 64}]}, "chain-other-photo"),
        ({"photos": [{**PHOTOS[0], "caption": "dark"}]}, "chain-other-photo"),
        ({"photos": []}, "chain-less"),
        ({"touches": TOUCHES[:1]}, "chain-other-step"),
    ],
)
def test_any_change_is_found(change: dict[str, Any], says: str) -> None:
    found = check(closed(), replace(HELD, **change))
    assert says in keys(b.words for b in found)


@given(st.integers(0, 6), st.sampled_from(["body", "at", "kind", "drop", "swap"]))
def test_a_chain_that_was_touched_is_broken(place: int, how: str) -> None:
    chain = closed()
    e = chain[place]
    if how == "drop":
        del chain[place]
    elif how == "swap":
        chain[place], chain[place - 1] = chain[place - 1], chain[place]
    else:
        values: dict[str, Any] = {"body": {**e.body, "x": 1}, "at": e.at + 1, "kind": "note"}
        chain[place] = type(e)(**{**e.__dict__, how: values[how]})
    assert unbroken(chain) is not None


def test_an_entry_added_later_follows_on_and_changes_nothing_before() -> None:
    chain = closed()
    chain.append(append(chain, "amendment", 2000.0, {"what": "unit", "before": "1", "after": "2"}))
    assert check(chain, HELD) == []


@given(st.lists(st.floats(0, 1e5), max_size=200))
def test_blocks_count_every_reading(values: list[float]) -> None:
    at = [float(k) for k in range(len(values))]
    blocks = reading_blocks(Read("g", at, list(values)))
    assert sum(b["count"] for b in blocks) == len(values)


@pytest.fixture
def key(db: SqliteDatabase) -> str:
    stored = jobs.create(Job(party=Party(customer="Larkspur", unit="Cold room 1")))
    for t in TOUCHES:
        jobs.add_touch(stored.key, str(t["kind"]), float(t["at"]), str(t["note"]))  # type: ignore[arg-type]
    jobs.add_readings(stored.key, [jobs.NewReading("Gauge 2", a, p) for a, p in zip(AT, PA, strict=True)], "gauge")
    weights.add(stored.key, [(1.0, 16.5), (2.0, 16.4)])
    return stored.key


def test_a_sealed_record_refuses_every_change(key: str) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    stored = jobs.get(key)
    assert stored.sealed_at is not None
    assert sealing.faults(key) == []
    for change in (
        lambda: jobs.save(key, stored.version, stored.job.model_copy(update={"title": "x"})),
        lambda: jobs.undo(key),
        lambda: jobs.delete(key),
        lambda: jobs.add_touch(key, "note", 5.0),
        lambda: jobs.add_readings(key, [jobs.NewReading("g", 1.0, 1.0)], "typed"),
        lambda: weights.add(key, [(3.0, 1.0)]),
        lambda: sealing.seal(key, {"by": "x"}, None),
    ):
        with pytest.raises(jobs.Sealed, match="problem-sealed-on"):
            change()
    assert jobs.add_all([(key, [jobs.NewReading("g", 1.0, 1.0)], "gauge")]) == [False]


def test_amendments_are_kept_beside_what_they_correct(key: str) -> None:
    with pytest.raises(sealing.NotSealed):
        sealing.amend(key, {"what": "unit"})
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    sealing.amend(key, {"by": "M. T.", "what": "unit", "before": "Cold room 1", "after": "Cold room 7", "reason": "x"})
    chain = sealing.chain_of(key)
    assert chain[-1].kind == "amendment"
    assert sealing.faults(key) == []
    assert jobs.get(key).job.party.unit == "Cold room 1"


def test_a_change_behind_the_applications_back_is_found(key: str, db: SqliteDatabase) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    db.execute_sql("UPDATE reading SET pa = pa + 1 WHERE at = 70")
    from rough_draw.store.reading_cache import forget

    forget(key)
    found = sealing.faults(key)[0].words
    assert keys(found) == ["chain-figure-changed"]
    assert (found["count"], found["start"]) == (60, "60")


def gone(key: str) -> None:
    """The job taken out behind the application's back, which itself does not remove what is sealed."""
    JobRow.update(sealed_at=None).where(JobRow.key == key).execute()
    jobs.delete(key)


def exported(key: str, path: Path) -> dict[str, Any]:
    path.write_text(job_files.dump(key).model_dump_json())
    return dict(json.loads(path.read_text()))


def test_verify_by_the_command_line(key: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    path = tmp_path / "job.json"
    document = exported(key, path)
    assert main(["verify", str(path)]) == 0
    assert "whole: sealed" in capsys.readouterr().out
    document["readings"][0]["pa"][150] = 999.0
    path.write_text(json.dumps(document))
    with pytest.raises(SystemExit) as e:
        main(["verify", str(path)])
    assert e.value.code == 1
    assert "60 readings from 120 s: a figure was changed" in capsys.readouterr().out
    document["chain"][3]["hash"] = "0" * 64
    path.write_text(json.dumps(document))
    with pytest.raises(SystemExit):
        main(["verify", str(path), "--json"])
    assert json.loads(capsys.readouterr().out)["breaks"][0]["entry"] == 4


@pytest.mark.parametrize(
    ("text", "says"),
    [("{", "not JSON"), ("[]", "no job file"), ('{"format": "rough-draw/job-file"}', "never sealed")],
)
def test_verify_says_what_it_was_given(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], text: str, says: str
) -> None:
    path = tmp_path / "x.json"
    path.write_text(text)
    assert main(["verify", str(path)]) == 2
    assert says in capsys.readouterr().err


def test_a_sealed_job_comes_back_sealed_and_equal(key: str, tmp_path: Path) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    before = job_files.dump(key)
    gone(key)
    again = job_files.load(before)
    assert again == key
    assert job_files.dump(again) == before
    assert jobs.get(again).sealed_at is not None
    assert sealing.faults(again) == []


def test_a_file_of_version_1_still_comes_in(key: str) -> None:
    document = json.loads(job_files.dump(key).model_dump_json())
    document["version"] = 1
    del document["chain"], document["weights"]
    jobs.delete(key)
    again = job_files.load(job_files.parse(json.dumps(document).encode()))
    assert len(jobs.readings(again)[0].at) == 200
    assert jobs.get(again).sealed_at is None


def test_a_backup_is_whole_and_comes_back(key: str, tmp_path: Path) -> None:
    out = tmp_path / "copy" / "all.sqlite3"
    found = backup.take(out)
    assert found["job"] == 1
    assert found["reading"] == 200
    assert backup.check(out) == found
    jobs.delete(key)
    assert jobs.listing() == []
    assert backup.restore(out)["reading"] == 200
    assert len(jobs.readings(key)[0].at) == 200
    assert Path(str(backup.here()) + ".before").exists()


def test_what_is_no_backup_is_refused_and_nothing_changes(key: str, tmp_path: Path) -> None:
    zipped = tmp_path / "a.sqlite3"
    zipped.write_bytes(b"PK\x03\x04 not a database at all")
    other = tmp_path / "b.sqlite3"
    with sqlite3.connect(other) as db:
        db.execute("CREATE TABLE cats (name TEXT)")
    short = tmp_path / "backup-unread"
    backup.take(short)
    whole = short.read_bytes()
    short.write_bytes(whole[: len(whole) // 2])
    for path, says in (
        (zipped, "backup-no-database"),
        (other, "backup-not-ours"),
        (short, "backup-unread"),
        (tmp_path / "d", "backup-unread"),
    ):
        with pytest.raises(backup.BackupFault, match=says):
            backup.restore(path)
    assert len(jobs.listing()) == 1


def test_backup_and_restore_by_the_command_line(
    key: str, tmp_path: Path, capsys: pytest.CaptureFixture[str], db: SqliteDatabase
) -> None:
    source = str(backup.here())
    assert main(["backup", "--db", source, "--out", str(tmp_path / "out.sqlite3")]) == 0
    assert "1 in job" in capsys.readouterr().out
    target = tmp_path / "elsewhere.sqlite3"
    shutil.copy(source, target)
    assert main(["restore", str(tmp_path / "out.sqlite3"), "--db", str(target)]) == 0
    assert "1 jobs, 200 readings" in capsys.readouterr().out
    assert main(["backup", "--db", str(tmp_path / "none"), "--out", "x"]) == 2
    assert main(["restore", str(tmp_path / "none"), "--db", str(target)]) == 2


EARLIER = Path(__file__).parent / "earlier"
"""Records as earlier versions wrote them. They are never written anew."""


def test_a_record_that_an_earlier_version_sealed_is_whole(tmp_path: Path) -> None:
    """Its database opened by today's application, whose sheet has fields that were not known then."""
    path = tmp_path / "earlier.sqlite3"
    raw = sqlite3.connect(path)
    raw.executescript((EARLIER / "sealed-0.1.sql").read_text(encoding="utf-8"))
    raw.close()
    opened = open_database(path)
    (stored,) = jobs.listing()
    assert stored.sealed_at is not None
    assert sealing.faults(stored.key) == []
    chain = sealing.chain_of(stored.key)
    assert [e.kind for e in chain][-1] == "amendment"
    assert "canonical" not in chain[0].body
    # An amendment of today goes on with the chain as it was begun.
    sealing.amend(stored.key, {"by": "O. B.", "what": "room", "before": "2", "after": "3", "reason": "x"})
    assert sealing.faults(stored.key) == []
    opened.close()


def test_a_job_file_that_an_earlier_version_sealed_comes_in_whole(db: SqliteDatabase, tmp_path: Path) -> None:
    data = (EARLIER / "sealed-0.1.json").read_bytes()
    document = json.loads(data)
    _, wrong, entries, _ = job_files.verify(document)
    assert wrong == []
    assert entries == 13
    again = job_files.load(job_files.parse(data))
    assert sealing.faults(again) == []
    # And goes out again as it was sealed, though today's sheet has more in it.
    out = json.loads(job_files.text_of(job_files.dump(again)))
    assert out["job"] == document["job"]
    assert job_files.verify(out)[1] == []


def test_a_field_that_the_sheet_gains_later_breaks_no_seal(key: str) -> None:
    """What a later version adds by default has no part in what was sealed."""
    row = JobRow.get_by_id(key)
    older = json.loads(row.document)
    del older["alarms"], older["habits"]
    JobRow.update(document=json.dumps(older)).where(JobRow.key == key).execute()
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    assert jobs.get(key).job.alarms
    assert sealing.faults(key) == []


FIELDS = (
    *(("job", "party", "unit"), ("job", "scope", "refrigerant"), ("job", "scope", "coldest_c"), ("job", "title")),
    *(("job", "criterion", "school"), ("job", "closing", "remarks"), ("touches", 0, "at"), ("touches", 1, "kind")),
    *(("touches", 1, "note"), ("readings", 0, "at", 5), ("readings", 0, "pa", 9), ("readings", 0, "pa", 199)),
    *(("readings", 0, "gauge"), ("chain", 0, "at"), ("chain", 0, "body", "sha256"), ("chain", 0, "body", "canonical")),
    *(("chain", 1, "body", "kind"), ("chain", 2, "hash"), ("chain", 3, "before"), ("chain", 4, "number")),
    *(("chain", -1, "body", "by"), ("chain", -1, "kind")),
)


@pytest.mark.parametrize("place", FIELDS, ids=lambda p: ".".join(map(str, p)))
def test_any_field_that_is_changed_in_a_file_is_found(key: str, place: tuple[str | int, ...]) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, {"verdict": "leak", "probability": 0.98})
    document = json.loads(job_files.text_of(job_files.dump(key)))
    assert job_files.verify(document)[1] == []
    at: Any = document
    for step in place[:-1]:
        at = at[step]
    was = at[place[-1]]
    at[place[-1]] = was + 1 if isinstance(was, int | float) else ("0" if str(was)[:1] != "0" else "1") + str(was)[1:]
    assert job_files.verify(document)[1], place


def test_a_firms_key_signs_what_is_sealed_and_added_and_whoever_checks_is_told_whose(key: str, tmp_path: Path) -> None:
    shelf.save_settings(Settings(firm="Quillmere Cold Works"))
    public = firm.make_key()
    assert firm.make_key() == public, "it is made once"
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    sealing.amend(key, {"by": "x", "reason": "y", "what": "z", "before": "", "after": "a"})
    sealing.add_visit(key, {"by": "x"})
    chain = sealing.chain_of(key)
    assert [e.kind for e in chain if e.kind in ("closed", "amendment", "visit", KIND)] == [
        *("closed", KIND, "amendment", KIND, "visit", KIND)
    ]
    assert sealing.faults(key) == []
    document = json.loads(job_files.text_of(job_files.dump(key)))
    found = job_files.verify(document)
    assert found.wrong == []
    assert found.signers == [("Quillmere Cold Works", fingerprint(public))]


@pytest.mark.parametrize("how", ["other-key", "other-firm", "signature", "hash"])
def test_a_signature_that_is_not_the_firms_is_found_though_every_hash_was_made_anew(key: str, how: str) -> None:
    """Whoever makes the whole chain anew can make every hash, and not one signature."""
    firm.make_key()
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    chain = sealing.chain_of(key)
    last = dict(chain[-1].body)
    match how:
        case "other-key":
            last["key"] = new_key()[1]
        case "signature":
            last["signature"] = signature_of(new_key()[0], chain[-2].hash)
        case "hash":
            last["signature"] = signature_of(firm.key_pair()[0], "0" * 64)  # type: ignore[index]
        case _:
            # A name alone proves nothing: the fingerprint is what is compared.
            last["firm"] = "Somebody Else"
    forged = [*chain[:-1], append(chain[:-1], KIND, chain[-1].at, last)]
    found = check(forged, sealing.held(key))
    assert bool(found) == (how != "other-firm")
    assert all(keys([b.words])[0] == "chain-signature" for b in found)


def test_ed25519_as_published() -> None:
    """RFC 8032, 7.1, test 2: one byte."""
    secret = "4ccd089b28ff96da9db6c346ec114e0f5b8a319f35aba624da8cf6ed4fb8a6fb"
    public = "3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c"
    signature = (
        "92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da"
        "085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00"
    )
    assert signature_of(secret, "r") == signature
    assert holds(public, "r", signature)
    assert not holds(public, "s", signature)
    assert not holds("00", "r", signature)
    assert not holds(public, "r", "no hex")


SPOILS: dict[str, Any] = {
    "customer": ("job", "party", "customer", "Other"),
    "unit": ("job", "party", "unit", "Other"),
    "technician": ("job", "party", "technician", "Other"),
    "refrigerant": ("job", "scope", "refrigerant", "R-290"),
    "oil mass": ("job", "scope", "oil_kg", 9.0),
    "coldest": ("job", "scope", "coldest_c", 30.0),
    "volume": ("job", "scope", "volume_l", 99.0),
    "nameplate": ("job", "scope", "nameplate_kg", 9.0),
    "standard": ("job", "criterion", "school", "triple"),
    "weighed": ("job", "release", "weighed_kg", 9.0),
    "new cores": ("job", "release", "cores_new", 9),
    "remarks": ("job", "closing", "remarks", "all well"),
    "signed": ("job", "closing", "signed_by", "Other"),
    "acknowledged": ("job", "closing", "acknowledged", ["power"]),
    "step kind": ("touches", 0, "kind", "pump-off"),
    "step time": ("touches", 1, "at", 901.0),
    "step note": ("touches", 1, "note", "one tool"),
    "step hand": ("touches", 1, "hand", "Other"),
    "reading": ("readings", 0, "pa", [1.0] * 200),
    "reading time": ("readings", 0, "at", [float(x) + 0.5 for x in AT]),
    "gauge": ("readings", 0, "gauge", "Gauge 9"),
    "mark": ("readings", 0, "simulated", True),
    "who sealed": ("chain", -1, "body", {"by": "Other"}),
    "when sealed": ("chain", -1, "at", 5.0),
}


@pytest.mark.parametrize("name", SPOILS)
def test_any_field_of_a_sealed_file_that_is_changed_is_found(key: str, name: str) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, {"verdict": "leak"})
    document: Any = json.loads(job_files.text_of(job_files.dump(key)))
    assert job_files.verify(document).wrong == []
    *way, field, value = SPOILS[name]
    at = document
    for step in way:
        at = at[step]
    assert at.get(field) != value
    at[field] = value
    assert job_files.verify(document).wrong


@pytest.mark.parametrize(
    "sql",
    [
        "UPDATE job SET document = replace(document, 'Larkspur', 'Other')",
        "UPDATE touch SET at = at + 1 WHERE kind = 'isolate'",
        "UPDATE touch SET note = 'x' WHERE kind = 'pump-on'",
        "UPDATE touch SET hand = 'Other'",
        "DELETE FROM touch WHERE kind = 'isolate'",
        "INSERT INTO touch (job_id, kind, at, note, hand) SELECT key, 'note', 5, '', '' FROM job",
        "UPDATE reading SET pa = 100 WHERE id = (SELECT max(id) FROM reading)",
        "UPDATE reading SET pa = NULL WHERE id = (SELECT max(id) FROM reading)",
        "UPDATE reading SET source = 'simulated'",
        "DELETE FROM reading WHERE id = (SELECT max(id) FROM reading)",
        "UPDATE chain SET at = at + 1 WHERE kind = 'closed'",
        "UPDATE chain SET body = replace(body, 'Tollivet', 'Other')",
        "DELETE FROM chain WHERE kind = 'closed'",
        "DELETE FROM chain WHERE number = 2",
        "UPDATE chain SET before = hash WHERE number = 3",
    ],
)
def test_any_row_of_a_sealed_record_that_is_changed_is_found(key: str, db: SqliteDatabase, sql: str) -> None:
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    assert sealing.faults(key) == []
    changed = db.execute_sql(sql)
    assert changed.rowcount > 0
    forget_all()
    assert sealing.faults(key)
