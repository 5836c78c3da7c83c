"""The verdict in words a technician would use: the sentence, why, how likely, and where a school and the physics
part."""

from __future__ import annotations

from rough_draw.core.hold.decision import above_saturation
from rough_draw.core.hold.posterior import Reading
from rough_draw.core.hold.result import Verdict
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA, micron
from rough_draw.core.physics.water import TRIPLE_PA
from rough_draw.core.sheet.criteria import Outcome

NAMES = {
    "tight-and-dry": "tight and dry",
    "shallow": "tight, not deep enough",
    "leak": "leak",
    "moisture": "water",
    "leak-and-moisture": "leak and water",
    "refrigerant": "refrigerant from the oil",
    "hose": "hoses held with it",
}
"""Causes as the bars name them."""

LIKELY = (
    (0.99, "almost certain"),
    (0.9, "very likely"),
    (0.7, "likely"),
    (0.3, "possible"),
    (0.1, "unlikely"),
    (0.0, "very unlikely"),
)
"""Odds in the fixed words of the trade's reports: from this probability on. The figure stands beside them."""


def likely(odds: float) -> str:
    """A probability in words.

    Parameters
    ----------
    odds : float
        0 to 1.

    Returns
    -------
    str
        In words.

    Examples
    --------
    >>> likely(0.97)
    'very likely'
    """
    return next(words for least, words in LIKELY if odds >= least)


def _rate(x: float) -> str:
    return f"{x:.2f} µ/s" if x < 10 else f"{x:.1f} µ/s"


def _level(pa: float) -> str:
    return f"{micron(pa):,.0f} µ"


def reasons(v: Verdict) -> list[str]:
    """Why the verdict is what it is, one clause each, the weightiest first."""
    if v.why:
        return [v.why]
    found = _main(v)
    if "leak" in v.verdict and above_saturation(v.peak, v.first, v.saturation):
        found.append(
            f"above {_level(v.saturation)}, where water at the coldest spot stops, so water alone cannot do it"
        )
    if v.verdict in ("tight-and-dry", "shallow"):
        found.append(f"a leak of {_rate(v.detection)} or more could not have hidden")
    if "water" in v.open:
        found.append("whether water is in it too will show once it is tight")
    if "leak" in v.open:
        found.append(_hidden(v))
    return found


def _hidden(v: Verdict) -> str:
    """What is said of a leak that the rest of the rise may hide."""
    both = v.odds.get("leak-and-moisture", 0.0) + v.odds.get("leak", 0.0)
    if both >= 0.5:
        return f"it is {likely(both)} that it leaks too, under {_rate(v.detection)} ({both:.0%}); that shows when dry"
    return f"a leak under {_rate(v.detection)} would be hidden in it"


def _main(v: Verdict) -> list[str]:
    level, rate = v.plateau.value, v.rate.value
    if v.verdict == "tight-and-dry":
        if v.slope.value > 0.02:
            return [f"rises {_rate(v.slope.value)} and dies out, at about {_level(level)}, under the limit"]
        return [f"levels off at {_level(level)} with no straight rise left"]
    if v.verdict == "creeping":
        s = v.slope
        least = max(s.low, 0.0)
        return [
            f"creeps at {_rate(s.value)} ({least:.2f} to {s.high:.2f}); whether that dies out cannot be told yet",
            f"no more than {_rate(v.detection)} of it is a leak",
        ]
    if v.verdict == "shallow":
        return [f"levels off at {_level(level)}, over {_level(v.limit)}: gas that was left in it, or a little water"]
    if v.verdict == "leak":
        return [f"rises straight on at {_rate(rate)} once it has settled"]
    if v.verdict == "leak-and-moisture":
        return [f"a curved start from water on a straight rise of {_rate(rate)}"]
    if v.verdict == "moisture":
        return [_water(v)]
    if v.verdict == "refrigerant":
        return [
            f"rises {_rate(v.slope.value)}, slower and slower, as refrigerant leaves oil that was pumped on; "
            "a leak would not slow down"
        ]
    if v.verdict == "vapour":
        return [f"still rises {_rate(v.slope.value)} and bends: water or refrigerant, which look alike so far"]
    if v.verdict == "hose":
        return [f"rises {_rate(v.slope.value)}, no more than the hoses held with it let in"]
    return [_unsettled(v)]


def _water(v: Verdict) -> str:
    best = v.best()
    if best is not None and best.name == "slow":
        return f"creeps up at {_rate(v.slope.value)} and bends: water that oil or walls give up slowly"
    frozen = v.saturation < TRIPLE_PA
    share = v.plateau.value / v.saturation
    if share > 0.85:
        what = "ice" if frozen else "free water"
        over = "over ice at the coldest spot" if frozen else "where water boils at the coldest spot"
        return f"bends toward {_level(v.saturation)}, {over}: {what}"
    return f"bends toward {_level(v.plateau.value)}, over the limit and under saturation: bound water"


def _unsettled(v: Verdict) -> str:
    o = v.odds
    leaky = o["leak"] + o["leak-and-moisture"]
    wet = o["moisture"] + o["leak-and-moisture"]
    if leaky >= 0.95:
        return "it rises straight on, so it leaks; whether water is in it too is not clear yet"
    if leaky + o["refrigerant"] >= 0.95:
        return (
            "it rises on and on: a leak, or refrigerant that leaves the oil; "
            "a leak keeps its rate, refrigerant slows down"
        )
    if o["tight-and-dry"] < 0.05 and leaky + wet >= 0.9:
        return "still rising: leak and water look alike until the curve has bent; let it stand"
    if o["tight-and-dry"] >= 0.95:
        return f"flat so far, but a leak of up to {_rate(v.detection)} could still hide; let it stand"
    return "the curve has not shown yet whether it levels off; let it stand"


def account_words(v: Verdict, r: Reading) -> str:
    """One account with its own figures, as the trace names it."""
    end = v.span
    level = r.at(end, end, "level")[0]
    rate = float(r.beta[-1]) / MICRON_PA if r.rise is not None else 0.0
    if r.name == "dry":
        return f"settles, {_level(max(level, 0.0))}"
    if r.name == "leak":
        return f"straight, {_rate(rate)}"
    if r.name == "hose":
        return f"the hoses, {_rate(rate)}"
    if r.name == "slow":
        return f"water from oil, {_rate(r.at(end, end, 'slope')[0] / MICRON_PA)} now"
    if r.name == "refrigerant":
        return f"from oil, {_rate(r.at(end, end, 'slope')[0] / MICRON_PA)} now"
    water = f"water, toward {_level(max(level, 0.0))}"
    return water if r.name == "moisture" else f"{water}, and {_rate(rate)}"


def disagreements(v: Verdict, grams: Range) -> list[str]:
    """Where a school's own rule and the curve part, a sentence why. ``grams`` a year at working pressure."""
    passing = [o.name.lower() for o in v.criteria if o.passed]
    failing = [o for o in v.criteria if o.passed is False]
    found = []
    if passing and "leak" in v.verdict:
        bend = "" if v.verdict == "leak" else ", beside the water,"
        found.append(
            f"Passes {_and(passing)}, but rises {_rate(v.rate.value)}{bend} without bending: about "
            f"{mass(grams.value)} a year at working pressure."
        )
    elif passing and v.verdict in ("moisture", "refrigerant", "vapour"):
        hour = next((r for s, r in v.ahead if s == 3600.0), None)
        over = f": {_level(hour.value)} in an hour" if hour is not None and hour.value > v.limit else ""
        found.append(f"Passes {_and(passing)} within the minutes asked for, but rises on{over}.")
    elif passing and v.verdict in ("not-settled", "creeping"):
        found.append(f"{_and(passing).capitalize()} would pass it by now; the curve itself does not say so yet.")
    elif passing and v.verdict == "hose":
        found.append(
            f"Passes {_and(passing)}, but with hoses in it this hold cannot see a leak under {_rate(v.detection)}."
        )
    if failing and v.verdict == "tight-and-dry":
        for o in failing:
            found.append(f"Tight and dry by its curve, though {o.name.lower()} fails it: {o.reason}.")
    return found


def mass(grams: float) -> str:
    """Grams in two figures, kilograms from 1,000 on."""
    if grams >= 1000.0:
        return f"{grams / 1000.0:.2g} kg"
    return f"{float(f'{grams:.2g}'):g} g"


def _and(names: list[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def outcome_word(o: Outcome) -> str:
    """pass, fail or not yet."""
    return "passes" if o.passed else "not yet" if o.passed is None else "fails"
