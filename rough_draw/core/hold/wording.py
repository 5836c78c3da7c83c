"""The verdict as messages: the headline, why, how likely, and where a standard and the physics part."""

from __future__ import annotations

from rough_draw.core.hold.decision import LEAKS, above_saturation
from rough_draw.core.hold.posterior import Reading
from rough_draw.core.hold.result import Verdict
from rough_draw.core.message import Figure, Message, listed, message
from rough_draw.core.message.figure import duration, rise, share, throughput, vacuum
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.physics.water import TRIPLE_PA
from rough_draw.core.sheet.criteria import Outcome

LIKELY = (
    (0.99, "almost-certain"),
    (0.9, "very-likely"),
    (0.7, "likely"),
    (0.3, "possible"),
    (0.1, "unlikely"),
    (0.0, "very-unlikely"),
)
"""Odds in the fixed words of the trade's reports: from this probability on. The figure stands beside them."""
HEADLINE = 0.9
"""Odds from which a leak beside water is named in the headline."""


def likely(odds: float) -> Message:
    """A probability in words.

    Parameters
    ----------
    odds : float
        0 to 1.

    Returns
    -------
    Message
        One of six.

    Examples
    --------
    >>> likely(0.97).key
    'odds-very-likely'
    """
    return message(f"odds-{next(words for least, words in LIKELY if odds >= least)}")


def cause(name: str) -> Message:
    """A cause as the bars name it."""
    return message(f"cause-{name}")


def headline(v: Verdict) -> Message:
    """The verdict in a sentence; with it a leak that very likely stands beside water."""
    if needle_moved(v):
        return message("verdict-needle-moved")
    leaks = leak_beside(v)
    if leaks >= HEADLINE:
        return message("verdict-moisture-leak", likely=likely(leaks), odds=share(leaks))
    return v.sentence


def needle_moved(v: Verdict) -> bool:
    """Whether a hold that only a needle watched has been seen to fail."""
    return v.why is not None and v.why.key == "unfit-needle-moved"


def leak_beside(v: Verdict) -> float:
    """Odds that a system that is called wet leaks too; 0 where that is not the question."""
    if v.verdict != "moisture" or "leak" not in v.open:
        return 0.0
    return v.odds.get("leak-and-moisture", 0.0) + v.odds.get("leak", 0.0)


def _rate(micron_s: float) -> Figure:
    return rise(micron_s * MICRON_PA)


def reasons(v: Verdict) -> list[Message]:
    """Why the verdict is what it is, a sentence each, the weightiest first."""
    if v.why is not None:
        return [v.why]
    found = _main(v)
    if "leak" in v.verdict and above_saturation(v.peak, v.first, v.saturation):
        found.append(message("reason-above-saturation", level=vacuum(v.saturation)))
    if v.verdict in ("tight-and-dry", "shallow"):
        found.append(message("reason-none-hidden", rate=_rate(v.detection)))
    if "water" in v.open:
        found.append(message("reason-water-later"))
    if "leak" in v.open:
        found.append(_hidden(v))
    return found


def _hidden(v: Verdict) -> Message:
    """What is said of a leak that the rest of the rise may hide."""
    both = v.odds.get("leak-and-moisture", 0.0) + v.odds.get("leak", 0.0)
    if both >= 0.5:
        return message("reason-leaks-too", likely=likely(both), odds=share(both), rate=_rate(v.detection))
    return message("reason-leak-hidden", rate=_rate(v.detection))


def _main(v: Verdict) -> list[Message]:
    level, slope = vacuum(v.plateau.value), _rate(v.slope.value)
    if v.verdict == "tight-and-dry":
        if v.slope.value > 0.02:
            return [message("reason-dies-out", rate=slope, level=level)]
        return [message("reason-levels-off", level=level)]
    if v.verdict == "creeping":
        least, most = _rate(max(v.slope.low, 0.0)), _rate(v.slope.high)
        return [
            message("reason-creeps", rate=slope, low=least, high=most),
            message("reason-leak-at-most", rate=_rate(v.detection)),
        ]
    if v.verdict == "shallow":
        return [message("reason-shallow", level=level, limit=vacuum(v.limit))]
    if v.verdict in ("leak", "leak-and-moisture"):
        return [message(f"reason-{v.verdict}", rate=_rate(v.rate.value))]
    if v.verdict == "moisture":
        return [_water(v)]
    if v.verdict in ("refrigerant", "vapour", "hose"):
        return [message(f"reason-{v.verdict}", rate=slope)]
    return [_unsettled(v)]


def _water(v: Verdict) -> Message:
    best = v.best()
    if best is not None and best.name == "slow":
        return message("reason-slow-water", rate=_rate(v.slope.value))
    if v.plateau.value / v.saturation > 0.85:
        told = "reason-ice" if v.saturation < TRIPLE_PA else "reason-free-water"
        return message(told, level=vacuum(v.saturation))
    return message("reason-bound-water", level=vacuum(v.plateau.value))


def _unsettled(v: Verdict) -> Message:
    o = v.odds
    leaky = o["leak"] + o["leak-and-moisture"]
    wet = o["moisture"] + o["leak-and-moisture"]
    if leaky >= 0.95:
        return message("reason-leaks-water-unclear")
    if leaky + o["refrigerant"] >= 0.95:
        return message("reason-leak-or-refrigerant")
    if o["tight-and-dry"] < 0.05 and leaky + wet >= 0.9:
        return message("reason-leak-or-water")
    if o["tight-and-dry"] >= 0.95:
        return message("reason-flat-so-far", rate=_rate(v.detection))
    return message("reason-not-settled")


def account_words(v: Verdict, r: Reading) -> Message:
    """One cause with its own figures, as the trace names it."""
    end = v.span
    level = vacuum(max(r.at(end, end, "level")[0], 0.0))
    straight = rise(float(r.beta[-1])) if r.rise is not None else rise(0.0)
    if r.name == "dry":
        return message("account-dry", level=level)
    if r.name in ("leak", "hose"):
        return message(f"account-{r.name}", rate=straight)
    if r.name in ("slow", "refrigerant"):
        return message(f"account-{r.name}", rate=rise(r.at(end, end, "slope")[0]))
    return message(f"account-{r.name}", level=level, rate=straight)


def disagreements(v: Verdict) -> list[Message]:
    """Where a standard's own rule and the curve part, a sentence why."""
    passing = [o.name for o in v.criteria if o.passed]
    failing = [o for o in v.criteria if o.passed is False]
    if not passing:
        return _against(v, failing)
    names = listed(passing)
    found = []
    if "leak" in v.verdict:
        told = "parts-leak" if v.verdict == "leak" else "parts-leak-and-water"
        found.append(message(told, names=names, rate=_rate(v.rate.value)))
    elif v.verdict in ("moisture", "refrigerant", "vapour"):
        hour = next((r for s, r in v.ahead if s == 3600.0), None)
        if hour is not None and hour.value > v.limit:
            found.append(message("parts-rises-to", names=names, level=vacuum(hour.value)))
        else:
            found.append(message("parts-rises-on", names=names))
    elif v.verdict in ("not-settled", "creeping"):
        found.append(message("parts-too-early", names=names, count=len(passing)))
    elif v.verdict == "hose":
        found.append(message("parts-hoses", names=names, rate=_rate(v.detection)))
    return [*found, *_against(v, failing)]


def charge_loss(v: Verdict, volume: float, empty: Range | None) -> list[Message]:
    """What a leak would do to the charge, and what a hold of this ``volume`` m³ does not see.

    ``empty``: seconds until it has emptied the system at working pressure, where the charge is known. A hold in
    vacuum tells that only within months, so no grams stand here.
    """
    found = []
    if v.verdict in LEAKS:
        if empty is None:
            found.append(message("loss-charge-unknown"))
        else:
            found.append(message("loss-empties", soon=duration(empty.low), late=duration(empty.high)))
    if v.readings and v.detection > 0.0:
        found.append(message("loss-seen-from", leak=throughput(v.detection * MICRON_PA * volume)))
    return found


def _against(v: Verdict, failing: list[Outcome]) -> list[Message]:
    if v.verdict != "tight-and-dry":
        return []
    return [message("parts-fails", name=o.name, reason=o.reason) for o in failing]


def outcome_word(o: Outcome) -> Message:
    """pass, fail or not yet."""
    return message("outcome-passes" if o.passed else "outcome-not-yet" if o.passed is None else "outcome-fails")
