"""A dial's vacuum, below the air around it: as it is said, and as an absolute pressure."""

from __future__ import annotations

import re
from dataclasses import dataclass

from rough_draw.core.physics.units import PA_PER

_DIAL = re.compile(r"^\s*([-−+]?)\s*(\d+(?:[.,]\d+)?)\s*(in\s*hg|inhg|\"\s*hg|psi[ag]?|)\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class DialReading:
    """A dial vacuum as it was said, understood: absolute Pa, inHg below the atmosphere, and what had to be guessed."""

    pa: float
    inhg: float
    asked: str


def read_dial(text: str, atmosphere_pa: float) -> DialReading:
    """Understand a dial vacuum: ``29.9``, ``29.9 inHg``, ``-14.2 psi``, and the ``-30 psi`` that cannot be.

    The least a gauge can show is minus the atmosphere (−14.7 psi at sea level): "−30 psi" is asked back as 30 inHg
    (and as a full vacuum where even that is too deep here).

    Parameters
    ----------
    text : str
        As it was said.
    atmosphere_pa : float
        The local air, Pa.

    Returns
    -------
    DialReading
        Pa absolute, inHg below the air, and what has to be asked back.

    Raises
    ------
    ValueError
        For what is no dial reading at all.

    Examples
    --------
    >>> read_dial("-30 psi", 101_325.0).asked[:31]
    '−30 psi cannot be: the least he'
    """
    found = _DIAL.match(text)
    if found is None:
        raise ValueError(f"'{text.strip()[:30]}' is no dial reading; write it like 29.5 inHg or −14.2 psi")
    value = float(found[2].replace(",", "."))
    unit = "psi" if found[3].lower().startswith("psi") else "inhg"
    depth = value * PA_PER[unit]
    asked = ""
    if unit == "psi" and depth > atmosphere_pa * 1.005:
        depth = value * PA_PER["inhg"]
        least = atmosphere_pa / PA_PER["psi"]
        asked = f"−{value:g} psi cannot be: the least here is −{least:.1f} psi. Taken as {value:g} inHg; is that right?"
    if depth > atmosphere_pa * 1.005:
        most = atmosphere_pa / PA_PER["inhg"]
        extra = f"{depth / PA_PER['inhg']:g} inHg cannot be: the most here is {most:.2f} inHg. Taken as a full vacuum."
        asked = f"{asked} {extra}".strip()
    depth = min(depth, atmosphere_pa)
    return DialReading(atmosphere_pa - depth, depth / PA_PER["inhg"], asked)


def dial_to_absolute(reading: float, unit: str, atmosphere_pa: float) -> float:
    """Absolute pressure, Pa, from a dial (gauge) vacuum of ``reading`` below the local atmosphere.

    ``unit`` is ``inhg`` or ``psi``; the sign is ignored, as people write both.

    Parameters
    ----------
    reading : float
        Below the local air; its sign is ignored.
    unit : str
        ``"inhg"`` or ``"psi"``.
    atmosphere_pa : float
        The local air, Pa.

    Returns
    -------
    float
        Pa, absolute.

    Raises
    ------
    ValueError
        For a vacuum deeper than the air that surrounds the dial.

    Examples
    --------
    >>> round(dial_to_absolute(29.9, "inhg", 101_325.0))
    72
    """
    depth = abs(reading) * PA_PER[unit]
    if depth > atmosphere_pa * 1.005:
        most = atmosphere_pa / PA_PER[unit]
        if unit == "psi":
            hint = f" Did you mean {abs(reading):g} inHg?"
        else:
            hint = " Check the elevation or barometer, or re-zero the dial."
        raise ValueError(
            f"a dial vacuum of {abs(reading):g} {unit} cannot be: the most possible here is {most:.2f} {unit}.{hint}"
        )
    return max(0.0, atmosphere_pa - depth)
