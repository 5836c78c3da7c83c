"""The accounts that compete for a hold, with their priors: what each is made of and how likely it is before any
reading.

Every account is a sum of known shapes with unknown amounts: a first level; a settling A (1 − e^(−t/τ₁)), which may
go either way, and also stands for the lag of gauge and way; vapour B (1 − e^(−t/τ₂)) where water evaporates toward
saturation; and one rise: straight for a leak or a hose, dying out for a hose's rubber, under a root for refrigerant
that diffuses out of oil which has been pumped on.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA

FloatArray = NDArray[np.float64]

STRAIGHT, WALLS, ROOT, DYING, RUBBER = "straight", "walls", "root", "dying", "rubber"


@dataclass(frozen=True, kw_only=True)
class Account:
    """One account: its prior odds, whether water evaporates in it, the shape of its rise, and that rise's prior.

    The rise is log-normal about ``median`` (Pa/s) with ``spread``.
    """

    name: str
    prior: float
    water: bool = False
    rise: str = ""
    median: float = 0.0
    spread: float = 1.0


LEAK_MEDIAN, LEAK_SPREAD = 0.8 * MICRON_PA, 2.2
"""Pa/s; leaks that are found in a hold, log-normal: from hundredths of a micron a second to tens."""
GOOD = 0.1 * MICRON_PA
"""Pa/s: no joint is perfectly tight; a straight rise under this counts as none."""
SETTLE_TAU, SETTLE_SPREAD = 45.0, 1.0
"""s; gas evens out through metering devices and cores, log-normal (a factor e)."""
WATER_TAU, WATER_SPREAD = 350.0, 1.1
"""s; evaporation toward saturation, log-normal."""
SATURATION_SPREAD = 0.05
"""Saturation is known by this share: the coldest spot by a kelvin."""
SCALES = ((40.0, 0.5), (160.0, 0.35))
"""Sizes of settling, µ, with their prior odds; the rest is a tenth of the whole rise."""
WALLS_TAU = 2500.0
"""s; what walls and oil of a dry system still give off dies out about so."""
WALLS_RATE = (0.015 * MICRON_PA, 0.035 * MICRON_PA)
"""Pa/s; its rate at first, mean and standard deviation: part of every account."""
EARLY = ((7.0, 15.0 * MICRON_PA, 0.02), (45.0, 15.0 * MICRON_PA, 0.05))
"""s, Pa and share of the rise: the first seconds, in which gauge and way to it follow late, and the first minute,
in which water that was pumped cold warms up: part of every account, either way."""
FILM_TAU = 240.0
FILM = (35.0 * MICRON_PA, 80.0 * MICRON_PA)
"""s and Pa; what the nearest layer of walls, gaskets and trapped gas gives within minutes: part of every account."""
WALLS_SHARE = 0.25
"""Of bound water, the share that may come off slowly beside the rest."""
BEND = 0.008
BEND_LEAST = 10.0 * MICRON_PA
"""Share of the rise, and the least, by which gauge and walls may curve it beside the rest, one standard deviation."""
SUN = 0.8
"""K by which the temperature may drift in a hold, one standard deviation."""
ROOT_SHARES = (0.5, 1.0)
"""Times of a layer of oil, as shares of how long it was pumped on."""
DYING_TAUS = (2400.0, 8000.0)
"""s; what oil still gives up, water or refrigerant, dies out about so: warm or stirred, cold and still."""
DRAWN = 2400.0
"""s of pumping, where nothing is known of the draw."""


def accounts(hose: Quantity | None, wetness: float = 1.0, ran: float = 1.0) -> tuple[Account, ...]:
    """The accounts. ``hose`` Pa/s is what hoses held with the system let in.

    ``wetness`` scales the odds of water, ``ran`` those of refrigerant in oil: 0 where there can be none.
    """
    m = MICRON_PA
    leak: dict[str, Any] = {"rise": STRAIGHT, "median": LEAK_MEDIAN, "spread": LEAK_SPREAD}
    found = [
        Account(name="dry", prior=0.55),
        Account(name="leak", prior=0.25, **leak),
        Account(name="moisture", prior=0.12 * wetness, water=True),
        Account(name="slow", prior=0.06 * wetness, rise=DYING, median=0.1 * m, spread=1.0),
        Account(name="leak-and-moisture", prior=0.04 * wetness, water=True, **leak),
    ]
    if ran > 0.0:
        found.append(Account(name="refrigerant", prior=0.035 * ran, rise=ROOT, median=0.8 * m, spread=1.5))
    if hose is not None:
        width = max(0.25, float(np.log(hose.high / hose.low)) / 3.29)
        # Air comes through rubber as ever; the water in it is gone in minutes.
        found.append(Account(name="hose", prior=0.15, rise=STRAIGHT, median=hose.value, spread=width))
        found.append(Account(name="hose", prior=0.15, rise=RUBBER, median=hose.value, spread=width))
    return tuple(found)


def rise_shape(kind: str, t: FloatArray, scale: float) -> FloatArray:
    """A rise that begins with unit slope: t; T (1 − e^(−t/T)); or 2 T (√(1 + t/T) − 1), with T = ``scale`` s.

    Parameters
    ----------
    kind : str
        Of the rise.
    t : ndarray, (n,)
        s.
    scale : float
        s.

    Returns
    -------
    ndarray, (n,)
        s: Pa for a first slope of 1 Pa/s.

    Examples
    --------
    >>> rise_shape("straight", np.array([0.0, 10.0]), 0.0).tolist()
    [0.0, 10.0]
    """
    result: FloatArray
    if kind == STRAIGHT:
        result = t
    elif kind in (WALLS, DYING, RUBBER):
        result = scale * (1.0 - np.exp(-t / scale))
    else:
        result = 2.0 * scale * (np.sqrt(1.0 + t / scale) - 1.0)
    return result


def rise_slope(kind: str, t: float, scale: float) -> float:
    """Slope of ``rise_shape`` at ``t`` s.

    Parameters
    ----------
    kind : str
        Of the rise.
    t : float
        s.
    scale : float
        s.

    Returns
    -------
    float
        Of its first slope.

    Examples
    --------
    >>> rise_slope("straight", 10.0, 0.0)
    1.0
    """
    if kind == STRAIGHT:
        return 1.0
    if kind in (WALLS, DYING, RUBBER):
        return float(np.exp(-t / scale))
    return float(1.0 / np.sqrt(1.0 + t / scale))
