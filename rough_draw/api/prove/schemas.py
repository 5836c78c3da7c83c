"""Prove in types: gates by their evidence, what was computed of it, and the bench. Pressures Pa unless named."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from rough_draw.api.plan.schemas import Choice
from rough_draw.api.said import Said
from rough_draw.api.schemas import Body, RangeOut
from rough_draw.core.sheet.evidence import StageReading, TestKind


class GateOut(BaseModel):
    """A gate: what it asks, how it stands, and its evidence or what it still wants."""

    key: str
    title: Said
    why: Said
    kind: Literal["items", "sections", "sweep", "pressure-test", "oil", "blank-off", "rig-proof", "gauge"]
    items: list[Choice]
    any_of: bool
    proposed: str = Field(description="the item that the sheet speaks for, where one is enough")
    state: Literal["open", "passed", "stated", "doubtful", "failed", "skipped"]
    words: Said


class PressureTestOut(BaseModel):
    """The pressure test judged; ``expected_pa`` and ``drop_pa`` absolute, leaks Pa·m³/s."""

    verdict: str
    words: Said
    expected_pa: float | None
    drop_pa: RangeOut | None
    leak_pa_m3_s: RangeOut | None
    smallest_pa_m3_s: float | None


class EarlierTestOut(BaseModel):
    """A pressure test before the latest: as it was read, and judged."""

    kind: TestKind
    at: float | None
    start_pa: float | None = Field(description="gauge pressure")
    end_pa: float | None
    minutes: float | None
    verdict: str
    words: Said
    note: str


class OilOut(BaseModel):
    """The oil judged, with hours and jobs since its last change where they are on file."""

    verdict: str
    words: Said
    hours: float | None
    jobs: int | None
    looks: list[Choice]
    levels: list[Choice]


class BlankOffOut(BaseModel):
    """The blank-off judged, with this pump's earlier ones, µ."""

    verdict: str
    words: Said
    before_micron: list[float]


class GaugeCheckOut(BaseModel):
    """The gauge judged, each finding on its own."""

    verdict: str
    words: list[Said]


class ProofStageOut(BaseModel):
    """A stage of the rig proof: what to do, what a good one does, how it was found."""

    key: str
    short: Said
    title: Said
    do: Said
    mark: str
    volume_m3: float
    shuts: bool
    optional: bool = Field(description="whether the rig is proved without it")
    settled_pa: RangeOut
    usual_pa_m3_s: RangeOut
    verdict: str
    words: list[Said]
    own_pa_m3_s: RangeOut | None
    hold_micron_s: float | None


class ProveOut(BaseModel):
    """Everything that Prove says of a sheet."""

    gates: list[GateOut]
    test: PressureTestOut
    earlier_tests: list[EarlierTestOut]
    oil: OilOut
    blank_off: BlankOffOut
    gauge: GaugeCheckOut
    stages: list[ProofStageOut]
    fault: Said


class BenchIn(Body):
    """Put the rig on the simulated bench, or change its pace."""

    speed: int = Field(10, description="1, 10, 60 or 300 times real time")


class BenchTouchIn(Body):
    """A touch of the bench: pump-on, pump-off, valve-shut, valve-open, or stage:<key>."""

    kind: str = Field(max_length=60)


class BenchOut(BaseModel):
    """Where the bench stands: times s since the stage was opened; ``next`` is the touch that comes next, or keep."""

    attached: bool
    speed: float
    stale: bool
    stage: str
    pump_on: bool
    valve_open: bool
    since_s: float | None
    shut_s: float | None
    pa: float | None
    over_range: bool
    words: Said
    tone: str
    next: str
    reading: StageReading | None
    at: list[float]
    shown: list[float | None]
    times: list[float]
    low: list[float]
    mid: list[float]
    high: list[float]


class KitEventOut(BaseModel):
    """An event of a part of the kit."""

    kind: str
    words: Said
    at: float
    job: str
    title: Said
    verdict: str
    said: Said
    micron: float | None
    inflow_pa_m3_s: float | None
    hours: float | None


class KitCard(BaseModel):
    """A part of the kit with what is on file of it, and how it stands."""

    id: int
    kind: str
    name: Said
    values: dict[str, str | float | bool | None]
    state: str
    words: Said
    events: list[KitEventOut]
