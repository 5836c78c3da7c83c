"""Refrigerant properties from the property library: saturation, liquid density, by temperature.

The library takes seconds to import, so it is loaded when first asked for, or ahead by `load` in the background;
nothing of the vacuum side needs it.
"""

from __future__ import annotations

import math
import threading
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from rough_draw.core.catalogue import tube
from rough_draw.core.catalogue.fluids import REFRIGERANTS

_lock = threading.Lock()
_library: Any = None


def load() -> Any:
    """Import the property library once; later calls return it at once."""
    global _library
    with _lock:
        if _library is None:
            import CoolProp.CoolProp as library

            _library = library
    return _library


def ready() -> bool:
    """Whether the library is loaded, so that an answer takes milliseconds."""
    return _library is not None


@dataclass(frozen=True)
class Saturated:
    """At ``temperature`` K: bubble and dew pressure Pa (equal for a pure fluid), liquid density kg/m³."""

    temperature: float
    bubble: float
    dew: float
    liquid_density: float


def _fluid(name: str) -> str:
    """The library's name of a refrigerant of ours: pure fluids and blends under their number."""
    if name not in REFRIGERANTS:
        raise ValueError(f"no refrigerant '{name}'; choose one of {', '.join(REFRIGERANTS)}")
    plain = name.replace("-", "")
    return plain if plain in ("R134a", "R1234yf", "R32", "R290", "R600a") else f"{plain}.mix"


@lru_cache(maxsize=512)
def saturated(name: str, temperature: float) -> Saturated:
    """Saturation of a refrigerant of the catalogue at ``temperature`` K (230–340 K).

    Reference equations of state as the library has them; blends by their published composition.
    Raises ValueError outside the range or above the critical point.
    """
    if not 230.0 <= temperature <= 340.0:
        raise ValueError(f"{temperature - 273.15:.0f} °C is outside −43 … 67 °C")
    library, fluid = load(), _fluid(name)
    bubble = float(library.PropsSI("P", "T", temperature, "Q", 0, fluid))
    dew = float(library.PropsSI("P", "T", temperature, "Q", 1, fluid))
    density = float(library.PropsSI("D", "T", temperature, "Q", 0, fluid))
    return Saturated(temperature, bubble, dew, density)


def line_adder(name: str, size: str, temperature: float = 308.15) -> float:
    """Liquid that a metre of full line holds, kg/m: density at ``temperature`` K (35 °C) × π/4 d².

    What makers give as adder by line size is this, rounded; theirs wins where it is known.
    """
    return saturated(name, temperature).liquid_density * 0.25 * math.pi * tube.bore(size) ** 2
