"""One look at a hold: the odds of each cause, the claims they allow, and whether the hold may end on them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from rough_draw.core.hold.binning import Data
from rough_draw.core.hold.evidence import Weighed, weigh
from rough_draw.core.hold.hypotheses import GOOD, Account
from rough_draw.core.hold.models import Basis, Setting
from rough_draw.core.hold.posterior import Reading, leak_bound, read, under
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA

SURE = 0.95
"""Probability from which a claim is made; below it the question stays open."""
SURE_BESIDE = 0.998
"""The same for a leak beside water."""
SOUND, SOUND_LEAK = 0.98, 0.995
SOUND_TIGHT = 0.15 * MICRON_PA
SOONEST = 180.0
"""Probabilities, detection limit Pa/s and s of hold from which a verdict may end it: it is looked at again and
again, so more is asked than at its end."""
SLOW_END = 30_000.0
"""s, by which what oil gives up slowly has come to its end."""
SATURATION_MOST = 1.2
"""Saturation at a coldest spot that is three kelvin warmer than was said, seen by a gauge that shows a little too
much."""
RUBBER_SEEN = 60.0
"""s into a hold at which a rise of vapour is held against what rubber gives: settling is over by then."""
MISSED = 1e-3
"""Chance at which a leak just above the detection limit may be called tight."""
TIGHT = 0.2 * MICRON_PA
"""Pa/s: "tight" is said only when no leak above this can hide."""

VerdictName = Literal[
    "tight-and-dry",
    "creeping",
    "shallow",
    "leak",
    "moisture",
    "leak-and-moisture",
    "refrigerant",
    "vapour",
    "hose",
    "not-settled",
    "unverified",
    "invalid",
]
VERDICTS: tuple[VerdictName, ...] = get_args(VerdictName)
LEAKS: tuple[VerdictName, ...] = ("leak", "leak-and-moisture")
OpenQuestion = Literal["water", "leak", "water or refrigerant", "gas or water"]
FINAL: tuple[VerdictName, ...] = (
    "tight-and-dry",
    "shallow",
    "leak",
    "moisture",
    "leak-and-moisture",
    "refrigerant",
    "hose",
)
"""Verdicts that may end a hold; the others ask for more time, or for another look."""


@dataclass(frozen=True, kw_only=True)
class Frame:
    """All that a hold is looked at with: its bins, the shapes on them, what is known beside, the accounts.

    ``limit`` Pa tells dry from wet; ``hose`` Pa/s is what hoses held with the system do.
    """

    data: Data
    basis: Basis
    setting: Setting
    accounts: tuple[Account, ...]
    limit: float
    hose: Quantity | None


@dataclass(frozen=True, kw_only=True)
class Look:
    """What a part of the hold says: verdict, how sure, odds by cause, detection limit Pa/s, open questions.

    ``slow``: water that it rests on comes off so slowly that more time may well read it otherwise.
    """

    verdict: VerdictName
    probability: float
    odds: dict[str, float]
    detection: float
    open: tuple[OpenQuestion, ...]
    span: float
    slow: bool = False

    @property
    def conclusive(self) -> bool:
        """Whether it names a cause."""
        return self.verdict != "not-settled"

    @property
    def sound(self) -> bool:
        """Whether the hold may end on it: a cause that more time would not change, more surely than is said at its
        end."""
        sure = self.probability >= (SOUND_LEAK if self.verdict in LEAKS else SOUND)
        seen = self.detection <= SOUND_TIGHT or self.verdict != "tight-and-dry"
        return self.verdict in FINAL and sure and seen and self.span >= SOONEST and not self.slow


def look(frame: Frame, bins: int | None = None, start: float = 0.0) -> tuple[Weighed, list[Reading], Look]:
    """Look at the first ``bins`` of a hold: the accounts weighed, solved, and the claims they allow.

    ``start`` as for `weigh`.

    An account that ends over the limit without water is a draw that was not deep enough.
    """
    weighed = weigh(frame.data, frame.basis, frame.setting, frame.accounts, bins, start)
    readings = read(weighed)
    end = float(weighed.data.time[weighed.bins - 1])
    odds = dict.fromkeys(("tight-and-dry", "shallow", "leak", "moisture", "leak-and-moisture", "refrigerant"), 0.0)
    if frame.hose is not None:
        odds["hose"] = 0.0
    for r in readings:
        for name, share in _causes(r, end, frame.limit, frame.hose):
            odds[name] += r.weight * share
    n = weighed.bins
    top = float(np.sort(frame.data.pressure[:n])[-max(1, n // 50) :].mean())
    if above_saturation(top, float(frame.data.pressure[0]), frame.setting.saturation):
        odds = without_water_alone(odds)
    detection = max(leak_bound(weighed, MISSED), 0.5 * GOOD)
    verdict, probability, left = claims(odds, detection)
    slow = sum(r.weight for r in readings if r.name == "slow")
    creeps = verdict == "moisture" and slow > 0.5 * odds["moisture"]
    return (
        weighed,
        readings,
        Look(
            verdict=verdict, probability=probability, odds=odds, detection=detection, open=left, span=end, slow=creeps
        ),
    )


def _causes(r: Reading, end: float, limit: float, hose: Quantity | None) -> list[tuple[str, float]]:
    """The causes that one model stands for, with its shares.

    Vapour that stays under the limit is what a dry system gives off; a straight rise too small to count is none, and
    one that hoses held with the system may make is laid to them.
    """
    if r.name == "hose":
        return [("hose", 1.0)]
    if r.name == "refrigerant":
        # It never quite ends; an hour on is where it counts.
        dry = under(*r.at(end + 3600.0, end), limit)
        return [("tight-and-dry", dry), ("refrigerant", 1.0 - dry)]
    if r.name == "slow":
        # Where it would end by itself: all that the oil still has to give.
        dry = under(*r.at(SLOW_END, end), limit)
        return _vapour(r, end, dry, hose)
    if r.name == "moisture" and not r.straight:
        return _vapour(r, end, under(*r.at(end, end, "level"), limit), hose)
    dry = under(*r.at(end, end, "level"), limit) if r.name != "leak" else 1.0
    over = "shallow" if r.name == "dry" else "moisture"
    if not r.straight:
        return [("tight-and-dry", dry), (over, 1.0 - dry)]
    rate, sd = float(r.beta[-1]), float(np.sqrt(max(r.cov[-1, -1], 0.0)))
    none = under(rate, sd, GOOD)
    hoses = max(0.0, under(rate, sd, hose.high) - none) if hose is not None else 0.0
    leak = 1.0 - none - hoses
    still = [("tight-and-dry", none * dry), ("moisture", none * (1.0 - dry))]
    found = [*still, ("leak", leak * dry), ("leak-and-moisture", leak * (1.0 - dry))]
    return [*found, ("hose", hoses * dry), ("moisture", hoses * (1.0 - dry))] if hose is not None else found


def _vapour(r: Reading, end: float, dry: float, hose: Quantity | None) -> list[tuple[str, float]]:
    """Vapour that comes off no faster than the rubber held with the system gives it may all be the rubber's."""
    hoses = under(*r.at(RUBBER_SEEN, end, "slope"), hose.high) if hose is not None else 0.0
    found = [("tight-and-dry", dry), ("moisture", (1.0 - dry) * (1.0 - hoses))]
    return [*found, ("hose", (1.0 - dry) * hoses)] if hose is not None else found


def above_saturation(top: float, first: float, saturation: float) -> bool:
    """Whether a level ``top`` Pa is more than water and the gas that stood there at ``first`` can make together.

    Parameters
    ----------
    top : float
        Pa reached.
    first : float
        Pa at the start.
    saturation : float
        Pa of water at the coldest spot.

    Returns
    -------
    bool
        True where it cannot be water.

    Examples
    --------
    >>> above_saturation(3000.0, 30.0, 1705.0)
    True
    >>> above_saturation(1700.0, 30.0, 1705.0)
    False
    """
    return top > SATURATION_MOST * saturation + first + 100 * MICRON_PA


def without_water_alone(odds: dict[str, float]) -> dict[str, float]:
    """Odds where water alone is out of the question, and with it all that only settles."""
    left = {k: (0.0 if k in ("moisture", "tight-and-dry", "shallow") else x) for k, x in odds.items()}
    whole = sum(left.values())
    return {k: x / whole for k, x in left.items()} if whole > 1e-12 else {**left, "leak": 1.0}


def claims(odds: dict[str, float], detection: float) -> tuple[VerdictName, float, tuple[OpenQuestion, ...]]:
    """The verdict that the odds allow, its probability, and the questions left open."""
    leaks = odds["leak"] + odds["leak-and-moisture"]
    wet = odds["moisture"] + odds["leak-and-moisture"]
    # Evaporation bends in more ways than one: beside water, a leak must stand out more clearly.
    beside = odds["leak-and-moisture"] > 0.1 * leaks
    if leaks >= (SURE_BESIDE if beside else SURE):
        if odds["leak-and-moisture"] >= SURE * leaks:
            return "leak-and-moisture", odds["leak-and-moisture"], ()
        return "leak", leaks, () if odds["leak-and-moisture"] <= (1.0 - SURE) * leaks else ("water",)
    if wet >= SURE:
        return "moisture", wet, () if odds["leak-and-moisture"] <= 1.0 - SURE else ("leak",)
    if leaks <= 1.0 - SURE:
        hose = odds.get("hose", 0.0)
        tight = odds["tight-and-dry"] + hose
        if tight >= SURE and hose > 0.3 * tight:
            return "hose", tight, ("leak",)
        if tight >= SURE and detection <= TIGHT:
            return "tight-and-dry", tight, ()
        if odds["refrigerant"] >= SURE:
            return "refrigerant", odds["refrigerant"], ()
        inside = wet + odds["refrigerant"]
        if inside >= SURE:
            return "vapour", inside, ("water or refrigerant",)
        over = odds["shallow"] + odds["moisture"]
        if over >= SURE:
            return "shallow", over, ("gas or water",)
    dry = odds["tight-and-dry"] + odds["leak"]
    if dry >= SURE and detection <= TIGHT:
        # Between good and a leak; whichever it is called, no more than the detection limit comes in.
        return "creeping", dry, ()
    return "not-settled", max(odds.values()), ()
