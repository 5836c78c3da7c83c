"""The run: its state from its touches, the touch that comes next, where it stands, and the order of release."""

from __future__ import annotations

import numpy as np
import pytest

from rough_draw.core.interlock.release import release_steps
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.next_step import Outlook, next_touches
from rough_draw.core.planning.plan import plan_job
from rough_draw.core.planning.progress import rate_of, standing
from rough_draw.core.proving.checklist import gates_for
from rough_draw.core.proving.stage_progress import STAGES, current, stages
from rough_draw.core.readings.series import time_at_level
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.evidence import Gate, Prove
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.job import Job, Party, Release
from rough_draw.core.sheet.run_state import RunState, Touch, fold
from rough_draw.core.sheet.scope import Scope
from rough_draw.standins.gauge import GaugeModel
from tests.builders import usual_job
from tests.told import keys

M = MICRON_PA
C = criteria.STANDARDS["deep-and-flat"]


def test_state_is_folded_from_touches() -> None:
    s = fold(
        [
            Touch("ballast-open", 0),
            Touch("pump-on", 1),
            Touch("ballast-shut", 90),
            Touch("isolate", 900),
            Touch("pump-off", 910),
        ]
    )
    assert s.started_at == 1
    assert not s.pump_on
    assert not s.ballast_open
    assert s.isolated_at == 900
    assert not s.stopped_unisolated


def test_pump_stopped_first_is_noticed() -> None:
    assert fold([Touch("pump-on", 1), Touch("pump-off", 60)]).stopped_unisolated


def test_reopening_ends_the_hold() -> None:
    assert (
        fold([Touch("pump-on", 1), Touch("isolate", 9), Touch("reopen", 20), Touch("unheard-of", 21)]).isolated_at
        is None
    )


def ahead(job: Job, state: RunState, microns: float | None, over: bool = False, now: float = 100.0) -> list[str]:
    reading = None if microns is None else microns * M
    found = next_touches(job, state, C, reading, over, Outlook(60, 200, 900), now, "the suction tool")
    return [f"{t.kind}@{t.due}" for t in found]


def test_habits_change_what_comes_next(job: Job) -> None:
    checks = job.model_copy(update={"habits": Habits(ballast="1500", check_hold=True, valve_flush=False)})
    on = fold([Touch("ballast-open", 0), Touch("pump-on", 1)])
    assert ahead(checks, on, 4_900) == ["ballast-shut@60", "check-hold@None", "isolate@900"]
    assert ahead(checks, on, 990)[:2] == ["ballast-shut@0.0", "check-hold@0.0"]
    during = fold([Touch("pump-on", 1), Touch("check-hold", 80)])
    assert ahead(checks, during, 990, now=100.0) == ["check-end@100.0", "isolate@900"]
    after = fold([Touch("pump-on", 1), Touch("check-hold", 80), Touch("check-end", 200), Touch("pump-off", 300)])
    assert after.checked_at == 200
    assert after.stopped_unisolated
    dry = job.model_copy(update={"habits": Habits(ballast="wet-only")})
    assert next_touches(dry, RunState(), C, None, False, Outlook(1, 2, 3), 0, "x")[0].first == ""
    wet = dry.model_copy(update={"scope": dry.scope.model_copy(update={"condition": "flooded"})})
    warm, start = next_touches(wet, RunState(), C, None, False, Outlook(1, 2, 3), 0, "x")[:2]
    assert warm.kind == "warm-up"
    assert start.first == "ballast-open"


def test_next_touches_in_their_order(job: Job) -> None:
    assert ahead(job, RunState(), None) == ["pump-on@0.0", "ballast-shut@60", "valve-flush@200", "isolate@900"]
    on = fold([Touch("ballast-open", 0), Touch("pump-on", 1)])
    assert ahead(job, on, 90_000)[0] == "ballast-shut@60"
    assert ahead(job, on, None, over=True)[0] == "ballast-shut@60"
    assert ahead(job, on, 4_900)[0] == "ballast-shut@0.0"
    shut = fold([Touch("ballast-open", 0), Touch("pump-on", 1), Touch("ballast-shut", 50)])
    assert ahead(job, shut, 700) == ["valve-flush@0.0", "isolate@900"]
    flushed = fold([Touch("pump-on", 1), Touch("valve-flush", 60)])
    assert ahead(job, flushed, 199) == ["isolate@0.0"]


def test_isolate_first_then_stop_the_pump(job: Job) -> None:
    isolated = fold([Touch("pump-on", 1), Touch("isolate", 100)])
    assert ahead(job, isolated, 200, now=130) == ["pump-off@0.0", "read-hold@570.0"]
    stopped = fold([Touch("pump-on", 1), Touch("isolate", 100), Touch("pump-off", 110)])
    assert ahead(job, stopped, 200, now=900) == ["read-hold@0.0"]


def test_rate_is_the_slope_in_micron_a_second() -> None:
    t = np.arange(0, 60.0)
    assert rate_of(t, (900 - 0.55 * t) * M) == pytest.approx(-0.55)
    assert rate_of(t[:2], t[:2]) is None


def test_time_at_level_on_an_exponential() -> None:
    t = np.linspace(0, 100, 501)
    assert time_at_level(t, 1000 * np.exp(-t / 20), 1000 / np.e) == pytest.approx(20, rel=1e-3)
    assert time_at_level(t, 1000 * np.exp(-t / 20), 1e-9) is None


def test_standing_slides_the_plan_to_the_reading(job: Job) -> None:
    plan = plan_job(job, size=8)
    at = float(plan.times[60])
    on_plan = np.full(5, float(np.interp(at, plan.times, plan.gauge_band[1])))
    s = standing(plan, at, np.arange(5.0), on_plan)
    assert s.pace == "as-planned"
    assert s.to_target is not None
    assert s.to_target.low <= s.to_target.value <= s.to_target.high
    late = standing(plan, plan.times[-1] + 7200.0, np.arange(5.0), np.full(5, 1.3 * plan.gauge_band[2, -1]))
    assert late.pace == "slower"
    assert standing(plan, 0, np.array([]), np.array([])).pace == "no-reading"


def test_gauge_shows_what_a_gauge_shows() -> None:
    g = GaugeModel(over_micron=20_000, resolution_micron=5, noise_pct=1, lag_s=2)
    assert g.shows(25_000 * M) is None
    assert g.shows(612 * M) == pytest.approx(610 * M)
    assert g.shows(12_344 * M) == pytest.approx(12_350 * M)
    assert g.shows(600 * M, deviate=2) == pytest.approx(610 * M)
    assert g.follow(100.0, 50.0, 2.0) == pytest.approx(50 + 50 / np.e)


def test_zeotropic_blends_go_in_as_liquid() -> None:
    job = usual_job("three-tools", hose=True).model_copy(update={"release": Release(way="cylinder")})
    why = next(s.why for s in release_steps(job) if s.key == "weigh-in:cylinder")
    assert why is not None
    assert why["way"] == "liquid"


def test_stages_say_what_is_missing() -> None:
    found = stages(Job(), RunState(), 0.0, 600.0)
    assert [s.key for s in found] == list(STAGES)
    assert current(found) == "scope"
    assert keys(found[0].missing) == ["missing-names"]
    named = Job(party=Party(customer="a", unit="b"))
    assert current(stages(named, RunState(), 0, 600)) == "prove"
    gates = {g.key: Gate(state="done") for g in gates_for(named)}
    proved = named.model_copy(update={"prove": Prove(gates=gates)})
    run = fold([Touch("pump-on", 0), Touch("isolate", 900)])
    assert current(stages(proved, run, 100, 600)) == "hold"
    assert current(stages(proved, run, 600, 600)) == "release"
    blind = stages(proved, run, 0, 600, read=False)
    assert not {s.key for s in blind if s.done} & {"draw", "hold"}, "thirteen ticks and not one reading are no draw"


def test_flammable_refrigerants_add_a_gate() -> None:
    assert any(g.key == "flammable" for g in gates_for(Job(scope=Scope(refrigerant="R-32"))))
    assert not any(g.key == "flammable" for g in gates_for(Job(scope=Scope(refrigerant="R-134a"))))
