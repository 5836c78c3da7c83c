"""Sealed records: the chain of a closed job, its amendments, and what a sealed job refuses."""

from __future__ import annotations

import json
import math
import time
from collections.abc import Mapping, Sequence
from typing import Any

from rough_draw.core.message import Telling, message
from rough_draw.core.records.firm_signature import KIND, signature_of
from rough_draw.core.records.hash_chain import (
    JCS,
    Break,
    Contents,
    Entry,
    Read,
    append,
    check,
    closing_of,
    form_of,
    sealed,
)
from rough_draw.store import firm, jobs, photos, shelf, weights
from rough_draw.store.models import ChainRow, JobRow


class NotSealed(Telling, RuntimeError):
    """The record is open: there is nothing to amend yet."""


def chain_of(key: str) -> list[Entry]:
    """The chain of a job; empty while it is open."""
    rows = ChainRow.select().where(ChainRow.job == key).order_by(ChainRow.number)
    return [
        Entry(number=r.number, kind=r.kind, at=r.at, body=json.loads(r.body), before=r.before, hash=r.hash)
        for r in rows
    ]


def as_values(e: Entry) -> dict[str, Any]:
    """An entry as plain values, as the job file has it."""
    return {"number": e.number, "kind": e.kind, "at": e.at, "body": dict(e.body), "before": e.before, "hash": e.hash}


def entry_of(values: Mapping[str, Any]) -> Entry:
    """Inverse of `as_values`; raises KeyError or TypeError for what is no entry."""
    return Entry(
        number=int(values["number"]),
        kind=str(values["kind"]),
        at=float(values["at"]),
        body=dict(values["body"]),
        before=str(values["before"]),
        hash=str(values["hash"]),
    )


def held(key: str, form: str = JCS) -> Contents:
    """What a job holds, as its chain and its file have it; in earlier versions' form readings are not told apart."""
    return Contents(
        jobs.document(key),
        [plain_touch(t.kind, t.at, t.note, t.hand) for t in jobs.touches(key)],
        [read for _, read in plain_readings(key, form)],
        [described(p) for p in photos.of(key) if not p.visit],
        weights.of(key),
    )


def plain_touch(kind: str, at: float, note: str, hand: str) -> dict[str, Any]:
    """A touch as the chain has it: whose hand it was only where that is known, as in every earlier version."""
    return {"kind": kind, "at": at, "note": note, **({"hand": hand} if hand else {})}


def described(photo: photos.Photo) -> dict[str, Any]:
    """A photo as the chain has it: by its hash."""
    return {"sha256": photo.sha256, "about": photo.about, "caption": photo.caption, "at": photo.at, "hand": photo.hand}


def plain_readings(key: str, form: str = JCS) -> list[tuple[str | None, Read]]:
    """Readings as the chain and the job file have them, with whose they are: simulated ones apart from the others."""
    found = []
    for r in jobs.readings(key):
        parts = (
            [(~r.simulated, False), (r.simulated, True)] if form == JCS else [(r.at == r.at, bool(r.simulated.any()))]
        )
        for keep, simulated in parts:
            if keep.any():
                pa = [None if math.isnan(p) else float(p) for p in r.pa[keep]]
                found.append((r.part, Read(r.gauge, [float(x) for x in r.at[keep]], pa, simulated)))
    return found


def seal(
    key: str, signature: Mapping[str, Any], verdict: Mapping[str, Any] | None, at: float | None = None
) -> list[Entry]:
    """Close a job for good: its chain is made of what it holds now. Raises NotFound; Sealed where it is closed."""
    now = at if at is not None else time.time()
    with jobs.writing():
        jobs.must_be_open(key)
        chain = sealed(held(key), verdict, signature, now)
        chain += _signed_by_firm(chain, now)
        _keep(key, chain)
        JobRow.update(sealed_at=now).where(JobRow.key == key).execute()
    return chain


def _signed_by_firm(chain: Sequence[Entry], at: float) -> list[Entry]:
    """The firm's signature under a chain's last hash, where the firm has a key."""
    pair = firm.key_pair()
    if pair is None:
        return []
    private, public = pair
    body = {"firm": shelf.settings().firm, "key": public, "signature": signature_of(private, chain[-1].hash)}
    return [append(chain, KIND, at, body)]


def _added(key: str, chain: Sequence[Entry], kind: str, at: float, body: Mapping[str, Any]) -> Entry:
    """One more entry of a sealed record, signed by the firm where it has a key."""
    entry = append(chain, kind, at, body)
    _keep(key, [entry, *_signed_by_firm([*chain, entry], at)])
    return entry


def _keep(key: str, entries: Sequence[Entry]) -> None:
    for e in entries:
        body = json.dumps(dict(e.body), ensure_ascii=False)
        ChainRow.create(job=key, number=e.number, kind=e.kind, at=e.at, body=body, before=e.before, hash=e.hash)
    if entries:
        JobRow.update(head=entries[-1].hash).where(JobRow.key == key).execute()


def amend(key: str, body: Mapping[str, Any], at: float | None = None) -> Entry:
    """Add a correction to a sealed record: what it said and what it should say stay both. Raises NotSealed."""
    with jobs.writing():
        jobs.kept(key)
        chain = chain_of(key)
        if not chain:
            raise NotSealed(message("problem-still-open"))
        return _added(key, chain, "amendment", at if at is not None else time.time(), body)


def visits_of(chain: Sequence[Entry]) -> list[Entry]:
    """Follow-up visits of a sealed record, in their order."""
    return [e for e in chain if e.kind == "visit"]


def add_visit(key: str, body: Mapping[str, Any], at: float | None = None) -> Entry:
    """Add a follow-up visit to a sealed record, with the pictures that were taken for it: what was sealed stays as it
    is. ``days`` since it was closed are worked out. Raises NotFound, NotSealed.
    """
    now = at if at is not None else time.time()
    with jobs.writing():
        jobs.kept(key)
        chain = chain_of(key)
        closed = closing_of(chain)
        if closed is None:
            raise NotSealed(message("problem-still-open"))
        name = f"visit:{len(visits_of(chain)) + 1}"
        seen = [described(p) for p in photos.of(key) if p.about == name]
        days = round((now - closed.at) / 86_400.0, 2)
        return _added(key, chain, "visit", now, {**body, "days": days, "photos": seen})


def keep_imported(key: str, entries: Sequence[Entry]) -> None:
    """Take over the chain of an imported record, as it is: whether it holds is for `faults` to say."""
    closed = closing_of(entries)
    _keep(key, entries)
    if closed is not None:
        JobRow.update(sealed_at=closed.at).where(JobRow.key == key).execute()


def faults(key: str) -> list[Break]:
    """What is wrong with a sealed record as it is stored now; nothing where it is whole."""
    # The sheet as it was stored, and not as a later version reads it: what is new has no part in what was sealed.
    chain = chain_of(key)
    found = [*check(chain, held(key, form_of(chain[0].body) if chain else JCS)), *_beside(key, chain)]
    pictures = photos.of(key, with_data=True)
    there = {(p.sha256, p.about, p.caption) for p in pictures}
    for visit in visits_of(chain):
        gone = [p for p in visit.body.get("photos", []) if (p["sha256"], p["about"], p["caption"]) not in there]
        found += [Break(visit.number, message("chain-other-photo", about=str(p["about"]))) for p in gone]
    # A picture is sealed by its hash: whether its bytes are still those is seen by making it again.
    changed = [p for p in pictures if p.data is not None and photos.hash_of(p.data) != p.sha256]
    return [*found, *(Break(0, message("chain-photo-bytes", about=p.about)) for p in changed)]


def _beside(key: str, chain: Sequence[Entry]) -> list[Break]:
    """Where the job's own row is not what its chain says: entries cut off at its end, another time of closing."""
    row = JobRow.get_by_id(key)
    closed = closing_of(chain)
    found = []
    if row.head and (not chain or chain[-1].hash != row.head):
        found.append(Break(len(chain), message("chain-cut")))
    if closed is not None and row.sealed_at != closed.at:
        found.append(Break(closed.number, message("chain-other-closing")))
    return found
