"""A whole job out and in again: the job file (JSON) and the readings table (CSV)."""

from __future__ import annotations

import csv
import io
import json
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, PrivateAttr, ValidationError

from rough_draw.core.message import Fault, message
from rough_draw.core.message.figure import number
from rough_draw.core.physics.units import from_pa
from rough_draw.core.records.hash_chain import Break, check, closing_of
from rough_draw.core.sheet.base import place_of, told_of
from rough_draw.core.sheet.gauge_owner import owners
from rough_draw.core.sheet.job import Job
from rough_draw.store import jobs, labels, sealing, shelf, weights
from rough_draw.text import say

MOST_BYTES = 64 * 1024 * 1024


class FileTouch(BaseModel):
    """A touch as it stands in a job file."""

    model_config = ConfigDict(extra="forbid")
    kind: Annotated[str, Field(max_length=60)]
    at: float
    note: Annotated[str, Field(max_length=2000)] = ""


class FileSeries(BaseModel):
    """Readings of one gauge: epoch seconds and Pa, null for over range; ``part``: its id on the sheet, if known."""

    model_config = ConfigDict(extra="forbid")
    gauge: Annotated[str, Field(max_length=60)]
    part: Annotated[str, Field(max_length=40)] | None = None
    at: list[float]
    pa: list[float | None]


class FileWeight(BaseModel):
    """What the scale showed, kg, at epoch seconds."""

    model_config = ConfigDict(extra="forbid")
    at: float
    kg: float


class FileEntry(BaseModel):
    """An entry of a sealed record's chain."""

    model_config = ConfigDict(extra="forbid")
    number: int
    kind: Annotated[str, Field(max_length=20)]
    at: float
    body: dict[str, Any]
    before: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    hash: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class JobFile(BaseModel):
    """The job file, version 2: sheet, touches, readings, weights, and the chain of a sealed record.

    Version 1 had neither weights nor a chain.
    """

    model_config = ConfigDict(extra="forbid")
    format: Literal["rough-draw/job-file"] = "rough-draw/job-file"
    version: Literal[1, 2] = 2
    key: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$")]
    job: Job
    touches: list[FileTouch] = []
    readings: list[FileSeries] = []
    weights: list[FileWeight] = []
    chain: list[FileEntry] = []
    _written: dict[str, Any] | None = PrivateAttr(None)
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
    """The job file of a stored job; raises NotFound."""
    stored = jobs.get(key)
    series = [
        FileSeries(gauge=r.gauge, part=r.part, at=r.at.tolist(), pa=[None if np.isnan(p) else float(p) for p in r.pa])
        for r in jobs.readings(key)
    ]
    touches = [FileTouch(kind=t.kind, at=t.at, note=t.note) for t in jobs.touches(key)]
    chain = [FileEntry(**sealing.as_values(e)) for e in sealing.chain_of(key)]
    scale = [FileWeight(at=at, kg=kg) for at, kg in weights.of(key)]
    found = JobFile(key=key, job=stored.job, touches=touches, readings=series, weights=scale, chain=chain)
    found._written = jobs.document(key) if chain else None
    return found


def text_of(file: JobFile) -> str:
    """A job file as it is written: the sheet of a sealed record as it was sealed."""
    values = file.model_dump(mode="json")
    if file._written is not None:
        values["job"] = file._written
    return json.dumps(values, ensure_ascii=False, indent=1)


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
    """A file without whose readings they are, which earlier versions did not say."""
    return file.model_copy(update={"readings": [s.model_copy(update={"part": None}) for s in file.readings]})


def load(file: JobFile, again: bool = False) -> str:
    """Store a job file as a new job, all or nothing; returns its key (a new one if the old is taken).

    Raises Duplicate where the same job stands here unchanged, unless it is wanted ``again`` as a copy.
    """
    taken = {s.key for s in jobs.listing()}
    if (
        not again
        and file.key in taken
        and (file.readings or file.touches)
        and _bare(dump(file.key)) == _bare(file.model_copy(update={"version": 2}))
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
            jobs.add_touch(stored.key, t.kind, t.at, t.note)
        for s in file.readings:
            part = s.part or whose.get(s.gauge)
            rows = [jobs.NewReading(s.gauge, at, pa, part=part) for at, pa in zip(s.at, s.pa, strict=True)]
            jobs.add_readings(stored.key, rows, "import")
        weights.add(stored.key, [(w.at, w.kg) for w in file.weights])
        sealing.keep_imported(stored.key, [sealing.entry_of(e.model_dump()) for e in file.chain])
    return stored.key


def verify(document: Any) -> tuple[float, list[Break], int]:
    """Check a sealed job file as it stands: when it was sealed, what is wrong with it, and how many entries it has.

    On the document itself, not on what a later version makes of it. Raises FileFault where it is no sealed job file.
    """
    if not isinstance(document, dict) or document.get("format") != "rough-draw/job-file":
        raise FileFault(message("file-no-job"))
    raw = document.get("chain")
    if not raw:
        raise FileFault(message("file-no-chain"))
    try:
        chain = [sealing.entry_of(e) for e in raw]
        touches = [{"kind": t["kind"], "at": t["at"], "note": t.get("note", "")} for t in document.get("touches", [])]
        readings = [(s["gauge"], s["at"], s["pa"]) for s in document.get("readings", [])]
        found = check(chain, document["job"], touches, readings)
    except (KeyError, TypeError, ValueError) as e:
        raise FileFault(message("file-chain-unread", fault=str(e))) from None
    closed = closing_of(chain)
    return closed.at if closed is not None else 0.0, found, len(chain)


def safe_cell(text: str) -> str:
    """A text cell that a spreadsheet will not take for a formula."""
    return "'" + text if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def kit_csv() -> str:
    """The kit as CSV: number, code, kind, name, and its values."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["number", "code", "kind", "name", "values"])
    for k in shelf.kit():
        values = "; ".join(f"{name}={value}" for name, value in sorted(k.values.items()))
        writer.writerow([k.id, labels.code_of(k.id), k.kind, safe_cell(k.name), safe_cell(values)])
    return out.getvalue()


def readings_csv(key: str, unit: str = "micron") -> str:
    """Readings of a job as CSV: clock, elapsed seconds, gauge, pressure with its unit in the header, note."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    series = jobs.readings(key)
    touches = jobs.touches(key)
    gauges = [s.gauge for s in series]
    heads = [f"pressure_{unit}"] if len(gauges) < 2 else [f"{safe_cell(g)}_{unit}".replace(" ", "-") for g in gauges]
    writer.writerow(["timestamp", "elapsed_s", *heads, "note"])
    table: dict[float, list[str]] = {}
    for column, s in enumerate(series):
        for at, pa in zip(s.at, s.pa, strict=True):
            cells = table.setdefault(float(at), [""] * len(series))
            cells[column] = "OVER" if np.isnan(pa) else f"{from_pa(float(pa), unit):.6g}"
    times = sorted(table)
    notes: dict[float, list[str]] = {}
    for t in touches:
        after = [x for x in times if x >= t.at]
        if after:
            words = {"isolate": "isolated"}.get(t.kind, t.kind)
            notes.setdefault(after[0], []).append(words + (f": {t.note}" if t.note else ""))
    for at in times:
        stamp = datetime.fromtimestamp(at, UTC).isoformat(timespec="milliseconds")
        note = safe_cell("; ".join(notes.get(at, [])))
        writer.writerow([stamp, f"{at - times[0]:.3f}", *table[at], note])
    return out.getvalue()
