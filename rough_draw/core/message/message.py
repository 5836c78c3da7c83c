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

    def __str__(self) -> str:
        """A message has no words of its own: whoever wants them says it to somebody. Raises TypeError."""
        raise TypeError(f"{self.key} is not a text: say it")

    def __getitem__(self, name: str) -> Value:
        """The value of this name; raises KeyError."""
        return dict(self.values)[name]


Value: TypeAlias = "Figure | Message | int | str"
Name: TypeAlias = "Message | str"
"""What something is called: a person's own words for it, or what it is."""


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


def one_of(names: Sequence[Name]) -> Name:
    """Several names of which one is meant: a, b or c."""
    return _row(names, "name-or-last")


def listed(names: Sequence[Name]) -> Name:
    """Several names as one: a, b and c; no words of none.

    >>> listed(["a"]), listed(["a", "b", "c"])["last"]
    ('a', 'c')
    """
    return _row(names, "name-and-last")


def _row(names: Sequence[Name], end: str) -> Name:
    if len(names) < 2:
        return names[0] if names else ""
    before = names[0]
    for one in names[1:-1]:
        before = message("name-and-more", before=before, one=one)
    return message(end, before=before, last=names[-1])
