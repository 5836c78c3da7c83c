"""Published tables: steam, ice, atmosphere, copper tube; and the catalogue's own good order."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from rough_draw.core.catalogue import fluids, rig_parts, systems, tube
from rough_draw.core.physics import units, water
from rough_draw.core.physics.conductance import tube_conductance
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.slot import slot_conductance
from rough_draw.core.physics.units import MICRON_PA, kelvin

STEAM = [
    # °C, Pa: IAPWS-95, saturated liquid
    (0.01, 611.657),
    (5, 872.6),
    (10, 1_228.2),
    (15, 1_705.8),
    (20, 2_339.3),
    (25, 3_169.9),
    (30, 4_247.0),
    (40, 7_384.9),
    (50, 12_352),
    (60, 19_946),
    (70, 31_201),
    (80, 47_414),
    (90, 70_182),
    (100, 101_420),
]

ICE = [
    # °C, Pa: IAPWS R14-08, sublimation
    (-5, 401.8),
    (-10, 259.9),
    (-15, 165.3),
    (-20, 103.3),
    (-30, 38.0),
    (-40, 12.84),
]

ATMOSPHERE = [
    # m, Pa: ISO 2533
    (-400, 106_222),
    (0, 101_325.0),
    (500, 95_460.8),
    (1000, 89_874.6),
    (1500, 84_556.0),
    (2000, 79_495.2),
    (2500, 74_682.5),
    (3000, 70_108.5),
    (4000, 61_640.2),
    (5000, 54_019.9),
]

COPPER = [
    # size, inside diameter in mm from outside diameter and wall: ASTM B280, EN 12735-1
    ("1/4 in", 4.826),
    ("5/16 in", 6.312),
    ("3/8 in", 7.899),
    ("1/2 in", 11.074),
    ("5/8 in", 14.097),
    ("3/4 in", 16.916),
    ("7/8 in", 19.939),
    ("1-1/8 in", 26.035),
    ("1-3/8 in", 32.131),
    ("1-5/8 in", 38.227),
    ("2-1/8 in", 50.419),
    ("2-5/8 in", 62.611),
    ("6 mm", 4.0),
    ("8 mm", 6.0),
    ("10 mm", 8.0),
    ("12 mm", 10.0),
    ("15 mm", 13.0),
    ("16 mm", 14.0),
    ("18 mm", 16.0),
    ("22 mm", 20.0),
    ("28 mm", 25.0),
    ("35 mm", 32.0),
    ("42 mm", 39.0),
    ("54 mm", 50.0),
]

PRESSURES = [
    # value, unit, Pa
    (1, "bar", 1e5),
    (1, "mbar", 100.0),
    (1, "hpa", 100.0),
    (1, "kpa", 1000.0),
    (1, "torr", 133.3224),
    (1, "mmhg", 133.3224),
    (1, "mtorr", 0.1333224),
    (1, "inhg", 3386.389),
    (1, "psi", 6894.757),
    (500, "micron", 66.66118),
    (2.7, "mbar", 270.0),
    (2000, "micron", 266.6447),
]


@pytest.mark.parametrize(("celsius", "pa"), STEAM)
def test_steam_table(celsius: float, pa: float) -> None:
    assert water.saturation_liquid(kelvin(celsius)) == pytest.approx(pa, rel=5e-4)


@pytest.mark.parametrize(("celsius", "pa"), ICE)
def test_ice_table(celsius: float, pa: float) -> None:
    assert water.saturation_pressure(kelvin(celsius)) == pytest.approx(pa, rel=2e-3)


@pytest.mark.parametrize(("metres", "pa"), ATMOSPHERE)
def test_standard_atmosphere(metres: float, pa: float) -> None:
    assert units.atmosphere_at(metres) == pytest.approx(pa, rel=5e-4)


@pytest.mark.parametrize(("size", "bore"), COPPER)
def test_copper_tube(size: str, bore: float) -> None:
    assert tube.bore(size) * 1e3 == pytest.approx(bore, abs=0.002)
    assert tube.source(size).startswith("ASTM" if "in" in size else "EN")


def test_every_tube_size_is_checked() -> None:
    assert {s for s, _ in COPPER} == set(tube.SIZES)


@pytest.mark.parametrize(("value", "unit", "pa"), PRESSURES)
def test_pressure_units(value: float, unit: str, pa: float) -> None:
    assert units.to_pa(value, unit) == pytest.approx(pa, rel=1e-6)


def quantities() -> list[tuple[str, Quantity]]:
    found: list[tuple[str, Quantity]] = []
    for module in (rig_parts, systems):
        for name, value in vars(module).items():
            items = value.items() if isinstance(value, dict) else [("", value)]
            found += [(f"{name} {key}".strip(), q) for key, q in items if isinstance(q, Quantity)]
    for oil in fluids.OILS.values():
        found += [(f"{oil.name} {k}", q) for k, q in vars(oil).items() if isinstance(q, Quantity)]
    for r in fluids.REFRIGERANTS.values():
        found.append((r.name, r.pressure_40c))
    return found


@pytest.mark.parametrize(("name", "q"), quantities(), ids=[n for n, _ in quantities()])
def test_every_parameter_is_ordered_and_sourced(name: str, q: Quantity) -> None:
    assert 0 <= q.low <= q.value <= q.high
    assert q.unit
    assert len(q.source) > 5
    if q.low < q.high:
        assert q.estimate, f"{name} has a range, so it must say that it is an estimate"


@pytest.mark.parametrize("size", rig_parts.HOSE_SIZES)
def test_hose_ends_are_no_wider_than_the_hose(size: str) -> None:
    assert rig_parts.HOSE_END_BORE[size].value <= rig_parts.HOSE_BORE[size].value


@pytest.mark.parametrize("micron", [200, 500, 5_000])
def test_a_core_in_place_is_the_worst_part_of_a_rig(micron: float) -> None:
    """At every pressure that matters a core passes less than a long hose, a port, a tool, even a depressor."""
    p = micron * MICRON_PA
    core = slot_conductance(
        rig_parts.CORE_GAP.value, rig_parts.CORE_WIDTH.value, rig_parts.CORE_LENGTH.value, p, 0.9 * p
    )
    depressor = slot_conductance(
        rig_parts.DEPRESSOR_GAP.value, rig_parts.DEPRESSOR_WIDTH.value, rig_parts.DEPRESSOR_LENGTH.value, p, 0.9 * p
    )
    ports = [tube_conductance(b.value, rig_parts.PORT_LENGTH.value, p, 0.9 * p) for b in rig_parts.PORT_BORE.values()]
    tools = [tube_conductance(b.value, rig_parts.TOOL_LENGTH.value, p, 0.9 * p) for b in rig_parts.TOOL_BORE.values()]
    hoses = [tube_conductance(b.value, 1.5, p, 0.9 * p) for b in rig_parts.HOSE_BORE.values()]
    assert core < 0.5 * min(depressor, *ports, *tools, *hoses)


@pytest.mark.parametrize("refrigerant", fluids.REFRIGERANTS.values(), ids=lambda r: r.name)
def test_refrigerants_are_plausible(refrigerant: fluids.Refrigerant) -> None:
    assert refrigerant.safety in ("A1", "A2", "A2L", "A3", "B1", "B2L")
    assert refrigerant.flammable == ("2" in refrigerant.safety or "3" in refrigerant.safety)
    assert 0.016 < refrigerant.molar_mass < 0.2
    # Low-pressure chillers at one end, carbon dioxide at the other.
    assert 1.4e5 < refrigerant.pressure_40c.value < 100e5


def test_hygroscopic_oils_take_more_water() -> None:
    thirsty = [o for o in fluids.OILS.values() if o.hygroscopic]
    others = [o for o in fluids.OILS.values() if not o.hygroscopic]
    assert min(o.ppm_most.value for o in thirsty) > 5 * max(o.ppm_most.value for o in others)
    assert min(o.ppm_hour.value for o in thirsty) > 5 * max(o.ppm_hour.value for o in others)


def test_no_trade_mark_signs_anywhere_in_the_catalogue() -> None:
    folder = Path(tube.__file__).parent
    for path in folder.glob("*.py"):
        assert not re.search("[®™©]", path.read_text()), path.name
