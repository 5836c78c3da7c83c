"""What really is in an isolated part: what would rise in it, and the right verdict on it."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.engine.compile import Compiled
from rough_draw.core.engine.network import Gas
from rough_draw.core.engine.run import State
from rough_draw.core.engine.simulate import advance
from rough_draw.core.physics.units import MICRON_PA

AHEAD = 20 * 60.0
"""Seconds that a hold is followed ahead to know what would rise in it."""
SLOW = 0.1
"""A rise, µ/s, under which a system counts as tight."""
NEVER = 50_000.0
"""A spot that stands over this, Pa, was never evacuated: no hold says anything of it."""
SHARE = 0.1
"""What is less than this share of the whole rise is not what is the matter."""


@dataclass(frozen=True, kw_only=True)
class HoldTruth:
    """What really is in the isolated part: rises in µ/s by leaks of the system and of the rig, µ in 20 minutes by water
    and refrigerant; ``covers``: whether it is all of the system, and the gauge in it; ``highest`` Pa anywhere.
    """

    leak: float
    rig: float
    water: float
    refrigerant: float
    covers: bool
    highest: float

    def verdicts(self, limit: float) -> tuple[str, ...]:
        """Right verdicts, the best first. ``limit`` Pa: what the school lets stand."""
        if not self.covers or self.highest > NEVER:
            return ("not-judged",)
        lots = 0.5 * limit / MICRON_PA
        rises = {
            "leak": self.leak * AHEAD,
            "rig": self.rig * AHEAD,
            "moisture": self.water,
            "refrigerant": self.refrigerant,
        }
        whole = sum(rises.values())
        worth = {
            "leak": self.leak > SLOW,
            "rig": self.rig > 2.0 * SLOW,
            "moisture": self.water > lots,
            "refrigerant": self.refrigerant > lots,
        }
        found = sorted((k for k in rises if worth[k] and rises[k] > SHARE * whole), key=lambda k: -rises[k])
        # A leak worth naming is named before what boils beside it, however much that is: who reads refrigerant or
        # water alone looks for no leak. Only a rig that leaks more comes first: until it is mended nobody can say.
        if "leak" in found and not ("rig" in found and self.rig > self.leak):
            return ("both",) if "moisture" in found else ("leak",)
        if found:
            # What boils dies out: where that ends under what the school lets stand, it is dry enough for it too.
            boils = (self.water + self.refrigerant) * MICRON_PA
            dry_enough = not {"leak", "rig"} & set(found) and max(boils, self.highest) <= limit
            return (found[0], "tight") if dry_enough else (found[0],)
        return ("tight",) if self.highest <= limit else ("not-judged",)


def hold_truth(compiled: Compiled, state: State, gauge: str, must: frozenset[str], highest: float) -> HoldTruth:
    """What would rise in the part that the ``gauge``'s node stands in, from ``state`` on.

    ``must``: nodes that have to be in it, for the hold to be one of the whole system.
    """
    net = compiled.network
    inside = net.connected(gauge)
    volume = sum(n.volume for n in net.nodes if n.name in inside)
    system = {n.name for n in net.nodes if n.group == "system"}
    leaks = [x for x in net.leaks if x.node in inside]
    of_rig = sum(x.throughput for x in leaks if x.node not in system)
    gassed = sum(o.at(state.time) for o in net.outgassing if o.node in inside and o.node not in system)
    run = advance(compiled, state, state.time + AHEAD, rtol=5e-3)
    i = net.index(gauge)
    stands = run.pressure[-1, i] / MICRON_PA
    per = volume * MICRON_PA
    return HoldTruth(
        leak=sum(x.throughput for x in leaks if x.node in system) / per,
        rig=(of_rig + gassed) / per,
        water=float(stands[Gas.WATER]),
        refrigerant=float(stands[Gas.REFRIGERANT]),
        covers=must <= inside,
        highest=highest,
    )
