"""A run over the wire. Pressures Pa, times s, clock times epoch seconds."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from rough_draw.api.said import Said
from rough_draw.api.schemas import Body, RangeOut
from rough_draw.core.readings.bounds import Moment, Pressure


class SeriesOut(BaseModel):
    """Readings of one gauge; ``pa`` null is over range. Thinned keeping extremes when ``thinned``.

    ``part``: its id on the sheet. ``simulated``: spans of time (epoch s, from and to) in which a simulated gauge gave
    them.
    """

    gauge: str
    part: str | None
    at: list[float]
    pa: list[float | None]
    total: int
    thinned: bool
    simulated: list[tuple[float, float]]


class TouchOut(BaseModel):
    """A touch that was made."""

    kind: str
    words: Said
    at: float
    note: Said
    hand: str


class ConsequenceOut(BaseModel):
    """What would follow from a touch."""

    severity: Literal["stop", "caution", "note"]
    words: Said
    why: Said


class OfferOut(BaseModel):
    """A touch that can be made."""

    kind: str
    words: Said


class ForesightOut(BaseModel):
    """A touch in words and what would follow from it."""

    words: Said
    stop: bool
    consequences: list[ConsequenceOut]


class ClearOut(BaseModel):
    """How many of some steps, one after the other, can be made before one that is against a stop."""

    clear: int


SentAt = Annotated[
    Moment, Field(description="the device's clock as it was sent: where that is off, the times by it are put right")
]


class TouchIn(Body):
    """A touch to log; the server stamps the time if none is given. ``key`` makes sending twice harmless."""

    kind: str = Field(max_length=60)
    note: str = Field("", max_length=500)
    at: Moment | None = None
    key: str | None = Field(None, min_length=1, max_length=64)
    sent_at: SentAt | None = None


class ReadingIn(Body):
    """A typed reading, stamped when it was pressed. ``key`` makes sending twice harmless."""

    at: Moment
    pa: Pressure | None
    dial: str | None = Field(None, max_length=40, description="what a needle shows, as said: taken instead of pa")
    key: str = Field(min_length=1, max_length=64)


class ReadingsIn(Body):
    """Typed readings."""

    gauge: str = Field("typed", min_length=1, max_length=60)
    part: str | None = Field(None, max_length=40, description="the id of the gauge on the sheet")
    readings: list[ReadingIn] = Field(max_length=5000)
    sent_at: SentAt | None = None


class Added(BaseModel):
    """How many were new."""

    added: int


class NextOut(BaseModel):
    """A touch ahead."""

    kind: str
    title: Said
    why: Said
    caution: Said
    first: str
    due_at: float | None


class FitOut(BaseModel):
    """What the readings so far speak for: the gauge's band (epoch s, Pa), and the unknowns with their 80 % ranges.

    ``off``: how far the best explanation is from the readings (0.1 is 10 %); ``contradicts`` where none is near.
    """

    at: list[float]
    low: list[float]
    mid: list[float]
    high: list[float]
    share: float
    off: float
    contradicts: bool
    leak_pa_m3_s: RangeOut
    water_g: RangeOut
    volume_l: RangeOut
    words: Said


class GaugeOut(BaseModel):
    """Another gauge's last figure: epoch s, Pa or None over range; where it is, and what is to be expected there now.

    ``part``: its id on the sheet. ``off``: how far the best explanation of its own readings is from them (0.1 is 10 %).
    """

    gauge: str
    part: str | None
    at: float
    pa: float | None
    place: Said
    planned: RangeOut | None
    fit: FitOut | None


class LiveOut(BaseModel):
    """Where the run stands now."""

    now: float
    started_at: float | None
    phase: str
    pump_on: bool
    ballast_open: bool
    isolated_at: float | None
    breaks: int
    broken: bool
    goal_pa: float
    shut: list[str]
    opened: list[Said]
    pa: float | None
    over_range: bool
    reading_at: float | None
    gauge: str
    gauge_place: Said
    pace: Literal["no-reading", "as-planned", "slower", "faster"] | None
    rate_micron_s: float | None
    words: Said
    target_at: RangeOut | None
    fit: FitOut | None
    sign: Said | None
    volume: Said | None = Field(description="the volume that the pump sees, where it is not the sheet's")
    volume_how: Said | None
    battery_pct: float | None
    target_pa: float
    limit_pa: float
    hold_ends_at: float | None
    next: list[NextOut]
    section_pa: dict[str, float]
    standin: bool
    outside: str = Field(description="host and port of a gauge that runs by itself; empty for the simulated one")
    ahead: int = Field(description="readings of a gauge whose clock is ahead, stamped as they came")
    passed_over: int = Field(description="lines of the gauge that were not understood or came too fast")
    second: bool
    gauges: list[GaugeOut]
    between: Said | None
    speed: float
    stale: bool


class ColumnOut(BaseModel):
    """A pressure column of an imported table."""

    label: Said
    unit: str


class ImportOut(BaseModel):
    """What an import would bring, or brought."""

    committed: bool
    already_here: bool = Field(description="whether the same table was taken before: nothing was stored again")
    rows: int
    over_range: int
    span_s: float
    time_kind: str
    columns: list[ColumnOut]
    guesses: list[Said]
    undecided: list[Literal["time-unit", "day-first"]]
    preview: list[list[str]]
    hold_from_s: float | None
    starts_at: float | None = Field(description="when the first row was read, epoch s; null where that is to be said")
    asks: Literal["", "day", "moment"] = Field(description="what has to be said of when it began")


class GaugeIn(Body):
    """Where a gauge is read that speaks the documented protocol: itself, or the bridge to it."""

    host: str = Field("127.0.0.1", pattern=r"^[A-Za-z0-9]([A-Za-z0-9.:-]{0,252}[A-Za-z0-9])?$")
    port: int = Field(ge=1, le=65_535)
    opens: str = Field("gauge", min_length=1, max_length=60, description="its name on the line")


class StandinIn(Body):
    """Attach the simulated gauge, or change its pace."""

    speed: int = Field(60, description="1, 10, 60 or 300 times real time")
    port: int | None = Field(None, ge=1, le=65_535, description="a gauge that runs by itself, on this port")
    opens: str = Field("gauge", min_length=1, max_length=60, description="its name on the line")
    second: bool = Field(False, description="also read a second gauge, at the pump")
