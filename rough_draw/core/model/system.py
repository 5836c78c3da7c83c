"""The system to be evacuated as quantities: volume by section, passages between sections, the water in it."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from rough_draw.core.catalogue import systems as cat
from rough_draw.core.catalogue import tube
from rough_draw.core.catalogue.fluids import OILS
from rough_draw.core.message import Fault, Name, message
from rough_draw.core.physics.quantity import Quantity, add, exact
from rough_draw.core.physics.units import atmosphere_at, kelvin
from rough_draw.core.physics.water import saturation_pressure, vapour_mass
from rough_draw.core.sheet.scope import Link, Scope, Section


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
    """A link as computed: its throat m and the length m that goes with it; a check valve passes a → b only."""

    name: str
    label: Name
    a: str
    b: str
    bore: float
    length: float
    kind: str = "joint"
    open: bool = True
    one_way: bool = False


@dataclass(frozen=True, kw_only=True)
class WaterLoad:
    """Water to be carried off, kg: free and in oil at one place each, on walls by section."""

    place: str
    free: Quantity
    wall: Quantity
    oil_place: str
    oil: Quantity
    oil_tau: Quantity
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

    @property
    def evacuated(self) -> tuple[Space, ...]:
        """Sections that are to be evacuated."""
        return tuple(s for s in self.sections if s.evacuated)

    def volume(self) -> Quantity:
        """Total internal volume, m³, of what is to be evacuated."""
        return add([s.volume for s in self.evacuated], "m³", "sum of the sections")

    def water_total(self) -> Quantity:
        """Free, wall-held and oil-held water together, kg."""
        return add([self.water.free, self.water.wall, self.water.oil], "kg", "sum over places")


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


def _way(s: Section, other: Section) -> tuple[float, float]:
    """Bore and length, m, of half the way through a section toward a neighbour."""
    if s.kind == "line":
        return tube.bore(s.size), 0.5 * s.length_m
    if s.kind in ("evaporator", "condenser", "reheat"):
        bore = tube.bore(other.size) if other.kind == "line" else 0.016
        return cat.COIL_BORE_SHARE.value * bore, cat.COIL_PATH.value
    bore = tube.bore(other.size) if other.kind == "line" else 0.016
    return bore, cat.VESSEL_PATH.value


def passage(link: Link, a: Section, b: Section) -> Passage:
    """One tube that passes as much as the link and half of either section in series.

    The narrowest bore leads; other pieces are added as lengths of it, l (d/dᵢ)⁴ (laminar flow; a line of two
    bores is reckoned a little too free in molecular flow, where the power is 3).
    """
    pieces = [_way(a, b), _way(b, a)]
    if link.kind != "joint":
        own = cat.LINKS[link.kind]
        pieces.append((link.bore_mm * 1e-3 if link.bore_mm else own.bore.value, own.length.value))
    elif link.bore_mm:
        pieces.append((link.bore_mm * 1e-3, 0.05))
    bore = min(d for d, _ in pieces)
    length = sum(x * (bore / d) ** 4 for d, x in pieces)
    one_way = link.kind == "check-valve"
    return Passage(
        name=link.id,
        label=link.words(),
        a=link.a,
        b=link.b,
        bore=bore,
        length=length,
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
    wet_share = 0.2 if scope.condition == "new-dry" else 1.0
    wall = cat.WALL_WATER.times(sum(s.area for s in inside) * wet_share)
    air = vapour_mass(total, phi, kelvin(scope.ambient_c))
    wet = scope.water_section if any(s.name == scope.water_section for s in inside) else cold
    return WaterLoad(
        place=wet or cold, free=free, wall=wall, oil_place=shell or cold, oil=in_oil, oil_tau=oil.tau, air=air
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
    )
