"""A part in the van, as the rig can take it in."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from rough_draw.core.sheet.rig import HosePart, PumpPart, Rig


@dataclass(frozen=True)
class KitItem:
    """One part of the kit: its number, kind, name, and its values in the rig part's own terms."""

    id: int
    kind: str
    name: str
    values: dict[str, Any]

    def __hash__(self) -> int:
        return hash((self.id, self.kind, self.name, repr(sorted(self.values.items()))))


def free(kit: list[KitItem], rig: Rig, kind: str) -> list[KitItem]:
    """Items of a kind that the rig does not use yet."""
    used = {p.kit for p in rig.parts if p.kit is not None}
    return [k for k in kit if k.kind == kind and k.id not in used]


def as_hose(item: KitItem) -> HosePart:
    """A kit hose as a part, its place left open."""
    return HosePart.model_validate({"id": "kit", "port": "none", **item.values})


def as_pump(item: KitItem) -> PumpPart:
    """A kit pump as a part."""
    return PumpPart.model_validate({"id": "kit", **item.values})
