"""Figures with their units, as the reader reads them."""

from __future__ import annotations

import math
from collections.abc import Callable

from rough_draw.core.message.figure import Dimension, Figure
from rough_draw.core.physics.units import CFM_M3_S, FOOT_M, INCH_M, PA_PER
from rough_draw.text.numbers import fixed, plain, significant
from rough_draw.text.reader import Reader

POUND_KG = 0.45359237
"""International pound, kg (exact)."""
ZERO_C = 273.15
SUPERSCRIPT = str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹")

VACUUM = {
    "micron": ("micron", "µ"),
    "pa": ("pa", "Pa"),
    "mbar": ("mbar", "mbar"),
    "torr": ("torr", "Torr"),
    "inhg": ("inhg", "inHg abs."),
}
GAUGE = {"psig": ("psi", "psig"), "bar": ("bar", "bar gauge"), "kpa": ("kpa", "kPa gauge")}
ABSOLUTE = {"psig": ("psi", "psia"), "bar": ("bar", "bar abs."), "kpa": ("kpa", "kPa abs.")}
STEP = {"psig": ("psi", "psi"), "bar": ("bar", "bar"), "kpa": ("kpa", "kPa")}
FLOW = {"cfm": (1.0 / CFM_M3_S, "CFM"), "l-min": (60_000.0, "l/min"), "m3-h": (3600.0, "m³/h")}


def _vacuum(pa: float, r: Reader) -> str:
    unit, label = VACUUM[r.vacuum]
    value = pa / PA_PER[unit]
    if unit != "micron":
        return f"{significant(value, 4 if unit == 'inhg' else 3, r.numbers)} {label}"
    if value < 10:
        return f"{fixed(value, 1, r.numbers)} {label}"
    return f"{fixed(round(value, -2) if value >= 20_000 else value, 0, r.numbers)} {label}"


def _rise(pa_s: float, r: Reader) -> str:
    unit, label = VACUUM[r.vacuum]
    value = pa_s / PA_PER[unit]
    written = fixed(value, 0 if abs(value) >= 10 else 2, r.numbers) if unit == "micron" else significant(value, 2)
    return f"{written} {label.removesuffix(' abs.')}/s"


def _of_units(units: dict[str, tuple[str, str]]) -> Callable[[float, Reader], str]:
    def written(pa: float, r: Reader) -> str:
        unit, label = units[r.gauge]
        value = pa / PA_PER[unit]
        size = abs(value)
        places = 0 if value == 0 else {"psi": 0 if size >= 10 else 1, "kpa": 0, "bar": 1 if size >= 1 else 2}[unit]
        return f"{fixed(value, places, r.numbers)} {label}"

    return written


def _temperature(kelvin: float, r: Reader) -> str:
    celsius = kelvin - ZERO_C
    if r.temperature == "f":
        return f"{fixed(32.0 + 1.8 * celsius, 0, r.numbers)} °F"
    return f"{plain(celsius, 1, r.numbers)} °C"


def _temperature_step(kelvin: float, r: Reader) -> str:
    if r.temperature == "f":
        return f"{plain(1.8 * kelvin, 1, r.numbers)} °F"
    return f"{plain(kelvin, 1, r.numbers)} °C"


def _duration(seconds: float, r: Reader) -> str:
    if seconds < 90:
        return f"{fixed(seconds, 0)} s"
    minutes = round(seconds / 60)
    if minutes < 120:
        return f"{minutes} min"
    if minutes < 48 * 60:
        return f"{minutes // 60} h {minutes % 60:02d} min" if minutes % 60 else f"{minutes // 60} h"
    return f"{plain(minutes / 1440, 1, r.numbers)} days"


def _length(m: float, r: Reader) -> str:
    if r.length == "ft":
        inches = m / INCH_M
        if inches >= 240:
            return f"{fixed(inches / 12, 0, r.numbers)} ft"
        feet, rest = divmod(round(inches), 12)
        return " ".join([f"{feet} ft"] * (feet > 0) + [f"{rest} in"] * (rest > 0 or feet == 0))
    return f"{plain(m, 2 if m < 1 else 1, r.numbers)} m"


def _bore(m: float, r: Reader) -> str:
    if r.length == "ft":
        sixteenths = 16.0 * m / INCH_M
        if abs(sixteenths - round(sixteenths)) < 0.02 and 0 < round(sixteenths) < 16:
            k = math.gcd(round(sixteenths), 16)
            return f"{round(sixteenths) // k}/{16 // k} in"
        return f"{significant(m / INCH_M, 2, r.numbers)} in"
    return f"{plain(m * 1e3, 1, r.numbers)} mm"


def _mass(kg: float, r: Reader) -> str:
    if r.mass == "lb-oz":
        ounces = round(16.0 * kg / POUND_KG, 1)
        pounds = int(ounces // 16)
        rest = f"{plain(ounces - 16 * pounds, 1, r.numbers)} oz"
        return f"{fixed(pounds, 0, r.numbers)} lb {rest}" if pounds else rest
    if abs(kg) < 1:
        return f"{significant(1e3 * kg, 2) if abs(kg) < 0.01 else fixed(1e3 * kg, 0)} g"
    return f"{significant(kg, 3, r.numbers)} kg"


def _adder(kg_m: float, r: Reader) -> str:
    if r.mass == "lb-oz":
        return f"{significant(16.0 * kg_m / POUND_KG * FOOT_M, 2, r.numbers)} oz/ft"
    return f"{significant(1e3 * kg_m, 2, r.numbers)} g/m"


def _volume(m3: float, r: Reader) -> str:
    if r.volume == "ft3":
        if m3 < 0.1 * FOOT_M**3:
            return f"{significant(m3 / INCH_M**3, 2, r.numbers)} in³"
        return f"{significant(m3 / FOOT_M**3, 3, r.numbers)} ft³"
    if m3 < 1e-4:
        return f"{significant(1e6 * m3, 2, r.numbers)} ml"
    return f"{significant(1e3 * m3, 3, r.numbers)} l"


def _flow(m3_s: float, r: Reader) -> str:
    factor, label = FLOW[r.flow]
    return f"{significant(factor * m3_s, 3, r.numbers)} {label}"


def _throughput(pa_m3_s: float, r: Reader) -> str:
    if pa_m3_s <= 0:
        return "0 Pa·m³/s"
    mantissa, power = f"{pa_m3_s:.1e}".split("e")
    return f"{fixed(float(mantissa), 1, r.numbers)} × 10{str(int(power)).translate(SUPERSCRIPT)} Pa·m³/s"


def _share(of_one: float, r: Reader) -> str:
    if 0 < of_one < 0.01:
        return "under 1 %"
    if 0.99 < of_one < 1:
        return "over 99 %"
    return f"{fixed(100 * of_one, 0)} %"


def _number(value: float, r: Reader) -> str:
    return plain(value, 2 if abs(value) < 10 else 1 if abs(value) < 100 else 0, r.numbers)


WRITE: dict[Dimension, Callable[[float, Reader], str]] = {
    "vacuum": _vacuum,
    "rise": _rise,
    "gauge-pressure": _of_units(GAUGE),
    "absolute-pressure": _of_units(ABSOLUTE),
    "pressure-step": _of_units(STEP),
    "temperature": _temperature,
    "temperature-step": _temperature_step,
    "duration": _duration,
    "length": _length,
    "bore": _bore,
    "mass": _mass,
    "adder": _adder,
    "volume": _volume,
    "flow": _flow,
    "throughput": _throughput,
    "share": _share,
    "number": _number,
}


def written(figure: Figure, who: Reader) -> str:
    """The figure as ``who`` reads it.

    >>> from rough_draw.core.message.figure import gauge_pressure
    >>> written(gauge_pressure(3.5e6), Reader(gauge="psig")), written(gauge_pressure(3.5e6), Reader(gauge="bar"))
    ('508 psig', '35.0 bar gauge')
    """
    return WRITE[figure.dimension](figure.value, who)
