"""Say a message to somebody."""

from __future__ import annotations

from collections.abc import Iterable

from rough_draw.core.message import Figure, Message, Name, Telling, Value, unpack
from rough_draw.text.bundle import Untold, format_message
from rough_draw.text.figures import written
from rough_draw.text.reader import Reader, reader


def say(told: Message | Figure | str, who: Reader | None = None) -> str:
    """The sentence, to ``who`` or to whoever reads now; words of a person stay as they are. Raises Untold."""
    who = who or reader()
    if isinstance(told, str):
        return told
    if isinstance(told, Figure):
        return written(told, who)
    return format_message(told.key, {name: _value(v, who) for name, v in told.values}, who.locale)


def _value(value: Value, who: Reader) -> str | int:
    return value if isinstance(value, int) else say(value, who)


def say_all(told: Iterable[Message | Figure | str], who: Reader | None = None) -> list[str]:
    """Several sentences."""
    return [say(t, who) for t in told]


def told(e: Exception, who: Reader | None = None) -> str:
    """What went wrong, said to somebody; an error of elsewhere in its own words."""
    return say(e.told, who) if isinstance(e, Telling) else str(e)


def kept(text: str) -> Name:
    """What was stored by `pack`: the message, if it can still be said; else the text as it stands."""
    told = unpack(text)
    try:
        say(told)
    except Untold:
        return text
    return told
