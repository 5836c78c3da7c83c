"""The system to be evacuated as quantities: volume by section, passages between sections, the water in it."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Literal

from rough_draw.core.catalogue import systems as cat
from rough_draw.core.catalogue import tube
from rough_draw.core.catalogue.fluids import OILS
from rough_draw.core.message import Fault, Name, message
from rough_draw.core.physics.quantity import Quantity, add, exact
from rough_draw.core.physics.units import atmosphere_at, kelvin
from rough_draw.core.physics.water import saturation_pressure, vapour_mass
from rough_draw.core.sheet.scope import Link, Scope, Section

EDGE = 1.2816
"""Deviate of the 10 and 90 % points, which a quantity's range is of."""


@dataclass(frozen=True, kw_only=True)
class Space:
    """A section as computed: volume m³, inner wall m², whether it is cold, whether it is to be evacuated."""

    name: str
    label: str
    volume: Quantity
    area: float
    cold: bool = False
    evacuated: bool = True


@dataclass(frozen=True, kw_only=True)
class Passage:
    """A link as computed: its throat m and the length m that goes with it; a check valve passes a → b only.

    Both are quantities by one deviate: ``low`` at its tight end, ``high`` at its wide end.
    """

    name: str
    label: Name
    a: str
    b: str
    bore: Quantity
    length: Quantity
    kind: str = "joint"
    open: bool = True
    one_way: bool = False

    def at(self, z: float) -> tuple[float, float]:
        """Bore and length, m, at a deviate: over 0 is tight."""
        return self.bore.quantile(-z), self.length.quantile(-z)


@dataclass(frozen=True, kw_only=True)
class WaterLoad:
    """Water to be carried off, kg: free and in oil at one place each; ``wall`` kg/m² of walls at 1,500 Pa.

    ``oil_holds`` kg/Pa by Henry's law; ``refrigerant`` kg left in the oil of a compressor that is evacuated with it.
    """

    place: str
    free: Quantity
    wall: Quantity
    oil_place: str
    oil: Quantity
    oil_tau: Quantity
    oil_holds: Quantity
    refrigerant: Quantity
    air: float


@dataclass(frozen=True, kw_only=True)
class SystemModel:
    """Sections, passages, ports and water of one system. ``ports`` maps a port's id to its section."""

    sections: tuple[Space, ...]
    links: tuple[Passage, ...]
    ports: dict[str, str]
    water: WaterLoad
    atmosphere: float
    ambient: float
    coldest: float
    humidity: float
    labels: dict[str, str] = field(default_factory=dict)
    kinds: dict[str, str] = field(default_factory=dict)

    def kind(self, section: str) -> Literal["line", "coil", "vessel"]:
        """What a section is as a place for a puddle."""
        found = self.kinds.get(section)
        if found == "line":
            return "line"
        return "coil" if found in ("evaporator", "condenser", "reheat") else "vessel"

    @property
    def evacuated(self) -> tuple[Space, ...]:
        """Sections that are to be evacuated."""
        return tuple(s for s in self.sections if s.evacuated)

    def volume(self) -> Quantity:
        """Total internal volume, m³, of what is to be evacuated."""
        return add([s.volume for s in self.evacuated], "m³", "sum of the sections")

    def water_total(self) -> Quantity:
        """Free, wall-held and oil-held water together, kg."""
        walls = self.water.wall.times(sum(s.area for s in self.evacuated))
        return add([self.water.free, walls, self.water.oil], "kg", "sum over places")


class ScopeError(Fault):
    """The sheet cannot be computed; the message says what and what to do, ``place`` where."""


def line_volume(size: str, length_m: float) -> Quantity:
    """Internal volume, m³, of a copper line: π/4 d² l, ±2 % for wall tolerance."""
    v = 0.25 * math.pi * tube.bore(size) ** 2 * length_m
    return Quantity(v, 0.98 * v, 1.02 * v, "m³", tube.source(size))


_PER_KW = {
    "evaporator": cat.EVAPORATOR_PER_KW,
    "condenser": cat.CONDENSER_PER_KW,
    "reheat": cat.REHEAT_PER_KW,
    "compressor": cat.COMPRESSOR_PER_KW,
}


def section_volume(s: Section) -> Quantity:
    """Volume, m³, of a section: typed in, from its tube, or by capacity with a range."""
    if s.volume_l is not None:
        return exact(s.volume_l * 1e-3, "m³", "typed in")
    if s.kind == "line":
        return line_volume(s.size, s.length_m)
    if s.kind == "drier":
        return cat.DRIER_VOLUME
    return _PER_KW[s.kind].times(s.capacity_kw)


def wall_area(s: Section, volume: float) -> float:
    """Inner wall, m²: π d l of a line, 4 V/d of a coil's tubes, 6 V^⅔ of a vessel (a cube's, the least is 4.8)."""
    if s.kind == "line":
        return math.pi * tube.bore(s.size) * s.length_m
    if s.kind in ("evaporator", "condenser", "reheat"):
        return 4.0 * volume / cat.COIL_TUBE_BORE.value
    return float(6.0 * volume ** (2.0 / 3.0))


def _way(s: Section, other: Section) -> tuple[Quantity, Quantity]:
    """Bore and length, m, of half the way through a section toward a neighbour."""
    if s.kind == "line":
        return exact(tube.bore(s.size), "m", tube.source(s.size)), exact(0.5 * s.length_m, "m", "on the sheet")
    bore = tube.bore(other.size) if other.kind == "line" else 0.016
    if s.kind in ("evaporator", "condenser", "reheat"):
        return cat.COIL_BORE_SHARE.times(bore), cat.COIL_PATH
    return exact(bore, "m", "as its neighbour"), cat.VESSEL_PATH


def _narrowest(pieces: list[tuple[Quantity, Quantity]], z: float) -> tuple[float, float]:
    """Bore and length, m, of pieces in series at a deviate of their sizes (over 0 wide and short)."""
    sized = [(d.quantile(z), x.quantile(-z)) for d, x in pieces]
    bore = min(d for d, _ in sized)
    return bore, sum(x * (bore / d) ** 4 for d, x in sized)


def passage(link: Link, a: Section, b: Section) -> Passage:
    """One tube that passes as much as the link and half of either section in series.

    The narrowest bore leads; other pieces are added as lengths of it, l (d/dᵢ)⁴ (laminar flow; a line of two
    bores is reckoned a little too free in molecular flow, where the power is 3).
    """
    pieces = [_way(a, b), _way(b, a)]
    if link.kind != "joint":
        own = cat.LINKS[link.kind]
        throat = exact(link.bore_mm * 1e-3, "m", "on the sheet") if link.bore_mm else own.bore
        pieces.append((throat, own.length))
    elif link.bore_mm:
        pieces.append((exact(link.bore_mm * 1e-3, "m", "on the sheet"), exact(0.05, "m", "a joint")))
    tight, usual, wide = (_narrowest(pieces, z) for z in (-EDGE, 0.0, EDGE))
    one_way = link.kind == "check-valve"
    return Passage(
        name=link.id,
        label=link.words(),
        a=link.a,
        b=link.b,
        bore=Quantity(usual[0], tight[0], wide[0], "m", "estimate: its narrowest piece"),
        length=Quantity(usual[1], tight[1], wide[1], "m", "estimate: its pieces as lengths of the narrowest"),
        kind=link.kind,
        open=link.open,
        one_way=one_way,
    )


def _water(scope: Scope, spaces: list[Space], total: float) -> WaterLoad:
    inside = [s for s in spaces if s.evacuated] or spaces
    by_kind = {s.id: s.kind for s in scope.sections}
    cold = next((s.name for s in inside if s.cold), inside[0].name)
    shell = next((s.name for s in inside if by_kind[s.name] == "compressor"), None)
    oil = OILS[scope.oil]
    oil_kg = exact(scope.oil_kg, "kg", "typed in") if shell else cat.OIL_LEFT_IN_COIL.times(scope.oil_kg)
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
    new = scope.condition == "new-dry"
    wall = cat.WALL_WATER.times(cat.WALL_DRY if new else 1.0)
    # Oil of a machine that has run holds refrigerant; so does none that came with a dry charge of nitrogen.
    left = cat.REFRIGERANT_IN_OIL.times(scope.oil_kg if shell is not None and not new else 0.0)
    saturated = saturation_pressure(kelvin(scope.ambient_c))
    air = vapour_mass(total, phi, kelvin(scope.ambient_c))
    wet = scope.water_section if any(s.name == scope.water_section for s in inside) else cold
    return WaterLoad(
        place=wet or cold,
        free=free,
        wall=wall,
        oil_place=shell or cold,
        oil=in_oil,
        oil_tau=oil.tau,
        oil_holds=oil.ppm_most.times(1e-6 * oil_kg.value / saturated),
        refrigerant=left,
        air=air,
    )


def atmosphere_of(scope: Scope) -> float:
    """Local atmosphere, Pa: the typed barometer, or the standard one at the elevation."""
    return scope.barometer_hpa * 100.0 if scope.barometer_hpa is not None else atmosphere_at(scope.elevation_m)


def build_system(scope: Scope) -> SystemModel:
    """Sections, passages, ports and water from the scope. Raises ScopeError where it cannot be computed."""
    if not any(not s.holds_charge for s in scope.sections):
        raise ScopeError(message("sheet-all-kept"), "scope.sections")
    if not scope.ports:
        raise ScopeError(message("sheet-no-port"), "scope.ports")
    spaces = []
    for s in scope.sections:
        volume = section_volume(s)
        area = wall_area(s, volume.value)
        spaces.append(
            Space(name=s.id, label=s.words(), volume=volume, area=area, cold=s.cold, evacuated=not s.holds_charge)
        )
    if scope.volume_l is not None:
        known = scope.volume_l * 1e-3
        now = sum(s.volume.value for s in spaces if s.evacuated)
        spaces = [
            Space(
                name=s.name,
                label=s.label,
                volume=exact(s.volume.value * known / now, "m³", "measured volume, shared out")
                if s.evacuated
                else s.volume,
                area=s.area,
                cold=s.cold,
                evacuated=s.evacuated,
            )
            for s in spaces
        ]
    by_id = {s.id: s for s in scope.sections}
    total = sum(s.volume.value for s in spaces if s.evacuated)
    atmosphere = atmosphere_of(scope)
    vapour = scope.humidity_pct / 100.0 * saturation_pressure(kelvin(scope.ambient_c))
    return SystemModel(
        sections=tuple(spaces),
        links=tuple(passage(x, by_id[x.a], by_id[x.b]) for x in scope.links),
        ports={p.id: p.section for p in scope.ports},
        water=_water(scope, spaces, total),
        atmosphere=atmosphere,
        ambient=kelvin(scope.ambient_c),
        coldest=kelvin(scope.coldest_c),
        humidity=min(0.9, vapour / atmosphere),
        labels={s.name: s.label for s in spaces},
        kinds={s.id: s.kind for s in scope.sections},
    )
