"""What the API says of a hold."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.said import Said
from rough_draw.api.schemas import Body, RangeOut
from rough_draw.core.readings.time_unit import TimeUnit


class StandardOut(BaseModel):
    """What one school says: its rule in words, pass, fail or not yet, and with what figures."""

    key: str
    name: Said
    rule: Said
    passed: bool | None
    reason: Said


class OddsOut(BaseModel):
    """One cause with its odds, and those in words."""

    key: str
    name: Said
    odds: float
    words: Said


class CurveOut(BaseModel):
    """One account drawn over the hold and a little beyond, named with its figures."""

    name: Said
    words: Said
    odds: float
    best: bool
    at: list[float]
    pa: list[float]


class AheadOut(BaseModel):
    """Where it will stand so many seconds after the last reading, at 90 %."""

    seconds: float
    pa: RangeOut


class ResidualsOut(BaseModel):
    """What the best account leaves over, Pa, with one standard error."""

    at: list[float]
    pa: list[float]
    sigma: list[float]


class PlaceOut(BaseModel):
    """A place to look for the leak, and how."""

    where: Said
    how: Said


class AdviceOut(BaseModel):
    """What to do next, why, what goes with it, and the stage it leads to."""

    order: Said
    why: Said
    also: list[Said]
    stage: str
    places: list[PlaceOut]


class EarlierOut(BaseModel):
    """An earlier hold of the same job beside this one."""

    started_at: float
    check: bool
    minutes: float
    verdict: str
    sentence: Said
    words: Said


class NeedleOut(BaseModel):
    """What a needle showed, and what it leaves open: one ± of it, the leak and the water that it could have missed."""

    blind_pa: float
    leak_pa_m3_s: float
    rate_micron_s: float
    water_g: float
    minutes: float
    reads_pa: float
    first_pa: float | None = Field(description="where it stood at first, absolute; null where it was not read")
    last_pa: float | None = Field(description="where it stood at the end; null where it was read once")
    moved: bool = Field(description="whether it came up by more than it can be off")


class VerdictOut(BaseModel):
    """The verdict on the hold."""

    verdict: str
    sentence: Said
    headline: Said
    probability: float
    likely: Said
    odds: list[OddsOut]
    leak_pa_m3_s: RangeOut
    rate_micron_s: RangeOut
    slope_micron_s: RangeOut
    rising: bool
    grams_per_year: RangeOut
    moisture_g: RangeOut
    plateau_pa: RangeOut
    ahead: list[AheadOut]
    sound: bool
    sound_at_s: float | None
    wait_s: float | None
    detection_micron_s: float
    loss: list[Said] = Field(description="what a leak would do to the charge, and what the hold does not see")
    span_s: float
    started_at: float
    limit_pa: float
    saturation_pa: float
    volume_l: RangeOut
    inside: Said
    clear: bool
    criteria: list[StandardOut]
    disagreements: list[Said]
    reasons: list[Said]
    curves: list[CurveOut]
    residuals: ResidualsOut
    advice: AdviceOut
    earlier: list[EarlierOut]
    needle: NeedleOut | None
    algorithm: str
    inputs_hash: str


class QuickIn(Body):
    """A table of readings, as text, and what is known of the system."""

    text: str = Field(min_length=1, max_length=20_000_000)
    volume_l: float | None = Field(None, ge=0.05, le=100_000)
    template: str = Field("cooler", max_length=40)
    capacity_kw: float | None = Field(None, gt=0, le=2000)
    length_m: float | None = Field(None, gt=0, le=500)
    coldest_c: float = Field(15.0, ge=-60, le=60)
    refrigerant: str = Field("R-448A", max_length=20)
    school: str = Field("code-minimum", max_length=30)
    isolated_at_s: float | None = Field(None, ge=0, le=4e6)
    elevation_m: float | None = Field(
        None, ge=-430, le=5000, description="of the place: a dial counts from the air there"
    )
    time_unit: TimeUnit | None = Field(None, description="of plain times, where the table does not say")
    day_first: bool | None = Field(None, description="5/7 is in July, where the table leaves it open")


class QuickOut(BaseModel):
    """The verdict on a table, how it was read, and the readings it rests on."""

    verdict: VerdictOut
    rows: int
    over_range: int
    guesses: list[Said]
    columns: list[str]
    hold_from_s: float
    volume: Said
    at: list[float]
    pa: list[float]
