"""A job that begins with a working unit: pumped down, watched, closed in time; and every way of doing it wrong."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from rough_draw.core.catalogue.working_unit import DEEPEST, FALLS_S
from rough_draw.core.message import Figure, Message
from rough_draw.core.practice.low_side import LowSide
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.practice.scoring import marks
from rough_draw.scenarios.handmade import by_hand
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.bay import Bay, played
from rough_draw.standins.practice.debrief_facts import facts
from rough_draw.standins.practice.expert import expert
from rough_draw.standins.practice.offers import groups
from rough_draw.standins.practice.session_log import CannotDo
from tests.depth import drawn
from tests.told import keys

SCENARIO = next(s for s in by_hand() if s.working)
LIQUID, SUCTION = (f"system.{side}-service" for side in ("liquid", "suction"))
THEIRS, BEST = expert(SCENARIO, VAN)
CHOICE = next(d.choice for d in THEIRS.done if d.choice is not None)
BEFORE = ("check-room", "gauges-on", "start", f"shut:{LIQUID}")


def bay(*deeds: str) -> Bay:
    b = Bay(SCENARIO, VAN)
    for kind in deeds:
        b.do(kind)
    return b


def suction(b: Bay) -> float:
    """Gauge pressure that is seen, Pa."""
    showed = b.do("watch-suction").showed
    assert isinstance(showed, Message)
    figure = dict(showed.values)["pressure"]
    assert isinstance(figure, Figure)
    return figure.value


def rig_on(b: Bay) -> list[str]:
    return [c.kind for c in b.do(f"rig:{CHOICE.pattern}", CHOICE).said]


def pumped_down(b: Bay) -> Bay:
    while suction(b) > 35_000:
        b.advance(b.time + 5)
    for kind in (f"shut:{SUCTION}", "stop-unit"):
        b.do(kind)
    return b


def test_the_low_side_falls_as_its_closed_form_says() -> None:
    low = LowSide(at=0.0, pa=5e5, still=1e6, air=1e5, running=True, liquid_open=False)
    goal = DEEPEST.value * 1e5
    for t in (10.0, 60.0, 300.0):
        assert low.later(t).pa == pytest.approx(goal + (5e5 - goal) * math.exp(-t / FALLS_S.value))
    by_steps = low
    for n in range(1, 301):
        by_steps = by_steps.later(float(n))
    assert by_steps.pa == pytest.approx(low.later(300.0).pa)


def test_closed_in_time_it_stands_and_the_rig_goes_on_without_a_word() -> None:
    b = pumped_down(bay(*BEFORE))
    first = suction(b)
    b.advance(b.time + 600)
    assert suction(b) == pytest.approx(first, abs=1.0)
    assert 0 < first < 20_000
    b.do("look:power")
    assert keys(b.do("look:pressure").showed)[0] == "shows-pressure"
    assert rig_on(b) == []
    assert not [c for d in b.done for c in d.said if c.severity == "stop"]


def test_left_open_the_charge_comes_back() -> None:
    b = bay(*BEFORE)
    b.advance(b.time + 150)
    low = suction(b)
    b.do("stop-unit")
    b.advance(b.time + 300)
    assert suction(b) > low + 200_000
    assert keys(b.do("look:pressure").showed)[0] == "shows-charged"
    assert rig_on(b) == ["venting"]


def test_pulled_under_nothing_it_draws_air() -> None:
    b = bay(*BEFORE)
    b.advance(b.time + 900)
    assert suction(b) < 0
    assert "below-zero" in [c.kind for c in b.do(f"shut:{SUCTION}").said if c.severity == "stop"]


@pytest.mark.parametrize("left_out", ["start", f"shut:{LIQUID}"])
def test_without_pump_or_valve_nothing_is_emptied(left_out: str) -> None:
    b = bay(*(k for k in BEFORE if k != left_out))
    b.advance(b.time + 600)
    assert suction(b) > 100_000
    for kind in (f"shut:{SUCTION}", "stop-unit"):
        b.do(kind)
    assert rig_on(b) == ["venting"]


def test_a_receiver_nobody_looked_at_and_a_start_against_a_closed_valve_are_told() -> None:
    b = bay("gauges-on", "start")
    assert [c.kind for c in b.do(f"shut:{LIQUID}").said] == ["room-unseen"]
    b = bay("gauges-on", f"shut:{SUCTION}")
    assert [c.kind for c in b.do("start").said] == ["service-closed"]


def test_without_a_gauge_nothing_is_read_and_locked_out_nothing_starts() -> None:
    b = bay("start")
    assert b.do("watch-suction").showed == ""
    b.do("look:power")
    assert b.low is not None
    assert not b.low.running
    with pytest.raises(CannotDo):
        b.do("start")


def test_a_sound_hand_does_it_and_its_marks_are_full() -> None:
    assert [m.score for m in marks(facts(THEIRS, THEIRS, BEST)) if m.score is not None] == [100.0] * 5
    assert THEIRS.ended == "release"


def test_its_hands_are_offered_while_they_are_wanted_and_not_on_another_job() -> None:
    def kinds(b: Bay) -> set[str]:
        return {d.kind for g in groups(b) for d in g.deeds}

    wanted = {"check-room", "watch-suction", f"shut:{LIQUID}", f"open:{SUCTION}"}
    assert wanted <= kinds(bay())
    other = Bay(SCENARIO.model_copy(update={"working": False}), VAN)
    assert not wanted & kinds(other)
    assert "start" not in kinds(other)


def test_where_nothing_keeps_its_charge_or_a_rig_stands_there_is_no_pump_down() -> None:
    values = SCENARIO.model_dump()
    with pytest.raises(ValidationError):
        Scenario.model_validate({**values, "rigged": True})
    plain = next(s for s in by_hand() if s.ends == "verdict" and not s.hidden.shut).model_dump()
    bare = {
        **plain["sheet"]["scope"],
    }
    kept = any(s["holds_charge"] for s in bare["sections"])
    if not kept:
        with pytest.raises(ValidationError):
            Scenario.model_validate({**plain, "rigged": False, "working": True})


HANDS = (*BEFORE, f"shut:{SUCTION}", f"open:{SUCTION}", f"open:{LIQUID}", "stop-unit", "watch-suction", "look:power")


@settings(max_examples=drawn(15))
@given(st.lists(st.tuples(st.sampled_from(HANDS), st.floats(0, 200)), max_size=12))
def test_any_hands_in_any_order_and_again(picks: list[tuple[str, float]]) -> None:
    b = Bay(SCENARIO, VAN)
    for kind, wait in picks:
        try:
            b.do(kind)
        except CannotDo:
            continue
        b.advance(b.time + wait)
        assert b.low is not None
        assert 0 < b.low.pa <= b.low.still * (1 + 1e-9)
        assert not b.charged, "the unit's own charge is none of a release"
    again = played(SCENARIO, VAN, [(d.at, d.kind, d.choice) for d in b.done])
    assert [d.showed for d in again.done] == [d.showed for d in b.done]
