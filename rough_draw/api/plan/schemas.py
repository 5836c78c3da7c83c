"""What the planning bench says, in types: system, rig, plan, day. Pressures Pa, times s, unless named otherwise."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from rough_draw.api.plan.drawing_schemas import Core, DrawingOut
from rough_draw.api.said import Said
from rough_draw.api.schemas import Body, RangeOut
from rough_draw.core.sheet.criteria import DialBlind
from rough_draw.core.sheet.rig import Rig


class Choice(BaseModel):
    """Something to choose from a list."""

    value: str
    label: Said
    note: Said = ""


class AnswerOut(Core):
    """One question of the setup check, what the rig says to it, and why."""

    letter: str
    question: Said
    says: Literal["yes", "partly", "no"]
    words: Said


class CordOut(Core):
    """A cord judged for a pump: drops as shares of the voltage."""

    running_a: float
    starting_a: float
    running_drop: float
    starting_drop: float
    volts_starting: float
    verdict: Literal["good", "usable", "no"]
    words: Said
    better: str | None


class ItemOut(Core):
    """One thing to carry."""

    key: str
    group: str
    name: Said
    count: int
    why: Said | None


class StepOut(Choice):
    """A step of a derived order, with the cautions that no order avoids; ``kind``: how a run logs it, where it does."""

    care: list[Said] = []
    kind: str = ""


class ChecksOut(BaseModel):
    """Steps of the release, keys of those that are done, and what the rig lacks for it: by code, and in words."""

    steps: list[StepOut]
    done: list[str]
    missing: list[str]
    lacking: list[StepOut]


class SectionOut(BaseModel):
    """A section of the system: ``state`` is pumped, left-out or charge (keeps its refrigerant)."""

    name: Said
    label: Said
    volume_m3: RangeOut
    state: str


class LinkOut(BaseModel):
    """A passage between sections: whether it can be shut, and how it is opened for the evacuation."""

    name: Said
    label: Said
    kind: str
    open: bool
    valve: bool
    opened: Said


class ChargeOut(BaseModel):
    """Charge to weigh in."""

    kg: float
    words: Said


class CautionOut(BaseModel):
    """A caution by its key, and whether the sheet has it ticked."""

    key: str
    words: Said
    ticked: bool


class CriterionOut(BaseModel):
    """A watched criterion in words."""

    key: str
    name: Said
    about: Said
    rule: Said
    target_pa: float


class SystemOut(BaseModel):
    """What follows from the scope."""

    sections: list[SectionOut]
    links: list[LinkOut]
    left_out: list[Said]
    volume_m3: RangeOut
    water_kg: RangeOut
    water_place: Said
    atmosphere_pa: float
    water_boils_pa: float
    default_school: str
    default_reason: Said
    criteria: list[CriterionOut]
    dial: DialBlind | None
    cautions: list[CautionOut]
    charge: ChargeOut | None


class PartOut(BaseModel):
    """A part of the rig line with what it passes at the target."""

    name: Said
    label: Said
    kind: str
    side: str
    core: bool
    conductance_m3_s: float
    share: float


class FindingOut(BaseModel):
    """One finding; ``fix`` says what one touch would change."""

    key: str
    severity: Literal["stop", "caution", "note"]
    place: Said
    title: Said
    why: Said
    fix: Said | None


class MomentOut(BaseModel):
    """The predicted run at one time: pressure by node, shares of resistance, what limits."""

    at: float
    pa: dict[str, float]
    resistance: dict[str, float]
    sources: dict[str, float]
    words: Said


class GaugePlanOut(BaseModel):
    """What a gauge should show: 10 %, best guess, 90 % at the plan's times. ``reads``: the one that is read."""

    id: str
    name: Said
    place: Said
    low: list[float]
    mid: list[float]
    high: list[float]
    reads: bool


class PlanOut(BaseModel):
    """A computed draw; bands are 10 %, 50 % and 90 %.

    ``inside_pa`` stand in the system's own passages at the target. ``deciding``: the unknown on which it hangs whether
    the target is reached, and what would ``measure`` it. Not ``whole``: a first answer by few draws.
    """

    target_pa: float
    time_to_target_s: RangeOut | None
    share_reaching: float
    limit: Said
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
    isolate_where: Said
    isolate_inside: Said
    gauge_inside: bool
    valves: dict[str, Said]
    shut: list[str]
    left_out: list[Said]
    questions: list[AnswerOut]
    findings: list[FindingOut]
    gauges: list[GaugePlanOut]
    inside_pa: float
    deciding: Said | None
    measure: Said | None
    whole: bool
    cord: CordOut | None
    slots: list[SlotOut]
    drawing: DrawingOut
    run_drawing: DrawingOut


class UpgradeOut(BaseModel):
    """A single change and what it saves; ``source`` is hand, kit or buy."""

    key: str
    change: Said
    source: str
    seconds_saved: RangeOut
    time_to_target_s: float


class ChangesOut(BaseModel):
    """Every single change, ranked; and which unknown moves the time most. ``saves``: s that a finding's fix saves."""

    upgrades: list[UpgradeOut]
    unknowns: list[UnknownOut]
    shares: list[ShareOut]
    saves: dict[str, float]


class ShareOut(BaseModel):
    """What of the time to target goes to one thing; ``endless``: with it the target is never reached."""

    taker: str
    name: Said
    about: Said
    seconds: float
    endless: bool


class UnknownOut(BaseModel):
    """One unknown: seconds to target at its low and high end, and what would narrow it."""

    unknown: str
    name: Said
    low_s: float
    high_s: float
    measure: Said


class BestOut(BaseModel):
    """The best rig that the van allows."""

    reason: Said
    missing: Said | None
    tried: int
    pattern: Said
    seconds: float | None
    rig: Rig | None


class PatternOut(BaseModel):
    """A hook-up to start from; ``fits`` says whether this system has ports enough."""

    key: str
    name: Said
    words: Said
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
    name: Said
    plan: PlanOut | None
    fault: Said


class CarryOut(BaseModel):
    """What to carry, and what is ticked off."""

    items: list[ItemOut]
    packed: list[str]
