"""What is answered without TLS: where the application is, how a phone comes to trust it, and the authority to trust."""

from __future__ import annotations

import html
from collections.abc import Awaitable, Callable, MutableMapping
from pathlib import Path
from typing import Any

from rough_draw.cli.lan.qr import qr_svg

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]

AUTHORITY = "/authority.crt"
PAGE = """<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Rough Draw on this network</title>
<style>
body {{ font: 18px/1.5 system-ui, sans-serif; margin: 0 auto; max-width: 40rem; padding: 1rem }}
body {{ background: #f1f3e6; color: #16212b }}
a.go {{ display: inline-block; padding: .8rem 1.2rem; border: 2px solid #16212b; border-radius: 5px }}
a.go {{ color: inherit; font-weight: 700 }}
svg {{ width: 12rem; height: 12rem; background: #fff; padding: .5rem }}
code {{ overflow-wrap: anywhere }}
</style>
<h1>Rough Draw on this network</h1>
<p>The application is at <a href="{address}"><code>{address}</code></a>. To use its camera, to keep the screen
awake and to go on without signal, this device has to trust it once.</p>
{qr}
{trust}
<p><a class="go" href="{address}">Open Rough Draw</a></p>
</html>
"""
TRUST = """<h2>1. Take the authority</h2>
<p><a class="go" href="{authority}" download="rough-draw-authority.crt">Download it</a></p>
<h2>2. Trust it</h2>
<ul>
<li><b>Phones that take certificates by their settings</b>: Settings, search for “CA certificate”, install it from the
downloaded file, and confirm. A screen lock has to be set.</li>
<li><b>Phones and tablets that take profiles</b>: after the download open Settings, “Profile downloaded”, Install. Then
General, About, Certificate Trust Settings, and switch it on for Rough Draw.</li>
<li><b>Computers</b>: open the file and install it among the trusted root certification authorities of the machine, or
set it to “Always trust”.</li>
<li><b>Browsers with a list of their own</b>: import it in the browser's settings under Certificates, Authorities.</li>
</ul>
<p>Compare before you trust it: its SHA-256 is the one that the server's terminal shows.</p>
<p><code>{fingerprint}</code></p>
<p>Whoever has the server's key could pass for other sites on a device that trusts this authority: keep that machine
as you keep your keys, and remove the authority from a device that leaves the crew.</p>"""


class HelpPage:
    """A site of one page and one file; everything else is refused, and sent to where it is answered."""

    def __init__(self, address: str, authority: Path | None, fingerprint: str) -> None:
        trust = ""
        if authority is not None:
            trust = TRUST.format(authority=AUTHORITY, fingerprint=html.escape(fingerprint))
        self.page = PAGE.format(address=html.escape(address), qr=qr_svg(address), trust=trust).encode()
        self.authority = authority

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            return
        path, reads = scope["path"], scope["method"] in ("GET", "HEAD")
        if reads and path == AUTHORITY and self.authority is not None:
            await _answer(send, 200, "application/x-x509-ca-cert", self.authority.read_bytes())
        elif reads and path in ("/", "/index.html"):
            await _answer(send, 200, "text/html; charset=utf-8", self.page)
        else:
            # RFC 9110, 15.5.22: only over TLS.
            await _answer(send, 426, "text/html; charset=utf-8", self.page, ((b"upgrade", b"TLS/1.2"),))


async def _answer(send: Send, status: int, kind: str, body: bytes, more: tuple[tuple[bytes, bytes], ...] = ()) -> None:
    headers = [
        (b"content-type", kind.encode()),
        (b"content-length", str(len(body)).encode()),
        (b"cache-control", b"no-store"),
        *more,
    ]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
