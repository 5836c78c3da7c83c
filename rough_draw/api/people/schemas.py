"""People and sign-in over the wire."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.said import Said


class PersonIn(BaseModel):
    """A technician."""

    name: str = Field(min_length=1, max_length=200, pattern=r"\S")
    licence: str = Field("", max_length=200)


class PersonOut(BaseModel):
    """A technician, with their number."""

    id: int
    name: Said
    licence: str


class SessionIn(BaseModel):
    """The passphrase."""

    passphrase: str = Field(max_length=1000)


class SessionOut(BaseModel):
    """Whether a passphrase is needed and this browser is in; what to send with changes; who is at it."""

    needed: bool
    inside: bool
    csrf: str
    person: PersonOut | None
