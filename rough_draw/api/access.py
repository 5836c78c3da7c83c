"""Doors: who may ask, from where, with how large a body. One middleware before everything else.

On the loopback there is no sign-in; what is kept out is another site in the same browser (by Origin, fetch site and
Host). Beyond the loopback nothing but the sign-in is answered without a session.
"""

from __future__ import annotations

import asyncio
import contextlib
import time
from collections.abc import Awaitable, Callable, MutableMapping
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import cookie_parser

from rough_draw.api.errors import told_problem
from rough_draw.store import access as store

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]

COOKIE = "rough_draw_session"
CSRF = "x-csrf-token"
LOOPBACK = frozenset({"127.0.0.1", "localhost", "::1"})
SAFE = ("GET", "HEAD", "OPTIONS")
OPEN = ("/api/session", "/api/health")
"""What is answered without a session: whether one is needed, and how to begin one. Neither holds anything."""

SMALL = 2 * 1024 * 1024
FILES = 64 * 1024 * 1024
BACKUP = 512 * 1024 * 1024
UPLOADS = ("/import", "/rig-file", "/job-files", "/scenario-files", "/hold", "/photos", "/settings/logo")
"""Endings of addresses that take a file; every other body is a small document."""

POLICY = (
    "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; script-src 'self'; "
    "connect-src 'self'; font-src 'self'; worker-src 'self'; manifest-src 'self'; object-src 'none'; base-uri 'none'; "
    "form-action 'self'; frame-ancestors 'none'"
)
HEADERS = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "camera=(self), microphone=(), geolocation=(), payment=(), usb=()",
}


@dataclass(frozen=True)
class Door:
    """``locked``: a session is needed. ``hosts``: names this server answers to; empty for any."""

    locked: bool = False
    hosts: frozenset[str] = frozenset()


@dataclass
class Tries:
    """Sign-ins that failed lately, by where they came from and in all: after a few, each has to wait longer."""

    free: int = 5
    longest: float = 300.0
    _failed: dict[str, tuple[int, float]] = field(default_factory=dict)

    def wait(self, who: str) -> float:
        """Seconds until ``who`` may try again; 0 at once."""
        return max(self._left(who, self.free), self._left("", 8 * self.free))

    def _left(self, who: str, free: int) -> float:
        count, last = self._failed.get(who, (0, 0.0))
        if count < free:
            return 0.0
        pause = min(self.longest, 2.0 ** (count - free + 1))
        return max(0.0, last + pause - time.monotonic())

    def failed(self, who: str) -> None:
        """Note a wrong passphrase."""
        for name in (who, ""):
            count, _ = self._failed.get(name, (0, 0.0))
            self._failed[name] = (count + 1, time.monotonic())
        if len(self._failed) > 5000:
            self._failed = {"": self._failed[""]}

    def passed(self, who: str) -> None:
        """Somebody came in: what went before is forgotten."""
        self._failed.pop(who, None)
        self._failed.pop("", None)


def most_of(path: str) -> int:
    """The largest body an address takes, bytes."""
    if path == "/api/restore":
        return BACKUP
    return FILES if path.endswith(UPLOADS) else SMALL


def name_of(host: str) -> str:
    """A Host header without its port."""
    return (urlsplit(f"//{host}").hostname or "").lower()


class TooLarge(Exception):
    """More came than may."""


class Doors:
    """The middleware: host, origin, session, CSRF, body size, headers."""

    def __init__(self, app: Callable[[Scope, Receive, Send], Awaitable[None]], door: Door) -> None:
        self.app = app
        self.door = door

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        path, method = str(scope["path"]), str(scope["method"])
        answered = over = False

        async def sent(message: MutableMapping[str, Any]) -> None:
            nonlocal answered
            if over and not answered:
                # Whatever was made of a body cut short is not the answer.
                return
            if message["type"] == "http.response.start":
                answered = True
                out = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    out[name] = value
                if path.startswith("/api/"):
                    out.setdefault("Cache-Control", "no-store")
                elif path.startswith("/assets/") and message["status"] == 200:
                    # Their names change with what is in them, so a browser need never ask again.
                    out.setdefault("Cache-Control", "public, max-age=31536000, immutable")
            await send(message)

        refusal = await self._refused(headers, path, method)
        if refusal is not None:
            await refusal(scope, receive, sent)
            return
        most, taken = most_of(path), 0
        large = told_problem(413, "door-too-large", most=most // 1048576)
        length = headers.get("content-length", "0")
        if length.isdigit() and int(length) > most:
            await large(scope, receive, sent)
            return

        async def counted() -> MutableMapping[str, Any]:
            nonlocal taken, over
            message = await receive()
            if message["type"] == "http.request":
                taken += len(message.get("body", b""))
                if taken > most:
                    over = True
                    raise TooLarge
            return message

        with contextlib.suppress(TooLarge):
            await self.app(scope, counted, sent)
        if over and not answered:
            over = False
            await large(scope, receive, sent)

    async def _refused(self, headers: Headers, path: str, method: str) -> Any:
        host = headers.get("host", "")
        if self.door.hosts and name_of(host) not in self.door.hosts:
            return told_problem(403, "door-not-here", host=name_of(host)[:80])
        if method not in SAFE and not _same_site(headers, host):
            return told_problem(403, "door-elsewhere")
        if not self.door.locked or not path.startswith("/api/"):
            return None
        if path in OPEN:
            return None
        token = cookie_parser(headers.get("cookie", "")).get(COOKIE, "")
        if not token or await asyncio.to_thread(store.find, token) is None:
            return told_problem(401, "door-sign-in")
        if method not in SAFE and headers.get(CSRF, "") != store.csrf_of(token):
            return told_problem(403, "door-out-of-date")
        return None


def _same_site(headers: Headers, host: str) -> bool:
    """Whether a change is asked for by our own page, or by something that is no browser."""
    if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
        return False
    origin = headers.get("origin")
    return origin is None or urlsplit(origin).netloc.lower() == host.lower()
