"""The job sheet as values: what the technician brings. Version 2 of the job document.

Units are in the names. Everything has a sensible default, so that a sheet can be opened at any stage.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from rough_draw.core.sheet.alarms import USUAL, Alarm
from rough_draw.core.sheet.base import Long, Sheet, Slug, Text
from rough_draw.core.sheet.evidence import Prove
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope

School = Literal["code-minimum", "deep-and-flat", "two-limit", "single-deep", "triple", "makers-own", "dial-only"]


class Party(Sheet):
    """Who and where."""

    customer: Text = ""
    site: Text = ""
    unit: Text = ""
    firm: Text = ""
    technician: Text = ""
    licence: Text = ""


class CriterionChoice(Sheet):
    """The school followed, with its figures; None takes the school's own."""

    school: School = "deep-and-flat"
    also: School | None = None
    target_micron: float | None = Field(None, gt=0, le=20_000)
    limit_micron: float | None = Field(None, gt=0, le=20_000)
    hold_min: float | None = Field(None, gt=0, le=24 * 60)
    dwell_min: float | None = Field(None, ge=0, le=24 * 60)


class Running(Sheet):
    """Readings of the running system. Pressures kPa gauge, temperatures °C; ``at`` epoch s."""

    at: float | None = Field(None, ge=0, le=4e9)
    suction_kpa: float | None = Field(None, ge=-100, le=5000)
    suction_c: float | None = Field(None, ge=-90, le=120)
    liquid_kpa: float | None = Field(None, ge=-100, le=8000)
    liquid_c: float | None = Field(None, ge=-90, le=120)
    in_c: float | None = Field(None, ge=-90, le=120)
    out_c: float | None = Field(None, ge=-90, le=120)
    condensate: bool | None = None
    note: Long = ""


class PortCheck(Sheet):
    """A port looked at for leaks under its cap: how long, min, and whether it held."""

    minutes: float = Field(1.0, ge=0, le=600)
    tight: bool = True


class CylinderWeights(Sheet):
    """What a cylinder weighed before it was opened and after it was closed."""

    start_kg: float = Field(ge=0, le=5000)
    end_kg: float = Field(ge=0, le=5000)


class Release(Sheet):
    """How the vacuum is broken, and what was weighed in.

    ``interim_kg``: an ordinary scale's figures while it goes in, as they were read. ``earlier_cylinders`` stood on it
    before the one that ``start_kg`` and ``end_kg`` are of. ``recovered_kg`` of refrigerant was taken out before, into a
    cylinder of ``recovery_l`` litres.
    """

    way: Literal["unit-charge", "cylinder"] = "unit-charge"
    weighed_kg: float | None = Field(None, ge=0, le=2000)
    steps_done: tuple[Text, ...] = ()
    cores_new: int = Field(0, ge=0, le=40)
    port_checks: dict[Slug, Literal["bubble", "electronic", "both"]] = Field({}, max_length=20)
    port_results: dict[Slug, PortCheck] = Field({}, max_length=20)
    interim_kg: tuple[Annotated[float, Field(ge=0, le=5000)], ...] = Field((), max_length=100)
    recovered_kg: float | None = Field(None, ge=0, le=5000)
    recovery_l: float | None = Field(None, gt=0, le=2000)
    earlier_cylinders: tuple[CylinderWeights, ...] = Field((), max_length=40)
    start_kg: float | None = Field(None, ge=0, le=5000)
    end_kg: float | None = Field(None, ge=0, le=5000)
    cylinder_full_kg: float | None = Field(None, gt=0, le=2000)
    cylinder_tare_kg: float = Field(0.0, ge=0, le=2000)
    margin_pct: float = Field(5.0, ge=0, le=50)
    first: Running | None = None
    later: Running | None = None


class Closing(Sheet):
    """Signature and remarks."""

    signed_by: Text = ""
    signed_at: Text = ""
    remarks: Long = ""
    deviation: Long = ""
    signature: str = Field("", max_length=20_000, pattern=r"^[ML0-9 .]*$")
    acknowledged: tuple[Text, ...] = Field((), max_length=30)


class Alternative(Sheet):
    """Another rig for the same system, kept beside the chosen one to compare."""

    name: Text = ""
    rig: Rig = Rig()


class Plans(Sheet):
    """When the job is planned for, and what is packed for it."""

    start_at: float | None = Field(None, ge=0, le=4e9)
    packed: tuple[Text, ...] = Field((), max_length=100)


class Job(Sheet):
    """The whole sheet."""

    format: Literal["rough-draw/job"] = "rough-draw/job"
    version: Literal[2] = 2
    title: Text = ""
    party: Party = Party()
    scope: Scope = Scope()
    rig: Rig = Rig()
    aside: Annotated[tuple[Alternative, ...], Field(max_length=3)] = ()
    plans: Plans = Plans()
    criterion: CriterionChoice = CriterionChoice()
    habits: Habits = Habits()
    prove: Prove = Prove()
    alarms: Annotated[tuple[Alarm, ...], Field(max_length=12)] = USUAL
    release: Release = Release()
    closing: Closing = Closing()

    @model_validator(mode="before")
    @classmethod
    def _older(cls, values: Any) -> Any:
        """A sheet of version 1 is brought to version 2; one without a rig gets one that fits its system."""
        from rough_draw.core.sheet.job_v1 import is_version_1, to_version_2

        if not isinstance(values, dict):
            return values
        if is_version_1(values):
            values = to_version_2(values)
        return values if "rig" in values else {**values, "rig": _rig_for(values.get("scope"))}


def _rig_for(scope: Any) -> Any:
    """The first hook-up that the ports of this scope allow; the plain default where the scope itself is at fault."""
    from rough_draw.core.sheet.setups import fits, rig_from, usual_setups

    try:
        found = scope if isinstance(scope, Scope) else Scope.model_validate(scope or {})
    except ValueError:
        return Rig()
    return next((rig_from(k, found) for k in usual_setups(found) if fits(k, found)), Rig())
