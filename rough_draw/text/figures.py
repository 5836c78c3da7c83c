"""Figures with their units, as the reader reads them."""

from __future__ import annotations

import math
from collections.abc import Callable

from rough_draw.core.message.figure import Dimension, Figure
from rough_draw.core.physics.display_units import DISPLAY
from rough_draw.core.physics.units import FOOT_M, INCH_M, MICRON_PA, POUND_KG, celsius
from rough_draw.text.numbers import LONGEST, fixed, plain, scientific, significant
from rough_draw.text.reader import Reader

UNITS = {dimension: {u.key: u for u in units} for dimension, units in DISPLAY.items()}
"""What figures can be shown in, by dimension and key."""
ABSOLUTE = {"psig": "psia", "bar": "bar abs.", "kpa": "kPa abs."}
STEP = {"psig": "psi", "bar": "bar", "kpa": "kPa"}
"""What a unit of gauge pressure is called where the air's pressure is in it, and where it is a difference."""


def _vacuum(pa: float, r: Reader) -> str:
    unit = UNITS["pressure"][r.vacuum]
    value = pa * unit.factor
    if unit.key != "micron":
        return f"{significant(value, unit.digits, r.numbers)} {unit.label}"
    if value < 10:
        return f"{fixed(value, 1, r.numbers)} {unit.label}"
    return f"{fixed(round(value, -2) if value >= 20_000 else value, 0, r.numbers)} {unit.label}"


def _rise(pa_s: float, r: Reader) -> str:
    unit = UNITS["pressure"][r.vacuum]
    value = pa_s * unit.factor
    micron = unit.key == "micron"
    if micron:
        # What is no figure has no sign.
        value = value if abs(value) >= 0.005 else 0.0
        said = fixed(value, 0 if abs(value) >= 10 else 2, r.numbers)
    else:
        # Two places of µ/s is as fine as a rise is ever read.
        said = "0" if abs(pa_s) < 0.005 * MICRON_PA else significant(value, 2, r.numbers)
    return f"{said} {unit.label}/s"


def _pressure(pa: float, r: Reader, labels: dict[str, str] | None = None) -> str:
    unit = UNITS["gauge"][r.gauge]
    value = pa * unit.factor
    size = abs(value)
    places = 0 if value == 0 else {"psig": 0 if size >= 10 else 1, "kpa": 0, "bar": 1 if size >= 1 else 2}[unit.key]
    return f"{fixed(value, places, r.numbers)} {labels[unit.key] if labels else unit.label}"


def _temperature(kelvin: float, r: Reader) -> str:
    warm = celsius(kelvin)
    if r.temperature == "f":
        return f"{fixed(32.0 + 1.8 * warm, 0, r.numbers)} °F"
    return f"{plain(warm, 1, r.numbers)} °C"


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
    days = minutes / 1440
    if days < 100:
        return f"{plain(days, 1 if days < 10 else 0, r.numbers)} days"
    if days < 730:
        return f"{plain(days / 30.44, 0, r.numbers)} months"
    return f"{plain(days / 365.25, 0, r.numbers)} years"


def _length(m: float, r: Reader) -> str:
    if m < 0:
        return f"−{_length(-m, r)}"
    if r.length == "ft":
        inches = m / INCH_M
        if inches >= 240:
            return f"{fixed(inches / 12, 0, r.numbers)} ft"
        feet, rest = divmod(round(inches), 12)
        return " ".join([f"{feet} ft"] * (feet > 0) + [f"{rest} in"] * (rest > 0 or feet == 0))
    return f"{plain(m, 2 if m < 1 else 1, r.numbers)} m"


def _hose_length(m: float, r: Reader) -> str:
    feet = m / FOOT_M
    if r.length == "ft" and round(feet) and abs(feet / round(feet) - 1) < 0.02:
        return f"{fixed(feet, 0, r.numbers)} ft"
    return _length(m, r)


def _bore(m: float, r: Reader) -> str:
    if r.length == "ft":
        sixteenths = 16.0 * m / INCH_M
        if abs(sixteenths - round(sixteenths)) < 0.02 and 0 < round(sixteenths) < 16:
            k = math.gcd(round(sixteenths), 16)
            return f"{round(sixteenths) // k}/{16 // k} in"
        return f"{significant(m / INCH_M, 2, r.numbers)} in"
    return f"{plain(m * 1e3, 1, r.numbers)} mm"


def _least(value: float, r: Reader) -> str:
    """A small figure, to the hundredth: nothing smaller is weighed, or matters."""
    if abs(value) < 0.01:
        return f"< {plain(0.01, 2, r.numbers)}"
    return plain(float(f"{value:.2g}"), 2, r.numbers)


def _mass(kg: float, r: Reader) -> str:
    if r.mass == "lb-oz":
        exact = 16.0 * kg / POUND_KG
        if 0 < abs(exact) < 1:
            return f"{_least(exact, r)} oz"
        ounces = round(exact, 1)
        pounds = int(ounces // 16)
        rest = f"{plain(ounces - 16 * pounds, 1, r.numbers)} oz"
        return f"{fixed(pounds, 0, r.numbers)} lb {rest}" if pounds else rest
    if abs(kg) < 1:
        return f"{_least(1e3 * kg, r) if 0 < abs(kg) < 0.01 else fixed(1e3 * kg, 0)} g"
    return f"{significant(kg, 3, r.numbers)} kg"


def _weight(kg: float, r: Reader) -> str:
    if r.mass == "lb-oz" or abs(kg) < 1:
        return _mass(kg, r)
    return f"{fixed(kg, 3 if abs(kg) < 100 else 2, r.numbers)} kg"


def _adder(kg_m: float, r: Reader) -> str:
    if r.mass == "lb-oz":
        return f"{significant(16.0 * kg_m / POUND_KG * FOOT_M, 2, r.numbers)} oz/ft"
    return f"{significant(1e3 * kg_m, 2, r.numbers)} g/m"


def _about(value: float, digits: int, r: Reader) -> str:
    """About so many digits, and none that say nothing: 8, not 8.00."""
    return plain(float(f"{value:.{digits}g}"), 6, r.numbers)


def _volume(m3: float, r: Reader) -> str:
    if r.volume == "ft3":
        if m3 < 0.1 * FOOT_M**3:
            return f"{_about(m3 / INCH_M**3, 2, r)} in³"
        return f"{_about(m3 / FOOT_M**3, 3, r)} ft³"
    if m3 < 1e-4:
        return f"{_about(1e6 * m3, 2, r)} ml"
    return f"{_about(1e3 * m3, 3, r)} l"


def _flow(m3_s: float, r: Reader) -> str:
    unit = UNITS["flow"][r.flow]
    return f"{_about(m3_s * unit.factor, unit.digits, r)} {unit.label}"


def _throughput(pa_m3_s: float, r: Reader) -> str:
    if pa_m3_s <= 0:
        return "0 Pa·m³/s"
    return f"{scientific(pa_m3_s, r.numbers)} Pa·m³/s"


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
    "gauge-pressure": _pressure,
    "absolute-pressure": lambda pa, r: _pressure(pa, r, ABSOLUTE),
    "pressure-step": lambda pa, r: _pressure(pa, r, STEP),
    "temperature": _temperature,
    "temperature-step": _temperature_step,
    "duration": _duration,
    "length": _length,
    "hose-length": _hose_length,
    "bore": _bore,
    "mass": _mass,
    "weight": _weight,
    "adder": _adder,
    "volume": _volume,
    "flow": _flow,
    "throughput": _throughput,
    "share": _share,
    "number": _number,
}


SI: dict[Dimension, str] = {
    "vacuum": " Pa",
    "rise": " Pa/s",
    "gauge-pressure": " Pa",
    "absolute-pressure": " Pa",
    "pressure-step": " Pa",
    "temperature": " K",
    "temperature-step": " K",
    "duration": " s",
    "length": " m",
    "hose-length": " m",
    "bore": " m",
    "mass": " kg",
    "weight": " kg",
    "adder": " kg/m",
    "volume": " m³",
    "flow": " m³/s",
    "throughput": " Pa·m³/s",
    "share": "",
    "number": "",
}
"""Units of what is stored: only figures that nobody has read anywhere are told in them."""


def written(figure: Figure, who: Reader) -> str:
    """The figure as ``who`` reads it; what is no figure of anything is told all the same, and never raises.

    >>> from rough_draw.core.message.figure import gauge_pressure
    >>> written(gauge_pressure(3.5e6), Reader(gauge="psig")), written(gauge_pressure(3.5e6), Reader(gauge="bar"))
    ('508 psig', '35.0 bar gauge')
    """
    if not abs(figure.value) < LONGEST:
        return f"{fixed(figure.value, 0, who.numbers)}{SI[figure.dimension]}"
    return WRITE[figure.dimension](figure.value, who)
