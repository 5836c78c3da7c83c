"""What a page already has is not sent again: an answer that is what the page last heard is a 304 of a few bytes.

Nothing is kept on the device's disk for it (`no-store` stands): the page itself keeps the answer while it is open, and
says which one with `If-None-Match`.
"""

from __future__ import annotations

from collections.abc import MutableMapping
from hashlib import blake2b
from typing import Any

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Receive, Scope, Send

KIND = "application/json"
TAG_BYTES = 12


def tag_of(body: bytes) -> str:
    """The tag of an answer, weak since it may be packed on its way."""
    return f'W/"{blake2b(body, digest_size=TAG_BYTES).hexdigest()}"'


def _known(tag: str, asked: str) -> bool:
    return any(x.strip() == tag for x in asked.split(","))


class Unchanged:
    """The middleware: whole JSON answers to GET get a tag; one that the page has already is not sent."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] != "GET":
            await self.app(scope, receive, send)
            return
        asked = Headers(scope=scope).get("if-none-match", "")
        held: MutableMapping[str, Any] | None = None

        async def sent(message: MutableMapping[str, Any]) -> None:
            nonlocal held
            if message["type"] == "http.response.start":
                kind = Headers(raw=message["headers"]).get("content-type", "")
                if message["status"] == 200 and kind.startswith(KIND):
                    held = message
                    return
            elif held is not None:
                start, held = held, None
                # What comes in pieces is no answer that a page keeps.
                if not message.get("more_body", False):
                    message = _answered(start, message, asked)
                await send(start)
            await send(message)

        await self.app(scope, receive, sent)


def _answered(
    start: MutableMapping[str, Any], message: MutableMapping[str, Any], asked: str
) -> MutableMapping[str, Any]:
    """The body to send; ``start`` gets the tag, and becomes a 304 where the page has just this."""
    headers = MutableHeaders(scope=start)
    headers["ETag"] = tag = tag_of(message.get("body", b""))
    if not _known(tag, asked):
        return message
    start["status"] = 304
    for name in ("content-length", "content-type"):
        del headers[name]
    return {**message, "body": b""}
