"""Examinations over the wire."""

from __future__ import annotations

import json
from typing import Annotated

from fastapi import APIRouter, Path, Response

from rough_draw.api.people.browser import Here
from rough_draw.api.practice import exams
from rough_draw.api.practice.conversion import run_out
from rough_draw.api.practice.schemas import ExamIn, ExamOut, RunOut
from rough_draw.store import exams as store
from rough_draw.store.report.certificate import render_certificate

router = APIRouter(tags=["practice"])
ExamKey = Annotated[str, Path(pattern=r"^[a-f0-9]{4,40}$")]


@router.get("/practice/exams")
def read_exams(here: Here) -> list[ExamOut]:
    """The examinations of whoever is at this browser, the latest first."""
    return [exams.exam_out(e) for e in store.listing(here)]


@router.post("/practice/exams", status_code=201)
def begin_exam(body: ExamIn, here: Here) -> ExamOut:
    """Begin one at a level."""
    return exams.begin(here, body.level)


@router.post("/practice/exams/{key}/runs", status_code=201)
def begin_job(key: ExamKey) -> RunOut:
    """Begin its next job."""
    return run_out(exams.next_job(key))


@router.get("/practice/exams/{key}/certificate.pdf", response_class=Response)
def certificate_pdf(key: ExamKey) -> Response:
    """The certificate of one that was passed, on paper."""
    body = render_certificate(json.loads(exams.certificate(key)))
    headers = {"Content-Disposition": f'inline; filename="certificate-{key}.pdf"'}
    return Response(body, media_type="application/pdf", headers=headers)


@router.get("/practice/exams/{key}/certificate.json", response_class=Response)
def certificate_json(key: ExamKey) -> Response:
    """Its text, with the hash and the firm's signature: `rough-draw verify` checks it."""
    headers = {"Content-Disposition": f'attachment; filename="certificate-{key}.json"'}
    return Response(exams.certificate(key), media_type="application/json", headers=headers)
