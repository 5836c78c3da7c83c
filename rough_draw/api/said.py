"""A field of an answer that is said to whoever asks: filled with a message of the core, sent as its sentence."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BeforeValidator

from rough_draw.core.message import Figure, Message
from rough_draw.text import say


def _said(value: Any) -> Any:
    return say(value) if isinstance(value, Message | Figure) else value


Said = Annotated[str, BeforeValidator(_said)]
