"""Edits of a rig: exchange a part, put one in, take one off. Each returns a new rig, checked as a whole.

A refused edit raises ValueError (or pydantic's ValidationError, which is one) and leaves the old rig as it was.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import TypeAdapter

from rough_draw.core.message import Fault, message
from rough_draw.core.sheet.rig import GaugePart, HosePart, ManifoldPart, Part, Rig, TeePart, ToolPart
from rough_draw.core.sheet.scope import Port

_PART: TypeAdapter[Part] = TypeAdapter(Part)
LETTERS = {"hose": "abcdefgh", "tool": "abcdefgh"}


def attempt(make: Callable[[], Rig]) -> Rig | None:
    """The rig that edits make; None where they make none. For what is proposed, and not asked for: it is left out."""
    try:
        return make()
    except ValueError:
        return None


def core_tool_under(rig: Rig, name: str, port: Port) -> Rig:
    """A core tool between a part and its port, the port's core pulled, the pin of a hose on it out."""
    bare = rig.model_copy(update={"cores_in": tuple(c for c in rig.cores_in if c != port.id)})
    tooled = put_at_port(bare, name, {"kind": "tool", "fits": port.size})
    above = tooled.get(name)
    if not isinstance(above, HosePart) or not above.depressor:
        return tooled
    return swap(tooled, name, {"depressor": False, "kit": above.kit, "name": above.name})


def fresh_id(rig: Rig, kind: str) -> str:
    """An id for a new part: hose-a, tool-b, tee, tee-2."""
    taken = {p.id for p in (*rig.parts, *rig.spares)}
    names = [f"{kind}-{x}" for x in LETTERS[kind]] if kind in LETTERS else [kind]
    names += [f"{kind}-{n}" for n in range(2, 60)]
    return next(n for n in names if n not in taken)


def swap(rig: Rig, name: str, fields: dict[str, Any]) -> Rig:
    """Change a part's own fields, or take another part of the same kind from the kit; its place stays."""
    part = _must(rig, name)
    keep = {"id", "kind", "on", "at", "port"}
    values = {**part.model_dump(), **{k: v for k, v in fields.items() if k not in keep}}
    if "kit" not in fields:
        # Changed by hand, it is no longer the part from the van.
        values.update(kit=None, name="" if part.kit else part.name)
    return rig.with_parts([_PART.validate_python(values) if p.id == name else p for p in rig.parts])


def take_from_kit(rig: Rig, name: str, kit_id: int, kit_name: str, values: dict[str, Any]) -> Rig:
    """Put a part of the kit in the place of ``name``. What is set by the hook-up (depressor out, fit) stays."""
    return swap(rig, name, {**values, "kit": kit_id, "name": kit_name})


def move(rig: Rig, name: str, on: str | None, at: str, port: str | None) -> Rig:
    """Screw a part on another outlet or port."""
    part = _must(rig, name)
    moved = part.model_copy(update={"on": on, "at": at, "port": port})
    return rig.with_parts([moved if p.id == name else p for p in rig.parts])


def add(rig: Rig, part: dict[str, Any]) -> Rig:
    """Put a part on a free outlet or port. ``part`` needs kind, on and at, or port; its id is made up."""
    kind = str(part.get("kind", ""))
    values = {**part, "id": part.get("id") or fresh_id(rig, kind)}
    return rig.with_parts([*rig.parts, _PART.validate_python(values)])


def insert(rig: Rig, name: str, part: dict[str, Any]) -> Rig:
    """Put a part between ``name`` and what it is screwed on (toward the pump)."""
    below = _must(rig, name)
    kind = str(part.get("kind", ""))
    new = _PART.validate_python({**part, "id": fresh_id(rig, kind), "on": below.on, "at": below.at, "port": None})
    outlets = [o for o in new.outlets() if o != "sensor"]
    if not outlets:
        raise Fault(message("edit-nothing-behind", part=message(f"part-{kind}")))
    lower = below.model_copy(update={"on": new.id, "at": outlets[0]})
    return rig.with_parts([*[lower if p.id == name else p for p in rig.parts], new])


def put_at_port(rig: Rig, name: str, part: dict[str, Any]) -> Rig:
    """Put a part between ``name`` and the port it is screwed on: a tool, an adapter."""
    above = _must(rig, name)
    if above.port is None:
        raise Fault(message("edit-not-on-port", part=above.called()))
    kind = str(part.get("kind", ""))
    new_id = fresh_id(rig, kind)
    values = {**part, "id": new_id, "port": above.port}
    if "end" not in _PART.validate_python({**values, "on": None, "at": "end"}).outlets():
        # A gauge or a cylinder is no passage: nothing goes on through it.
        raise Fault(message("edit-nothing-behind", part=message(f"part-{kind}")))
    if above.on is None:
        # It stands on the port alone: the new part goes under it.
        new = _PART.validate_python({**values, "on": None, "at": "end"})
        upper = above.model_copy(update={"on": new_id, "at": "end", "port": None})
    else:
        new = _PART.validate_python({**values, "on": name, "at": "end"})
        upper = above.model_copy(update={"port": None})
    return rig.with_parts([*[upper if p.id == name else p for p in rig.parts], new])


def remove(rig: Rig, name: str) -> Rig:
    """Take a part off. What hung on it moves to where it was, as far as there is room; the rest goes with it."""
    part = _must(rig, name)
    if part.kind == "pump":
        raise Fault(message("edit-pump-first"))
    if isinstance(part, ManifoldPart):
        return without_manifold(rig)
    children = rig.children(name)
    if isinstance(part, TeePart) and len(children) > 1:
        raise Fault(message("edit-tee-carries", count=len(children)))
    heir = next((c for c in children if c.at != "side"), None)
    lost: set[str] = set()
    parts: list[Part] = []
    for p in rig.parts:
        if p.id == name:
            continue
        if heir is not None and p.id == heir.id:
            p = p.model_copy(update={"on": part.on, "at": part.at, "port": p.port or part.port})
        elif p.on == name and p.kind == "gauge" and part.port:
            # A gauge on the side of a tool that goes: it falls back to the pump.
            p = p.model_copy(update={"on": rig.pump.id, "at": "side"})
        elif p.on == name:
            lost.add(p.id)
            continue
        elif p.id == part.on and part.port and heir is None:
            # The last part on the way to the port: the one before it now reaches the port itself.
            p = p.model_copy(update={"port": part.port})
            if isinstance(p, HosePart):
                p = p.model_copy(update={"depressor": True})
        parts.append(p)
    while True:
        gone = {p.id for p in parts if p.on in lost}
        if not gone:
            break
        lost |= gone
        parts = [p for p in parts if p.id not in gone]
    return rig.with_parts(parts)


def without_manifold(rig: Rig) -> Rig:
    """The manifold left out, with all that leads to it alone: its hoses go to where that was, over a tee if several."""
    body = next((p for p in rig.parts if isinstance(p, ManifoldPart)), None)
    if body is None:
        raise Fault(message("edit-no-manifold"))
    chain = rig.chain(body)
    first = len(chain) - 1
    while first > 1 and len([c for c in rig.children(chain[first - 1].id) if c.kind != "gauge"]) < 2:
        first -= 1
    root, outlet = chain[first].on or rig.pump.id, chain[first].at
    dropped = {p.id for p in chain[first:]}
    ways = [c for c in rig.children(body.id) if _leads_to_port(rig, c)]
    for c in rig.children(body.id):
        if c not in ways and c.kind != "gauge":
            dropped |= {c.id, *(b.id for b in rig.below(c.id))}
    parts = [p for p in rig.parts if p.id not in dropped]
    changed: list[Part] = []
    tee = None
    if len(ways) > 1:
        tee = _PART.validate_python(
            {"kind": "tee", "id": fresh_id(rig, "tee"), "on": root, "at": outlet, "ways": min(3, max(2, len(ways)))}
        )
    order = {c.id: i for i, c in enumerate(ways)}
    for p in parts:
        if p.id in order:
            p = p.model_copy(update={"on": tee.id, "at": "abc"[order[p.id]]} if tee else {"on": root, "at": outlet})
        elif isinstance(p, GaugePart) and p.on in dropped:
            place = next(iter(_sides([*changed, *parts], dropped)), None)
            if place is None:
                continue  # nowhere left to screw it on
            p = p.model_copy(update={"on": place, "at": "side"})
        changed.append(p)
    at = next(i for i, p in enumerate(changed) if p.kind == "pump") + 1
    return rig.with_parts([*changed[:at], *([tee] if tee else []), *changed[at:]], pattern=None)


def _sides(parts: list[Part], dropped: set[str]) -> list[str]:
    """Parts with a side port that is free: tools at a port first, then the pump."""
    taken = {p.on for p in parts if p.at == "side" and p.on not in dropped}
    tools = [p.id for p in parts if isinstance(p, ToolPart) and p.port is not None]
    pumps = [p.id for p in parts if p.kind == "pump"]
    return [name for name in (*tools, *pumps) if name not in taken]


def add_way(rig: Rig, port: str, size: str, hose: dict[str, Any], tool: dict[str, Any]) -> Rig:
    """Another hose from the pump to ``port``, through a tool: over a tee, or a free place of the tee or manifold.

    A gauge chain that stands on that port alone moves to the new tool's side port.
    """
    hose_id, tool_id = fresh_id(rig, "hose"), fresh_id(rig, "tool")
    parts = list(rig.parts)
    standing = rig.on_port(port)
    if standing is not None and rig.from_pump(standing):
        raise Fault(message("edit-port-has-hose", port=port.replace("-", " ")))
    if standing is not None:
        root = rig.chain(standing)[0]
        parts = [
            p.model_copy(update={"on": tool_id, "at": "side", "port": None}) if p.id == root.id else p for p in parts
        ]
    on, at = free_place(rig)
    if on is None:
        first = next(p for p in rig.parts if p.on == rig.pump.id and p.at == "end")
        tee = fresh_id(rig, "tee")
        parts = [p.model_copy(update={"on": tee, "at": "a"}) if p.id == first.id else p for p in parts]
        parts.insert(1, _PART.validate_python({"kind": "tee", "id": tee, "on": rig.pump.id}))
        on, at = tee, "b"
    new_hose = _PART.validate_python({**hose, "kind": "hose", "id": hose_id, "on": on, "at": at})
    new_tool = _PART.validate_python(
        {**tool, "kind": "tool", "id": tool_id, "on": hose_id, "at": "end", "port": port, "fits": size}
    )
    return rig.with_parts([*parts, new_hose, new_tool], pattern=None)


def free_place(rig: Rig) -> tuple[str | None, str]:
    """A free outlet of a tee or manifold for one more hose; (None, "") where there is none."""
    for p in rig.parts:
        if isinstance(p, TeePart | ManifoldPart):
            taken = {c.at for c in rig.children(p.id)}
            free = [o for o in p.outlets() if o not in taken and o not in ("sensor", "vacuum", "charge")]
            if free:
                return p.id, free[0]
    if not any(c.at == "end" for c in rig.children(rig.pump.id)):
        return rig.pump.id, "end"
    return None, ""


def put_under(rig: Rig, name: str) -> Rig:
    """A tool between a gauge and what it sits on, so that it can be shut off."""
    gauge = _must(rig, name)
    if gauge.on is None:
        size = getattr(gauge, "fits", "1/4 in")
        return put_at_port(rig, name, {"kind": "tool", "fits": size})
    return insert(rig, name, {"kind": "tool"})


def _must(rig: Rig, name: str) -> Part:
    part = rig.get(name)
    if part is None:
        raise Fault(message("edit-no-part", part=name))
    return part


def _leads_to_port(rig: Rig, part: Part) -> bool:
    return any(p.port is not None for p in (part, *rig.below(part.id)))
