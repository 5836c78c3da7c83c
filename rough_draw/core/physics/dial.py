"""A dial's vacuum, below the air around it: as it is said, and as an absolute pressure."""

from __future__ import annotations

import re
from dataclasses import dataclass

from rough_draw.core.message import Fault, Message, all_of, message
from rough_draw.core.message.figure import number
from rough_draw.core.physics.units import PA_PER

_DIAL = re.compile(r"^\s*([-−+]?)\s*(\d+(?:[.,]\d+)?)\s*(in\s*hg|inhg|\"\s*hg|psi[ag]?|)\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class DialReading:
    """A dial vacuum as it was said, understood: absolute Pa, inHg below the atmosphere, and what had to be guessed."""

    pa: float
    inhg: float
    asked: Message | None


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
    >>> read_dial("-30 psi", 101_325.0).asked.key
    'dial-not-psi'
    """
    found = _DIAL.match(text)
    if found is None:
        raise Fault(message("dial-no-reading", text=text.strip()[:30]))
    value = float(found[2].replace(",", "."))
    unit = "psi" if found[3].lower().startswith("psi") else "inhg"
    depth = value * PA_PER[unit]
    asked: list[Message] = []
    if unit == "psi" and depth > atmosphere_pa * 1.005:
        depth = value * PA_PER["inhg"]
        least = atmosphere_pa / PA_PER["psi"]
        asked.append(message("dial-not-psi", value=number(value), least=number(round(least, 1))))
    if depth > atmosphere_pa * 1.005:
        most = atmosphere_pa / PA_PER["inhg"]
        shown = number(round(depth / PA_PER["inhg"], 2))
        asked.append(message("dial-too-deep", value=shown, most=number(round(most, 2))))
    depth = min(depth, atmosphere_pa)
    return DialReading(atmosphere_pa - depth, depth / PA_PER["inhg"], all_of(asked))


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
        values = {"value": number(abs(reading)), "most": number(round(most, 2))}
        raise Fault(message(f"dial-impossible-{unit}", **values))
    return max(0.0, atmosphere_pa - depth)
