"""The built front end, served beside the API: its page for every path, its files as they were packed when built."""

from __future__ import annotations

from pathlib import Path

from fastapi import FastAPI, Response
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from starlette.datastructures import Headers
from starlette.types import Scope

from rough_draw.api import errors
from rough_draw.core.message import message
from rough_draw.text import say

STATIC = Path(__file__).parent / "static"
ROOT_FILES = (".svg", ".png", ".ico", ".webmanifest", ".js")
"""Endings of what is served beside the page: its icons, its manifest, the worker that keeps it on the device."""
PACKED = {"br": ".br", "gzip": ".gz"}
"""How a file may lie there packed, the smallest first, and the ending it has then."""


def _packed(file: Path, accept: str) -> tuple[Path, dict[str, str]]:
    """The smallest form of ``file`` that a browser which says ``accept`` can read, and what has to be said of it."""
    asked = (x.replace(" ", "").partition(";") for x in accept.lower().split(","))
    taken = {name for name, _, weight in asked if weight not in ("q=0", "q=0.0", "q=0.00", "q=0.000")}
    for way, ending in PACKED.items():
        packed = file.with_name(file.name + ending)
        if way in taken and packed.is_file():
            return packed, {"Content-Encoding": way, "Vary": "Accept-Encoding"}
    return file, {}


class PackedFiles(StaticFiles):
    """Files whose names change with what is in them, each in the smallest form that the browser reads."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        """The file; raises HTTPException 404 where there is none."""
        found = await super().get_response(path, scope)
        if not isinstance(found, FileResponse):
            return found
        accept = Headers(scope=scope).get("accept-encoding", "")
        file, said = _packed(Path(found.path), accept)
        return FileResponse(file, headers=said, media_type=found.media_type) if said else found


def serve(app: FastAPI) -> None:
    """Serve it, where it was built."""
    if not (STATIC / "index.html").exists():
        return
    app.mount("/assets", PackedFiles(directory=STATIC / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/"):
            return errors.problem(404, say(message("problem-not-found")), say(message("no-page", path=path[:80])))
        name = STATIC / path
        if path and "/" not in path and name.suffix in ROOT_FILES and name.is_file():
            return FileResponse(name, headers={"Cache-Control": "no-cache"})
        index = STATIC / "index.html"
        # An update puts newer files in their place while this server runs.
        if not index.is_file():
            return errors.problem(503, say(message("problem-building")), say(message("page-replaced")))
        return FileResponse(index, headers={"Cache-Control": "no-cache"})
