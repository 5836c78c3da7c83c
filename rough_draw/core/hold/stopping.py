"""Since when a hold was sound, and how much longer it takes where it is not yet."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from rough_draw.core.hold.binning import SHAPE, Data
from rough_draw.core.hold.decision import SOONEST, Frame, Look, look
from rough_draw.core.hold.models import make_basis
from rough_draw.core.hold.posterior import Reading

LOOKS = 7
LONGER = (1.3, 1.7, 2.3, 3.2, 4.5)
"""Times the hold's length at which it is tried whether it would be sound."""


def sound_since(frame: Frame, final: Look, inflate: float) -> float:
    """Earliest time, s, from which every longer look gave the same verdict.

    Looks at growing parts of the hold, the longest first, until one disagrees or is not sure of it. ``inflate`` is the
    error's factor of the whole.
    """
    sound = final.span
    time = frame.data.time
    if final.span <= SOONEST:
        return sound
    for end in np.geomspace(SOONEST, final.span, LOOKS)[-2::-1]:
        bins = int(np.searchsorted(time, end, side="right"))
        if bins < 6:
            break
        weighed, _, part = look(frame, bins, inflate)
        inflate = weighed.inflate
        if part.verdict != final.verdict or not part.conclusive:
            break
        if part.sound:
            sound = float(time[bins - 1])
    return sound


def wait(frame: Frame, readings: list[Reading], now: Look) -> float | None:
    """How much longer, s, until the hold may end, if it goes on as the likeliest model has it; None beyond 4½ times.

    The curve is carried on by that model with the readings' own spacing and errors, and looked at again.
    """
    best = max(readings, key=lambda r: r.weight)
    data = frame.data
    every = float(np.median(np.diff(data.time[-20:]))) if data.time.size > 3 else 10.0
    error = float(np.median(data.sigma[-20:] ** 2 - (SHAPE * (data.pressure[-20:] - data.pressure[0])) ** 2))
    for times in LONGER:
        end = max(times * now.span, SOONEST)
        step = max(every, (end - now.span) / 60.0)
        t = np.arange(now.span + step, end + 0.5 * step, step)
        p = best.curve(t, now.span)
        sigma = np.sqrt(max(error, 1e-8) * every / step + (SHAPE * (p - data.pressure[0])) ** 2)
        longer = Data(
            time=np.concatenate([data.time, t]),
            pressure=np.concatenate([data.pressure, p]),
            sigma=np.concatenate([data.sigma, sigma]),
            count=np.concatenate([data.count, np.full(t.size, data.count[-1])]),
            quantum=data.quantum,
            steps=data.steps,
        )
        _, _, then = look(replace(frame, data=longer, basis=make_basis(longer, frame.setting)))
        if then.sound:
            return end - now.span
    return None
