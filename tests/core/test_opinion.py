"""No single answer makes anybody sure, and many that agree do."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.diagnosis.diagnosis import marginal
from rough_draw.core.diagnosis.opinion import ONE_ANSWER, WITHOUT, supported

KEYS = ("water", "ice", "system-leak", "water+system-leak", "other")
share = st.one_of(st.floats(1e-4, 1.0), st.floats(-4.0, 0.0).map(lambda x: 10.0**x))
odds_of = st.lists(share, min_size=len(KEYS), max_size=len(KEYS)).map(
    lambda p: dict(zip(KEYS, (float(x) for x in np.array(p) / sum(p)), strict=True))
)
answer_of = st.lists(share, min_size=len(KEYS), max_size=len(KEYS)).map(lambda p: dict(zip(KEYS, p, strict=True)))


def plain(odds: dict[str, float], told: list[dict[str, float]]) -> dict[str, float]:
    p = {k: x * float(np.prod([t[k] for t in told])) for k, x in odds.items()}
    whole = sum(p.values())
    return {k: x / whole for k, x in p.items()}


@given(odds=odds_of, told=st.lists(answer_of, max_size=6))
def test_who_is_sure_is_so_without_any_one_answer(odds: dict[str, float], told: list[dict[str, float]]) -> None:
    found = supported(odds, told)
    assert sum(found.values()) == pytest.approx(1.0)
    assert all(p >= 0 for p in found.values())
    for key, sure in marginal(found).items():
        if sure > ONE_ANSWER + 1e-9:
            for n in range(len(told)):
                assert marginal(plain(odds, [*told[:n], *told[n + 1 :]]))[key] >= WITHOUT - 1e-9


def test_two_causes_at_work_together_want_two_answers_each() -> None:
    """Either answer alone makes sure of one of the two, and both together of both."""
    odds = {"water": 0.3, "ice": 0.2, "system-leak": 0.3, "water+system-leak": 0.1, "other": 0.1}
    wet = {"water": 1.0, "ice": 1e-3, "system-leak": 1e-3, "water+system-leak": 1.0, "other": 1e-3}
    leaks = {"water": 1e-3, "ice": 1e-3, "system-leak": 1.0, "water+system-leak": 1.0, "other": 1e-3}
    assert min(marginal(plain(odds, [wet, leaks]))[k] for k in ("water", "system-leak")) > 0.98
    found = marginal(supported(odds, [wet, leaks]))
    assert found["water"] <= ONE_ANSWER + 1e-9
    assert found["system-leak"] <= ONE_ANSWER + 1e-9
    again = marginal(supported(odds, [wet, wet, leaks, leaks]))
    assert min(again["water"], again["system-leak"]) > 0.98


@given(odds=odds_of, told=st.lists(answer_of, max_size=6))
def test_under_the_cap_it_is_bayes(odds: dict[str, float], told: list[dict[str, float]]) -> None:
    full = plain(odds, told)
    if max(marginal(full).values()) <= ONE_ANSWER:
        assert supported(odds, told) == pytest.approx(full)


def test_a_false_glance_alone_does_not_convince_and_a_second_that_agrees_does() -> None:
    odds = {"shut:a": 0.05, "none": 0.6, "system-leak": 0.35}
    glance = {"shut:a": 0.96, "none": 0.002, "system-leak": 0.002}
    assert marginal(supported(odds, [glance]))["shut:a"] == pytest.approx(ONE_ANSWER)
    assert marginal(supported(odds, [glance, glance]))["shut:a"] > 0.99


def test_what_the_readings_alone_say_is_not_capped() -> None:
    odds = {"water": 0.97, "none": 0.03}
    assert supported(odds, []) == odds
    assert supported(odds, [{"water": 0.9, "none": 0.5}])["water"] > 0.97
