"""A hold that only a needle watched: where it stood, whether it moved, and what it could have missed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.hold.result import Verdict
from rough_draw.core.hold.verdict import no_verdict
from rough_draw.core.message import message
from rough_draw.core.message.figure import duration, vacuum
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.sheet import criteria
from rough_draw.core.sheet.criteria import Criterion, dial_blind, needle_rise

FloatArray = NDArray[np.float64]
SHORTEST = 60.0
"""s of watching for which a missed leak is worked out at the least."""


@dataclass(frozen=True, kw_only=True)
class Needle:
    """What a needle said of a hold, Pa and s. ``first`` and ``last``: where it stood, None where it was not read.

    ``blind``: one ± of it. ``leak`` Pa·m³/s and ``water_g`` of vapour could stand unseen; ``reads`` belongs to the
    target.
    """

    first: float | None
    last: float | None
    moved: bool
    seconds: float
    blind: float
    leak: float
    water_g: float
    reads: float


def judge_needle(
    times: FloatArray,
    pressures: FloatArray,
    volume: Quantity,
    atmosphere: float,
    temperature: float,
    criterion: Criterion,
) -> tuple[Verdict, Needle]:
    """Judge a hold read on a needle: unverified whatever it shows, and not held at all where it has moved.

    Parameters
    ----------
    times : ndarray, (n,)
        s since isolation; may be empty.
    pressures : ndarray, (n,)
        Pa, absolute: the air less what the needle showed.
    volume : Quantity
        m³ isolated.
    atmosphere : float
        Pa of the place.
    temperature : float
        K of the vapour inside.
    criterion : Criterion
        The standard chosen: its minutes are those that the needle is to be watched.

    Returns
    -------
    tuple of Verdict and Needle
        The first without figures of its own.

    Examples
    --------
    >>> from rough_draw.core.physics.quantity import exact
    >>> t = np.array([0.0, 1800.0])
    >>> still = np.array([500.0, 600.0])
    >>> lost = np.array([500.0, 9000.0])
    >>> volume = exact(8e-3, "m³", "measured")
    >>> judge_needle(t, still, volume, 101_325.0, 288.0, criteria.STANDARDS["dial-only"])[1].moved
    False
    >>> judge_needle(t, lost, volume, 101_325.0, 288.0, criteria.STANDARDS["dial-only"])[1].moved
    True
    """
    seconds = float(times[-1] - times[0]) if times.size > 1 else 0.0
    blind = dial_blind(criterion, atmosphere, volume.value, temperature)
    need = criterion.minutes * 60.0
    first = float(pressures[0]) if pressures.size else None
    last = float(pressures[-1]) if pressures.size > 1 else None
    rise, moved = needle_rise(pressures)
    needle = Needle(
        first=first,
        last=last,
        moved=moved,
        seconds=seconds,
        blind=blind.blind_pa,
        leak=blind.leak * need / max(min(seconds, need), SHORTEST),
        water_g=blind.water_g,
        reads=blind.reads_pa,
    )
    if moved:
        why = message("unfit-needle-moved", rise=vacuum(rise), time=duration(seconds))
    elif last is None:
        why = message("unfit-needle-once", level=vacuum(blind.blind_pa))
    else:
        why = message("unfit-needle", level=vacuum(blind.blind_pa))
    said = tuple(criteria.by_needle(c, times, pressures) for c in _with_first(criterion))
    return no_verdict("unverified", said, seconds, why), needle


def _with_first(criterion: Criterion) -> tuple[Criterion, ...]:
    return (criterion, *(c for c in criteria.STANDARDS.values() if c.key != criterion.key))
