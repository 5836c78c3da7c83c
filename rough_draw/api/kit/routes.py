"""The kit: what happens to it by hand, its labels, and finding a part by its code."""

from __future__ import annotations

import time
from typing import Literal

from fastapi import APIRouter, Query, Response
from fastapi.exceptions import RequestValidationError
from pydantic import Field, ValidationError

from rough_draw.api.errors import refusal
from rough_draw.api.schemas import Body
from rough_draw.core.sheet.kit import must_fit
from rough_draw.store import csv_tables, kit_log, labels, shelf

router = APIRouter(tags=["kit"])

Kind = Literal["pump", "hose", "tool", "gauge", "manifold", "tee", "adapter", "scale", "cord", "cylinder", "core"]


class KitIn(Body):
    """A part for the van."""

    kind: Kind
    name: str = Field(min_length=1, max_length=80)
    values: dict[str, str | float | bool | None] = Field({}, max_length=20)


class KitEventIn(Body):
    """Something that was done to a part."""

    kind: Literal["oil-change", "cleaning", "calibration", "retired"]
    note: str = Field("", max_length=500)


class KitNumber(Body):
    """A part by its number."""

    number: int
    kind: str
    name: str


@router.post("/kit", status_code=201)
def add(body: KitIn) -> KitNumber:
    """Put a part into the van."""
    try:
        must_fit(body.kind, body.values)
    except ValidationError as e:
        # After the part's kind, by which its model was chosen, comes the field's own name.
        raise RequestValidationError([{**x, "loc": ("values", *x["loc"][1:])} for x in e.errors()]) from None
    number = shelf.add_kit(body.kind, body.name.strip(), dict(body.values))
    return KitNumber(number=number, kind=body.kind, name=body.name.strip())


@router.post("/kit/{number}/events", status_code=201)
def happened(number: int, body: KitEventIn) -> KitNumber:
    """Log what was done to a part."""
    if not 0 < number < 2**31:
        raise refusal(404, "no-part")
    item = shelf.kit_item(number)
    now = time.time()
    kit_log.file(f"by-hand-{now:.0f}", [kit_log.NewEvent(number, body.kind, {}, "", body.note)], now)
    return KitNumber(number=number, kind=item.kind, name=item.name)


@router.get("/kit/labels.pdf", response_class=Response)
def print_labels(skip: int = Query(0, ge=0, le=23), kind: str = Query("", max_length=20)) -> Response:
    """Labels with codes, 24 to an A4 sheet; ``skip`` places are left empty."""
    items = [k for k in shelf.kit() if not kind or k.kind == kind]
    head = {"Content-Disposition": 'attachment; filename="kit-labels.pdf"'}
    return Response(labels.sheet(items, skip), media_type="application/pdf", headers=head)


@router.get("/kit.csv", response_class=Response)
def kit_table() -> Response:
    """The kit as CSV."""
    head = {"Content-Disposition": 'attachment; filename="kit.csv"'}
    return Response(csv_tables.kit_csv(), media_type="text/csv; charset=utf-8", headers=head)


@router.get("/kit/code/{code}")
def by_code(code: str) -> KitNumber:
    """The part that a code on a label stands for."""
    number = labels.number_of(code)
    if number is None:
        raise refusal(422, "no-code", code=code[:40])
    item = shelf.kit_item(number) if number < 2**31 else shelf.kit_item(0)
    return KitNumber(number=item.id, kind=item.kind, name=item.name)
