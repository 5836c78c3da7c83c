"""The trend of a draw: how long to a target if it went on as it goes."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.planning.progress import TREND_S, by_trend


@given(start=st.floats(30, 1e4), half=st.floats(60, 1e5), share=st.floats(0.01, 0.99))
def test_a_straight_fall_gets_there_when_its_halves_say(start: float, half: float, share: float) -> None:
    t = np.arange(0.0, 900.0, 5.0)
    p = start * 0.5 ** (t / half)
    found = by_trend(t, p, share * float(p[-1]))
    assert found == pytest.approx(half * -math.log2(share), rel=1e-6)


def test_what_does_not_fall_never_gets_there_and_what_is_there_is_there() -> None:
    t = np.arange(0.0, 900.0, 5.0)
    assert by_trend(t, 30.0 * np.exp(t / 1e6), 20.0) == math.inf
    assert by_trend(t, np.full(t.size, 20.0), 20.0) == 0.0


def test_a_short_run_has_no_trend() -> None:
    t = np.arange(0.0, 0.5 * TREND_S, 5.0)
    assert by_trend(t, np.full(t.size, 40.0), 20.0) is None
    assert by_trend(np.array([]), np.array([]), 20.0) is None


def test_only_the_last_minutes_count() -> None:
    t = np.arange(0.0, 4_000.0, 5.0)
    p = np.where(t < 3_000.0, 1e4 * np.exp(-t / 300.0), 50.0)
    found = by_trend(t, p, 40.0)
    assert found is not None
    assert found > 1e6
