"""What the planning bench says, in types: system, rig, plan, day. Pressures Pa, times s, unless named otherwise."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from rough_draw.api.schemas import Body, RangeOut
from rough_draw.core.advice.cord import CordAnswer
from rough_draw.core.advice.drawing_types import Drawing
from rough_draw.core.advice.packing_list import Item
from rough_draw.core.advice.setup_check import Answer
from rough_draw.core.sheet.criteria import DialBlind
from rough_draw.core.sheet.rig import Rig


class Choice(BaseModel):
    """Something to choose from a list."""

    value: str
    label: str
    note: str = ""


class StepOut(Choice):
    """A step of a derived order, with the cautions that no order avoids."""

    care: list[str] = []


class ChecksOut(BaseModel):
    """Steps of the release."""

    steps: list[StepOut]


class SectionOut(BaseModel):
    """A section of the system: ``state`` is pumped, left-out or charge (keeps its refrigerant)."""

    name: str
    label: str
    volume_m3: RangeOut
    state: str


class LinkOut(BaseModel):
    """A passage between sections: whether it can be shut, and how it is opened for the evacuation."""

    name: str
    label: str
    kind: str
    open: bool
    valve: bool
    opened: str


class ChargeOut(BaseModel):
    """Charge to weigh in."""

    kg: float
    words: str


class CriterionOut(BaseModel):
    """A watched criterion in words."""

    key: str
    name: str
    rule: str
    target_pa: float


class SystemOut(BaseModel):
    """What follows from the scope."""

    sections: list[SectionOut]
    links: list[LinkOut]
    left_out: list[str]
    volume_m3: RangeOut
    water_kg: RangeOut
    water_place: str
    atmosphere_pa: float
    water_boils_pa: float
    default_school: str
    default_reason: str
    criteria: list[CriterionOut]
    dial: DialBlind | None
    cautions: list[str]
    charge: ChargeOut | None


class PartOut(BaseModel):
    """A part of the rig line with what it passes at the target."""

    name: str
    label: str
    kind: str
    side: str
    conductance_m3_s: float
    share: float


class FindingOut(BaseModel):
    """One finding; ``fix`` says what one touch would change."""

    key: str
    severity: Literal["stop", "caution", "note"]
    place: str
    title: str
    why: str
    fix: str | None


class MomentOut(BaseModel):
    """The predicted run at one time: pressure by node, shares of resistance, what limits."""

    at: float
    pa: dict[str, float]
    resistance: dict[str, float]
    sources: dict[str, float]
    words: str


class PlanOut(BaseModel):
    """A computed draw; bands are 10 %, 50 % and 90 %."""

    target_pa: float
    time_to_target_s: RangeOut | None
    share_reaching: float
    limit: str
    speed_at_target_m3_s: float
    port_speed_m3_s: dict[str, float]
    pump_share: float
    gauge_error_pa: float
    gauge_node: str
    parts: list[PartOut]
    times: list[float]
    gauge_low: list[float]
    gauge_mid: list[float]
    gauge_high: list[float]
    system_mid: list[float]
    moments: list[MomentOut]
    isolate_valves: list[str]
    isolate_where: str
    isolate_inside: str
    gauge_inside: bool
    valves: dict[str, str]
    shut: list[str]
    left_out: list[str]
    questions: list[Answer]
    findings: list[FindingOut]
    cord: CordAnswer | None
    slots: list[SlotOut]
    drawing: Drawing
    run_drawing: Drawing


class UpgradeOut(BaseModel):
    """A single change and what it saves; ``source`` is hand, kit or buy."""

    key: str
    change: str
    source: str
    seconds_saved: RangeOut
    time_to_target_s: float


class ChangesOut(BaseModel):
    """Every single change, ranked; and which unknown moves the time most."""

    upgrades: list[UpgradeOut]
    unknowns: list[UnknownOut]


class UnknownOut(BaseModel):
    """One unknown: seconds to target at its low and high end, and what would narrow it."""

    unknown: str
    low_s: float
    high_s: float
    measure: str


class BestOut(BaseModel):
    """The best rig that the van allows."""

    reason: str
    missing: str
    tried: int
    pattern: str
    seconds: float | None
    rig: Rig | None


class PatternOut(BaseModel):
    """A hook-up to start from; ``fits`` says whether this system has ports enough."""

    key: str
    name: str
    words: str
    ports: int
    fits: bool


class SlotOut(BaseModel):
    """What may be done with one part: outlets and ports that are free, kit that can stand in its place."""

    part: str
    free_outlets: list[str]
    free_ports: list[Choice]
    kit: list[Choice]
    removable: bool


class RigEdit(Body):
    """One edit of the rig. ``version`` is the sheet's. What ``op`` needs: see `core.rigedit`."""

    version: int = Field(ge=1)
    op: Literal["pattern", "swap", "kit", "remove", "insert", "at-port", "add", "way", "move", "core", "cord"]
    part: str = Field("", max_length=40)
    kit: int | None = None
    fields: dict[str, Any] = Field({}, max_length=20)
    on: str | None = Field(None, max_length=40)
    at: str = Field("end", max_length=40)
    port: str | None = Field(None, max_length=40)


class Apply(Body):
    """Take over a fix, a change or the best rig by its key."""

    version: int = Field(ge=1)
    key: str = Field(max_length=80)


class TakeTemplate(Body):
    """Start the scope from a template: built in by key, or one's own by number."""

    version: int = Field(ge=1)
    key: str = Field("", max_length=40)
    own: int | None = None


class RigPlan(BaseModel):
    """One rig of a comparison."""

    index: int
    name: str
    plan: PlanOut | None
    fault: str


class CarryOut(BaseModel):
    """What to carry, and what is ticked off."""

    items: list[Item]
    packed: list[str]
