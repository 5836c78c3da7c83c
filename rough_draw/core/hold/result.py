"""What a hold says, as values: the verdict with its figures, and what was known beside the readings."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.hold.binning import Data
from rough_draw.core.hold.decision import OpenQuestion, VerdictName
from rough_draw.core.hold.hypotheses import DRAWN
from rough_draw.core.hold.posterior import Reading
from rough_draw.core.message import Message, message
from rough_draw.core.physics.interval import Range
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import ATMOSPHERE_PA
from rough_draw.core.sheet import criteria

FloatArray = NDArray[np.float64]
ACCOUNT_OF: dict[VerdictName, tuple[str, ...]] = {
    "leak": ("leak",),
    "moisture": ("moisture", "slow"),
    "leak-and-moisture": ("leak-and-moisture",),
    "refrigerant": ("refrigerant",),
    "hose": ("hose",),
}


@dataclass(frozen=True, kw_only=True)
class Circumstances:
    """What the sheet knows of a hold beside its readings.

    ``hose`` Pa·m³/s let in by hoses that are held with the system; ``drawn`` s of pumping before; ``touches`` s since
    the first reading at which something was touched; ``wetness`` scales the odds of water, ``ran`` those of
    refrigerant in its oil; ``gauge_inside`` whether the gauge reads what is held, ``offset`` Pa how far it stands above
    the system; ``atmosphere`` Pa of the place.
    """

    hose: Quantity | None = None
    drawn: float = DRAWN
    touches: tuple[float, ...] = ()
    ran: float = 1.0
    wetness: float = 1.0
    gauge_inside: bool = True
    offset: float = 0.0
    atmosphere: float = ATMOSPHERE_PA


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """What the hold says. Leak Pa·m³/s, rates µ/s, water g, levels Pa, times s since the first reading.

    ``sound`` whether the hold may end now, ``sound_at`` since when, ``wait`` s until it will if it goes on as the
    likeliest account has it. ``slope`` is how fast it rises now; ``detection`` the smallest leak that could not
    have been missed.
    """

    verdict: VerdictName
    probability: float
    odds: dict[str, float]
    leak: Range
    rate: Range
    slope: Range
    rising: bool
    moisture: Range
    ahead: tuple[tuple[float, Range], ...]
    detection: float
    plateau: Range
    open: tuple[OpenQuestion, ...]
    sound: bool
    sound_at: float | None
    wait: float | None
    criteria: tuple[criteria.Outcome, ...]
    span: float
    why: Message | None = None
    readings: tuple[Reading, ...] = ()
    data: Data | None = None
    inflate: float = 1.0
    saturation: float = 0.0
    limit: float = 0.0
    first: float = 0.0
    peak: float = 0.0

    @property
    def sentence(self) -> Message:
        """The verdict in a sentence."""
        return message(f"verdict-{self.verdict}")

    def best(self) -> Reading | None:
        """The model that explains the hold best, of an account that the verdict names where there is one."""
        named = [r for r in self.readings if r.name in ACCOUNT_OF.get(self.verdict, (r.name,))]
        return max(named or self.readings, key=lambda r: r.weight, default=None)

    def accounts(self) -> list[tuple[Reading, float]]:
        """The best model of every account with the account's share of all odds, the likeliest first."""
        found: dict[str, tuple[Reading, float]] = {}
        for r in self.readings:
            best, share = found.get(r.name, (r, 0.0))
            found[r.name] = (r if r.weight > best.weight else best, share + r.weight)
        return sorted(found.values(), key=lambda x: x[1], reverse=True)

    def residuals(self) -> tuple[FloatArray, FloatArray, FloatArray]:
        """What the best account leaves over: times s, left Pa, and one standard error Pa."""
        best = self.best()
        data = self.data
        if data is None or best is None:
            none = np.zeros(0)
            return none, none, none
        left = data.pressure - best.curve(data.time, float(data.time[-1]))
        return data.time, left, data.sigma * float(np.sqrt(self.inflate))
