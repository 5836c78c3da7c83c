"""What the core said, by its keys: tests of the core check codes and values, not sentences."""

from __future__ import annotations

from collections.abc import Iterable

from rough_draw.core.message import Figure, Message, Name


def keys(told: Name | Iterable[Name] | None) -> list[str]:
    """Keys of messages and of all that is in them, in their order; words of a person are passed over."""
    if told is None or isinstance(told, str):
        return []
    if isinstance(told, Message):
        return [told.key, *(k for _, v in told.values if isinstance(v, Message) for k in keys(v))]
    return [k for one in told for k in keys(one)]


def plain(told: Message, *names: str) -> dict[str, object]:
    """Values of a message by name: figures as SI numbers, to six digits; the rest as it is."""
    at = dict(told.values)
    return {n: float(f"{v.value:.6g}") if isinstance(v, Figure) else v for n in names for v in (at[n],)}


def figures(told: Message) -> dict[str, float]:
    """Figures of a message by name, SI."""
    return {name: v.value for name, v in told.values if isinstance(v, Figure)}
