"""The live fit: it finds what is hidden, and its band is honest."""

from __future__ import annotations

import numpy as np
import pytest

from bench.coverage import measure, played
from rough_draw.core.diagnosis.importance_sampling import log_normal
from rough_draw.core.diagnosis.live_fit import BLIND, fit, goal_of, start_fit, thinned
from rough_draw.core.diagnosis.replay import changes_of, standing
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import rig_from
from rough_draw.standins.world import Truth, World, random_truth
from tests import builders
from tests.depth import first, whole

OVER = 20_000 * MICRON_PA


def sheet(**scope: object) -> Job:
    return Job(
        scope=Scope.model_validate({"condition": "open-hours", "open_hours": 4, **scope}), rig=builders.one_hose()
    )


def test_the_log_density_is_that_of_a_normal() -> None:
    # Closed form: for independent axes the density is the product of the axes' own.
    sigma = np.array([0.5, 2.0])
    z = np.array([[0.3, -1.0], [0.0, 0.0]])
    own = -0.5 * ((z / sigma) ** 2).sum(axis=1) - np.log(sigma).sum()
    assert log_normal(z, np.zeros(2), np.diag(sigma**2)) == pytest.approx(own)


def test_readings_narrow_the_band_and_hold_the_truth() -> None:
    job = sheet(free_water_g=3)
    found = played(job, Truth(unknowns=Unknowns(volume=0.8, water=0.9, pump=-0.5), seed=5))
    assert found is not None
    at, pa, touches, end = found
    widths = []
    for share in (0.15, 0.5, 0.85):
        seen = at <= share * end
        state = start_fit(job, [t for t in touches if t.at <= share * end], 0.0)
        answer = fit(state, at[seen], pa[seen], OVER, rounds=3)
        assert answer.target_at is not None
        widths.append(answer.target_at.high - answer.target_at.low)
        assert answer.target_at.low <= answer.target_at.value <= answer.target_at.high
        assert (answer.band[0] <= answer.band[2]).all()
    assert widths[2] < widths[0]
    assert answer.off < 0.2


def test_a_large_system_is_told_from_a_small_one_half_way() -> None:
    job = sheet()
    told = []
    for size in (-1.5, 1.5):
        found = played(job, Truth(unknowns=Unknowns(volume=size), seed=5))
        assert found is not None
        at, pa, touches, end = found
        seen = at <= 0.5 * end
        state = start_fit(job, [t for t in touches if t.at <= 0.5 * end], 0.0)
        answer = fit(state, at[seen], pa[seen], OVER, rounds=3)
        assert answer.target_at is not None
        told.append(answer.target_at.value)
    assert told[1] > 1.1 * told[0]


def test_what_no_member_tells_is_said_to_contradict() -> None:
    job = sheet()
    at = np.arange(30.0, 1500.0, 5.0)
    stuck = np.full(at.size, 3_000 * MICRON_PA)
    assert fit(start_fit(job, [Touch("pump-on", 0.0)], 0.0), at, stuck, OVER, rounds=4).off > 0.3


@pytest.mark.parametrize("seed", first(1, [602, 611, 625, 633]))
def test_a_sound_draw_of_a_small_system_contradicts_nothing_long_after_its_target(seed: int) -> None:
    """It falls through two decades within a minute, and goes on far under the level to which members are computed."""
    scope = Scope(condition="new-dry", volume_l=6.0)
    job = Job(scope=scope, rig=rig_from("three-tools", scope))
    world = World(job, random_truth(seed))
    world.touch("pump-on")
    at, pa = [], []
    for n in range(1, 80):
        world.advance(12.0 * n)
        shown = world.read()
        at.append(world.time)
        pa.append(np.nan if shown is None else shown)
    answer = fit(start_fit(job, [Touch("pump-on", 0.0)], 0.0), np.array(at), np.array(pa), OVER, rounds=6)
    assert answer.off < 0.2


def test_a_leak_that_holds_it_above_its_target_still_contradicts() -> None:
    """Steep and early is forgiven within seconds; what stands still is not."""
    scope = Scope(condition="new-dry", volume_l=6.0)
    job = Job(scope=scope, rig=rig_from("three-tools", scope))
    at = np.arange(10.0, 900.0, 10.0)
    pa = np.maximum(101_325.0 * np.exp(-at / 12.0), 5_000 * MICRON_PA)
    assert fit(start_fit(job, [Touch("pump-on", 0.0)], 0.0), at, pa, OVER, rounds=6).off > 0.3


def test_a_gauge_that_stays_over_range_contradicts_and_one_that_is_so_for_a_moment_does_not() -> None:
    """The pump runs and nothing falls: a valve on the way is closed, or the gauge is not on what is drawn."""
    job = sheet()
    touches = [Touch("pump-on", 0.0)]
    at = np.arange(2.0, 1500.0)
    never = fit(start_fit(job, touches, 0.0), at, np.full(at.size, np.nan), OVER, rounds=2)
    assert never.off == pytest.approx(BLIND, rel=0.05)
    early = fit(start_fit(job, touches, 0.0), at[:5], np.full(5, np.nan), OVER, rounds=2)
    assert early.off < 0.05
    found = played(job, Truth(unknowns=Unknowns(), seed=9))
    assert found is not None
    at, pa, touches, _ = found
    sound = fit(start_fit(job, touches, 0.0), at, pa, OVER, rounds=2)
    taken_off = pa.copy()
    taken_off[np.searchsorted(at, thinned(at, pa)[0][-3])] = np.nan
    assert fit(start_fit(job, touches, 0.0), at, taken_off, OVER, rounds=2).off < max(0.3, 1.5 * sound.off)


def test_readings_are_thinned_evenly_along_the_draw_and_the_last_is_kept() -> None:
    at = np.arange(1.0, 5000.0)
    t, p = thinned(at, at * 2)
    assert t.size <= 20
    assert t[-1] == at[-1]
    assert (p == 2 * t).all()
    assert (np.diff(np.log(t)) < 1.2).all()


def test_the_goal_is_the_next_break_then_the_target() -> None:
    job = sheet().model_copy(update={"criterion": Job().criterion.model_copy(update={"school": "triple"})})
    first, since = goal_of(job, [], 0.0)
    assert first / MICRON_PA == pytest.approx(1500)
    assert since == 0.0
    made = [Touch("break", 100.0), Touch("break-end", 400.0), Touch("break", 600.0), Touch("break-end", 900.0)]
    last, since = goal_of(job, made, 50.0)
    assert last / MICRON_PA == pytest.approx(500)
    assert since == 850.0


def test_a_ballast_opened_twice_counts_once() -> None:
    job = sheet()
    base = assemble(job)
    kinds = ["ballast-open", "ballast-open", "ballast-shut", "ballast-shut"]
    touches = [Touch(k, float(n)) for n, k in enumerate(kinds)]
    net = base.network
    for _, change in changes_of(job, base, Unknowns(), touches, 0.0):
        net = change(net)
    assert net.pumps[0].ultimate == pytest.approx(base.network.pumps[0].ultimate)


@whole
def test_the_band_holds_the_truth_as_often_as_it_says() -> None:
    score = measure(7, 5)
    # 75 to 90 % is published by the bench over many draws; this few may stray by chance, and not further.
    assert score.asked >= 20
    assert 0.55 <= score.share <= 0.98


@pytest.mark.parametrize("lead", first(1, [0.5, 28.0, 900.0]))
def test_a_ballast_opened_before_the_pump_is_open_when_it_runs(lead: float) -> None:
    """However long before: the plateau that it makes is explained, and what follows when it is closed."""
    job = sheet(volume_l=6.0, condition="new-dry")
    unknowns = Unknowns(**{**{n: 0.2 for n in vars(Unknowns()) if n != "extra_leak"}, "pump": 1.2})
    world = World(job, Truth(unknowns=unknowns, seed=3))
    touches = [Touch("ballast-open", -lead), Touch("pump-on", 0.0), Touch("ballast-shut", 160.0)]
    world.touch("ballast-open")
    world.touch("pump-on")
    at, pa = [], []
    for second in range(2, 900, 6):
        if second == 164:
            world.touch("ballast-shut")
        world.advance(float(second))
        at.append(float(second))
        pa.append(world.read() or np.nan)
    assert np.nanmax(pa[10:25]) > 400 * MICRON_PA
    answer = fit(start_fit(job, touches, 0.0), np.array(at), np.array(pa), OVER, rounds=3)
    assert answer.off < 0.2


def test_what_was_turned_before_the_pump_stands_as_it_was_turned_last() -> None:
    before = ["ballast-open", "shut:tool-a", "ballast-shut", "open:tool-a", "note", "ballast-open", "isolate"]
    touches = [Touch(kind, 10.0 * n) for n, kind in enumerate(before)]
    after = [Touch("pump-on", 500.0), Touch("ballast-shut", 520.0)]
    kept = standing([*touches, *after], 500.0)
    assert [t.kind for t in kept] == ["open:tool-a", "ballast-open", "pump-on", "ballast-shut"]
