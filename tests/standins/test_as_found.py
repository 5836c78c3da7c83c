"""How a job is found: looks that find something, hands that make it safe, and what it costs to work on it as it is."""

from __future__ import annotations

import pytest
from pydantic import ValidationError

from rough_draw.core.model.system import ScopeError
from rough_draw.core.practice.composing import check
from rough_draw.core.practice.path import trained
from rough_draw.core.practice.scenario import AS_FOUND, Before, FoundKind, Hidden, Scenario
from rough_draw.core.practice.scoring import marks
from rough_draw.scenarios.handmade import by_hand
from rough_draw.scenarios.sheets import VAN, room, sheet
from rough_draw.scenarios.van import two_hoses
from rough_draw.standins.practice.bay import Bay, played
from rough_draw.standins.practice.debrief_facts import facts
from rough_draw.standins.practice.expert import expert
from tests.told import keys


def scenario(*found: FoundKind, **more: object) -> Scenario:
    scope = room()
    job = sheet("larkspur", "Cold room 9", scope, two_hoses(scope))
    return Scenario.model_validate({"sheet": job, "hidden": Hidden(seed=7, found=found), **more})


def shown(b: Bay, kind: str) -> str:
    return keys(b.do(kind).showed)[0]


def stops(b: Bay) -> list[str]:
    return [c.kind for d in b.done for c in d.said if c.severity == "stop"]


def test_a_second_feed_is_seen_until_it_is_locked_out_too() -> None:
    b = Bay(scenario("second-feed"), VAN)
    assert [shown(b, "look:power") for _ in range(2)] == ["shows-power-live"] * 2
    assert b.left_unsafe() == ("second-feed",)
    assert shown(b, "safe:power") == "shows-locked-too"
    assert shown(b, "look:power") == "shows-power"
    assert b.left_unsafe() == ()
    assert shown(b, "safe:power") == "shows-one-feed"


def test_test_pressure_that_nobody_let_down_goes_into_the_pump() -> None:
    careless, careful = Bay(scenario("pressure"), VAN), Bay(scenario("pressure"), VAN)
    careless.do("pump-on")
    assert "pressure-into-pump" in stops(careless)
    assert shown(careful, "look:pressure") == "shows-pressure-on"
    assert shown(careful, "safe:vent") == "shows-let-down"
    assert shown(careful, "look:pressure") == "shows-pressure"
    careful.do("pump-on")
    assert stops(careful) == []


def test_what_creeps_comes_back_once_and_only_with_time() -> None:
    b = Bay(scenario("creeping"), VAN)
    b.do("safe:vent")
    assert shown(b, "look:pressure") == "shows-pressure", "at once there is nothing to see"
    b.advance(b.time + 300)
    assert shown(b, "look:pressure") == "shows-pressure-on"
    assert b.left_unsafe() == ("creeping",)
    b.do("safe:vent")
    b.advance(b.time + 3000)
    assert shown(b, "look:pressure") == "shows-pressure"
    assert b.left_unsafe() == ()


def test_a_rig_that_is_put_on_under_pressure_is_told_and_takes_it_over() -> None:
    bare = Scenario.model_validate({**scenario("pressure").model_dump(), "rigged": False})
    theirs, best = expert(bare, VAN)
    choice = next(d.choice for d in theirs.done if d.choice is not None)
    b = Bay(bare, VAN)
    assert "loosened-under-pressure" in [c.kind for c in b.do(f"rig:{choice.pattern}", choice).said]
    b.do("pump-on")
    assert "pressure-into-pump" in stops(b)
    assert stops(theirs) == []
    assert best is not None


@pytest.mark.parametrize("found", [("second-feed",), ("pressure",), ("creeping",), AS_FOUND])
def test_a_sound_hand_finds_it_all_and_who_leaves_it_loses_its_points(found: tuple[FoundKind, ...]) -> None:
    theirs, best = expert(scenario(*found), VAN)
    assert theirs.left_unsafe() == ()
    assert stops(theirs) == []
    good = marks(facts(theirs, theirs, best))[0]
    assert good.score == 100
    left = Bay(scenario(*found), VAN)
    left.do("end:later")
    bad = facts(left, theirs, best)
    assert set(bad.left_unsafe) >= set(found) - {"creeping"}
    told = [k for line in marks(bad)[0].lines for k in keys(line)]
    assert {f"mark-left-{k}" for k in bad.left_unsafe} <= set(told)


def test_it_is_played_again_as_it_was() -> None:
    b = Bay(scenario("creeping", "second-feed"), VAN)
    for kind in ("look:power", "safe:vent", "look:oil", "test:ways", "look:pressure"):
        b.do(kind)
        b.advance(b.time + 130)
    again = played(b.scenario, VAN, [(d.at, d.kind, d.choice) for d in b.done])
    again.advance(b.time)
    assert [keys(d.showed) for d in again.done] == [keys(d.showed) for d in b.done]
    assert again.left_unsafe() == b.left_unsafe()


def test_it_trains_proving_and_is_not_composed_on_a_running_pump() -> None:
    assert "prove" in trained(scenario("pressure"))
    with pytest.raises(ScopeError):
        check(scenario("pressure", before=(Before(kind="pump-on"),)))
    check(scenario("pressure"))
    with pytest.raises(ValidationError):
        Hidden.model_validate({"found": ["ghosts"]})


def test_one_scenario_by_hand_has_it() -> None:
    assert any(s.hidden.found for s in by_hand())
