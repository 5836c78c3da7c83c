"""Water and gas against published values."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.physics import gas, water
from rough_draw.core.physics.units import kelvin, micron


@pytest.mark.parametrize(
    ("celsius", "pa", "microns"),
    [(20.0, 2339, 17_546), (0.01, 611.66, 4_588), (-10.0, 259.9, 1_949)],
)
def test_saturation(celsius: float, pa: float, microns: float) -> None:
    p = water.saturation_pressure(kelvin(celsius))
    assert p == pytest.approx(pa, rel=3e-4)
    assert micron(p) == pytest.approx(microns, rel=3e-4)


def test_boils_at_100_at_one_atmosphere() -> None:
    assert water.boiling_point(101_325) == pytest.approx(373.124, abs=0.01)  # IAPWS-95: 99.974 °C


def test_liquid_and_ice_meet_at_the_triple_point() -> None:
    assert water.saturation_liquid(273.16) == pytest.approx(water.TRIPLE_PA, rel=1e-4)
    assert water.saturation_ice(273.16) == pytest.approx(water.TRIPLE_PA, rel=1e-8)


@given(st.floats(190, 600), st.floats(0.01, 20))
def test_saturation_rises_with_temperature(t: float, more: float) -> None:
    assert water.saturation_pressure(t + more) > water.saturation_pressure(t)


@given(st.floats(-60, 150))
def test_boiling_point_inverts_saturation(celsius: float) -> None:
    t = kelvin(celsius)
    assert water.boiling_point(water.saturation_pressure(t)) == pytest.approx(t, abs=1e-4)


def test_no_boiling_point_at_zero() -> None:
    with pytest.raises(ValueError, match="no boiling point"):
        water.boiling_point(0.0)


def test_a_kilogram_of_water_is_2043_cubic_metres_at_500_micron() -> None:
    assert water.vapour_volume(1.0, kelvin(22), 500 * 0.133322368) == pytest.approx(2043, rel=2e-3)


def test_moist_air_holds_17_grams_at_20_degrees() -> None:
    # Saturated air at 20 °C holds 17.3 g/m³.
    assert water.vapour_mass(1.0, 1.0, kelvin(20)) == pytest.approx(0.0173, rel=0.01)


def test_viscosities() -> None:
    assert gas.viscosity_air(293.15) == pytest.approx(1.82e-5, rel=0.01)
    assert gas.viscosity_water(293.15) == pytest.approx(9.73e-6, rel=0.01)
    assert gas.viscosity_water(373.15) == pytest.approx(12.3e-6, rel=0.03)


def test_mean_speed_of_air_is_463_m_s() -> None:
    assert gas.mean_speed(gas.M_AIR, 293.15) == pytest.approx(463, abs=1)


def test_500_micron_in_a_quarter_inch_hose_is_transitional() -> None:
    kn = gas.knudsen_number(500 * 0.133322368, 0.25 * 0.0254)
    assert kn == pytest.approx(0.016, abs=0.002)
