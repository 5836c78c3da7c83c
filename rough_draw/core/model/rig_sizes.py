"""What the passages of a rig may measure, each with its range."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.physics.quantity import Quantity, exact
from rough_draw.core.sheet.rig import HosePart


@dataclass(frozen=True)
class Sizes:
    """What a passage may measure, m: bore (or gap) and length.

    ``width`` where it is a slot.
    """

    bore: Quantity
    length: Quantity
    width: Quantity | None = None

    def at(self, bores: float, core: float) -> tuple[float, float, float]:
        """Bore, length and width at the deviates of the rig's bores and of cores: over 0 is narrow and long."""
        z = core if self.width is not None else bores
        width = self.width.quantile(-z) if self.width is not None else 0.0
        return self.bore.quantile(-z), self.length.quantile(z), width


CORE = Sizes(cat.CORE_GAP, cat.CORE_LENGTH, cat.CORE_WIDTH)
"""A valve core pushed open."""
DEPRESSOR = Sizes(cat.DEPRESSOR_GAP, cat.DEPRESSOR_LENGTH, cat.DEPRESSOR_WIDTH)
"""A hose end whose depressor was left in."""


def hose_bore(hose: HosePart) -> Sizes:
    """The bore of a hose; of a tapered one the narrower half, the wider as so much more of its length."""
    near = cat.HOSE_BORE[hose.size]
    far = cat.HOSE_BORE[hose.size_far or hose.size]
    narrow, wide = sorted((near, far), key=lambda q: q.value)
    return Sizes(narrow, known(0.5 * hose.length_m * (1.0 + (narrow.value / wide.value) ** 4)))


def hose_end(hose: HosePart, at: Literal["near", "far"]) -> Sizes:
    """An end of a hose: what hoses of its bore have there, or a flare that is narrower."""
    size = hose.size if at == "near" else hose.size_far or hose.size
    made = cat.HOSE_END_BORE[size]
    flare = hose.near_end if at == "near" else hose.far_end
    if flare is not None and cat.PORT_BORE[flare].value < made.value:
        made = cat.PORT_BORE[flare]
    return Sizes(made, cat.END_LENGTH)


def known(metres: float) -> Quantity:
    """A length that the sheet gives, m."""
    return exact(metres, "m", "on the sheet")
