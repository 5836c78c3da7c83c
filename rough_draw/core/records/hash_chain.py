"""A record sealed as a chain: each entry carries the hash of the one before, so that no part can be changed unseen.

The chain holds what was done and read: the sheet as its text stood, every touch, readings and weights in blocks, the
verdict, the signature; after it was closed, amendments. Hashes are SHA-256 over canonical JSON: by RFC 8785, which the
first entry names; chains of earlier versions name none and are read by the rule of that time, for ever.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import rfc8785

from rough_draw.core.message import Message, message
from rough_draw.core.records import firm_signature

FIRST = "0" * 64
"""What the first entry has in place of the hash before it."""
BLOCK = 60
"""Readings to a block: a change is found to within so many."""


class Read(NamedTuple):
    """Readings of one gauge as a record holds them: epoch s, Pa with None for over range; whether simulated."""

    gauge: str
    at: Sequence[float]
    pa: Sequence[float | None]
    simulated: bool = False


class Weighed(NamedTuple):
    """What a scale showed as a record holds it: kg at epoch s; whether the scale was simulated."""

    at: float
    kg: float
    simulated: bool = False


@dataclass(frozen=True, kw_only=True)
class Entry:
    """One link: its place, kind, time (epoch s), what it says, the hash before it and its own."""

    number: int
    kind: str
    at: float
    body: Mapping[str, Any]
    before: str
    hash: str


@dataclass(frozen=True)
class Break:
    """Where a chain or a record does not hold: the entry's number (0 for the record), and what is wrong."""

    number: int
    words: Message


JCS = "RFC 8785"
"""The form of canonical JSON in which new chains are hashed."""


def canonical(value: Any, form: str = JCS) -> bytes:
    """JSON with keys in order and no spaces, by a form's rule; raises ValueError for NaN, which JSON does not have."""
    if form == JCS:
        return rfc8785.dumps(value)
    return json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False).encode()


def digest(value: Any, form: str = JCS) -> str:
    """SHA-256 of a value's canonical JSON, in hex."""
    return hashlib.sha256(canonical(value, form)).hexdigest()


def form_of(body: Mapping[str, Any]) -> str:
    """The form in which a chain is hashed, by the body of its first entry; empty in earlier versions."""
    return str(body.get("canonical", ""))


def _hash(number: int, kind: str, at: float, body: Mapping[str, Any], before: str, form: str) -> str:
    return digest({"number": number, "kind": kind, "at": at, "body": dict(body), "before": before}, form)


def append(chain: Sequence[Entry], kind: str, at: float, body: Mapping[str, Any]) -> Entry:
    """The next entry of a chain."""
    number = len(chain) + 1
    before = chain[-1].hash if chain else FIRST
    form = form_of(chain[0].body if chain else body)
    made = _hash(number, kind, at, body, before, form)
    return Entry(number=number, kind=kind, at=at, body=body, before=before, hash=made)


def closing_of(chain: Sequence[Entry]) -> Entry | None:
    """The entry by which a record was closed; None in a chain that never was."""
    return next((e for e in chain if e.kind == "closed"), None)


def reading_blocks(read: Read, form: str = JCS) -> list[dict[str, Any]]:
    """Readings of a gauge in blocks: from when to when, how many, the hash of their times and pressures; whether they
    are simulated, which chains of earlier versions do not say.
    """
    found = []
    marked = {"simulated": True} if read.simulated and form == JCS else {}
    for k in range(0, len(read.at), BLOCK):
        times, values = list(read.at[k : k + BLOCK]), list(read.pa[k : k + BLOCK])
        found.append(
            {
                "gauge": read.gauge,
                "from": times[0],
                "to": times[-1],
                "count": len(times),
                "sha256": digest([times, values], form),
                **marked,
            }
        )
    return found


def weight_blocks(weights: Sequence[Weighed], form: str = JCS) -> list[dict[str, Any]]:
    """Weights in blocks, as of readings: the hash is of each one's time, kg and mark."""
    found = []
    for k in range(0, len(weights), BLOCK):
        part = weights[k : k + BLOCK]
        values = [[w.at, w.kg, w.simulated] for w in part]
        found.append({"from": part[0].at, "to": part[-1].at, "count": len(part), "sha256": digest(values, form)})
    return found


@dataclass(frozen=True)
class Contents:
    """What a record holds beside its verdict: sheet, touches, readings, the photos by their hashes, and weights."""

    sheet: Mapping[str, Any]
    touches: Sequence[Mapping[str, Any]]
    readings: Sequence[Read]
    photos: Sequence[Mapping[str, Any]] = ()
    weights: Sequence[Weighed] = ()


HELD = ("sheet", "touch", "readings", "photo", "weights")
"""Kinds of entries that say what a record holds."""


def entries_of(held: Contents, form: str = JCS, weighed: bool = True) -> list[tuple[str, float | None, dict[str, Any]]]:
    """All that a record holds, as (kind, its own time or None, body), in the order of the chain.

    ``weighed``: weights are among it, which the first entry says; in chains of earlier versions they are not.
    """
    first: dict[str, Any] = {"sha256": digest(held.sheet, form), **({"canonical": form} if form else {})}
    if weighed:
        first["weights"] = len(held.weights)
    found: list[tuple[str, float | None, dict[str, Any]]] = [("sheet", None, first)]
    found += [("touch", float(t["at"]), dict(t)) for t in held.touches]
    for read in held.readings:
        found += [("readings", b["to"], b) for b in reading_blocks(read, form)]
    found += [("photo", float(p["at"]), dict(p)) for p in held.photos]
    found += [("weights", b["to"], b) for b in weight_blocks(held.weights, form)] if weighed else []
    return found


def sealed(held: Contents, verdict: Mapping[str, Any] | None, signature: Mapping[str, Any], at: float) -> list[Entry]:
    """The chain of a record closed at ``at`` (epoch s)."""
    chain: list[Entry] = []
    for kind, when, body in entries_of(held):
        chain.append(append(chain, kind, at if when is None else when, body))
    if verdict is not None:
        chain.append(append(chain, "verdict", at, verdict))
    chain.append(append(chain, "closed", at, signature))
    return chain


def unbroken(chain: Sequence[Entry]) -> Break | None:
    """Where the chain itself breaks, if it does: an entry changed, taken out, put in, or moved."""
    before = FIRST
    form = form_of(chain[0].body) if chain else JCS
    for place, e in enumerate(chain, 1):
        if e.number != place:
            return Break(place, message("chain-numbered", place=place, number=e.number))
        if e.before != before:
            return Break(place, message("chain-not-following", place=place, kind=e.kind))
        if e.hash != _hash(e.number, e.kind, e.at, e.body, e.before, form):
            return Break(place, message("chain-changed", place=place, kind=e.kind))
        before = e.hash
    return None


def differences(chain: Sequence[Entry], held: Contents) -> list[Break]:
    """Where a record is not what its chain sealed."""
    now = entries_of(held, form_of(chain[0].body), "weights" in chain[0].body)
    then = [e for e in chain if e.kind in HELD]
    found = []
    for e, (kind, _, body) in zip(then, now, strict=False):
        if e.kind != kind or dict(e.body) != body:
            found.append(Break(e.number, _words(e, body)))
            if e.kind != kind:
                return found
    if len(now) != len(then):
        which = "chain-more" if len(now) > len(then) else "chain-less"
        found.append(Break(0, message(which, now=len(now), then=len(then))))
    return found


def _words(e: Entry, body: Mapping[str, Any]) -> Message:
    if e.kind == "sheet":
        return message("chain-other-sheet" if e.body.get("sha256") != body.get("sha256") else "chain-other-weights")
    if e.kind == "touch":
        return message("chain-other-step", step=str(e.body.get("kind", "")), at=_whole(e.at))
    if e.kind == "photo":
        return message("chain-other-photo", about=str(e.body.get("about", "")))
    if e.kind == "weights":
        return message("chain-other-weights")
    same = e.body.get("from") == body.get("from") and e.body.get("count") == body.get("count")
    return message(
        "chain-figure-changed" if same else "chain-readings-changed",
        gauge=str(e.body.get("gauge", "")),
        count=int(e.body.get("count", 0)),
        start=_whole(e.body.get("from", 0.0)),
    )


def _whole(seconds: float) -> str:
    """A time of a record as it stands in its file: seconds, without grouping."""
    return f"{seconds:.0f}"


def check(chain: Sequence[Entry], held: Contents) -> list[Break]:
    """All that is wrong with a sealed record, the chain itself first."""
    broken = unbroken(chain)
    if broken is not None:
        return [broken]
    if closing_of(chain) is None:
        return [Break(0, message("chain-never-closed"))]
    wrong = [e for e in chain if e.kind == firm_signature.KIND and not _signed(e)]
    found = [Break(e.number, message("chain-signature", firm=str(e.body.get("firm", "")))) for e in wrong]
    return [*found, *differences(chain, held)]


def _signed(e: Entry) -> bool:
    return firm_signature.holds(str(e.body.get("key", "")), e.before, str(e.body.get("signature", "")))


def signers(chain: Sequence[Entry]) -> list[tuple[str, str]]:
    """Firms that signed a chain, each once: the name it gave itself, and the fingerprint of its key."""
    named = [(str(e.body.get("firm", "")), str(e.body.get("key", ""))) for e in chain if e.kind == firm_signature.KIND]
    return list(dict.fromkeys((firm, firm_signature.fingerprint(key)) for firm, key in named if _is_hex(key)))


def _is_hex(text: str) -> bool:
    return len(text) == 64 and all(c in "0123456789abcdef" for c in text)
