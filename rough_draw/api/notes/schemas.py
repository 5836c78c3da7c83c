"""Bench notes over the wire."""

from __future__ import annotations

from pydantic import BaseModel, Field

from rough_draw.api.said import Said
from rough_draw.api.schemas import RangeOut
from rough_draw.core.advice.calculators import HoseRow, LeakForm, LineRow
from rough_draw.core.physics.units import ATMOSPHERE_PA


class PressureIn(BaseModel):
    """An absolute pressure in Pa, or a temperature in °C at which water is to boil; the air's, Pa."""

    pa: float | None = Field(None, gt=0, le=2e5)
    boils_c: float | None = Field(None, ge=-60, le=100)
    atmosphere_pa: float = Field(ATMOSPHERE_PA, ge=45_000, le=110_000)


class PressureOut(BaseModel):
    """A pressure in every unit; water at it."""

    pa: float
    units: dict[str, float]
    boils_c: float | None
    state: str
    depth_inhg: float
    depth_psi: float


class WaterOut(BaseModel):
    """Water's curve: °C, Pa, and how many of the first points are ice."""

    c: list[float]
    pa: list[float]
    ice: int
    triple_pa: float


class HosesIn(BaseModel):
    """Hook-ups to compare on one pump, volume and target."""

    rows: list[HoseRow] = Field(min_length=1, max_length=6)
    cfm: float = Field(5.0, ge=0.5, le=30)
    volume_l: float = Field(20.0, ge=0.05, le=2000)
    target_pa: float = Field(26.66, ge=1.3, le=1400)


class HoseAnswer(BaseModel):
    """One hook-up's answer."""

    speed_m3_s: float
    pump_share: float
    seconds: float | None
    worst: Said
    worst_share: float


class NitrogenIn(BaseModel):
    """Breaks from a low to a high pressure, Pa."""

    low_pa: float = Field(200.0, gt=0.1, le=1e5)
    high_pa: float = Field(ATMOSPHERE_PA, gt=1, le=5e5)
    times: int = Field(2, ge=1, le=6)


class NitrogenOut(BaseModel):
    """Shares of the first gas left after each break."""

    left: list[float]


class CordIn(BaseModel):
    """A cord and the pump on it."""

    length_m: float = Field(15.0, ge=0.5, le=200)
    wire: str = Field("14 AWG", max_length=20)
    volts: float = Field(120.0, ge=90, le=480)
    cfm: float = Field(5.0, ge=0.5, le=30)
    current_a: float | None = Field(None, gt=0, le=60)


class AltitudeIn(BaseModel):
    """Where, and the target, Pa."""

    elevation_m: float = Field(0.0, ge=-400, le=5500)
    barometer_hpa: float | None = Field(None, ge=450, le=1090)
    target_pa: float = Field(66.66, ge=1, le=5000)


class AltitudeOut(BaseModel):
    """The air here and what a dial can say in it."""

    atmosphere_pa: float
    dial_inhg: float
    dial_blind_micron: float
    least_psi: float
    boils_c: float


class LeakIn(BaseModel):
    """A leak in one form."""

    value: float = Field(0.5, ge=0, le=1e6)
    form: LeakForm = "micron-s"
    volume_l: float = Field(8.0, ge=0.01, le=20_000)
    refrigerant: str = Field("R-448A", max_length=30)
    ambient_c: float = Field(20.0, ge=-40, le=60)


class LeakOut(BaseModel):
    """A leak in every form."""

    micron_s: float
    pa_m3_s: float
    mbar_l_s: float
    g_year: RangeOut


class LinesIn(BaseModel):
    """Copper lines."""

    rows: list[LineRow] = Field(min_length=1, max_length=20)


class LinesOut(BaseModel):
    """Volumes, m³, of each and of all."""

    each: list[RangeOut]
    total: RangeOut


class WordOut(BaseModel):
    """A word of the trade."""

    key: str
    term: Said
    also: Said | None
    means: Said
    source: str


class SchoolNote(BaseModel):
    """A school's rule beside the others, Pa and minutes; ``leaves``: what it lets stand or cannot see."""

    key: str
    name: Said
    rule: Said
    target_pa: float
    limit_pa: float
    minutes: float
    flat_rate: float | None
    breaks: int
    leaves: Said


class PagesOut(BaseModel):
    """What is read, not worked out: words, schools, cautions."""

    glossary: list[WordOut]
    schools: list[SchoolNote]
    cautions: list[Said]


class TextOut(BaseModel):
    """A page as Markdown."""

    text: str
