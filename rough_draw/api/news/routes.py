"""The stream of what has changed, for a whole browser: its tabs share one."""

from __future__ import annotations

import json
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Query
from sse_starlette import EventSourceResponse, ServerSentEvent

from rough_draw.api.deps import HubDep

router = APIRouter(tags=["news"])
MOST_WATCHED = 32


@router.get("/news", response_class=EventSourceResponse)
async def news(
    hub: HubDep, watch: Annotated[str, Query(pattern=r"^([a-z0-9-]{1,40}(,[a-z0-9-]{1,40})*)?$", max_length=2000)] = ""
) -> EventSourceResponse:
    """Server-sent events: what has changed anywhere, and the readings of the jobs in ``watch`` as they are stored.

    Messages are JSON: ``hello``; ``changed`` with ``jobs`` and ``groups``, each with the page ``by`` which it was;
    ``read``: jobs with new readings; ``readings`` of a watched job; ``reload`` where something was passed over.
    """
    keys = [k for k in watch.split(",") if k][:MOST_WATCHED]

    async def events() -> AsyncIterator[ServerSentEvent]:
        async for heard in hub.listeners.listen(keys, everything=True):
            yield ServerSentEvent(data=json.dumps(heard, separators=(",", ":")))

    return EventSourceResponse(events(), ping=15)
