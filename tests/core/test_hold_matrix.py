"""Holds over volumes, gauges, temperatures: the right cause or an honest "not settled"; never tight with a leak."""

from __future__ import annotations

import numpy as np
import pytest

from rough_draw.core.hold.decision import VERDICTS
from rough_draw.core.hold.result import Verdict
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA, kelvin
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet import criteria
from tests.core.test_hold import hold

M = MICRON_PA

TIGHT = [
    # settle µ, its time s, start µ, quantum µ, noise, step s
    (20, 30, 60, 1, 0.002, 1),
    (80, 60, 150, 1, 0.003, 1),
    (150, 120, 180, 1, 0.003, 2),
    (40, 90, 100, 5, 0.002, 5),
    (60, 45, 120, 10, 0.001, 1),
    (100, 60, 200, 0.1, 0.004, 1),
    (30, 200, 90, 1, 0.003, 10),
    (120, 80, 180, 1, 0.006, 3),
]

LEAKS = [
    # µ/s, settle µ, time s, quantum µ, minutes
    (0.5, 60, 60, 1, 20),
    (0.8, 120, 90, 1, 20),
    (1.0, 40, 40, 5, 20),
    (1.5, 200, 120, 1, 15),
    (2.0, 80, 60, 10, 15),
    (3.0, 60, 45, 1, 10),
    (5.0, 100, 80, 25, 10),
    (10.0, 100, 80, 1, 10),
]

WET = [
    # coldest °C, share of saturation, time s, minutes
    (16, 1.0, 250, 25),
    (10, 1.0, 300, 30),
    (22, 1.0, 200, 25),
    (5, 1.0, 350, 35),
    (16, 0.5, 250, 30),
    (16, 0.3, 300, 35),
]


def read(t: np.ndarray, p: np.ndarray, celsius: float = 16, litres: float = 8) -> Verdict:
    volume = Quantity(litres * 1e-3, litres * 0.9e-3, litres * 1.1e-3, "m³", "test")
    return judge_hold(t, p, volume, kelvin(celsius), criteria.STANDARDS["code-minimum"], find_sound=False)


@pytest.mark.parametrize(("settle", "tau", "start", "quantum", "noise", "step"), TIGHT)
def test_tight_over_gauges(settle: float, tau: float, start: float, quantum: float, noise: float, step: float) -> None:
    t, p = hold(settle=settle, tau=tau, start=start, quantum=quantum, noise=noise, step=step)
    v = read(t, p)
    assert v.verdict == "tight-and-dry", v.odds
    assert v.leak.low == 0.0
    assert v.moisture.high == 0.0


@pytest.mark.parametrize(("rate", "settle", "tau", "quantum", "minutes"), LEAKS)
def test_leaks_over_rates_and_gauges(rate: float, settle: float, tau: float, quantum: float, minutes: float) -> None:
    t, p = hold(minutes=minutes, leak=rate, settle=settle, tau=tau, quantum=quantum)
    v = read(t, p)
    assert v.verdict in ("leak", "leak-and-moisture", "not-settled")
    assert v.odds["tight-and-dry"] < 0.01
    if v.verdict == "leak":
        assert v.rate.value == pytest.approx(rate, rel=0.12)


@pytest.mark.parametrize(("celsius", "share", "tau", "minutes"), WET)
def test_water_over_temperatures(celsius: float, share: float, tau: float, minutes: float) -> None:
    level = share * saturation_pressure(kelvin(celsius)) / M
    t, p = hold(minutes=minutes, water=level, tau_water=tau, settle=60)
    v = read(t, p, celsius)
    assert v.odds["tight-and-dry"] < 0.01
    assert v.odds["moisture"] + v.odds["leak-and-moisture"] > 0.9
    assert v.verdict != "leak"


@pytest.mark.parametrize("litres", [0.5, 3, 12, 60, 200])
def test_the_same_rate_is_another_leak_in_another_volume(litres: float) -> None:
    t, p = hold(leak=1.0)
    v = read(t, p, litres=litres)
    assert v.leak.value == pytest.approx(v.rate.value * M * litres * 1e-3, rel=1e-6)
    assert v.leak.low <= v.leak.value <= v.leak.high


def test_rates_lie_in_their_intervals_most_of_the_time() -> None:
    inside = total = 0
    for seed in range(24):
        rate = 0.4 + 0.15 * seed
        v = read(*hold(leak=rate, seed=seed, settle=60 + 8 * seed))
        if v.verdict == "leak":
            total += 1
            inside += v.rate.low * 0.97 <= rate <= v.rate.high * 1.03
    assert total >= 16
    assert inside / total >= 0.8


def test_a_longer_look_at_a_tight_system_stays_tight() -> None:
    t, p = hold(minutes=40)
    names = [read(t[t <= 60 * m], p[t <= 60 * m]).verdict for m in (10, 15, 20, 30, 40)]
    assert set(names[1:]) == {"tight-and-dry"}
    assert names[0] in ("tight-and-dry", "not-settled")


def test_the_sound_moment_is_stable_afterwards() -> None:
    t, p = hold(minutes=30, leak=1.2)
    volume = Quantity(8e-3, 7e-3, 9e-3, "m³", "test")
    v = judge_hold(t, p, volume, kelvin(16), criteria.STANDARDS["code-minimum"])
    assert v.sound_at is not None
    for end in np.linspace(v.sound_at, 1800, 5):
        assert read(t[t <= end + 1], p[t <= end + 1]).verdict == v.verdict


def test_odds_add_up_and_verdicts_are_known() -> None:
    for leak in (0.0, 0.2, 1.0):
        v = read(*hold(leak=leak))
        assert v.verdict in VERDICTS
        assert sum(v.odds.values()) == pytest.approx(1.0)
        assert v.sentence
        best = v.best()
        assert best is not None
        assert np.isfinite(best.curve(np.array([0.0, 600.0, 3600.0]), v.span)).all()
