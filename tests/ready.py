"""What a server of a test needs, loaded once and then forked as often as one is started anew.

The modules are those that a server from the command line loads, and the engine's compiled code with them.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np
import uvicorn
from uvicorn.lifespan import on as _on  # noqa: F401
from uvicorn.protocols.http import h11_impl as _http  # noqa: F401

from rough_draw.api.app import create_app
from rough_draw.cli.main import main
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.physics.quantity import exact
from rough_draw.core.planning.plan import plan_job
from rough_draw.core.sheet.job import Job
from rough_draw.store.database import open_database

APP = create_app(Path(tempfile.mkdtemp()) / "none.sqlite3", warm=False)
# Describing every route builds every route, which else the first requests would wait for.
APP.openapi()
plan_job(Job(), size=2)
judge_hold(np.linspace(0.0, 600.0, 61), np.full(61, 30.0), exact(8e-3, "m³", "made up"), 293.15)


def command(argv: list[str]) -> None:
    """What the command line does with these words, whose last is a server that never comes back."""
    raise SystemExit(main(argv))


def bare(path: str, port: int) -> None:
    """The API alone on the database at ``path``, up within a tenth of a second: for being killed often."""
    open_database(path)
    uvicorn.run(APP, host="127.0.0.1", port=port, log_level="critical")
