"""What a trainer may compose: all that ships can be played, and what cannot be is told with its place."""

from __future__ import annotations

from typing import Any

import pytest

from rough_draw.core.model.system import ScopeError
from rough_draw.core.practice.composing import check
from rough_draw.core.practice.scenario import Before, Fault, Scenario, possible
from rough_draw.scenarios.generator import make
from rough_draw.scenarios.handmade import by_hand

EVERY = {s.key: s for s in by_hand()}
BASE = EVERY["a-dry-line-set"]


def test_all_that_ships_or_is_made_can_be_played() -> None:
    for s in [*EVERY.values(), *(make(n, level) for level in range(1, 6) for n in range(20))]:
        check(s)


def composed(s: Scenario = BASE, faults: tuple[tuple[str, float], ...] = (), **changed: Any) -> Scenario:
    hidden = s.hidden.model_copy(update={"faults": tuple(Fault(key=k, at_s=at) for k, at in faults)})
    return s.model_copy(update={"hidden": hidden, **changed})


PUMPING = (Before(kind="pump-on"),)
IMPOSSIBLE = {
    "twice": (composed(faults=(("wet-oil", 0), ("wet-oil", 0))), "hidden.faults"),
    "water and its ice": (composed(faults=(("water", 0), ("ice", 0))), "hidden.faults"),
    "ice, oil and water": (composed(faults=(("ice", 0), ("wet-oil", 0), ("water", 0))), "hidden.faults"),
    "open beside a leak": (composed(faults=(("open", 0), ("system-leak", 0))), "hidden.faults"),
    "worn since ten minutes": (composed(faults=(("worn-pump", 600),)), "hidden.faults"),
    "no rig to start": (composed(EVERY["put-your-own-rig-on"], before=PUMPING), "before"),
    "begun after one came": (composed(before=(Before(kind="pump-on", at_s=60),), arrive_s=30), "before"),
    "stopped, never started": (composed(before=(Before(kind="pump-off"),)), "before"),
    "a verdict by nobody": (composed(before=(Before(kind="verdict:tight"),)), "before"),
    "no step at all": (composed(before=(Before(kind="coffee"),)), "before"),
}


@pytest.mark.parametrize("what", IMPOSSIBLE)
def test_what_cannot_be_is_told_where_it_is(what: str) -> None:
    scenario, place = IMPOSSIBLE[what]
    with pytest.raises(ScopeError) as told:
        check(scenario)
    assert told.value.place == place


@pytest.mark.parametrize("key", sorted({c.key for c in possible(BASE.sheet)}))
def test_every_single_thing_can_be_hidden_and_later_only_what_can_begin_later(key: str) -> None:
    check(composed(faults=((key, 0),)))
    later = next(c.later for c in possible(BASE.sheet) if c.key == key)
    if later:
        check(composed(faults=((key, 600),)))
    else:
        with pytest.raises(ScopeError):
            check(composed(faults=((key, 600),)))


def test_that_nothing_is_left_is_told() -> None:
    """Every connection shut: where that leaves the pump with its hoses alone, it is told, and never anything else."""
    places = set()
    for s in EVERY.values():
        links = tuple(x.id for x in s.sheet.scope.links if x.open)
        hidden = s.hidden.model_copy(update={"shut": links, "faults": ()})
        places.add(_told(s.model_copy(update={"hidden": hidden})))
    assert places <= {"", "hidden.shut"}


def _told(s: Scenario) -> str:
    try:
        check(s)
    except ScopeError as e:
        return e.place
    return ""
