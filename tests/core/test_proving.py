"""Prove: pressure test, oil, blank-off, gauge check, the gates by their evidence, and what they feed."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.message import Message, Name, message
from rough_draw.core.model.pump import pump_element, ultimate_of
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.proving import blank_off, gauge_check, pressure_test, pump_oil
from rough_draw.core.proving.assessment import prove
from rough_draw.core.proving.checklist import gates_for
from rough_draw.core.proving.health import health
from rough_draw.core.proving.stage_progress import stages
from rough_draw.core.sheet.evidence import Gate, GaugeCheck, PressureReading, Prove, StageReading
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit_history import KitEvent
from rough_draw.core.sheet.rig import GaugePart, PumpPart
from rough_draw.core.sheet.run_state import RunState
from rough_draw.core.sheet.setups import rig_from
from tests.builders import scope
from tests.told import keys

ATM = 101_325.0
HERE = scope("cooler", opened=True)


def filled_in(**seen: Any) -> Prove:
    usual = {"test_start_kpa": 3000, "test_end_kpa": 3000, "test_start_c": 20, "test_end_c": 20, "test_minutes": 60}
    return Prove(**{**usual, **seen})


def test_pressure_follows_the_absolute_temperature() -> None:
    """Gay-Lussac: 31 bar absolute at 300 K stands at 29.967 bar at 290 K."""
    assert pressure_test.corrected(31e5, 300.0, 290.0) == pytest.approx(29.9667e5, rel=1e-5)


def test_a_drop_that_the_cold_explains_is_no_leak() -> None:
    # 3,101 kPa absolute from 21 to 17 °C: 42.2 kPa less.
    found = pressure_test.judge(filled_in(test_end_kpa=2958, test_start_c=21, test_end_c=17).latest_test, 0.010, ATM)
    assert found.verdict == "tight"
    assert found.expected == pytest.approx((3_000_000 + ATM) * 290.15 / 294.15)
    assert found.words.key == "pressure-test-with-heat"
    warm = pressure_test.judge(filled_in(test_end_kpa=2958).latest_test, 0.010, ATM)
    assert warm.verdict == "leaks"
    assert warm.drop is not None
    assert warm.drop.value == pytest.approx(42_000)


def test_the_leak_of_a_pressure_test_is_the_drop_times_the_volume() -> None:
    found = pressure_test.judge(filled_in(test_end_kpa=2900, test_minutes=100).latest_test, 0.006, ATM)
    assert found.leak is not None
    assert found.leak.value == pytest.approx(100_000 * 0.006 / 6000)
    assert found.leak.low < found.leak.value < found.leak.high
    assert found.smallest is not None
    assert found.smallest < found.leak.value


@pytest.mark.parametrize(
    ("seen", "verdict"),
    [
        ({"test_minutes": 5}, "too-short"),
        ({"test_wanted_kpa": 3500}, "too-low"),
        ({"test_end_c": None}, "open"),
        ({"test_end_kpa": 3010}, "tight"),
        ({"test_end_kpa": 2700, "test_minutes": 4}, "leaks"),
    ],
)
def test_verdicts_of_the_pressure_test(seen: dict[str, Any], verdict: str) -> None:
    found = pressure_test.judge(filled_in(**seen).latest_test, 0.01, ATM)
    assert found.verdict == verdict
    if verdict == "open":
        assert "pressure-test-end-temperature" in keys(found.words)


@given(st.floats(500, 4000), st.floats(-10, 35), st.floats(-10, 35), st.floats(1, 50))
def test_gas_that_only_got_warmer_or_colder_never_leaks(p: float, c1: float, c2: float, step: float) -> None:
    end = (p * 1000 + ATM) * (c2 + 273.15) / (c1 + 273.15) - ATM
    shown = round(end / 1000 / step) * step
    seen = filled_in(test_start_kpa=p, test_end_kpa=max(0.0, shown), test_start_c=c1, test_end_c=c2, test_step_kpa=step)
    assert pressure_test.judge(seen.latest_test, 0.01, ATM).verdict == "tight"


def run(at: float, hours: float, job: str) -> KitEvent:
    return KitEvent(kind="run", at=at, job=job, values={"hours": hours})


def blanks(*micron: float) -> list[KitEvent]:
    return [KitEvent(kind="blank-off", at=10.0 + n, job=f"j{n}", values={"micron": m}) for n, m in enumerate(micron)]


OLD = [KitEvent(kind="oil-change", at=1.0, job="a", values={}), run(2.0, 6.0, "b"), run(3.0, 5.0, "c")]


@pytest.mark.parametrize(
    ("seen", "rule", "history", "verdict", "words"),
    [
        ({"oil": "milky"}, {}, [], "bad", "oil-look-milky.means"),
        ({"oil": "dark"}, {}, [], "bad", "oil-disposal"),
        ({"oil": "fresh", "oil_level": "low"}, {}, [], "bad", "oil-level-low"),
        ({"oil": "amber"}, {}, [], "good", "oil-look-amber.means"),
        ({"oil": "amber"}, {"each_use": True}, [], "due", "oil-rule-each-use"),
        ({"oil": "amber"}, {}, OLD, "due", "oil-rule-hours"),
        ({"oil": "amber"}, {"after_hours": None, "after_jobs": 2}, OLD, "due", "oil-rule-jobs"),
        ({"oil": "amber"}, {}, blanks(25, 60), "due", "oil-rule-blank-off"),
        ({"oil": "amber"}, {"blank_off_times": None}, blanks(25, 60), "good", "oil-look-amber.means"),
        ({"oil": "milky", "oil_changed": True, "oil_collected": True}, {}, [], "good", "oil-changed"),
        ({}, {}, [], "open", "oil-look"),
    ],
)
def test_the_oil_by_its_look_then_by_the_rule(
    seen: dict[str, Any], rule: dict[str, Any], history: list[KitEvent], verdict: str, words: str
) -> None:
    found = pump_oil.judge(Prove(**seen), pump_oil.OilRule(**rule), history)
    assert found.verdict == verdict
    assert words in keys(found.words)


def test_hours_count_from_the_last_change() -> None:
    history = [run(0.5, 40.0, "z"), *OLD]
    assert pump_oil.since_change(history) == (11.0, 2)
    assert pump_oil.since_change([run(0.5, 40.0, "z")]) == (None, None)


@pytest.mark.parametrize(
    ("micron", "running", "before", "after", "verdict", "words"),
    [
        (24, True, (), 120, "good", "blank-off-used"),
        (70, True, (), 120, "usable", "blank-off-change-oil"),
        (180, True, (), 120, "bad", "blank-off-bad"),
        (48, True, (20, 22), 120, "usable", "blank-off-was-better"),
        (24, False, (), 120, "open", "blank-off-pump-stood"),
        (400, True, (), 20, "open", "blank-off-wait"),
        (None, True, (30,), None, "open", "blank-off-not-read"),
        (24, True, (22, 26), 120, "good", "blank-off-as-before"),
    ],
)
def test_the_blank_off(
    micron: float | None, running: bool, before: tuple[float, ...], after: float | None, verdict: str, words: str
) -> None:
    found = blank_off.judge(PumpPart(id="pump"), micron, running, blanks(*before), after)
    assert found.verdict == verdict
    assert words in keys(found.words)
    assert found.before == before


def test_a_single_stage_pump_is_judged_as_one() -> None:
    pump = PumpPart(id="pump", stages=1)
    assert blank_off.judge(pump, 180, True, []).verdict == "good"
    assert blank_off.judge(pump, 600, True, []).verdict == "bad"


def test_a_weak_pump_widens_the_band() -> None:
    good, weak = ultimate_of(30.0), ultimate_of(80.0)
    assert good.low == good.high == pytest.approx(30 * MICRON_PA)
    assert weak.low < 80 * MICRON_PA < weak.high
    rig = rig_from("three-tools", HERE)
    parts = [p.model_copy(update={"blank_off_micron": 80.0}) if p.kind == "pump" else p for p in rig.parts]
    job = Job(scope=HERE, rig=rig.with_parts(parts))
    ends = [pump_element(job, Unknowns(pump=z), on_job=False) for z in (-1.28, 0.0, 1.28)]
    whole = [p.ultimate + p.ultimate_water for p in ends]
    assert whole[0] < whole[1] < whole[2]
    assert whole[1] == pytest.approx(80 * MICRON_PA)
    assert all(
        pump_element(job, Unknowns(pump=z)).ultimate > p.ultimate for z, p in zip((-1.28, 0.0, 1.28), ends, strict=True)
    )


GAUGE = GaugePart(id="gauge", port="suction")


@pytest.mark.parametrize(
    ("seen", "verdict", "words"),
    [
        ({"in_air": "over"}, "good", "gauge-air-over"),
        ({"in_air": "figure", "air_micron": 4200}, "bad", "gauge-fouled"),
        ({"in_air": "over", "battery_pct": 10}, "doubtful", "gauge-battery-low"),
        ({"this_micron": 100, "other_micron": 108}, "good", "gauge-agrees"),
        ({"this_micron": 100, "other_micron": 125, "other": "Gauge 2"}, "doubtful", "gauge-differs"),
        ({"this_micron": 100, "other_micron": 250}, "bad", "gauge-differs"),
        ({}, "open", "gauge-look-in-air"),
    ],
)
def test_the_gauge(seen: dict[str, Any], verdict: str, words: str) -> None:
    found = gauge_check.judge(GAUGE, GaugeCheck(**seen), ATM)
    assert found.verdict == verdict
    assert words in keys(found.words)


def test_a_gauge_that_reads_the_atmosphere_may_show_it() -> None:
    wide = GAUGE.model_copy(update={"over_micron": 760_000.0, "make": "diaphragm"})
    assert gauge_check.judge(wide, GaugeCheck(in_air="figure", air_micron=758_000), ATM).verdict == "good"
    assert gauge_check.judge(None, GaugeCheck(), ATM).verdict == "open"


def sheet(**proved: Any) -> Job:
    return Job(scope=HERE, rig=rig_from("three-tools", HERE), prove=Prove(**proved))


def state_of(job: Job, key: str) -> tuple[str, Name]:
    found = next(g for g in prove(job).gates if g.spec.key == key)
    return found.state, found.words


def test_a_gate_is_passed_by_what_was_seen() -> None:
    assert state_of(sheet(), "power")[0] == "open"
    assert keys(state_of(sheet(gates={"power": Gate(items=("off", "dead"))}), "power")[1]) == [
        "check-still",
        "check-power-locked",
    ]
    full = Gate(items=("off", "locked", "dead"), note="lock 7")
    state, words = state_of(sheet(gates={"power": full}), "power")
    assert state == "passed"
    assert isinstance(words, Message)
    assert words["note"] == "lock 7"
    assert state_of(sheet(gates={"compressor": Gate(items=("lead",))}), "compressor")[0] == "passed"
    assert state_of(sheet(gates={"power": Gate(state="done")}), "power")[0] == "stated"
    assert state_of(sheet(gates={"power": Gate(state="skipped", note="by the owner")}), "power") == (
        "skipped",
        "by the owner",
    )


def test_what_the_evidence_says_goes_before_what_was_said() -> None:
    said = {"pressure-test": Gate(state="done", note="was fine")}
    assert state_of(sheet(gates=said), "pressure-test") == ("stated", "was fine")
    leaking = sheet(gates=said, test_start_kpa=3000, test_end_kpa=2500, test_start_c=20, test_end_c=20, test_minutes=60)
    assert state_of(leaking, "pressure-test")[0] == "failed"


def test_every_port_is_asked_for_and_every_valve_inside() -> None:
    vented = next(g for g in gates_for(sheet()) if g.key == "nitrogen-vented")
    assert {i.key for i in vented.items} == {"zero:suction", "zero:liquid"}
    inside = next(g for g in gates_for(sheet()) if g.key == "sections")
    assert [i.key for i in inside.items] == ["link:metering"]
    shut = scope("cooler")
    links = [x.model_copy(update={"open": x.id != "metering"}) for x in shut.links]
    rig = rig_from("one-hose-bare-gauge", shut)
    job = Job(scope=shut.model_copy(update={"links": tuple(links)}), rig=rig)
    state, words = state_of(job, "sections")
    assert state == "failed"
    assert isinstance(words, Message)
    assert words["sections"] == "liquid line"


def test_the_stage_waits_for_its_gates() -> None:
    def row(job: Job) -> Name:
        return next(s.missing for s in stages(job, RunState(), 0, 600) if s.key == "prove")

    count = len(gates_for(sheet()))
    assert row(sheet()) == message("missing-checks", count=count)
    every = {g.key: Gate(state="skipped", note="not today") for g in gates_for(sheet())}
    assert row(sheet(gates=every)) == ""


def test_a_pump_reading_is_the_blank_off() -> None:
    job = sheet(stages={"pump": StageReading(settled_micron=180, after_s=100)})
    assert state_of(job, "blank-off")[0] == "failed"
    resting = sheet(stages={"pump": StageReading(settled_micron=180, after_s=100, running=False)})
    assert state_of(resting, "blank-off")[0] == "open"


def test_health_is_the_worst_that_is_on_file() -> None:
    rule = pump_oil.OilRule()
    good = KitEvent(kind="rig-proof", at=1, job="a", values={}, verdict="good", words="as such a part does")
    bad = KitEvent(kind="rig-proof", at=2, job="b", values={}, verdict="bad", words="many times")
    assert health("hose", {}, [], rule) == ("", "")
    assert health("hose", {}, [good, bad], rule) == ("bad", "many times")
    assert health(
        "hose", {}, [bad, KitEvent(kind="rig-proof", at=3, job="c", values={}, verdict="good", words="mended")], rule
    ) == ("good", "mended")
    assert health("pump", {}, OLD, rule)[0] == "due"
    assert health("pump", {"oil": "used"}, [], rule)[0] == "due"


def test_a_retest_keeps_what_was_read_before_and_a_strength_test_is_no_tightness_test() -> None:
    usual = {"start_kpa": 4200, "end_kpa": 4200, "start_c": 20, "end_c": 20}
    first = PressureReading(kind="strength", minutes=3, wanted_kpa=4200, **usual)
    leaked = PressureReading(start_kpa=3000, end_kpa=2500, start_c=20, end_c=20, minutes=60, at=1.7e9)
    job = Job(prove=filled_in(tests=(first, leaked)))
    found = prove(job)
    assert [j.verdict for _, j in found.earlier] == ["tight", "leaks"]
    assert found.test.verdict == "tight"
    gate = next(g for g in found.gates if g.spec.key == "pressure-test")
    assert gate.state == "passed"
    only = Job(prove=filled_in(test_kind="strength", test_minutes=3))
    gate = next(g for g in prove(only).gates if g.spec.key == "pressure-test")
    assert gate.state == "open"
    assert keys(gate.words)[0] == "pressure-test-strength-only"
    assert Job.model_validate_json(job.model_dump_json()) == job
