"""Reading the hold: leak, moisture, both, tight, or not settled; how sure; how much; and since when it was sound."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from rough_draw.core import criteria
from rough_draw.core.catalogue.quantity import Quantity
from rough_draw.core.gas import R_WATER
from rough_draw.core.holdfit import Account, Data, Fit, fit_account, least_rate, make_grid, misfit, thin
from rough_draw.core.units import MICRON_PA, micron
from rough_draw.core.water import saturation_pressure

FloatArray = NDArray[np.float64]

ALGORITHM = "hold-2"
SLOW = "moisture-slow"
"""Account of water that oil and walls give up slowly: moisture, or dry where it stays under the limit."""
SURE = 0.90
"""Probability from which a verdict is given; below it the hold is called not settled."""

VERDICTS = ("tight-and-dry", "leak", "moisture", "leak-and-moisture", "not-settled", "invalid")

SENTENCE = {
    "tight-and-dry": "Tight and dry",
    "leak": "It leaks",
    "moisture": "Water is still in it",
    "leak-and-moisture": "It leaks, and water is still in it",
    "not-settled": "Not settled yet",
    "invalid": "This hold cannot be judged",
}


@dataclass(frozen=True)
class Range:
    """An interval at 90 %: low, value, high."""

    low: float
    value: float
    high: float


@dataclass(frozen=True)
class Verdict:
    """What the hold says. Leak in Pa·m³/s, rates in µ/s, water in grams, times in s since isolation."""

    verdict: str
    probability: float
    odds: dict[str, float]
    leak: Range
    rate: Range
    moisture: Range
    sound_at: float | None
    detection: float
    plateau: Range
    criteria: tuple[criteria.Outcome, ...]
    fits: tuple[Fit, ...]
    reasons: tuple[str, ...]
    span: float

    @property
    def sentence(self) -> str:
        """The verdict in words."""
        return SENTENCE[self.verdict]

    def best(self) -> Fit | None:
        """The account that explains the hold best."""
        return max(self.fits, key=lambda f: f.log_evidence, default=None)


FAR_FROM = 3.0
"""Misfit from which a leak is also tried as seen from beyond a narrow way."""
FAR_SHARES = (0.015, 0.03, 0.06, 0.12)
"""Times of that way, as shares of the hold's span."""


def _accounts(data: Data, psat: float, limit: float) -> list[Account]:
    """The accounts, with priors that are stated in docs/physics.md.

    Settling: amplitude log-normal about 150 µ (a factor 3), within minutes. Moisture: a plateau between the
    limit and saturation, half of the time at saturation over the gas that was there.
    Saturation itself is uncertain by 4 % (½ K). Beside
    water given up slowly by oil looks straight at first: about 0.05 µ/s (a factor e), dying out. Beside
    water, a leak is only called one from 3.5 % of saturation over the span: evaporation is not known better.
    """
    m = MICRON_PA
    # What gas was left stands on top of the vapour.
    gas = float(data.pressure[0])
    top = psat * 1.04 + gas + 150 * m
    rate = least_rate(data)
    settle = {"median": 150 * m, "spread": 1.1, "tau_median": 90.0, "tau_spread": 1.0}
    wet = {"median": 0.4 * psat, "spread": 1.2, "saturation": psat + gas, "tau_median": 400.0, "tau_spread": 1.2}
    beside = max(rate, 0.035 * psat / data.span)
    high = max(limit * 1.02, 1.5 * limit)
    slow = {"slow_tau": 2.0 * data.span, "rate_median": 0.05 * m, "rate_spread": 1.0}
    return [
        Account("tight-and-dry", False, False, 0.0, limit, prior=0.5, **settle),
        Account("leak", True, False, 0.0, max(high, 1500 * m), prior=0.22, least_rate=rate, **settle),
        Account(SLOW, True, False, 0.0, max(high, 1500 * m), prior=0.2, least_rate=rate, **settle, **slow),
        Account("moisture", False, True, min(limit, 0.9 * top), top, prior=0.22, **wet),
        Account(
            "leak-and-moisture",
            True,
            True,
            min(limit, 0.9 * top),
            top,
            prior=0.06,
            least_rate=beside,
            rate_doubt=0.5 * beside,
            **wet,
        ),
    ]


def _judge(data: Data, psat: float, limit: float) -> tuple[dict[str, float], list[Fit]]:
    """Odds of the accounts and their fits. σ is inflated by what even the best account cannot explain."""
    accounts = _accounts(data, psat, limit)
    grids = {water: make_grid(data, water) for water in (False, True)}
    fits = [fit_account(data, a, grids[a.water], hopeless=0.0) for a in accounts]
    near = 40.0 * min(f.chi2 for f in fits) + 400.0
    fits = [fit_account(data, a, grids[a.water], hopeless=near) for a in accounts]
    inflate = misfit(data, fits)
    if inflate > FAR_FROM:
        # No account begins late enough: the gauge may sit beyond a metering device from where it leaks.
        plain = next(a for a in accounts if a.name == "leak")
        late = [replace(plain, far=data.span * share) for share in FAR_SHARES]
        tried = [(fit_account(data, a, grids[False], hopeless=near), a) for a in late]
        best, account = max(tried, key=lambda x: x[0].log_evidence)
        at = next(i for i, f in enumerate(fits) if f.name == "leak")
        if best.log_evidence > fits[at].log_evidence:
            fits[at], accounts[at] = best, account
            inflate = misfit(data, fits)
    if inflate > 1.05:
        fits = [fit_account(data, a, grids[a.water], inflate, near / inflate) for a in accounts]
    evidence = np.array([f.log_evidence for f in fits])
    p = np.exp(evidence - evidence.max())
    p /= p.sum()
    return {f.name: float(x) for f, x in zip(fits, p, strict=True)}, fits


def judge_hold(
    times: FloatArray,
    pressures: FloatArray,
    volume: Quantity,
    coldest: float,
    criterion: criteria.Criterion | None = None,
    schools: tuple[criteria.Criterion, ...] = tuple(criteria.SCHOOLS.values()),
    find_sound: bool = True,
) -> Verdict:
    """Judge a hold. ``times`` s since isolation, ``pressures`` Pa, ``volume`` m³ isolated, ``coldest`` K.

    The physical verdict uses ``criterion.limit`` only as the level that tells settling from water; each
    school's own rule stands beside it.
    """
    main = criterion or criteria.SCHOOLS["code-minimum"]
    psat = saturation_pressure(coldest)
    everyone = tuple(c for c in schools if c.key != main.key)
    outcomes = tuple(criteria.apply(c, times, pressures) for c in (main, *everyone))
    span = float(times[-1] - times[0]) if times.size else 0.0
    why = _unfit(times, pressures, span, volume)
    if why:
        zero = Range(0.0, 0.0, 0.0)
        return Verdict("invalid", 1.0, {}, zero, zero, zero, None, 0.0, zero, outcomes, (), (why,), span)
    limit = min(max(main.limit, 300 * MICRON_PA), 0.6 * psat)
    result = _verdict(times, pressures, volume, coldest, psat, limit, outcomes)
    if find_sound and result.verdict not in ("not-settled", "invalid"):
        result = replace(result, sound_at=_sound_since(times, pressures, volume, coldest, psat, limit, result))
    return result


def _unfit(times: FloatArray, pressures: FloatArray, span: float, volume: Quantity) -> str | None:
    if times.size < 6:
        return f"only {times.size} readings in the hold; at least 6 are needed"
    if span < 60.0:
        return f"the hold is {span:.0f} s long; at least 60 s are needed to tell a rise from settling"
    if float(pressures.max()) > 90_000.0:
        return "the pressure reached the atmosphere: a valve was opened or a joint let go"
    if volume.value < 5e-5:
        ml = volume.value * 1e6
        return f"the isolated volume is {ml:.0f} ml: too small to judge, any tool's seat shows hundreds of µ"
    return None


def _verdict(
    times: FloatArray,
    pressures: FloatArray,
    volume: Quantity,
    coldest: float,
    psat: float,
    limit: float,
    outcomes: tuple[criteria.Outcome, ...],
) -> Verdict:
    data = thin(times, pressures)
    every, fits = _judge(data, psat, limit)
    slow = next(f for f in fits if f.name == SLOW)
    # Water that comes off so slowly that it stays under the limit is what a dry system does.
    counts_as = "tight-and-dry" if slow.plateau + slow.rate * slow.slow_tau <= limit else "moisture"
    odds = {k: v + (every[SLOW] if k == counts_as else 0.0) for k, v in every.items() if k != SLOW}
    name = max(odds, key=lambda k: odds[k])
    mine = [f for f in fits if f.name == name or (name == counts_as and f.name == SLOW)]
    fit = max(mine, key=lambda f: every[f.name])
    leak_fit = fit if fit.rate > 0 and fit.name != SLOW else next(f for f in fits if f.name == "leak")
    probability = odds[name]
    reasons: list[str] = []
    span = float(times[-1] - times[0])
    detection = max(least_rate(data), 3.0 * (leak_fit.rate_high - leak_fit.rate_low) / 3.29)
    verdict = name if probability >= SURE else "not-settled"
    top = float(np.quantile(pressures, 0.98))
    if top > psat * 1.06 + float(pressures[0]) + 200 * MICRON_PA and name == "moisture":
        verdict = "leak"
        reasons.append(f"above {micron(psat):,.0f} µ, saturation at the coldest spot, so water alone cannot do it")
    leaky = odds["leak"] + odds["leak-and-moisture"]
    wet = odds["moisture"] + odds["leak-and-moisture"]
    if verdict == "not-settled":
        if leaky >= SURE:
            reasons.append("it rises straight on, so it leaks; whether water is in it too is not clear yet")
        elif wet >= SURE:
            reasons.append("water is in it; whether it leaks too is not clear yet")
        elif odds["tight-and-dry"] < 0.05:
            reasons.append("still rising: leak and water look alike until the curve has bent; let it stand")
        else:
            reasons.append("the curve has not shown yet whether it levels off; let it stand")
    if verdict == "tight-and-dry" and span < 300.0:
        verdict = "not-settled"
        reasons.append("flat so far, but under five minutes equalisation can hide a slow rise")
    reasons.extend(_account_words(verdict, fit, psat))
    has_leak = verdict in ("leak", "leak-and-moisture")
    r = (fit.rate_low, fit.rate, fit.rate_high) if has_leak else (0.0, 0.0, detection)
    leak = Range(r[0] * volume.low, r[1] * volume.value, r[2] * volume.high)
    return Verdict(
        verdict,
        probability,
        odds,
        leak,
        Range(*(x / MICRON_PA for x in r)),
        _moisture(verdict, fit, float(pressures[-1]), volume, coldest, psat),
        None,
        detection / MICRON_PA,
        Range(fit.plateau_low, fit.plateau, fit.plateau_high),
        outcomes,
        tuple(fits),
        tuple(reasons),
        span,
    )


def _account_words(verdict: str, fit: Fit, psat: float) -> list[str]:
    if verdict == "tight-and-dry" and fit.name == SLOW:
        return [f"creeps at {fit.rate / MICRON_PA:.2f} µ/s and dies out well under the limit"]
    if verdict == "tight-and-dry":
        return [f"levels off at {micron(fit.plateau):,.0f} µ with no straight rise left"]
    if verdict == "leak":
        return [f"rises straight on at {fit.rate / MICRON_PA:.2f} µ/s once it has settled"]
    if verdict == "moisture":
        if fit.name == SLOW:
            return [f"creeps up at {fit.rate / MICRON_PA:.2f} µ/s and bends: water that oil or walls give up slowly"]
        share = fit.plateau / psat
        if share > 0.85:
            return [f"bends toward {micron(psat):,.0f} µ, where water boils at the coldest spot: free water"]
        return [f"bends toward {micron(fit.plateau):,.0f} µ, over the limit and under saturation: bound water"]
    if verdict == "leak-and-moisture":
        return [f"a curved start from water on a straight rise of {fit.rate / MICRON_PA:.2f} µ/s"]
    return []


def _moisture(verdict: str, fit: Fit, now: float, volume: Quantity, coldest: float, psat: float) -> Range:
    """Water left, g, as vapour at the plateau. Near saturation liquid may stand behind it: then tenfold above."""
    if "moisture" not in verdict:
        return Range(0.0, 0.0, 0.0)
    per_pa = 1000.0 / (R_WATER * coldest)
    if fit.name == SLOW:
        given = fit.rate * fit.slow_tau * per_pa
        return Range(0.3 * given * volume.low, given * volume.value, 10.0 * given * volume.high)
    vapour = min(fit.plateau, psat) * volume.value * per_pa
    low = max(0.0, min(fit.plateau_low, now) - fit.p0) * volume.low * per_pa
    high = min(fit.plateau_high, 1.04 * psat) * volume.high * per_pa
    if fit.plateau > 0.85 * psat:
        high *= 10.0
    return Range(min(low, vapour), vapour, max(high, vapour))


def _sound_since(
    times: FloatArray,
    pressures: FloatArray,
    volume: Quantity,
    coldest: float,
    psat: float,
    limit: float,
    final: Verdict,
) -> float | None:
    """Earliest time, s, from which every longer look gave the final verdict, at 0.95 or better.

    Looks at growing parts of the hold, the longest first, until one disagrees.
    """
    if final.probability < 0.95:
        return None
    sound: float | None = None
    start = max(90.0, float(times[min(6, times.size - 1)]))
    looks = np.geomspace(start, final.span, 12) if final.span > start else np.array([final.span])
    for end in looks[::-1]:
        keep = times <= end + 1e-9
        if int(keep.sum()) < 6:
            break
        part = _verdict(times[keep], pressures[keep], volume, coldest, psat, limit, ())
        if part.verdict != final.verdict or part.probability < 0.95:
            break
        sound = float(end)
    return sound
