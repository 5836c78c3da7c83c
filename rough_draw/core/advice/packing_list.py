"""What to carry for this job: tools, fittings and consumables that follow from system and rig."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.planning.pump_use import name_of
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import AdapterPart, HosePart, ManifoldPart, ToolPart


@dataclass(frozen=True)
class Item:
    """One thing to carry: a stable key, its group, how many, and why."""

    key: str
    group: str
    name: str
    count: int
    why: str = ""


def carry(job: Job) -> list[Item]:
    """The list for this job, by group in the order it is packed."""
    return [*_rig(job), *_fittings(job), *_tools(job), *_consumables(job), *_safety(job)]


def _rig(job: Job) -> list[Item]:
    rig = job.rig
    pump = rig.pump
    items = [Item("pump", "Rig", name_of(pump), 1, "topped up, intake capped")]
    hoses = Counter(
        f"{h.size} {'vacuum' if h.made_for == 'vacuum' else 'charging'} hose, {h.length_m:g} m"
        for h in rig.parts
        if isinstance(h, HosePart)
    )
    items += [Item(f"hose-{n}", "Rig", name, count) for n, (name, count) in enumerate(sorted(hoses.items()), 1)]
    tools = Counter(f"core tool, {t.fits} port" for t in rig.parts if isinstance(t, ToolPart))
    items += [Item(f"tool-{n}", "Rig", name, count) for n, (name, count) in enumerate(sorted(tools.items()), 1)]
    if any(isinstance(p, ManifoldPart) for p in rig.parts):
        items.append(Item("manifold", "Rig", "manifold", 1))
    tees = sum(p.kind == "tee" for p in rig.parts)
    if tees:
        items.append(Item("tee", "Rig", "vacuum tee", tees))
    if rig.gauges:
        items.append(Item("gauge", "Rig", rig.gauges[0].name or "micron gauge", len(rig.gauges), "battery, cleaned"))
    if rig.cord is not None:
        items.append(Item("cord", "Rig", f"extension cord, {rig.cord.wire}, {rig.cord.length_m:g} m", 1))
    if any(p.kind == "cylinder" for p in rig.parts) or job.release.way == "cylinder":
        charge = charge_to_weigh(job.scope) if job.scope.adder_g_per_m is not None else None
        weight = f", {charge.to_weigh:.1f} kg to weigh in" if charge else ""
        items.append(Item("cylinder", "Rig", f"{job.scope.refrigerant} cylinder{weight}", 1))
        items.append(Item("scale", "Rig", "charging scale", 1, "battery"))
    return items


def _fittings(job: Job) -> list[Item]:
    adapters = Counter(p.fits for p in job.rig.parts if isinstance(p, AdapterPart))
    items = [
        Item(f"adapter-{s.split()[0].replace('/', '-')}", "Fittings", f"{s} adapter", n)
        for s, n in sorted(adapters.items())
    ]
    cores: Counter[str] = Counter()
    for p in job.scope.ports:
        part = job.rig.on_port(p.id)
        if p.core and isinstance(part, ToolPart) and p.id not in job.rig.cores_in:
            cores[p.size] += 1
    for size, n in sorted(cores.items()):
        items.append(
            Item(
                f"cores-{size.split()[0].replace('/', '-')}",
                "Fittings",
                f"new {size} valve cores",
                n,
                "cheap; fit new ones",
            )
        )
    caps = len(job.scope.ports)
    items.append(Item("caps", "Fittings", "port caps with sound seals", caps))
    gaskets = sum(isinstance(p, HosePart) for p in job.rig.parts) * 2
    if gaskets:
        items.append(Item("gaskets", "Fittings", "hose gaskets", gaskets, "two a hose, as spares"))
    return items


def _tools(job: Job) -> list[Item]:
    kinds = {x.kind for x in job.scope.links}
    items = [Item("cap-wrench", "Tools", "cap and flare wrenches", 1)]
    if "service-valve" in kinds:
        items.append(Item("hex-key", "Tools", "hex keys, long enough for the valve stems", 1))
    solenoids = sum(x.kind == "solenoid" for x in job.scope.links)
    if solenoids:
        items.append(Item("magnet", "Tools", "solenoid magnet", solenoids, "holds each valve open"))
    driven = [x.words() for x in job.scope.links if x.kind in ("expansion-valve", "reheat-valve")]
    if driven:
        items.append(
            Item(
                "service-mode",
                "Tools",
                "service tool or manual for the unit's service mode",
                1,
                f"opens the {', '.join(driven[:3])}",
            )
        )
    if any(p.cramped for p in job.scope.ports):
        items.append(Item("bracket", "Tools", "driver for the bracket at the cramped port", 1))
    if job.scope.coldest_c < 10 or job.scope.condition in ("flooded", "leak-drawn-air"):
        items.append(Item("warmth", "Tools", "heat blanket or warm-air gun", 1, "no flame; keep it moving"))
    return items


def _consumables(job: Job) -> list[Item]:
    wet = job.scope.condition in ("flooded", "leak-drawn-air", "compressor-burnt")
    oil = 3 if wet else 1
    items = [
        Item(
            "oil", "Consumables", "vacuum pump oil, fills", oil, "changed on the way" if wet else "fresh at every use"
        ),
        Item("oil-waste", "Consumables", "can for used oil", 1),
        Item("nitrogen", "Consumables", "nitrogen, regulator with relief", 1, _nitrogen(job)),
        Item("lubricant", "Consumables", "assembly lubricant", 1, "a drop on gasket faces"),
        Item("wipes", "Consumables", "lint-free wipes and alcohol", 1, "joints dry; the gauge if it is fouled"),
        Item("bubbles", "Consumables", "leak-check solution or detector", 1),
    ]
    if any(x.kind == "filter-drier" for x in job.scope.links) and job.scope.condition != "new-dry":
        items.append(Item("drier", "Consumables", "new filter-drier", 1, "fitted last, evacuated with the rest"))
    return items


def _nitrogen(job: Job) -> str:
    if job.criterion.school == "triple":
        return "pressure test, sweep and two breaks"
    return "pressure test and sweep"


def _safety(job: Job) -> list[Item]:
    items = [
        Item("ppe", "Safety", "goggles, gloves, long sleeves, boots", 1),
        Item("lock", "Safety", "lock and tag, voltage tester", 1),
    ]
    if REFRIGERANTS[job.scope.refrigerant].safety != "A1":
        items.append(Item("gas-detector", "Safety", "gas detector, extinguisher", 1, "flammable refrigerant"))
    if job.scope.condition == "compressor-burnt":
        items.append(Item("acid", "Safety", "acid-proof gloves, acid test", 1, "burnt oil is acid"))
    return items
