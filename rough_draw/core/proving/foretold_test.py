"""What a pressure test would show of leaks that are known from a vacuum."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue.proving import BUBBLES, TEST_KPA
from rough_draw.core.engine.network import Leak, Network
from rough_draw.core.physics.leak_path import outward_viscous, pressure_left
from rough_draw.core.proving.pressure_test import PressureTest, judge
from rough_draw.core.sheet.evidence import PressureReading, Prove


@dataclass(frozen=True)
class Tested:
    """A pressure test as it was read, what it says, and the leaks (by node) that soap shows bubbles at."""

    seen: PressureReading
    says: PressureTest
    bubbles: tuple[Leak, ...]


def wanted(prove: Prove) -> float:
    """The gauge pressure that is asked for, kPa: the sheet's, or the usual one."""
    return prove.test_wanted_kpa or TEST_KPA.value


def pressure_test(
    net: Network, inside: frozenset[str], kpa: float, celsius: float, step_kpa: float, minutes: float
) -> Tested:
    """Nitrogen at ``kpa`` over the air for ``minutes`` in the nodes ``inside``: what the gauge on it shows.

    Every leak of them lets out by the square of the pressure; the temperature stands. What is open to the air, or
    reaches a pump, holds no pressure at all.
    """
    volume = sum(n.volume for n in net.nodes if n.name in inside)
    leaks = [x for x in net.leaks if x.node in inside and x.throughput > 0.0]
    start = net.atmosphere + 1e3 * kpa
    ways_out = any(t.open and t.name.startswith("open.") and {t.a, t.b} & inside for t in net.tubes)
    is_open = ways_out or any(p.node in inside for p in net.pumps)
    end = (
        net.atmosphere
        if is_open
        else pressure_left(sum(x.throughput for x in leaks), start, net.atmosphere, volume, 60.0 * minutes)
    )
    shown = max(0.0, step_kpa * round((end - net.atmosphere) / 1e3 / step_kpa))
    seen = PressureReading(
        start_kpa=kpa, end_kpa=shown, start_c=celsius, end_c=celsius, minutes=minutes, step_kpa=step_kpa
    )
    found = tuple(x for x in leaks if outward_viscous(x.throughput, start, net.atmosphere) >= BUBBLES.value)
    return Tested(seen, judge(seen, volume, net.atmosphere), found)
