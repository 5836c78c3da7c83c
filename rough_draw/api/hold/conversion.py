"""Verdicts as the API says them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rough_draw.api.deps import floats, range_out
from rough_draw.api.hold.schemas import (
    AdviceOut,
    AheadOut,
    CurveOut,
    EarlierOut,
    NeedleOut,
    OddsOut,
    PlaceOut,
    ResidualsOut,
    StandardOut,
    VerdictOut,
)
from rough_draw.api.schemas import RangeOut
from rough_draw.core.charging.charge import empty_after, grams_per_year
from rough_draw.core.hold.advice import what_next
from rough_draw.core.hold.compare import Before, compared
from rough_draw.core.hold.leak_places import Place
from rough_draw.core.hold.needle import Needle
from rough_draw.core.hold.result import Verdict
from rough_draw.core.hold.verdict import ALGORITHM
from rough_draw.core.hold.wording import account_words, cause, charge_loss, disagreements, headline, likely, reasons
from rough_draw.core.message import Message, Name
from rough_draw.core.model.isolation import Isolation
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA, kelvin
from rough_draw.core.physics.water import saturation_pressure
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.scope import Scope

DRAWN_ODDS = 0.02
"""Accounts less likely than this are not drawn."""


def outcomes(v: Verdict, main: criteria.Criterion) -> list[StandardOut]:
    """The schools, the chosen one first, each with its rule."""
    rules = {**{k: c.rule() for k, c in criteria.STANDARDS.items()}, main.key: main.rule()}
    return [
        StandardOut(key=o.key, name=o.name, rule=rules[o.key], passed=o.passed, reason=o.reason) for o in v.criteria
    ]


def curves(v: Verdict, start: float) -> list[CurveOut]:
    """The accounts that are worth drawing, the likeliest first, carried on a fifth beyond the readings."""
    t = np.linspace(0.0, max(v.span, 60.0) * 1.2, 90)
    best = v.best()
    found = []
    for r, share in v.accounts():
        chosen = best is not None and r.name == best.name
        if r.name == "leak":
            # A straight rise may be laid to the hoses held, or be too small to count.
            share = min(share, v.odds["leak"])
        if share < DRAWN_ODDS and not chosen:
            continue
        pa = np.maximum(r.curve(t, v.span), 0.0)
        found.append(
            CurveOut(
                name=r.name,
                words=account_words(v, r),
                odds=share,
                best=chosen,
                at=floats(t + start, 14),
                pa=floats(pa),
            )
        )
    return found


@dataclass(frozen=True, kw_only=True)
class Beside:
    """What goes with a verdict: the volume m³ it is of, what was held, what is known of the rig, where to look, the
    holds before. ``start`` epoch s, or 0.
    """

    start: float
    volume: Quantity
    main: criteria.Criterion
    scope: Scope
    held: Isolation | None = None
    inside: Name = ""
    known: tuple[Message, ...] = ()
    places: tuple[Place, ...] = ()
    before: tuple[Before, ...] = ()
    digest: str = ""
    needle: Needle | None = None


def verdict_out(v: Verdict, b: Beside) -> VerdictOut:
    """A verdict with its words."""
    grams = grams_per_year(v.leak, b.scope)
    at, left, sigma = v.residuals()
    odds = sorted(v.odds.items(), key=lambda x: x[1], reverse=True)
    return VerdictOut(
        verdict=v.verdict,
        sentence=v.sentence,
        headline=headline(v),
        probability=v.probability,
        likely=likely(v.probability),
        odds=[OddsOut(key=k, name=cause(k), odds=x, words=likely(x)) for k, x in odds],
        leak_pa_m3_s=range_out(v.leak),
        rate_micron_s=range_out(v.rate),
        slope_micron_s=range_out(v.slope),
        rising=v.rising,
        grams_per_year=range_out(grams),
        moisture_g=range_out(v.moisture),
        plateau_pa=range_out(v.plateau),
        ahead=[AheadOut(seconds=s, pa=range_out(r)) for s, r in v.ahead],
        sound=v.sound,
        sound_at_s=v.sound_at,
        wait_s=v.wait,
        detection_micron_s=v.detection,
        loss=charge_loss(v, b.volume.value, empty_after(grams, b.scope.nameplate_kg)),
        span_s=v.span,
        started_at=b.start,
        limit_pa=b.main.limit,
        saturation_pa=v.saturation or saturation_pressure(kelvin(b.scope.coldest_c)),
        volume_l=_litres(b.volume),
        inside=b.inside,
        clear=b.held is None or (not b.held.hoses and b.held.gauge_inside and b.held.complete),
        criteria=outcomes(v, b.main),
        disagreements=disagreements(v),
        reasons=[*reasons(v), *b.known],
        curves=curves(v, b.start) if v.readings else [],
        residuals=ResidualsOut(at=floats(at + b.start, 14), pa=floats(left), sigma=floats(sigma)),
        advice=_advice(v, b),
        earlier=[_earlier(v, x) for x in b.before],
        needle=needle_out(b.needle, b.volume) if b.needle is not None else None,
        algorithm=ALGORITHM,
        inputs_hash=b.digest,
    )


def _advice(v: Verdict, b: Beside) -> AdviceOut:
    a = what_next(v, b.main, b.held)
    places = [PlaceOut(where=p.where, how=p.how) for p in b.places] if a.search else []
    return AdviceOut(order=a.order, why=a.why, also=list(a.with_it), stage=a.stage, places=places)


def _earlier(v: Verdict, b: Before) -> EarlierOut:
    return EarlierOut(
        started_at=b.start,
        check=b.check,
        minutes=b.verdict.span / 60.0,
        verdict=b.verdict.verdict,
        sentence=b.verdict.sentence,
        words=compared(v, b),
    )


def _litres(volume: Quantity) -> RangeOut:
    return range_out(volume.times(1000.0))


def needle_out(n: Needle, volume: Quantity) -> NeedleOut:
    """What a needle showed, and what it could have missed."""
    return NeedleOut(
        blind_pa=n.blind,
        leak_pa_m3_s=n.leak,
        rate_micron_s=n.leak / volume.value / MICRON_PA,
        water_g=n.water_g,
        minutes=n.seconds / 60.0,
        reads_pa=n.reads,
        first_pa=n.first,
        last_pa=n.last,
        moved=n.moved,
    )
