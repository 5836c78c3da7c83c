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
}

_ALIASES: dict[str, str] = {
    "micron": "micron",
    "microns": "micron",
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
}

FOOT_M = 0.3048
INCH_M = 0.0254
CFM_M3_S = FOOT_M**3 / 60.0
"""One cubic foot per minute, m³/s (exact)."""


def pressure_unit(text: str) -> str | None:
    """Canonical unit name for a written one (``um Hg`` → ``micron``), or None if it is not one."""
    return _ALIASES.get(re.sub(r"[\s.\[\]()]+", "", text.strip().lower()))


def to_pa(value: float, unit: str) -> float:
    """Absolute pressure in Pa from ``value`` in ``unit`` (a key of `PA_PER`).

    Raises ValueError for an unknown unit.
    """
    try:
        return value * PA_PER[unit]
    except KeyError:
        raise ValueError(f"unknown pressure unit '{unit}'; use one of {', '.join(PA_PER)}") from None


def from_pa(value: float, unit: str) -> float:
    """Absolute pressure in ``unit`` from Pa."""
    return value / PA_PER[unit]


def micron(pa: float) -> float:
    """Pa to microns."""
    return pa / MICRON_PA


def atmosphere_at(elevation_m: float) -> float:
    """Standard atmospheric pressure, Pa, at ``elevation_m`` (−500 … 11 000 m).

    ISO 2533 (ISA) troposphere: p = 101325 (1 − 2.25577e-5 h)^5.25588.
    """
    if not -500.0 <= elevation_m <= 11_000.0:
        raise ValueError(f"elevation {elevation_m:g} m is outside −500 … 11,000 m")
    return float(ATMOSPHERE_PA * (1.0 - 2.25577e-5 * elevation_m) ** 5.25588)


def dial_to_absolute(reading: float, unit: str, atmosphere_pa: float) -> float:
    """Absolute pressure, Pa, from a dial (gauge) vacuum of ``reading`` below the local atmosphere.

    ``unit`` is ``inhg`` or ``psi``; the sign is ignored, as people write both. Raises ValueError
    for a vacuum deeper than the atmosphere that surrounds the dial: "−30 psi" cannot be, and
    nearly always means 30 inHg.
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


def kelvin(celsius: float) -> float:
    """°C to K."""
    return celsius + 273.15
