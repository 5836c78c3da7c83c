"""Whatever a request has changed is news: one place, which no route can forget."""

from __future__ import annotations

import re
from collections.abc import MutableMapping
from typing import Any

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Receive, Scope, Send

SAFE = ("GET", "HEAD", "OPTIONS")
PAGE = "X-Page"
"""Header by which a page says who it is, so that it knows its own changes when it is told of them."""
JOB = re.compile(r"^/api/jobs/([a-z0-9-]{1,40})(?:/|$)")
GROUP = re.compile(r"^/api/([a-z-]{1,40})(?:/|$)")
PAGE_NAME = re.compile(r"^[A-Za-z0-9-]{1,40}$")


class News:
    """The middleware: after a request that may change something has been answered well, who listens is told."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] in SAFE:
            await self.app(scope, receive, send)
            return
        status = 500
        hub = getattr(scope["app"].state, "hub", None) if "app" in scope else None

        async def sent(message: MutableMapping[str, Any]) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = int(message["status"])
                if hub is not None:
                    # Before who asked for it hears that it is done: they may look at once.
                    hub.listeners.count += 1
            await send(message)

        await self.app(scope, receive, sent)
        if status >= 400 or hub is None:
            return
        path = str(scope["path"])
        page = Headers(scope=scope).get(PAGE, "")
        by = page if PAGE_NAME.match(page) else ""
        if job := JOB.match(path):
            hub.listeners.changed(job=job[1], by=by)
        elif group := GROUP.match(path):
            hub.listeners.changed(group=group[1], by=by)
