"""What the passages of a rig may measure, each with its range."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.catalogue import rig_parts as cat
from rough_draw.core.physics.quantity import Quantity, exact


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


def known(metres: float) -> Quantity:
    """A length that the sheet gives, m."""
    return exact(metres, "m", "on the sheet")
