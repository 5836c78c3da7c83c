"""Errors as problem details (RFC 9457): what is wrong, where, and what to do."""

from __future__ import annotations

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from peewee import DatabaseError, OperationalError
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from rough_draw.core.engine.compile import EngineError
from rough_draw.core.engine.network import NetworkError
from rough_draw.core.engine.readiness import NotReady
from rough_draw.core.message import Telling, Value, message
from rough_draw.core.model.system import ScopeError
from rough_draw.core.readings.csv_table import ReadingsError
from rough_draw.core.sheet.base import told_of
from rough_draw.store.backup import BackupFault, SheetsUnread
from rough_draw.store.job_files import Duplicate, FileFault
from rough_draw.store.jobs import Conflict, NotFound, NothingToUndo, Sealed
from rough_draw.store.photos import PhotoFault
from rough_draw.store.sealing import NotSealed
from rough_draw.text import say, told


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


def refusal(status: int, key: str, /, **values: Value) -> HTTPException:
    """A refusal by the key of its sentence, to be raised."""
    return HTTPException(status, say(message(key, **values)))


def told_problem(status: int, key: str, /, **values: Value) -> JSONResponse:
    """A problem by the key of its title; what is wrong stands beside it as ``why``."""
    return problem(status, say(message(key)), say(message(f"{key}.why", **values)))


def _of_sheet(asked: Request) -> int:
    """The status of a sheet that cannot be worked out: what was sent is at fault, or, where it was only asked for, the
    state that the sheet is in."""
    return 409 if asked.method == "GET" else 422


def install(app: FastAPI) -> None:
    """Answer every known error with a problem."""

    @app.exception_handler(RequestValidationError)
    async def _invalid(_: Request, e: RequestValidationError) -> JSONResponse:
        faults = []
        for x in e.errors()[:20]:
            own = str((x.get("ctx") or {}).get("place") or "")
            place = ".".join(str(p) for p in x["loc"] if p not in ("body", "query", "path")) or "request"
            faults.append(Place(place=own or place, message=say(told_of(x))))
        first = f"{faults[0].place}: {faults[0].message}" if faults else say(message("problem-request"))
        return problem(422, say(message("problem-entered")), first, faults)

    @app.exception_handler(ReadingsError)
    async def _readings(_: Request, e: ReadingsError) -> JSONResponse:
        faults = [Place(place=f"line {f.line}" if f.line else "file", message=say(f.message)) for f in e.faults]
        detail = say(message("problem-nothing-imported", count=len(faults)))
        return problem(422, say(message("problem-readings")), detail, faults)

    @app.exception_handler(HTTPException)
    async def _http(_: Request, e: HTTPException) -> JSONResponse:
        answer = problem(e.status_code, say(message("problem-not-possible")), str(e.detail))
        answer.headers.update(e.headers or {})
        return answer

    @app.exception_handler(OperationalError)
    async def _busy(_: Request, e: OperationalError) -> JSONResponse:
        return problem(503, say(message("problem-not-stored")), say(message("problem-database", fault=str(e))))

    @app.exception_handler(DatabaseError)
    async def _damaged(_: Request, e: DatabaseError) -> JSONResponse:
        # Its kinds (a rule broken, a wrong statement) are faults of the code, and answered as those.
        if type(e) is not DatabaseError:
            raise e
        return problem(503, say(message("problem-not-stored")), say(message("problem-database-damaged", fault=str(e))))

    @app.exception_handler(ScopeError)
    async def _sheet(asked: Request, e: ScopeError) -> JSONResponse:
        told = say(e.told)
        faults = [Place(place=e.place, message=told)] if e.place else []
        return problem(_of_sheet(asked), say(message("problem-sheet")), told, faults)

    known: tuple[tuple[type[Exception], int, str], ...] = (
        (NotFound, 404, "not-found"),
        (Conflict, 409, "changed"),
        (NothingToUndo, 409, "nothing-to-undo"),
        (Sealed, 409, "sealed"),
        (NotSealed, 409, "open"),
        (SheetsUnread, 409, "backup-partly"),
        (BackupFault, 422, "backup"),
        (Duplicate, 409, "duplicate"),
        (FileFault, 422, "file"),
        (PhotoFault, 422, "photo"),
        (NotReady, 503, "building"),
        (Telling, 0, "not-possible"),
        (NetworkError, 0, "rig"),
        (EngineError, 0, "run"),
    )
    for kind, status, title in known:

        async def answer(asked: Request, e: Exception, status: int = status, title: str = title) -> JSONResponse:
            return problem(status or _of_sheet(asked), say(message(f"problem-{title}")), told(e))

        app.add_exception_handler(kind, answer)
