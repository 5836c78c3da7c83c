"""A body that stops coming is given up with a problem; one that comes slowly, but comes, is taken."""

from __future__ import annotations

import asyncio
from typing import Any

import pytest

from rough_draw.api.slow_bodies import SlowBodies


async def asked(pauses: list[float], method: str = "POST") -> list[dict[str, Any]]:
    """What is sent where the pieces of a body come after these pauses, s; the application echoes their number."""
    sent: list[dict[str, Any]] = []

    async def app(scope: Any, receive: Any, send: Any) -> None:
        pieces = 0
        while True:
            found = await receive()
            pieces += 1
            if not found.get("more_body"):
                break
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": str(pieces).encode()})

    left = list(pauses)

    async def receive() -> dict[str, Any]:
        await asyncio.sleep(left.pop(0))
        return {"type": "http.request", "body": b"x", "more_body": bool(left)}

    async def send(message: Any) -> None:
        sent.append(dict(message))

    scope = {"type": "http", "method": method, "path": "/api/jobs", "headers": []}
    await SlowBodies(app, piece_s=0.2)(scope, receive, send)
    return sent


@pytest.mark.parametrize("pauses", [[0.0], [0.1] * 8, [0.0, 0.15, 0.0]])
def test_what_comes_is_taken_however_long_the_whole(pauses: list[float]) -> None:
    sent = asyncio.run(asked(pauses))
    assert sent[0]["status"] == 200
    assert sent[1]["body"] == str(len(pauses)).encode()


@pytest.mark.parametrize("pauses", [[5.0], [0.0, 5.0], [0.1, 0.1, 5.0, 0.0]])
def test_what_stops_coming_is_given_up(pauses: list[float]) -> None:
    sent = asyncio.run(asked(pauses))
    assert sent[0]["status"] == 408
    assert (b"content-type", b"application/problem+json") in sent[0]["headers"]
