"""Weighing in and the running readings, by hand-worked figures."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.charging.cautions import caution_keys, cautions
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.charging.superheat import OutsideTable, read_running, temperature_at
from rough_draw.core.charging.weighing import at_ambient, flow_of, hose_holds, liquid_words, weigh
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.refrigerant import hottest, saturated
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.scale import ScaleTruth, ScaleWorld
from tests.told import figures, keys

T = np.arange(0.0, 60.0, 1.0)


def test_flow_of_a_steady_scale() -> None:
    assert flow_of(T, 10.0 - 0.02 * T) == pytest.approx(0.02)
    assert flow_of(T, 10.0 + 0.02 * T) == 0.0
    assert flow_of(T[:2], T[:2]) == 0.0


@pytest.mark.parametrize(
    ("weights", "phase"),
    [
        (np.full(60, 16.4), "before"),
        (16.4 - 0.02 * T, "flowing"),
        (16.4 - 2.6 - 0.002 * T, "slow"),
        (np.full(60, 16.4 - 2.86), "stop"),
        (np.full(60, 16.4 - 1.5), "still"),
        (np.full(60, 16.4 - 3.2), "over"),
    ],
)
def test_phases_of_a_charge_of_three_kilograms(weights: np.ndarray, phase: str) -> None:
    w = weigh(T, weights, 16.4, 3.0)
    assert w.phase == phase
    assert w.stop_at == pytest.approx(2.85)
    assert w.order


@pytest.mark.parametrize("apart", [0.2, 0.5, 1.0, 2.0, 5.0, 10.0])
def test_a_scale_at_rest_is_not_told_to_flow_and_an_opened_valve_is_seen_soon(apart: float) -> None:
    told, looks = 0, 0
    for seed in range(40):
        scale = ScaleWorld(ScaleTruth(seed=seed))
        times, shown = [], []
        for n in range(60):
            scale.advance(n * apart)
            times.append(scale.time)
            shown.append(scale.read() or 0.0)
            told += flow_of(np.array(times), np.array(shown)) > 0.0
            looks += 1
        scale.touch("cylinder-open")
        opened = scale.time
        while flow_of(np.array(times), np.array(shown)) < 1e-3:
            assert scale.time < opened + max(8.0, 2.0 * apart), "liquid flows and nobody is told"
            scale.advance(scale.time + apart)
            times.append(scale.time)
            shown.append(scale.read() or 0.0)
    # Three standard errors let one look in a thousand pass.
    assert told < 1e-3 * looks


def test_one_step_of_the_scale_is_no_liquid_and_a_slow_trimming_is() -> None:
    five = np.arange(5.0)
    assert flow_of(five, np.array([16.6, 16.6, 16.6, 16.6, 16.595])) == 0.0
    assert weigh(five, np.array([16.6, 16.6, 16.6, 16.6, 16.595]), 16.6, 3.0).phase == "before"
    # One gram a second, in steps of 5 g: a running compressor draws so through a throttled valve.
    trimmed = np.round((16.6 - 0.001 * T) / 0.005) * 0.005
    assert flow_of(T, trimmed) == pytest.approx(0.001, rel=0.15)


def test_seconds_to_the_stop() -> None:
    w = weigh(T, 16.4 - 0.02 * T, 16.4, 3.0)
    # 2.85 kg less what is in, at 20 g/s.
    assert w.seconds == pytest.approx((2.85 - w.added) / 0.02, rel=0.02)


def test_drift_upward_is_no_charge_taken_out() -> None:
    assert weigh(T, np.full(60, 16.43), 16.4, 3.0).added == 0.0


def test_a_cylinder_that_will_not_do_is_told_in_time() -> None:
    enough = weigh(T, np.full(60, 16.4), 16.4, 3.0, full_kg=10.0, tare_kg=7.0)
    assert enough.cautions == ()
    short = weigh(T, np.full(60, 9.0), 9.0, 3.0, full_kg=10.0, tare_kg=7.0)
    assert short.cautions[0].key == "weigh-next-cylinder"
    assert figures(short.cautions[0]) == pytest.approx({"given": 1.8, "rest": 3.0})
    heel = weigh(T, np.full(60, 7.1), 9.0, 3.0, full_kg=10.0, tare_kg=7.0)
    assert heel.cautions[0].key == "weigh-heel"


@given(st.floats(0.2, 50), st.floats(0, 0.5), st.floats(0, 60))
def test_added_and_left_make_the_charge(wanted: float, margin: float, given_: float) -> None:
    w = weigh(T, np.full(60, 100.0 - given_), 100.0, wanted, margin)
    assert w.added == pytest.approx(given_)
    assert w.left == pytest.approx(max(0.0, wanted - given_))
    assert w.stop_at <= wanted


@pytest.mark.parametrize("name", sorted(REFRIGERANTS))
def test_blends_leave_as_liquid(name: str) -> None:
    assert (liquid_words(REFRIGERANTS[name]).key == "leaves-as-liquid") == REFRIGERANTS[name].zeotropic


def test_what_a_hose_holds() -> None:
    # R-134a at 20 °C: liquid 1,225 kg/m³ (Tillner-Roth & Baehr 1994); 0.1 l of it.
    assert hose_holds(REFRIGERANTS["R-134a"], 293.15, 0.1, liquid=True) == pytest.approx(0.1225, rel=2e-3)
    assert hose_holds(REFRIGERANTS["R-134a"], 293.15, 0.1, liquid=False) < 0.005


def test_saturation_at_ambient() -> None:
    stands = at_ambient(REFRIGERANTS["R-134a"], 293.15)
    assert stands is not None
    bubble, dew = stands
    assert bubble == pytest.approx(5.717e5, rel=2e-3)
    assert dew == pytest.approx(bubble, rel=1e-6)
    blend = at_ambient(REFRIGERANTS["R-448A"], 293.15)
    assert blend is not None
    assert blend[0] > 1.05 * blend[1]


@pytest.mark.parametrize(("celsius", "bar"), [(-20, 1.327), (5, 3.497), (40, 10.166)])
def test_temperature_at_a_pressure_of_r134a(celsius: float, bar: float) -> None:
    assert temperature_at("R-134a", bar * 1e5, 1) == pytest.approx(celsius + 273.15, abs=0.03)


@pytest.mark.parametrize("name", ["R-448A", "R-290", "R-454C"])
def test_temperature_and_pressure_are_inverse(name: str) -> None:
    for t in (250.0, 280.0, 310.0):
        s = saturated(name, t)
        assert temperature_at(name, s.dew, 1) == pytest.approx(t, abs=0.01)
        assert temperature_at(name, s.bubble, 0) == pytest.approx(t, abs=0.01)


@pytest.mark.parametrize(
    ("suction_temp", "liquid_temp", "says"),
    [
        (284.15, 308.15, ("within", "within")),
        (279.15, 313.0, ("under", "under")),
        (292.0, 299.0, ("over", "over")),
        (275.0, 320.0, ("misread", "misread")),
    ],
)
def test_superheat_and_subcooling_are_judged(suction_temp: float, liquid_temp: float, says: tuple[str, str]) -> None:
    r = read_running("R-134a", 3.497e5, suction_temp, 10.166e5, liquid_temp)
    assert r.superheat == pytest.approx(suction_temp - 278.15, abs=0.05)
    assert r.subcooling == pytest.approx(313.15 - liquid_temp, abs=0.05)
    assert [j.case for j in r.judged] == list(says)
    assert keys(tuple(j.words for j in r.judged)) == [f"running-superheat-{says[0]}", f"running-subcooling-{says[1]}"]


def test_half_the_readings_say_half() -> None:
    r = read_running("R-134a", 3.497e5, None, None, 300.0, (Range(4, 6, 8), Range(4, 6, 10)))
    assert r.dew == pytest.approx(278.15, abs=0.05)
    assert r.superheat is None
    assert r.judged == ()
    with pytest.raises(OutsideTable, match="outside-saturation"):
        read_running("R-134a", 1e3, 280.0, None, None)


def test_the_scale_stand_in_keeps_its_mass() -> None:
    truth = ScaleTruth(takes=3.0, inside=9.0)
    world = ScaleWorld(truth)
    world.advance(30)
    assert world.given == 0.0
    world.touch("cylinder-open")
    world.advance(400)
    assert world.given + world.inside == pytest.approx(truth.inside)
    assert 2.5 < world.given < 3.01
    before = world.given
    world.touch("compressor-on")
    world.advance(500)
    assert world.given > before + 0.2
    world.touch("cylinder-shut")
    assert world.flow() == 0.0
    world.touch("tare")
    assert abs(world.read() or 0.0) < 0.02


@pytest.mark.parametrize(
    ("refrigerant", "wanted"),
    [
        ("R-744", {"r-744"}),
        ("R-717", {"a2l", "toxic", "r-717"}),
        ("R-123", {"toxic", "below-air"}),
        ("R-152a", {"a2"}),
        ("R-1270", {"a3"}),
        ("R-454C", {"a2l"}),
        ("R-22", set()),
    ],
)
def test_cautions_follow_the_class_and_the_nature_of_a_refrigerant(refrigerant: str, wanted: set[str]) -> None:
    plain = set(caution_keys(Scope(refrigerant="R-134a")))
    found = Scope(refrigerant=refrigerant)
    assert set(caution_keys(found)) - plain == wanted
    assert all(cautions(found))


@pytest.mark.parametrize("name", list(REFRIGERANTS))
def test_every_refrigerant_has_its_saturation_and_a_job_of_it_is_worked_out(name: str) -> None:
    at = saturated(name, 273.15)
    assert 0.2e5 < at.dew <= at.bubble < 40e5
    known = REFRIGERANTS[name]
    if hottest(name) >= 313.15:
        assert saturated(name, 313.15).bubble == pytest.approx(known.pressure_40c.value, rel=0.06)
    glides = at.bubble / at.dew
    assert glides < 1.006 if not known.zeotropic else glides > 1.001
    assert charge_to_weigh(Scope(refrigerant=name, nameplate_kg=2.0)) is not None
