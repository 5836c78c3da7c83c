"""The day, the shelf and the lists that forms choose from, in types. Clock times epoch s."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field

from rough_draw.api.plan.schemas import Choice
from rough_draw.api.said import Said
from rough_draw.api.schemas import Body, RangeOut
from rough_draw.core.physics.display_units import DisplayUnit
from rough_draw.core.physics.units import ATMOSPHERE_PA
from rough_draw.core.sheet.settings import Settings


class ComingOut(BaseModel):
    """A touch ahead: when (epoch s), what, on which unit, of which job."""

    at: float
    title: Said
    where: Said
    job: str


class DayTouchOut(BaseModel):
    """A touch of the day: epoch s early, expected and late."""

    kind: str
    title: Said
    at: RangeOut
    hands_s: float


class DayJob(BaseModel):
    """A job in the day; without a start its touches are empty."""

    key: str
    title: Said
    unit: str
    pump: Said
    start_at: float | None
    touches: list[DayTouchOut]
    fault: Said
    running: bool = False


class ConflictOut(BaseModel):
    """Two jobs that want the same thing at once; ``at`` epoch s."""

    model_config = ConfigDict(from_attributes=True)
    keys: tuple[str, str]
    what: str
    at: float
    words: Said


class DayOut(BaseModel):
    """All jobs that are planned, what clashes, and jobs that could be."""

    jobs: list[DayJob]
    conflicts: list[ConflictOut]


class DayFit(Body):
    """Propose starts for these jobs from ``day_start`` (epoch s)."""

    keys: list[str] = Field(max_length=20)
    day_start: float = Field(ge=0, le=4e9)


class PurchaseOut(BaseModel):
    """What a purchase would have saved over past jobs."""

    key: str
    words: Said
    seconds: float
    jobs: int
    money: float


class PurchasesOut(BaseModel):
    """Over how many jobs, at which rate."""

    over: int
    hourly_rate: float
    currency: str
    purchases: list[PurchaseOut]


class DialIn(Body):
    """A dial vacuum as it was said."""

    text: str = Field(max_length=60)
    atmosphere_pa: float = Field(ATMOSPHERE_PA, ge=40_000, le=110_000)


class DialOut(BaseModel):
    """A dial vacuum understood."""

    pa: float
    inhg: float
    blind_pa: float = Field(description="one ± of a needle")
    asked: Said


class SettingsOut(BaseModel):
    """The settings, and every unit that figures can be shown in."""

    settings: Settings
    units: dict[str, list[DisplayUnit]]
    logo: bool
    key: str = Field(description="fingerprint of the firm's key; empty where it has none")


class KitOut(BaseModel):
    """A part in the van, in the rig's own terms."""

    id: int
    kind: str
    name: Said
    values: dict[str, str | float | bool | None]


class HabitOut(BaseModel):
    """What schools differ in: the field of the sheet's habits, the question, its choices with their reasons."""

    field: str
    words: Said
    options: list[Choice]


class CatalogueOut(BaseModel):
    """Everything a form offers to choose from."""

    templates: list[Choice]
    section_kinds: list[Choice]
    link_kinds: list[Choice]
    port_sizes: list[str]
    tube_sizes: list[str]
    refrigerants: list[Choice]
    oils: list[Choice]
    conditions: list[Choice]
    hose_sizes: list[str]
    tool_bores: list[str]
    manifolds: list[str]
    gauges: list[Choice]
    pumps_cfm: list[float]
    wires: list[str]
    schools: list[Choice]
    habits: list[HabitOut]
    kit: list[KitOut]
    micron_pa: float
    version: str


class KeepTemplate(Body):
    """Keep the scope of a job as a template."""

    name: str = Field(min_length=1, max_length=80)
    job: str = Field(pattern=r"^[a-z0-9-]{1,40}$")


class OwnTemplateOut(BaseModel):
    """A person's own template."""

    id: int
    name: Said
