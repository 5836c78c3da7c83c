"""A refrigerant that no table has: added by name, carried through every part, and silent on what needs saturation."""

from __future__ import annotations

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from pydantic import ValidationError

from rough_draw.core.advice.job_check import looked_over
from rough_draw.core.advice.packing_list import carry
from rough_draw.core.catalogue.fluids import REFRIGERANTS, UNTABLED_LIQUID
from rough_draw.core.charging.cautions import caution_keys
from rough_draw.core.charging.charge import charge_to_weigh, grams_per_year, line_adder, why_no_charge
from rough_draw.core.charging.superheat import Untabled, read_running
from rough_draw.core.charging.weighing import at_ambient, hose_holds
from rough_draw.core.interlock.orders import full_order
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.saturation import SATURATION
from rough_draw.core.planning.plan import plan_job
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.scope import AddedRefrigerant, Scope
from rough_draw.core.sheet.setups import fits, rig_from
from rough_draw.core.sheet.templates import TEMPLATES

NAME = "QX-31"


def scope(template: str = "cooler", **values: object) -> Scope:
    added = AddedRefrigerant.model_validate({"safety": "A2L", "molar_mass_g": 70.0, **values})
    return Scope(template=template, refrigerant=NAME, added=added, nameplate_kg=4.0)


def test_every_refrigerant_of_the_catalogue_has_its_table() -> None:
    assert set(REFRIGERANTS) == set(SATURATION)
    assert all(r.tabled for r in REFRIGERANTS.values())


def test_a_name_that_is_nowhere_is_refused_unless_it_is_described() -> None:
    with pytest.raises(ValidationError, match="refrigerant"):
        Scope(refrigerant=NAME)
    assert scope().fluid.name == NAME
    # What the catalogue knows it knows better.
    assert Scope(refrigerant="R-32", added=AddedRefrigerant(molar_mass_g=200)).fluid == REFRIGERANTS["R-32"]


@given(
    st.sampled_from(["A1", "A2L", "A2", "A3", "B1", "B2L", "B2", "B3"]),
    st.floats(20, 300),
    st.none() | st.floats(50, 12_000),
    st.sampled_from(sorted(TEMPLATES)),
    st.sampled_from(["three-tools", "two-hoses", "four-port-sensor", "cylinder-ready"]),
)
def test_it_goes_through_plan_orders_findings_and_what_to_carry(
    safety: str, molar: float, pressure: float | None, template: str, setup: str
) -> None:
    kept = scope(template, safety=safety, molar_mass_g=molar, pressure_40c_kpa=pressure)
    assume(fits(setup, kept))
    job = Job(scope=kept, rig=rig_from(setup, kept))
    plan_job(job, 2)
    codes = {f.code for f in looked_over(job)}
    assert "no-saturation" in codes
    assert carry(job)
    for goal in ("draw", "hold", "release-cylinder", "release-unit", "nitrogen-break", "retest"):
        full_order(job, goal)  # type: ignore[arg-type]
    keys = caution_keys(kept)
    assert ("toxic" in keys) == safety.startswith("B")
    assert (f"a{safety[1:].lower()}" in keys) == (not safety.endswith("1"))


def test_what_needs_saturation_says_that_there_is_none() -> None:
    kept = scope()
    assert at_ambient(kept.fluid, 293.15) is None
    with pytest.raises(Untabled):
        read_running(NAME, 5e5, 280.0, 15e5, 310.0)
    assert hose_holds(kept.fluid, 293.15, 0.1, liquid=True) == pytest.approx(1e-4 * UNTABLED_LIQUID.value)


def test_its_line_is_never_silently_nothing() -> None:
    open_one = scope()
    assert open_one.lines("liquid")
    assert charge_to_weigh(open_one) is None
    assert why_no_charge(open_one).key == "adder-unknown"
    typed = open_one.model_copy(update={"adder_g_per_m": 20.0})
    found = charge_to_weigh(typed)
    assert found is not None
    assert found.to_weigh == pytest.approx(0.02 * (open_one.lines("liquid")[0].length_m - open_one.included_length_m))
    assert line_adder("R-32", "3/8 in") > 0.0


def test_what_a_leak_costs_is_wider_than_of_a_known_one() -> None:
    leak = Range(1e-6, 1e-6, 1e-6)
    known = grams_per_year(leak, Scope(refrigerant="R-410A"))
    unknown = grams_per_year(leak, scope(safety="A1", molar_mass_g=72.6))
    assert math.log(unknown.high / max(unknown.low, 1e-12)) > math.log(known.high / known.low)
    # With its pressure typed it is as sure as any.
    told = grams_per_year(leak, scope(molar_mass_g=72.6, pressure_40c_kpa=2420.0))
    assert told.value == pytest.approx(known.value, rel=0.02)
