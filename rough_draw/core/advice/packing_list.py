"""What to carry for this job: tools, fittings and consumables that follow from system and rig."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.catalogue import tube
from rough_draw.core.charging.charge import charge_to_weigh
from rough_draw.core.interlock.orders import full_order
from rough_draw.core.interlock.release import release_goal
from rough_draw.core.message import Message, Name, listed, message
from rough_draw.core.message.figure import hose_length, mass
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.naming import pump_name
from rough_draw.core.sheet.rig import AdapterPart, HosePart, ManifoldPart, ToolPart
from rough_draw.core.sheet.scope import Link, Scope

CARRIED = ("charging-hose", "liquid-way", "low-side-way")
"""What a release can lack that is carried to the job."""
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
    return [*_rig(job), *_lacking(job), *_fittings(job), *_tools(job), *_consumables(job), *_safety(job)]


def _lacking(job: Job) -> list[Item]:
    """What the order of the release lacks on this rig."""
    wanted = [m for m in full_order(job, release_goal(job)).missing if m.code in CARRIED]
    return [Item(f"missing-{m.code}", "rig", message(f"carry-missing-{m.code}"), 1, m.why) for m in wanted]


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
    if rig.has("cylinder") or job.release.way == "cylinder":
        charge = charge_to_weigh(job.scope)
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
    for p in job.scope.ports:
        part = job.rig.on_port(p.id)
        fits = getattr(part, "fits", p.size)
        if part is not None and fits != p.size:
            adapters[p.size] += 1
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
    items = [Item("cap-wrench", "tools", message("carry-wrenches"), 1)]
    turned = [x for x in job.scope.links if x.kind == "service-valve"]
    if any(x.stem == "hex-key" for x in turned):
        sizes = sorted({_hex_key(job.scope, x) for x in turned if x.stem == "hex-key"})
        why = message("carry-hex-keys.why", sizes=listed(list(sizes)))
        items.append(Item("hex-key", "tools", message("carry-hex-keys"), len(sizes), why))
    if any(x.stem == "stem" for x in turned):
        items.append(Item("valve-wrench", "tools", message("carry-valve-wrench"), 1, message("carry-valve-wrench.why")))
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


def _hex_key(scope: Scope, valve: Link) -> str:
    """The key that a service valve of its line's size usually takes: estimate, look at the valve."""
    line = next((s for s in map(scope.section, (valve.a, valve.b)) if s.kind == "line"), None)
    bore = tube.bore(line.size) if line is not None else 0.0
    return "3/16 in (5 mm)" if bore < 11e-3 else "5/16 in (8 mm)" if bore < 30e-3 else "1/2 in (12 mm)"


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
    if job.scope.fluid.flammable:
        items.append(Item("gas-detector", "safety", message("carry-detector"), 1, message("carry-detector.why")))
    if job.scope.condition == "compressor-burnt":
        items.append(Item("acid", "safety", message("carry-acid"), 1, message("carry-acid.why")))
    return items
