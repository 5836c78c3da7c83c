"""What a sound hand does before the draw: pumps a working unit down, looks, and makes safe what a look finds."""

from __future__ import annotations

from rough_draw.core.message import Figure, Message, Value, message
from rough_draw.core.message.figure import gauge_pressure
from rough_draw.core.practice import actions
from rough_draw.standins.practice.as_found import CREEPS_S, SAFE
from rough_draw.standins.practice.bay import Bay

MOST_WATCHED, WATCHED_S = 60, 12.0
"""How often the suction is looked at while it is pumped down, at the most, and s between."""
TURN_AT = 35_000.0
"""Pa over the air at which the suction valve is begun to be closed: it falls on until it is."""
LOOKS_AGAIN = 4
"""How often one look is made again at the most."""


def _because(bay: Bay, key: str, **values: Value) -> None:
    bay.because = message(f"expert-{key}", **values)


def pumped_down(bay: Bay) -> None:
    """A unit that works takes its own charge; the valve is turned early, since that takes its time."""
    if bay.low is None:
        return
    _because(bay, "pump-down", zero=gauge_pressure(0.0))
    valves = {side: v for v, side in bay.unit_valves().items()}
    for kind in ("check-room", "gauges-on", "start", f"shut:{valves['liquid']}"):
        bay.do(kind)
    for _ in range(MOST_WATCHED):
        shown = bay.do("watch-suction").showed
        over = dict(shown.values).get("pressure") if isinstance(shown, Message) else None
        if isinstance(over, Figure) and over.value < TURN_AT:
            break
        bay.advance(bay.time + WATCHED_S)
    for kind in (f"shut:{valves['suction']}", "stop-unit", "see-still"):
        bay.do(kind)


def looked_first(bay: Bay) -> None:
    """Before a hand touches anything; what a look finds is made safe, and looked at again until it stands."""
    _because(bay, "look", zero=gauge_pressure(0.0))
    for look in actions.LOOKS:
        shown = bay.do(look.kind).showed
        for _ in range(LOOKS_AGAIN):
            safe = SAFE.get(shown.key) if isinstance(shown, Message) else None
            if safe is None:
                break
            _because(bay, "make-safe")
            bay.do(f"safe:{safe}")
            if safe == "vent":
                # What creeps past a seat takes minutes to be seen.
                bay.advance(bay.time + CREEPS_S)
            shown = bay.do(look.kind).showed
