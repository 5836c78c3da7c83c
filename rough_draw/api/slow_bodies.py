"""A body that does not come does not hold its connection: each piece of it has its time."""

from __future__ import annotations

import asyncio
from collections.abc import MutableMapping
from typing import Any

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from rough_draw.api.errors import told_problem

PIECE_S = 20.0
"""Longest wait for the next piece of a body, s: a phone at the edge of its signal sends a few kB in that."""
WITHOUT = ("GET", "HEAD", "OPTIONS")


class _TooSlow(Exception):
    """The next piece of the body did not come."""


class SlowBodies:
    """The middleware: 408 where a body stops coming, if nothing has been answered yet."""

    def __init__(self, app: ASGIApp, piece_s: float = PIECE_S) -> None:
        self.app = app
        self.piece_s = piece_s

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] in WITHOUT:
            await self.app(scope, receive, send)
            return
        whole = begun = False

        async def piece() -> Message:
            nonlocal whole
            if whole:
                # What comes after the body is that somebody went.
                return await receive()
            try:
                found = await asyncio.wait_for(receive(), self.piece_s)
            except TimeoutError:
                raise _TooSlow from None
            whole = found["type"] != "http.request" or not found.get("more_body", False)
            return found

        async def answer(message: MutableMapping[str, Any]) -> None:
            nonlocal begun
            begun = True
            await send(message)

        try:
            await self.app(scope, piece, answer)
        except _TooSlow:
            if not begun:
                await told_problem(408, "problem-too-slow", seconds=round(self.piece_s))(scope, receive, send)
