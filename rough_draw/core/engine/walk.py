"""The one walk over anything that is joined: nodes by tubes, rooms by gates, parts by what they stand on."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable
from typing import TypeVar

T = TypeVar("T", bound=Hashable)


def reached(start: T, near: Callable[[T], Iterable[T]]) -> set[T]:
    """Everything that can be come to from ``start``, itself included.

    Parameters
    ----------
    start : T
        Where the walk begins.
    near : callable
        What lies one step from a place. Asked once a place; steps may be one-way, and rings do no harm.

    Examples
    --------
    >>> ways = {"pump": ["hose"], "hose": ["pump", "tool"], "tool": ["hose"], "gauge": []}
    >>> sorted(reached("pump", ways.__getitem__))
    ['hose', 'pump', 'tool']
    """
    found = {start}
    todo = [start]
    while todo:
        for far in near(todo.pop()):
            if far not in found:
                found.add(far)
                todo.append(far)
    return found
