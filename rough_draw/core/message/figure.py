"""A figure in SI with what it is of, so that whoever shows it knows in which units somebody reads that."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Dimension = Literal[
    "vacuum",
    "rise",
    "gauge-pressure",
    "absolute-pressure",
    "pressure-step",
    "temperature",
    "temperature-step",
    "duration",
    "length",
    "hose-length",
    "bore",
    "mass",
    "weight",
    "adder",
    "volume",
    "flow",
    "throughput",
    "share",
    "number",
]


@dataclass(frozen=True, slots=True)
class Figure:
    """``value`` in SI (Pa, Pa/s, K, s, m, kg, kg/m, m³, m³/s, Pa·m³/s; a share 0 to 1) of a ``dimension``."""

    dimension: Dimension
    value: float


def vacuum(pa: float) -> Figure:
    """An absolute pressure in a vacuum, Pa."""
    return Figure("vacuum", pa)


def rise(pa_s: float) -> Figure:
    """How fast a pressure rises, Pa/s."""
    return Figure("rise", pa_s)


def gauge_pressure(pa: float) -> Figure:
    """A pressure above the air's, Pa."""
    return Figure("gauge-pressure", pa)


def absolute_pressure(pa: float) -> Figure:
    """A pressure above nothing, Pa, where it is not one of a vacuum."""
    return Figure("absolute-pressure", pa)


def pressure_step(pa: float) -> Figure:
    """A difference of two pressures, Pa."""
    return Figure("pressure-step", pa)


def temperature(kelvin: float) -> Figure:
    """A temperature, K."""
    return Figure("temperature", kelvin)


def temperature_step(kelvin: float) -> Figure:
    """A difference of two temperatures, K."""
    return Figure("temperature-step", kelvin)


def duration(seconds: float) -> Figure:
    """How long something takes, s."""
    return Figure("duration", seconds)


def length(m: float) -> Figure:
    """How long something is, m."""
    return Figure("length", m)


def hose_length(m: float) -> Figure:
    """How long a hose is sold as, m: 1.8 m is a 6 ft one."""
    return Figure("hose-length", m)


def bore(m: float) -> Figure:
    """The width of a hole or a tube, m."""
    return Figure("bore", m)


def weight(kg: float) -> Figure:
    """What a scale showed, or the difference of two of its figures, kg: to the gram."""
    return Figure("weight", kg)


def mass(kg: float) -> Figure:
    """A weight, kg."""
    return Figure("mass", kg)


def adder(kg_m: float) -> Figure:
    """Charge for a length of line, kg/m."""
    return Figure("adder", kg_m)


def volume(m3: float) -> Figure:
    """A volume, m³."""
    return Figure("volume", m3)


def flow(m3_s: float) -> Figure:
    """Volume in a time, m³/s."""
    return Figure("flow", m3_s)


def throughput(pa_m3_s: float) -> Figure:
    """Gas in a time, Pa·m³/s."""
    return Figure("throughput", pa_m3_s)


def share(of_one: float) -> Figure:
    """A part of a whole, 0 to 1."""
    return Figure("share", of_one)


def number(value: float) -> Figure:
    """A number of nothing."""
    return Figure("number", value)
