"""Kinds of system found in the field, as section graphs to start from. All of it can be edited afterwards."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from rough_draw.core.message import Message, message

Values = dict[str, Any]


@dataclass(frozen=True)
class Template:
    """One kind of system: its sections, links and ports, and values of the scope that go with it."""

    key: str
    build: Callable[[], Values]
    scope: Values

    @property
    def name(self) -> Message:
        """What such a system is called."""
        return message(f"template-{self.key}")

    @property
    def about(self) -> Message:
        """What of it is evacuated, or is its mark."""
        return message(f"template-{self.key}.about")


def line(name: str, words: str, side: str, size: str, length: float, **more: Any) -> Values:
    """A copper line."""
    return {"id": name, "name": words, "kind": "line", "side": side, "size": size, "length_m": length, **more}


def coil(name: str, words: str, kind: str, kw: float, **more: Any) -> Values:
    """A coil or a compressor sized by its capacity."""
    return {"id": name, "name": words, "kind": kind, "capacity_kw": kw, **more}


def vessel(name: str, words: str, litres: float, **more: Any) -> Values:
    """A receiver, an accumulator, a header."""
    return {"id": name, "name": words, "kind": "vessel", "volume_l": litres, **more}


def link(name: str, kind: str, a: str, b: str, **more: Any) -> Values:
    """A passage between two sections."""
    return {"id": name, "kind": kind, "a": a, "b": b, **more}


def port(name: str, section: str, side: str, **more: Any) -> Values:
    """A service port."""
    return {"id": name, "section": section, "side": side, "name": f"{name.replace('-', ' ')} port", **more}


def _split(kw: float, suction: str, liquid: str, length: float, metering: str = "thermostatic-valve") -> Values:
    return {
        "sections": [
            line("suction", "suction line", "suction", suction, length),
            coil("evaporator", "evaporator", "evaporator", kw, cold=True),
            line("liquid", "liquid line", "liquid", liquid, length),
            coil("unit", "condensing unit", "condenser", kw, holds_charge=True),
        ],
        "links": [
            link("suction-end", "joint", "suction", "evaporator"),
            link("metering", metering, "liquid", "evaporator"),
            link("suction-service", "service-valve", "unit", "suction", open=False),
            link("liquid-service", "service-valve", "unit", "liquid", open=False),
        ],
        "ports": [port("suction", "suction", "suction"), port("liquid", "liquid", "liquid")],
    }


def _ducted_split() -> Values:
    return _split(14.0, "7/8 in", "3/8 in", 12.0)


def _ductless() -> Values:
    found = _split(5.0, "1/2 in", "1/4 in", 8.0, "capillary")
    # The metering device sits in the outdoor unit: both lines and the coil are one space from the one port.
    found["links"][1] = link("liquid-end", "joint", "liquid", "evaporator")
    found["ports"] = [port("suction", "suction", "suction", size="5/16 in")]
    return found


def _multi_zone() -> Values:
    sections: list[Values] = []
    links: list[Values] = []
    ports: list[Values] = []
    for n, (kw, metres) in enumerate(((2.5, 7.0), (3.5, 11.0), (5.0, 16.0)), 1):
        sections += [
            line(f"suction-{n}", f"zone {n} suction line", "suction", "1/2 in" if kw > 4 else "3/8 in", metres),
            coil(f"coil-{n}", f"zone {n} coil", "evaporator", kw, cold=n == 3),
            line(f"liquid-{n}", f"zone {n} liquid line", "liquid", "1/4 in", metres),
        ]
        links += [
            link(f"suction-end-{n}", "joint", f"suction-{n}", f"coil-{n}"),
            link(f"liquid-end-{n}", "joint", f"liquid-{n}", f"coil-{n}"),
            link(f"service-{n}", "service-valve", "unit", f"suction-{n}", open=False),
            link(f"liquid-service-{n}", "service-valve", "unit", f"liquid-{n}", open=False),
        ]
        ports.append(port(f"zone-{n}", f"suction-{n}", "suction", size="5/16 in"))
    sections.append(coil("unit", "outdoor unit", "condenser", 11.0, holds_charge=True))
    return {"sections": sections, "links": links, "ports": ports}


def _packaged() -> Values:
    return {
        "sections": [
            line("suction", "suction line", "suction", "1-1/8 in", 3.0),
            coil("evaporator", "evaporator", "evaporator", 26.0, cold=True),
            line("liquid", "liquid line", "liquid", "1/2 in", 3.0),
            {"id": "drier", "name": "filter-drier", "kind": "drier"},
            coil("condenser", "condenser", "condenser", 26.0),
            coil("compressor", "compressor", "compressor", 26.0),
        ],
        "links": [
            link("suction-end", "joint", "suction", "evaporator"),
            link("metering", "thermostatic-valve", "liquid", "evaporator"),
            link("drier-bed", "filter-drier", "drier", "liquid"),
            link("condenser-out", "joint", "condenser", "drier"),
            link("discharge", "check-valve", "compressor", "condenser"),
            link("suction-in", "joint", "suction", "compressor"),
        ],
        "ports": [
            port("suction", "suction", "suction"),
            port("discharge", "condenser", "discharge"),
            port("liquid", "liquid", "liquid", cramped=True),
        ],
    }


def _outdoor_air() -> Values:
    found = _packaged()
    found["sections"] += [coil("reheat", "reheat coil", "reheat", 12.0)]
    found["links"] += [
        link("reheat-in", "reheat-valve", "condenser", "reheat", open=False),
        link("reheat-out", "check-valve", "reheat", "liquid"),
    ]
    found["ports"].append(port("reheat", "reheat", "other"))
    return found


def _cooler() -> Values:
    return {
        "sections": [
            line("suction", "suction line", "suction", "7/8 in", 12.0),
            coil("evaporator", "evaporator", "evaporator", 10.0, cold=True),
            line("liquid", "liquid line", "liquid", "3/8 in", 12.0),
            coil("unit", "condensing unit", "condenser", 10.0, holds_charge=True),
        ],
        "links": [
            link("suction-end", "joint", "suction", "evaporator"),
            link("metering", "thermostatic-valve", "liquid", "evaporator"),
            link("suction-service", "service-valve", "unit", "suction", open=False),
            link("liquid-service", "service-valve", "unit", "liquid", open=False),
        ],
        "ports": [port("suction", "suction", "suction"), port("liquid", "liquid", "liquid")],
    }


def _condensing_circuit() -> Values:
    """A cold room's whole circuit, its condensing unit with it: receiver, king valve, stems at the compressor."""
    return {
        "sections": [
            line("suction", "suction line", "suction", "7/8 in", 12.0),
            coil("evaporator", "evaporator", "evaporator", 10.0, cold=True),
            line("drop", "drop", "liquid", "3/8 in", 2.0),
            line("liquid", "liquid line", "liquid", "3/8 in", 12.0),
            {"id": "drier", "name": "filter-drier", "kind": "drier", "side": "liquid"},
            vessel("receiver", "receiver", 6.0, side="liquid"),
            coil("condenser", "condenser", "condenser", 10.0, side="discharge"),
            coil("compressor", "compressor", "compressor", 10.0),
        ],
        "links": [
            link("suction-end", "joint", "suction", "evaporator"),
            link("metering", "thermostatic-valve", "drop", "evaporator"),
            link("solenoid", "solenoid", "liquid", "drop", open=False),
            link("drier-out", "filter-drier", "drier", "liquid"),
            {**link("king", "service-valve", "receiver", "drier", stem="stem"), "name": "king valve"},
            link("condenser-out", "joint", "condenser", "receiver"),
            link("discharge", "joint", "compressor", "condenser"),
            {**link("suction-stem", "service-valve", "suction", "compressor", stem="stem"), "name": "suction valve"},
        ],
        "ports": [
            port("suction", "suction", "suction"),
            port("king", "drier", "liquid"),
            port("discharge", "condenser", "discharge"),
        ],
    }


def _heat_pump() -> Values:
    """A ducted heat pump: in heating its vapor line is the hot one, so both lines are swept and drawn alike."""
    found = _split(10.5, "3/4 in", "3/8 in", 14.0, "expansion-valve")
    found["sections"][0]["name"] = "vapor line"
    found["sections"][1]["name"] = "indoor coil"
    found["sections"][3]["name"] = "outdoor unit"
    found["links"][1]["open"] = False
    return found


def _freezer() -> Values:
    return {
        "sections": [
            line("suction", "suction line", "suction", "1-3/8 in", 22.0),
            coil("evaporator-1", "evaporator 1", "evaporator", 8.0, cold=True),
            coil("evaporator-2", "evaporator 2", "evaporator", 8.0),
            line("liquid-1", "liquid branch 1", "liquid", "3/8 in", 4.0),
            line("liquid-2", "liquid branch 2", "liquid", "3/8 in", 6.0),
            line("liquid", "liquid line", "liquid", "5/8 in", 22.0),
            vessel("receiver", "receiver", 12.0),
            coil("condenser", "condenser", "condenser", 16.0),
            coil("compressor", "compressor", "compressor", 16.0),
            vessel("accumulator", "accumulator", 6.0),
        ],
        "links": [
            link("suction-1", "joint", "suction", "evaporator-1"),
            link("suction-2", "joint", "suction", "evaporator-2"),
            link("metering-1", "thermostatic-valve", "liquid-1", "evaporator-1"),
            link("metering-2", "thermostatic-valve", "liquid-2", "evaporator-2"),
            link("solenoid-1", "solenoid", "liquid", "liquid-1", open=False),
            link("solenoid-2", "solenoid", "liquid", "liquid-2", open=False),
            link("drier", "filter-drier", "receiver", "liquid"),
            link("condenser-out", "check-valve", "condenser", "receiver"),
            link("discharge", "joint", "compressor", "condenser"),
            link("suction-in", "joint", "suction", "accumulator"),
            link("suction-service", "service-valve", "accumulator", "compressor"),
        ],
        "ports": [
            port("suction", "suction", "suction"),
            port("discharge", "condenser", "discharge"),
            port("receiver", "receiver", "liquid", cramped=True),
        ],
    }


def _rack_circuit() -> Values:
    sections = [
        line("suction", "suction branch", "suction", "1-5/8 in", 35.0),
        line("liquid", "liquid branch", "liquid", "7/8 in", 35.0),
        vessel("header-suction", "suction header", 15.0, holds_charge=True),
        vessel("header-liquid", "liquid header", 10.0, holds_charge=True),
    ]
    links = [
        link("suction-stop", "ball-valve", "header-suction", "suction", open=False),
        link("liquid-stop", "ball-valve", "header-liquid", "liquid", open=False),
    ]
    for n in (1, 2, 3):
        sections += [
            coil(f"case-{n}", f"case {n}", "evaporator", 6.0, cold=n == 3),
            line(f"drop-{n}", f"liquid drop {n}", "liquid", "1/2 in", 5.0),
        ]
        links += [
            link(f"case-out-{n}", "joint", "suction", f"case-{n}"),
            link(f"valve-{n}", "expansion-valve", f"drop-{n}", f"case-{n}", open=False),
            link(f"drop-in-{n}", "joint", "liquid", f"drop-{n}"),
        ]
    ports = [port("suction", "suction", "suction", size="3/8 in"), port("liquid", "liquid", "liquid")]
    return {"sections": sections, "links": links, "ports": ports}


def _chiller() -> Values:
    found = _packaged()
    for s in found["sections"]:
        s.update({"capacity_kw": 90.0} if "capacity_kw" in s else {})
    found["sections"][0].update(size="2-1/8 in", length_m=4.0)
    found["sections"][2].update(size="1-1/8 in", length_m=4.0)
    found["sections"][1]["name"] = "plate evaporator"
    found["sections"].append(vessel("receiver", "receiver", 20.0))
    found["links"][3] = link("condenser-out", "check-valve", "condenser", "receiver")
    found["links"].append(link("receiver-out", "ball-valve", "receiver", "drier"))
    found["links"][1] = link("metering", "expansion-valve", "liquid", "evaporator", open=False)
    found["ports"].append(port("receiver", "receiver", "liquid", size="3/8 in"))
    return found


def _multi_branch() -> Values:
    sections = [
        line("gas", "gas main", "suction", "1-1/8 in", 40.0),
        line("liquid", "liquid main", "liquid", "5/8 in", 40.0),
        coil("unit", "outdoor unit", "condenser", 45.0, holds_charge=True),
    ]
    links = [
        link("gas-service", "service-valve", "unit", "gas", open=False),
        link("liquid-service", "service-valve", "unit", "liquid", open=False),
    ]
    for n, kw in enumerate((5.6, 5.6, 8.0, 11.0), 1):
        sections += [
            line(f"gas-{n}", f"gas branch {n}", "suction", "1/2 in", 8.0),
            coil(f"coil-{n}", f"indoor coil {n}", "evaporator", kw, cold=n == 4),
            line(f"liquid-{n}", f"liquid branch {n}", "liquid", "1/4 in", 8.0),
        ]
        links += [
            link(f"gas-tee-{n}", "joint", "gas", f"gas-{n}"),
            link(f"coil-out-{n}", "joint", f"gas-{n}", f"coil-{n}"),
            link(f"valve-{n}", "expansion-valve", f"liquid-{n}", f"coil-{n}", open=False),
            link(f"liquid-tee-{n}", "joint", "liquid", f"liquid-{n}"),
        ]
    ports = [port("gas", "gas", "suction", size="5/16 in"), port("liquid", "liquid", "liquid", size="5/16 in")]
    return {"sections": sections, "links": links, "ports": ports}


def _cylinder() -> Values:
    return {
        "sections": [{"id": "cylinder", "name": "cylinder", "kind": "cylinder", "volume_l": 12.0, "cold": True}],
        "links": [],
        "ports": [
            {"id": "valve", "section": "cylinder", "side": "other", "core": False, "name": "liquid valve"},
            {"id": "vapor-valve", "section": "cylinder", "side": "other", "core": False, "name": "vapor valve"},
        ],
    }


def _line_set() -> Values:
    return {
        "sections": [
            line("suction", "suction line", "suction", "7/8 in", 12.0, cold=True),
            line("liquid", "liquid line", "liquid", "3/8 in", 12.0),
        ],
        "links": [{**link("jumper", "joint", "suction", "liquid", bore_mm=8.0), "name": "jumper at the far end"}],
        "ports": [port("suction", "suction", "suction"), port("liquid", "liquid", "liquid")],
    }


TEMPLATES: dict[str, Template] = {
    t.key: t
    for t in (
        Template("cooler", _cooler, {}),
        Template(
            "freezer",
            _freezer,
            {"low_temperature": True, "oil_kg": 3.0},
        ),
        Template("condensing-circuit", _condensing_circuit, {"oil_kg": 1.5}),
        Template("rack-circuit", _rack_circuit, {}),
        Template("ducted-split", _ducted_split, {}),
        Template("ducted-heat-pump", _heat_pump, {"refrigerant": "R-454B"}),
        Template("ductless", _ductless, {"oil_kg": 0.4}),
        Template("multi-zone", _multi_zone, {"oil_kg": 1.0}),
        Template("packaged", _packaged, {"oil_kg": 2.5}),
        Template("outdoor-air", _outdoor_air, {"oil_kg": 2.5}),
        Template("chiller", _chiller, {"oil_kg": 7.0}),
        Template("multi-branch", _multi_branch, {}),
        Template(
            "cylinder",
            _cylinder,
            {"condition": "new-dry", "oil_kg": 0.0, "oil": "mineral"},
        ),
        Template("line-set", _line_set, {"oil_kg": 0.0}),
    )
}


def parts_of(key: str) -> Values:
    """Sections, links and ports of a template; of the first one for a key that is not built in (a person's own)."""
    return TEMPLATES.get(key, TEMPLATES["cooler"]).build()
