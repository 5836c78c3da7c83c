"""Whose clock a moment is by: a device that is off is put right, and the server never runs back over a job's log."""

from __future__ import annotations

import time

from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import duration
from rough_draw.store import jobs

DOUBT_S = 5.0
"""A device's clock that is no farther off than this, s, is as right as the way to the server lets anybody tell."""
HELD_UP_S = 30.0
"""So long, s, a poor signal or a server under load holds up what is sent: it looks like a clock that far behind."""
FOLLOWS_S = 12 * 3600.0
"""A log that is farther ahead of the clock than this, s, is at fault itself: nothing follows it."""
APART_S = 1e-3


def skew_of(sent_at: float | None, now: float | None = None) -> float:
    """Seconds to add to what a device stamped: by its clock as it sent, against the server's as it came.

    Nothing comes before it is sent, so a clock ahead shows at once; one behind cannot be told from a message that was
    held up, and to put that right would change the order of what one hand did.
    """
    if sent_at is None:
        return 0.0
    off = (now if now is not None else time.time()) - sent_at
    return off if off < -DOUBT_S or off > HELD_UP_S else 0.0


def told_of(skew: float) -> Message | None:
    """What was put right, for the log; None where nothing was."""
    if not skew:
        return None
    return message("clock-behind" if skew > 0 else "clock-ahead", off=duration(abs(skew)))


def stamp(key: str, now: float | None = None) -> float:
    """The moment of a step that is made now, after all that the log has: a clock that was set back changes no order."""
    clock = now if now is not None else time.time()
    last = jobs.last_touch_at(key)
    return last + APART_S if last is not None and clock <= last < clock + FOLLOWS_S else clock
