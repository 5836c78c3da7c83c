"""What to carry for this job: tools, fittings and consumables that follow from system and rig."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.message import Message, Name, listed, message
from rough_draw.core.message.figure import hose_length, mass
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import pump_name
from rough_draw.core.sheet.rig import AdapterPart, HosePart, ManifoldPart, ToolPart

Group = Literal["rig", "fittings", "tools", "consumables", "safety"]


@dataclass(frozen=True)
class Item:
    """One thing to carry: a stable key, its group, how many, and why."""

    key: str
    group: Group
    name: Name
    count: int
    why: Message | None = None


def carry(job: Job) -> list[Item]:
    """The list for this job, by group in the order it is packed."""
    return [*_rig(job), *_fittings(job), *_tools(job), *_consumables(job), *_safety(job)]


def _rig(job: Job) -> list[Item]:
    rig = job.rig
    pump = rig.pump
    items = [Item("pump", "rig", pump_name(pump), 1, message("carry-pump.why"))]
    hoses = Counter(
        message("carry-hose", made=h.made_for, size=h.size, length=hose_length(h.length_m))
        for h in rig.parts
        if isinstance(h, HosePart)
    )
    items += [Item(f"hose-{n}", "rig", name, count) for n, (name, count) in enumerate(_in_order(hoses), 1)]
    tools = Counter(message("carry-core-tool", size=t.fits) for t in rig.parts if isinstance(t, ToolPart))
    items += [Item(f"tool-{n}", "rig", name, count) for n, (name, count) in enumerate(_in_order(tools), 1)]
    if any(isinstance(p, ManifoldPart) for p in rig.parts):
        items.append(Item("manifold", "rig", message("carry-manifold"), 1))
    tees = sum(p.kind == "tee" for p in rig.parts)
    if tees:
        items.append(Item("tee", "rig", message("carry-tee"), tees))
    if rig.gauges:
        items.append(
            Item(
                "gauge",
                "rig",
                rig.gauges[0].name or message("carry-gauge"),
                len(rig.gauges),
                message("carry-gauge.why"),
            )
        )
    if not any(getattr(p, "dials", False) or getattr(p, "shows_kpa", None) for p in rig.parts):
        items.append(Item("pressure", "rig", message("carry-pressure"), 1, message("carry-pressure.why")))
    if rig.cord is not None:
        items.append(
            Item("cord", "rig", message("carry-cord", wire=rig.cord.wire, length=hose_length(rig.cord.length_m)), 1)
        )
    if any(p.kind == "cylinder" for p in rig.parts) or job.release.way == "cylinder":
        charge = charge_to_weigh(job.scope) if job.scope.adder_g_per_m is not None else None
        held = message("carry-cylinder", refrigerant=job.scope.refrigerant)
        if charge:
            weight = mass(charge.to_weigh)
            held = message("carry-cylinder-charge", refrigerant=job.scope.refrigerant, weight=weight)
        items.append(Item("cylinder", "rig", held, 1))
        items.append(Item("scale", "rig", message("carry-scale"), 1, message("carry-scale.why")))
    return items


def _in_order(counted: Counter[Message]) -> list[tuple[Message, int]]:
    return sorted(counted.items(), key=lambda x: str(x[0].values))


def _fittings(job: Job) -> list[Item]:
    adapters = Counter(p.fits for p in job.rig.parts if isinstance(p, AdapterPart))
    items = [
        Item(f"adapter-{s.split()[0].replace('/', '-')}", "fittings", message("carry-adapter", size=s), n)
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
                "fittings",
                message("carry-cores", size=size),
                n,
                message("carry-cores.why"),
            )
        )
    caps = len(job.scope.ports)
    items.append(Item("caps", "fittings", message("carry-caps"), caps))
    gaskets = sum(isinstance(p, HosePart) for p in job.rig.parts) * 2
    if gaskets:
        items.append(Item("gaskets", "fittings", message("carry-gaskets"), gaskets, message("carry-gaskets.why")))
    return items


def _tools(job: Job) -> list[Item]:
    kinds = {x.kind for x in job.scope.links}
    items = [Item("cap-wrench", "tools", message("carry-wrenches"), 1)]
    if "service-valve" in kinds:
        items.append(Item("hex-key", "tools", message("carry-hex-keys"), 1))
    solenoids = sum(x.kind == "solenoid" for x in job.scope.links)
    if solenoids:
        items.append(Item("magnet", "tools", message("carry-magnet"), solenoids, message("carry-magnet.why")))
    driven = [x.words() for x in job.scope.links if x.kind in ("expansion-valve", "reheat-valve")]
    if driven:
        items.append(
            Item(
                "service-mode",
                "tools",
                message("carry-service-mode"),
                1,
                message("carry-service-mode.why", valves=listed(driven[:3])),
            )
        )
    if any(p.cramped for p in job.scope.ports):
        items.append(Item("bracket", "tools", message("carry-bracket"), 1))
    if job.scope.coldest_c < 10 or job.scope.condition in ("flooded", "leak-drawn-air"):
        items.append(Item("warmth", "tools", message("carry-warmth"), 1, message("carry-warmth.why")))
    return items


def _consumables(job: Job) -> list[Item]:
    wet = job.scope.condition in ("flooded", "leak-drawn-air", "compressor-burnt")
    oil = 3 if wet else 1
    items = [
        Item("oil", "consumables", message("carry-oil"), oil, message("carry-oil-wet" if wet else "carry-oil.why")),
        Item("oil-waste", "consumables", message("carry-oil-can"), 1),
        Item("nitrogen", "consumables", message("carry-nitrogen"), 1, _nitrogen(job)),
        Item("lubricant", "consumables", message("carry-lubricant"), 1, message("carry-lubricant.why")),
        Item("wipes", "consumables", message("carry-wipes"), 1, message("carry-wipes.why")),
        Item("bubbles", "consumables", message("carry-leak-check"), 1),
    ]
    if any(x.kind == "filter-drier" for x in job.scope.links) and job.scope.condition != "new-dry":
        items.append(Item("drier", "consumables", message("carry-drier"), 1, message("carry-drier.why")))
    return items


def _nitrogen(job: Job) -> Message:
    return message("carry-nitrogen-triple" if job.criterion.school == "triple" else "carry-nitrogen.why")


def _safety(job: Job) -> list[Item]:
    items = [
        Item("ppe", "safety", message("carry-ppe"), 1),
        Item("lock", "safety", message("carry-lock"), 1),
    ]
    if REFRIGERANTS[job.scope.refrigerant].safety != "A1":
        items.append(Item("gas-detector", "safety", message("carry-detector"), 1, message("carry-detector.why")))
    if job.scope.condition == "compressor-burnt":
        items.append(Item("acid", "safety", message("carry-acid"), 1, message("carry-acid.why")))
    return items
