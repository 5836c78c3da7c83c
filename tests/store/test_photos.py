"""Pictures of a job: made small and bare, under the seal by their hash, in the job file and out of it again."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Callable

import pytest
from peewee import SqliteDatabase
from PIL import Image

from rough_draw.core.sheet.job import Job, Party
from rough_draw.store import job_files, jobs, photos, sealing
from rough_draw.store.models import PhotoRow
from tests.told import keys

pytestmark = pytest.mark.usefixtures("db")


def picture(width: int = 640, height: int = 480, form: str = "JPEG", turned: int = 1, place: bool = False) -> bytes:
    """A picture as a camera makes it."""
    made = Image.effect_noise((width, height), 40).convert("RGB")
    exif = Image.Exif()
    exif[0x0112] = turned
    exif[0x010F] = "Some camera"
    if place:
        exif[0x8825] = {1: "N", 2: (53.0, 30.0, 12.0), 3: "E", 4: (9.0, 58.0, 3.0)}
    out = io.BytesIO()
    made.save(out, form, exif=exif)
    return out.getvalue()


@pytest.fixture
def key(db: SqliteDatabase) -> str:
    return jobs.create(Job(party=Party(customer="Larkspur", unit="Cold room 1"))).key


def test_a_picture_is_made_small_upright_and_bare(key: str) -> None:
    kept = photos.add(key, picture(4000, 2000, turned=6, place=True), "oil", 10.0, " the glass ", "Mara Tollivet")
    assert (kept.width, kept.height) == (800, 1600)
    data = photos.picture(key, kept.sha256)
    assert hashlib.sha256(data).hexdigest() == kept.sha256
    with Image.open(io.BytesIO(data)) as seen:
        assert seen.size == (800, 1600)
        assert dict(seen.getexif()) == {}
        assert dict(seen.getexif().get_ifd(photos.PLACE)) == {}
    assert [(p.about, p.caption, p.hand) for p in photos.of(key)] == [("oil", "the glass", "Mara Tollivet")]


def test_where_it_was_taken_stays_only_if_it_is_wanted(key: str) -> None:
    kept = photos.add(key, picture(place=True), "nameplate", 10.0, keep_place=True)
    with Image.open(io.BytesIO(photos.picture(key, kept.sha256))) as seen:
        assert seen.getexif().get_ifd(photos.PLACE)[1] == "N"
        assert 0x010F not in seen.getexif()


@pytest.mark.parametrize("form", ["JPEG", "PNG", "WEBP"])
def test_the_usual_forms_are_taken(key: str, form: str) -> None:
    assert photos.add(key, picture(form=form), "rig", 1.0).width == 640


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"no picture",
        pytest.param(lambda: picture()[:300], id="cut"),
        b"GIF89a" + b"\0" * 50,
        b"<svg xmlns='http://www.w3.org/2000/svg'/>",
        b"%PDF-1.7",
    ],
)
def test_what_is_no_picture_is_refused(key: str, data: bytes | Callable[[], bytes]) -> None:
    data = data() if callable(data) else data
    with pytest.raises(photos.PhotoFault, match="photo-no-picture"):
        photos.add(key, data, "oil", 1.0)
    assert photos.of(key) == []


def test_limits_are_told(key: str, monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(photos.PhotoFault, match="photo-about"):
        photos.add(key, picture(), "check:../etc", 1.0)
    monkeypatch.setattr(photos, "MOST_PHOTOS", 1)
    once = picture()
    photos.add(key, once, "oil", 1.0)
    photos.add(key, once, "oil", 2.0)  # the same again is the same
    with pytest.raises(photos.PhotoFault, match="photo-too-many"):
        photos.add(key, picture(), "oil", 1.0)
    monkeypatch.setattr(photos, "MOST_BYTES", 10)
    with pytest.raises(photos.PhotoFault, match="photo-too-large"):
        photos.add(key, picture(), "oil", 1.0)


def sealed_with_pictures(key: str) -> None:
    photos.add(key, picture(), "check:power-off", 10.0, "the lock", "Mara Tollivet")
    photos.add(key, picture(), "hold-end", 20.0)
    sealing.seal(key, {"by": "Mara Tollivet"}, None)


def test_a_sealed_picture_cannot_go_or_be_another(key: str) -> None:
    sealed_with_pictures(key)
    assert sealing.faults(key) == []
    first = photos.of(key)[0]
    with pytest.raises(jobs.Sealed):
        photos.remove(key, first.sha256)
    with pytest.raises(jobs.Sealed):
        photos.add(key, picture(), "oil", 30.0)
    PhotoRow.update(caption="another").where(PhotoRow.sha256 == first.sha256).execute()
    assert keys(f.words for f in sealing.faults(key)) == ["chain-other-photo"]
    PhotoRow.delete().where(PhotoRow.sha256 == first.sha256).execute()
    assert "chain-less" in keys(f.words for f in sealing.faults(key))


def test_bytes_that_are_not_what_was_sealed_are_found(key: str) -> None:
    sealed_with_pictures(key)
    PhotoRow.update(data=picture(10, 10)).where(PhotoRow.job == key).execute()
    assert keys(f.words for f in sealing.faults(key)) == ["chain-photo-bytes", "chain-photo-bytes"]


def test_an_archive_comes_back_with_its_pictures_and_the_json_alone_without(key: str) -> None:
    sealed_with_pictures(key)
    archive = job_files.packed(key)
    with zipfile.ZipFile(io.BytesIO(archive)) as z:
        assert sorted(z.namelist()) == sorted(["job.json", *(f"photos/{p.sha256}.jpg" for p in photos.of(key))])
        alone = z.read("job.json")
    document, pictures = job_files.unpacked(archive)
    copy = job_files.load(job_files.parse(document), again=True, pictures=pictures)
    assert [p.sha256 for p in photos.of(copy)] == [p.sha256 for p in photos.of(key)]
    assert photos.picture(copy, photos.of(copy)[0].sha256) == photos.picture(key, photos.of(key)[0].sha256)
    assert sealing.faults(copy) == []
    assert job_files.verify(json.loads(alone))[1] == []
    bare = job_files.load(job_files.parse(job_files.unpacked(alone)[0]), again=True)
    assert len(photos.of(bare)) == 2
    with pytest.raises(jobs.NotFound):
        photos.picture(bare, photos.of(bare)[0].sha256)
    assert sealing.faults(bare) == []


def test_a_picture_in_an_archive_that_is_another_does_not_pass_for_it(key: str) -> None:
    photos.add(key, picture(), "oil", 1.0)
    document, pictures = job_files.unpacked(job_files.packed(key))
    copy = job_files.load(job_files.parse(document), again=True, pictures=dict.fromkeys(pictures, picture(9, 9)))
    with pytest.raises(jobs.NotFound):
        photos.picture(copy, photos.of(copy)[0].sha256)


def _zip(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        for name, data in files.items():
            z.writestr(name, data)
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (lambda: _zip(other=b"x"), "file-no-sheet"),
        (lambda: b"PK\x03\x04" + b"\0" * 80, "file-bad-zip"),
        (lambda: _zip(**{"job.json": b"0" * 1000})[:60], "file-bad-zip"),
        (lambda: _zip(**{"job.json": b" " * (5 * job_files.MOST_BYTES)}), "file-too-large"),
    ],
    ids=["none", "junk", "cut", "bomb"],
)
def test_an_archive_that_is_none_is_refused(data: Callable[[], bytes], says: str) -> None:
    made = data()
    with pytest.raises(job_files.FileFault, match=says):
        job_files.unpacked(made)
