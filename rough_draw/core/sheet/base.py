"""Base of every part of the job document: unknown fields refused, values checked, nothing changed in place."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field
from pydantic_core import PydanticCustomError

Text = Annotated[str, Field(max_length=200)]
Long = Annotated[str, Field(max_length=4000)]
Slug = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]


class Sheet(BaseModel):
    """Base of every part of the document: unknown fields are refused, values are checked on change."""

    model_config = ConfigDict(extra="forbid", frozen=True)


def fault(place: str, message: str) -> PydanticCustomError:
    """A fault at a named part of the document (``rig.parts.hose-2``), for validators to raise."""
    return PydanticCustomError("fault", "{message}", {"place": place, "message": message})


def unique(ids: list[str], place: str, what: str) -> None:
    """Raise a fault where two things carry the same id."""
    seen: set[str] = set()
    for name in ids:
        if name in seen:
            raise fault(f"{place}.{name}", f"two {what} are called '{name}'; give each its own id")
        seen.add(name)
