"""Examinations as they are kept, and their certificates: a text that is hashed, and signed where the firm has a key."""

from __future__ import annotations

import json
import secrets
import time
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import rfc8785

from rough_draw.core.message import message
from rough_draw.core.practice.exam import JOBS
from rough_draw.core.records.firm_signature import holds, signature_of
from rough_draw.core.records.hash_chain import digest
from rough_draw.store import firm
from rough_draw.store.jobs import NotFound, writing
from rough_draw.store.models import ExamRow
from rough_draw.store.stored import NUMBERS

FORMAT = "rough-draw/certificate"
SEEDS = 2**31 - 1


@dataclass(frozen=True, kw_only=True)
class Exam:
    """An examination: of whom, at which level, the numbers of its jobs, the certificate's text."""

    key: str
    person: int | None
    name: str
    level: int
    seeds: tuple[int, ...]
    began_at: float
    certificate: str


def _exam(row: ExamRow) -> Exam:
    return Exam(
        key=row.key,
        person=row.person,
        name=row.name,
        level=row.level,
        seeds=tuple(NUMBERS.read(row.seeds)),
        began_at=row.began_at,
        certificate=row.certificate,
    )


def begin(person: int | None, name: str, level: int) -> Exam:
    """A new one, on numbers that nobody has seen."""
    seeds = [secrets.randbelow(SEEDS) for _ in range(JOBS)]
    with writing():
        row = ExamRow.create(
            key=secrets.token_hex(5),
            person=person,
            name=name,
            level=level,
            seeds=NUMBERS.write(seeds),
            began_at=time.time(),
        )
    return _exam(row)


def get(key: str) -> Exam:
    """One by its key; raises NotFound."""
    row = ExamRow.get_or_none(ExamRow.key == key)
    if row is None:
        raise NotFound(message("no-exam", key=key))
    return _exam(row)


def listing(person: int | None) -> list[Exam]:
    """Somebody's, the latest first."""
    mine = ExamRow.person.is_null() if person is None else ExamRow.person == person
    return [_exam(r) for r in ExamRow.select().where(mine).order_by(ExamRow.began_at.desc())]


def certify(exam: Exam, jobs: Sequence[dict[str, Any]], mean: float, firm_name: str) -> str:
    """Write the certificate of one that was passed, once; what was written stands. Returns its text."""
    if exam.certificate:
        return exam.certificate
    told = {
        "format": FORMAT,
        "version": 1,
        "exam": exam.key,
        "name": exam.name,
        "firm": firm_name,
        "level": exam.level,
        "jobs": list(jobs),
        "mean": round(mean, 1),
        "at": round(time.time(), 3),
    }
    hashed = digest(told)
    pair = firm.key_pair()
    signed = {"firm_key": pair[1], "signature": signature_of(pair[0], hashed)} if pair is not None else {}
    text = json.dumps({**told, "hash": hashed, **signed}, indent=1, ensure_ascii=False)
    with writing():
        ExamRow.update(certificate=text).where(ExamRow.key == exam.key, ExamRow.certificate == "").execute()
    return get(exam.key).certificate


def is_whole(certificate: dict[str, Any]) -> bool:
    """Whether a certificate is as it was written, and signed by the key that it names where it names one."""
    told = {k: v for k, v in certificate.items() if k not in ("hash", "firm_key", "signature")}
    try:
        found = digest(told)
    except rfc8785.CanonicalizationError:
        return False
    if certificate.get("hash") != found:
        return False
    key, signature = certificate.get("firm_key"), certificate.get("signature")
    return (key is None and signature is None) or holds(str(key), found, str(signature))
