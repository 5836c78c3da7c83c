"""Bench notes: converters and comparers that need no job, words, schools, cautions, and the physics they rest on."""

from __future__ import annotations

from pathlib import Path

from fastapi import APIRouter, HTTPException

from rough_draw.api.deps import range_out
from rough_draw.api.errors import refusal
from rough_draw.api.notes.schemas import (
    AltitudeIn,
    AltitudeOut,
    CordIn,
    HoseAnswer,
    HosesIn,
    LeakIn,
    LeakOut,
    LinesIn,
    LinesOut,
    NitrogenIn,
    NitrogenOut,
    PagesOut,
    PressureIn,
    PressureOut,
    SchoolNote,
    TextOut,
    WaterOut,
    WordOut,
)
from rough_draw.api.plan.schemas import CordOut
from rough_draw.core.advice import calculators
from rough_draw.core.advice.cord import check
from rough_draw.core.advice.glossary import GLOSSARY
from rough_draw.core.charging.cautions import cautions
from rough_draw.core.message import Fault, Message, message
from rough_draw.core.message.figure import gauge_pressure, rise
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA, kelvin
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet.criteria import STANDARDS, Criterion
from rough_draw.core.sheet.rig import Cord, PumpPart
from rough_draw.core.sheet.scope import Scope
from rough_draw.text import say

router = APIRouter(tags=["notes"])
PHYSICS = Path(__file__).parents[3] / "docs" / "physics.md"
ALWAYS = ("isolate-first", "pressure-first", "gauge-off-first", "nitrogen-vented", "liquid-line")
"""Cautions of every job, by their keys."""


@router.post("/notes/pressure")
def pressure(body: PressureIn) -> PressureOut:
    """A pressure in every unit, with the boiling point of water at it; or the pressure at which water boils at a °C."""
    pa = body.pa if body.boils_c is None else saturation_pressure(kelvin(body.boils_c))
    if pa is None:
        raise refusal(422, "note-give-one")
    n = calculators.pressure_note(pa, body.atmosphere_pa)
    return PressureOut(
        pa=n.pa, units=n.units, boils_c=n.boils_c, state=n.state, depth_inhg=n.depth_inhg, depth_psi=n.depth_psi
    )


@router.get("/notes/water")
def water() -> WaterOut:
    """Water's curve, ice and liquid."""
    curve = calculators.water_curve()
    return WaterOut(
        c=[t for t, _, _ in curve],
        pa=[float(f"{p:.6g}") for _, p, _ in curve],
        ice=sum(ice for _, _, ice in curve),
        triple_pa=calculators.TRIPLE_PA,
    )


@router.post("/notes/hoses")
def hoses(body: HosesIn) -> list[HoseAnswer]:
    """Hook-ups side by side."""
    found = calculators.hose_notes(body.rows, body.cfm, body.volume_l, body.target_pa)
    return [
        HoseAnswer(
            speed_m3_s=n.speed, pump_share=n.pump_share, seconds=n.seconds, worst=n.worst, worst_share=n.worst_share
        )
        for n in found
    ]


@router.post("/notes/nitrogen")
def nitrogen(body: NitrogenIn) -> NitrogenOut:
    """What breaks with nitrogen leave."""
    try:
        return NitrogenOut(left=calculators.dilution_left(body.low_pa, body.high_pa, body.times))
    except Fault as e:
        raise HTTPException(422, say(e.told)) from None


@router.post("/notes/cord")
def cord(body: CordIn) -> CordOut:
    """A cord judged for a pump."""
    pump = PumpPart(id="pump", plate_cfm=body.cfm, current_a=body.current_a)
    try:
        given = Cord(length_m=body.length_m, wire=body.wire, volts=body.volts)  # type: ignore[arg-type]
        return CordOut.model_validate(check(given, pump))
    except (ValueError, LookupError):
        raise refusal(422, "cord-no-wire", wire=body.wire) from None


@router.post("/notes/altitude")
def altitude(body: AltitudeIn) -> AltitudeOut:
    """The air at an altitude, and what a dial says in it."""
    barometer = body.barometer_hpa * 100.0 if body.barometer_hpa is not None else None
    n = calculators.altitude_note(body.target_pa, body.elevation_m, barometer)
    return AltitudeOut(
        atmosphere_pa=n.atmosphere,
        dial_inhg=n.dial_inhg,
        dial_blind_micron=n.dial_blind_micron,
        least_psi=n.least_psi,
        boils_c=n.boils_c,
    )


@router.post("/notes/leak")
def leak(body: LeakIn) -> LeakOut:
    """A leak from one form to the others."""
    try:
        n = calculators.leak_note(body.value, body.form, body.volume_l, body.refrigerant, body.ambient_c)
    except Fault as e:
        raise HTTPException(422, say(e.told)) from None
    return LeakOut(micron_s=n.micron_s, pa_m3_s=n.pa_m3_s, mbar_l_s=n.mbar_l_s, g_year=range_out(n.g_year))


@router.post("/notes/lines")
def lines(body: LinesIn) -> LinesOut:
    """What lines hold."""
    each = calculators.line_notes(body.rows)
    total = Range(sum(v.low for v in each), sum(v.value for v in each), sum(v.high for v in each))
    return LinesOut(each=[range_out(v) for v in each], total=range_out(total))


def _leaves(c: Criterion) -> Message:
    """What a standard lets stand, or cannot see."""
    if c.dial:
        return message("leaves-dial")
    if c.flat_rate is not None:
        return message("leaves-flat", rate=rise(c.flat_rate * MICRON_PA))
    if c.breaks:
        return message("leaves-breaks")
    return message("leaves-rise")


@router.get("/notes/pages")
def pages() -> PagesOut:
    """Words, schools and cautions."""
    *usual, last = cautions(Scope(refrigerant="R-448A"))
    return PagesOut(
        glossary=[WordOut(key=e.key, term=e.term, also=e.also, means=e.means, source=e.source) for e in GLOSSARY],
        schools=[
            SchoolNote(
                key=c.key,
                name=c.name,
                rule=c.rule(),
                target_pa=c.target,
                limit_pa=c.limit,
                minutes=c.minutes,
                flat_rate=c.flat_rate,
                breaks=len(c.breaks),
                leaves=_leaves(c),
            )
            for c in STANDARDS.values()
        ],
        cautions=[*usual, *(message(f"caution-{one}", zero=gauge_pressure(0.0)) for one in ALWAYS), last],
    )


@router.get("/notes/physics")
def physics() -> TextOut:
    """The physics behind every figure, with its sources, as the project keeps it."""
    return TextOut(text=PHYSICS.read_text(encoding="utf-8"))
