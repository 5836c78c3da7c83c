"""Sheets that practice scenarios are made of: invented sites, systems, and the van of practice."""

from __future__ import annotations

from typing import Any

from rough_draw.core.practice.scenario import Before, Fault, Hidden
from rough_draw.core.sheet.job import CriterionChoice, Job, Party
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.scenarios.van import FIRM, KIT, cold_room, one_hose

VAN = tuple(KitItem(n, kind, name, values) for n, (kind, name, values) in enumerate(KIT, 1))
"""The van of practice: the same for everybody."""
LEARNER = {"firm": FIRM, "technician": "You"}
SITES = {
    "larkspur": ("Larkspur Flower Wholesale", "Auction Lane 4"),
    "hollow": ("Hollow Bank Mushrooms", "Growing shed B"),
    "saltmarsh": ("Saltmarsh Ferry Terminal", "Quay 1"),
}


def sheet(site: str, unit: str, scope: Scope, rig: Rig | None = None, school: str = "deep-and-flat") -> Job:
    """A sheet on an invented site; without a rig, a plain one that the learner replaces."""
    customer, place = SITES[site]
    chosen = CriterionChoice.model_validate({"school": school})
    party = Party(customer=customer, site=place, unit=unit, **LEARNER)
    # A sheet always has a rig; where none stands yet it is the plainest of the van's.
    on = rig if rig is not None else one_hose(scope)
    return Job(title=f"{customer.split()[0]} · {unit}", party=party, scope=scope, rig=on, criterion=chosen)


def room(**scope: Any) -> Scope:
    """A small cold room, its unit keeping the charge."""
    base: dict[str, Any] = {"condition": "new-dry", "ambient_c": 17.0, "coldest_c": 14.0, "oil_kg": 1.2}
    return cold_room(9.0, "7/8 in", "1/2 in", 14.0, **{**base, **scope})


def of_template(key: str, **scope: Any) -> Scope:
    """A whole system of the templates'."""
    t = TEMPLATES[key]
    values = t.build()
    kept = {s["id"] for s in values["sections"] if s.get("holds_charge")}
    for x in values["links"]:
        # As the sheet tells it everything stands open; a scenario hides what does not.
        if not {x["a"], x["b"]} & kept:
            x.update(open=True)
    return Scope.model_validate({"template": key, **values, **t.scope, "condition": "new-dry", **scope})


def short_lines() -> Scope:
    """Two short thin lines: hardly a fifth of a litre."""
    values = TEMPLATES["line-set"].build()
    for s in values["sections"]:
        s.update(size="3/8 in" if s["id"] == "suction" else "1/4 in", length_m=2.0)
    return Scope.model_validate({"template": "line-set", **values, "oil_kg": 0.0, "condition": "new-dry"})


def hidden(seed: int, *faults: Fault, shut: tuple[str, ...] = (), **unknowns: float) -> Hidden:
    """What is not told."""
    return Hidden(seed=seed, faults=faults, shut=shut, unknowns=unknowns)


def running(*more: tuple[str, float], ballast: bool = False) -> tuple[Before, ...]:
    """A pump that was started before the learner came."""
    first = (Before(kind="ballast-open"),) if ballast else ()
    return (*first, Before(kind="pump-on"), *(Before(kind=k, at_s=t) for k, t in more))
