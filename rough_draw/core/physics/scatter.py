"""How far readings scatter, told so that a few that are far off do not decide it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

MEDIAN_TO_SIGMA = 1.4826
"""Standard deviation of a normal scatter over the median of its distances: 1 / Φ⁻¹(3/4)."""


def sigma_of(off: NDArray[np.float64]) -> float:
    """Standard deviation of a normal scatter by the median of its distances; under half of them may be anything.

    Source: Hampel, J. Am. Stat. Assoc. 69 (1974) 383.

    Parameters
    ----------
    off : ndarray, (n,)
        Distances from where the scatter has its middle, in any unit, whatever their signs; n at least 1.

    Returns
    -------
    float
        In the unit of ``off``.

    Examples
    --------
    >>> round(sigma_of(np.array([-1.0, 0.5, 1.0, -0.5, 900.0])), 4)
    1.4826
    """
    return MEDIAN_TO_SIGMA * float(np.median(np.abs(off)))
