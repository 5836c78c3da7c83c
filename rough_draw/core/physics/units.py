"""Trade units at the edges; SI inside.

Every factor is exact by definition unless the comment says otherwise. The micron is the
trade's unit of absolute pressure: 1 µ = 1 mTorr = 101325/760000 Pa.
"""

from __future__ import annotations

import re

ATMOSPHERE_PA = 101_325.0
"""Standard atmosphere, Pa (exact, CGPM 1954)."""

MICRON_PA = ATMOSPHERE_PA / 760_000.0
"""One micron of mercury (1 mTorr), Pa."""

PA_PER: dict[str, float] = {
    "micron": MICRON_PA,
    "pa": 1.0,
    "hpa": 100.0,
    "kpa": 1000.0,
    "mbar": 100.0,
    "bar": 100_000.0,
    "torr": ATMOSPHERE_PA / 760.0,
    "mtorr": MICRON_PA,
    "mmhg": ATMOSPHERE_PA / 760.0,
    "inhg": 3386.389,  # conventional inch of mercury at 0 °C, NIST SP 811
    "psi": 6894.757293168,  # NIST SP 811
    "mpa": 1_000_000.0,
    "cmhg": ATMOSPHERE_PA / 76.0,
    "kgf/cm2": 98_066.5,  # exact, with standard gravity
}

_ALIASES: dict[str, str] = {
    "micron": "micron",
    "microns": "micron",
    "mikron": "micron",
    "mikrons": "micron",
    "micrones": "micron",
    "micrometri": "micron",
    "µ": "micron",
    "μ": "micron",
    "um": "micron",
    "µm": "micron",
    "umhg": "micron",
    "µmhg": "micron",
    "μmhg": "micron",
    "pa": "pa",
    "hpa": "hpa",
    "kpa": "kpa",
    "mbar": "mbar",
    "bar": "bar",
    "torr": "torr",
    "mtorr": "mtorr",
    "mmhg": "mmhg",
    "inhg": "inhg",
    "psi": "psi",
    "psia": "psi",
    "psig": "psi",
    "cmhg": "cmhg",
    "inhgvac": "inhg",
    '"hg': "inhg",
    "barg": "bar",
    "kpag": "kpa",
    "mbarg": "mbar",
    "mpag": "mpa",
    "kgf/cm2": "kgf/cm2",
    "kgf/cm²": "kgf/cm2",
    "kg/cm2": "kgf/cm2",
    "kg/cm²": "kgf/cm2",
}

POUND_KG = 0.45359237
"""International pound, kg (exact)."""

FOOT_M = 0.3048
INCH_M = 0.0254
CFM_M3_S = FOOT_M**3 / 60.0
"""One cubic foot per minute, m³/s (exact)."""


def pressure_unit(text: str) -> str | None:
    """Canonical unit name for a written one (``um Hg`` → ``micron``), or None if it is not one.

    Parameters
    ----------
    text : str
        As written: ``"um Hg"``, ``"mTorr"``.

    Returns
    -------
    str or None
        A key of `PA_PER`, None where it is no unit of pressure.

    Examples
    --------
    >>> pressure_unit("um Hg")
    'micron'
    >>> pressure_unit("furlong") is None
    True
    """
    bare = re.sub(r"[\s.\[\]()]+", "", text.strip())
    # With a small m it would be a thousandth of a pascal, which no gauge here shows.
    if bare.lower() in ("mpa", "mpag"):
        return "mpa" if bare.startswith("M") else None
    return _ALIASES.get(bare.lower())


def to_pa(value: float, unit: str) -> float:
    """Absolute pressure in Pa from ``value`` in ``unit`` (a key of `PA_PER`).

    Parameters
    ----------
    value : float
        Absolute, in ``unit``.
    unit : str
        A key of `PA_PER`.

    Returns
    -------
    float
        Pa.

    Raises
    ------
    ValueError
        For a unit that is not in `PA_PER`.

    Examples
    --------
    >>> round(to_pa(500.0, "micron"), 3)
    66.661
    """
    try:
        return value * PA_PER[unit]
    except KeyError:
        raise ValueError(f"unknown pressure unit '{unit}'; use one of {', '.join(PA_PER)}") from None


def from_pa(value: float, unit: str) -> float:
    """Absolute pressure in ``unit`` from Pa.

    Parameters
    ----------
    value : float
        Pa, absolute.
    unit : str
        A key of `PA_PER`.

    Returns
    -------
    float
        In ``unit``.

    Examples
    --------
    >>> round(from_pa(101_325.0, "torr"), 6)
    760.0
    """
    return value / PA_PER[unit]


def micron(pa: float) -> float:
    """Pa to microns.

    Parameters
    ----------
    pa : float
        Pa, absolute.

    Returns
    -------
    float
        µ: 1 µ = 1 mTorr.

    Examples
    --------
    >>> round(micron(133.322368), 3)
    1000.0
    """
    return pa / MICRON_PA


def atmosphere_at(elevation_m: float) -> float:
    """Standard atmospheric pressure, Pa, at ``elevation_m`` (−500 … 11 000 m).

    ISO 2533 (ISA) troposphere: p = 101325 (1 − 2.25577e-5 h)^5.25588.

    Parameters
    ----------
    elevation_m : float
        Above the sea, m, −500 to 11,000.

    Returns
    -------
    float
        Pa.

    Raises
    ------
    ValueError
        Outside the range.

    Examples
    --------
    >>> round(atmosphere_at(0.0))
    101325
    >>> round(atmosphere_at(1600.0))
    83524
    """
    if not -500.0 <= elevation_m <= 11_000.0:
        raise ValueError(f"elevation {elevation_m:g} m is outside −500 … 11,000 m")
    return float(ATMOSPHERE_PA * (1.0 - 2.25577e-5 * elevation_m) ** 5.25588)


ZERO_C = 273.15
"""0 °C in K."""


def kelvin(celsius: float) -> float:
    """°C to K.

    Parameters
    ----------
    celsius : float
        °C.

    Returns
    -------
    float
        K.

    Examples
    --------
    >>> kelvin(20.0)
    293.15
    """
    return celsius + ZERO_C


def celsius(kelvin: float) -> float:
    """K to °C.

    Parameters
    ----------
    kelvin : float
        K.

    Returns
    -------
    float
        °C.

    Examples
    --------
    >>> celsius(273.15)
    0.0
    """
    return kelvin - ZERO_C
