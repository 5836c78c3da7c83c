"""Two gauges on one job: each its own prediction, and what the difference between them means."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.diagnosis.live_fit import fit, start_fit
from rough_draw.core.engine.simulate import run
from rough_draw.core.model.assemble import assemble, vary
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.gauge_difference import Seen, drawing, holding
from rough_draw.core.planning.plan import Plan, plan_job
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.gauge_owner import AT_PUMP, owner, owners
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.run_state import Touch
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import rig_from

M = MICRON_PA


def two(pattern: str = "cylinder-ready") -> Job:
    """The setup with its gauge, and another held at the pump's side."""
    scope = Scope(condition="new-dry")
    rig = rig_edit.add(
        rig_from(pattern, scope), {"kind": "gauge", "id": "gauge-2", "on": "pump", "at": "side", "name": "Far"}
    )
    return Job(scope=scope, rig=rig)


@pytest.fixture(scope="module")
def plan() -> Plan:
    return plan_job(two(), 8)


def test_every_gauge_has_a_band_of_its_own(plan: Plan) -> None:
    assert set(plan.gauges) == {"gauge", "gauge-2", AT_PUMP}
    for band in plan.gauges.values():
        assert (band[0] <= band[1] * 1.0001).all()
        assert (band[1] <= band[2] * 1.0001).all()
    assert np.allclose(plan.gauges["gauge"], plan.gauge_band, rtol=1e-6)
    assert plan.gauges["gauge-2"][1][40] < plan.gauges["gauge"][1][40], "at the pump it reads less"


def test_what_a_gauge_is_known_to_read_high_is_in_its_band(plan: Plan) -> None:
    job = two()
    off = job.model_copy(update={"rig": rig_edit.swap(job.rig, "gauge-2", {"offset_micron": 120.0})})
    moved = plan_job(off, 8)
    assert moved.gauges["gauge-2"][1][-1] == pytest.approx(plan.gauges["gauge-2"][1][-1] + 120.0 * M, rel=1e-6)
    assert np.allclose(moved.gauges["gauge"], plan.gauges["gauge"])


def seen(plan: Plan, i: int, far: float = 1.0, near: float = 1.0) -> tuple[Seen, Seen]:
    """Both gauges as the plan has them at its ``i``-th time, times a factor each."""
    a = Seen(gauge="gauge", name="Coil", pa=float(plan.gauges["gauge"][1][i]) * far)
    b = Seen(gauge="gauge-2", name="Pump", pa=float(plan.gauges["gauge-2"][1][i]) * near)
    return a, b


def middle(plan: Plan) -> int:
    """A time at which the two stand well apart."""
    apart = plan.gauges["gauge"][1] / plan.gauges["gauge-2"][1]
    return int(np.argmax(apart))


def test_as_planned_more_less_and_turned(plan: Plan) -> None:
    i = middle(plan)
    at = float(plan.times[i])
    ratio = float(plan.gauges["gauge"][1][i] / plan.gauges["gauge-2"][1][i])
    assert ratio > 2.0
    assert drawing(plan, at, *seen(plan, i)).kind == "as-planned"
    assert drawing(plan, at, *seen(plan, i, near=0.3)).kind == "more"
    assert drawing(plan, at, *seen(plan, i, near=0.9 * ratio)).kind == "less"
    assert drawing(plan, at, *seen(plan, i, near=1.5 * ratio)).kind == "turned"


@given(st.integers(5, 200), st.floats(0.05, 20.0), st.booleans())
def test_the_order_in_which_they_are_told_does_not_matter(i: int, factor: float, hold: bool) -> None:
    p = plan_job_once()
    i = min(i, p.times.size - 1)
    a, b = seen(p, i, near=factor)
    a, b = replace(a, rate=0.1), replace(b, rate=0.1 * factor)
    judge = holding if hold else drawing
    one, other = judge(p, float(p.times[i]), a, b), judge(p, float(p.times[i]), b, a)
    assert one == other
    assert one.words.key.startswith("gauges-")


_once: list[Plan] = []


def plan_job_once() -> Plan:
    if not _once:
        _once.append(plan_job(two(), 4))
    return _once[0]


@pytest.mark.parametrize(
    ("near", "far", "kind"),
    [
        (1.0, 0.1, "rig-rises"),
        (0.1, 1.0, "system-rises"),
        (0.5, 0.45, "even"),
        (0.5, -0.1, "rig-rises"),
        (0.0, 0.0, "even"),
    ],
)
def test_in_a_hold_the_faster_side_is_named(plan: Plan, near: float, far: float, kind: str) -> None:
    i = middle(plan)
    a, b = seen(plan, i)
    assert holding(plan, float(plan.times[i]), replace(a, rate=far), replace(b, rate=near)).kind == kind


def test_each_gauge_is_fitted_by_its_own_readings() -> None:
    """A truth with tight cores: either gauge's curve alone is told, and by the same members."""
    job = two()
    base = assemble(job)
    truth = vary(base, job, Unknowns(core=0.8, bores=0.8, lines=0.8, volume=0.5))
    r = run(truth.network, 2400.0)
    at = np.linspace(30.0, 2400.0, 60)
    state = start_fit(job, [Touch("pump-on", 0.0)], 0.0)
    for gauge, node in (("", truth.gauge_node), ("gauge-2", truth.gauges["gauge-2"])):
        answer = fit(state, at, r.at(node, at), 3000.0, rounds=2, gauge=gauge)
        assert answer.off < 0.35
        inside = (
            np.interp(1800.0, answer.times, answer.band[0]) * 0.8,
            np.interp(1800.0, answer.times, answer.band[2]) * 1.25,
        )
        assert inside[0] <= float(r.at(node, [1800.0])[0]) <= inside[1]


# Whose readings they are


def test_readings_go_by_id_or_name_and_never_by_a_part_of_it() -> None:
    rig = two().rig
    assert owner(rig, "gauge-2") == "gauge-2"
    assert owner(rig, "Far") == "gauge-2"
    for called in ("Far away", "system", "Gauge at the pump", "the coil's", ""):
        assert owner(rig, called) is None
    alone = rig_from("two-hoses", Scope())
    assert owner(alone, "whatever it says") == "gauge"
    assert owner(rig_from("low-side-dial", Scope()), "needle") is None


@given(st.dictionaries(st.text(max_size=12), st.integers(1, 500), max_size=5))
def test_no_two_series_are_one_gauges_and_a_named_one_keeps_its_own(sizes: dict[str, int]) -> None:
    rig = two().rig
    found = owners(rig, sizes)
    assert len(set(found.values())) == len(found)
    assert set(found) <= set(sizes)
    if "Far" in sizes:
        assert found["Far"] == "gauge-2"
    left = [n for n in sizes if n not in ("Far", "gauge", "gauge-2")]
    if left and "gauge" not in sizes:
        longest = max(sizes[n] for n in left)
        assert sizes[next(n for n, g in found.items() if g == "gauge")] == longest
