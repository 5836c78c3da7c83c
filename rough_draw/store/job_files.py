"""A whole job out and in again: the job file, JSON or a ZIP with its pictures."""

from __future__ import annotations

import io
import json
import re
import zipfile
import zlib
from collections.abc import Mapping
from typing import Annotated, Any, Literal, NamedTuple

from pydantic import BaseModel, ConfigDict, Field, PrivateAttr, ValidationError

from rough_draw.core.message import Fault, message
from rough_draw.core.message.figure import number
from rough_draw.core.readings.bounds import Moment, Pressure
from rough_draw.core.records.hash_chain import JCS, Break, Contents, Read, Weighed, check, closing_of, form_of, signers
from rough_draw.core.sheet.base import place_of, told_of
from rough_draw.core.sheet.gauge_owner import owners
from rough_draw.core.sheet.job import Job
from rough_draw.store import jobs, photos, sealing, weights
from rough_draw.store.reading_cache import SIMULATED
from rough_draw.text import say

MOST_BYTES = 64 * 1024 * 1024


class FileTouch(BaseModel):
    """A touch as it stands in a job file."""

    model_config = ConfigDict(extra="forbid")
    kind: Annotated[str, Field(max_length=60)]
    at: Moment
    note: Annotated[str, Field(max_length=2000)] = ""
    hand: Annotated[str, Field(max_length=200)] = ""


class FilePhoto(BaseModel):
    """A picture: its hash, what it is about, its caption, when and by whom. The picture itself lies beside the JSON."""

    model_config = ConfigDict(extra="forbid")
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    about: Annotated[str, Field(max_length=80)]
    caption: Annotated[str, Field(max_length=500)] = ""
    at: Moment
    hand: Annotated[str, Field(max_length=200)] = ""
    width: int
    height: int


class FileSeries(BaseModel):
    """Readings of one gauge: epoch seconds and Pa, null for over range; ``part``: its id on the sheet, if known.

    ``simulated``: a simulated gauge gave them.
    """

    model_config = ConfigDict(extra="forbid")
    gauge: Annotated[str, Field(max_length=60)]
    part: Annotated[str, Field(max_length=40)] | None = None
    at: list[Moment]
    pa: list[Pressure | None]
    simulated: bool = False


class FileWeight(BaseModel):
    """What the scale showed, kg, at epoch seconds. Earlier versions read none but the simulated one."""

    model_config = ConfigDict(extra="forbid")
    at: Moment
    kg: Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
    simulated: bool = True


class FileEntry(BaseModel):
    """An entry of a sealed record's chain."""

    model_config = ConfigDict(extra="forbid")
    number: Annotated[int, Field(ge=0, le=10**9)]
    kind: Annotated[str, Field(max_length=20)]
    at: Moment
    body: dict[str, Any]
    before: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    hash: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class JobFile(BaseModel):
    """The job file, version 4: sheet, touches, readings, weights, photos, and the chain of a sealed record.

    Version 1 had neither weights nor a chain; version 2 no photos, no hands, and did not tell simulated readings apart;
    version 3 did not tell simulated weights apart, and its chains do not hold them.
    """

    model_config = ConfigDict(extra="forbid")
    format: Literal["rough-draw/job-file"] = "rough-draw/job-file"
    version: Literal[1, 2, 3, 4] = 4
    key: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$")]
    job: Job
    touches: list[FileTouch] = []
    readings: list[FileSeries] = []
    weights: list[FileWeight] = []
    photos: list[FilePhoto] = []
    chain: list[FileEntry] = []
    _written: Any = PrivateAttr(None)
    """The sheet as the file has it: what was sealed is that, and not what a later version makes of it."""


class FileFault(Fault):
    """The file cannot be imported; the message says where and why."""


def where(error: ValidationError) -> str:
    """First few faults of a validation in words: place, then what is wrong."""
    lines = []
    for e in error.errors()[:4]:
        lines.append(f"{place_of(e) or say(message('file-document'))}: {say(told_of(e))}")
    more = error.error_count() - len(lines)
    return "; ".join([*lines, *([say(message("file-more", count=more))] if more > 0 else [])])


def dump(key: str) -> JobFile:
    """The job file of a stored job, with the sheet as it stands where it cannot be read; raises NotFound."""
    stored = jobs.kept(key)
    entries = sealing.chain_of(key)
    form = form_of(entries[0].body) if entries else JCS
    # Rows are not judged again: what earlier versions let in goes out as it stands.
    series = [
        FileSeries.model_construct(gauge=r.gauge, part=part, at=list(r.at), pa=list(r.pa), simulated=r.simulated)
        for part, r in sealing.plain_readings(key, form)
    ]
    touches = [FileTouch.model_construct(kind=t.kind, at=t.at, note=t.note, hand=t.hand) for t in jobs.touches(key)]
    chain = [FileEntry(**sealing.as_values(e)) for e in entries]
    scale = [FileWeight.model_construct(**w._asdict()) for w in weights.of(key)]
    seen = [FilePhoto.model_construct(**sealing.described(p), width=p.width, height=p.height) for p in photos.of(key)]
    found = JobFile(key=key, job=stored.job, touches=touches, readings=series, weights=scale, photos=seen, chain=chain)
    found._written = jobs.document(key) if chain or stored.fault else None
    return found


def text_of(file: JobFile) -> str:
    """A job file as it is written: the sheet of a sealed record as it was sealed."""
    values = file.model_dump(mode="json")
    if file._written is not None:
        values["job"] = file._written
    return json.dumps(values, ensure_ascii=False, indent=1)


PICTURES = "photos/{}.jpg"
"""Where a picture lies in a job file with pictures, by its hash."""
SHEET = "job.json"
ZIP = b"PK\x03\x04"


def packed(key: str) -> bytes:
    """The job file with its pictures beside it, as one ZIP. Raises NotFound."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        z.writestr(SHEET, text_of(dump(key)))
        for p in photos.of(key, with_data=True):
            if p.data is not None:
                z.writestr(PICTURES.format(p.sha256), p.data, zipfile.ZIP_STORED)
    return out.getvalue()


def unpacked(data: bytes) -> tuple[bytes, dict[str, bytes]]:
    """The JSON of a job file and its pictures by their hash; of a JSON alone, just that. Raises FileFault."""
    if not data.startswith(ZIP):
        return data, {}
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as z:
            listed = z.infolist()
            # What is packed small can be large: it is looked at before it is unpacked.
            if sum(i.file_size for i in listed) > 4 * MOST_BYTES:
                raise FileFault(
                    message("file-too-large", size=number(round(len(data) / 1e6)), most=MOST_BYTES // 2**20)
                )
            names = {i.filename for i in listed}
            if SHEET not in names:
                raise FileFault(message("file-no-sheet", name=SHEET))
            pictures = {n[len("photos/") : -len(".jpg")]: z.read(n) for n in names if re.fullmatch(PICTURE, n)}
            return z.read(SHEET), pictures
    except (zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, EOFError):
        raise FileFault(message("file-bad-zip")) from None


PICTURE = r"photos/[0-9a-f]{64}\.jpg"


def parse(data: bytes) -> JobFile:
    """A job file from bytes: a whole one, or a sheet alone. Raises FileFault."""
    if len(data) > MOST_BYTES:
        raise FileFault(message("file-too-large", size=number(round(len(data) / 1e6)), most=MOST_BYTES // 1048576))
    try:
        document: Any = json.loads(data)
    except UnicodeDecodeError:
        raise FileFault(message("file-not-utf8")) from None
    except json.JSONDecodeError as e:
        raise FileFault(message("file-not-json", line=e.lineno, column=e.colno, fault=e.msg)) from None
    except RecursionError:
        raise FileFault(message("file-too-deep")) from None
    if not isinstance(document, dict):
        raise FileFault(message("file-no-object"))
    try:
        if document.get("format") == "rough-draw/job":
            return JobFile(key="imported", job=Job.model_validate(document))
        found = JobFile.model_validate(document)
        found._written = document["job"] if found.chain else None
        return found
    except ValidationError as e:
        raise FileFault(where(e)) from None


class Duplicate(FileFault):
    """The same job is here already."""


def _bare(file: JobFile) -> JobFile:
    """A file without whose readings they are and whether simulated, which earlier versions did not say."""
    bare = [s.model_copy(update={"part": None, "simulated": False}) for s in file.readings]
    return file.model_copy(update={"readings": bare})


def load(file: JobFile, again: bool = False, pictures: Mapping[str, bytes] | None = None) -> str:
    """Store a job file as a new job, all or nothing; returns its key (a new one if the old is taken).

    ``pictures``: photos by their hash, where they came with it.

    Raises Duplicate where the same job stands here unchanged, unless it is wanted ``again`` as a copy.
    """
    taken = {s.key for s in jobs.listing(unreadable=True)}
    if (
        not again
        and file.key in taken
        and (file.readings or file.touches)
        and _bare(dump(file.key)) == _bare(file.model_copy(update={"version": 4}))
    ):
        raise Duplicate(message("file-here-already", key=file.key))
    key: str | None = file.key if file.key not in taken and file.key != "imported" else None
    for s in file.readings:
        if len(s.at) != len(s.pa):
            raise FileFault(message("file-uneven", gauge=s.gauge, times=len(s.at), pressures=len(s.pa)))
    # Earlier versions knew a gauge by its name alone.
    older = [s for s in file.readings if "part" not in s.model_fields_set]
    whose = owners(file.job.rig, {s.gauge: len(s.at) for s in older})
    with jobs.writing():
        written = json.dumps(file._written, ensure_ascii=False) if file._written is not None else None
        stored = jobs.create(file.job, key, written=written)
        for t in file.touches:
            jobs.add_touch(stored.key, t.kind, t.at, t.note, hand=t.hand)
        # Earlier versions did not tell: where a simulated gauge was on, nothing passes for real.
        doubtful = file.version < 3 and any(t.kind == "gauge-attached" for t in file.touches)
        for s in file.readings:
            part = s.part or whose.get(s.gauge)
            rows = [jobs.NewReading(s.gauge, at, pa, part=part) for at, pa in zip(s.at, s.pa, strict=True)]
            jobs.add_readings(stored.key, rows, SIMULATED if s.simulated or doubtful else "import")
        for p in file.photos:
            data = (pictures or {}).get(p.sha256)
            photos.keep_imported(stored.key, photos.Photo(**p.model_dump(), data=data))
        weights.add(stored.key, [Weighed(w.at, w.kg, w.simulated) for w in file.weights])
        sealing.keep_imported(stored.key, [sealing.entry_of(e.model_dump()) for e in file.chain])
    return stored.key


class Verified(NamedTuple):
    """A sealed job file as it was checked: when it was sealed, what is wrong with it, how many entries it has, and the
    firms that signed it, each with its key's fingerprint.
    """

    closed_at: float
    wrong: list[Break]
    entries: int
    signers: list[tuple[str, str]]


def verify(document: Any, pictures: Mapping[str, bytes] | None = None) -> Verified:
    """Check a sealed job file as it stands, with the pictures that came with it.

    On the document itself, not on what a later version makes of it. Raises FileFault where it is no sealed job file.
    """
    if not isinstance(document, dict) or document.get("format") != "rough-draw/job-file":
        raise FileFault(message("file-no-job"))
    raw = document.get("chain")
    if not raw:
        raise FileFault(message("file-no-chain"))
    try:
        chain = [sealing.entry_of(e) for e in raw]
        touches = [
            sealing.plain_touch(t["kind"], t["at"], t.get("note", ""), t.get("hand", ""))
            for t in document.get("touches", [])
        ]
        readings = [Read(s["gauge"], s["at"], s["pa"], bool(s.get("simulated"))) for s in document.get("readings", [])]
        seen = [
            {k: p[k] for k in ("sha256", "about", "caption", "at", "hand")}
            for p in document.get("photos", [])
            if not photos.of_visit(p["about"])
        ]
        scale = [Weighed(w["at"], w["kg"], bool(w.get("simulated", True))) for w in document.get("weights", [])]
        found = check(chain, Contents(document["job"], touches, readings, seen, scale))
    except (KeyError, TypeError, ValueError) as e:
        raise FileFault(message("file-chain-unread", fault=str(e))) from None
    closed = closing_of(chain)
    for sha256, data in (pictures or {}).items():
        if photos.hash_of(data) != sha256:
            found.append(Break(0, message("chain-photo-bytes", about=sha256[:12])))
    return Verified(closed.at if closed is not None else 0.0, found, len(chain), signers(chain))
