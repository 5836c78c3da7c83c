"""A slot against means that have nothing of it: molecules flown one by one, and the linear BGK equation."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.typing import NDArray

from rough_draw.core.physics.gas import M_AIR, M_WATER, MEAN_FREE_PATH_AIR, T_REF, mean_speed, viscosity_air
from rough_draw.core.physics.regime import with_gas
from rough_draw.core.physics.slot import (
    molecular_slot,
    parallel_plates,
    slot_between,
    slot_conductance,
    slot_passage,
    viscous_slot,
)

FloatArray = NDArray[np.float64]
AIR = (M_AIR, viscosity_air(T_REF), T_REF)


def flown(aspect: float, count: int = 60_000, seed: int = 7) -> float:
    """Share of molecules that get through between diffuse plates one apart and ``aspect`` long."""
    rng = np.random.default_rng(seed)

    def thrown(n: int) -> tuple[FloatArray, FloatArray]:
        """Along a surface's normal and along one axis in it, by the cosine law."""
        tilt, turn = np.arcsin(np.sqrt(rng.random(n))), 2 * np.pi * rng.random(n)
        return np.cos(tilt), np.sin(tilt) * np.cos(turn)

    x, y = np.zeros(count), rng.random(count)
    along, across = thrown(count)
    through = 0
    while x.size:
        with np.errstate(divide="ignore"):
            time = np.where(across > 0, (1 - y) / across, -y / across)
        x = x + along * time
        through += int((x >= aspect).sum())
        inside = (x > 0) & (x < aspect)
        y = np.where(across > 0, 1.0, 0.0)[inside]
        x = x[inside]
        normal, along = thrown(x.size)
        across = np.where(y > 0.5, -normal, normal)
    return through / count


def parts(
    gap: float, width: float, length: float, p_up: float, p_down: float, gas: tuple[float, float, float]
) -> tuple[float, float, float]:
    """What a slot carries, and lets diffuse, of a gas between two pressures."""
    passage = with_gas(slot_passage(gap, width, length, gas[2]), gas[0], gas[1])
    return slot_between(passage, gap, length, p_up, p_down)


@pytest.mark.parametrize("aspect", [0.2, 1.0, 5.0, 25.0, 80.0])
def test_berman_agrees_with_molecules_flown_one_by_one(aspect: float) -> None:
    share = parallel_plates(aspect)
    assert flown(aspect) == pytest.approx(share, abs=4 * math.sqrt(share * (1 - share) / 60_000))


def bgk_between_plates(delta: float, cells: int = 240, speeds: int = 40) -> float:
    """Reduced flow between plates of the linear BGK equation, by discrete velocities; ``delta`` = h p/(η v₀).

    c ∂φ/∂y + δ φ = δ u − ½, diffuse plates at y = ±½, u = ∫ φ e^(−c²) dc/√π, G = −2 ∫ u dy.
    """
    nodes, weights = np.polynomial.legendre.leggauss(speeds)
    s = 0.5 * (nodes + 1.0)
    c = 5.0 * s**3
    w = weights * 7.5 * s**2 * np.exp(-c * c) / math.sqrt(math.pi)
    step = 1.0 / cells
    solved = np.eye(cells + 1)
    given = np.zeros(cells + 1)
    for ck, wk in zip(c, w, strict=True):
        q = delta * step / ck
        keep = math.exp(-q)
        whole, far = (1.0 - keep) / delta, (1.0 - (1.0 - keep) / q) / delta
        if q < 1e-4:
            whole, far = step / ck * (1.0 - 0.5 * q), step / ck * (0.5 - q / 6.0)
        swept = np.zeros((cells + 1, cells + 1))
        for i in range(1, cells + 1):
            swept[i] = keep * swept[i - 1]
            swept[i, i - 1] += whole - far
            swept[i, i] += far
        both = swept + swept[::-1, ::-1]
        solved -= wk * delta * both
        given -= 0.5 * wk * both.sum(axis=1)
    u = np.linalg.solve(solved, given)
    return float(-2.0 * step * (u.sum() - 0.5 * (u[0] + u[-1])))


def test_the_yardstick_itself_gives_the_published_flow() -> None:
    # Plane Poiseuille flow, linear BGK: 1.539 at delta = 1, and the viscous limit delta/6 + 1.016 + ...
    assert bgk_between_plates(1.0) == pytest.approx(1.539, rel=3e-3)
    assert bgk_between_plates(10.0) == pytest.approx(2.769, rel=3e-3)


@pytest.mark.parametrize("delta", [0.03, 0.1, 0.5, 1.0, 2.0, 5.0, 20.0])
def test_between_molecular_and_viscous_it_follows_the_kinetic_equation(delta: float) -> None:
    gap, width, length = 0.15e-3, 6.3e-3, 60.0
    molar_mass, eta, t = AIR
    v0 = math.sqrt(2 * 8.314462618 * t / molar_mass)
    p = delta * eta * v0 / gap
    conv, mol, _ = parts(gap, width, length, p, p, AIR)
    c = conv + mol * molecular_slot(gap, width, length, mean_speed(molar_mass, t))
    assert c * 2 * length / (width * gap**2 * v0) == pytest.approx(bgk_between_plates(delta), rel=0.04)


def test_at_the_atmosphere_it_is_choked_like_a_hole() -> None:
    # 20 l/s for each cm² of 0.15 × 6.3 mm, whatever lies below; the slot's own drag takes less than a third off.
    passed = slot_conductance(0.15e-3, 6.3e-3, 12e-3, 101_325.0, 1_000.0)
    assert 0.6 * 0.2 * 0.945 * 1e-3 < passed < 0.2 * 0.945 * 1e-3 * 1.02


def test_in_molecular_flow_it_is_the_holes_share() -> None:
    gap, width, length = 0.2e-3, 6e-3, 10e-3
    hole = 0.25 * gap * width * mean_speed(M_AIR, T_REF)
    assert slot_conductance(gap, width, length, 1e-4, 0.9e-4) == pytest.approx(
        hole * parallel_plates(length / gap), rel=2e-3
    )


@given(gap=st.floats(0.05e-3, 0.3e-3), more=st.floats(1.01, 3.0), p=st.floats(0.5, 1e5), ratio=st.floats(0.01, 0.999))
def test_a_wider_gap_is_never_slower_and_a_longer_slot_never_faster(
    gap: float, more: float, p: float, ratio: float
) -> None:
    base = slot_conductance(gap, 6e-3, 12e-3, p, ratio * p)
    assert slot_conductance(gap * more, 6e-3, 12e-3, p, ratio * p) > base
    assert slot_conductance(gap, 6e-3, 12e-3 * more, p, ratio * p) < base
    assert slot_conductance(gap, 6e-3 * more, 12e-3, p, ratio * p) > base


@pytest.mark.parametrize("pressure", [1e5, 1e3, 30.0, 0.3])
def test_vapour_through_gas_diffuses_as_bosanquet_says(pressure: float) -> None:
    """Water through still air in a slot: between what the walls allow and what the air allows."""
    gap, width, length = 0.15e-3, 6.3e-3, 12e-3
    _, mol, _ = parts(gap, width, length, pressure, pressure, AIR)
    passed = mol * molecular_slot(gap, width, length, mean_speed(M_WATER, T_REF))
    by_air = 2.5 / pressure * gap * width / length
    by_walls = molecular_slot(gap, width, length, mean_speed(M_WATER, T_REF))
    assert passed < min(1.35 * by_air, 1.001 * by_walls)
    assert passed > 0.25 / (1.0 / by_air + 1.0 / by_walls)


def test_a_core_passes_a_small_part_of_what_a_round_bore_of_its_old_estimate_did() -> None:
    """At 200 to 500 µ the slot is four to twenty times tighter than the round 1.5 mm hole it was once taken for."""
    from rough_draw.core.physics.conductance import tube_conductance

    for p in (27.0, 67.0):
        times = tube_conductance(1.5e-3, 10e-3, p, 0.9 * p) / slot_conductance(0.15e-3, 6.3e-3, 12e-3, p, 0.9 * p)
        assert 4 < times < 22


def test_slip_is_seen_where_the_free_path_is_a_tenth_of_the_gap() -> None:
    p = MEAN_FREE_PATH_AIR / (0.1 * 0.15e-3)
    conv, mol, _ = parts(0.15e-3, 6.3e-3, 12e-3, p, p, AIR)
    whole = conv + mol * molecular_slot(0.15e-3, 6.3e-3, 12e-3, mean_speed(M_AIR, T_REF))
    assert whole / viscous_slot(0.15e-3, 6.3e-3, 12e-3, p, AIR[1]) == pytest.approx(
        1 + 6 * 1.016 * 1.1466 * 0.1, rel=0.1
    )
