"""Job sheets: what they refuse, what survives a round trip, and that any sheet that is accepted can be computed."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from rough_draw.core.assemble import Unknowns, assemble
from rough_draw.core.catalogue import fluids, tube
from rough_draw.core.catalogue.rigparts import HOSE_SIZES
from rough_draw.core.engine import run
from rough_draw.core.isolation import isolation, shut
from rough_draw.core.job import (
    CriterionChoice,
    Gate,
    Gauge,
    Hose,
    Job,
    Line,
    Path,
    Pump,
    Rig,
    Scope,
)
from rough_draw.core.release import release_steps
from rough_draw.core.steady import solve_steady
from rough_draw.core.system import build_system
from rough_draw.core.upgrades import changes

REFUSED: list[tuple[type[Any], dict[str, Any], str]] = [
    (Scope, {"ambient_c": 900}, "ambient_c"),
    (Scope, {"ambient_c": -41}, "ambient_c"),
    (Scope, {"ambient_c": 10, "coldest_c": 50}, "far above the ambient"),
    (Scope, {"elevation_m": 9000}, "elevation_m"),
    (Scope, {"humidity_pct": 101}, "humidity_pct"),
    (Scope, {"open_hours": -1}, "open_hours"),
    (Scope, {"free_water_g": -1}, "free_water_g"),
    (Scope, {"volume_l": 0}, "volume_l"),
    (Scope, {"capacity_kw": -3}, "capacity_kw"),
    (Scope, {"receiver_l": 1e9}, "receiver_l"),
    (Scope, {"refrigerant": "R-0"}, "no refrigerant 'R-0'"),
    (Scope, {"oil": "olive"}, "no oil 'olive'"),
    (Scope, {"system": "balloon"}, "system"),
    (Scope, {"condition": "fine"}, "condition"),
    (Scope, {"colour": "red"}, "colour"),
    (Line, {"size": "9 in"}, "no copper tube of size '9 in'"),
    (Line, {"length_m": 0}, "length_m"),
    (Line, {"length_m": 301}, "length_m"),
    (Hose, {"size": "1 in"}, "no hose of bore '1 in'"),
    (Hose, {"length_m": -1}, "length_m"),
    (Hose, {"kind": "garden"}, "kind"),
    (Pump, {"plate_cfm": 0}, "plate_cfm"),
    (Pump, {"blank_off_micron": 0}, "blank_off_micron"),
    (Pump, {"oil": "salad"}, "oil"),
    (Gauge, {"place": "pocket"}, "place"),
    (Gauge, {"resolution_micron": 0}, "resolution_micron"),
    (Gauge, {"over_micron": 10}, "over_micron"),
    (Path, {"tool": False, "core": "out"}, "no core tool"),
    (Path, {"port": "attic"}, "port"),
    (Rig, {"paths": ()}, "paths"),
    (Rig, {"paths": (Path(), Path(port="liquid"), Path())}, "paths"),
    (Rig, {"paths": (Path(), Path())}, "two hoses go to the suction port"),
    (Rig, {"gauge": Gauge(place="manifold")}, "the rig has none"),
    (
        Rig,
        {"paths": (Path(tool=False, core="in"),), "gauge": Gauge(place="tool:suction")},
        "there is none",
    ),
    (CriterionChoice, {"school": "hopeful"}, "school"),
    (CriterionChoice, {"target_micron": 0}, "target_micron"),
    (CriterionChoice, {"hold_min": -5}, "hold_min"),
    (Gate, {"state": "skipped"}, "needs its reason"),
    (Gate, {"state": "skipped", "note": "   "}, "needs its reason"),
    (Job, {"version": 2}, "version"),
    (Job, {"format": "else"}, "format"),
    (Job, {"title": "x" * 201}, "title"),
]


@pytest.mark.parametrize(("kind", "values", "says"), REFUSED, ids=[f"{k.__name__} {s}" for k, _, s in REFUSED])
def test_what_a_sheet_refuses(kind: type[Any], values: dict[str, Any], says: str) -> None:
    with pytest.raises(ValidationError) as caught:
        kind(**values)
    assert says in str(caught.value)


hoses = st.builds(
    Hose,
    size=st.sampled_from(HOSE_SIZES),
    length_m=st.floats(0.3, 5),
    kind=st.sampled_from(["vacuum", "pressure"]),
    age=st.sampled_from(["new", "used", "old"]),
    depressor=st.booleans(),
)
pumps = st.builds(
    Pump,
    plate_cfm=st.floats(1, 15),
    blank_off_micron=st.none() | st.floats(8, 400),
    oil=st.sampled_from(["fresh", "used", "wet"]),
)


@st.composite
def paths(draw: st.DrawFn, port: str) -> Path:
    tool = draw(st.booleans())
    core = draw(st.sampled_from(["in", "out"])) if tool else "in"
    return Path(port=port, hose=draw(hoses), tool=tool, core=core)  # type: ignore[arg-type]


@st.composite
def rigs(draw: st.DrawFn, liquid: bool = True) -> Rig:
    chosen = [draw(paths("suction"))]
    if liquid and draw(st.booleans()):
        chosen.append(draw(paths("liquid")))
    manifold = draw(st.sampled_from(["none", "two-valve", "four-port"]))
    places = ["pump", "port:suction"]
    if liquid:
        places.append("port:liquid")
    if manifold != "none":
        places.append("manifold")
    places += [f"tool:{p.port}" for p in chosen if p.tool]
    return Rig(
        pump=draw(pumps),
        manifold=manifold,  # type: ignore[arg-type]
        pump_hose=draw(hoses),
        paths=tuple(chosen),
        gauge=Gauge(place=draw(st.sampled_from(places)), own_valve=draw(st.booleans())),  # type: ignore[arg-type]
    )


@st.composite
def scopes(draw: st.DrawFn) -> Scope:
    ambient = draw(st.floats(-10, 40))
    return Scope(
        system=draw(st.sampled_from(["remote-condensing-unit", "packaged", "line-set"])),
        capacity_kw=draw(st.floats(1, 60)),
        suction=Line(size=draw(st.sampled_from(tube.SIZES)), length_m=draw(st.floats(1, 60))),
        liquid=Line(size=draw(st.sampled_from(tube.SIZES[:6])), length_m=draw(st.floats(1, 60))),
        receiver_l=draw(st.sampled_from([0.0, 4.0])),
        condensing_unit_open=draw(st.booleans()),
        refrigerant=draw(st.sampled_from(sorted(fluids.REFRIGERANTS))),
        oil=draw(st.sampled_from(sorted(fluids.OILS))),
        oil_kg=draw(st.floats(0, 6)),
        condition=draw(st.sampled_from(["new-dry", "open-hours", "leak-drawn-air", "compressor-burnt", "flooded"])),
        open_hours=draw(st.floats(0, 100)),
        humidity_pct=draw(st.floats(0, 100)),
        ambient_c=ambient,
        coldest_c=ambient - draw(st.floats(0, 10)),
        elevation_m=draw(st.floats(-100, 3000)),
    )


jobs = st.builds(Job, scope=scopes(), rig=rigs())


@given(jobs)
def test_any_sheet_survives_json(job: Job) -> None:
    assert Job.model_validate_json(job.model_dump_json()) == job


@settings(max_examples=40)
@given(jobs, st.floats(-1.3, 1.3))
def test_any_accepted_sheet_can_be_computed(job: Job, z: float) -> None:
    a = assemble(job, Unknowns(volume=z, water=z, core=z, pump=-z, hose=z, release=z))
    net = a.network
    start = next(n.name for n in net.nodes if n.group == "system")
    assert {n.name for n in net.nodes} == net.connected(start), "every part is joined to the system"
    r = run(net, 3600, rtol=5e-3)
    assert np.isfinite(r.pressure).all()
    assert r.total(a.gauge_node)[-1] < r.total(a.gauge_node)[0]
    assert sum(t.kind in ("core", "port") for t in net.tubes) == len(job.rig.paths)


@settings(max_examples=25)
@given(jobs)
def test_isolation_leaves_the_pump_outside(job: Job) -> None:
    a = assemble(job)
    found = isolation(job, a)
    net = shut(a.network, found.tubes)
    inside = net.connected(next(n.name for n in net.nodes if n.group == "system"))
    assert "pump" not in inside
    assert found.volume >= build_system(job.scope).volume().value * 0.999
    assert found.gauge_inside == (a.gauge_node in inside)
    assert found.where
    tools = all(p.tool for p in job.rig.paths)
    assert (found.hose_m == 0.0) == tools


@settings(max_examples=25)
@given(jobs, st.floats(5, 2000))
def test_steady_shares_are_whole_on_any_rig(job: Job, pa: float) -> None:
    s = solve_steady(assemble(job), max(pa, 200.0))
    assert sum(p.share for p in s.parts) + s.pump_share == pytest.approx(1.0, abs=1e-6)
    assert all(p.share >= 0 for p in s.parts)
    assert all(p.conductance > 0 for p in s.parts)


@settings(max_examples=25)
@given(jobs)
def test_every_offered_change_is_sound(job: Job) -> None:
    for change in changes(job):
        assert change.words
        assert change.job.scope == job.scope
        assert assemble(change.job).network.nodes


@settings(max_examples=25)
@given(jobs)
def test_release_never_opens_a_port_before_positive_pressure(job: Job) -> None:
    keys = [s.key for s in release_steps(job)]
    positive = keys.index("positive")
    assert all(keys.index(k) > positive for k in keys if k.startswith("core-") or k in ("hoses", "caps"))
    assert keys[0] in ("gauge-valve", "gauge-exposed")
    assert sum(k.startswith("core-") for k in keys) == sum(p.core == "out" for p in job.rig.paths)
    assert len(set(keys)) == len(keys)


@given(scopes())
def test_volumes_and_water_are_ordered_and_positive(scope: Scope) -> None:
    m = build_system(scope)
    v, w = m.volume(), m.water_total()
    assert 0 < v.low <= v.value <= v.high
    assert 0 <= w.low <= w.value <= w.high
    assert set(m.ports.values()) <= {s.name for s in m.sections}
    assert 0 <= m.humidity < 0.2


@given(scopes(), st.floats(1.1, 3))
def test_a_longer_line_holds_more(scope: Scope, factor: float) -> None:
    length = min(300.0, scope.suction.length_m * factor)
    longer = scope.model_copy(update={"suction": Line(size=scope.suction.size, length_m=length)})
    assert build_system(longer).volume().value > build_system(scope).volume().value
