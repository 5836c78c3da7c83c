"""The hold: its verdict, and a quick one on a table of readings without a job."""

from __future__ import annotations

import numpy as np
from fastapi import APIRouter

from rough_draw.api import runs
from rough_draw.api.deps import Key, floats
from rough_draw.api.errors import refusal
from rough_draw.api.hold import holds
from rough_draw.api.hold.conversion import Beside, verdict_out
from rough_draw.api.hold.schemas import QuickIn, QuickOut, VerdictOut
from rough_draw.core.catalogue.fluids import REFRIGERANTS
from rough_draw.core.hold.leak_places import places
from rough_draw.core.hold.needle import judge_needle
from rough_draw.core.hold.quick_volume import volume_of
from rough_draw.core.hold.result import Circumstances
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.message import all_of, message
from rough_draw.core.physics.units import atmosphere_at, kelvin
from rough_draw.core.proving.assessment import known_in_the_hold
from rough_draw.core.readings import csv_table
from rough_draw.core.readings.downsampling import decimate
from rough_draw.core.readings.series import hold_begins
from rough_draw.core.sheet.criteria import STANDARDS
from rough_draw.core.sheet.scope import Scope
from rough_draw.core.sheet.templates import TEMPLATES

router = APIRouter(tags=["hold"])

SHOWN = 2000


@router.get("/jobs/{key}/verdict")
def verdict(key: Key) -> VerdictOut | None:
    """The verdict on the hold, with each school beside it; null where there is no hold yet."""
    run = runs.view(key)
    job = run.job
    judged = holds.judge(run)
    if judged is None:
        return None
    return verdict_out(
        judged.verdict,
        Beside(
            start=judged.start,
            volume=judged.volume,
            main=judged.criterion,
            scope=job.scope,
            held=judged.isolation,
            inside=judged.isolation.inside,
            known=(*judged.about_volume, *known_in_the_hold(job, judged.isolation, judged.volume.value)),
            places=places(job, judged.isolation),
            before=tuple(holds.earlier(run, judged.start)),
            digest=judged.inputs_hash,
            needle=judged.needle,
        ),
    )


@router.post("/hold")
def quick(body: QuickIn) -> QuickOut:
    """Read a hold from a table without a job. The volume is typed, or estimated from the kind of system."""
    for value, known, name in (
        (body.template, TEMPLATES, "template"),
        (body.refrigerant, REFRIGERANTS, "refrigerant"),
        (body.school, STANDARDS, "standard"),
    ):
        if value not in known:
            raise refusal(
                422, "quick-unknown", field=message(f"quick-of-{name}"), value=value[:40], known=", ".join(known)
            )
    air = atmosphere_at(body.elevation_m or 0.0)
    found = csv_table.read_table(body.text.encode("utf-8"), None, air, body.time_unit, body.day_first)
    if found.mapping.undecided:
        raise refusal(422, "quick-undecided", asked=all_of(found.guesses) or "")
    series = found.main()
    start = body.isolated_at_s if body.isolated_at_s is not None else hold_begins(series)
    if start is None:
        raise refusal(422, "quick-no-hold")
    t, p = series.slice(start)
    volume, words = volume_of(body.volume_l, body.template, body.capacity_kw, body.length_m)
    scope = Scope(
        template=body.template,
        refrigerant=body.refrigerant,
        coldest_c=body.coldest_c,
        ambient_c=max(body.coldest_c, 18.0),
    )
    main = STANDARDS[body.school]
    needle = None
    if series.dial:
        v, needle = judge_needle(t, p, volume, air, kelvin(scope.ambient_c), main)
    else:
        v = judge_hold(t, p, volume, kelvin(body.coldest_c), main, Circumstances(atmosphere=air))
    at, pa = decimate(t, p, SHOWN)
    seen = np.isfinite(pa)
    return QuickOut(
        verdict=verdict_out(v, Beside(start=0.0, volume=volume, main=main, scope=scope, inside=words, needle=needle)),
        rows=found.rows,
        over_range=found.over,
        guesses=list(found.guesses),
        columns=[s.label for s in found.series],
        hold_from_s=float(start),
        volume=words,
        at=floats(at[seen], 9),
        pa=floats(pa[seen]),
    )
