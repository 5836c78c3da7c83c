"""Errors as problem details (RFC 9457): what is wrong, where, and what to do."""

from __future__ import annotations

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from peewee import OperationalError
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from rough_draw.core.engine.compile import EngineError
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.model.system import ScopeError
from rough_draw.core.readings.csv_table import ReadingsError
from rough_draw.store.backup import BackupFault
from rough_draw.store.job_files import Duplicate, FileFault
from rough_draw.store.jobs import Conflict, NotFound, NothingToUndo, Sealed
from rough_draw.store.sealing import NotSealed


class Place(BaseModel):
    """One fault: where it is (a field or a line) and what is wrong."""

    place: str
    message: str


class Problem(BaseModel):
    """Problem details."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    faults: list[Place] = []


def problem(status: int, title: str, detail: str, faults: list[Place] | None = None) -> JSONResponse:
    """A problem as a response."""
    body = Problem(title=title, status=status, detail=detail, faults=faults or [])
    return JSONResponse(body.model_dump(), status_code=status, media_type="application/problem+json")


def install(app: FastAPI) -> None:
    """Answer every known error with a problem."""

    @app.exception_handler(RequestValidationError)
    async def _invalid(_: Request, e: RequestValidationError) -> JSONResponse:
        faults = []
        for x in e.errors()[:20]:
            place = ".".join(str(p) for p in x["loc"] if p not in ("body", "query", "path")) or "request"
            place = str((x.get("ctx") or {}).get("place") or place)
            faults.append(Place(place=place, message=str(x["msg"]).removeprefix("Value error, ")))
        first = f"{faults[0].place}: {faults[0].message}" if faults else "the request cannot be read"
        return problem(422, "Check what was entered", first, faults)

    @app.exception_handler(ReadingsError)
    async def _readings(_: Request, e: ReadingsError) -> JSONResponse:
        faults = [Place(place=f"line {f.line}" if f.line else "file", message=f.message) for f in e.faults]
        detail = f"nothing was imported: {len(faults)} fault{'s' if len(faults) != 1 else ''}"
        return problem(422, "These readings cannot be imported", detail, faults)

    @app.exception_handler(HTTPException)
    async def _http(_: Request, e: HTTPException) -> JSONResponse:
        answer = problem(e.status_code, "Not possible", str(e.detail))
        answer.headers.update(e.headers or {})
        return answer

    @app.exception_handler(OperationalError)
    async def _busy(_: Request, e: OperationalError) -> JSONResponse:
        return problem(503, "Not stored", f"the database did not take it ({e}); nothing was changed, try again")

    @app.exception_handler(ScopeError)
    async def _sheet(_: Request, e: ScopeError) -> JSONResponse:
        faults = [Place(place=e.place, message=str(e))] if e.place else []
        return problem(422, "This sheet cannot be computed", str(e), faults)

    known: tuple[tuple[type[Exception], int, str], ...] = (
        (NotFound, 404, "Not found"),
        (Conflict, 409, "Changed meanwhile"),
        (NothingToUndo, 409, "Nothing to undo"),
        (Sealed, 409, "This record is sealed"),
        (NotSealed, 409, "This record is open"),
        (BackupFault, 422, "This backup cannot be used"),
        (Duplicate, 409, "It is here already"),
        (FileFault, 422, "This file cannot be imported"),
        (NetworkError, 422, "This rig cannot be computed"),
        (EngineError, 422, "This run cannot be computed"),
    )
    for kind, status, title in known:

        async def answer(_: Request, e: Exception, status: int = status, title: str = title) -> JSONResponse:
            return problem(status, title, str(e))

        app.add_exception_handler(kind, answer)
