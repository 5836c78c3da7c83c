"""The planning bench: edits, findings with their fixes, the best rig, the cord, what to carry, the day, the drawing."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.advice import cord
from rough_draw.core.advice.drawing import draw
from rough_draw.core.advice.findings import findings
from rough_draw.core.advice.packing_list import carry
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import isolation
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.planning.plan import plan_job, rank_upgrades
from rough_draw.core.planning.rig_search import best_rig, hose_worth, purchases
from rough_draw.core.planning.schedule import RIGGING, DayTouch, Planned, conflicts, fit, touches
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.rig import Cord, HosePart, PumpPart, Rig
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.store.rig_svg import rig_svg
from tests.builders import hose, jobs, one_hose, scope
from tests.depth import drawn
from tests.worlds import edited, edits

KIT = [
    KitItem(1, "pump", "Pump 1", {"plate_cfm": 8.0}),
    KitItem(2, "pump", "Pump 2", {"plate_cfm": 3.0, "oil": "used"}),
    KitItem(3, "hose", "half, long", {"size": "1/2 in", "length_m": 1.8}),
    KitItem(4, "hose", "half, short", {"size": "1/2 in", "length_m": 0.9}),
    KitItem(5, "hose", "quarter", {"size": "1/4 in", "length_m": 1.5, "made_for": "pressure"}),
    *(KitItem(n, "tool", f"tool {n}", {"bore": "3/8 in"}) for n in (6, 7, 8)),
    KitItem(9, "gauge", "gauge", {"make": "thin-film"}),
]


def found_for(job: Job) -> dict[str, Any]:
    a = assemble(job)
    return {f.key: f for f in findings(job, a, isolation(job, a), 15.0, 200 * MICRON_PA)}


@pytest.mark.parametrize("template", ["cooler", "freezer", "rack-circuit", "packaged", "outdoor-air", "ductless"])
def test_every_fix_mends_its_finding(template: str) -> None:
    system = scope(template)
    for key in PATTERNS:
        if not fits(key, system):
            continue
        job = Job(scope=system, rig=rig_from(key, system))
        for f in found_for(job).values():
            if f.fix is not None:
                assert f.key not in found_for(f.fix.job), (key, f.key)


def test_what_is_wrong_with_a_poor_rig_is_found(poor_rig: Rig) -> None:
    keys = found_for(Job(scope=scope(), rig=poor_rig))
    assert {"pressure-hose", "gauge-near-pump", "no-valve-suction", "no-valve-liquid", "hoses-in-hold"} <= set(keys)
    assert keys["gauge-near-pump"].values["error"].value > 0
    assert keys["gauge-near-pump"].fix.job.rig.gauge.on != "manifold"


@pytest.mark.parametrize(
    ("fields", "key", "severity"),
    [
        ({"fits": "5/16 in"}, "fit-suction", "stop"),
        ({"vacuum_rated": False}, "tool-tool-a", "caution"),
    ],
)
def test_a_wrong_tool_is_found(fields: dict[str, Any], key: str, severity: str) -> None:
    rig = rig_edit.swap(one_hose(), "tool-a", fields)
    assert found_for(Job(scope=scope(), rig=rig))[key].severity == severity


def test_a_core_that_nothing_pushes_shuts_the_port() -> None:
    rig = Rig.model_validate({"parts": [{"kind": "pump", "id": "pump"}, hose(port="suction")]})
    job = Job(scope=scope(), rig=rig)
    assert assemble(job).pumped == frozenset()
    fixed = found_for(job)["core-shut-suction"].fix.job
    assert assemble(fixed).pumped
    plan = plan_job(job, 2)
    assert plan.time_to_target is None
    assert plan.limit.key == "limit-reaches-none"


def test_crossed_hoses_are_exchanged() -> None:
    system = scope()
    rig = rig_from("three-tools", system)
    rig = rig_edit.swap(rig_edit.swap(rig, "hose-a", {"size": "1/4 in"}), "hose-b", {"size": "1/2 in"})
    fixed = found_for(Job(scope=system, rig=rig))["crossed-hoses"].fix.job.rig
    assert (fixed.get("hose-a").size, fixed.get("hose-b").size) == ("1/2 in", "1/4 in")


def test_flammable_gas_wants_a_rated_pump_and_a_low_gauge_a_valve() -> None:
    rig = rig_edit.swap(one_hose(), "pump", {"rated_a2l": False})
    rig = rig_edit.swap(rig, "gauge", {"stands_kpa": 500.0})
    keys = found_for(Job(scope=scope(refrigerant="R-32"), rig=rig))
    assert keys["pump-not-rated"].severity == "stop"
    assert keys["gauge-burst"].severity == "stop"
    assert "pump-not-rated" not in found_for(Job(scope=scope(refrigerant="R-134a"), rig=rig))


def test_an_open_valve_to_a_charge_is_a_stop() -> None:
    system = scope()
    links = tuple(x.model_copy(update={"open": True}) if x.id == "suction-service" else x for x in system.links)
    job = Job(scope=system.model_copy(update={"links": links}), rig=one_hose())
    assert found_for(job)["charge-open-suction-service"].severity == "stop"


@settings(max_examples=drawn(40))
@given(jobs(), st.data())
def test_edits_keep_a_rig_whole_or_refuse(job: Job, data: st.DataObject) -> None:
    for _ in range(3):
        try:
            rig = edited(job.rig, data.draw(edits(job)))
        except ValueError:
            continue
        assert Rig.model_validate(rig.model_dump()) == rig
        assert len({p.id for p in rig.parts}) == len(rig.parts)
        job = job.model_copy(update={"rig": rig})


def test_leaving_the_manifold_out_keeps_every_way() -> None:
    system = scope()
    rig = rig_edit.without_manifold(rig_from("cylinder-ready", system))
    assert {p.port for p in rig.pumped()} == {"suction", "liquid"}
    assert not any(p.kind in ("manifold", "cylinder") for p in rig.parts)
    assert rig.gauge is not None
    assert rig.gauge.on == "pump"


def test_another_hose_moves_a_standing_gauge_to_its_tool() -> None:
    system = scope()
    rig = rig_edit.add_way(rig_from("one-hose-valved-gauge", system), "liquid", "1/4 in", {"size": "3/8 in"}, {})
    assert {p.port for p in rig.pumped()} == {"suction", "liquid"}
    assert sum(p.kind == "tee" for p in rig.parts) == 1
    with pytest.raises(ValueError, match="edit-port-has-hose"):
        rig_edit.add_way(rig, "liquid", "1/4 in", {}, {})


def test_kit_parts_are_offered_once_and_used_parts_not_at_all() -> None:
    job = Job(scope=scope(), rig=rig_edit.take_from_kit(one_hose(3), "hose-a", 5, "quarter", KIT[4].values))
    found = rank_upgrades(job, None, KIT)
    assert {"kit-3-hose-a", "kit-4-hose-a"} <= {u.change.key for u in found}
    assert not any(u.change.key == "kit-5-hose-a" for u in found)
    taken = next(u.change.job for u in found if u.change.key == "kit-4-hose-a").rig.get("hose-a")
    assert (taken.kit, taken.size, taken.length_m) == (4, "1/2 in", 0.9)


def test_the_best_rig_uses_the_best_hoses_and_can_be_held() -> None:
    best = best_rig(Job(scope=scope(condition="new-dry"), rig=one_hose()), KIT)
    assert best.chosen is not None
    rig = best.chosen.job.rig
    assert rig.pump.plate_cfm == 8
    assert best.chosen.clean_hold
    first = next(p for p in rig.parts if p.kind == "hose")
    assert first.kit == 4
    assert best.tried > 8
    none = best_rig(Job(scope=scope(), rig=one_hose()), KIT[2:5])
    assert none.chosen is None
    assert none.reason.key == "best-no-pump"


def test_hoses_are_put_in_order_by_what_they_pass() -> None:
    def worth(size: str, length: float) -> float:
        return hose_worth(HosePart.model_validate({**hose(size=size, length_m=length)}))

    assert worth("1/2 in", 0.9) > worth("1/2 in", 1.8) > worth("3/8 in", 1.8) > worth("1/4 in", 1.8)


def test_purchases_add_up_over_past_jobs(poor_rig: Rig) -> None:
    dry = scope(condition="new-dry")
    past = [Job(scope=dry, rig=one_hose(size="1/4 in")), Job(scope=dry, rig=one_hose(size="1/2 in"))]
    one = {p.key: p for p in purchases(past[:1], 60.0)}
    two = {p.key: p for p in purchases(past, 60.0)}
    assert two["hoses-1-2"].seconds == pytest.approx(one["hoses-1-2"].seconds)  # the second job has them already
    assert two["hoses-1-2"].money == pytest.approx(two["hoses-1-2"].seconds / 3600 * 60)
    assert (two["hoses-1-2"].jobs, two["hoses-3-4"].jobs) == (1, 1)


def test_cord_by_hand() -> None:
    # 14 AWG: 2.081 mm²; 15 m there and back at 5.5 A: 2 · 15 · 1.7241e-8/2.081e-6 · 5.5 = 1.367 V.
    assert cord.wire_area("14 AWG") == pytest.approx(2.081e-6, rel=1e-3)
    assert cord.drop(15, "14 AWG", 5.5) == pytest.approx(1.367, rel=1e-3)
    pump = PumpPart(id="pump", current_a=5.5)
    good = cord.check(Cord(length_m=15, wire="14 AWG", volts=120), pump)
    assert good.verdict == "good"
    assert good.running_drop == pytest.approx(1.367 / 120, rel=1e-3)
    thin = cord.check(Cord(length_m=60, wire="18 AWG", volts=120), pump)
    assert thin.verdict == "no"
    assert thin.better == "12 AWG"  # 2.9 % running, 14 % starting
    with pytest.raises(ValueError, match="cord-no-wire"):
        cord.wire_area("thick")


@given(st.sampled_from(cord.WIRES), st.floats(1, 200), st.floats(1, 15))
def test_a_longer_cord_drops_more_and_a_thicker_one_less(wire: str, length: float, amps: float) -> None:
    assert cord.drop(length * 1.1, wire, amps) > cord.drop(length, wire, amps)
    thicker = [w for w in cord.WIRES if cord.wire_area(w) > cord.wire_area(wire)]
    assert all(cord.drop(length, w, amps) < cord.drop(length, wire, amps) for w in thicker)


def test_what_to_carry_follows_from_system_and_rig() -> None:
    fish = scope("freezer", refrigerant="R-454C", condition="flooded")
    items = {i.key: i for i in carry(Job(scope=fish, rig=rig_from("three-tools", fish)))}
    assert items["magnet"].count == 2
    assert items["oil"].count == 3
    assert items["cores-1-4"].count == 2
    assert {"gas-detector", "bracket", "warmth", "drier", "tee"} <= set(items)
    plain = {i.key for i in carry(Job(scope=scope(refrigerant="R-134a", condition="new-dry"), rig=one_hose()))}
    assert not plain & {"magnet", "gas-detector", "tee", "manifold", "drier"}


def test_the_touches_of_a_day_come_in_their_order() -> None:
    job = Job(scope=scope(condition="new-dry"), rig=one_hose(), criterion=CriterionChoice(school="triple"))
    found = touches(job, plan_job(job, 8))
    kinds = [t.kind for t in found]
    assert kinds[0] == "rig"
    order = ["pump-on", "break-1", "break-2", "isolate", "read-hold"]
    assert [k for k in kinds if k in order] == order
    assert all(t.at.low <= t.at.value <= t.at.high for t in found)


def planned(key: str, start: float | None, pump: str = "Pump 1") -> Planned:
    def at(s: float) -> Range:
        return Range(s, s, s + 300)

    found = (
        DayTouch("pump-on", "start", at(0), 120),
        DayTouch("isolate", "isolate", at(3600), 180),
        DayTouch("read-hold", "read", at(5000), 900),
    )
    return Planned(key, key, pump, start, found)


def test_one_pump_on_two_jobs_and_one_person_in_two_places_clash() -> None:
    both = conflicts([planned("a", 10_000.0), planned("b", 11_000.0)], 60)
    assert {c.what for c in both} == {"pump"}
    hands = conflicts([planned("a", 10_000.0), planned("b", 13_600.0, "Pump 2")], 600)
    assert {c.what for c in hands} == {"hands"}
    assert conflicts([planned("a", 10_000.0), planned("b", 40_000.0)], 60) == []


@settings(max_examples=drawn(30))
@given(st.lists(st.sampled_from(["Pump 1", "Pump 2"]), min_size=1, max_size=5), st.floats(0, 1800))
def test_a_proposed_day_has_no_clash(pumps: list[str], travel: float) -> None:
    pool = [planned(f"j{n}", None, p) for n, p in enumerate(pumps)]
    placed = fit(pool, 50_000.0, travel)
    assert conflicts(placed, travel) == []
    assert [p.key for p in placed] == [p.key for p in pool]
    assert all(p.start is not None and p.start >= 50_000.0 + RIGGING for p in placed)


@pytest.mark.parametrize("template", sorted(TEMPLATES))
def test_every_rig_line_is_drawn_without_boxes_over_one_another(template: str) -> None:
    system = scope(template)
    for key in PATTERNS:
        if not fits(key, system):
            continue
        job = Job(scope=system, rig=rig_from(key, system))
        a = assemble(job)
        d = draw(job, a)
        names = {b.name for b in d.boxes}
        assert {s.id for s in system.sections} <= names
        assert {v.valve for v in d.valves} <= set(a.valves)
        for n, one in enumerate(d.boxes):
            assert one.x >= 0
            assert one.x + one.w <= d.width + 0.5
            assert one.y + one.h <= d.height
            for other in d.boxes[n + 1 :]:
                apart = (
                    one.x + one.w <= other.x
                    or other.x + other.w <= one.x
                    or one.y + one.h <= other.y
                    or other.y + other.h <= one.y
                )
                assert apart, (template, key, one.name, other.name)
        drawn = {s.part for s in d.strokes} | names | {f.part for f in d.flags} | {v.part for v in d.valves}
        assert {p.id for p in job.rig.parts} <= drawn, (template, key)


def test_the_rig_line_as_a_file_is_whole_svg() -> None:
    system = scope("freezer")
    job = Job(title="A & B <x>", scope=system, rig=rig_from("commercial", system))
    root = ET.fromstring(rig_svg(job, plan_job(job, 2)))
    texts = [t.text for t in root.iter("{http://www.w3.org/2000/svg}text")]
    assert "receiver" in texts
    assert any("A & B <x>" in (t or "") for t in texts)
    assert len(list(root.iter("{http://www.w3.org/2000/svg}path"))) > 10
