"""Refrigerant properties: saturation and liquid density by temperature, from a table of the property library."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from rough_draw.core.physics.saturation import LOWEST, SATURATION, STEP
from rough_draw.core.physics.units import celsius

COLDEST, HOTTEST = 230.0, 340.0
"""K: what is asked of this trade's systems; some blends end sooner, under their critical point."""


@dataclass(frozen=True)
class Saturated:
    """At ``temperature`` K: bubble and dew pressure Pa (equal for a pure fluid), liquid density kg/m³."""

    temperature: float
    bubble: float
    dew: float
    liquid_density: float


def hottest(name: str) -> float:
    """The highest temperature, K, that the table has for a refrigerant.

    Parameters
    ----------
    name : str
        A refrigerant of the catalogue.

    Returns
    -------
    float
        K.

    Raises
    ------
    ValueError
        For an unknown one.

    Examples
    --------
    >>> hottest("R-134a")
    340.0
    """
    if name not in SATURATION:
        raise ValueError(f"no refrigerant '{name}'; choose one of {', '.join(SATURATION)}")
    return min(HOTTEST, LOWEST + STEP * (len(SATURATION[name][0]) - 1))


@lru_cache(maxsize=2048)
def saturated(name: str, temperature: float) -> Saturated:
    """Saturation of a refrigerant of the catalogue at ``temperature`` K (230–340 K, `hottest` where that is less).

    A cubic (Lagrange) through four points of the table, the logarithm over 1/T, every 4 K. The table is of the
    reference equations of state in CoolProp, blends by their published composition; against them 2e-5 in
    pressure, and 2e-4 in density up to 330 K, 6e-4 above. Within 12 K of a critical point that the table comes
    to (R-23, R-507A, R-744) 6e-5 in pressure and 1e-2 in density.

    Parameters
    ----------
    name : str
        A refrigerant of the catalogue.
    temperature : float
        K, 230 to `hottest`.

    Returns
    -------
    Saturated
        Bubble and dew pressure Pa, liquid density kg/m³.

    Raises
    ------
    ValueError
        For an unknown refrigerant, or outside the range.

    Examples
    --------
    >>> round(saturated("R-134a", 293.15).bubble / 1000.0)
    572
    """
    top = hottest(name)
    if not COLDEST <= temperature <= top:
        raise ValueError(f"{celsius(temperature):.0f} °C is outside −43 … {celsius(top):.0f} °C for {name}")
    columns = SATURATION[name]
    first = min(max(int((temperature - LOWEST) // STEP) - 1, 0), len(columns[0]) - 4)
    u = [1.0 / (LOWEST + STEP * (first + n)) for n in range(4)]
    x = 1.0 / temperature
    weights = [math.prod((x - u[m]) / (u[n] - u[m]) for m in range(4) if m != n) for n in range(4)]
    bubble, dew, density = (
        math.exp(sum(w * math.log(column[first + n]) for n, w in enumerate(weights))) for column in columns
    )
    return Saturated(temperature, bubble, dew, density)


def saturated_below(name: str, temperature: float) -> Saturated:
    """Saturation at ``temperature`` K, or at the highest the table has where that is less: past its critical point a
    refrigerant has none, and what is weighed or held there is taken as it is just below.

    Parameters
    ----------
    name : str
        A refrigerant of the catalogue.
    temperature : float
        K.

    Returns
    -------
    Saturated
        As of `saturated`.

    Raises
    ------
    ValueError
        For an unknown refrigerant, or a temperature under the table.

    Examples
    --------
    >>> round(saturated_below("R-744", 310.0).temperature)
    302
    """
    return saturated(name, min(temperature, hottest(name)))
