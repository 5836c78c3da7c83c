"""Parts as hands find them: pins, side ports, ends, intakes, and fittings anywhere in a rig."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from rough_draw.core.advice.drawing import draw
from rough_draw.core.advice.findings import Finding, findings
from rough_draw.core.advice.setup_check import answers
from rough_draw.core.interlock.board_builder import make_board
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.model.steady import solve_steady
from rough_draw.core.planning.plan import plan_job, time_to_target
from rough_draw.core.planning.upgrades import changes
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import AdapterPart, GaugePart, PumpPart, Rig, ValvePart
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from tests.depth import drawn

HERE = Scope(condition="new-dry")


def rig(pattern: str = "two-hoses", scope: Scope = HERE) -> Rig:
    return rig_from(pattern, scope)


def found(job: Job) -> dict[str, Finding]:
    a = assemble(job)
    return {f.key: f for f in findings(job, a, isolation(job, a), 1.0, 66.7)}


def job_of(r: Rig, scope: Scope = HERE) -> Job:
    return Job(scope=scope, rig=r)


def speed(r: Rig, port: str = "suction") -> float:
    return solve_steady(assemble(job_of(r)), 66.7).port_speed[port]


# A tool has no pin


@pytest.mark.parametrize("pattern", [k for k in PATTERNS if fits(k, HERE)])
def test_a_core_left_in_under_a_tool_keeps_the_port_shut(pattern: str) -> None:
    whole = rig(pattern)
    for part in whole.parts:
        if part.kind != "tool" or part.port is None:
            continue
        left = whole.with_core(part.port, True)
        a = assemble(job_of(left))
        tube = next(t for t in a.network.tubes if t.name == f"{part.port}.port")
        assert not tube.open
        stop = found(job_of(left))[f"core-under-tool-{part.port}"]
        assert stop.severity == "stop"
        assert stop.fix is not None
        mended = stop.fix.job.rig
        assert f"core-under-tool-{part.port}" not in found(stop.fix.job)
        assert assemble(job_of(mended)).pumped == assemble(job_of(whole)).pumped


def test_a_gauge_on_such_a_tool_is_called_blind() -> None:
    """The false pass: gauge and tool pull down in seconds and hold; the system is never seen."""
    left = rig("one-hose-valved-gauge").with_core("liquid", True)
    job = job_of(left)
    assert found(job)["blind-gauge-gauge"].severity == "stop"
    plan = plan_job(job, 2)
    assert plan.gauge_error > 0.0 or plan.time_to_target is not None
    assert "blind-gauge-gauge" not in found(job_of(rig("one-hose-valved-gauge")))


def test_every_core_under_a_tool_and_the_plan_still_says_what_to_do() -> None:
    left = rig()
    for port in ("suction", "liquid"):
        left = left.with_core(port, True)
    plan = plan_job(job_of(left), 2)
    assert plan.time_to_target is None
    assert plan.limit.key == "limit-reaches-none"
    assert {k for k in found(job_of(left)) if k.startswith("core-under-tool")} == {
        "core-under-tool-suction",
        "core-under-tool-liquid",
    }


def test_a_core_pulled_by_hand_is_out_without_a_tool() -> None:
    bare = rig("pump-on-high")
    pulled = bare.with_core("suction", False)
    kinds = {t.name: t.kind for t in assemble(job_of(pulled)).network.tubes}
    assert kinds["suction.port"] == "port"
    assert kinds["liquid.port"] == "core"
    assert time_to_target(job_of(pulled)) < time_to_target(job_of(bare))  # type: ignore[operator]
    assert "no-valve-suction" not in found(job_of(pulled))
    assert pulled.with_core("suction", True).keeps_core(HERE.port("suction"))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("pushes", "key", "severity", "opens"),
    [(True, "side-core-tool-b", "caution", True), (False, "side-core-tool-b", "stop", False)],
)
def test_a_side_port_with_a_core(pushes: bool, key: str, severity: str, opens: bool) -> None:
    cored = rig_edit.swap(rig("two-hoses"), "tool-b", {"side_core": True})
    cored = rig_edit.swap(cored, "gauge", {"depressor": pushes})
    a = assemble(job_of(cored))
    tube = next(t for t in a.network.tubes if t.name == "tool-b.side-core")
    assert tube.open is opens
    assert tube.width > 0
    finding = found(job_of(cored))[key]
    assert finding.severity == severity
    assert ("blind-gauge-gauge" in found(job_of(cored))) is not opens
    assert finding.fix is not None
    assert key not in found(finding.fix.job)


def test_nothing_on_a_side_port_and_its_core_says_nothing() -> None:
    cored = rig_edit.swap(rig("two-hoses"), "tool-a", {"side_core": True})
    assert "side-core-tool-a" not in found(job_of(cored))


# Ends, tapers, intakes


@pytest.mark.parametrize("end", ["near_end", "far_end"])
@pytest.mark.parametrize("size", ["1/2 in", "3/4 in"])
def test_small_flares_choke_a_large_hose(size: str, end: str) -> None:
    wide = rig_edit.swap(rig(), "hose-a", {"size": size})
    narrow = rig_edit.swap(wide, "hose-a", {end: "1/4 in"})
    assert speed(narrow) < speed(wide)
    finding = found(job_of(narrow))["narrow-end-hose-a"]
    assert finding.fix is not None
    assert speed(finding.fix.job.rig) == pytest.approx(speed(wide))


def test_a_flare_wider_than_the_hoses_own_end_changes_nothing() -> None:
    plain = rig_edit.swap(rig(), "hose-a", {"size": "1/4 in"})
    assert speed(rig_edit.swap(plain, "hose-a", {"near_end": "1/2 in", "far_end": "1/2 in"})) == speed(plain)


def test_a_tapered_hose_lies_between_its_two_bores() -> None:
    large, small = (
        rig_edit.swap(rig(), "hose-a", {"size": "3/8 in"}),
        rig_edit.swap(rig(), "hose-a", {"size": "1/4 in"}),
    )
    for tapered in ({"size": "3/8 in", "size_far": "1/4 in"}, {"size": "1/4 in", "size_far": "3/8 in"}):
        s = speed(rig_edit.swap(rig(), "hose-a", tapered))
        assert speed(small) < s < speed(large)


@pytest.mark.parametrize("bad", ["7/8 in", "", "0.5"])
def test_a_taper_to_a_bore_that_is_not_is_refused(bad: str) -> None:
    with pytest.raises(ValidationError):
        rig_edit.swap(rig(), "hose-a", {"size_far": bad})


def test_the_intake_that_is_used_counts() -> None:
    speeds = [speed(rig_edit.swap(rig(), "pump", {"intake": s})) for s in ("1/4 in", "3/8 in", "1/2 in", "3/4 in")]
    assert speeds == sorted(speeds)
    choked = rig_edit.swap(rig("one-hose-valved-gauge"), "pump", {"intake": "1/4 in"})
    finding = found(job_of(choked))["narrow-intake"]
    assert finding.fix is not None
    assert "narrow-intake" not in found(finding.fix.job)


def test_one_small_hose_of_two_is_named() -> None:
    r = rig_edit.swap(rig(), "hose-b", {"size": "1/4 in"})
    finding = found(job_of(r))["small-hose"]
    assert finding.place == "hose-b"
    assert finding.fix is not None
    assert "small-hose" not in found(finding.fix.job)
    even = rig_edit.swap(rig(), "hose-b", {"size": "1/2 in"})
    assert "small-hose" not in found(job_of(even))


# Pump, pressure, driven valves


def test_ratings_of_older_sheets_stood_for_both() -> None:
    assert not PumpPart.model_validate({"id": "pump", "rated_a2l": False}).rated_a3
    assert PumpPart.model_validate({"id": "pump"}).rated_a3
    assert PumpPart.model_validate({"id": "pump", "rated_a2l": False, "rated_a3": True}).rated_a3


@pytest.mark.parametrize(
    ("refrigerant", "fields", "there"),
    [
        ("R-32", {"rated_a2l": False, "rated_a3": True}, True),
        ("R-32", {"rated_a3": False, "rated_a2l": True}, False),
        ("R-290", {"rated_a3": False, "rated_a2l": True}, True),
        ("R-290", {"rated_a2l": False, "rated_a3": True}, False),
        ("R-134a", {"rated_a2l": False, "rated_a3": False}, False),
    ],
)
def test_a2l_and_a3_are_two_ratings(refrigerant: str, fields: dict[str, Any], there: bool) -> None:
    scope = HERE.model_copy(update={"refrigerant": refrigerant})
    assert ("pump-not-rated" in found(job_of(rig_edit.swap(rig(), "pump", fields), scope))) is there


def test_what_shows_positive_pressure() -> None:
    assert "no-pressure" in found(job_of(rig("two-hoses")))
    assert "no-pressure" not in found(job_of(rig("two-valve")))
    assert "no-pressure" in found(job_of(rig_edit.swap(rig("two-valve"), "manifold", {"dials": False})))
    assert "no-pressure" not in found(job_of(rig_edit.swap(rig("two-hoses"), "gauge", {"shows_kpa": 4000.0})))


def test_single_stage_and_no_ballast() -> None:
    assert "single-stage" in found(job_of(rig_edit.swap(rig(), "pump", {"stages": 1})))
    dry = rig_edit.swap(rig(), "pump", {"ballast": False})
    assert "no-ballast" not in found(job_of(dry))
    assert "no-ballast" in found(job_of(dry, Scope(condition="flooded")))


def test_every_valve_that_must_be_driven_is_named_and_no_other() -> None:
    for template in TEMPLATES.values():
        scope = Scope.model_validate({"template": template.key, **template.build(), **template.scope})
        if not fits("single-port", scope):
            continue
        kept = {s.id for s in scope.sections if s.holds_charge}
        expected = {
            f"driven-valve-{x.id}"
            for x in scope.links
            if x.kind in ("solenoid", "expansion-valve", "reheat-valve") and x.open and not {x.a, x.b} & kept
        }
        got = {k for k in found(job_of(rig_from("single-port", scope), scope)) if k.startswith("driven-valve")}
        assert got == expected


@pytest.mark.parametrize("inlet", ["vacuum", "charge", "low", "high"])
def test_the_pump_on_any_port_of_a_four_port_manifold(inlet: str) -> None:
    places = [p for p in ("low", "high", "vacuum", "charge") if p != inlet]
    parts: list[dict[str, Any]] = [
        {"kind": "pump", "id": "pump"},
        {"kind": "hose", "id": "hose-p", "on": "pump"},
        {"kind": "manifold", "id": "manifold", "on": "hose-p", "body": "four-port", "inlet": inlet},
        {"kind": "hose", "id": "hose-a", "on": "manifold", "at": places[0]},
        {"kind": "tool", "id": "tool-a", "on": "hose-a", "port": "suction"},
        {"kind": "hose", "id": "hose-b", "on": "manifold", "at": places[1]},
        {"kind": "tool", "id": "tool-b", "on": "hose-b", "port": "liquid"},
        {"kind": "gauge", "id": "gauge", "on": "tool-b", "at": "side"},
    ]
    job = job_of(Rig.model_validate({"parts": parts}))
    assert plan_job(job, 2).time_to_target is not None
    assert isolation(job, assemble(job)).complete
    assert make_board(job).gates[f"manifold.{inlet}"]


# Fittings anywhere


def places_of(r: Rig) -> list[str]:
    return [p.id for p in r.parts if p.on is not None]


@st.composite
def fitted(draw_: st.DrawFn) -> tuple[Job, int]:
    """A setup with up to four adapters, couplings and ball valves put in anywhere."""
    template = draw_(st.sampled_from(sorted(TEMPLATES)))
    scope = Scope.model_validate({"template": template, **TEMPLATES[template].build(), **TEMPLATES[template].scope})
    pattern = draw_(st.sampled_from([k for k in PATTERNS if fits(k, scope)]))
    r = rig_from(pattern, scope)
    count = draw_(st.integers(1, 4))
    for _ in range(count):
        kind = draw_(st.sampled_from(["adapter", "valve"]))
        at = draw_(st.sampled_from(places_of(r)))
        on_port = [p.id for p in r.parts if p.port is not None]
        if on_port and draw_(st.booleans()):
            port_part = draw_(st.sampled_from(on_port))
            more = {"depressor": True} if kind == "adapter" else {}
            r = rig_edit.put_at_port(r, port_part, {"kind": kind, **more})
        else:
            r = rig_edit.insert(r, at, {"kind": kind})
    if draw_(st.booleans()) and not any(p.on == "pump" and p.at == "side" for p in r.parts):
        r = rig_edit.add(r, {"kind": "gauge", "on": "pump", "at": "side"})
    return job_of(r, scope), count


@settings(max_examples=drawn(80), deadline=None)
@given(fitted())
def test_fittings_anywhere_are_seen_through(made: tuple[Job, int]) -> None:
    job, count = made
    added = [p for p in job.rig.parts if isinstance(p, AdapterPart | ValvePart)]
    assert len(added) >= count
    a = assemble(job)
    held = isolation(job, a)
    names = {n.name for n in a.network.nodes}
    assert a.gauge_node in names
    for p in added:
        assert any(t.name == f"{p.id}.way" for t in a.network.tubes)
        if isinstance(p, ValvePart):
            assert p.id in a.valves
    plan = plan_job(job, 2)
    assert plan.steady.speed > -1e-9
    board = make_board(job, a)
    assert {v for v in a.valves if v in {p.id for p in added}} <= set(board.gates)
    drawn = draw(job, a)
    shown = {b.name for b in drawn.boxes} | {s.part for s in drawn.strokes} | {v.part for v in drawn.valves}
    assert {p.id for p in added} <= shown
    told = findings(job, a, held, plan.gauge_error, plan.target)
    assert told
    # Every fix is a rig that can be computed, and changes(): nothing that is offered may break the page.
    for f in told:
        if f.fix is not None:
            assemble(f.fix.job, needs_pump=False)
    assert [c.key for c in changes(job)]
    assert [q.letter for q in answers(job, a, held)] == list("abcdef")


@settings(max_examples=drawn(25), deadline=None)
@given(st.sampled_from(sorted(PATTERNS)), st.data())
def test_a_loose_valve_isolates_where_it_is_nearest(pattern: str, data: st.DataObject) -> None:
    """A ball valve on the way is one that the hold may be shut at: shutting all that is named leaves the pump out."""
    if not fits(pattern, HERE):
        return
    r = rig(pattern)
    hoses = [p.id for p in r.parts if p.kind == "hose" and p.on is not None]
    r = rig_edit.insert(r, data.draw(st.sampled_from(hoses)), {"kind": "valve"})
    job = job_of(r)
    a = assemble(job)
    held = isolation(job, a)
    if not held.complete:
        return
    net = a.network
    for tube in held.tubes:
        net = net.with_tube(tube, open=False)
    assert "pump" not in net.connected(next(iter(sorted(a.pumped))))


def test_a_gauge_reads_high_by_what_is_known() -> None:
    g = GaugePart(id="gauge", port="liquid", offset_micron=80.0)
    assert g.offset_micron == 80.0
    assert GaugePart.model_validate({"id": "g", "port": "liquid"}).offset_micron == 0.0
