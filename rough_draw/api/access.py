"""Doors: who may ask, from where, with how large a body. One middleware before everything else.

On the loopback there is no sign-in; what is kept out is another site in the same browser (by Origin, fetch site and
Host). Beyond the loopback nothing but the sign-in is answered without a session.
"""

from __future__ import annotations

import asyncio
import contextlib
import ipaddress
import time
from collections.abc import Awaitable, Callable, MutableMapping
from concurrent.futures import ThreadPoolExecutor
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
    "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; script-src 'self' 'wasm-unsafe-eval'; "
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
    """Sign-ins that failed lately, by where they came from: after a few, each has to wait longer.

    A try is counted before it is looked at, so that any number at once are as many as one after the other; what one
    source does keeps nobody else out.
    """

    free: int = 5
    longest: float = 300.0
    most: int = 5000
    _failed: dict[str, tuple[int, float]] = field(default_factory=dict)

    def begin(self, who: str) -> float:
        """Seconds until ``who`` may try again; 0 where it may now: the try then counts as failed until it passed."""
        name = source_of(who)
        count, last = self._failed.get(name, (0, 0.0))
        now = time.monotonic()
        if count >= self.free:
            left = last + min(self.longest, 2.0 ** (count - self.free + 1)) - now
            if left > 0.0:
                return left
        self._failed.pop(name, None)
        self._failed[name] = (count + 1, now)
        while len(self._failed) > self.most:
            del self._failed[next(iter(self._failed))]
        return 0.0

    def passed(self, who: str) -> None:
        """Somebody came in: what went before is forgotten."""
        self._failed.pop(source_of(who), None)


class Busy(Exception):
    """More tries wait to be looked at than will be."""


class Checks:
    """Passphrases looked at, two at a time in threads of their own: a flood of tries holds up nothing else."""

    MOST, BUSY_S = 32, 10.0

    def __init__(self) -> None:
        self._pool = ThreadPoolExecutor(2, "sign-in")
        self._waiting = 0

    async def right(self, passphrase: str) -> bool:
        """Whether it is the one that was set. Raises Busy."""
        if self._waiting >= self.MOST:
            raise Busy
        self._waiting += 1
        try:
            return await asyncio.get_running_loop().run_in_executor(self._pool, store.right, passphrase)
        finally:
            self._waiting -= 1


def source_of(who: str) -> str:
    """What counts as one source: an address, of the newer kind the network that one house has."""
    try:
        address = ipaddress.ip_address(who.partition("%")[0])
    except ValueError:
        return who
    if isinstance(address, ipaddress.IPv6Address):
        if address.ipv4_mapped is not None:
            return str(address.ipv4_mapped)
        return str(ipaddress.ip_network((address, 64), strict=False))
    return str(address)


def most_of(path: str) -> int:
    """The largest body an address takes, bytes."""
    if path == "/api/restore":
        return BACKUP
    return FILES if path.endswith(UPLOADS) else SMALL


def name_of(host: str) -> str:
    """A Host header without its port; empty for what is none."""
    try:
        return (urlsplit(f"//{host}").hostname or "").lower()
    except ValueError:
        return ""


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
    try:
        return origin is None or urlsplit(origin).netloc.lower() == host.lower()
    except ValueError:
        return False
