"""A part in the van, as the rig can take it in."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, get_args

from pydantic import TypeAdapter, ValidationError

from rough_draw.core.message import Name, message
from rough_draw.core.sheet.rig import HosePart, PumpPart, Rig
from rough_draw.core.sheet.rig_pieces import Part

_NEVER_ON_A_RIG = ("scale", "cord", "core")
_union, _ = get_args(Part)
KINDS = frozenset((*(p.model_fields["kind"].default for p in get_args(_union)), *_NEVER_ON_A_RIG))
"""Kinds that have a name; a later version's file may hold others."""
_part: TypeAdapter[Any] = TypeAdapter(Part)


@dataclass(frozen=True)
class KitItem:
    """One part of the kit: its number, kind, name, and its values in the rig part's own terms."""

    id: int
    kind: str
    name: str
    values: dict[str, Any]

    @property
    def called(self) -> Name:
        """What a part of its kind is called; its name where this version does not know the kind."""
        return message(f"part-{self.kind}") if self.kind in KINDS else self.name

    def __hash__(self) -> int:
        return hash((self.id, self.kind, self.name, repr(sorted(self.values.items()))))


def must_fit(kind: str, values: Mapping[str, Any]) -> None:
    """Raise pydantic's ValidationError where no part of a rig has such a kind, or such values."""
    if kind not in _NEVER_ON_A_RIG:
        _part.validate_python({"kind": kind, "id": "kit", **values})


@lru_cache(maxsize=1024)
def fits(item: KitItem) -> bool:
    """Whether a rig can take an item in: what a later version or another hand has filed may be none of ours."""
    try:
        must_fit(item.kind, item.values)
    except ValidationError:
        return False
    return True


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
