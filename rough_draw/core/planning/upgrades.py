"""Single changes to a rig that a technician could make: by hand, from the kit in the van, or by buying a part."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Literal

from rough_draw.core.catalogue.rig_parts import HOSE_SIZES, PUMPS_CFM
from rough_draw.core.message import Message, Name, message
from rough_draw.core.message.figure import hose_length
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem, as_hose, as_pump, free
from rough_draw.core.sheet.naming import pump_size
from rough_draw.core.sheet.rig import HosePart, ManifoldPart, Rig, ToolPart

Source = Literal["hand", "kit", "buy"]
SHORT_M = 0.9
"""The shortest hose that is sold for this, m."""


@dataclass(frozen=True)
class Change:
    """A change in words, where its part comes from, and the job with it made. ``key`` is stable for scripts."""

    key: str
    words: Message
    job: Job
    source: Source = "hand"


def _change(job: Job, key: str, words: Message, rig: Rig, source: Source = "hand") -> Change:
    return Change(key, words, job.model_copy(update={"rig": rig}), source)


def part_words(rig: Rig, name: str) -> Name:
    """How a part is called in a sentence: a hose by the port it leads to."""
    part = rig.get(name)
    if part is None:
        return name
    ports = _ports_of(rig, name)
    if part.kind != "hose":
        return message("the", thing=part.name or message(f"part-{part.kind}"))
    return message("the-port-hose", port=ports[0].replace("-", " ")) if len(ports) == 1 else message("hose-at-pump")


def _ports_of(rig: Rig, name: str) -> list[str]:
    part = rig.get(name)
    return [p.port for p in (part, *rig.below(name)) if p is not None and p.port]


def changes(job: Job, kit: Iterable[KitItem] = ()) -> list[Change]:
    """All single changes that apply to this rig, each a valid job of its own."""
    items = list(kit)
    return [
        *_cores(job),
        *_depressors(job),
        *_manifold(job),
        *_larger_hoses(job),
        *_kit_hoses(job, items),
        *_second_way(job, items),
        *_pumps(job, items),
        *_larger_tools(job),
    ]


def _cores(job: Job) -> list[Change]:
    rig = job.rig
    found: list[Change] = []
    every = rig
    pulled = 0
    for part in rig.pumped():
        port = job.scope.port(part.port or "")
        if port is None or not port.core:
            continue
        if isinstance(part, ToolPart):
            if port.id not in rig.cores_in:
                continue
            one = _without_core(rig, port.id)
            every = _without_core(every, port.id)
            words, source = message("change-pull-core", port=port.words()), "hand"
        else:
            under = rig_edit.attempt(lambda at=part.id, p=port: rig_edit.core_tool_under(rig, at, p))  # type: ignore[misc]
            if under is None:
                continue
            one = under
            more = rig_edit.attempt(lambda r=every, at=part.id, p=port: rig_edit.core_tool_under(r, at, p))  # type: ignore[misc]
            every = more or every
            words, source = message("change-pull-core-with-tool", port=port.words()), "buy"
        pulled += 1
        found.append(_change(job, f"pull-core-{port.id}", words, one, source))  # type: ignore[arg-type]
    if pulled > 1:
        found.append(_change(job, "pull-cores", message("change-pull-cores"), every))
    return found


def _without_core(rig: Rig, port: str) -> Rig:
    return rig.model_copy(update={"cores_in": tuple(c for c in rig.cores_in if c != port)})


def _depressors(job: Job) -> list[Change]:
    found = []
    for part in job.rig.parts:
        if isinstance(part, HosePart) and part.depressor and part.port is None:
            rig = rig_edit.swap(job.rig, part.id, {"depressor": False, "kit": part.kit, "name": part.name})
            words = message("change-depressor", part=part_words(rig, part.id))
            found.append(_change(job, f"depressor-{part.id}", words, rig))
    return found


def _manifold(job: Job) -> list[Change]:
    if not any(isinstance(p, ManifoldPart) for p in job.rig.parts):
        return []
    rig = rig_edit.attempt(lambda: rig_edit.without_manifold(job.rig))
    return [_change(job, "no-manifold", message("change-no-manifold"), rig)] if rig is not None else []


def _larger_hoses(job: Job) -> list[Change]:
    rig = job.rig
    hoses = [p for p in rig.parts if isinstance(p, HosePart) and _ports_of(rig, p.id)]
    if not hoses:
        return []
    sizes = [HOSE_SIZES.index(h.size) for h in hoses]
    found = []
    for index in sorted({min(i + 1, len(HOSE_SIZES) - 1) for i in sizes} | {2}):
        size = HOSE_SIZES[index]
        if index <= min(sizes):
            continue
        larger = rig
        for h in hoses:
            if HOSE_SIZES.index(h.size) < index:
                larger = rig_edit.swap(larger, h.id, {"size": size, "made_for": "vacuum"})
        words = message("change-hoses", size=size, count=len(hoses))
        found.append(_change(job, f"hoses-{size.split()[0].replace('/', '-')}", words, larger, "buy"))
    if max(h.length_m for h in hoses) > 1.0:
        shorter = rig
        for h in hoses:
            if h.length_m > SHORT_M:
                shorter = rig_edit.swap(shorter, h.id, {"length_m": SHORT_M})
        found.append(_change(job, "shorter", message("change-shorter", length=hose_length(SHORT_M)), shorter, "buy"))
    return found


def _kit_hoses(job: Job, kit: list[KitItem]) -> list[Change]:
    found = []
    seen: set[tuple[object, ...]] = set()
    for part in job.rig.parts:
        if not isinstance(part, HosePart) or not _ports_of(job.rig, part.id):
            continue
        for item in free(kit, job.rig, "hose"):
            h = as_hose(item)
            same = (part.id, h.size, h.length_m, h.made_for, h.age)
            if same in seen or (h.size, h.length_m, h.made_for, h.age) == (
                part.size,
                part.length_m,
                part.made_for,
                part.age,
            ):
                continue
            seen.add(same)
            values = {**item.values, "depressor": part.depressor, "fits": part.fits}
            rig = rig_edit.take_from_kit(job.rig, part.id, item.id, item.name, values)
            words = message("change-kit-hose", item=item.name, part=part_words(job.rig, part.id))
            found.append(_change(job, f"kit-{item.id}-{part.id}", words, rig, "kit"))
    return found


def _second_way(job: Job, kit: list[KitItem]) -> list[Change]:
    rig = job.rig
    reached = {p.port for p in rig.pumped()}
    found = []
    first = next((p for p in rig.parts if isinstance(p, HosePart) and _ports_of(rig, p.id)), None)
    if first is None or (rig_edit.free_place(rig)[0] is None and sum(p.kind == "tee" for p in rig.parts) > 0):
        return []
    hoses = sorted(free(kit, rig, "hose"), key=lambda k: -HOSE_SIZES.index(as_hose(k).size))
    tools = free(kit, rig, "tool")
    for port in job.scope.ports:
        section = job.scope.section(port.section)
        if port.id in reached or section.holds_charge:
            continue
        hose: dict[str, Any] = {"size": first.size, "length_m": first.length_m}
        source: Source = "buy"
        tool: dict[str, Any] = {}
        standing = rig.on_port(port.id)
        if isinstance(standing, ToolPart) and rig.chain(standing)[0] is standing and hoses:
            hose = {**hoses[0].values, "kit": hoses[0].id, "name": hoses[0].name, "depressor": False}
        if hoses and tools:
            hose = {**hoses[0].values, "kit": hoses[0].id, "name": hoses[0].name, "depressor": False}
            tool = {**tools[0].values, "kit": tools[0].id, "name": tools[0].name}
            source = "kit"
        more = rig_edit.attempt(lambda p=port, h=hose, t=tool: rig_edit.add_way(rig, p.id, p.size, h, t))  # type: ignore[misc]
        if more is None:
            continue
        found.append(_change(job, f"second-{port.id}", message("change-second-hose", port=port.words()), more, source))
    return found


def _pumps(job: Job, kit: list[KitItem]) -> list[Change]:
    rig = job.rig
    now = rig.pump
    found = []
    for item in free(kit, rig, "pump"):
        p = as_pump(item)
        if (p.plate_cfm, p.blank_off_micron, p.oil) != (now.plate_cfm, now.blank_off_micron, now.oil):
            swapped = rig_edit.take_from_kit(rig, now.id, item.id, item.name, item.values)
            found.append(
                _change(job, f"kit-{item.id}-pump", message("change-kit-pump", item=item.name), swapped, "kit")
            )
    larger = [c for c in PUMPS_CFM if c > now.plate_cfm]
    if larger:
        rig2 = rig_edit.swap(
            rig, now.id, {"plate_cfm": larger[0], "stages": 2, "blank_off_micron": None, "oil": "fresh"}
        )
        found.append(_change(job, "larger-pump", message("change-larger-pump", pump=pump_size(larger[0])), rig2, "buy"))
    if now.oil != "fresh":
        fields = {"oil": "fresh", "blank_off_micron": None, "kit": now.kit, "name": now.name}
        found.append(_change(job, "change-oil", message("change-oil"), rig_edit.swap(rig, now.id, fields)))
    return found


def _larger_tools(job: Job) -> list[Change]:
    rig = job.rig
    small = [p.id for p in rig.pumped() if isinstance(p, ToolPart) and p.bore == "1/4 in"]
    if not small:
        return []
    for name in small:
        rig = rig_edit.swap(rig, name, {"bore": "3/8 in"})
    return [_change(job, "larger-tools", message("change-larger-tools", bore="3/8 in"), rig, "buy")]
