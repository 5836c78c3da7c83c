"""A dial's vacuum, below the air around it: as it is said, and as an absolute pressure."""

from __future__ import annotations

import re
from dataclasses import dataclass

from rough_draw.core.message import Fault, Message, Value, all_of, message
from rough_draw.core.message.figure import number
from rough_draw.core.physics.units import ATMOSPHERE_PA, PA_PER, pressure_unit

_DIAL = re.compile(r"^\s*([-−–+]?)\s*(\d*[.,]?\d+)\s*([^\d\s].*?)?\s*$")
DIAL_UNITS = ("inhg", "psi", "bar", "mbar", "hpa", "kpa", "mpa", "cmhg", "mmhg", "torr", "kgf/cm2")
"""Units in which dials count vacuum downward from the air."""
NAMES = {
    "inhg": "inHg",
    "psi": "psi",
    "bar": "bar",
    "mbar": "mbar",
    "hpa": "hPa",
    "kpa": "kPa",
    "mpa": "MPa",
    "cmhg": "cmHg",
    "mmhg": "mmHg",
    "torr": "Torr",
    "kgf/cm2": "kgf/cm²",
}
OTHERS = ("inhg", "cmhg", "bar")
"""What a figure that cannot be may have been read in instead, the likeliest first: scales that end at about 30, 76
and 1 stand beside each other on a dial."""


@dataclass(frozen=True)
class DialReading:
    """A dial vacuum as it was said, understood: absolute Pa, inHg below the atmosphere, and what had to be guessed."""

    pa: float
    inhg: float
    asked: Message | None


def read_dial(text: str, atmosphere_pa: float) -> DialReading:
    """Understand a dial vacuum: ``29.9``, ``-0.1 MPa``, ``-76 cmHg``, and the ``-30 psi`` that cannot be.

    The least a gauge can show is minus the atmosphere (−14.7 psi at sea level): "−30 psi" is asked back as 30 inHg,
    "−76 psi" as 76 cmHg, and what is too deep in any unit as a full vacuum.

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
    'dial-other-unit'
    """
    found = _DIAL.match(text)
    unit = _unit(found[3]) if found is not None else None
    if found is None or unit is None:
        raise Fault(message("dial-no-reading", text=text.strip()[:30]))
    value = float(found[2].replace(",", "."))
    asked: list[Message] = []
    depth = value * PA_PER[unit]
    if depth > atmosphere_pa * ALLOWED:
        other, told = _other(value, unit, atmosphere_pa)
        if other is not None:
            asked.append(message("dial-other-unit", **told, other=NAMES[other]))
            depth = value * PA_PER[other]
        else:
            asked.append(message("dial-too-deep", **told))
    depth = min(depth, atmosphere_pa)
    return DialReading(atmosphere_pa - depth, depth / PA_PER["inhg"], all_of(asked))


DEEP = 0.65 * ATMOSPHERE_PA
"""Depth, Pa, from which a figure is one that a deep vacuum has."""
ALLOWED = 1.005
"""Of the air: a needle may stand a little past the deepest there is."""


def _unit(written: str | None) -> str | None:
    """The unit of a dial as it was written, inches of mercury where none is. None for what is none of a dial."""
    if written is None:
        return "inhg"
    bare = re.sub(r"(?i)\b(vac|vacuum|gauge|rel)\b\.?", "", written).strip()
    if bare in ('"', "”", "in"):
        return "inhg"
    # On a dial nobody reads thousandths of a pascal.
    unit = pressure_unit(re.sub(r"(?i)^m(?=pa)", "M", bare))
    return unit if unit in DIAL_UNITS else None


def _other(value: float, unit: str, atmosphere_pa: float) -> tuple[str | None, dict[str, Value]]:
    """The scale that a figure too deep for its unit was likely read on, near whose end it stands; and what to say."""
    most = number(round(atmosphere_pa / PA_PER[unit], 3))
    told: dict[str, Value] = {"value": number(value), "unit": NAMES.get(unit, unit), "most": most}
    fits = (u for u in OTHERS if u != unit and DEEP < value * PA_PER[u] <= atmosphere_pa * ALLOWED)
    return next(fits, None), told


def dial_to_absolute(reading: float, unit: str, atmosphere_pa: float) -> float:
    """Absolute pressure, Pa, from a dial (gauge) vacuum of ``reading`` below the local atmosphere.

    The sign is ignored, as people write both.

    Parameters
    ----------
    reading : float
        Below the local air; its sign is ignored.
    unit : str
        A key of `PA_PER`.
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
    if depth > atmosphere_pa * ALLOWED:
        other, told = _other(abs(reading), unit, atmosphere_pa)
        if other is not None:
            raise Fault(message("dial-impossible-other", **told, other=NAMES[other]))
        raise Fault(message("dial-impossible", **told))
    return max(0.0, atmosphere_pa - depth)
