"""A parameter with its range and its source."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace


@dataclass(frozen=True)
class Quantity:
    """``value`` within ``low`` … ``high`` (10 % and 90 % points) in ``unit``; ``source`` says why we believe it."""

    value: float
    low: float
    high: float
    unit: str
    source: str

    @property
    def estimate(self) -> bool:
        """Whether the figure is our estimate rather than a published or exact one."""
        return self.source.startswith("estimate")

    def quantile(self, z: float) -> float:
        """Value at standard normal deviate ``z``: log-scaled through low (−1.2816), value (0) and high (+1.2816).

        A value of zero stays zero; beyond the range the same slope goes on to ±2 and no further.
        """
        z = max(-2.0, min(2.0, z))
        if self.value <= 0.0 or self.low <= 0.0:
            edge = self.high if z > 0 else self.low
            return max(0.0, self.value + (edge - self.value) * abs(z) / 1.2816)
        edge = self.high if z > 0 else self.low
        return self.value * math.exp(math.log(edge / self.value) * abs(z) / 1.2816)

    def times(self, factor: float) -> Quantity:
        """The same quantity scaled."""
        return replace(self, value=self.value * factor, low=self.low * factor, high=self.high * factor)


def exact(value: float, unit: str, source: str) -> Quantity:
    """A quantity without spread.

    Parameters
    ----------
    value : float
        In ``unit``.
    unit : str
        As written.
    source : str
        Why we believe it.

    Returns
    -------
    Quantity
        Without spread.

    Examples
    --------
    >>> exact(2.0, "m", "measured").low
    2.0
    """
    return Quantity(value, value, value, unit, source)


def add(parts: list[Quantity], unit: str, source: str) -> Quantity:
    """Sum of independent quantities: values add, spreads add in quadrature.

    Parameters
    ----------
    parts : list of Quantity
        Independent, all in one unit.
    unit : str
        Of the sum.
    source : str
        Of the sum.

    Returns
    -------
    Quantity
        The sum; its spread in quadrature.

    Examples
    --------
    >>> q = Quantity(1.0, 0.7, 1.3, "l", "estimate: a part")
    >>> round(add([q, q], "l", "two parts").high, 3)
    2.424
    """
    value = sum(p.value for p in parts)
    up = math.sqrt(sum((p.high - p.value) ** 2 for p in parts))
    down = math.sqrt(sum((p.value - p.low) ** 2 for p in parts))
    return Quantity(value, max(0.0, value - down), value + up, unit, source)
