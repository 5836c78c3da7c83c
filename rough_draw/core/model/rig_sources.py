"""What the parts of a rig let in and give off: air through rubber, water out of rubber and seals, leaks of tools."""

from __future__ import annotations

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.engine.network import Gas, Leak, Outgassing
from rough_draw.core.physics.gas import R_WATER, T_REF
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.sheet.rig import HosePart, ManifoldPart, Part, ToolPart


def hose_volume(hose: HosePart) -> float:
    """What a hose holds, m³: π/4 d² l of its true bore."""
    halves = (hose.size, hose.size_far or hose.size)
    return sum(0.785 * cat.HOSE_BORE[size].value ** 2 * 0.5 * hose.length_m for size in halves)


def water_source(node: str, kg: float, tau: float, name: str) -> Outgassing:
    """Water that leaves rubber and seals, (m/τ) e^(−t/τ): kg and s, as a throughput at 20 °C."""
    return Outgassing(node=node, gas=Gas.WATER, steady=0.0, fresh=kg / tau * R_WATER * T_REF, tau=tau, name=name)


def hose_sources(hose: HosePart, z: float, read: Quantity | None = None) -> list[Outgassing]:
    """What a hose lets through and gives off, half at either end: air through its wall, water out of its rubber.

    ``read``: its inflow as the rig proof found it, Pa·m³/s, which then goes before the catalogue's.
    """
    ends = (f"{hose.id}.a", f"{hose.id}.b")
    if read is not None:
        half = 0.5 * read.quantile(z)
        return [Outgassing(node=end, gas=Gas.AIR, steady=half, name=hose.id) for end in ends]
    age = cat.OLD_RUBBER.quantile(z) if hose.age == "old" else 1.0
    half = 0.5 * hose.length_m
    steady = cat.HOSE_STEADY[hose.made_for].quantile(z) * half * age
    water = cat.HOSE_WATER[hose.made_for].quantile(z) * half * age
    found = []
    for end in ends:
        found.append(Outgassing(node=end, gas=Gas.AIR, steady=steady, name=hose.id))
        found.append(water_source(end, water, cat.RUBBER_TAU.value, hose.id))
        if hose.age == "new":
            found.append(water_source(end, cat.NEW_RUBBER.quantile(z) * half, cat.NEW_RUBBER_TAU.value, hose.id))
    return found


def manifold_sources(part: ManifoldPart, z: float) -> list[Outgassing]:
    """What a manifold's seals let in and give off."""
    steady = Outgassing(node=part.id, gas=Gas.AIR, steady=cat.MANIFOLD_STEADY.quantile(z), name=part.id)
    return [steady, water_source(part.id, cat.MANIFOLD_WATER.quantile(z), cat.RUBBER_TAU.value, part.id)]


def tool_sources(part: ToolPart, z: float) -> list[Outgassing]:
    """What a core tool's seals give off."""
    return [water_source(f"{part.id}.port-side", cat.TOOL_WATER.quantile(z), cat.RUBBER_TAU.value, part.id)]


def part_sources(part: Part, z: float, read: Quantity | None = None) -> list[Outgassing]:
    """What any part of a rig gives off."""
    if isinstance(part, HosePart):
        return hose_sources(part, z, read)
    if isinstance(part, ManifoldPart):
        return manifold_sources(part, z)
    return tool_sources(part, z) if isinstance(part, ToolPart) else []


def tool_leak(node: str, tool: ToolPart, z: float, humidity: float) -> Leak:
    """Air past the seals of a tool that is not made for vacuum."""
    return Leak(node, cat.TOOL_LEAK.quantile(z), humidity, tool.id)
