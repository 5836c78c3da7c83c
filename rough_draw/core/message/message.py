"""A message: which sentence, and the values in it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeAlias

from rough_draw.core.message.figure import Figure


@dataclass(frozen=True, slots=True)
class Message:
    """A sentence by its ``key``, with its ``values`` by name.

    A value is a figure, another message, a count, or words that are a person's own: a name, a note.
    """

    key: str
    values: tuple[tuple[str, Value], ...] = ()

    def __getitem__(self, name: str) -> Value:
        """The value of this name; raises KeyError."""
        return dict(self.values)[name]


Value: TypeAlias = "Figure | Message | int | str"


def message(key: str, /, **values: Value) -> Message:
    """A message.

    >>> message("held-for", time=Figure("duration", 600.0))["time"].value
    600.0
    """
    return Message(key, tuple(values.items()))


def all_of(told: Sequence[Message]) -> Message | None:
    """Several whole sentences as one; None of none."""
    whole: Message | None = None
    for one in told:
        whole = one if whole is None else message("one-after-another", one=whole, two=one)
    return whole
