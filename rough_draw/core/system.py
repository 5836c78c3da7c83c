"""The system to be evacuated: its sections with volume, the water in it, and where its ports are."""

from __future__ import annotations

import math
from dataclasses import dataclass

from rough_draw.core.catalogue import systems as cat
from rough_draw.core.catalogue import tube
from rough_draw.core.catalogue.fluids import OILS
from rough_draw.core.catalogue.quantity import Quantity, add, exact
from rough_draw.core.job import Line, Scope
from rough_draw.core.units import atmosphere_at, kelvin
from rough_draw.core.water import saturation_pressure, vapour_mass


@dataclass(frozen=True)
class Section:
    """A part of the system at one pressure: name, volume, and the bore by which it is reached."""

    name: str
    label: str
    volume: Quantity
    cold: bool = False


@dataclass(frozen=True)
class Link:
    """A passage between two sections. ``kind``: line, metering or service."""

    name: str
    a: str
    b: str
    bore: Quantity
    length: Quantity
    kind: str = "line"


@dataclass(frozen=True)
class WaterLoad:
    """Water to be carried off, kg, by where it is held, with the section that holds it."""

    place: str
    free: Quantity
    wall: Quantity
    oil: Quantity
    oil_tau: Quantity
    air: float


@dataclass(frozen=True)
class SystemModel:
    """Sections, links, ports and water of one system."""

    sections: tuple[Section, ...]
    links: tuple[Link, ...]
    ports: dict[str, str]
    water: WaterLoad
    atmosphere: float
    ambient: float
    coldest: float
    humidity: float

    def volume(self) -> Quantity:
        """Total internal volume, m³."""
        return add([s.volume for s in self.sections], "m³", "sum of the sections")

    def water_total(self) -> Quantity:
        """Free, wall-held and oil-held water together, kg."""
        return add([self.water.free, self.water.wall, self.water.oil], "kg", "sum over places")


class ScopeError(ValueError):
    """The scope cannot be computed; the message says what and what to do."""


def line_volume(line: Line) -> Quantity:
    """Internal volume, m³, of a copper line: π/4 d² l, ±2 % for wall tolerance."""
    v = 0.25 * math.pi * tube.bore(line.size) ** 2 * line.length_m
    return Quantity(v, 0.98 * v, 1.02 * v, "m³", tube.source(line.size))


def _water(scope: Scope, place: str, inner_area: float, volume: float, oil_kg: Quantity) -> WaterLoad:
    oil = OILS[scope.oil]
    free = cat.FREE_WATER_BY_CONDITION[scope.condition]
    if scope.free_water_g is not None:
        free = exact(scope.free_water_g * 1e-3, "kg", "typed in")
    hours = scope.open_hours if scope.condition != "new-dry" else 0.0
    phi = scope.humidity_pct / 100.0
    taken = oil.ppm_hour.times(hours * phi)
    most = oil.ppm_most.times(max(phi, 0.05))

    def held(z: str) -> float:
        start = getattr(oil.ppm_start, z)
        ppm = min(start + getattr(taken, z), max(start, getattr(most, z)))
        return float(ppm * 1e-6 * getattr(oil_kg, z))

    in_oil = Quantity(held("value"), held("low"), held("high"), "kg", "estimate: oil uptake by hours and humidity")
    wet_share = 0.2 if scope.condition == "new-dry" else 1.0
    wall = cat.WALL_WATER.times(inner_area * wet_share)
    temperature = kelvin(scope.ambient_c)
    return WaterLoad(place, free, wall, in_oil, oil.tau, vapour_mass(volume, phi, temperature))


def _line_link(prefix: str, line: Line, near: str, far: str) -> Link:
    length = exact(line.length_m, "m", "typed in")
    return Link(f"{prefix}-line", near, far, exact(tube.bore(line.size), "m", tube.source(line.size)), length)


def build_system(scope: Scope) -> SystemModel:
    """Sections, links, ports and water from the scope. Raises ScopeError where it cannot be computed."""
    suction, liquid = line_volume(scope.suction), line_volume(scope.liquid)
    area = math.pi * (
        tube.bore(scope.suction.size) * scope.suction.length_m + tube.bore(scope.liquid.size) * scope.liquid.length_m
    )
    evaporator = cat.EVAPORATOR_PER_KW.times(scope.capacity_kw)
    metering = Link("metering", "evaporator", "liquid-far", cat.METERING_BORE, cat.METERING_LENGTH, "metering")
    sections: list[Section] = []
    links: list[Link] = []
    ports = {"suction": "suction", "liquid": "liquid"}
    oil_in = cat.OIL_LEFT_IN_COIL.times(scope.oil_kg)
    place = "evaporator"
    kind = scope.system

    if kind == "cylinder":
        volume = exact((scope.volume_l or 12.0) * 1e-3, "m³", "typed in")
        sections = [Section("cylinder", "cylinder", volume, cold=True)]
        ports = {"suction": "cylinder"}
        place, area, oil_in = "cylinder", 0.4, cat.OIL_LEFT_IN_COIL.times(0.02)
    elif kind == "line-set":
        sections = [
            Section("suction", "suction line", suction, cold=True),
            Section("liquid", "liquid line", liquid),
        ]
        bore = exact(min(tube.bore(scope.liquid.size), 8e-3), "m", "jumper at the far end, liquid line bore")
        length = exact(scope.suction.length_m + scope.liquid.length_m, "m", "both lines end to end")
        links = [Link("jumper", "suction", "liquid", bore, length)]
        place, oil_in = "suction", cat.OIL_LEFT_IN_COIL.times(0.0)
    else:
        if scope.capacity_kw <= 0:
            raise ScopeError("the capacity is zero; type the cooling capacity in kW so that the coil can be sized")
        half_s, half_l = suction.times(0.5), liquid.times(0.5)
        sections = [
            Section("suction", "suction line", half_s),
            Section("evaporator", "evaporator", add([evaporator, half_s], "m³", "coil and half the line"), cold=True),
            Section("liquid-far", "liquid line end", half_l),
            Section("liquid", "liquid line", add([half_l, cat.DRIER_VOLUME], "m³", "half the line and the drier")),
        ]
        if scope.receiver_l:
            receiver = exact(scope.receiver_l * 1e-3, "m³", "typed in")
            sections[-1] = Section("liquid", "liquid line and receiver", add([sections[-1].volume, receiver], "m³", ""))
        links = [
            _line_link("suction", scope.suction, "suction", "evaporator"),
            metering,
            _line_link("liquid", scope.liquid, "liquid", "liquid-far"),
        ]
        area += 4.0 / 9e-3 * evaporator.value  # inner wall of coil tube of 9 mm bore: 4/d per volume
        if kind == "packaged" or scope.condensing_unit_open:
            unit = add(
                [cat.CONDENSER_PER_KW.times(scope.capacity_kw), cat.COMPRESSOR_PER_KW.times(scope.capacity_kw)],
                "m³",
                "condenser and compressor shell",
            )
            sections.append(Section("unit", "condensing unit", unit))
            valve = exact(0.05, "m", "service valve")
            links.append(Link("suction-service", "unit", "suction", cat.SERVICE_VALVE_BORE, valve, "service"))
            links.append(Link("liquid-service", "unit", "liquid", cat.SERVICE_VALVE_BORE, valve, "service"))
            oil_in = exact(scope.oil_kg, "kg", "typed in")
            place = "unit"
    if scope.volume_l is not None and kind != "cylinder":
        known = scope.volume_l * 1e-3
        now = sum(s.volume.value for s in sections)
        sections = [
            Section(s.name, s.label, exact(s.volume.value * known / now, "m³", "measured volume, shared out"), s.cold)
            for s in sections
        ]
    total = sum(s.volume.value for s in sections)
    return SystemModel(
        tuple(sections),
        tuple(links),
        ports,
        _water(scope, place, area, total, oil_in),
        atmosphere_at(scope.elevation_m),
        kelvin(scope.ambient_c),
        kelvin(scope.coldest_c),
        min(
            0.9,
            scope.humidity_pct
            / 100.0
            * saturation_pressure(kelvin(scope.ambient_c))
            / atmosphere_at(scope.elevation_m),
        ),
    )
