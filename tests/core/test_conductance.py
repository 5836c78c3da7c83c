"""Conductance against handbook values, and in its limits."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.physics import aperture, regime
from rough_draw.core.physics import conductance as c
from rough_draw.core.physics.gas import M_AIR, mean_speed, viscosity_air

T = 293.15
AIR = (M_AIR, viscosity_air(T), T)
SPEED = mean_speed(M_AIR, T)


def test_molecular_tube_1_cm_by_1_m() -> None:
    assert c.molecular_tube(0.01, 1.0, SPEED) * 1e3 == pytest.approx(0.121, rel=5e-3)


def test_knudsen_at_1_mbar() -> None:
    # 135 d⁴/l p̄ + 12.1 d³/l (1 + 192 d p̄)/(1 + 237 d p̄) with d = 1 cm, l = 100 cm, p̄ = 1 mbar.
    viscous = c.viscous_tube(0.01, 1.0, 100.0, viscosity_air(T)) * 1e3
    assert viscous == pytest.approx(1.35, rel=0.01)
    molecular = c.molecular_tube(0.01, 1.0, SPEED) * regime.slip_factor(1.0) * 1e3
    assert molecular == pytest.approx(0.0980, rel=0.01)
    assert c.knudsen_long_tube(0.01, 1.0, 100.0) * 1e3 == pytest.approx(1.448, rel=0.01)


def test_molecular_aperture_1_cm2() -> None:
    assert aperture.molecular_aperture(1e-4, SPEED) * 1e3 == pytest.approx(11.6, rel=5e-3)


def test_choked_aperture_passes_20_litres_a_second_per_cm2() -> None:
    assert aperture.viscous_aperture(1e-4, 0.0, M_AIR, T) * 1e3 == pytest.approx(20.0, rel=1e-3)
    # Throughput per upstream pressure stays the same for any choked ratio.
    q = [aperture.viscous_aperture(1e-4, r, M_AIR, T) * (1 - r) for r in (0.1, 0.3, 0.5)]
    assert max(q) == pytest.approx(min(q), rel=1e-9)


def test_aperture_formula_joins_at_the_critical_ratio() -> None:
    below = aperture.viscous_aperture(1e-4, 0.5279, M_AIR, T)
    above = aperture.viscous_aperture(1e-4, 0.5281, M_AIR, T)
    assert above == pytest.approx(below, rel=0.01)


def test_turbulent_flow_against_darcy() -> None:
    # 5 kPa down a 10 mm, 2 m tube at about 1 bar: Darcy with Blasius friction by hand gives Q = 66.7 Pa·m³/s.
    p1, p2, d, length = 101_325.0, 96_325.0, 0.01, 2.0
    q = c.turbulent_throughput(d, length, p1, p2, AIR)
    rho = 0.5 * (p1 + p2) * M_AIR / (8.314 * T)
    velocity = q / (0.5 * (p1 + p2)) / (math.pi / 4 * d**2)
    re = rho * velocity * d / viscosity_air(T)
    assert 3000 < re < 1e5
    drop = 0.3164 * re**-0.25 * length / d * 0.5 * rho * velocity**2
    assert drop == pytest.approx(p1 - p2, rel=0.01)


def test_a_long_thin_tube_keeps_knudsen_alone() -> None:
    whole = c.tube_conductance(0.004, 5.0, 80.0, 60.0)
    assert whole == pytest.approx(c.knudsen_long_tube(0.004, 5.0, 70.0), rel=0.02)


def test_a_short_tube_is_held_by_its_entrance() -> None:
    hole = aperture.molecular_aperture(math.pi / 4 * 0.01**2, SPEED)
    assert c.tube_conductance(0.01, 1e-5, 0.01, 0.0) == pytest.approx(hole, rel=0.02)


def test_never_faster_than_choked() -> None:
    area = math.pi / 4 * 0.008**2
    q = c.tube_conductance(0.008, 0.05, 101_325.0, 1_000.0) * (101_325 - 1_000)
    assert q <= 200.0 * area * 101_325


@given(st.floats(1e-3, 0.03), st.floats(1.02, 2.0), st.floats(0.01, 5), st.floats(0.1, 9e4), st.floats(0.05, 0.98))
def test_more_bore_never_passes_less(d: float, wider: float, length: float, p: float, ratio: float) -> None:
    assert c.tube_conductance(d * wider, length, p, ratio * p) > c.tube_conductance(d, length, p, ratio * p)


@given(st.floats(1e-3, 0.03), st.floats(0.01, 5), st.floats(1.05, 3), st.floats(0.1, 9e4), st.floats(0.05, 0.98))
def test_more_length_never_passes_more(d: float, length: float, longer: float, p: float, ratio: float) -> None:
    assert c.tube_conductance(d, length * longer, p, ratio * p) < c.tube_conductance(d, length, p, ratio * p)


def test_series() -> None:
    assert c.series(2.0, 2.0) == pytest.approx(1.0)
    assert c.series(1.0, 0.0) == 0.0
