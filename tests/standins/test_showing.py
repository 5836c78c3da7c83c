"""What looks, tests and hints show: every fault by the test that is for it, and by no other that would mislead."""

from __future__ import annotations

import pytest

from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.message import Message, message
from rough_draw.core.practice import actions
from rough_draw.core.practice.scenario import Fault, Hidden, Scenario, possible
from rough_draw.scenarios.sheets import VAN, room, sheet
from rough_draw.scenarios.van import two_hoses
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.observations import hint, looked, outcome
from tests.told import keys

SCOPE = room()
SHEET = sheet("hollow", "Growing room 4", SCOPE, two_hoses(SCOPE))
KEYS = [c.key for c in possible(SHEET)]
NOTHING = (
    "shows-no",
    "shows-nothing",
    "shows-all-open",
    "shows-no-core",
    "shows-no-push",
    "shows-needs-pump",
    "shows-needs-vacuum",
)


def bay(*faults: str, minutes: float = 1.0) -> Bay:
    b = Bay(Scenario(sheet=SHEET, hidden=Hidden(seed=3, faults=tuple(Fault(key=f) for f in faults))), VAN)
    b.do("pump-on")
    b.advance(b.time + 60 * minutes)
    return b


@pytest.mark.parametrize("key", KEYS)
def test_the_test_for_a_fault_shows_it(key: str) -> None:
    test = actions.test_for(key)
    if test is None:
        assert kind_of(key) == "refrigerant", "only the hold and patience show that"
        return
    assert outcome(bay(key), test).key not in NOTHING, (key, test)


@pytest.mark.parametrize("test", sorted(set(actions.TESTS) - {"second", "thumb", "meter"}))
def test_nothing_is_shown_where_nothing_is(test: str) -> None:
    assert outcome(bay(), test).key in NOTHING


@pytest.mark.parametrize("key", KEYS)
def test_a_fault_that_is_mended_is_shown_no_more(key: str) -> None:
    mend, test = actions.mend_for(key), actions.test_for(key)
    if mend is None or test is None:
        return
    b = bay(key)
    b.do(mend)
    assert key not in {c.key for c, _ in b.at_work()}
    assert outcome(b, test).key in NOTHING


def test_the_thumb_feels_gas_at_first_and_not_at_the_end() -> None:
    b = bay(minutes=0.2)
    assert outcome(b, "thumb").key == "shows-pushes"
    b.advance(b.time + 1800)
    assert outcome(b, "thumb").key == "shows-no-push"
    assert outcome(bay("open", minutes=20), "thumb").key == "shows-pushes", "air comes in as fast as it is pumped"


def test_the_ballast_is_seen_as_it_stands() -> None:
    b = bay()
    assert outcome(b, "ballast").key == "shows-no"
    b.do("ballast-open")
    assert outcome(b, "ballast").key == "shows-ballast-open"
    assert outcome(b, "blank").key == "shows-yes"


@pytest.mark.parametrize("test", sorted(actions.TESTS))
def test_a_test_needs_what_it_needs(test: str) -> None:
    """No alcohol finds a leak before the pump has run, and nobody hears a pump that stands."""
    b = Bay(Scenario(sheet=SHEET, hidden=Hidden(seed=3, faults=(Fault(key="system-leak"), Fault(key="wet-oil")))), VAN)
    needs = actions.TESTS[test].needs
    if needs:
        assert outcome(b, test).key in ("shows-needs-pump", "shows-needs-vacuum")
    b.do("pump-on")
    b.advance(b.time + 600)
    assert not outcome(b, test).key.startswith("shows-needs")
    b.do("pump-off")
    assert outcome(b, test).key.startswith("shows-needs-pump") == ("pump" in needs)


@pytest.mark.parametrize("key", KEYS)
def test_evidence_does_not_name_the_cause(key: str) -> None:
    test = actions.test_for(key)
    if test is None:
        return
    b = bay(key)
    named = {c.words.key for c in b.nameable() if c.key == key and isinstance(c.words, Message)}
    assert named
    assert not named & set(keys(outcome(b, test)))


def test_shut_ways_are_named_but_not_while_it_is_isolated() -> None:
    b = bay()
    b.do("shut:tool-a")
    assert outcome(b, "ways") == message("shows-closed", valves=b.board.label("tool-a"))
    b.do("open:tool-a")
    b.do("isolate")
    assert outcome(b, "ways").key == "shows-all-open", "what is closed for the hold is no fault"


def test_a_second_gauge_reads_the_pump_side() -> None:
    b = bay(minutes=15)
    assert outcome(b, "second").key == "shows-pump-level"
    assert outcome(bay(minutes=0.01), "second").key == "shows-pump-over"


def test_looks_before_the_start() -> None:
    assert looked(bay(), "power").key == "shows-power"
    assert looked(bay(), "oil").key == "shows-oil-clear"
    assert looked(bay("wet-oil"), "oil").key == "shows-oil-milky"


@pytest.mark.parametrize("key", KEYS[::3])
def test_hints_lead_on_step_by_step(key: str) -> None:
    b = bay(key)
    first, second, third = (hint(b, n) for n in (1, 2, 3))
    words = next(c.words for c in possible(SHEET) if c.key == key)
    assert words.key not in keys(first)
    assert words.key in keys(third)
    assert len({first, second, third}) == 3
