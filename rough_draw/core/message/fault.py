"""Something is wrong, and a message says what."""

from __future__ import annotations

from rough_draw.core.message.message import Name


class Telling(Exception):
    """Something went wrong that a message tells, or a person's own words. Its text is the message's key."""

    def __init__(self, told: Name) -> None:
        super().__init__(told if isinstance(told, str) else told.key)
        self.told = told


class Fault(Telling, ValueError):
    """What is wrong with what was given; ``place`` says where on the sheet."""

    def __init__(self, told: Name, place: str = "") -> None:
        super().__init__(told)
        self.place = place
