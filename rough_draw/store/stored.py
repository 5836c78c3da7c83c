"""Values that the store keeps as JSON beside the jobs: each kind is written and read through one model.

A row that its model cannot read, of a database that other hands were in, takes nothing else down: it is as one that was
never filled, and stays in the file as it is.
"""

from __future__ import annotations

import logging
from collections.abc import Callable
from typing import Any, Generic, TypeVar

from pydantic import JsonValue, TypeAdapter, ValidationError
from pydantic_core import to_json

from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.sheet.settings import Settings

T = TypeVar("T")
log = logging.getLogger(__name__)


class Stored(Generic[T]):
    """A kind of value. ``of``: its type, as pydantic takes it; ``blank`` makes what stands for an unreadable one."""

    def __init__(self, of: Any, blank: Callable[[], T]) -> None:
        self._model: TypeAdapter[T] = TypeAdapter(of)
        self._blank = blank

    def write(self, value: T) -> str:
        """A value as text. Raises ValidationError for what would not be read again."""
        text = to_json(value).decode()
        self._model.validate_json(text)
        return text

    def read(self, text: str | None) -> T:
        """A value from its text; a blank one where there is none, or none that can be read."""
        try:
            return self._model.validate_json(text) if text else self._blank()
        except ValidationError as e:
            log.warning("a stored value is passed over: %s", e.errors(include_input=False)[0]["msg"])
            return self._blank()


Deeds = list[tuple[float, str, RigChoice | None]]
VALUES: Stored[dict[str, Any]] = Stored(dict[str, JsonValue], dict)
"""Of an event on a part of the kit, of a template."""
KIT: Stored[dict[str, Any]] = Stored(dict[str, str | int | float | bool | None], dict)
"""Of a part of the kit."""
WORDS: Stored[dict[str, str]] = Stored(dict[str, str], dict)
"""Of a person's units, of the firm's keys."""
MARKS: Stored[dict[str, float | None]] = Stored(dict[str, float | None], dict)
NUMBERS: Stored[list[int]] = Stored(list[int], list)
DEEDS: Stored[Deeds] = Stored(Deeds, list)
SETTINGS: Stored[Settings] = Stored(Settings, Settings)
SCENARIO: Stored[Scenario | None] = Stored(Scenario | None, lambda: None)
