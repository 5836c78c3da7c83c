"""Sealed records: what they refuse, amendments, files in and out, and what earlier versions sealed."""

from __future__ import annotations

import json
import sqlite3
from pathlib import Path
from typing import Any

import pytest
from peewee import SqliteDatabase

from rough_draw.cli.main import main
from rough_draw.store import job_files, jobs, sealing, weights
from rough_draw.store.database import open_database
from rough_draw.store.models import JobRow


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
        lambda: weights.add(key, [weights.Weighed(3.0, 1.0)]),
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


EARLIER = Path(__file__).parent / "earlier"
"""Records as earlier versions wrote them. They are never written anew."""


@pytest.mark.parametrize("name", ["sealed-0.1", "sealed-0.2"])
def test_a_record_that_an_earlier_version_sealed_is_whole(tmp_path: Path, name: str) -> None:
    """Its database opened by today's application, whose sheet has fields that were not known then."""
    path = tmp_path / "earlier.sqlite3"
    raw = sqlite3.connect(path)
    raw.executescript((EARLIER / f"{name}.sql").read_text(encoding="utf-8"))
    raw.close()
    opened = open_database(path)
    (stored,) = jobs.listing()
    assert stored.sealed_at is not None
    assert sealing.faults(stored.key) == []
    chain = sealing.chain_of(stored.key)
    assert "amendment" in [e.kind for e in chain]
    assert ("canonical" in chain[0].body) == (name != "sealed-0.1")
    assert "weights" not in chain[0].body
    # An amendment of today goes on with the chain as it was begun.
    sealing.amend(stored.key, {"by": "O. B.", "what": "room", "before": "2", "after": "3", "reason": "x"})
    assert sealing.faults(stored.key) == []
    opened.close()


@pytest.mark.parametrize(("name", "count"), [("sealed-0.1", 13), ("sealed-0.2", 14)])
def test_a_job_file_that_an_earlier_version_sealed_comes_in_whole(db: SqliteDatabase, name: str, count: int) -> None:
    data = (EARLIER / f"{name}.json").read_bytes()
    document = json.loads(data)
    _, wrong, entries, _ = job_files.verify(document)
    assert wrong == []
    assert entries == count
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
