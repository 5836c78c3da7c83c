"""A sound hand can do every scenario well: none asks for what cannot be done, and none is passed by doing nothing."""

from __future__ import annotations

import inspect
from functools import lru_cache

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.message import Message
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import left_out
from rough_draw.core.practice.scenario import Hidden, Scenario
from rough_draw.core.practice.scoring import marks, total
from rough_draw.scenarios.generator import COUNT, make
from rough_draw.scenarios.handmade import by_hand
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice import before_the_draw, evidence, mending
from rough_draw.standins.practice import expert as expert_module
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.best_choice import Best
from rough_draw.standins.practice.debrief_facts import facts, to_name
from rough_draw.standins.practice.expected import still_wet
from rough_draw.standins.practice.expert import expert
from tests.depth import drawn, first, whole

HAND = by_hand()


@lru_cache
def sound(key: str) -> tuple[Bay, Best | None]:
    """A scenario by hand as a sound hand plays it: the same for every test that asks."""
    return expert(next(s for s in HAND if s.key == key), VAN)


def test_there_are_enough_of_them_and_from_easy_to_mean() -> None:
    assert len(HAND) >= 20
    assert {s.level for s in HAND} == {1, 2, 3, 4, 5}
    assert len({s.key for s in HAND}) == len(HAND) == len({s.title for s in HAND})
    assert any(not s.rigged for s in HAND)
    assert any(s.ends == "release" for s in HAND)


@pytest.mark.parametrize("scenario", first(4, HAND), ids=lambda s: s.key)
def test_a_sound_hand_does_it_well(scenario: Scenario) -> None:
    theirs, best = sound(scenario.key)
    so = facts(theirs, theirs, best)
    found = marks(so)
    assert total(found, so) >= 90, [(m.skill, m.score, m.lines) for m in found]
    # Water, ice and refrigerant take their time, whoever works at it.
    assert theirs.time - scenario.arrive_s < 5 * 3600
    assert not [c.kind for d in theirs.done if not d.before for c in d.said if c.severity == "stop"]
    assert theirs.ended in ("release", "repair")


@pytest.mark.parametrize("scenario", first(4, HAND), ids=lambda s: s.key)
def test_passing_it_unseen_does_not_do(scenario: Scenario) -> None:
    """Straight to the end, everything called tight: never a good score, and a bad one where something is the matter."""
    theirs, best = sound(scenario.key)
    careless = Bay(scenario, VAN)
    careless.do("end:release")
    so = facts(careless, theirs, best)
    found = marks(so)
    assert total(found, so) < 55
    if to_name(careless):
        assert next(m for m in found if m.skill == "diagnosis").score < 30


def test_it_sees_only_what_a_learner_sees() -> None:
    """No name of what is hidden stands in how it plays."""
    for module in (expert_module, before_the_draw, evidence, mending):
        source = inspect.getsource(module)
        for secret in (
            ".hidden",
            "at_work",
            "hold_truth",
            "still_shut",
            "ways_shut",
            ".cause",
            "severity",
            "track.true",
        ):
            assert secret not in source, (module.__name__, secret)


@pytest.mark.parametrize("condition", ["new-dry", "open-hours"])
def test_what_it_expects_comes_from_the_sheet_alone(condition: str) -> None:
    """The same sheet with all sorts of things hidden in it: one expectation."""
    plain = make(5, 2)
    scope = plain.sheet.scope.model_copy(update={"condition": condition, "open_hours": 20.0, "humidity_pct": 90.0})
    sheet = plain.sheet.model_copy(update={"scope": scope})
    found = set()
    for hidden in ({}, {"faults": [{"key": "water", "severity": 2}]}, {"unknowns": {"water": 3.0}, "seed": 9}):
        told = plain.model_copy(update={"sheet": sheet, "hidden": Hidden.model_validate(hidden), "before": ()})
        bay = Bay(told, VAN)
        bay.advance(bay.time + 1200)
        found.add(still_wet(bay))
    assert len(found) == 1
    assert found == {condition == "open-hours"}


@whole
def test_its_tests_can_come_out_negative() -> None:
    outcomes = [d.showed for s in HAND for d in sound(s.key)[0].done if d.kind.startswith("test:")]
    keys = {o.key for o in outcomes if isinstance(o, Message)}
    assert {"shows-no", "shows-yes", "shows-nothing"} <= keys


@settings(max_examples=drawn(8))
@given(st.integers(0, 10**9), st.integers(1, 5))
def test_a_number_makes_the_same_scenario_every_time(seed: int, level: int) -> None:
    one = make(seed, level)
    assert one == make(seed, level)
    assert Scenario.model_validate_json(one.model_dump_json()) == one
    least, most = COUNT[level]
    hidden = len(one.hidden.faults) + bool(one.hidden.shut)
    if one.hidden.shut:
        assert left_out(assemble(one.true_job(), needs_pump=False)), "what is closed cuts something off"
    assert least <= hidden <= most
    Bay(one, VAN)


@pytest.mark.parametrize("seed", first(1, range(4)))
def test_made_scenarios_can_be_done(seed: int) -> None:
    scenario = make(seed, 1 + seed % 5)
    theirs, best = expert(scenario, VAN)
    so = facts(theirs, theirs, best)
    assert total(marks(so), so) >= 80


def test_different_numbers_make_different_jobs() -> None:
    seen = {(tuple(f.key for f in s.hidden.faults), s.sheet.scope.template, s.hidden.shut) for s in map_all()}
    assert len(seen) > 15


def map_all() -> list[Scenario]:
    return [make(n, 1 + n % 5) for n in range(30)]
