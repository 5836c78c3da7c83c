"""What is to be evacuated: its sections, what joins and shuts them, its ports, and the state it is in.

Units are in the names. The system is a graph: sections hold volume, links join them and may be shut,
ports are where a rig can be screwed on.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from rough_draw.core.catalogue.fluids import OILS, REFRIGERANTS, UNTABLED_40C, Refrigerant
from rough_draw.core.catalogue.tube import SIZES
from rough_draw.core.message import Name, message
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.sheet.base import Sheet, Slug, Text, fault, one_of, unique

Condition = Literal["new-dry", "open-hours", "leak-drawn-air", "compressor-burnt", "flooded"]
SectionKind = Literal["line", "evaporator", "condenser", "reheat", "compressor", "vessel", "drier", "cylinder"]
LinkKind = Literal[
    "joint",
    "service-valve",
    "ball-valve",
    "solenoid",
    "expansion-valve",
    "thermostatic-valve",
    "capillary",
    "check-valve",
    "reheat-valve",
    "filter-drier",
]
Side = Literal["suction", "discharge", "liquid", "other"]
PortSize = Literal["1/4 in", "5/16 in", "3/8 in", "1/2 in"]


class Section(Sheet):
    """One part of the system at one pressure.

    A line has size and length; a coil or a compressor its capacity; a vessel or cylinder its volume. ``volume_l``
    overrides what would be estimated. ``cold``: the coldest spot lies here. ``holds_charge``: it keeps its
    refrigerant and is to stay shut off.
    """

    id: Slug
    name: Text = ""
    kind: SectionKind = "line"
    side: Side = "other"
    size: Annotated[str, one_of(SIZES, "tube-size", "size")] = "3/8 in"
    length_m: float = Field(10.0, gt=0, le=500)
    capacity_kw: float = Field(0.0, ge=0, le=2000)
    volume_l: float | None = Field(None, gt=0.0005, le=5000)
    cold: bool = False
    holds_charge: bool = False

    @model_validator(mode="after")
    def _sized(self) -> Section:
        here = f"scope.sections.{self.id}"
        needs_capacity = self.kind in ("evaporator", "condenser", "reheat", "compressor")
        if needs_capacity and self.volume_l is None and self.capacity_kw <= 0:
            raise fault(here, "needs-capacity", section=self.words())
        if self.kind in ("vessel", "cylinder") and self.volume_l is None:
            raise fault(here, "needs-volume", section=self.words())
        return self

    def words(self) -> str:
        """Its name, or its id where it has none."""
        return self.name or self.id.replace("-", " ")


class Link(Sheet):
    """What joins two sections. A check valve passes from ``a`` to ``b`` only. ``bore_mm`` overrides the catalogue.

    ``stem``: how a service valve is turned. A hex key: closed, or open to the stop. A square stem: front-seated, in the
    middle, back-seated, which shuts its gauge port.
    """

    id: Slug
    name: Text = ""
    kind: LinkKind = "joint"
    a: Slug
    b: Slug
    open: bool = True
    stem: Literal["hex-key", "stem"] = "hex-key"
    bore_mm: float | None = Field(None, gt=0.2, le=150)
    note: Text = ""

    def words(self) -> Name:
        """Its name, or its kind where it has none."""
        return self.name or message(f"link-{self.kind}")


class Port(Sheet):
    """A service port: where it sits, its size, whether it has a valve core, whether a tool fits only with effort."""

    id: Slug
    name: Text = ""
    section: Slug
    side: Side = "suction"
    size: PortSize = "1/4 in"
    core: bool = True
    cramped: bool = False

    def words(self) -> Name:
        """Its name, or the side it is on."""
        return self.name or message("port-by-id", id=self.id.replace("-", " "))


class AddedRefrigerant(Sheet):
    """A refrigerant that no table here has, by its data sheet.

    ``safety``: its class by ISO 817. ``pressure_40c_kpa`` absolute, its bubble point at 40 °C.
    """

    safety: Literal["A1", "A2L", "A2", "A3", "B1", "B2L", "B2", "B3"] = "A1"
    molar_mass_g: float = Field(90.0, ge=2, le=400)
    pressure_40c_kpa: float | None = Field(None, gt=10, le=20_000)
    zeotropic: bool = True


class Scope(Sheet):
    """What is to be evacuated, and what state it is in.

    ``added``: the data of ``refrigerant`` where the catalogue does not have it; of one that it has, the catalogue's
    own stand.
    """

    template: Slug = "cooler"
    sections: tuple[Section, ...] = Field((), max_length=60)
    links: tuple[Link, ...] = Field((), max_length=90)
    ports: tuple[Port, ...] = Field((), max_length=12)
    refrigerant: str = Field("R-448A", min_length=1, max_length=40)
    added: AddedRefrigerant | None = None
    oil: Annotated[str, one_of(OILS, "oil", "name")] = "POE"
    oil_kg: float = Field(1.2, ge=0, le=200)
    condition: Condition = "open-hours"
    open_hours: float = Field(3.0, ge=0, le=8760)
    humidity_pct: float = Field(60.0, ge=0, le=100)
    free_water_g: float | None = Field(None, ge=0, le=20_000)
    water_section: Slug | None = None
    volume_l: float | None = Field(None, gt=0.001, le=10_000)
    ambient_c: float = Field(18.0, ge=-40, le=60)
    coldest_c: float = Field(14.0, ge=-40, le=60)
    elevation_m: float = Field(0.0, ge=-400, le=5500)
    barometer_hpa: float | None = Field(None, ge=450, le=1090)
    low_temperature: bool = False
    custom: Literal["micron", "bar"] = "micron"
    nameplate_kg: float | None = Field(None, gt=0, le=2000)
    included_length_m: float = Field(0.0, ge=0, le=500)
    adder_g_per_m: float | None = Field(None, ge=0, le=5000)
    accessories_g: float = Field(0.0, ge=0, le=100_000)
    held_in_unit_kg: float = Field(0.0, ge=0, le=2000)

    @model_validator(mode="before")
    @classmethod
    def _filled(cls, values: object) -> object:
        """A scope without sections of its own takes those of its template."""
        if isinstance(values, dict) and not values.get("sections"):
            from rough_draw.core.sheet.templates import parts_of

            return {**values, **parts_of(str(values.get("template", "cooler")))}
        return values

    @model_validator(mode="after")
    def _consistent(self) -> Scope:
        if self.added is None and self.refrigerant not in REFRIGERANTS:
            raise fault("scope.refrigerant", "refrigerant", name=self.refrigerant, known=", ".join(REFRIGERANTS))
        if self.coldest_c > self.ambient_c + 25:
            raise fault("scope.coldest_c", "coldest-too-warm")
        unique([s.id for s in self.sections], "scope.sections", "sections")
        unique([x.id for x in self.links], "scope.links", "links")
        unique([p.id for p in self.ports], "scope.ports", "ports")
        known = {s.id for s in self.sections}
        for link in self.links:
            for end in (link.a, link.b):
                if end not in known:
                    raise fault(
                        f"scope.links.{link.id}",
                        "link-joins-nothing",
                        link=link.words(),
                        end=end,
                    )
            if link.a == link.b:
                raise fault(f"scope.links.{link.id}", "link-to-itself", link=link.words(), end=link.a)
        for port in self.ports:
            if port.section not in known:
                raise fault(
                    f"scope.ports.{port.id}",
                    "port-nowhere",
                    port=port.words(),
                    section=port.section,
                )
        if self.water_section is not None and self.water_section not in known:
            raise fault("scope.water_section", "water-nowhere", section=self.water_section)
        return self

    @property
    def fluid(self) -> Refrigerant:
        """The refrigerant: the catalogue's, or as it was added."""
        if self.added is None or self.refrigerant in REFRIGERANTS:
            return REFRIGERANTS[self.refrigerant]
        typed = self.added.pressure_40c_kpa
        return Refrigerant(
            self.refrigerant,
            self.added.safety,
            self.added.molar_mass_g * 1e-3,
            UNTABLED_40C if typed is None else Quantity(typed * 1e3, typed * 0.97e3, typed * 1.03e3, "Pa", "as typed"),
            self.added.zeotropic,
            tabled=False,
        )

    def section(self, name: str) -> Section:
        """A section by its id; KeyError if there is none."""
        return {s.id: s for s in self.sections}[name]

    def port(self, name: str) -> Port | None:
        """A port by its id, or None."""
        return next((p for p in self.ports if p.id == name), None)

    def lines(self, side: Side) -> list[Section]:
        """Copper lines of one side that are to be evacuated."""
        return [s for s in self.sections if s.kind == "line" and s.side == side and not s.holds_charge]
