"""What a sheet as it is told leads to expect of a job: the same rig and system drawn as long, with nothing wrong."""

from __future__ import annotations

from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.practice.action_kinds import PutRigOn
from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.sheet.criteria import chosen
from rough_draw.standins.practice.bay import Bay

WORTH = 0.5
"""Share of the standard's limit from which water is worth a word."""


def still_wet(bay: Bay) -> bool:
    """Whether, by the sheet and the time it was drawn, water is still to be expected in it: what a plan goes by."""
    told = bay.told
    plain = Bay(Scenario(key="as-told", sheet=told), bay.van)
    began = max((d.at for d in bay.done if isinstance(d.action, PutRigOn)), default=0.0)
    plain.do("pump-on")
    plain.advance(plain.time + bay.time - began)
    if plain.isolation.tubes:
        plain.do("isolate")
    plain.do("pump-off")
    return plain.hold_truth().water * MICRON_PA > WORTH * chosen(told.criterion).limit
