"""A message as text that can be kept: what was judged once is said to each reader in their own units later."""

from __future__ import annotations

import json
from typing import Any, get_args

from rough_draw.core.message.figure import Dimension, Figure
from rough_draw.core.message.message import Message, Name, Value, message

MARK = '{"say"'
DIMENSIONS = frozenset(get_args(Dimension))


def pack(told: Name) -> str:
    """The message as JSON; words of a person as they are."""
    if isinstance(told, str):
        # What a person typed is never taken for a message, even if it looks like one.
        if not told.startswith(MARK):
            return told
        told = message("own-words", words=told)
    return json.dumps(_packed(told), ensure_ascii=False)


def _packed(value: Value) -> Any:
    if isinstance(value, Message):
        return {"say": value.key, "with": {name: _packed(v) for name, v in value.values}}
    if isinstance(value, Figure):
        return {"of": value.dimension, "si": value.value}
    return value


def unpack(text: str) -> Name:
    """The message that was kept; any other text stays as it is.

    >>> from rough_draw.core.message.figure import duration
    >>> from rough_draw.core.message.message import message
    >>> unpack(pack(message("held", time=duration(600.0)))) == message("held", time=duration(600.0))
    True
    >>> unpack("said long ago")
    'said long ago'
    """
    if not text.startswith(MARK):
        return text
    try:
        found = _unpacked(json.loads(text))
    except (ValueError, KeyError, TypeError):
        return text
    return found if isinstance(found, Message) else text


def _unpacked(value: Any) -> Value:
    if isinstance(value, dict) and "say" in value:
        return Message(str(value["say"]), tuple((str(k), _unpacked(v)) for k, v in value["with"].items()))
    if isinstance(value, dict):
        if value["of"] not in DIMENSIONS:
            raise ValueError(value["of"])
        return Figure(value["of"], float(value["si"]))
    return value if isinstance(value, int) else str(value)
