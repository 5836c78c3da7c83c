"""A rig put together by a learner: a hook-up, its slots filled from the van."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import Field

from rough_draw.core.message import Fault, Name, message
from rough_draw.core.sheet import rig_edit
from rough_draw.core.sheet.base import Sheet, Slug
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.kit import KitItem
from rough_draw.core.sheet.naming import port_of
from rough_draw.core.sheet.rig import HosePart
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from


class RigChoice(Sheet):
    """What was chosen: a hook-up, and numbers of the van's parts by slot (``pump``, ``gauge``, a hose's id)."""

    pattern: Slug
    parts: dict[Slug, int] = Field({}, max_length=12)


class RigFault(Fault):
    """The choice does not make a rig; says what to change."""


def slots(job: Job, pattern: str) -> list[tuple[str, str, Name]]:
    """Slots of a hook-up that the van fills: part id, kind, and where it goes in words."""
    found: list[tuple[str, str, Name]] = []
    rig = rig_from(pattern, job.scope)
    for p in rig.parts:
        if p.kind in ("pump", "gauge"):
            found.append((p.id, p.kind, message(f"part-{p.kind}")))
        elif isinstance(p, HosePart):
            port = port_of(rig, job.scope, p)
            where = message("slot-hose", port=port.words()) if port else message("slot-hose-at-pump")
            found.append((p.id, "hose", where))
    return found


def rig_of(job: Job, choice: RigChoice, van: Sequence[KitItem]) -> Job:
    """The sheet with the chosen rig. Raises RigFault where the system has not the ports, or the van not the part."""
    if choice.pattern not in PATTERNS or not fits(choice.pattern, job.scope):
        raise RigFault(
            message(
                "rig-no-ports",
                setup=PATTERNS[choice.pattern].name if choice.pattern in PATTERNS else choice.pattern[:40],
            )
        )
    rig = rig_from(choice.pattern, job.scope)
    items = {k.id: k for k in van}
    if len(set(choice.parts.values())) < len(choice.parts):
        raise RigFault(message("rig-one-part-twice"))
    for slot, kind, where in slots(job, choice.pattern):
        number = choice.parts.get(slot)
        if number is None:
            continue
        item = items.get(number)
        if item is None or item.kind != kind:
            raise RigFault(message("rig-wrong-part", number=number, part=message(f"part-{kind}"), where=where))
        part = rig.get(slot)
        keep = {k: getattr(part, k) for k in ("depressor", "fits") if kind == "hose" and hasattr(part, k)}
        rig = rig_edit.take_from_kit(rig, slot, item.id, item.name, {**item.values, **keep})
    return job.model_copy(update={"rig": rig.model_copy(update={"cord": job.rig.cord})})
