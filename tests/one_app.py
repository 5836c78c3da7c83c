"""One application for all tests of a worker, on whichever database a test has.

To describe the routes and to make the tables of an empty file costs more than most tests do: both are done once.
"""

from __future__ import annotations

import functools
import shutil
import tempfile
from pathlib import Path

from fastapi import FastAPI

from rough_draw.api.access import Checks, Tries
from rough_draw.api.app import create_app
from rough_draw.api.preparing import Preparing
from rough_draw.store.database import open_database


@functools.cache
def _empty() -> Path:
    path = Path(tempfile.mkdtemp()) / "empty.sqlite3"
    open_database(path)
    return path


def fresh(path: Path) -> Path:
    """Where nothing is at ``path``, a database in which nothing is yet."""
    if not path.exists():
        path.parent.mkdir(parents=True, exist_ok=True)
        shutil.copy(_empty(), path)
    return path


@functools.cache
def _app() -> FastAPI:
    return create_app(_empty(), warm=False)


def app_on(path: Path) -> FastAPI:
    """The application as ``create_app`` makes it, nothing warmed, on the database at ``path``."""
    app = _app()
    app.state.preparing, app.state.tries, app.state.checks = Preparing(()), Tries(), Checks()
    open_database(fresh(path))
    return app
