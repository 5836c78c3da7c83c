"""Demo data: invented firms and people, computed readings. Made anew only where there is no demo yet."""

from __future__ import annotations

import json
import time
from dataclasses import dataclass

from rough_draw.core.assemble import Unknowns
from rough_draw.core.job import (
    Closing,
    CriterionChoice,
    Gate,
    Gauge,
    Hose,
    Job,
    Line,
    Party,
    Path,
    Prove,
    Pump,
    Release,
    Rig,
    Scope,
)
from rough_draw.core.release import release_steps
from rough_draw.core.stages import gates_for
from rough_draw.standins.script import play
from rough_draw.standins.world import Truth
from rough_draw.store import jobs

FIRM = "Quillmere Cold Works"
WHO = {"firm": FIRM, "technician": "Mara Tollivet", "licence": "QCW-014"}
BRASK = {"firm": FIRM, "technician": "Odo Brask", "licence": "QCW-009"}

PUMP_5 = Pump(plate_cfm=5, name="Pump 2")
PUMP_8 = Pump(plate_cfm=8, name="Pump 1", blank_off_micron=28)
HALF = Hose(size="1/2 in", length_m=1.8)
THREE = Hose(size="3/8 in", length_m=1.8)
TWO_TOOLS = Rig(
    pump=PUMP_5,
    paths=(Path(port="suction", hose=HALF), Path(port="liquid", hose=THREE)),
    gauge=Gauge(place="port:suction", own_valve=True, name="Gauge 2"),
)
ONE_TOOL = Rig(
    pump=PUMP_8,
    paths=(Path(port="suction", hose=HALF),),
    gauge=Gauge(place="port:liquid", own_valve=True, name="Gauge 1"),
)

KIT: tuple[tuple[str, str, dict[str, object]], ...] = (
    ("pump", "Pump 1, 8 CFM", PUMP_8.model_dump()),
    ("pump", "Pump 2, 5 CFM", PUMP_5.model_dump()),
    ("pump", "Pump 3, 3 CFM, oil due", Pump(plate_cfm=3, name="Pump 3", oil="used").model_dump()),
    ("hose", "1/2 in vacuum, 1.8 m", HALF.model_dump()),
    ("hose", "3/8 in vacuum, 1.8 m", THREE.model_dump()),
    ("hose", "3/8 in vacuum, 0.9 m", Hose(size="3/8 in", length_m=0.9).model_dump()),
    ("hose", "1/4 in charging hose, 1.5 m", Hose(size="1/4 in", length_m=1.5, kind="pressure").model_dump()),
    (
        "hose",
        "1/4 in old hose, 1.5 m, depressor",
        Hose(size="1/4 in", kind="pressure", age="old", depressor=True).model_dump(),
    ),
    ("gauge", "Gauge 1", Gauge(name="Gauge 1").model_dump(exclude={"place", "own_valve"})),
    ("gauge", "Gauge 2", Gauge(name="Gauge 2", resolution_micron=1).model_dump(exclude={"place", "own_valve"})),
    (
        "gauge",
        "Gauge 3, coarse",
        Gauge(name="Gauge 3", resolution_micron=25, over_micron=25_000).model_dump(exclude={"place", "own_valve"}),
    ),
)


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


def _proved(job: Job, skip: str = "") -> Job:
    gates = {}
    for g in gates_for(job):
        note = {"blank-off": "24 µ running", "pressure-test": "31 bar, 60 min, no drop"}.get(g.key, "")
        gates[g.key] = (
            Gate(state="skipped", note="no nitrogen on the boat; tested yesterday")
            if g.key == skip
            else Gate(state="done", note=note)
        )
    return job.model_copy(update={"prove": Prove(gates=gates, oil="fresh")})


def _larkspur(unit: str, **scope: object) -> Job:
    base = {
        "capacity_kw": 9.0,
        "suction": Line(size="7/8 in", length_m=14),
        "liquid": Line(size="1/2 in", length_m=14),
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
    return Job(title=f"Larkspur · {unit}", party=party, scope=Scope.model_validate({**base, **scope}), rig=TWO_TOOLS)


def demo_jobs() -> list[DemoJob]:
    """The jobs of the demo, each in another stage."""
    mushrooms = Party(customer="Hollow Bank Mushrooms", site="Growing shed B", unit="Growing room 2", **BRASK)
    ferry = Party(customer="Saltmarsh Ferry Terminal", site="Quay 1", unit="Ice store", **BRASK)
    room3 = _proved(_larkspur("Cold room 3", condition="open-hours", open_hours=5, humidity_pct=70, free_water_g=6))
    room1 = _proved(_larkspur("Cold room 1", condition="new-dry"))
    shed = _proved(
        Job(
            title="Hollow Bank · Growing room 2",
            party=mushrooms,
            scope=Scope(
                capacity_kw=14,
                suction=Line(size="1-1/8 in", length_m=18),
                liquid=Line(size="5/8 in", length_m=18),
                refrigerant="R-449A",
                condition="leak-drawn-air",
                humidity_pct=90,
                condensing_unit_open=True,
                oil_kg=3.0,
                open_hours=30,
                ambient_c=18,
                coldest_c=15,
            ),
            rig=ONE_TOOL,
            criterion=CriterionChoice(school="two-limit"),
        )
    )
    store = _proved(
        Job(
            title="Saltmarsh · Ice store",
            party=ferry,
            scope=Scope(
                capacity_kw=6,
                suction=Line(size="3/4 in", length_m=8),
                liquid=Line(size="3/8 in", length_m=8),
                refrigerant="R-455A",
                low_temperature=True,
                condition="new-dry",
                ambient_c=12,
                coldest_c=10,
                nameplate_kg=3.2,
                included_length_m=5,
                adder_g_per_m=25,
            ),
            rig=TWO_TOOLS.model_copy(update={"pump": PUMP_8}),
        ),
        skip="pressure-test",
    )
    store = store.model_copy(
        update={
            "release": Release(
                way="cylinder",
                weighed_kg=3.27,
                steps_done=tuple(
                    s.key for s in release_steps(store.model_copy(update={"release": Release(way="cylinder")}))
                ),
            ),
            "closing": Closing(signed_by="Odo Brask", signed_at="", remarks="Door gasket renewed on the same visit."),
        }
    )
    kiosk = Party(customer="Saltmarsh Ferry Terminal", site="Quay 1", unit="Kiosk drinks cooler", **BRASK)
    tunnel = Party(customer="Hollow Bank Mushrooms", site="Tunnel 5", unit="Spawn room", **WHO)
    return [
        DemoJob("larkspur-3", room3, Truth(Unknowns(water=0.4, pump=0.3, release=0.2), 11), stop_at=700, live=True),
        DemoJob("larkspur-1", room1, Truth(Unknowns(water=-0.5, extra_leak=1.3e-3), 12), hold_min=20, ended_min_ago=4),
        DemoJob("hollow-2", shed, Truth(Unknowns(water=0.1), 13), hold_min=30, ended_min_ago=35),
        DemoJob(
            "saltmarsh-ice",
            store,
            Truth(Unknowns(water=-2.0), 14),
            hold_min=25,
            ended_min_ago=1500,
            signed=True,
            below=0.5,
        ),
        DemoJob(
            "hollow-5",
            Job(
                title="Hollow Bank · Spawn room",
                party=tunnel,
                scope=Scope(
                    capacity_kw=8, refrigerant="R-454C", condition="open-hours", open_hours=24, humidity_pct=85
                ),
                rig=Rig(
                    pump=Pump(plate_cfm=8, name="Pump 1"),
                    manifold="two-valve",
                    pump_hose=Hose(size="1/4 in", kind="pressure"),
                    paths=(
                        Path(
                            port="suction",
                            core="in",
                            tool=False,
                            hose=Hose(size="1/4 in", kind="pressure", depressor=True),
                        ),
                        Path(
                            port="liquid",
                            core="in",
                            tool=False,
                            hose=Hose(size="1/4 in", kind="pressure", depressor=True),
                        ),
                    ),
                    gauge=Gauge(place="manifold", own_valve=False, name="Gauge 3", resolution_micron=25),
                ),
            ),
        ),
        DemoJob("saltmarsh-kiosk", Job(title="Saltmarsh · Kiosk", party=kiosk.model_copy(update={"unit": ""}))),
    ]


def build() -> None:
    """Write the demo into an empty database."""
    now = time.time()
    with jobs.writing():
        for kind, name, values in KIT:
            jobs.add_kit(kind, name, values)
        for d in reversed(demo_jobs()):
            _add(d, now)


def _add(d: DemoJob, now: float) -> None:
    job = d.job
    played = play(job, d.truth, d.hold_min, stop_at=d.stop_at, below=d.below) if d.truth else None
    end = now - d.ended_min_ago * 60.0
    if d.signed:
        stamp = time.strftime("%Y-%m-%d %H:%M", time.localtime(end + 3000))
        job = job.model_copy(update={"closing": job.closing.model_copy(update={"signed_at": stamp})})
    jobs.create(job, d.key, at=end)
    if played is None or d.truth is None:
        return
    start = end - played.readings[-1][0]
    if d.live:
        jobs.add_touch(d.key, "gauge-attached", start, json.dumps(d.truth.as_dict()))
    for t in played.touches:
        jobs.add_touch(d.key, t.kind, start + t.at, t.note)
    name = job.rig.gauge.name
    jobs.add_readings(d.key, [jobs.NewReading(name, start + t, p) for t, p in played.readings], "gauge")
