"""Rigs, systems and sheets to start tests from, and strategies that make up any of them."""

from __future__ import annotations

from typing import Any

from hypothesis import strategies as st

from rough_draw.core.catalogue import fluids, tube
from rough_draw.core.catalogue.rig_parts import HOSE_SIZES, TOOL_BORE
from rough_draw.core.interlock.orders import Order
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.core.sheet.templates import TEMPLATES

GAUGE_ON_TOOL = {"kind": "gauge", "id": "gauge", "on": "tool-a", "at": "side"}


def hose(name: str = "hose-a", on: str = "pump", **more: Any) -> dict[str, Any]:
    """A 3/8 in vacuum hose of 1.5 m unless told otherwise."""
    return {"kind": "hose", "id": name, "on": on, "size": "3/8 in", "length_m": 1.5, **more}


def one_hose(cfm: float = 5.0, size: str = "3/8 in", length: float = 1.5, core_in: bool = False, **pump: Any) -> Rig:
    """Pump, one hose, a tool on the suction port, the gauge on its side."""
    tool = {"kind": "tool", "id": "tool-a", "on": "hose-a", "port": "suction"}
    parts = [
        {"kind": "pump", "id": "pump", "plate_cfm": cfm, **pump},
        hose(size=size, length_m=length),
        tool,
        GAUGE_ON_TOOL,
    ]
    return Rig.model_validate({"parts": parts, "cores_in": ["suction"] if core_in else []})


def poor_rig() -> Rig:
    """Two 1/4 in charging hoses with depressors on a two-valve manifold, cores in, gauge at the manifold."""
    quarter = {"size": "1/4 in", "made_for": "pressure"}
    pinned = {**quarter, "depressor": True}
    parts = [
        {"kind": "pump", "id": "pump", "plate_cfm": 8},
        hose("hose-p", **quarter),
        {"kind": "manifold", "id": "manifold", "on": "hose-p", "body": "two-valve", "inlet": "centre"},
        hose("hose-a", "manifold", at="low", port="suction", **pinned),
        hose("hose-b", "manifold", at="high", port="liquid", **pinned),
        {"kind": "gauge", "id": "gauge", "on": "manifold", "at": "sensor"},
    ]
    return Rig.model_validate({"parts": parts, "cores_in": ["suction", "liquid"]})


def scope(template: str = "cooler", opened: bool = False, **values: Any) -> Scope:
    """A system from its template; ``opened`` opens every valve but those of sections that keep their charge."""
    found: dict[str, Any] = {"template": template, **TEMPLATES[template].build(), **TEMPLATES[template].scope, **values}
    if opened:
        kept = {s["id"] for s in found["sections"] if s.get("holds_charge")}
        found["links"] = [{**x, "open": not ({x["a"], x["b"]} & kept)} for x in found["links"]]
    return Scope.model_validate(found)


@st.composite
def scopes(draw: st.DrawFn, opened: bool = True) -> Scope:
    """Any system from any template, in any weather and condition."""
    template = draw(st.sampled_from(sorted(TEMPLATES)))
    ambient = draw(st.floats(-10, 40))
    found = scope(
        template,
        opened,
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
    sections = []
    for s in found.sections:
        change: dict[str, Any] = {}
        if s.kind == "line" and draw(st.booleans()):
            change = {"size": draw(st.sampled_from(tube.SIZES)), "length_m": draw(st.floats(1, 60))}
        elif s.capacity_kw and draw(st.booleans()):
            change = {"capacity_kw": draw(st.floats(1, 120))}
        sections.append(s.model_copy(update=change))
    return found.model_copy(update={"sections": tuple(sections)})


@st.composite
def rigs(draw: st.DrawFn, on: Scope) -> Rig:
    """Any pattern that fits the system, every part of it changed at random, some parts put in or taken off."""
    rig = rig_from(draw(st.sampled_from([k for k in PATTERNS if fits(k, on)])), on)
    for part in rig.parts:
        fields: dict[str, Any] = {}
        if part.kind == "hose":
            fields = {
                "size": draw(st.sampled_from(HOSE_SIZES)),
                "length_m": draw(st.floats(0.3, 5)),
                "made_for": draw(st.sampled_from(["vacuum", "pressure"])),
                "age": draw(st.sampled_from(["new", "used", "old"])),
                "ball_end": draw(st.booleans()),
            }
        elif part.kind == "pump":
            fields = {
                "plate_cfm": draw(st.floats(1, 15)),
                "blank_off_micron": draw(st.none() | st.floats(8, 400)),
                "oil": draw(st.sampled_from(["fresh", "used", "wet"])),
                "stages": draw(st.sampled_from([1, 2])),
                "valve": draw(st.booleans()),
            }
        elif part.kind == "tool":
            fields = {"bore": draw(st.sampled_from(sorted(TOOL_BORE))), "vacuum_rated": draw(st.booleans())}
        if fields:
            rig = rig_edit.swap(rig, part.id, fields)
    cores = draw(st.sets(st.sampled_from([p.id for p in on.ports]))) | set(rig.cores_in)
    rig = rig.with_parts(list(rig.parts), cores_in=sorted(cores))
    gauge = rig.gauge
    if gauge is not None and draw(st.booleans()):
        rig = rig_edit.put_under(rig, gauge.id)
    first = rig.pumped()[0]
    if draw(st.booleans()):
        rig = rig_edit.insert(rig, first.id, {"kind": "valve"})
    return rig


@st.composite
def jobs(draw: st.DrawFn) -> Job:
    """Any sheet."""
    on = draw(scopes())
    return Job(scope=on, rig=draw(rigs(on)))


CHARGING_HOSE = {
    "kind": "hose",
    "id": "charging-hose",
    "name": "yellow hose",
    "size": "1/4 in",
    "length_m": 1.5,
    "made_for": "pressure",
    "rated_kpa": 5500,
}
"""A hose brought along for the charge."""


def usual_job(pattern: str, hose: bool = False) -> Job:
    """A pattern on a cooler or, where it needs more ports, on a chiller; ``hose``: with a charging hose in the van."""
    on = scope("cooler", opened=True)
    if not fits(pattern, on):
        on = scope("chiller", opened=True)
    rig = rig_from(pattern, on)
    if hose:
        rig = Rig.model_validate({**rig.model_dump(), "spares": [CHARGING_HOSE]})
    return Job(scope=on, rig=rig)


def told_order(found: Order) -> str:
    """An order by its keys: what is missing, the steps, and each step's cautions after a "!"."""
    words = [f"missing:{m.code}" for m in found.missing]
    for step in found.steps:
        words += [step.key, *(f"! {c.kind}" for c in step.care)]
    return " ".join(words)
