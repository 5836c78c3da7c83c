"""The application: one FastAPI app that serves the API and the built front end, and nothing from elsewhere."""

from __future__ import annotations

import asyncio
import gc
import logging
import sys
import threading
from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from starlette.middleware.gzip import GZipMiddleware

from rough_draw import __version__
from rough_draw.api import apart, errors, front, runs
from rough_draw.api.access import Checks, Door, Doors, Tries
from rough_draw.api.alarms import routes as alarms_routes
from rough_draw.api.alarms.watch import Alarms
from rough_draw.api.beside import end_all
from rough_draw.api.charge import routes as charge_routes
from rough_draw.api.day import routes as day_routes
from rough_draw.api.devices.hub import Hub
from rough_draw.api.diagnosis import routes as diagnosis_routes
from rough_draw.api.each_job import each_job
from rough_draw.api.hold import holds
from rough_draw.api.hold import routes as hold_routes
from rough_draw.api.jobs import routes as jobs_routes
from rough_draw.api.kit import routes as kit_routes
from rough_draw.api.news import routes as news_routes
from rough_draw.api.news.middleware import News
from rough_draw.api.news.watcher import Watcher
from rough_draw.api.notes import routes as notes_routes
from rough_draw.api.people import routes as people_routes
from rough_draw.api.plan import break_routes, rig_routes
from rough_draw.api.plan import routes as plan_routes
from rough_draw.api.practice import exam_routes, race_routes
from rough_draw.api.practice import routes as practice_routes
from rough_draw.api.preparing import Preparation, Preparing
from rough_draw.api.prove import routes as prove_routes
from rough_draw.api.reading import Readers
from rough_draw.api.record import history_routes, photo_routes, seal_routes
from rough_draw.api.record import routes as record_routes
from rough_draw.api.run import fits, step_routes
from rough_draw.api.run import routes as run_routes
from rough_draw.api.settings import routes as settings_routes
from rough_draw.api.slow_bodies import SlowBodies
from rough_draw.api.unchanged import Unchanged
from rough_draw.store import jobs
from rough_draw.store.database import open_database
from rough_draw.text.bundle import FIRST, bundles

log = logging.getLogger("rough_draw")
FEATURES = (
    jobs_routes,
    plan_routes,
    rig_routes,
    day_routes,
    settings_routes,
    run_routes,
    seal_routes,
    hold_routes,
    step_routes,
    diagnosis_routes,
    alarms_routes,
    news_routes,
    break_routes,
    prove_routes,
    charge_routes,
    record_routes,
    photo_routes,
    history_routes,
    kit_routes,
    exam_routes,
    race_routes,
    practice_routes,
    notes_routes,
    people_routes,
)
"""In the order in which their paths are tried."""

WARMING = "warming"
WARM_END_S = 5.0
"""How long a server that is stopped waits for what it still works out for nobody yet, s."""
TURN_S = 0.0005
"""How long a thread that works something out goes on while others wait for their turn, s. Whoever answers waits for one
after each of its questions to the file; by the interpreter's own five milliseconds that came to seconds.
"""


def _warm(hub: Hub, ended: threading.Event, alone: bool) -> None:
    """Load the compiled engine in the background, so that the first plan need not wait for it.

    Leaves off when the server has ended: another file may be open by then.
    """
    from rough_draw.core.planning.plan import plan_job
    from rough_draw.core.sheet.job import Job

    plan_job(Job(), size=2)

    def work_out(stored: jobs.StoredJob) -> None:
        if ended.is_set():
            return
        run = runs.view_of(stored)
        if run.series and not run.job.closing.signed_by:
            runs.plan_for(run.job)
            holds.judge(run)
            hub.listeners.changed_from_thread(job=stored.key)

    if not ended.is_set():
        each_job(work_out)
    if alone and not ended.is_set():
        _lay_by()


def _lay_by() -> None:
    """What is loaded by now stays: a collection of garbage that went through all of it each time would stop every
    answer for a quarter of a second, some times a minute.
    """
    gc.collect()
    gc.freeze()


def create_app(
    path: str | Path,
    warm: bool = True,
    door: Door | None = None,
    before: Sequence[Preparation] = (),
    alone: bool = False,
) -> FastAPI:
    """The application on the database at ``path``; ``door`` says who may come in (anybody on this machine, if None).

    ``before``: what is prepared beside it, while it answers already. ``alone``: the process is this server's
    alone, and is set up to answer many: live fits are reckoned in another, and collections of garbage are short.
    """
    open_database(path)
    if alone:
        fits.work_apart()
        sys.setswitchinterval(TURN_S)
    # Read before the first request asks for a sentence.
    bundles(FIRST)

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        hub = Hub()
        await hub.start()
        app.state.hub = hub
        app.state.alarms = Alarms()
        ended = threading.Event()
        # Nobody who stops the server waits long for it.
        warming = threading.Thread(target=_warm, args=(hub, ended, alone), name=WARMING, daemon=True)
        beside = [
            asyncio.create_task(_prepare(app.state.preparing, hub, warming if warm else None)),
            asyncio.create_task(Watcher(hub, app.state.alarms).run()),
        ]
        yield
        ended.set()
        for task in beside:
            task.cancel()
        await asyncio.gather(*beside, return_exceptions=True)
        await hub.stop()
        end_all()
        apart.end_all()
        if warming.is_alive():
            # A thread that is cut off within compiled code can take the process with it, past every word of ours.
            await asyncio.to_thread(warming.join, WARM_END_S)

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
    app.state.preparing = Preparing(before)
    app.state.tries = Tries()
    app.state.checks = Checks()
    app.add_middleware(SlowBodies)
    app.add_middleware(Readers)
    app.add_middleware(News)
    app.add_middleware(Unchanged)
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=5)
    app.add_middleware(Doors, door=app.state.door)
    for module in FEATURES:
        app.include_router(module.router, prefix="/api")
    front.serve(app)
    return app


async def _prepare(preparing: Preparing, hub: Hub, warming: threading.Thread | None) -> None:
    """Prepare what is to be, then read again the gauges that were read before, and load the engine (if it is to be)."""
    if preparing.said() is not None:
        # A thread of its own: nobody who stops the server waits for it.
        threading.Thread(target=preparing.run, daemon=True).start()
        while preparing.said() is not None:
            await asyncio.sleep(0.2)
    if warming is not None:
        warming.start()
    await _resume(hub)


async def _resume(hub: Hub) -> None:
    for key, job, touches, last in await asyncio.to_thread(hub.resumable):
        try:
            async with hub.lock(key):
                await hub.resume(key, job, touches, last)
        except Exception:
            # One job that cannot be worked out keeps no other from being read.
            log.exception("the gauge of %s is not read again", key)
