"""What a sound hand makes of what it sees in a practice job: tests in their order, what a yes means, what a hold says.

Nothing here knows what is hidden: it reads the figures, the outcomes of tests, and the list of what could be wrong.
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import TYPE_CHECKING

import numpy as np

from rough_draw.core.diagnosis.faults import kind_of
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.message import Message
from rough_draw.core.physics.water import TRIPLE_PA
from rough_draw.core.practice import actions
from rough_draw.core.sheet.criteria import chosen

if TYPE_CHECKING:
    from rough_draw.standins.practice.bay import Bay

ORDER = ("oil", "joint", "sound", "detector", "frost", "drops", "gauge", "cores", "joints", "seats", "hoses", "blank")
"""Tests on a draw that stalls, the cheapest first; the pump alone comes last, when all that it could be is excluded."""
MEANS = {
    "oil": "wet-oil",
    "joint": "jumping",
    "sound": "slow-pump",
    "detector": "refrigerant",
    "drops": "oil-carried",
    "gauge": "fouled",
    "blank": "worn-pump",
}
"""What a yes means, those before it having said no."""
SAYS = {
    "tight-and-dry": "tight",
    "leak": "leak",
    "moisture": "moisture",
    "leak-and-moisture": "both",
    "hose": "rig",
    "refrigerant": "refrigerant",
}
"""Verdicts of the hold's engine as a learner calls them; any other is not judged."""
ICE_SHARE = 1.0 / 3.0
"""Of the triple point's pressure: water on its way to freezing still holds the gauge over it, ice does not."""
WIDE_OPEN = 1_000.0
"""Pa over which a draw stands that something wide open feeds."""
NOTHING_SHOWN = ("shows-no", "shows-nothing", "shows-no-core", "shows-all-open")
LATELY = 20
LEAST_READ = 10


def meaning(bay: Bay, test: str, shown: Message) -> list[str]:
    """Keys of what could be the matter that a test's outcome speaks for; none where it showed nothing."""
    could = [c.key for c in bay.nameable()]
    if shown.key == "shows-yes":
        kind = MEANS.get(test) or ("ice" if _freezes(bay) else "water")
        return [k for k in could if kind_of(k) == kind][:1]
    if shown.key.startswith("shows-needs") or shown.key in NOTHING_SHOWN:
        return []
    told: object = shown
    if test == "ways":
        # What is closed is told beside what stands halfway.
        told = dict(shown.values).get("half")
    found = []
    for cause in bay.could_be():
        where = cause.where or Message("shows-on-system")
        if kind_of(cause.key) in actions.TESTS[test].shows and cause.key in could and _within(told, where):
            found.append(cause.key)
    if test != "joints":
        return found
    # On the system a small leak and something wide open show in one place: how far it came down tells them apart.
    shown_pa = bay.shows()
    wide = shown_pa is None or shown_pa > WIDE_OPEN
    return sorted(found, key=lambda k: (kind_of(k) == "open") != wide)[:1]


def _within(said: object, name: object) -> bool:
    """Whether a name stands anywhere in a message."""
    if said == name:
        return True
    if isinstance(said, Message):
        return any(_within(v, name) for _, v in said.values)
    return isinstance(said, tuple | list) and any(_within(v, name) for v in said)


def _freezes(bay: Bay) -> bool:
    """Whether the gauge stands so far under the triple point that what is cold and white is ice."""
    shown = bay.shows()
    return shown is not None and shown < ICE_SHARE * TRIPLE_PA


def jumps(bay: Bay, most: float) -> bool:
    """Whether the last readings jump from one to the next by more than ``most``, as a log."""
    shown = [math.log(p) for p in bay.track.shown[-LATELY:] if p > 0]
    return len(shown) > LEAST_READ and max(abs(b - a) for a, b in pairwise(shown)) > most


def hold_says(bay: Bay, begun: float) -> str:
    """What the hold's own engine says of the readings since ``begun`` (s), as it is called."""
    at, shown = np.array(bay.track.at), np.array(bay.track.shown)
    kept = (at >= begun) & np.isfinite(shown) & (shown > 0)
    if int(kept.sum()) <= LEAST_READ:
        return "not-judged"
    system = bay.assembly.system
    criterion = chosen(bay.scenario.sheet.criterion)
    found = judge_hold(at[kept] - begun, shown[kept], system.volume(), system.coldest, criterion)
    return SAYS.get(found.verdict, "not-judged")
