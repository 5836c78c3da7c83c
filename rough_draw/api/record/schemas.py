"""What the API says of a record: its seal, its amendments, the history it belongs to."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.said import Said
from rough_draw.api.schemas import Body
from rough_draw.core.sheet.job import Running


class SealIn(Body):
    """Who closes the record."""

    by: str = Field(min_length=1, max_length=120)
    reasons: dict[str, str] = Field({}, max_length=60, description="why, for each deviation by its key")


class DeviationOut(BaseModel):
    """What was not done, not shown, or came out otherwise; with the reason that was sealed for it."""

    key: str
    words: Said
    reason: str


class AmendIn(Body):
    """A correction to a sealed record: who, why, of what, and what it said and should say."""

    by: str = Field(min_length=1, max_length=120)
    reason: str = Field(min_length=3, max_length=2000)
    what: str = Field(min_length=1, max_length=200)
    before: str = Field("", max_length=2000)
    after: str = Field(min_length=1, max_length=2000)


class AmendmentOut(BaseModel):
    """A correction as it was kept."""

    number: int
    at: float
    by: str
    reason: Said
    what: str
    before: str
    after: str


class VisitIn(Body):
    """A follow-up visit: who, what the running system showed, what it was set to, what was seen.

    Temperatures °C. Pictures taken for it were sent before, about ``visit:N``.
    """

    by: str = Field(min_length=1, max_length=120)
    note: str = Field("", max_length=2000)
    set_point_c: float | None = Field(None, ge=-90, le=120)
    outdoor_c: float | None = Field(None, ge=-60, le=70)
    running: Running = Running()


class VisitOut(VisitIn):
    """A follow-up visit as it was kept: when, and how many days after the record was closed."""

    number: int
    at: float
    days: float
    photos: list[str] = Field(description="pictures, by their hashes")


class SealOut(BaseModel):
    """Whether a record is sealed, and whether it is still what was sealed."""

    sealed_at: float | None
    by: str
    entries: int
    hash: str
    whole: bool
    faults: list[Said]
    amendments: list[AmendmentOut]
    visits: list[VisitOut]
    signers: list[tuple[str, str]] = Field(description="firms that signed it, each with its key's fingerprint")
    deviations: list[DeviationOut]
    what: Said = Field(description="what is being sealed, in plain words")


class RestoredOut(BaseModel):
    """What a restored backup holds."""

    jobs: int
    readings: int


class PastRow(BaseModel):
    """An earlier evacuation."""

    key: str
    at: float
    customer: str
    site: str
    unit: str
    refrigerant: str
    technician: str
    verdict: str
    sentence: Said
    slope_micron_s: float | None
    level_micron: float | None
    draw_min: float | None
    sealed: bool


class HistoryOut(BaseModel):
    """Earlier evacuations, the latest first, and how many there are in all."""

    rows: list[PastRow]
    total: int
    sites: list[str]
    customers: list[str]
