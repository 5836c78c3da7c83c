"""Cautions that apply to a job, each by its key; what earlier versions kept of a ticked one is its text."""

from __future__ import annotations

from collections.abc import Collection

from rough_draw.core.message import Message, Value, message
from rough_draw.core.message.figure import absolute_pressure, temperature
from rough_draw.core.physics.refrigerant import saturated
from rough_draw.core.sheet.scope import Scope

EARLIER: dict[str, str] = {
    "power": "Power off, locked and proved dead; the compressor must not start in vacuum.",
    "protection": "Goggles, gloves, long sleeves; ventilate; lead the pump's exhaust outside.",
    "nitrogen": "Nitrogen only through a regulator with relief. Never air or oxygen.",
    "a2l": "{} is mildly flammable (A2L): no ignition source, a pump rated for it, purge before any flame.",
    "a3": "{} is flammable (A3): gas detector, rated pump and tools, no ignition source, purge before flame.",
    "burnout": "Burnt compressor: the oil is acid; gloves, and dispose of it as such.",
    "ice": "The coldest spot is at or under 0 °C: water in it is ice. Warm it before you trust a hold.",
    "local-codes": "Local codes, the maker's instructions and licensed practice come before anything shown here.",
}
"""What sheets of earlier versions have of a caution that was ticked: read for ever, written no more."""


STANDING_K = 293.15
TRIPLE_PA = 5.18e5
"""Triple point of carbon dioxide, 216.6 K (Span and Wagner 1996): liquid let down below it turns to dry ice."""
SPECIAL = {"R-744": "r-744", "R-717": "r-717", "R-123": "below-air", "R-1233zd(E)": "below-air", "R-245fa": "below-air"}
"""Refrigerants with a caution of their own."""


def caution_keys(scope: Scope) -> list[str]:
    """Keys of the cautions that apply. Local code and the maker's instructions come last, and first of all."""
    found = ["power", "protection", "nitrogen"]
    of = scope.fluid
    if of.flammable:
        # What burns is told by how readily, whether it is toxic too or not.
        found.append(f"a{of.safety[1:].lower()}")
    if of.toxic:
        found.append("toxic")
    found += [SPECIAL[of.name]] if of.name in SPECIAL else []
    if scope.condition == "compressor-burnt":
        found.append("burnout")
    if scope.coldest_c <= 0:
        found.append("ice")
    return [*found, "local-codes"]


def caution(key: str, refrigerant: str) -> Message:
    """A caution of that key."""
    values: dict[str, Value] = {"refrigerant": refrigerant}
    if key == "r-744":
        warm = saturated("R-744", STANDING_K)
        values |= {
            "standing": absolute_pressure(warm.bubble),
            "at": temperature(STANDING_K),
            "triple": absolute_pressure(TRIPLE_PA),
        }
    return message(f"caution-{key}", **values)


def cautions(scope: Scope) -> list[Message]:
    """Cautions that apply to this job."""
    return [caution(key, scope.refrigerant) for key in caution_keys(scope)]


def ticked(key: str, refrigerant: str, acknowledged: Collection[str]) -> bool:
    """Whether a caution was ticked, by this version or an earlier one.

    >>> ticked("power", "R-448A", ["power"]), ticked("ice", "R-448A", ["power"])
    (True, False)
    """
    return key in acknowledged or (key in EARLIER and EARLIER[key].format(refrigerant) in acknowledged)
