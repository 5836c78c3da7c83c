"""Job sheets: what they refuse, what survives a round trip, and that any sheet that is accepted can be computed."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import event, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from rough_draw.core.engine.network import NetworkError
from rough_draw.core.engine.simulate import run
from rough_draw.core.model.assemble import assemble, vary
from rough_draw.core.model.isolation import isolation, shut
from rough_draw.core.model.rig_graph import Unknowns
from rough_draw.core.model.steady import solve_steady
from rough_draw.core.model.system import ScopeError, build_system
from rough_draw.core.planning.upgrades import changes
from rough_draw.core.sheet.evidence import Gate
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.rig import GaugePart, HosePart, ManifoldPart, PumpPart, Rig, ToolPart
from rough_draw.core.sheet.scope import Link, Port, Scope, Section
from tests.builders import hose, jobs, scope, scopes
from tests.depth import drawn

PUMP = {"kind": "pump", "id": "pump"}
LINE = {"id": "a", "kind": "line", "size": "3/8 in", "length_m": 5}

REFUSED: list[tuple[type[Any], dict[str, Any], str]] = [
    (Scope, {"ambient_c": 900}, "ambient_c"),
    (Scope, {"ambient_c": -41}, "ambient_c"),
    (Scope, {"ambient_c": 10, "coldest_c": 50}, "wrong-coldest-too-warm"),
    (Scope, {"elevation_m": 9000}, "elevation_m"),
    (Scope, {"barometer_hpa": 20}, "barometer_hpa"),
    (Scope, {"humidity_pct": 101}, "humidity_pct"),
    (Scope, {"open_hours": -1}, "open_hours"),
    (Scope, {"free_water_g": -1}, "free_water_g"),
    (Scope, {"volume_l": 0}, "volume_l"),
    (Scope, {"refrigerant": "R-0"}, "wrong-refrigerant"),
    (Scope, {"oil": "olive"}, "wrong-oil"),
    (Scope, {"condition": "fine"}, "condition"),
    (Scope, {"colour": "red"}, "colour"),
    (Scope, {"sections": [LINE, LINE]}, "wrong-same-id"),
    (Scope, {"sections": [LINE], "links": [{"id": "x", "a": "a", "b": "z"}]}, "wrong-link-joins-nothing"),
    (Scope, {"sections": [LINE], "links": [{"id": "x", "a": "a", "b": "a"}]}, "wrong-link-to-itself"),
    (Scope, {"sections": [LINE], "ports": [{"id": "p", "section": "z"}]}, "wrong-port-nowhere"),
    (Scope, {"sections": [LINE], "water_section": "z"}, "wrong-water-nowhere"),
    (Section, {**LINE, "size": "9 in"}, "wrong-tube-size"),
    (Section, {**LINE, "length_m": 0}, "length_m"),
    (Section, {**LINE, "id": "No Slug"}, "id"),
    (Section, {"id": "v", "kind": "vessel"}, "wrong-needs-volume"),
    (Section, {"id": "c", "kind": "compressor"}, "wrong-needs-capacity"),
    (Section, {"id": "b", "kind": "balloon"}, "kind"),
    (Link, {"id": "x", "a": "a", "b": "b", "bore_mm": 0}, "bore_mm"),
    (Port, {"id": "p", "section": "a", "size": "2 in"}, "size"),
    (HosePart, hose(size="1 in"), "wrong-hose-size"),
    (HosePart, hose(length_m=-1), "length_m"),
    (HosePart, hose(made_for="garden"), "made_for"),
    (PumpPart, {**PUMP, "plate_cfm": 0}, "plate_cfm"),
    (PumpPart, {**PUMP, "blank_off_micron": 0}, "blank_off_micron"),
    (PumpPart, {**PUMP, "oil": "salad"}, "oil"),
    (ToolPart, {"id": "t", "port": "p", "bore": "3 in"}, "wrong-tool-bore"),
    (ManifoldPart, {"id": "m", "on": "p", "body": "two-valve", "inlet": "vacuum"}, "wrong-manifold-port"),
    (ManifoldPart, {"id": "m", "on": "p", "body": "ten-port"}, "wrong-manifold"),
    (GaugePart, {"id": "g", "make": "crystal ball"}, "wrong-gauge-class"),
    (GaugePart, {"id": "g", "resolution_micron": 0}, "resolution_micron"),
    (GaugePart, {"id": "g", "over_micron": 10}, "over_micron"),
    (Rig, {"parts": [hose(on=None, port="suction")]}, "wrong-no-pump"),
    (Rig, {"parts": [PUMP, {**PUMP, "id": "pump-2"}]}, "wrong-two-pumps"),
    (Rig, {"parts": [PUMP, hose(), hose("hose-b")]}, "wrong-same-outlet"),
    (Rig, {"parts": [PUMP, hose(on="tee")]}, "wrong-part-on-nothing"),
    (Rig, {"parts": [PUMP, hose(at="ceiling")]}, "wrong-no-outlet"),
    (Rig, {"parts": [PUMP, hose(on=None)]}, "wrong-part-loose"),
    (Rig, {"parts": [PUMP, hose(on="hose-b"), hose("hose-b", on="hose-a")]}, "wrong-circle"),
    (Rig, {"parts": [PUMP, hose(port="p"), hose("hose-b", None, port="p")]}, "wrong-port-taken"),
    (Rig, {"parts": [PUMP, {"kind": "tee", "id": "tee", "on": "pump", "port": "p"}]}, "wrong-not-on-port"),
    (Rig, {"parts": [{**PUMP, "on": "hose-a"}, hose(on=None, port="p")]}, "wrong-pump-first"),
    (CriterionChoice, {"school": "hopeful"}, "school"),
    (CriterionChoice, {"target_micron": 0}, "target_micron"),
    (CriterionChoice, {"hold_min": -5}, "hold_min"),
    (Gate, {"state": "skipped"}, "wrong-skip-reason"),
    (Gate, {"state": "skipped", "note": "   "}, "wrong-skip-reason"),
    (Job, {"version": 3}, "version"),
    (Job, {"format": "else"}, "format"),
    (Job, {"title": "x" * 201}, "title"),
]


@pytest.mark.parametrize(("kind", "values", "says"), REFUSED, ids=[f"{k.__name__} {s}" for k, _, s in REFUSED])
def test_what_a_sheet_refuses(kind: type[Any], values: dict[str, Any], says: str) -> None:
    with pytest.raises(ValidationError) as caught:
        kind(**values)
    assert says in str(caught.value)


@given(jobs())
def test_any_sheet_survives_json(job: Job) -> None:
    assert Job.model_validate_json(job.model_dump_json()) == job


def reached(job: Job) -> bool:
    """Whether the rig is one that can draw: its cores may keep every port shut."""
    try:
        return bool(assemble(job).pumped)
    except ScopeError:
        return False


@settings(max_examples=drawn(40))
@given(jobs(), st.floats(-1.3, 1.3))
def test_any_accepted_sheet_can_be_computed_or_says_why(job: Job, z: float) -> None:
    try:
        a = assemble(job, Unknowns(volume=z, water=z, core=z, pump=-z, hose=z, release=z))
    except (ScopeError, NetworkError) as e:
        event(str(e)[:40])
        return
    r = run(a.network, 3600, rtol=5e-3)
    assert np.isfinite(r.pressure).all()
    assert sum(t.kind in ("core", "port") for t in a.network.tubes) == sum(p.port is not None for p in job.rig.parts)
    for node in a.pumped:
        assert r.total(node)[-1] < r.total(node)[0] * 1.001


@settings(max_examples=drawn(30))
@given(jobs().filter(reached), st.floats(-2, 2), st.sampled_from([0.0, 1e-3]))
def test_a_varied_assembly_is_the_one_put_together_anew(job: Job, z: float, leak: float) -> None:
    u = Unknowns(volume=z, water=-z, core=z, pump=z, hose=-z, release=z, extra_leak=leak)
    varied, anew = vary(assemble(job), job, u).network, assemble(job, u).network
    assert (varied.tubes, varied.pumps, varied.leaks) == (anew.tubes, anew.pumps, anew.leaks)
    assert (varied.pools, varied.sorbed) == (anew.pools, anew.sorbed)
    assert sorted(varied.outgassing, key=repr) == sorted(anew.outgassing, key=repr)
    for a, b in zip(varied.nodes, anew.nodes, strict=True):
        assert (a.name, a.volume) == (b.name, pytest.approx(b.volume))


@settings(max_examples=drawn(25))
@given(jobs().filter(reached))
def test_isolation_leaves_the_pump_outside(job: Job) -> None:
    a = assemble(job)
    found = isolation(job, a)
    if not found.complete:
        assert "add a valve" in found.inside
        return
    net = shut(a.network, found.tubes)
    inside = net.connected(sorted(a.pumped)[0])
    assert "pump" not in inside
    assert found.gauge_inside == (a.gauge_node in inside)
    assert found.where
    assert (found.hose_m == 0.0) == (not any(f"{p.id}.b" in inside for p in job.rig.parts if p.kind == "hose"))
    assert 0.0 <= found.hose_share < 1.0


@settings(max_examples=drawn(25))
@given(jobs().filter(reached), st.floats(5, 2000))
def test_steady_shares_are_whole_on_any_rig(job: Job, pa: float) -> None:
    s = solve_steady(assemble(job), max(pa, 200.0))
    assert sum(p.share for p in s.parts) + s.pump_share == pytest.approx(1.0, abs=1e-6)
    assert all(p.share >= 0 for p in s.parts)


@settings(max_examples=drawn(25))
@given(jobs().filter(reached))
def test_every_offered_change_is_sound(job: Job) -> None:
    for change in changes(job):
        assert change.words
        assert change.job.scope == job.scope
        assert assemble(change.job).network.nodes


@given(scopes())
def test_volumes_and_water_are_ordered_and_positive(found: Scope) -> None:
    m = build_system(found)
    v, w = m.volume(), m.water_total()
    assert 0 < v.low <= v.value <= v.high
    assert 0 <= w.low <= w.value <= w.high
    assert set(m.ports.values()) <= {s.name for s in m.sections}
    assert 0 <= m.humidity < 0.2


@given(st.floats(1, 60), st.floats(1.1, 3))
def test_a_longer_line_holds_more(length: float, factor: float) -> None:
    def volume(metres: float) -> float:
        s = scope()
        longer = tuple(x.model_copy(update={"length_m": metres}) if x.id == "suction" else x for x in s.sections)
        return build_system(s.model_copy(update={"sections": longer})).volume().value

    assert volume(length * factor) > volume(length)
