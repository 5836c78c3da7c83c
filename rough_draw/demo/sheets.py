"""The sheets of the demo: invented firms and people, their van, their systems, the rigs they put on them."""

from __future__ import annotations

from typing import Any

from rough_draw.core.charging.cautions import caution_keys
from rough_draw.core.interlock.release import release_steps
from rough_draw.core.sheet.evidence import Prove
from rough_draw.core.sheet.job import Alternative, Closing, CriterionChoice, Job, Party, Release, Running
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.demo.proof import proved, stages_read
from rough_draw.scenarios.van import (
    FIRM,
    charging_hoses,
    cold_room,
    fitted,
    oily_room,
    one_hose,
    two_hoses,
    with_charging_hose,
)

WHO = {"firm": FIRM, "technician": "Mara Tollivet", "licence": "QCW-014"}
BRASK = {"firm": FIRM, "technician": "Odo Brask", "licence": "QCW-009"}


def larkspur(unit: str, **scope: Any) -> Job:
    base: dict[str, Any] = {
        "refrigerant": "R-448A",
        "oil": "POE",
        "ambient_c": 17.0,
        "coldest_c": 14.5,
        "elevation_m": 120,
        "nameplate_kg": 6.4,
        "included_length_m": 7.5,
        "adder_g_per_m": 60,
    }
    party = Party(customer="Larkspur Flower Wholesale", site="Auction Lane 4", unit=unit, **WHO)
    found = cold_room(9.0, "7/8 in", "1/2 in", 14.0, **{**base, **scope})
    return Job(title=f"Larkspur · {unit}", party=party, scope=found, rig=with_charging_hose(two_hoses(found)))


def shed() -> Job:
    scope = cold_room(
        14.0,
        "1-1/8 in",
        "5/8 in",
        18.0,
        whole=True,
        refrigerant="R-449A",
        condition="leak-drawn-air",
        humidity_pct=90,
        oil_kg=3.0,
        open_hours=30,
        ambient_c=18,
        coldest_c=15,
    )
    return Job(
        title="Hollow Bank · Growing room 2",
        party=Party(customer="Hollow Bank Mushrooms", site="Growing shed B", unit="Growing room 2", **BRASK),
        scope=scope,
        rig=one_hose(scope),
        criterion=CriterionChoice(school="two-limit"),
    )


SIGNED = (
    "M60.0 110.0 L80.0 60.0 L110.0 50.0 L120.0 90.0 L90.0 118.0 L70.0 100.0 M130.0 118.0 L150.0 80.0 L170.0 118.0 "
    "L185.0 84.0 L205.0 118.0 L230.0 96.0 L260.0 116.0 M300.0 118.0 L312.0 52.0 L350.0 62.0 L318.0 86.0 "
    "L356.0 104.0 L306.0 118.0 M380.0 118.0 L392.0 92.0 L420.0 116.0 L440.0 90.0 L470.0 118.0 L520.0 100.0"
)
"""An invented hand's signature, on a pad of 600 by 160."""


def ice_store() -> Job:
    scope = cold_room(
        6.0,
        "3/4 in",
        "3/8 in",
        8.0,
        refrigerant="R-455A",
        low_temperature=True,
        condition="new-dry",
        ambient_c=12,
        coldest_c=10,
        nameplate_kg=3.2,
        included_length_m=5,
        adder_g_per_m=25,
    )
    job = Job(
        title="Saltmarsh · Ice store",
        party=Party(customer="Saltmarsh Ferry Terminal", site="Quay 1", unit="Ice store", **BRASK),
        scope=scope,
        rig=with_charging_hose(two_hoses(scope, "Pump 1, 8 CFM")),
    )
    job = proved(job, skip="pressure-test")
    steps = tuple(s.key for s in release_steps(job))
    return job.model_copy(
        update={
            "release": Release(
                weighed_kg=0.08,
                steps_done=steps,
                cores_new=2,
                port_checks={"suction": "both", "liquid": "electronic"},
                start_kg=16.905,
                end_kg=16.825,
                first=Running(suction_kpa=165, suction_c=-9.5, liquid_kpa=1560, liquid_c=24.5, in_c=-12, out_c=-17),
            ),
            "closing": Closing(
                signed_by="Odo Brask",
                remarks="Door gasket renewed on the same visit.",
                signature=SIGNED,
                acknowledged=tuple(caution_keys(scope)),
            ),
        }
    )


def leaking_and_wet() -> Job:
    """A whole circuit that a leak has drawn damp air into; the leak is still there."""
    scope = cold_room(
        12.0,
        "1-1/8 in",
        "5/8 in",
        15.0,
        whole=True,
        refrigerant="R-448A",
        condition="leak-drawn-air",
        humidity_pct=85,
        oil_kg=2.5,
        open_hours=20,
        ambient_c=18,
        coldest_c=15,
    )
    return Job(
        title="Larkspur · Cold room 2",
        party=Party(customer="Larkspur Flower Wholesale", site="Auction Lane 4", unit="Cold room 2", **WHO),
        scope=scope,
        rig=one_hose(scope),
        criterion=CriterionChoice(school="two-limit"),
    )


def casing_room() -> Job:
    """A whole circuit in a cold room whose compressor's oil has kept refrigerant."""
    scope = oily_room()
    return Job(
        title="Hollow Bank · Casing room",
        party=Party(customer="Hollow Bank Mushrooms", site="Growing shed C", unit="Casing room", **BRASK),
        scope=scope,
        rig=two_hoses(scope, "Pump 1, 8 CFM"),
        criterion=CriterionChoice(school="deep-and-flat"),
    )


def bait_store() -> Job:
    """A small dry system with bare ports, held with its charging hoses: what rises is theirs."""
    scope = cold_room(3.0, "5/8 in", "3/8 in", 6.0, condition="new-dry", ambient_c=15, coldest_c=12)
    scope = scope.model_copy(update={"ports": tuple(p.model_copy(update={"core": False}) for p in scope.ports)})
    return Job(
        title="Saltmarsh · Bait store",
        party=Party(customer="Saltmarsh Ferry Terminal", site="Quay 3", unit="Bait store", **BRASK),
        scope=scope,
        rig=charging_hoses(scope, "Pump 2, 5 CFM", "Gauge 1"),
        criterion=CriterionChoice(school="code-minimum"),
    )


def spawn_room() -> Job:
    """The poor rig, with a coarse gauge."""
    scope = cold_room(
        8.0,
        "7/8 in",
        "3/8 in",
        12.0,
        refrigerant="R-454C",
        condition="open-hours",
        open_hours=24,
        humidity_pct=85,
    )
    clear = Alternative(name="Two hoses, three tools", rig=two_hoses(scope, "Pump 1, 8 CFM"))
    job = Job(
        title="Hollow Bank · Spawn room",
        party=Party(customer="Hollow Bank Mushrooms", site="Tunnel 5", unit="Spawn room", **WHO),
        scope=scope,
        rig=charging_hoses(scope, "Pump 1, 8 CFM", "Gauge 3, coarse"),
        aside=(clear, Alternative(name="One hose, far gauge", rig=one_hose(scope))),
    )
    # Its first charging hose leaks, as its proof shows.
    begun = Prove(oil="amber", oil_level="right", stages=stages_read(job, bad="hose-a"))
    return job.model_copy(update={"prove": begun})


def blast_freezer() -> Job:
    """A whole circuit whose solenoids are still shut, and one way of the pump on the wrong hose."""
    scope = Scope.model_validate(
        {
            "template": "freezer",
            **TEMPLATES["freezer"].build(),
            "low_temperature": True,
            "oil_kg": 3.0,
            "refrigerant": "R-454C",
            "condition": "compressor-burnt",
            "open_hours": 6,
            "ambient_c": 16,
            "coldest_c": 9,
            "nameplate_kg": 18.0,
            "included_length_m": 15,
            "adder_g_per_m": None,
        }
    )
    return Job(
        title="Saltmarsh · Fish freezer",
        party=Party(customer="Saltmarsh Ferry Terminal", site="Quay 2", unit="Fish freezer", **BRASK),
        scope=scope,
        rig=fitted(
            rig_from("two-hoses", scope),
            pump="Pump 2, 5 CFM",
            hose_a="3/8 in vacuum, 1.8 m",
            hose_b="1/2 in vacuum, 1.8 m",
            gauge="Gauge 1",
        ),
        criterion=CriterionChoice(school="triple", also="deep-and-flat"),
    )
