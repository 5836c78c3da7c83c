"""Charge to weigh: what of it is the unit's own, and grams a year from a leak."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.catalogue import tube
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import adder as adder_words
from rough_draw.core.message.figure import length as length_of
from rough_draw.core.message.figure import mass
from rough_draw.core.model.system import atmosphere_of
from rough_draw.core.physics.gas import M_AIR, R, viscosity_air, viscosity_refrigerant
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.leak_path import outward_viscous
from rough_draw.core.physics.refrigerant import saturated_below
from rough_draw.core.physics.units import kelvin
from rough_draw.core.sheet.scope import Scope

YEAR_S = 365.25 * 86_400.0


Way = Literal["unit-charge", "cylinder"]
PartKey = Literal["nameplate", "line", "accessories", "held"]
FILL_SHARE = 0.8
"""Of a recovery cylinder's inner volume that liquid may take at the most, at the temperature it is filled at."""


@dataclass(frozen=True)
class ChargePart:
    """One item of a charge, kg: negative where it is taken off."""

    what: PartKey
    kg: float


@dataclass(frozen=True, kw_only=True)
class Charge:
    """Charge to weigh in, kg, the items it is made of, the way it goes in, and how it comes about in words."""

    to_weigh: float
    words: Message
    parts: tuple[ChargePart, ...]
    way: Way


def line_adder(name: str, size: str, temperature: float = 308.15) -> float:
    """Liquid that a metre of full line holds, kg/m: density at ``temperature`` K (35 °C) × π/4 d².

    What makers give as adder by line size is this, rounded; theirs wins where it is known.
    """
    return saturated_below(name, temperature).liquid_density * 0.25 * math.pi * tube.bore(size) ** 2


def keeps_charge(scope: Scope) -> bool:
    """Whether a section keeps its refrigerant."""
    return any(s.holds_charge for s in scope.sections)


def held_in_unit(scope: Scope) -> float:
    """What the unit holds, kg: as typed; where nothing was typed and a section keeps its charge, the nameplate."""
    if scope.held_in_unit_kg > 0.0 or not keeps_charge(scope):
        return scope.held_in_unit_kg
    return scope.nameplate_kg or 0.0


def extra_length(scope: Scope) -> float:
    """Liquid line beyond what the nameplate includes, m; negative where it is shorter."""
    return sum(x.length_m for x in scope.lines("liquid")) - scope.included_length_m


def adder_of_line(scope: Scope) -> tuple[float | None, Message]:
    """Refrigerant a metre of liquid line, kg/m, as typed or worked out from the line's own sizes; and how it came.

    None where it was not typed and nothing is known to work it out from.
    """
    lines = scope.lines("liquid")
    if scope.adder_g_per_m is not None:
        kg_m = scope.adder_g_per_m * 1e-3
        return kg_m, message("adder-typed", adder=adder_words(kg_m))
    if not lines:
        return 0.0, message("adder-no-line")
    if not scope.fluid.tabled:
        return None, message("adder-unknown", refrigerant=scope.refrigerant)
    length = sum(x.length_m for x in lines)
    kg_m = sum(line_adder(scope.refrigerant, x.size) * x.length_m for x in lines) / length
    return kg_m, message("adder-by-density", adder=adder_words(kg_m), refrigerant=scope.refrigerant)


def charge_to_weigh(scope: Scope) -> Charge | None:
    """Charge to weigh in, kg, with what the unit holds taken off; None without a nameplate.

    Nameplate + (liquid line − included length) × adder + accessories − what the unit holds. Where a section keeps its
    charge, that is the nameplate: only the adder and accessories are left, never the nameplate again. An adder left
    open is worked out from the liquid that each line size holds (needs the property library).
    """
    return charge_by(scope, "unit-charge" if keeps_charge(scope) else "cylinder")


def charge_by(scope: Scope, way: Way) -> Charge | None:
    """Charge to weigh in by a way, kg: None where the sheet does not say enough.

    By the unit's own charge a line shorter than the included length takes nothing off: what is in the unit is in.
    """
    held = held_in_unit(scope)
    by_unit = way == "unit-charge" and keeps_charge(scope)
    if scope.nameplate_kg is None and not (by_unit and scope.included_length_m > 0.0):
        return None
    extra_m = extra_length(scope)
    adder, how = adder_of_line(scope)
    if adder is None and extra_m != 0.0:
        return None
    adder = adder or 0.0
    extra = max(0.0, extra_m * adder) if by_unit else extra_m * adder
    accessories = scope.accessories_g * 1e-3
    parts = [
        ChargePart("nameplate", scope.nameplate_kg or 0.0),
        ChargePart("line", extra),
        ChargePart("accessories", accessories),
        ChargePart("held", -held),
    ]
    if held == (scope.nameplate_kg or 0.0):
        # All of it goes in by the unit's own valves.
        parts = [p for p in parts if p.what in ("line", "accessories")]
    total = max(0.0, sum(p.kg for p in parts))
    words = message(
        "charge-sum",
        nameplate=mass(scope.nameplate_kg or 0.0),
        sign="plus" if extra >= 0 else "minus",
        extra=mass(abs(extra)),
        line=message("charge-line-more" if extra_m >= 0 else "charge-line-less", length=length_of(abs(extra_m))),
        adder=how,
        accessories=message("charge-accessories", mass=mass(accessories)) if accessories else "",
        held=message("charge-held", mass=mass(held)) if held else "",
    )
    return Charge(to_weigh=total, words=words, parts=tuple(p for p in parts if p.kg), way=way)


def why_no_charge(scope: Scope) -> Message:
    """What is missing where `charge_to_weigh` has no figure: the nameplate, or what a line takes."""
    if scope.nameplate_kg is not None or (keeps_charge(scope) and scope.included_length_m > 0.0):
        return adder_of_line(scope)[1]
    return message("charge-no-nameplate")


def recovery_limit(refrigerant: str, volume_l: float, kelvin_hot: float = 327.15) -> float:
    """Most refrigerant, kg, that a recovery cylinder of ``volume_l`` litres may take.

    80 % of its volume of liquid as dense as it is at ``kelvin_hot`` (54 °C, 130 °F, as cylinders are rated), so that
    a warm day does not fill it with liquid. Near the critical point the densest state known is taken.
    """
    return FILL_SHARE * volume_l * 1e-3 * saturated_below(refrigerant, kelvin_hot).liquid_density


def grams_per_year(leak: Range, scope: Scope) -> Range:
    """Refrigerant lost, g/year, through a path that lets ``leak`` Pa·m³/s of air into vacuum.

    Viscous path: Q_out/Q_in = (p_h² − p_a²)/p_a² · η_air/η_ref; molecular path: (p_h − p_a)/p_a · √(M_air/M_ref).
    The truth lies between; both bounds are carried, at the saturation pressure at 40 °C and at 20 °C ambient
    (about 0.6 of it). Estimate.
    """
    ref = scope.fluid
    atmosphere = atmosphere_of(scope)
    t = kelvin(scope.ambient_c)
    ratio_eta = viscosity_air(t) / viscosity_refrigerant(t)

    def lost(q_in: float, p: float, viscous: bool) -> float:
        if p <= atmosphere:
            return 0.0
        if viscous:
            out = outward_viscous(q_in, p, atmosphere) * ratio_eta
        else:
            out = q_in * (p - atmosphere) / atmosphere * (M_AIR / ref.molar_mass) ** 0.5
        return out * ref.molar_mass / (R * t) * 1000.0 * YEAR_S

    high = ref.pressure_40c.value
    usual = least = 0.6 * high
    if not ref.tabled:
        least, high = 0.6 * ref.pressure_40c.low, ref.pressure_40c.high
    return Range(lost(leak.low, least, False), lost(leak.value, usual, True), lost(leak.high, high, True))


def empty_after(yearly_g: Range, charge_kg: float | None) -> Range | None:
    """Seconds until a loss, g/year, has emptied a charge, kg; None where either is not known.

    >>> round(empty_after(Range(500.0, 1000.0, 2000.0), 1.0).value / YEAR_S, 2)
    1.0
    """
    if charge_kg is None or yearly_g.low <= 0.0:
        return None
    whole = 1000.0 * charge_kg * YEAR_S
    return Range(whole / yearly_g.high, whole / yearly_g.value, whole / yearly_g.low)
