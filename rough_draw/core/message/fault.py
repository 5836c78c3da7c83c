"""Something is wrong, and a message says what."""

from __future__ import annotations

from rough_draw.core.message.message import Name


class Fault(ValueError):
    """What is wrong as a message, or in a person's own words; ``place`` says where on the sheet."""

    def __init__(self, told: Name, place: str = "") -> None:
        super().__init__(told if isinstance(told, str) else told.key)
        self.told = told
        self.place = place
