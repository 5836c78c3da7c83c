"""The server that is killed: put together once, then forked as often as it is started anew."""

from __future__ import annotations

import tempfile
from pathlib import Path

import uvicorn

from rough_draw.api.app import create_app
from rough_draw.store.database import open_database

APP = create_app(Path(tempfile.mkdtemp()) / "none.sqlite3", warm=False)
# Describing every route builds every route, which else the first requests would wait for.
APP.openapi()


def serve(path: str, port: int) -> None:
    """Serve the database at ``path``."""
    open_database(path)
    uvicorn.run(APP, host="127.0.0.1", port=port, log_level="critical")
