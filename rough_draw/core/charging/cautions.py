"""Cautions that apply to a job, each by its key; what earlier versions kept of a ticked one is its text."""

from __future__ import annotations

from collections.abc import Collection

from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.message import Message, message
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


def caution_keys(scope: Scope) -> list[str]:
    """Keys of the cautions that apply. Local code and the maker's instructions come last, and first of all."""
    found = ["power", "protection", "nitrogen"]
    safety = REFRIGERANTS[scope.refrigerant].safety
    if safety in ("A2L", "A3"):
        found.append(safety.lower())
    if scope.condition == "compressor-burnt":
        found.append("burnout")
    if scope.coldest_c <= 0:
        found.append("ice")
    return [*found, "local-codes"]


def caution(key: str, refrigerant: str) -> Message:
    """A caution of that key."""
    return message(f"caution-{key}", refrigerant=refrigerant)


def cautions(scope: Scope) -> list[Message]:
    """Cautions that apply to this job."""
    return [caution(key, scope.refrigerant) for key in caution_keys(scope)]


def ticked(key: str, refrigerant: str, acknowledged: Collection[str]) -> bool:
    """Whether a caution was ticked, by this version or an earlier one.

    >>> ticked("power", "R-448A", ["power"]), ticked("ice", "R-448A", ["power"])
    (True, False)
    """
    return key in acknowledged or EARLIER[key].format(refrigerant) in acknowledged
