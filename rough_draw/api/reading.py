"""Who reads the answer to a request: looked up once, and only where a sentence is made."""

from __future__ import annotations

from starlette.requests import Request
from starlette.types import ASGIApp, Receive, Scope, Send

from rough_draw.api.people.browser import settings_here
from rough_draw.store import shelf
from rough_draw.text import Reader, reader_of, reading_as


class Readers:
    """The middleware: while a request is answered, sentences are said in the units of whoever is at that browser."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request = Request(scope)

        def found() -> Reader:
            return reader_of(settings_here(request, shelf.settings()))

        with reading_as(found):
            await self.app(scope, receive, send)
