"""The invented firm's van, the rigs that it allows, and a cold room to put them on."""

from __future__ import annotations

from typing import Any

from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.setups import rig_from
from rough_draw.core.sheet.templates import TEMPLATES

FIRM = "Quillmere Cold Works"

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
        rig = rig_edit.take_from_kit(rig, part.id, NUMBER[name], name, {**values[name], **keep})
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


def with_charging_hose(rig: Rig) -> Rig:
    """A rig with a charging hose of the van brought along."""
    name = "1/4 in charging, 1.5 m, red tape"
    values = next(v for _, n, v in KIT if n == name)
    spare = {"kind": "hose", "id": "charging-hose", "name": name, "kit": NUMBER[name], **values, "depressor": False}
    return Rig.model_validate({**rig.model_dump(), "spares": [spare]})


def one_hose(scope: Scope) -> Rig:
    """One large hose, Gauge 1 on the far port."""
    rig = rig_from("one-hose-valved-gauge", scope)
    return fitted(rig, pump="Pump 1, 8 CFM", hose_a="1/2 in vacuum, 0.9 m", gauge="Gauge 1")


def charging_hoses(scope: Scope, pump: str, gauge: str) -> Rig:
    """The poor rig: two charging hoses on a two-valve manifold, cores in, the gauge at the manifold."""
    rig = rig_from("two-valve", scope)
    for letter in "ab":
        rig = rig_edit.remove(rig, f"tool-{letter}")
        rig = rig_edit.swap(rig, f"hose-{letter}", {"depressor": True})
    rig = rig_edit.move(rig, "gauge", "manifold", "sensor", None)
    rig = rig_edit.swap(rig, "hose-p", {"size": "1/4 in", "length_m": 1.5, "made_for": "pressure"})
    taken = fitted(
        rig.model_copy(update={"cores_in": ("suction", "liquid")}),
        pump=pump,
        hose_a="1/4 in charging, 1.5 m, red tape",
        hose_b="1/4 in charging, 1.5 m, no tape",
        gauge=gauge,
    )
    return taken.model_copy(update={"pattern": None})


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


def oily_room() -> Scope:
    """A whole circuit whose compressor's oil has kept refrigerant."""
    return cold_room(
        11.0,
        "1-1/8 in",
        "1/2 in",
        10.0,
        whole=True,
        refrigerant="R-449A",
        condition="open-hours",
        open_hours=0.3,
        humidity_pct=30,
        oil_kg=2.2,
        ambient_c=8,
        coldest_c=4,
    )
