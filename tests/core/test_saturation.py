"""The saturation table against the property library that it is made of, and against itself."""

from __future__ import annotations

import re

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.charging.superheat import temperature_at
from rough_draw.core.physics.refrigerant import COLDEST, hottest, saturated
from scripts import saturation as made
from tests.depth import drawn

NAMES = st.sampled_from(sorted(REFRIGERANTS))


@settings(max_examples=drawn(60))
@given(NAMES, st.floats(0.0, 1.0))
def test_between_its_points_the_table_is_what_the_library_says(name: str, share: float) -> None:
    kelvin = COLDEST + share * (hottest(name) - COLDEST)
    theirs = made.asked(name, kelvin)
    if theirs is None:
        return  # a spot where the library's solver for blends fails: the next test looks at those
    ours = saturated(name, kelvin)
    # Toward the critical point the density falls ever faster, and the cubic follows it less closely.
    near = name in ("R-23", "R-507A", "R-744") and kelvin > hottest(name) - 12.0
    assert ours.bubble == pytest.approx(theirs[0], rel=6e-5 if near else 2e-5)
    assert ours.dew == pytest.approx(theirs[1], rel=6e-5 if near else 2e-5)
    assert ours.liquid_density == pytest.approx(theirs[2], rel=1e-2 if near else 2e-4 if kelvin < 330 else 6e-4)


def test_an_answer_where_the_librarys_solver_finds_none() -> None:
    spot = next(t for t in (312.0 + 0.5 * n for n in range(30)) if made.asked("R-410A", t) is None)
    below, at, above = (saturated("R-410A", spot + d) for d in (-1.0, 0.0, 1.0))
    assert below.bubble < at.bubble < above.bubble
    # Clausius-Clapeyron: nearly straight as a logarithm over 1/T.
    assert at.bubble == pytest.approx((below.bubble * above.bubble) ** 0.5, rel=2e-4)


@given(NAMES, st.floats(0.0, 0.99))
def test_pressures_rise_and_liquid_thins_with_warmth(name: str, share: float) -> None:
    kelvin = COLDEST + share * (hottest(name) - COLDEST)
    cold, warm = saturated(name, kelvin), saturated(name, min(kelvin + 0.3, hottest(name)))
    assert cold.bubble < warm.bubble
    assert cold.dew < warm.dew
    assert cold.liquid_density > warm.liquid_density
    assert cold.dew <= cold.bubble * 1.0001


@given(NAMES, st.floats(0.02, 0.98), st.sampled_from([0, 1]))
def test_temperature_and_pressure_go_both_ways(name: str, share: float, quality: int) -> None:
    kelvin = COLDEST + share * (hottest(name) - COLDEST)
    s = saturated(name, kelvin)
    assert temperature_at(name, s.dew if quality else s.bubble, quality) == pytest.approx(kelvin, abs=2e-3)


def test_the_table_has_every_refrigerant_and_says_where_it_ends() -> None:
    for name in REFRIGERANTS:
        # Two have their critical point under what the others are charged at.
        assert hottest(name) >= {"R-23": 298.0, "R-744": 302.0, "R-422A": 334.0}.get(name, 338.0)
        for outside in (COLDEST - 0.1, hottest(name) + 0.1):
            with pytest.raises(ValueError, match=f"outside .* for {re.escape(name)}"):
                saturated(name, outside)
    with pytest.raises(ValueError, match="no refrigerant 'R-0'"):
        saturated("R-0", 300.0)
