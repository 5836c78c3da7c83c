"""Charge to weigh, and grams a year from a leak."""

from __future__ import annotations

import math
from dataclasses import dataclass

from rough_draw.core.catalogue import tube
from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import adder as adder_of
from rough_draw.core.message.figure import length as length_of
from rough_draw.core.message.figure import mass
from rough_draw.core.model.system import atmosphere_of
from rough_draw.core.physics.gas import M_AIR, R, viscosity_air, viscosity_refrigerant
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.refrigerant import saturated
from rough_draw.core.physics.units import kelvin
from rough_draw.core.sheet.scope import Scope

YEAR_S = 365.25 * 86_400.0


@dataclass(frozen=True)
class Charge:
    """Charge, kg, and how it comes about in words."""

    to_weigh: float
    words: Message


def line_adder(name: str, size: str, temperature: float = 308.15) -> float:
    """Liquid that a metre of full line holds, kg/m: density at ``temperature`` K (35 °C) × π/4 d².

    What makers give as adder by line size is this, rounded; theirs wins where it is known.
    """
    return saturated(name, temperature).liquid_density * 0.25 * math.pi * tube.bore(size) ** 2


def charge_to_weigh(scope: Scope) -> Charge | None:
    """Charge to add, kg; None without a nameplate.

    Nameplate + (liquid line − included length) × adder + accessories − what the unit holds. An adder left open is
    worked out from the liquid that each line size holds (needs the property library).
    """
    if scope.nameplate_kg is None:
        return None
    lines = scope.lines("liquid")
    length = sum(x.length_m for x in lines)
    extra_m = length - scope.included_length_m
    if scope.adder_g_per_m is not None:
        adder, how = scope.adder_g_per_m * 1e-3, message("adder-typed", adder=adder_of(scope.adder_g_per_m * 1e-3))
    elif lines:
        adder = sum(line_adder(scope.refrigerant, x.size) * x.length_m for x in lines) / length
        how = message("adder-by-density", adder=adder_of(adder), refrigerant=scope.refrigerant)
    else:
        adder, how = 0.0, message("adder-no-line")
    extra = extra_m * adder
    total = max(0.0, scope.nameplate_kg + extra + scope.accessories_g * 1e-3 - scope.held_in_unit_kg)
    words = message(
        "charge-sum",
        nameplate=mass(scope.nameplate_kg),
        sign="plus" if extra >= 0 else "minus",
        extra=mass(abs(extra)),
        line=message("charge-line-more" if extra_m >= 0 else "charge-line-less", length=length_of(abs(extra_m))),
        adder=how,
        accessories=message("charge-accessories", mass=mass(scope.accessories_g * 1e-3)) if scope.accessories_g else "",
        held=message("charge-held", mass=mass(scope.held_in_unit_kg)) if scope.held_in_unit_kg else "",
    )
    return Charge(total, words)


def grams_per_year(leak: Range, scope: Scope) -> Range:
    """Refrigerant lost, g/year, through a path that lets ``leak`` Pa·m³/s of air into vacuum.

    Viscous path: Q_out/Q_in = (p_h² − p_a²)/p_a² · η_air/η_ref; molecular path: (p_h − p_a)/p_a · √(M_air/M_ref).
    The truth lies between; both bounds are carried, at the saturation pressure at 40 °C and at 20 °C ambient
    (about 0.6 of it). Estimate.
    """
    ref = REFRIGERANTS[scope.refrigerant]
    atmosphere = atmosphere_of(scope)
    t = kelvin(scope.ambient_c)
    ratio_eta = viscosity_air(t) / viscosity_refrigerant(t)

    def lost(q_in: float, p: float, viscous: bool) -> float:
        if p <= atmosphere:
            return 0.0
        if viscous:
            out = q_in * (p * p - atmosphere**2) / atmosphere**2 * ratio_eta
        else:
            out = q_in * (p - atmosphere) / atmosphere * (M_AIR / ref.molar_mass) ** 0.5
        return out * ref.molar_mass / (R * t) * 1000.0 * YEAR_S

    high = ref.pressure_40c.value
    usual = 0.6 * high
    return Range(lost(leak.low, usual, False), lost(leak.value, usual, True), lost(leak.high, high, True))
