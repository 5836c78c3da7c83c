"""The application: one FastAPI app that serves the API and the built front end, and nothing from elsewhere."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI, Response
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles

from rough_draw import __version__
from rough_draw.api import (
    errors,
    holds,
    routes_alarms,
    routes_breaks,
    routes_charge,
    routes_day,
    routes_history,
    routes_hold,
    routes_jobs,
    routes_kit,
    routes_notes,
    routes_people,
    routes_plan,
    routes_practice,
    routes_prove,
    routes_record,
    routes_rig,
    routes_run,
    routes_seal,
    routes_shelf,
    routes_touch,
    routes_why,
    runs,
)
from rough_draw.api.alarms import Alarms
from rough_draw.api.doors import Door, Doors, Tries
from rough_draw.api.hub import Hub
from rough_draw.store import jobs
from rough_draw.store.database import open_database

STATIC = Path(__file__).parent / "static"
ROOT_FILES = (".svg", ".png", ".ico", ".webmanifest", ".js")
"""Endings of what is served beside the page: its icons, its manifest, the worker that keeps it on the device."""


def _warm() -> None:
    """Load the compiled engine in the background, so that the first plan need not wait for it."""
    from rough_draw.core.job import Job
    from rough_draw.core.plan import plan_job

    plan_job(Job(), size=2)
    for stored in jobs.listing():
        run = runs.view_of(stored)
        if run.series and not run.job.closing.signed_by:
            runs.plan_for(run.job)
            holds.judge(run)


def create_app(path: str | Path, warm: bool = True, door: Door | None = None) -> FastAPI:
    """The application on the database at ``path``; ``door`` says who may come in (anybody on this machine, if None)."""
    open_database(path)

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        hub = Hub()
        await hub.start()
        app.state.hub = hub
        app.state.alarms = Alarms()
        if warm:
            threading.Thread(target=_warm, daemon=True).start()
        resume = asyncio.create_task(_resume(hub))
        yield
        resume.cancel()
        await hub.stop()

    app = FastAPI(
        title="Rough Draw",
        version=__version__,
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        responses={422: {"model": errors.Problem, "description": "What was sent cannot be used"}},
    )
    errors.install(app)

    app.state.door = door or Door()
    app.state.tries = Tries()
    app.add_middleware(Doors, door=app.state.door)
    for module in (
        routes_jobs,
        routes_plan,
        routes_rig,
        routes_day,
        routes_shelf,
        routes_run,
        routes_seal,
        routes_hold,
        routes_touch,
        routes_why,
        routes_alarms,
        routes_breaks,
        routes_prove,
        routes_charge,
        routes_record,
        routes_history,
        routes_kit,
        routes_practice,
        routes_notes,
        routes_people,
    ):
        app.include_router(module.router, prefix="/api")
    _serve_front(app)
    return app


async def _resume(hub: Hub) -> None:
    def find() -> list[tuple[str, object, object, object]]:
        return hub.resumable()  # type: ignore[return-value]

    for key, job, touches, last in await asyncio.to_thread(find):
        await hub.attach(key, job, touches, last, 1)  # type: ignore[arg-type]


def _serve_front(app: FastAPI) -> None:
    if not (STATIC / "index.html").exists():
        return
    app.mount("/assets", StaticFiles(directory=STATIC / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/"):
            return errors.problem(404, "Not found", f"there is no /{path[:80]}")
        name = STATIC / path
        if path and "/" not in path and name.suffix in ROOT_FILES and name.is_file():
            return FileResponse(name, headers={"Cache-Control": "no-cache"})
        return FileResponse(STATIC / "index.html", headers={"Cache-Control": "no-cache"})
