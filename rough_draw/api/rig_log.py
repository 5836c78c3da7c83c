"""What is changed about a rig while its job runs, put in the run's log: what it was, what it is, and when."""

from __future__ import annotations

import time

from rough_draw.api import runs
from rough_draw.core.message import Message, Name, message
from rough_draw.core.sheet.naming import hose_size, part_name, pump_size
from rough_draw.core.sheet.rig import HosePart, Part, PumpPart, Rig
from rough_draw.store import jobs
from rough_draw.text import say


def log_rig_change(key: str, before: Rig, after: Rig) -> None:
    """Log how ``after`` differs from ``before`` where the pump has been started; nothing before that.

    A part in another's place is logged as put on; what came or went as a note, since a hand's own steps say how the gas
    is.
    """
    if before == after:
        return
    run = runs.view(key)
    if run.state.started_at is None:
        return
    # A simulated gauge's clock may be ahead of the wall's: what has been read already was before this.
    at = max([time.time(), *(t.at for t in run.touches), *(float(s.at[-1]) for s in run.series if s.at.size)])
    for kind, note in changes(before, after):
        jobs.add_touch(key, kind, at, say(note)[:500])


def changes(before: Rig, after: Rig) -> list[tuple[str, Message]]:
    """Kind of touch and words for every part that is another, has come, or has gone; by the parts' ids."""
    old, new = {p.id: p for p in before.parts}, {p.id: p for p in after.parts}
    found: list[tuple[str, Message]] = []
    for name, part in new.items():
        was = old.get(name)
        if was is None:
            found.append(("note", message("part-added", part=_named(part))))
        elif was.kit != part.kit or say(_named(was)) != say(_named(part)):
            found.append((f"put-on:{name}", message("part-exchanged", old=_named(was), new=_named(part))))
    found += [("note", message("part-taken-away", part=_named(part))) for name, part in old.items() if name not in new]
    return found


def _named(part: Part) -> Name:
    """A part by what tells it from another: hoses and pumps by their size too."""
    if isinstance(part, HosePart | PumpPart):
        size = hose_size(part) if isinstance(part, HosePart) else pump_size(part.plate_cfm)
        return message("part-sized", name=part.name, size=size) if part.name else size
    return part_name(part)
