"""Systems, rigs and plans: what a technician would expect of them, and the facts of the trade."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from rough_draw.core.catalogue import rig_parts, tube
from rough_draw.core.engine.simulate import run
from rough_draw.core.message import message
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.ensemble import members
from rough_draw.core.model.isolation import isolation, shut
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.model.steady import solve_steady
from rough_draw.core.model.system import ScopeError, build_system, line_volume
from rough_draw.core.physics.quantity import Quantity, add, exact
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.plan import HORIZON, band, plan_job, rank_upgrades, time_to_target
from rough_draw.core.planning.upgrades import changes
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope, Section
from rough_draw.core.sheet.setups import rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from tests.builders import hose, one_hose, scope
from tests.depth import drawn
from tests.told import keys

DRY = Scope(condition="new-dry", oil="mineral", ambient_c=20, coldest_c=20)


def test_acr_tube_bores() -> None:
    # ASTM B280: 7/8 in outside, 0.045 in wall; EN 12735-1: 22 × 1.
    assert tube.bore("7/8 in") == pytest.approx((0.875 - 0.09) * 0.0254)
    assert tube.bore("22 mm") == pytest.approx(0.020)
    with pytest.raises(ValueError, match="no copper tube of size '9 in'"):
        tube.bore("9 in")


def test_line_volume_is_a_cylinder() -> None:
    v = line_volume("22 mm", 10)
    assert v.value == pytest.approx(math.pi / 4 * 0.02**2 * 10)


def test_quantities_keep_their_order_and_meet_their_ends() -> None:
    q = Quantity(2.0, 1.0, 5.0, "x", "estimate: test")
    assert q.quantile(0) == 2.0
    assert q.quantile(1.2816) == pytest.approx(5.0, rel=1e-3)
    assert q.quantile(-1.2816) == pytest.approx(1.0, rel=1e-3)
    assert q.estimate
    assert not exact(1, "x", "typed in").estimate
    total = add([q, q], "x", "sum")
    assert total.value == 4
    assert total.low == pytest.approx(4 - math.sqrt(2))
    assert total.high == pytest.approx(4 + 3 * math.sqrt(2))


def test_every_parameter_has_a_source_and_an_ordered_range() -> None:
    found = [
        q
        for v in vars(rig_parts).values()
        for q in (v.values() if isinstance(v, dict) else [v])
        if isinstance(q, Quantity)
    ]
    assert len(found) > 25
    for q in found:
        assert q.low <= q.value <= q.high
        assert q.source


@pytest.mark.parametrize("template", sorted(TEMPLATES))
def test_every_kind_of_system_draws_down(template: str) -> None:
    found = scope(template, opened=True, condition="new-dry")
    port = found.ports[0]
    tool = {"kind": "tool", "id": "tool-a", "on": "hose-a", "port": port.id, "fits": port.size}
    rig = Rig.model_validate({"parts": [{"kind": "pump", "id": "pump", "plate_cfm": 8}, hose(size="1/2 in"), tool]})
    a = assemble(Job(scope=found, rig=rig))
    r = run(a.network, 8 * 3600)
    reached = [n for n in a.pumped if not n.startswith("system.reheat")]  # a check valve holds the reheat coil back
    assert max(float(r.total(n)[-1]) for n in reached) < 6000 * MICRON_PA


def test_a_measured_volume_is_kept() -> None:
    assert build_system(Scope(volume_l=7.5)).volume().value == pytest.approx(7.5e-3)


def test_water_follows_hours_and_oil() -> None:
    def oil_water(**s: Any) -> float:
        return build_system(Scope(**{"condition": "open-hours", "open_hours": 12, **s})).water.oil.value

    assert oil_water(open_hours=20) > oil_water(open_hours=2)
    assert oil_water(oil="PVE") > oil_water(oil="POE") > 5 * oil_water(oil="mineral")


def test_what_cannot_be_says_why() -> None:
    with pytest.raises(ScopeError, match="sheet-unknown-port"):
        assemble(Job(scope=scope("cylinder"), rig=Rig()))
    with pytest.raises(ValidationError, match="wrong-needs-capacity"):
        Section(id="coil", kind="evaporator")
    with pytest.raises(ValidationError, match="wrong-refrigerant"):
        Scope(refrigerant="R-999")
    kept = scope()
    kept = kept.model_copy(
        update={"sections": tuple(s.model_copy(update={"holds_charge": True}) for s in kept.sections)}
    )
    with pytest.raises(ScopeError, match="sheet-all-kept"):
        build_system(kept)


def test_3_cfm_on_half_inch_beats_8_cfm_on_quarter_inch() -> None:
    # Past the first minutes the hose counts, not the pump.
    job = Job(scope=DRY)
    small_pump = time_to_target(job.model_copy(update={"rig": one_hose(3, "1/2 in")}))
    large_pump = time_to_target(job.model_copy(update={"rig": one_hose(8, "1/4 in")}))
    assert small_pump is not None
    assert large_pump is not None
    assert small_pump < large_pump


def test_cores_and_manifold_cost_a_damp_system_several_times_over() -> None:
    # Same pump, same bore, one hose to one port; only core, depressor and manifold differ.
    damp = Scope(condition="open-hours", open_hours=6, free_water_g=2)
    body = {"kind": "manifold", "id": "manifold", "on": "hose-p", "body": "two-valve", "inlet": "centre"}
    pinned = hose("hose-a", "manifold", at="low", port="suction", depressor=True)
    clogged = Rig.model_validate({"parts": [{"kind": "pump", "id": "pump"}, hose("hose-p"), body, pinned]})
    slow, quick = (
        run(assemble(Job(scope=damp, rig=r)).network, HORIZON).time_to("system.evaporator", 500 * MICRON_PA)
        for r in (clogged, one_hose())
    )
    assert slow is not None
    assert quick is not None
    assert slow > 3 * quick


def test_gauge_at_the_manifold_reads_low_thousands_while_the_far_side_is_over_range() -> None:
    # A large hose lets the pump hold the manifold down while the cores keep the far side from following.
    rig = rig_edit.swap(rig_from("cylinder-ready", DRY), "hose-p", {"size": "1/2 in", "length_m": 0.9})
    a = assemble(Job(scope=DRY, rig=rig_edit.swap(rig, "pump", {"plate_cfm": 8})))
    r = run(a.network, 3600)
    gauge, far = r.total(a.gauge_node), r.total("system.evaporator")
    over = 20_000 * MICRON_PA
    early = far > over
    assert gauge[early].min() < 5_000 * MICRON_PA
    assert far[early][np.argmin(gauge[early])] > over


def test_a_permeating_hose_lifts_the_manifold_gauge_on_hold_while_the_system_stays(poor_rig: Rig) -> None:
    a = assemble(Job(scope=DRY, rig=poor_rig))
    # Both manifold valves and the pump's own: hoses stay with the manifold, the system stays alone.
    valves = ("manifold.low-way", "manifold.high-way", "pump.intake")
    r = run(a.network, 5 * 3600, [(4 * 3600, lambda n: shut(n, valves))])
    rise = {
        node: float(r.at(node, [5 * 3600])[0] - r.at(node, [4 * 3600 + 1])[0])
        for node in ("manifold", "system.evaporator")
    }
    assert rise["manifold"] > 10 * abs(rise["system.evaporator"])
    assert rise["manifold"] > 200 * MICRON_PA


def test_ballast_left_open_stalls_above_500_micron() -> None:
    job = Job(scope=DRY, rig=one_hose(5, "1/2 in"))
    r = run(assemble(job, ballast=True).network, 6 * 3600)
    assert r.total("system.evaporator")[-1] > 500 * MICRON_PA
    assert run(assemble(job).network, 6 * 3600).total("system.evaporator")[-1] < 200 * MICRON_PA


@settings(max_examples=drawn(10))
@given(st.sampled_from(rig_parts.HOSE_SIZES[:-1]), st.sampled_from([3.0, 5.0, 8.0]), st.floats(0.5, 3.0))
def test_more_bore_is_never_slower(size: str, cfm: float, length: float) -> None:
    larger = rig_parts.HOSE_SIZES[rig_parts.HOSE_SIZES.index(size) + 1]
    a = time_to_target(Job(scope=DRY, rig=one_hose(cfm, size, length)))
    b = time_to_target(Job(scope=DRY, rig=one_hose(cfm, larger, length)))
    assert b is not None
    assert a is None or b < a


@settings(max_examples=drawn(8))
@given(st.floats(0.0, 20), st.floats(0.5, 30))
def test_more_water_is_never_faster(grams: float, more: float) -> None:
    def taken(g: float) -> float:
        t = time_to_target(Job(scope=Scope(free_water_g=g), rig=one_hose(5, "1/2 in")))
        return t if t is not None else HORIZON

    assert taken(grams + more) >= taken(grams) * 0.999


def test_shares_add_up_and_follow_the_worst_part(job: Job) -> None:
    s = solve_steady(assemble(job), 200 * MICRON_PA)
    assert sum(p.share for p in s.parts) + s.pump_share == pytest.approx(1.0, abs=1e-6)
    assert max(s.parts, key=lambda p: p.share).kind == "hose"
    # The same throughput passes every part of a single way.
    q = [p.throughput for p in s.parts]
    assert max(q) == pytest.approx(min(q), rel=2e-3)
    assert s.speed == pytest.approx(s.port_speed["suction"], rel=2e-3)


def test_effective_speed_falls_with_pressure(job: Job) -> None:
    speeds = [solve_steady(assemble(job), p).speed for p in (1.0, 10.0, 100.0, 1000.0)]
    assert speeds == sorted(speeds)


def test_ensemble_is_the_same_every_time_and_centred() -> None:
    assert members(16) == members(16)
    mean = np.mean([[u.volume, u.water, u.pump] for u in members(64)], axis=0)
    assert np.all(np.abs(mean) < 0.15)


def test_band_of_exponentials() -> None:
    t = np.linspace(0, 1000, 2001)
    curves = [(t, 1e5 * np.exp(-t / tau)) for tau in (50, 75, 100, 125, 150)]
    at = np.array([100.0, 300.0])
    low, mid, high = band(curves, at)
    assert mid == pytest.approx(1e5 * np.exp(-at / 100), rel=0.02)
    assert np.all(low < mid)
    assert np.all(mid < high)


def test_plan_of_the_poor_rig_ranks_what_helps(job: Job, poor_rig: Rig) -> None:
    poor = job.model_copy(update={"rig": poor_rig, "criterion": CriterionChoice(school="code-minimum")})
    plan = plan_job(poor, size=8)
    upgrades = rank_upgrades(poor, plan.time_to_target.value if plan.time_to_target else None)
    saved = [u.seconds_saved.value for u in upgrades]
    assert saved == sorted(saved, reverse=True)
    keys = [u.change.key for u in upgrades]
    assert {"hoses-1-2", "no-manifold", "pull-cores"} <= set(keys)
    assert all(u.seconds_saved.low <= u.seconds_saved.value <= u.seconds_saved.high for u in upgrades)
    assert plan.gauge_error > 0, "a gauge at the manifold reads lower than the system while drawing"
    assert np.all(plan.gauge_band[0] <= plan.gauge_band[2] * 1.0001)


def test_what_a_change_saves_is_what_its_rig_takes_less(job: Job, poor_rig: Rig) -> None:
    poor = job.model_copy(update={"rig": poor_rig, "criterion": CriterionChoice(school="code-minimum")})
    before = time_to_target(poor)
    assert before is not None
    for u in rank_upgrades(poor, before, banded=0)[:3]:
        assert time_to_target(u.change.job) == pytest.approx(before - u.seconds_saved.value, rel=1e-6)


def test_every_change_is_a_valid_rig(job: Job, poor_rig: Rig) -> None:
    for rig in (job.rig, poor_rig):
        for change in changes(job.model_copy(update={"rig": rig})):
            assert Rig.model_validate(change.job.rig.model_dump()) == change.job.rig
            assert change.job.rig != rig


def test_unreachable_targets_are_said() -> None:
    plan = plan_job(Job(scope=DRY, rig=one_hose(3, blank_off_micron=400)), size=4)
    assert plan.time_to_target is None
    assert plan.limit.key == "limit-out-of-reach"


def test_isolation_by_rig(job: Job, poor_rig: Rig) -> None:
    a = isolation(job, assemble(job))
    assert a.inside.key == "inside-gauge-and-system"
    assert keys(a.where) == ["tool-at-port"]
    poor = job.model_copy(update={"rig": poor_rig})
    b = isolation(poor, assemble(poor))
    # The centre of a two-valve manifold has no valve: the gauge is kept inside by the pump's own, all hoses with it.
    assert b.where == message("pump-valve")
    assert b.hose_m == pytest.approx(4.5)
    assert b.gauge_inside


def test_a_hidden_leak_stops_the_draw(job: Job) -> None:
    tight = run(assemble(job).network, 7200).total("system.evaporator")[-1]
    leaky = run(assemble(job, Unknowns(extra_leak=0.02)).network, 7200).total("system.evaporator")[-1]
    assert leaky > 3 * tight
