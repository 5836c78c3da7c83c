"""Two rigs on one system with the same thing wrong, drawn side by side: what the rig does, and what the fault does.

Both begin from the air at the same moment, are isolated once the worst spot is at the target, and held.
"""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

from rough_draw.core.message import Name, message
from rough_draw.core.practice.rig_choice import RigChoice, rig_of
from rough_draw.core.practice.scenario import Hidden, Scenario, possible
from rough_draw.core.sheet.criteria import chosen
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.setups import PATTERNS
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.evidence import hold_says
from rough_draw.standins.practice.session_log import Track

LONGEST = 4 * 3600.0
"""A draw that is not down by then, s, is called off."""
LOOK = 20.0
STALLED = 1800.0
"""Seconds in which the worst spot has to fall by `LEAST`, or the draw is called off."""
LEAST = 0.02


@dataclass(frozen=True, kw_only=True)
class Lap:
    """One rig's draw and hold. Times s from the start of the pump, pressures Pa.

    ``gauge_at``: when its gauge first showed the target; ``down_at``: when the worst spot was there. ``said``: what the
    readings of the hold say, ``right``: what would be right to say; both empty where it was not held. ``not_on``:
    faults that this rig cannot have.
    """

    rig: Name
    told: Job
    track: Track
    gauge_at: float | None
    down_at: float | None
    held_from: float | None
    end: float
    reads: float | None
    worst: float
    worst_at: Name
    said: str
    right: str
    not_on: tuple[str, ...]


def race(sheet: Job, hidden: Hidden, rigs: Sequence[RigChoice | None], van: Sequence[KitItem]) -> list[Lap]:
    """Every rig on the same system with the same truth; None stands for the sheet's own rig.

    Raises RigFault where the van or the system has not what a rig wants, ScopeError where it is in pieces, and
    pydantic's ValidationError for what cannot be hidden in the sheet.
    """
    # A lap is a second or two of the engine, which runs beside another's.
    with ThreadPoolExecutor(max(1, len(rigs))) as pool:
        return list(pool.map(lambda choice: _lap(sheet, hidden, choice, van), rigs))


def _lap(sheet: Job, hidden: Hidden, choice: RigChoice | None, van: Sequence[KitItem]) -> Lap:
    told = sheet if choice is None else rig_of(sheet, choice, van)
    can = {c.key for c in possible(told)}
    own = hidden.model_copy(update={"faults": tuple(f for f in hidden.faults if f.key in can)})
    bay = Bay(Scenario(key="race", sheet=told, hidden=own), van)
    criterion = chosen(told.criterion)
    bay.do("pump-on")
    down_at = _drawn(bay, criterion.target)
    reads, worst, worst_at = bay.shows(), bay.highest(), bay.worst_spot()
    held_from, said, right = None, "", ""
    if down_at is not None and bay.isolation.tubes:
        bay.do("isolate")
        bay.do("pump-off")
        held_from = bay.time
        bay.advance(held_from + criterion.minutes * 60.0)
        said = hold_says(bay, held_from)
        right = bay.hold_truth().verdicts(criterion.limit)[0]
    return Lap(
        rig=PATTERNS[choice.pattern].name if choice is not None else message("race-own-rig"),
        told=told,
        track=bay.track,
        gauge_at=next((t for t, p in zip(bay.track.at, bay.track.shown, strict=True) if p <= criterion.target), None),
        down_at=down_at,
        held_from=held_from,
        end=bay.time,
        reads=reads,
        worst=worst,
        worst_at=worst_at,
        said=said,
        right=right,
        not_on=tuple(f.key for f in hidden.faults if f.key not in can),
    )


def _drawn(bay: Bay, target: float) -> float | None:
    """Drawn until the worst spot is at the target; when that was, None where it stalls over it or takes too long."""
    before, since = bay.highest(), bay.time
    while bay.time < LONGEST:
        bay.advance(bay.time + LOOK)
        now = bay.highest()
        if now <= target:
            return bay.time
        if now < before * (1.0 - LEAST):
            before, since = now, bay.time
        elif bay.time - since > STALLED:
            return None
    return None
