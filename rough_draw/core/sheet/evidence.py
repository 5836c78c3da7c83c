"""What was proved before the draw, as the sheet keeps it: the evidence as it was seen, never the judgement.

Judgements are worked out from it anew each time, so that they follow the rig and the catalogue.
"""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from rough_draw.core.sheet.base import Sheet, Slug, Text, fault

OilLook = Literal["unknown", "fresh", "amber", "dark", "milky"]


class Gate(Sheet):
    """One pre-flight gate: what of it was seen (``items``), or said without (``done``), or skipped with a reason."""

    state: Literal["open", "done", "skipped"] = "open"
    note: Text = ""
    items: tuple[Text, ...] = Field((), max_length=60)

    @model_validator(mode="after")
    def _reason(self) -> Gate:
        if self.state == "skipped" and not self.note.strip():
            raise fault("", "skip-reason")
        return self


class StageReading(Sheet):
    """What the gauge on the pump said of one stage of the rig proof.

    ``settled_micron`` with the pump running, ``after_s`` since the stage was opened; then the rise from ``from_micron``
    to ``to_micron`` in ``rise_s`` with the pump's valve shut. ``added_l``: a known volume joined to it. ``part``: the
    mark of the part that was read, so that another one in its place does not take its reading over.
    """

    settled_micron: float | None = Field(None, ge=0, le=800_000)
    after_s: float | None = Field(None, ge=0, le=86_400)
    running: bool = True
    from_micron: float | None = Field(None, ge=0, le=800_000)
    to_micron: float | None = Field(None, ge=0, le=800_000)
    rise_s: float | None = Field(None, gt=0, le=86_400)
    added_l: float = Field(0.0, ge=0, le=500)
    part: Text = ""


class GaugeCheck(Sheet):
    """What was seen of the gauge: battery %, what it shows in free air, and beside another gauge, µ."""

    battery_pct: float | None = Field(None, ge=0, le=100)
    in_air: Literal["", "over", "figure"] = ""
    air_micron: float | None = Field(None, ge=0, le=1_000_000)
    this_micron: float | None = Field(None, ge=0, le=800_000)
    other_micron: float | None = Field(None, ge=0, le=800_000)
    other: Text = ""
    cleaned: bool = False


TestKind = Literal["tightness", "strength"]


class PressureReading(Sheet):
    """One pressure test as it was read: gauge kPa, °C, minutes; what the code or the maker asks for, and the gauge's
    step. ``at``: epoch s at which it was put by.
    """

    kind: TestKind = "tightness"
    start_kpa: float | None = Field(None, ge=0, le=10_000)
    end_kpa: float | None = Field(None, ge=0, le=10_000)
    start_c: float | None = Field(None, ge=-40, le=80)
    end_c: float | None = Field(None, ge=-40, le=80)
    minutes: float | None = Field(None, ge=0, le=10_000)
    wanted_kpa: float | None = Field(None, gt=0, le=10_000)
    step_kpa: float = Field(10.0, gt=0, le=500)
    at: float | None = Field(None, ge=0, le=4e9)
    note: Text = ""


class Prove(Sheet):
    """What was proved before the draw. Pressures of the test are gauge kPa.

    The ``test_`` fields are of the latest pressure test; ``tests`` keeps those before it: a retest overwrites none.
    """

    gates: dict[Text, Gate] = Field({}, max_length=40)
    oil: OilLook = "unknown"
    oil_level: Literal["unknown", "low", "right", "high"] = "unknown"
    oil_changed: bool = False
    oil_collected: bool = False
    test_start_kpa: float | None = Field(None, ge=0, le=10_000)
    test_end_kpa: float | None = Field(None, ge=0, le=10_000)
    test_start_c: float | None = Field(None, ge=-40, le=80)
    test_end_c: float | None = Field(None, ge=-40, le=80)
    test_minutes: float | None = Field(None, ge=0, le=10_000)
    test_wanted_kpa: float | None = Field(None, gt=0, le=10_000)
    test_step_kpa: float = Field(10.0, gt=0, le=500)
    test_kind: TestKind = "tightness"
    tests: tuple[PressureReading, ...] = Field((), max_length=30)
    stages: dict[Slug, StageReading] = Field({}, max_length=40)
    gauge: GaugeCheck = GaugeCheck()

    @property
    def latest_test(self) -> PressureReading:
        """The pressure test that counts: the last one."""
        fields = ("kind", "start_kpa", "end_kpa", "start_c", "end_c", "minutes", "wanted_kpa", "step_kpa")
        return PressureReading(**{name: getattr(self, f"test_{name}") for name in fields})
