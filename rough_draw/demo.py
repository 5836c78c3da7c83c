"""Demo data: invented firms and people, computed readings. Made anew only where there is no demo yet."""

from __future__ import annotations

import json
import time
from dataclasses import dataclass
from typing import Any

from rough_draw.core import rigedit
from rough_draw.core.job import Alternative, Closing, CriterionChoice, Job, Party, Plans, Release
from rough_draw.core.patterns import rig_from
from rough_draw.core.proved import Prove
from rough_draw.core.pumpoil import OilRule
from rough_draw.core.release import release_steps
from rough_draw.core.rig import Rig
from rough_draw.core.rigbuild import Unknowns
from rough_draw.core.scope import Scope
from rough_draw.core.templates import TEMPLATES
from rough_draw.demo_proof import file_past, proved, stages_read
from rough_draw.standins.script import play
from rough_draw.standins.world import Truth
from rough_draw.store import jobs, kitlog, shelf

FIRM = "Quillmere Cold Works"
WHO = {"firm": FIRM, "technician": "Mara Tollivet", "licence": "QCW-014"}
BRASK = {"firm": FIRM, "technician": "Odo Brask", "licence": "QCW-009"}

KIT: tuple[tuple[str, str, dict[str, Any]], ...] = (
    ("pump", "Pump 1, 8 CFM", {"plate_cfm": 8, "blank_off_micron": 28, "current_a": 8.5}),
    ("pump", "Pump 2, 5 CFM", {"plate_cfm": 5, "current_a": 6.0}),
    ("pump", "Pump 3, 3 CFM, oil due", {"plate_cfm": 3, "oil": "used", "rated_a2l": False}),
    ("hose", "1/2 in vacuum, 1.8 m", {"size": "1/2 in", "length_m": 1.8}),
    ("hose", "1/2 in vacuum, 0.9 m", {"size": "1/2 in", "length_m": 0.9}),
    ("hose", "3/8 in vacuum, 1.8 m", {"size": "3/8 in", "length_m": 1.8}),
    ("hose", "3/8 in vacuum, 0.9 m", {"size": "3/8 in", "length_m": 0.9}),
    ("hose", "1/4 in charging, 1.5 m, red tape", {"size": "1/4 in", "length_m": 1.5, "made_for": "pressure"}),
    ("hose", "1/4 in charging, 1.5 m, no tape", {"size": "1/4 in", "length_m": 1.5, "made_for": "pressure"}),
    (
        "hose",
        "1/4 in old hose, 1.5 m, depressor",
        {"size": "1/4 in", "length_m": 1.5, "made_for": "pressure", "age": "old", "depressor": True},
    ),
    ("tool", "Core tool A", {"bore": "3/8 in"}),
    ("tool", "Core tool B", {"bore": "3/8 in"}),
    ("tool", "Core tool C, small", {"bore": "1/4 in"}),
    ("manifold", "Four-port manifold", {"body": "four-port"}),
    ("tee", "Vacuum tee", {"ways": 2}),
    ("gauge", "Gauge 1", {"make": "thermistor"}),
    ("gauge", "Gauge 2", {"make": "thin-film", "over_micron": 100_000, "resolution_micron": 1.0}),
    ("gauge", "Gauge 3, coarse", {"make": "stepped", "resolution_micron": 25.0, "over_micron": 25_000}),
)
NUMBER = {name: n for n, (_, name, _) in enumerate(KIT, 1)}


def fitted(rig: Rig, **taken: str) -> Rig:
    """A rig with parts of the van in its slots: ``hose_a="1/2 in vacuum, 1.8 m"`` and so on."""
    values = {name: v for _, name, v in KIT}
    for slot, name in taken.items():
        part = rig.get(slot.replace("_", "-"))
        if part is None:
            raise KeyError(slot)
        keep = {k: getattr(part, k) for k in ("depressor", "fits", "body", "inlet") if hasattr(part, k)}
        rig = rigedit.take_from_kit(rig, part.id, NUMBER[name], name, {**values[name], **keep})
    return rig


def two_hoses(scope: Scope, pump: str = "Pump 2, 5 CFM") -> Rig:
    """Two hoses, three tools, Gauge 2 on the third."""
    return fitted(
        rig_from("three-tools", scope),
        pump=pump,
        hose_a="1/2 in vacuum, 1.8 m",
        hose_b="3/8 in vacuum, 1.8 m",
        gauge="Gauge 2",
    )


def one_hose(scope: Scope) -> Rig:
    """One large hose, Gauge 1 on the far port."""
    rig = rig_from("one-hose-valved-gauge", scope)
    return fitted(rig, pump="Pump 1, 8 CFM", hose_a="1/2 in vacuum, 0.9 m", gauge="Gauge 1")


def cold_room(kw: float, suction: str, liquid: str, length: float, **scope: Any) -> Scope:
    """A cold room on its condensing unit, which keeps its charge unless ``whole``."""
    whole = scope.pop("whole", False)
    values: dict[str, Any] = TEMPLATES["cooler"].build()
    for s in values["sections"]:
        if s["kind"] == "line":
            s.update(size=suction if s["id"] == "suction" else liquid, length_m=length)
        else:
            s.update(capacity_kw=kw)
        if s["id"] == "unit" and whole:
            s.update(holds_charge=False)
    if whole:
        values["sections"].append({"id": "compressor", "name": "compressor", "kind": "compressor", "capacity_kw": kw})
        for x in values["links"]:
            if x["kind"] == "service-valve":
                x.update(open=True)
            if x["id"] == "suction-service":
                x.update(a="compressor")
        values["links"].append({"id": "discharge", "kind": "joint", "a": "compressor", "b": "unit"})
    return Scope.model_validate({"template": "cooler", **values, **scope})


@dataclass(frozen=True)
class DemoJob:
    """A job of the demo: sheet, hidden truth, and how far it has gone."""

    key: str
    job: Job
    truth: Truth | None = None
    hold_min: float | None = None
    stop_at: float | None = None
    ended_min_ago: float = 0.0
    live: bool = False
    signed: bool = False
    below: float = 1.0
    start_in_h: float | None = None
    forgets: bool = False


def _larkspur(unit: str, **scope: Any) -> Job:
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
    return Job(title=f"Larkspur · {unit}", party=party, scope=found, rig=two_hoses(found))


def _shed() -> Job:
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


def _ice_store() -> Job:
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
        rig=two_hoses(scope, "Pump 1, 8 CFM"),
        release=Release(way="cylinder"),
    )
    job = proved(job, skip="pressure-test")
    steps = tuple(s.key for s in release_steps(job))
    return job.model_copy(
        update={
            "release": Release(way="cylinder", weighed_kg=3.27, steps_done=steps),
            "closing": Closing(signed_by="Odo Brask", signed_at="", remarks="Door gasket renewed on the same visit."),
        }
    )


def _spawn_room() -> Job:
    """The poor rig: two charging hoses on a two-valve manifold, cores in, a coarse gauge at the manifold."""
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
    rig = rig_from("two-valve", scope)
    for letter in "ab":
        rig = rigedit.remove(rig, f"tool-{letter}")
        rig = rigedit.swap(rig, f"hose-{letter}", {"depressor": True})
    rig = rigedit.move(rig, "gauge", "manifold", "sensor", None)
    rig = rigedit.swap(rig, "hose-p", {"size": "1/4 in", "length_m": 1.5, "made_for": "pressure"})
    rig = fitted(
        rig.model_copy(update={"cores_in": ("suction", "liquid")}),
        pump="Pump 1, 8 CFM",
        hose_a="1/4 in charging, 1.5 m, red tape",
        hose_b="1/4 in charging, 1.5 m, no tape",
        gauge="Gauge 3, coarse",
    )
    clear = Alternative(name="Two hoses, three tools", rig=two_hoses(scope, "Pump 1, 8 CFM"))
    job = Job(
        title="Hollow Bank · Spawn room",
        party=Party(customer="Hollow Bank Mushrooms", site="Tunnel 5", unit="Spawn room", **WHO),
        scope=scope,
        rig=rig.model_copy(update={"pattern": None}),
        aside=(clear, Alternative(name="One hose, far gauge", rig=one_hose(scope))),
    )
    # Its first charging hose leaks, as its proof shows.
    begun = Prove(oil="amber", oil_level="right", stages=stages_read(job, bad="hose-a"))
    return job.model_copy(update={"prove": begun})


def _blast_freezer() -> Job:
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


def demo_jobs() -> list[DemoJob]:
    """The jobs of the demo, each in another stage."""
    room3 = proved(_larkspur("Cold room 3", condition="open-hours", open_hours=5, humidity_pct=70, free_water_g=6))
    room1 = proved(_larkspur("Cold room 1", condition="new-dry"))
    fourth = _larkspur("Cold room 4", condition="new-dry")
    room4 = proved(fourth.model_copy(update={"rig": two_hoses(fourth.scope, "Pump 1, 8 CFM")}))
    kiosk = Party(customer="Saltmarsh Ferry Terminal", site="Quay 1", **BRASK)
    return [
        DemoJob("larkspur-3", room3, Truth(Unknowns(water=0.4, pump=0.3, release=0.2), 11), stop_at=700, live=True),
        DemoJob("larkspur-4", room4, Truth(Unknowns(water=-0.3, pump=0.2), 15), stop_at=1500, live=True, forgets=True),
        DemoJob("larkspur-1", room1, Truth(Unknowns(water=-0.5, extra_leak=1.3e-3), 12), hold_min=20, ended_min_ago=4),
        DemoJob("hollow-2", proved(_shed()), Truth(Unknowns(water=0.1), 13), hold_min=30, ended_min_ago=35),
        DemoJob(
            "saltmarsh-ice",
            _ice_store(),
            Truth(Unknowns(water=-2.0), 14),
            hold_min=25,
            ended_min_ago=1500,
            signed=True,
            below=0.5,
        ),
        DemoJob("hollow-5", _spawn_room(), start_in_h=1.0),
        DemoJob("saltmarsh-fish", _blast_freezer(), start_in_h=1.5),
        DemoJob("saltmarsh-kiosk", Job(title="Saltmarsh · Kiosk", party=kiosk)),
    ]


def build() -> None:
    """Write the demo into an empty database."""
    now = time.time()
    with jobs.writing():
        for kind, name, values in KIT:
            shelf.add_kit(kind, name, values)
        file_past(NUMBER, now)
        for d in reversed(demo_jobs()):
            _add(d, now)


def _add(d: DemoJob, now: float) -> None:
    job = d.job
    told = {"stop_at": d.stop_at, "below": d.below, "forgets": d.forgets}
    played = play(job, d.truth, d.hold_min, **told) if d.truth else None  # type: ignore[arg-type]
    end = now - d.ended_min_ago * 60.0
    if d.signed:
        stamp = time.strftime("%Y-%m-%d %H:%M", time.localtime(end + 3000))
        job = job.model_copy(update={"closing": job.closing.model_copy(update={"signed_at": stamp})})
    if d.start_in_h is not None:
        # On the quarter of an hour, as people say it.
        at = (now + d.start_in_h * 3600.0) // 900.0 * 900.0
        job = job.model_copy(update={"plans": Plans(start_at=at)})
    jobs.create(job, d.key, at=end)
    kitlog.file_proof(d.key, job, OilRule(), end - 3600.0)
    if played is None or d.truth is None:
        return
    start = end - played.readings[-1][0]
    if d.live:
        jobs.add_touch(d.key, "gauge-attached", start, json.dumps(d.truth.as_dict()))
    for t in played.touches:
        jobs.add_touch(d.key, t.kind, start + t.at, t.note)
    name = job.rig.gauge.name if job.rig.gauge else "Dial"
    jobs.add_readings(d.key, [jobs.NewReading(name, start + t, p) for t, p in played.readings], "gauge")
