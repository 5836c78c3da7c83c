"""Bench notes: small answers that need no job. Each names its relations as `docs/physics.md` calls them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from pydantic import Field, field_validator

from rough_draw.core.catalogue import tube
from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.catalogue.rig_parts import HOSE_SIZES
from rough_draw.core.charging.charge import grams_per_year
from rough_draw.core.message import Fault, Name, listed, message
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.steady import solve_steady
from rough_draw.core.model.system import line_volume
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import ATMOSPHERE_PA, MICRON_PA, PA_PER, atmosphere_at, celsius, kelvin, micron
from rough_draw.core.physics.water import boiling_point, saturation_pressure
from rough_draw.core.planning.plan import time_to_target
from rough_draw.core.sheet.base import Sheet
from rough_draw.core.sheet.criteria import NEEDLE_PA
from rough_draw.core.sheet.job import CriterionChoice, Job
from rough_draw.core.sheet.rig import Rig
from rough_draw.core.sheet.scope import Scope

TRIPLE_PA = 611.657
"""Triple point of water, Pa (IAPWS): under it there is ice or vapour, no liquid."""
LOWEST_C, HIGHEST_C = -60.0, 100.0


@dataclass(frozen=True, kw_only=True)
class PressureNote:
    """One pressure in every unit, Pa inside; where water boils (or ice goes to vapour) at it, °C; below the atmosphere.

    ``boils_c`` is None outside -60 to 100 °C. ``depth_inhg`` and ``depth_psi`` are below ``atmosphere`` Pa.
    """

    pa: float
    units: dict[str, float]
    boils_c: float | None
    state: Literal["boils", "sublimes"]
    atmosphere: float
    depth_inhg: float
    depth_psi: float


def pressure_note(pa: float, atmosphere: float = ATMOSPHERE_PA) -> PressureNote:
    """A pressure in every unit, with the boiling point of water at it. ``pa`` absolute, Pa, over 0."""
    if not pa > 0:
        raise Fault(message("note-no-pressure"))
    low, high = saturation_pressure(kelvin(LOWEST_C)), saturation_pressure(kelvin(HIGHEST_C))
    boils = celsius(boiling_point(pa)) if low <= pa <= high * 1.001 else None
    depth = max(0.0, atmosphere - pa)
    return PressureNote(
        pa=pa,
        units={unit: pa / per for unit, per in PA_PER.items()},
        boils_c=boils,
        state="boils" if pa >= TRIPLE_PA else "sublimes",
        atmosphere=atmosphere,
        depth_inhg=depth / PA_PER["inhg"],
        depth_psi=depth / PA_PER["psi"],
    )


def water_curve(step_c: float = 1.0) -> list[tuple[float, float, bool]]:
    """The curve of water: °C, Pa, and whether it is ice there. From -60 to 100 °C."""
    return [
        (float(t), saturation_pressure(kelvin(float(t))), bool(t < 0.0))
        for t in np.arange(LOWEST_C, HIGHEST_C + 0.5 * step_c, step_c)
    ]


class HoseRow(Sheet):
    """One way to hook up: hoses of a size and length, one or two of them, cores out (through a tool) or left in."""

    size: str = "3/8 in"
    length_m: float = Field(1.5, gt=0.05, le=30)
    count: int = Field(1, ge=1, le=2)
    cores_in: bool = False

    @field_validator("size")
    @classmethod
    def _known(cls, size: str) -> str:
        if size not in HOSE_SIZES:
            raise ValueError(f"no hose of size '{size}'; choose one of {', '.join(HOSE_SIZES)}")
        return size


@dataclass(frozen=True)
class HoseNote:
    """A hook-up's answer: speed at the port at the target, m³/s, as a share of the pump's; seconds to the target.

    ``seconds`` is None where it is not reached in a day. ``worst`` is the part that holds it back, with its share.
    """

    speed: float
    pump_share: float
    seconds: float | None
    worst: Name
    worst_share: float


def hose_job(row: HoseRow, cfm: float, volume_l: float, target: float) -> Job:
    """A dry vessel with two ports, evacuated by one hook-up."""
    ports = [{"id": n, "section": "vessel", "side": "suction", "name": f"{n} port"} for n in ("first", "second")]
    vessel = {"id": "vessel", "kind": "vessel", "volume_l": volume_l, "name": "vessel", "cold": True}
    scope = Scope.model_validate(
        {"sections": [vessel], "links": [], "ports": ports, "condition": "new-dry", "oil_kg": 0.0, "ambient_c": 20.0}
    )
    parts: list[dict[str, object]] = [{"kind": "pump", "id": "pump", "plate_cfm": cfm}]
    if row.count == 2:
        parts.append({"kind": "tee", "id": "tee", "on": "pump"})
    for n, port in enumerate(("first", "second")[: row.count]):
        hose: dict[str, object] = {"kind": "hose", "id": f"hose-{n}", "size": row.size, "length_m": row.length_m}
        hose |= {"on": "tee", "at": "ab"[n]} if row.count == 2 else {"on": "pump"}
        if row.cores_in:
            parts.append({**hose, "port": port, "depressor": True, "made_for": "vacuum"})
        else:
            parts += [hose, {"kind": "tool", "id": f"tool-{n}", "on": f"hose-{n}", "port": port}]
    rig = Rig.model_validate({"parts": parts, "cores_in": ["first", "second"][: row.count] if row.cores_in else []})
    criterion = CriterionChoice(school="makers-own", target_micron=max(1.0, micron(target)))
    return Job(scope=scope, rig=rig, criterion=criterion)


def hose_notes(rows: Sequence[HoseRow], cfm: float, volume_l: float, target: float) -> list[HoseNote]:
    """Hook-ups side by side on one pump (CFM), one dry volume (l) and one target (Pa)."""
    found = []
    for row in rows:
        job = hose_job(row, cfm, volume_l, target)
        steady = solve_steady(assemble(job), target)
        worst = max(steady.parts, key=lambda p: p.share)
        found.append(HoseNote(steady.speed, steady.pump_share, time_to_target(job), worst.label, worst.share))
    return found


def dilution_left(low: float, high: float, times: int) -> list[float]:
    """Share of the first gas and vapour left after each break from ``low`` to ``high`` Pa: (p_low/p_high)^n."""
    if not 0 < low < high:
        raise Fault(message("note-dilution-order"))
    return [(low / high) ** n for n in range(1, times + 1)]


@dataclass(frozen=True)
class AltitudeNote:
    """The air here, Pa; what a dial shows at the target, inHg below it; one ± of the dial, µ; the least in psi.

    ``boils_c``: where water boils in the open here.
    """

    atmosphere: float
    dial_inhg: float
    dial_blind_micron: float
    least_psi: float
    boils_c: float


def altitude_note(target: float, elevation_m: float = 0.0, barometer_pa: float | None = None) -> AltitudeNote:
    """What a dial gauge can say at an elevation (m) or a barometer's pressure (Pa) of a target (Pa)."""
    air = barometer_pa if barometer_pa is not None else atmosphere_at(elevation_m)
    blind = NEEDLE_PA / MICRON_PA
    depth = (air - target) / PA_PER["inhg"]
    return AltitudeNote(air, depth, blind, air / PA_PER["psi"], celsius(boiling_point(air)))


LeakForm = Literal["micron-s", "pa-m3-s", "mbar-l-s", "g-year"]


@dataclass(frozen=True)
class LeakNote:
    """One leak in every form: µ/s in the volume, Pa·m³/s, mbar·l/s, and grams a year out, as a range."""

    micron_s: float
    pa_m3_s: float
    mbar_l_s: float
    g_year: Range


def leak_note(value: float, form: LeakForm, volume_l: float, refrigerant: str, ambient_c: float = 20.0) -> LeakNote:
    """A leak from one form to the others. The way out is linear in the way in, so grams are turned back by division.

    Raises ValueError for a refrigerant that is not known.
    """
    if refrigerant not in REFRIGERANTS:
        raise Fault(message("note-no-refrigerant", refrigerant=refrigerant, known=listed(list(REFRIGERANTS))))
    scope = Scope(refrigerant=refrigerant, ambient_c=ambient_c, coldest_c=min(ambient_c, 20.0))
    per_gram = grams_per_year(Range(1.0, 1.0, 1.0), scope).value
    volume = volume_l * 1e-3
    into = {
        "micron-s": value * MICRON_PA * volume,
        "pa-m3-s": value,
        "mbar-l-s": value * 0.1,
        "g-year": value / per_gram if per_gram else 0.0,
    }[form]
    grams = grams_per_year(Range(into, into, into), scope)
    return LeakNote(into / volume / MICRON_PA, into, into * 10.0, grams)


class LineRow(Sheet):
    """One copper line: its size and length."""

    size: str = "3/8 in"
    length_m: float = Field(10.0, gt=0, le=500)

    @field_validator("size")
    @classmethod
    def _known(cls, size: str) -> str:
        tube.bore(size)
        return size


def line_notes(rows: Sequence[LineRow]) -> list[Range]:
    """Internal volumes of lines, m³, with the tolerance of their walls."""
    return [Range(v.low, v.value, v.high) for v in (line_volume(r.size, r.length_m) for r in rows)]
