"""The practice bay: what hands do to the simulated job, and that it can be played again."""

from __future__ import annotations

import math
from typing import Any

import pytest
from pydantic import ValidationError

from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.practice.rig_choice import RigChoice, RigFault, rig_of, slots
from rough_draw.core.practice.scenario import Fault, Hidden, Scenario
from rough_draw.scenarios.handmade import by_hand
from rough_draw.scenarios.sheets import VAN, of_template, room, sheet
from rough_draw.scenarios.van import two_hoses
from rough_draw.standins.practice.bay import Bay, played
from rough_draw.standins.practice.offers import groups
from rough_draw.standins.practice.session_log import CannotDo
from tests.told import keys

SCENARIOS = {s.key: s for s in by_hand()}
CHOICE = RigChoice(pattern="three-tools", parts={"pump": 1, "hose-a": 5, "hose-b": 4, "gauge": 16})


def scenario(*faults: str, **more: Any) -> Scenario:
    scope = room()
    hidden = Hidden(seed=7, faults=tuple(Fault(key=k) for k in faults))
    return Scenario(sheet=sheet("larkspur", "Cold room 9", scope, two_hoses(scope)), hidden=hidden, **more)


def bay(*faults: str, **more: Any) -> Bay:
    return Bay(scenario(*faults, **more), VAN)


def microns(b: Bay) -> float:
    shown = b.shows()
    assert shown is not None
    return shown / MICRON_PA


def drawn(b: Bay, minutes: float = 15.0) -> Bay:
    b.do("pump-on")
    b.advance(b.time + 60 * minutes)
    return b


def test_hands_take_their_time_and_the_gauge_follows() -> None:
    b = bay()
    b.do("look:power")
    assert b.time == pytest.approx(60.0)
    assert b.shows() is None, "over range at the atmosphere"
    drawn(b)
    assert microns(b) < 100
    assert b.highest() < 30.0


def test_wet_oil_stalls_it_and_an_oil_change_mends_it() -> None:
    b = drawn(bay("wet-oil"))
    stalled = microns(b)
    assert stalled > 300
    assert keys(b.do("test:oil").showed)[0] == "shows-yes"
    assert keys(b.do("test:ballast").showed) == ["shows-no"]
    b.do("isolate")
    b.do("pump-off")
    b.do("oil-change")
    b.do("pump-on")
    b.do("reopen")
    b.advance(b.time + 900)
    assert microns(b) < 0.3 * stalled
    assert b.do("test:oil").showed.key == "shows-no"


def test_oil_changed_on_a_running_pump_is_a_stop() -> None:
    b = drawn(bay(), 5)
    assert [c.key for c in b.do("oil-change").said] == ["oil-running"]
    assert "off-before-isolated" in [c.key for c in b.do("pump-off").said]


def test_a_hose_taken_off_lets_the_air_in() -> None:
    b = drawn(bay())
    before = b.highest()
    made = b.do("take-off:hose-a")
    b.advance(b.time + 30)
    assert "air-in" in [c.key for c in made.said]
    assert b.highest() > 100 * before
    shut = drawn(bay())
    shut.do("isolate")
    shut.do("pump-off")
    assert "air-in" not in [c.key for c in shut.do("take-off:hose-a").said]
    shut.advance(shut.time + 60)
    assert shut.highest() < 100.0, "outside the closed tools"


def test_the_true_verdicts_of_holds() -> None:
    def held(*faults: str, minutes: float = 15) -> tuple[str, ...]:
        b = drawn(bay(*faults), minutes)
        b.do("isolate")
        b.do("pump-off")
        b.advance(b.time + 600)
        hold = b.do("verdict:tight").hold
        assert hold is not None
        return hold.verdicts(500 * MICRON_PA)

    assert held() == ("tight",)
    assert held("system-leak") == ("leak",)
    assert held("water") == ("moisture",)
    assert held("water", "system-leak") == ("both",)
    assert held("refrigerant", minutes=30) == ("refrigerant",)


def test_a_shut_section_makes_a_hold_that_cannot_say() -> None:
    b = Bay(SCENARIOS["the-freezer-on-the-quay"], VAN)
    drawn(b, 40)
    assert microns(b) < 300
    assert b.highest() > 90_000, "behind the solenoid it is the atmosphere still"
    assert keys(b.do("test:ways").showed)[0] == "shows-closed"
    b.do("isolate")
    b.do("pump-off")
    hold = b.do("verdict:tight").hold
    assert hold is not None
    assert hold.verdicts(500 * MICRON_PA) == ("not-judged",)
    b.do("pump-on")
    b.do("reopen")
    b.do("open:system.solenoid-1")
    b.do("open:system.solenoid-2")
    b.advance(b.time + 1800)
    assert b.highest() < 300


def test_another_rig_begins_from_the_air_and_leaves_the_old_faults_behind() -> None:
    b = drawn(bay("hose-leak:hose-a", "fouled"))
    b.do("rig:three-tools", CHOICE)
    assert b.highest() > 90_000
    assert not b.pump_on
    assert [c.key for c, _ in b.at_work()] == ["fouled"] or not b.at_work(), "the gauge came off only if it was another"
    assert "hose-leak:hose-a" in b.taken_off


def test_warmth_and_nitrogen_get_ice_out() -> None:
    cold, warm = Bay(SCENARIOS["four-thousand-six-hundred"], VAN), Bay(SCENARIOS["four-thousand-six-hundred"], VAN)
    warm.do("break")
    warm.do("warm-up")
    warm.advance(warm.time + 300)
    warm.do("break-end")
    until = warm.time + 2400
    cold.advance(until)
    warm.advance(until)
    assert warm.water()[-1] < 0.7 * cold.water()[-1]


def test_after_the_charge_there_is_nothing_more_to_read() -> None:
    b = drawn(bay())
    b.do("isolate")
    b.do("pump-off")
    b.do("shut:tool-c")
    b.do("crack:system.suction-service")
    assert b.charged
    b.advance(b.time + 30)
    assert b.shows() is None
    assert "not-seen" in [c.key for c in b.do("core-in:suction").said]
    with pytest.raises(CannotDo, match="cannot-under-pressure"):
        b.do("rig:three-tools", CHOICE)


@pytest.mark.parametrize(
    ("kind", "words"),
    [
        ("dance", "unknown"),
        ("open:nowhere", "no-valve"),
        ("core-in:roof", "no-port"),
        ("take-off:hose-z", "take-off"),
        ("verdict:tight", "not-isolated"),
        ("cause:gremlins", "name"),
        ("rig:three-tools", "which-rig"),
    ],
)
def test_what_cannot_be_done_says_why(kind: str, words: str) -> None:
    with pytest.raises(CannotDo, match=f"^cannot-{words}$"):
        bay().do(kind)


def test_nothing_but_looks_before_there_is_a_rig() -> None:
    b = Bay(SCENARIOS["put-your-own-rig-on"], VAN)
    assert [g.key for g in groups(b)] == ["before"]
    with pytest.raises(CannotDo, match="cannot-no-rig"):
        b.do("pump-on")
    b.do("rig:three-tools", CHOICE)
    assert {"run", "parts", "tests", "mend"} < {g.key for g in groups(b)}
    assert b.told.rig.pump.name == "Pump 1, 8 CFM"


def test_an_ended_job_is_over() -> None:
    b = bay()
    b.do("end:later")
    with pytest.raises(CannotDo, match="cannot-over"):
        b.do("pump-on")


def test_everything_that_is_offered_can_be_done() -> None:
    """Each on a bay of its own, so that one does not stand in another's way."""
    offered = [d.kind for g in groups(drawn(bay(), 1)) for d in g.deeds]
    assert len(offered) > 40
    for kind in offered:
        b = drawn(bay(), 1)
        b.do(kind)
        b.advance(b.time + 10)
        assert all(math.isfinite(b.pressure(n)) for n in b.system_nodes()), kind


def test_a_session_played_again_is_the_same_to_the_last_digit() -> None:
    b = drawn(bay("wet-oil"), 7)
    b.do("test:second")
    b.do("isolate")
    b.do("take-off:hose-b")
    again = played(b.scenario, VAN, [(d.at, d.kind, d.choice) for d in b.done])
    assert again.time == b.time
    assert again.track.at == b.track.at
    assert [x for x in again.track.shown if x == x] == [x for x in b.track.shown if x == x]
    assert again.track.second == b.track.second


def test_hints_go_from_a_nudge_to_the_answer() -> None:
    b = drawn(bay("wet-oil"), 5)
    assert keys(b.do("hint:1").showed) == ["hint-look", "hint-at-pump"]
    assert keys(b.do("hint:2").showed) == ["test-oil"]
    assert "draw-cause-wet-oil" in keys(b.do("hint:3").showed)
    own = drawn(bay("wet-oil", hints=("Think of the weather.",)), 5)
    assert own.do("hint:1").showed == "Think of the weather."
    assert keys(drawn(bay(), 5).do("hint:1").showed) == ["hint-nothing-left"]


def test_rigs_are_put_together_from_the_van_or_refused() -> None:
    job = SCENARIOS["put-your-own-rig-on"].sheet
    assert [s for s, _, _ in slots(job, "three-tools")] == ["pump", "hose-a", "hose-b", "gauge"]
    rig = rig_of(job, CHOICE, VAN).rig
    assert {p.id: p.kit for p in rig.parts if p.kit}["hose-a"] == 5
    for choice, words in (
        (RigChoice(pattern="nothing"), "rig-no-ports"),
        (RigChoice(pattern="three-tools", parts={"pump": 16}), "rig-wrong-part"),
        (RigChoice(pattern="three-tools", parts={"hose-a": 5, "hose-b": 5}), "rig-one-part-twice"),
    ):
        with pytest.raises(RigFault, match=words):
            rig_of(job, choice, VAN)


def test_a_scenario_that_cannot_be_is_refused_with_its_place() -> None:
    good = scenario("wet-oil")
    assert Scenario.model_validate_json(good.model_dump_json()) == good
    with pytest.raises(ValidationError, match="wrong-no-such-fault"):
        scenario("gremlins")
    with pytest.raises(ValidationError, match="wrong-no-such-link"):
        Scenario(sheet=good.sheet, hidden=Hidden(shut=("suction-service",)))
    with pytest.raises(ValidationError, match="wrong-unknown"):
        Hidden(unknowns={"luck": 1.0})
    lines = of_template("line-set")
    with pytest.raises(ValidationError, match="wrong-nothing-to-release"):
        Scenario(sheet=sheet("larkspur", "x", lines, two_hoses(lines)), ends="release")
