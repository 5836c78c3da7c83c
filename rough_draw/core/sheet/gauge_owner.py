"""Whose readings they are: a series by what it is called, and the gauges of the sheet."""

from __future__ import annotations

from collections.abc import Mapping

from rough_draw.core.sheet.rig import Rig

AT_PUMP = "at-pump"
"""What stands for a gauge held to the pump for a look, which is on no sheet."""

DIAL = "dial"
"""What stands for a needle: a manifold's dial or a pump's own. It shows neither the last microns nor a small rise."""


def owner(rig: Rig, called: str) -> str | None:
    """The gauge that goes by a name or an id, or the only one there is; None where it may be either of several."""
    for g in rig.gauges:
        if called in (g.id, g.name) and called:
            return g.id
    return rig.gauges[0].id if len(rig.gauges) == 1 else None


def owners(rig: Rig, sizes: Mapping[str, int]) -> dict[str, str]:
    """Gauges of several series of one source, by their names and sizes.

    Those that go by a gauge's name are its own. Of the rest the one with most readings is the gauge that is read, if
    that has none yet: nobody carries two gauges and reads the other more.
    """
    found = {name: g.id for name in sizes for g in rig.gauges if name and name in (g.id, g.name)}
    left = [name for name in sizes if name not in found]
    read = rig.gauge
    if left and read is not None and read.id not in found.values():
        found[max(left, key=lambda n: sizes[n])] = read.id
    return found
