"""The simulated holds that the verdict is measured on: their physics by closed forms, and how a verdict is counted."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from bench.holds import KINDS, LIMIT_MICRON, Truth, _layer, _psat, one, saturated
from bench.verdicts import Score, called_tight, contradicts, count, judged, known, merged, right
from rough_draw.core.hold.verdict import no_verdict
from rough_draw.core.physics.units import MICRON_PA, kelvin
from rough_draw.core.physics.water import saturation_pressure

M = MICRON_PA


@pytest.mark.parametrize("celsius", [-12, -5, 0.5, 10, 20, 32])
def test_saturation_of_the_generator_is_another_formula_of_the_same_water(celsius: float) -> None:
    assert _psat(kelvin(celsius)) == pytest.approx(saturation_pressure(kelvin(celsius)), rel=6e-3)


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_a_hold_is_the_same_for_the_same_number(kind: str) -> None:
    a, b = one(77, kind), one(77, kind)
    assert a.truth == b.truth
    assert np.array_equal(a.pressure, b.pressure)
    assert a.truth.kind == kind
    assert a.time[0] == 0.0
    assert np.all(np.diff(a.time) > 0)
    assert a.after.size > 4000


@pytest.mark.parametrize("seed", range(8))
def test_a_leak_rises_by_its_rate(seed: int) -> None:
    case = one(seed, "leak")
    rise = (case.after[4000] - case.after[3000]) / 1000.0 / M
    # A gauge is true to a few hundredths, walls give a little, a hose adds its own, the sun moves a level a little.
    own = case.truth.leak + case.truth.hose
    assert rise == pytest.approx(own, rel=0.08, abs=0.12)


@pytest.mark.parametrize("seed", range(8))
def test_water_ends_at_saturation_and_ice_over_ice(seed: int) -> None:
    for kind in ("water", "ice"):
        case = one(seed, kind)
        top = float(case.after[-1])
        assert top < 1.25 * saturated(case) + 600 * M
        assert case.truth.water
        assert case.truth.settles > LIMIT_MICRON


@pytest.mark.parametrize("seed", range(10))
def test_a_tight_system_stays_under_the_limit(seed: int) -> None:
    case = one(seed, "tight")
    assert case.truth.leak <= 0.01
    assert case.truth.settles < LIMIT_MICRON
    if case.truth.hose == 0.0:
        assert float(case.after[-1]) / M < 1.2 * LIMIT_MICRON


def test_a_layer_that_was_pumped_longer_is_emptier_at_its_surface() -> None:
    short, long = _layer(0.02, 600.0), _layer(0.02, 6000.0)
    assert short[0] > long[0]
    assert np.all(np.diff(short) >= -1e-12)
    assert short[-1] == pytest.approx(1.0, abs=0.05)
    # Diffusion out of a half space: the surface's gradient falls as 1/√t (Crank 1975), to some hundredths.
    assert short[0] / _layer(0.02, 2400.0)[0] == pytest.approx(2.0, rel=0.06)


@pytest.mark.parametrize("quantum", [0.1, 1, 25])
def test_readings_stand_on_the_gauges_steps(quantum: float) -> None:
    case = one(5, "tight", quantum=quantum)
    steps = case.pressure / M / quantum
    whole = np.abs(steps - np.round(steps)) < 1e-6
    # Single bad readings stand anywhere.
    assert whole.mean() > 0.97


TIGHT = Truth("tight", 0.0, 300.0, False, False, 0.0)
LEAK = Truth("leak", 2.0, 300.0, False, False, 0.0)
WET = Truth("water", 0.0, 9000.0, True, False, 0.0)
BOTH = Truth("leak-and-water", 2.0, 9000.0, True, False, 0.0)
OIL = Truth("refrigerant", 0.0, 10_000.0, False, True, 0.0)


@pytest.mark.parametrize(
    ("said", "left", "seen", "truth", "is_right"),
    [
        ("tight-and-dry", (), 0.1, TIGHT, True),
        ("tight-and-dry", (), 0.1, LEAK, False),
        ("tight-and-dry", (), 0.1, OIL, False),
        ("creeping", (), 0.2, replace(LEAK, leak=0.15), True),
        ("creeping", (), 0.2, replace(LEAK, leak=0.25), False),
        ("leak", (), 2.1, LEAK, True),
        ("leak", (), 2.1, TIGHT, False),
        ("leak", (), 2.1, BOTH, False),
        ("leak", ("water",), 2.1, BOTH, True),
        ("leak-and-moisture", (), 2.1, BOTH, True),
        ("leak-and-moisture", (), 2.1, WET, False),
        ("moisture", (), 0.5, WET, True),
        ("moisture", (), 0.5, BOTH, False),
        ("moisture", ("leak",), 0.5, BOTH, True),
        ("moisture", (), 0.5, TIGHT, False),
        ("refrigerant", (), 0.5, OIL, True),
        ("refrigerant", (), 0.5, WET, False),
        ("vapour", (), 0.5, OIL, True),
        ("vapour", (), 0.5, LEAK, False),
        ("shallow", (), 0.1, replace(TIGHT, settles=700.0), True),
        ("hose", ("leak",), 1.0, TIGHT, True),
        ("hose", ("leak",), 1.0, LEAK, False),
    ],
)
def test_a_verdict_is_right_only_if_every_claim_is(
    said: str, left: tuple[str, ...], seen: float, truth: Truth, is_right: bool
) -> None:
    case = replace(one(1, "tight"), truth=truth)
    v = replace(no_verdict(said, (), 1200.0, ""), open=left, detection=seen)
    assert right(v, case) is is_right


def test_passing_a_leak_by_is_counted() -> None:
    v = replace(no_verdict("hose", (), 1200.0, ""), detection=0.5)
    assert called_tight(v, 0.8)
    assert not called_tight(v, 0.4)
    assert called_tight(no_verdict("tight-and-dry", (), 1200.0, ""), 0.4)
    assert not called_tight(no_verdict("not-settled", (), 1200.0, ""), 4.0)


def test_more_of_the_same_is_no_contradiction() -> None:
    wet = replace(no_verdict("moisture", (), 600.0, ""), open=("leak",))
    both = no_verdict("leak-and-moisture", (), 1200.0, "")
    assert not contradicts(wet, both)
    assert contradicts(replace(wet, open=()), both)
    assert contradicts(no_verdict("tight-and-dry", (), 600.0, ""), both)


def test_the_sheet_knows_no_more_than_a_sheet_would() -> None:
    case = one(3, "hose")
    told = known(case, 600.0)
    assert told.hose is not None
    assert told.hose.low < told.hose.value < told.hose.high
    assert told.drawn == case.drawn_s
    assert all(t < 600.0 for t in told.touches)


def test_a_sample_of_holds_is_read_right() -> None:
    whole = Score()
    for seed in range(900, 960):
        count(seed, (), whole)
    assert whole.asked == 60
    assert whole.missed == 0
    assert whole.right >= whole.conclusive - 1
    assert whole.conclusive >= 45
    assert merged([whole, whole]).asked == 120


def test_a_hold_cut_short_is_judged_on_what_was_read() -> None:
    case = one(8, "leak")
    v = judged(case, 400.0)
    assert v.span <= 400.0
