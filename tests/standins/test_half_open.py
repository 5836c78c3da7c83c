"""A valve that stands halfway: it chokes, nothing calls it closed, and whoever turns it turns it all the way."""

from __future__ import annotations

import pytest

from rough_draw.core.message import Message
from rough_draw.core.practice.scenario import Fault, Hidden, Scenario, possible
from rough_draw.scenarios.generator import make
from rough_draw.scenarios.handmade import by_hand
from rough_draw.scenarios.sheets import VAN
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.evidence import meaning
from rough_draw.standins.practice.expert import expert

SCENARIO = next(s for s in by_hand() if s.key == "everything-is-open-they-say")
KEY = SCENARIO.hidden.faults[0].key
VALVE = KEY.partition(":")[2]


def _down(deeds: tuple[str, ...], scenario: Scenario = SCENARIO) -> float:
    """Seconds of drawing until the worst spot is at 200 µ, after these deeds."""
    bay = Bay(scenario, VAN)
    for deed in deeds:
        bay.do(deed)
    bay.do("pump-on")
    began = bay.time
    while bay.highest() > 26.7 and bay.time < 3 * 3600:
        bay.advance(bay.time + 20)
    return bay.time - began


def test_it_costs_most_of_the_draw_and_turning_it_gives_it_back() -> None:
    sound = SCENARIO.model_copy(update={"hidden": SCENARIO.hidden.model_copy(update={"faults": ()})})
    quick = _down((), sound)
    assert _down(()) > 3 * quick
    for deeds in (("valve-flush",), (f"shut:{VALVE}", f"open:{VALVE}")):
        assert _down(deeds) == pytest.approx(quick, abs=60)


def test_it_is_seen_by_who_goes_along_the_handles_and_by_nobody_else() -> None:
    bay = Bay(SCENARIO, VAN)
    assert VALVE in bay.contents.opened, "no board calls it closed"
    shown = bay.do("test:ways").showed
    assert isinstance(shown, Message)
    assert shown.key == "shows-half-open"
    assert meaning(bay, "ways", shown) == [KEY]
    for test in ("sound", "oil", "cores", "joint"):
        told = bay.do(f"test:{test}").showed
        assert isinstance(told, Message)
        assert told.key in ("shows-no", "shows-no-core", "shows-needs-pump", "shows-needs-vacuum"), test


def test_what_is_closed_beside_it_is_not_taken_for_it() -> None:
    bay = Bay(SCENARIO, VAN)
    others = [g.name for g in bay.board.gates.values() if g.kind == "valve" and g.name != VALVE]
    bay.do(f"shut:{others[0]}")
    shown = bay.do("test:ways").showed
    assert isinstance(shown, Message)
    assert shown.key == "shows-closed-and-half"
    assert meaning(bay, "ways", shown) == [KEY]


@pytest.mark.parametrize("scenario", [s for s in by_hand() if s.rigged][:8], ids=lambda s: s.key)
def test_every_valve_of_every_rig_can_stand_halfway(scenario: Scenario) -> None:
    keys = [c.key for c in possible(scenario.sheet) if c.kind == "half-open"]
    for key in keys:
        hidden = Hidden(seed=4, faults=(Fault(key=key, severity=1),))
        bay = Bay(scenario.model_copy(update={"hidden": hidden}), VAN)
        assert [c.key for c, _ in bay.at_work()] == [key]
        bay.do(f"shut:{key.partition(':')[2]}")
        assert bay.at_work() == []


def test_a_sound_hand_finds_it_before_the_pump_runs() -> None:
    bay, _ = expert(SCENARIO, VAN)
    kinds = [d.kind for d in bay.done]
    assert f"cause:{KEY}" in kinds
    assert kinds.index(f"cause:{KEY}") < kinds.index("pump-on")
    assert bay.ended == "release"


def test_a_number_goes_on_making_what_it_made() -> None:
    assert all(not f.key.startswith("half-open") for n in range(40) for f in make(n, 5).hidden.faults)
