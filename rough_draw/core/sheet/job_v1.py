"""Sheets of version 1 brought to version 2: a fixed kind of system becomes its sections, a fixed rig its parts."""

from __future__ import annotations

from typing import Any

from rough_draw.core.sheet.base import fault
from rough_draw.core.sheet.templates import coil, line, link, port, vessel

Values = dict[str, Any]
SIDES = ("suction", "liquid")


def is_version_1(values: Values) -> bool:
    """Whether a document is of version 1: it says so, or it says nothing and has version 1's fields."""
    if "version" in values:
        return bool(values["version"] == 1)
    scope, rig = values.get("scope"), values.get("rig")
    old_scope = isinstance(scope, dict) and bool({"system", "suction", "liquid", "capacity_kw"} & scope.keys())
    return old_scope or (isinstance(rig, dict) and bool({"paths", "manifold", "pump_hose"} & rig.keys()))


def to_version_2(old: Values) -> Values:
    """The same sheet as version 2. Raises a fault where the old one is not what its version allowed."""
    new = {**old, "version": 2}
    scope, rig = old.get("scope", {}), old.get("rig", {})
    if not isinstance(scope, dict) or not isinstance(rig, dict):
        raise fault("job", "v1-objects")
    _shapes(rig, scope)
    new["scope"] = _scope(scope)
    ports = [p["id"] for p in new["scope"]["ports"]]
    new["rig"] = _rig(rig, ports)
    return new


def _shapes(rig: Values, scope: Values) -> None:
    """What is a list or an object in version 1 must be one, or a fault says where it is not."""
    for place, value, kind in (
        ("rig.paths", rig.get("paths", []), list),
        ("rig.pump", rig.get("pump", {}), dict),
        ("rig.gauge", rig.get("gauge", {}), dict),
        ("rig.pump_hose", rig.get("pump_hose", {}), dict),
        ("scope.suction", scope.get("suction", {}), dict),
        ("scope.liquid", scope.get("liquid", {}), dict),
    ):
        if value is not None and not isinstance(value, kind):
            raise fault(place, "v1-list" if kind is list else "v1-object", place=place)
    for n, path in enumerate(rig.get("paths") or []):
        if not isinstance(path, dict) or not isinstance(path.get("hose") or {}, dict):
            raise fault(f"rig.paths.{n}", "v1-way")
        if path.get("core", "out") == "out" and path.get("tool", True) is False:
            side = path.get("port", "suction")
            raise fault(f"rig.paths.{n}", "v1-core-out", port=side)
    if len(rig.get("paths") or []) > 2:
        raise fault("rig.paths", "v1-two-ways")


def _scope(old: Values) -> Values:
    drop = ("system", "capacity_kw", "suction", "liquid", "receiver_l", "condensing_unit_open")
    kept = {k: v for k, v in old.items() if k not in drop}
    kind = old.get("system", "remote-condensing-unit")
    suction = {"size": "7/8 in", "length_m": 12.0, **(old.get("suction") or {})}
    liquid = {"size": "3/8 in", "length_m": 12.0, **(old.get("liquid") or {})}
    kw = old.get("capacity_kw", 10.0)
    s_line = line("suction", "suction line", "suction", suction["size"], suction["length_m"])
    l_line = line("liquid", "liquid line", "liquid", liquid["size"], liquid["length_m"])
    ports = [port("suction", "suction", "suction"), port("liquid", "liquid", "liquid")]
    if kind == "cylinder":
        sections = [vessel("cylinder", "cylinder", old.get("volume_l") or 12.0, kind="cylinder", cold=True)]
        # The one port of a version 1 cylinder was called suction.
        return {
            **kept,
            "volume_l": None,
            "template": "cylinder",
            "sections": sections,
            "links": [],
            "ports": [port("suction", "cylinder", "suction")],
        }
    if kind == "line-set":
        jumper = link("jumper", "joint", "suction", "liquid", bore_mm=8.0)
        return {
            **kept,
            "template": "line-set",
            "sections": [{**s_line, "cold": True}, l_line],
            "links": [jumper],
            "ports": ports,
        }
    if kind not in ("remote-condensing-unit", "packaged"):
        raise fault("scope.system", "v1-system", kind=str(kind))
    sections = [s_line, coil("evaporator", "evaporator", "evaporator", kw, cold=True), l_line]
    links = [
        link("suction-end", "joint", "suction", "evaporator"),
        link("metering", "thermostatic-valve", "liquid", "evaporator"),
    ]
    if old.get("receiver_l"):
        sections.append(vessel("receiver", "receiver", old["receiver_l"]))
        links.append(link("receiver-out", "joint", "receiver", "liquid"))
    is_open = kind == "packaged" or bool(old.get("condensing_unit_open"))
    sections.append(coil("unit", "condensing unit", "condenser", kw, holds_charge=not is_open))
    if is_open:
        sections.append(coil("compressor", "compressor", "compressor", kw))
        links.append(link("discharge", "joint", "compressor", "unit"))
    for side in SIDES:
        far = "compressor" if is_open and side == "suction" else "unit"
        links.append(link(f"{side}-service", "service-valve", far, side, open=is_open))
    template = "packaged" if kind == "packaged" else "cooler"
    return {**kept, "template": template, "sections": sections, "links": links, "ports": ports}


def _hose(old: Values, name: str, on: str, at: str) -> Values:
    fields = {k: v for k, v in old.items() if k != "kind"}
    return {"kind": "hose", "id": name, "on": on, "at": at, "made_for": old.get("kind", "vacuum"), **fields}


def _rig(old: Values, ports: list[str]) -> Values:
    paths = old.get("paths") or [{}]
    manifold = old.get("manifold", "none")
    pump = dict(old.get("pump") or {})
    parts: list[Values] = [{"kind": "pump", "id": "pump", **pump}]
    start, outlets = "pump", ["end"]
    if manifold != "none":
        parts.append(_hose(old.get("pump_hose") or {}, "hose-p", "pump", "end"))
        inlet = "centre" if manifold == "two-valve" else "vacuum"
        parts.append({"kind": "manifold", "id": "manifold", "on": "hose-p", "body": manifold, "inlet": inlet})
        start, outlets = "manifold", ["low", "high"]
    elif len(paths) > 1:
        parts.append({"kind": "tee", "id": "tee", "on": "pump"})
        start, outlets = "tee", ["a", "b"]
    cores, tools = [], {}
    for letter, path, at in zip("ab", paths, outlets, strict=False):
        side = path.get("port", "suction")
        hose = _hose(path.get("hose") or {}, f"hose-{letter}", start, at)
        if path.get("core", "out") == "in":
            cores.append(side)
        if path.get("tool", True):
            tools[side] = f"tool-{letter}"
            parts += [hose, {"kind": "tool", "id": f"tool-{letter}", "on": f"hose-{letter}", "port": side}]
        else:
            # Version 1 let gas pass a core with nothing to push it; a rig that worked had the pin in its hose.
            parts.append({**hose, "port": side, "depressor": True})
    gauge = dict(old.get("gauge") or {})
    place = str(gauge.pop("place", "tool:suction"))
    valved = gauge.pop("own_valve", True)
    return {"parts": [*parts, *_gauge(gauge, place, valved, tools, manifold, ports, paths)], "cores_in": cores}


def _gauge(
    gauge: Values, place: str, valved: bool, tools: Values, manifold: str, ports: list[str], paths: list[Values]
) -> list[Values]:
    own = {"kind": "gauge", "id": "gauge", **gauge}
    side = place.partition(":")[2]
    if place == "pump":
        return [{**own, "on": "pump", "at": "side", "valve": valved}]
    if place == "manifold" and manifold != "none":
        return [{**own, "on": "manifold", "at": "sensor", "valve": valved}]
    if side in tools:
        on, at, port_id = tools[side], "side", None
    elif side in ports and not any(p.get("port", "suction") == side for p in paths):
        on, at, port_id = None, "end", side
    else:
        # A hose sits on that port without a tool: the gauge can only read at the pump.
        return [{**own, "on": "pump", "at": "side", "valve": valved}]
    if valved:
        under = {"kind": "tool", "id": "tool-g", "on": on, "at": at, "port": port_id}
        return [under, {**own, "on": "tool-g", "at": "end"}]
    return [{**own, "on": on, "at": at, "port": port_id}]
