"""Bench notes: converters and comparers that need no job, words, schools, cautions, and the physics they rest on."""

from __future__ import annotations

from pathlib import Path

from fastapi import APIRouter, HTTPException

from rough_draw.api.deps import range_out
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
from rough_draw.core.advice import calculators
from rough_draw.core.advice.cord import CordAnswer, check
from rough_draw.core.advice.glossary import GLOSSARY
from rough_draw.core.charging.charge import cautions
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import kelvin
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet.criteria import SCHOOLS, Criterion
from rough_draw.core.sheet.rig import Cord, PumpPart
from rough_draw.core.sheet.scope import Scope

router = APIRouter(tags=["notes"])
PHYSICS = Path(__file__).parents[3] / "docs" / "physics.md"
ALWAYS = (
    "Isolate first, pump off second. A stopped pump lets its air and oil back.",
    "Positive pressure before any core goes back or anything comes off a port.",
    "Close the gauge off before refrigerant comes, or know that it will be fouled.",
    "Hold nitrogen is let off to 0 gauge before a pump or a micron gauge is connected.",
    "Liquid into the liquid line, never to the compressor.",
)


@router.post("/notes/pressure")
def pressure(body: PressureIn) -> PressureOut:
    """A pressure in every unit, with the boiling point of water at it; or the pressure at which water boils at a °C."""
    pa = body.pa if body.boils_c is None else saturation_pressure(kelvin(body.boils_c))
    if pa is None:
        raise HTTPException(422, "give a pressure (pa) or a temperature (boils_c)")
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
    except ValueError as e:
        raise HTTPException(422, str(e)) from None


@router.post("/notes/cord")
def cord(body: CordIn) -> CordAnswer:
    """A cord judged for a pump."""
    pump = PumpPart(id="pump", plate_cfm=body.cfm, current_a=body.current_a)
    try:
        given = Cord(length_m=body.length_m, wire=body.wire, volts=body.volts)  # type: ignore[arg-type]
        return check(given, pump)
    except ValueError:
        raise HTTPException(422, f"no wire '{body.wire}'; write it as 14 AWG or 2.5 mm²") from None


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
    except ValueError as e:
        raise HTTPException(422, str(e)) from None
    return LeakOut(micron_s=n.micron_s, pa_m3_s=n.pa_m3_s, mbar_l_s=n.mbar_l_s, g_year=range_out(n.g_year))


@router.post("/notes/lines")
def lines(body: LinesIn) -> LinesOut:
    """What lines hold."""
    each = calculators.line_notes(body.rows)
    total = Range(sum(v.low for v in each), sum(v.value for v in each), sum(v.high for v in each))
    return LinesOut(each=[range_out(v) for v in each], total=range_out(total))


def _leaves(c: Criterion) -> str:
    """What a school lets stand, or cannot see."""
    if c.dial:
        return "Everything that a needle cannot see: recorded as unverified."
    if c.flat_rate is not None:
        return f"A leak under {c.flat_rate:g} µ/s; what has not levelled off yet is not passed."
    if c.breaks:
        return "Free water: it is not diluted, only warmed."
    return "A straight rise that stays under the limit for that long."


@router.get("/notes/pages")
def pages() -> PagesOut:
    """Words, schools and cautions."""
    return PagesOut(
        glossary=[WordOut(term=e.term, means=e.means, source=e.source) for e in GLOSSARY],
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
            for c in SCHOOLS.values()
        ],
        cautions=[*cautions(Scope(refrigerant="R-448A"))[:-1], *ALWAYS, cautions(Scope())[-1]],
    )


@router.get("/notes/physics")
def physics() -> TextOut:
    """The physics behind every figure, with its sources, as the project keeps it."""
    return TextOut(text=PHYSICS.read_text(encoding="utf-8"))
