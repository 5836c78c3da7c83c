"""Dry nitrogen in practice: the pressure test and the sweep, with what each shows, costs and leaves behind."""

from __future__ import annotations

import math

import pytest

from rough_draw.core.catalogue.rig_parts import SAG_WEAK
from rough_draw.core.engine.network import Gas
from rough_draw.core.message import Message
from rough_draw.core.physics.leak_path import pressure_left
from rough_draw.core.practice.scenario import Fault, Hidden, Scenario
from rough_draw.core.sheet.rig import Cord
from rough_draw.scenarios.handmade import by_hand
from rough_draw.scenarios.sheets import VAN, room, sheet
from rough_draw.scenarios.van import two_hoses
from rough_draw.standins.practice.bay import Bay, played
from rough_draw.standins.practice.offers import groups
from rough_draw.standins.practice.session_log import CannotDo
from tests.told import keys


def bay(*faults: Fault, **unknowns: float) -> Bay:
    scope = room()
    hidden = Hidden(seed=7, faults=faults, unknowns=unknowns)
    return Bay(Scenario(sheet=sheet("larkspur", "Cold room 9", scope, two_hoses(scope)), hidden=hidden), VAN)


def shut_off(b: Bay) -> Bay:
    b.do("isolate")
    return b


def said(b: Bay, kind: str) -> dict[str, object]:
    showed = b.do(kind).showed
    assert isinstance(showed, Message)
    return dict(showed.values)


def test_the_closed_form_is_what_small_steps_give() -> None:
    p, q, outside, volume = 2.1e6, 4e-3, 1.0e5, 0.02
    for _ in range(90_000):
        p -= 0.01 * q * (p**2 - outside**2) / outside**2 / volume
    assert pressure_left(q, 2.1e6, outside, volume, 900.0) == pytest.approx(p, rel=1e-4)


@pytest.mark.parametrize(("severity", "verdict"), [(0.0, "leaks"), (1.5, "leaks"), (None, "tight")])
def test_a_leak_shows_under_pressure_with_its_place_and_a_tight_system_stands(
    severity: float | None, verdict: str
) -> None:
    b = shut_off(bay(*([Fault(key="system-leak", severity=severity)] if severity is not None else [])))
    found = said(b, "nitrogen:test")
    assert f"pressure-test-{verdict}" in keys(found["says"])
    assert keys(found["bubbles"])[0] == ("shows-no-bubbles" if severity is None else "shows-bubbles")
    assert b.time == pytest.approx(60 * (0.3 + b.minutes("nitrogen:test")))


def test_what_the_test_leaves_is_dry_gas_at_the_atmosphere_to_be_drawn_again() -> None:
    b = bay()
    b.do("pump-on")
    b.advance(1200)
    b.do("isolate")
    assert b.highest() < 40
    b.do("nitrogen:test")
    assert b.highest() == pytest.approx(b.assembly.network.atmosphere, rel=0.02)
    b.advance(b.time + 10)
    assert b.shows() is None
    b.do("reopen")
    b.advance(b.time + 1200)
    assert b.highest() < 40


def test_a_pump_in_its_way_is_a_stop_and_holds_nothing() -> None:
    made = bay().do("nitrogen:test")
    assert "pressure-into-pump" in [c.kind for c in made.said if c.severity == "stop"]
    assert "pressure-test-leaks" in keys(made.showed)
    assert [c.key for c in shut_off(bay()).do("nitrogen:test").said if c.severity == "stop"] == []


def test_a_gauge_that_cannot_stand_it_is_burst_unless_it_is_shut_off() -> None:
    scope = room()
    rig = two_hoses(scope)
    weak = tuple(p.model_copy(update={"stands_kpa": 900.0}) if p.kind == "gauge" else p for p in rig.parts)
    job = sheet("larkspur", "Cold room 9", scope, rig.model_copy(update={"parts": weak}))
    b = shut_off(Bay(Scenario(sheet=job), VAN))
    assert "gauge-burst" in [c.kind for c in b.do("nitrogen:test").said]


@pytest.mark.parametrize("water", [-1.0, 1.0])
def test_a_sweep_dries_no_more_than_its_nitrogen_can_carry_and_never_adds(water: float) -> None:
    b = bay(Fault(key="water", severity=0.0), water=water)
    before = b.water()
    assert max(before) > 0
    b.do("nitrogen:sweep")
    after = b.water()
    assert all(0 <= n <= w for w, n in zip(before, after, strict=True))
    assert sum(after) < sum(before)
    way = b.sweep()
    assert sum(before) - sum(after) < 0.02 * 1.5e-4 * 60 * sum(way.passed.values()) + 1e-9, (
        "17 g a cubic metre at 20 °C"
    )


def test_a_sweep_takes_refrigerant_out_of_the_gas_but_not_out_of_the_oil() -> None:
    b = bay(Fault(key="refrigerant", severity=0.5))
    b.advance(600)
    gas = b._state.gas[:, Gas.REFRIGERANT].sum()
    held = b._state.sorbed.sum()
    b.do("nitrogen:sweep")
    assert b._state.gas[:, Gas.REFRIGERANT].sum() < 0.5 * gas
    assert b._state.sorbed.sum() > 0.5 * held


def test_a_sweep_of_what_is_evacuated_lets_air_in_at_its_joint_and_on_a_running_pump_it_is_a_stop() -> None:
    b = bay()
    b.do("pump-on")
    b.advance(900)
    kinds = {c.kind for c in b.do("nitrogen:sweep").said}
    assert {"air-in", "pressure-into-pump"} <= kinds


def test_a_section_that_nobody_opened_is_named_as_not_reached() -> None:
    shut = next(s for s in by_hand() if len(s.hidden.shut) == 3)
    b = Bay(shut, VAN)
    assert keys(b.do("nitrogen:sweep").showed)[0] == "shows-swept-but"
    for name in shut.hidden.shut:
        b.do(f"open:system.{name}")
    assert keys(b.do("nitrogen:sweep").showed)[0] == "shows-swept"


def test_nothing_is_swept_or_pressed_without_a_rig_or_under_charge() -> None:
    bare = Bay(next(s for s in by_hand() if not s.rigged), VAN)
    for kind in ("nitrogen:test", "nitrogen:sweep"):
        with pytest.raises(CannotDo):
            bare.do(kind)
    charged = bay()
    charged.charged = True
    with pytest.raises(CannotDo):
        charged.do("nitrogen:test")


def test_a_session_with_nitrogen_is_played_again_to_the_last_digit() -> None:
    b = bay(Fault(key="water", severity=0.0), Fault(key="system-leak", severity=0.0))
    for kind in ("nitrogen:sweep", "pump-on", "isolate", "nitrogen:test", "reopen"):
        b.do(kind)
        b.advance(b.time + 200)
    again = played(b.scenario, VAN, [(d.at, d.kind, d.choice) for d in b.done if not d.before])
    again.advance(b.time)
    assert again.highest() == b.highest()
    assert again.water() == b.water()


def test_a_meter_reads_a_weak_supply_and_a_cord_as_thin_as_the_sheet_has_it() -> None:
    def drop(b: Bay) -> float:
        b.do("pump-on")
        figure = said(b, "test:meter")["drop"]
        return figure.value  # type: ignore[attr-defined,no-any-return]

    sound, weak = drop(bay()), drop(bay(Fault(key="slow-pump", severity=0.0)))
    assert weak == pytest.approx(SAG_WEAK.value)
    assert sound < 0.05 < weak
    scope = room()
    rig = two_hoses(scope).model_copy(update={"cord": Cord(length_m=60, wire="18 AWG")})
    thin = Bay(Scenario(sheet=sheet("larkspur", "Cold room 9", scope, rig)), VAN)
    assert drop(thin) > sound
    assert keys(bay().do("test:meter").showed) == ["shows-needs-pump"]


def test_a_valve_that_a_coil_lifts_is_opened_with_the_magnet() -> None:
    b = Bay(next(s for s in by_hand() if any(x.kind == "solenoid" for x in s.sheet.scope.links)), VAN)
    words = {d.kind: d.words for g in groups(b) for d in g.deeds}
    coils = [x.id for x in b.told.scope.links if x.kind == "solenoid"]
    for x in coils:
        assert keys(words[f"open:system.{x}"])[0] == "deed-magnet-on"
        assert keys(words[f"shut:system.{x}"])[0] == "deed-magnet-off"
    assert math.isfinite(b.minutes("nitrogen:sweep"))
