"""The job sheet as values: what the technician brings. Version 1 of the job document.

Units are in the names. Everything has a sensible default, so that a sheet can be opened at any stage.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from rough_draw.core.catalogue.fluids import OILS, REFRIGERANTS
from rough_draw.core.catalogue.rigparts import HOSE_SIZES
from rough_draw.core.catalogue.tube import SIZES

Text = Annotated[str, Field(max_length=200)]
Long = Annotated[str, Field(max_length=4000)]
Side = Literal["suction", "liquid"]
Condition = Literal["new-dry", "open-hours", "leak-drawn-air", "compressor-burnt", "flooded"]
SystemKind = Literal["remote-condensing-unit", "packaged", "line-set", "cylinder"]
GaugePlace = Literal["pump", "manifold", "tool:suction", "tool:liquid", "port:suction", "port:liquid"]


class Sheet(BaseModel):
    """Base of every part of the document: unknown fields are refused, values are checked on change."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class Party(Sheet):
    """Who and where."""

    customer: Text = ""
    site: Text = ""
    unit: Text = ""
    firm: Text = ""
    technician: Text = ""
    licence: Text = ""


class Line(Sheet):
    """A copper line by nominal size and length."""

    size: str = "7/8 in"
    length_m: float = Field(12.0, gt=0, le=300)

    @field_validator("size")
    @classmethod
    def _known(cls, size: str) -> str:
        if size not in SIZES:
            raise ValueError(f"no copper tube of size '{size}'; choose one of {', '.join(SIZES)}")
        return size


class Scope(Sheet):
    """What is to be evacuated, and what state it is in."""

    system: SystemKind = "remote-condensing-unit"
    capacity_kw: float = Field(10.0, ge=0, le=500)
    suction: Line = Line(size="7/8 in", length_m=12.0)
    liquid: Line = Line(size="3/8 in", length_m=12.0)
    receiver_l: float = Field(0.0, ge=0, le=200)
    condensing_unit_open: bool = False
    refrigerant: str = "R-448A"
    oil: str = "POE"
    oil_kg: float = Field(1.2, ge=0, le=100)
    condition: Condition = "open-hours"
    open_hours: float = Field(3.0, ge=0, le=8760)
    humidity_pct: float = Field(60.0, ge=0, le=100)
    free_water_g: float | None = Field(None, ge=0, le=20_000)
    volume_l: float | None = Field(None, gt=0.001, le=5000)
    ambient_c: float = Field(18.0, ge=-40, le=60)
    coldest_c: float = Field(14.0, ge=-40, le=60)
    elevation_m: float = Field(0.0, ge=-400, le=5500)
    low_temperature: bool = False
    nameplate_kg: float | None = Field(None, gt=0, le=2000)
    included_length_m: float = Field(0.0, ge=0, le=300)
    adder_g_per_m: float = Field(0.0, ge=0, le=1000)
    held_in_unit_kg: float = Field(0.0, ge=0, le=2000)

    @field_validator("refrigerant")
    @classmethod
    def _refrigerant(cls, name: str) -> str:
        if name not in REFRIGERANTS:
            raise ValueError(f"no refrigerant '{name}'; choose one of {', '.join(REFRIGERANTS)}")
        return name

    @field_validator("oil")
    @classmethod
    def _oil(cls, name: str) -> str:
        if name not in OILS:
            raise ValueError(f"no oil '{name}'; choose one of {', '.join(OILS)}")
        return name

    @model_validator(mode="after")
    def _coldest(self) -> Scope:
        if self.coldest_c > self.ambient_c + 25:
            raise ValueError("the coldest spot is far above the ambient; check the two temperatures")
        return self


class Hose(Sheet):
    """A hose by nominal bore, length, kind and age."""

    size: str = "3/8 in"
    length_m: float = Field(1.5, gt=0.05, le=30)
    kind: Literal["vacuum", "pressure"] = "vacuum"
    age: Literal["new", "used", "old"] = "used"
    depressor: bool = False

    @field_validator("size")
    @classmethod
    def _known(cls, size: str) -> str:
        if size not in HOSE_SIZES:
            raise ValueError(f"no hose of bore '{size}'; choose one of {', '.join(HOSE_SIZES)}")
        return size


class Path(Sheet):
    """One way from the pump (or manifold) to a port of the system."""

    port: Side = "suction"
    hose: Hose = Hose()
    tool: bool = True
    core: Literal["in", "out"] = "out"

    @model_validator(mode="after")
    def _core(self) -> Path:
        if self.core == "out" and not self.tool:
            raise ValueError(f"the core at the {self.port} port is out but there is no core tool to put it back with")
        return self


class Pump(Sheet):
    """The pump: plate displacement, measured blank-off if there is one, state of its oil."""

    plate_cfm: float = Field(5.0, ge=0.5, le=60)
    blank_off_micron: float | None = Field(None, ge=1, le=20_000)
    oil: Literal["fresh", "used", "wet"] = "fresh"
    name: Text = ""


class Gauge(Sheet):
    """The micron gauge, where it sits, whether a valve of its own stands under it."""

    place: GaugePlace = "tool:suction"
    own_valve: bool = True
    resolution_micron: float = Field(1.0, gt=0, le=1000)
    over_micron: float = Field(20_000.0, ge=1000, le=800_000)
    noise_pct: float = Field(0.4, ge=0, le=20)
    name: Text = ""


class Rig(Sheet):
    """Pump, hoses, tools, gauge, in one line to the system."""

    pump: Pump = Pump()
    manifold: Literal["none", "two-valve", "four-port"] = "none"
    pump_hose: Hose = Hose()
    paths: tuple[Path, ...] = Field((Path(),), min_length=1, max_length=2)
    gauge: Gauge = Gauge()

    @model_validator(mode="after")
    def _consistent(self) -> Rig:
        ports = [p.port for p in self.paths]
        if len(set(ports)) != len(ports):
            raise ValueError(f"two hoses go to the {ports[0]} port; give each its own port")
        place = self.gauge.place
        if place == "manifold" and self.manifold == "none":
            raise ValueError("the gauge sits on the manifold, but the rig has none")
        if place.startswith("tool:"):
            side = place.split(":")[1]
            at = [p for p in self.paths if p.port == side]
            if at and not at[0].tool:
                raise ValueError(f"the gauge sits on the tool at the {side} port, but there is none")
        return self


class CriterionChoice(Sheet):
    """The school followed, with its figures; None takes the school's own."""

    school: Literal["code-minimum", "deep-and-flat", "two-limit"] = "deep-and-flat"
    target_micron: float | None = Field(None, gt=0, le=20_000)
    limit_micron: float | None = Field(None, gt=0, le=20_000)
    hold_min: float | None = Field(None, gt=0, le=24 * 60)


class Gate(Sheet):
    """One pre-flight gate: done with evidence, or skipped with a reason."""

    state: Literal["open", "done", "skipped"] = "open"
    note: Text = ""

    @model_validator(mode="after")
    def _reason(self) -> Gate:
        if self.state == "skipped" and not self.note.strip():
            raise ValueError("a skipped check needs its reason")
        return self


class Prove(Sheet):
    """What was proved before the draw."""

    gates: dict[Text, Gate] = {}
    oil: Literal["unknown", "fresh", "dark", "milky"] = "unknown"
    test_start_kpa: float | None = Field(None, ge=0, le=10_000)
    test_end_kpa: float | None = Field(None, ge=0, le=10_000)
    test_start_c: float | None = Field(None, ge=-40, le=80)
    test_end_c: float | None = Field(None, ge=-40, le=80)
    test_minutes: float | None = Field(None, ge=0, le=10_000)


class Release(Sheet):
    """How the vacuum is broken, and what was weighed in."""

    way: Literal["unit-charge", "cylinder"] = "unit-charge"
    weighed_kg: float | None = Field(None, ge=0, le=2000)
    steps_done: tuple[Text, ...] = ()


class Closing(Sheet):
    """Signature and remarks."""

    signed_by: Text = ""
    signed_at: Text = ""
    remarks: Long = ""
    deviation: Long = ""


class Job(Sheet):
    """The whole sheet."""

    format: Literal["rough-draw/job"] = "rough-draw/job"
    version: Literal[1] = 1
    title: Text = ""
    party: Party = Party()
    scope: Scope = Scope()
    rig: Rig = Rig()
    criterion: CriterionChoice = CriterionChoice()
    prove: Prove = Prove()
    release: Release = Release()
    closing: Closing = Closing()
