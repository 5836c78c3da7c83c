"""The hook-ups in use, as starting points: each a rig built for the ports of the system at hand.

A pattern only places parts. Every answer about it (what isolates it, what the gauge sees, what a valve keeps shut)
is computed from the rig it makes, never looked up here.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from rough_draw.core.message import Fault, Message, message
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Port, Scope

Parts = list[dict[str, Any]]
VACUUM: dict[str, Any] = {"size": "3/8 in", "length_m": 1.8}
LARGE: dict[str, Any] = {"size": "1/2 in", "length_m": 1.8}
HUGE: dict[str, Any] = {"size": "3/4 in", "length_m": 2.4}
QUARTER: dict[str, Any] = {"size": "1/4 in", "length_m": 1.5, "made_for": "pressure", "depressor": True}


@dataclass(frozen=True)
class Ports:
    """The ports a pattern uses: where the volume is, the far one, and a third."""

    first: Port
    second: Port | None
    third: Port | None


@dataclass(frozen=True, kw_only=True)
class Pattern:
    """One hook-up: ``ports`` it needs, how it is put together, and ports whose core stays in (by their turn)."""

    key: str
    ports: int
    build: Callable[[Ports], Parts]
    cores_in: tuple[int, ...] = ()

    @property
    def name(self) -> Message:
        """What it is called."""
        return message(f"setup-of-{self.key}")

    @property
    def words(self) -> Message:
        """What it is good for, in a line."""
        return message(f"setup-of-{self.key}.about")


def pump(**more: Any) -> dict[str, Any]:
    """The pump."""
    return {"kind": "pump", "id": "pump", **more}


def hose(name: str, on: str, at: str = "end", **more: Any) -> dict[str, Any]:
    """A hose, large-bore and vacuum-rated unless told otherwise."""
    return {"kind": "hose", "id": name, "on": on, "at": at, **VACUUM, **more}


def tool(name: str, port: Port | None, on: str | None = None, at: str = "end") -> dict[str, Any]:
    """A core tool, on a port or on another tool's side port."""
    found: dict[str, Any] = {"kind": "tool", "id": name, "on": on, "at": at, "port": port.id if port else None}
    return {**found, "fits": port.size} if port else found


def gauge(on: str | None = None, at: str = "end", port: Port | None = None, **more: Any) -> dict[str, Any]:
    """The micron gauge."""
    found = {"kind": "gauge", "id": "gauge", "on": on, "at": at, "port": port.id if port else None, **more}
    return {**found, "fits": port.size} if port else found


def _second(p: Ports) -> Port:
    assert p.second is not None
    return p.second


def _third(p: Ports) -> Port:
    assert p.third is not None
    return p.third


def _one_hose_gauge_on_port(p: Ports) -> Parts:
    return [pump(), hose("hose-a", "pump", **LARGE), tool("tool-a", p.first, "hose-a"), gauge(port=_second(p))]


def _one_hose_gauge_valved(p: Ports) -> Parts:
    return [
        pump(),
        hose("hose-a", "pump", **LARGE),
        tool("tool-a", p.first, "hose-a"),
        tool("tool-b", _second(p)),
        gauge("tool-b"),
    ]


def _single_port(p: Ports) -> Parts:
    return [
        pump(),
        hose("hose-a", "pump"),
        tool("tool-a", p.first, "hose-a"),
        tool("tool-b", None, "tool-a", "side"),
        gauge("tool-b"),
    ]


def _from_tee(p: Ports, first: dict[str, Any], second: dict[str, Any]) -> Parts:
    return [
        pump(),
        {"kind": "tee", "id": "tee", "on": "pump"},
        hose("hose-a", "tee", "a", **first),
        hose("hose-b", "tee", "b", **second),
        tool("tool-a", p.first, "hose-a"),
        tool("tool-b", _second(p), "hose-b"),
    ]


def _two_hoses(p: Ports) -> Parts:
    return [*_from_tee(p, LARGE, VACUUM), gauge("tool-b", "side")]


def _three_tools(p: Ports) -> Parts:
    return [*_from_tee(p, LARGE, VACUUM), tool("tool-c", None, "tool-b", "side"), gauge("tool-c")]


def _manifold(p: Ports, body: str, inlet: str, on: tuple[str, str], tools: bool = True, **more: Any) -> Parts:
    sides = (("a", p.first, on[0]), ("b", p.second, on[1]))
    parts: Parts = [
        pump(),
        hose("hose-p", "pump", **more.get("pump_hose", VACUUM)),
        {"kind": "manifold", "id": "manifold", "on": "hose-p", "body": body, "inlet": inlet},
    ]
    for letter, port, place in sides:
        if port is None or not place:
            continue
        fields = dict(more.get("hose", QUARTER))
        if tools:
            parts.append(hose(f"hose-{letter}", "manifold", place, **{**fields, "depressor": False}))
            parts.append(tool(f"tool-{letter}", port, f"hose-{letter}"))
        else:
            parts.append({**hose(f"hose-{letter}", "manifold", place, **fields), "port": port.id, "fits": port.size})
    return parts


def _four_port_gauge_at_manifold(p: Ports) -> Parts:
    return [*_manifold(p, "four-port", "vacuum", ("low", "high")), gauge("manifold", "sensor")]


def _four_port_gauge_on_tool(p: Ports) -> Parts:
    return [*_manifold(p, "four-port", "vacuum", ("low", "high")), gauge("tool-a", "side")]


def _four_port_as_tee(p: Ports) -> Parts:
    rig = _manifold(p, "four-port", "vacuum", ("low", "high"), hose=VACUUM)
    return [*rig, tool("tool-c", None, "tool-b", "side"), gauge("tool-c")]


def _two_valve(p: Ports) -> Parts:
    return [*_manifold(p, "two-valve", "centre", ("low", "high")), gauge("tool-b", "side")]


def _quarter_hoses(p: Ports) -> Parts:
    bare = {**QUARTER, "depressor": False}
    return [*_from_tee(p, bare, bare), gauge("tool-b", "side")]


def _cylinder_on_fourth(p: Ports) -> Parts:
    ball = {**QUARTER, "ball_end": True}
    rig = _manifold(p, "four-port", "vacuum", ("low", "high"), tools=False, hose=ball)
    return [
        *rig,
        hose("hose-c", "manifold", "charge", **{**ball, "depressor": False}),
        {"kind": "cylinder", "id": "cylinder", "on": "hose-c", "on_scale": True},
        gauge("manifold", "sensor"),
    ]


def _low_side_only(p: Ports) -> Parts:
    return _manifold(Ports(p.first, None, None), "two-valve", "centre", ("low", ""), tools=False, pump_hose=QUARTER)


def _pump_on_high_place(p: Ports) -> Parts:
    return [*_manifold(p, "two-valve", "high", ("low", "centre"), tools=False), gauge("manifold", "sensor")]


def _far_gauge(p: Ports) -> Parts:
    return [
        pump(),
        hose("hose-a", "pump", **LARGE),
        tool("tool-a", p.first, "hose-a"),
        tool("tool-b", p.third or _second(p)),
        gauge("tool-b"),
    ]


def _commercial(p: Ports) -> Parts:
    return [*_from_tee(p, HUGE, HUGE), tool("tool-c", _third(p)), gauge("tool-c")]


PATTERNS: dict[str, Pattern] = {
    p.key: p
    for p in (
        Pattern(
            key="one-hose-bare-gauge",
            ports=2,
            build=_one_hose_gauge_on_port,
            cores_in=(1,),
        ),
        Pattern(
            key="one-hose-valved-gauge",
            ports=2,
            build=_one_hose_gauge_valved,
        ),
        Pattern(
            key="single-port",
            ports=1,
            build=_single_port,
        ),
        Pattern(
            key="two-hoses",
            ports=2,
            build=_two_hoses,
        ),
        Pattern(
            key="three-tools",
            ports=2,
            build=_three_tools,
        ),
        Pattern(
            key="four-port-sensor",
            ports=2,
            build=_four_port_gauge_at_manifold,
        ),
        Pattern(
            key="four-port-tool-gauge",
            ports=2,
            build=_four_port_gauge_on_tool,
        ),
        Pattern(
            key="four-port-as-tee",
            ports=2,
            build=_four_port_as_tee,
        ),
        Pattern(
            key="two-valve",
            ports=2,
            build=_two_valve,
        ),
        Pattern(
            key="quarter-hoses",
            ports=2,
            build=_quarter_hoses,
        ),
        Pattern(
            key="cylinder-ready",
            ports=2,
            build=_cylinder_on_fourth,
            cores_in=(0, 1),
        ),
        Pattern(
            key="low-side-dial",
            ports=1,
            build=_low_side_only,
            cores_in=(0,),
        ),
        Pattern(
            key="pump-on-high",
            ports=2,
            build=_pump_on_high_place,
            cores_in=(0, 1),
        ),
        Pattern(
            key="far-gauge",
            ports=2,
            build=_far_gauge,
        ),
        Pattern(
            key="commercial",
            ports=3,
            build=_commercial,
        ),
    )
}


def ports_for(scope: Scope, wanted: int) -> Ports | None:
    """Which ports a pattern takes: suction first, then the far side; None where the system has too few."""
    rank = {"suction": 0, "other": 2, "discharge": 1, "liquid": 1}
    ordered = sorted(scope.ports, key=lambda p: rank[p.side])
    if len(ordered) < max(1, wanted):
        return None
    first = ordered[0]
    rest = [p for p in ordered[1:] if p.section != first.section] or ordered[1:]
    if wanted >= 3:
        rest = sorted(rest, key=lambda p: p.side != "discharge")
        others = [p for p in ordered[1:] if p is not rest[0]]
        return Ports(first, rest[0], others[0])
    others = [p for p in ordered[1:] if rest and p is not rest[0]]
    return Ports(first, rest[0] if rest else None, others[0] if others else None)


def fits(key: str, scope: Scope) -> bool:
    """Whether the system has ports enough for the pattern."""
    return ports_for(scope, PATTERNS[key].ports) is not None


def rig_from(key: str, scope: Scope) -> Rig:
    """The pattern as a rig on this system's ports. Raises KeyError for an unknown pattern, ValueError if it cannot be.

    A port whose size is not the usual one gets its adapter or a tool of the right size.
    """
    pattern = PATTERNS[key]
    ports = ports_for(scope, pattern.ports)
    if ports is None:
        raise Fault(message("setup-needs-ports", setup=pattern.name, count=pattern.ports, there=len(scope.ports)))
    turn = (ports.first, ports.second, ports.third)
    cores = [port.id for n, port in enumerate(turn) if port is not None and n in pattern.cores_in and port.core]
    return Rig.model_validate({"pattern": key, "parts": pattern.build(ports), "cores_in": cores})


def usual_setups(scope: Scope) -> tuple[str, ...]:
    """Setups that a new sheet starts from, the first that fits. A cylinder's second valve stays free for the sweep."""
    alone = all(s.kind == "cylinder" for s in scope.sections)
    return ("single-port",) if alone else ("one-hose-valved-gauge", "single-port")


def first_rig() -> dict[str, Any]:
    """The rig of a new sheet: one hose to the suction port, the gauge with its tool on the liquid port."""
    ports = Ports(Port(id="suction", section="suction"), Port(id="liquid", section="liquid", side="liquid"), None)
    return {"pattern": "one-hose-valved-gauge", "parts": _one_hose_gauge_valved(ports)}
