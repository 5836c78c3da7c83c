"""Base of every part of the job document: unknown fields refused, values checked, nothing changed in place."""

from __future__ import annotations

from collections.abc import Collection
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from pydantic_core import ErrorDetails, PydanticCustomError

from rough_draw.core.message import Name, Value, message, pack, unpack

Text = Annotated[str, Field(max_length=200)]
Long = Annotated[str, Field(max_length=4000)]
Slug = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]


class Sheet(BaseModel):
    """Base of every part of the document: unknown fields are refused, values are checked on change."""

    model_config = ConfigDict(extra="forbid", frozen=True)


def fault(place: str, told: str, /, **values: Value) -> PydanticCustomError:
    """A fault at a named part of the document (``rig.parts.hose-2``), for validators to raise.

    ``told`` is the key of its sentence, after ``wrong-``. An empty ``place`` is the field's own.
    """
    return PydanticCustomError("fault", "{told}", {"place": place, "told": pack(message(f"wrong-{told}", **values))})


def one_of(known: Collection[str], told: str, called: str) -> AfterValidator:
    """One of a catalogue's names: any other is refused by the sentence ``told``, which calls it ``called``."""

    def check(name: str) -> str:
        if name not in known:
            raise fault("", told, **{called: name, "known": ", ".join(known)})
        return name

    return AfterValidator(check)


def told_of(error: ErrorDetails) -> Name:
    """What a fault of a validation says."""
    if error["type"] == "extra_forbidden":
        return message("wrong-no-such-field")
    context = error.get("ctx") or {}
    return unpack(str(context["told"])) if "told" in context else error["msg"].removeprefix("Value error, ")


def place_of(error: ErrorDetails) -> str:
    """Where a fault of a validation is."""
    return str((error.get("ctx") or {}).get("place") or ".".join(str(x) for x in error["loc"]))


def unique(ids: list[str], place: str, what: str) -> None:
    """Raise a fault where two things carry the same id."""
    seen: set[str] = set()
    for name in ids:
        if name in seen:
            raise fault(f"{place}.{name}", "same-id", what=message(f"wrong-what-{what}"), id=name)
        seen.add(name)
