"""Write the saturation table of the catalogue's refrigerants from the property library (CoolProp)."""

from __future__ import annotations

import math
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from rough_draw.core.catalogue.fluids import REFRIGERANTS

if TYPE_CHECKING:
    from scipy.interpolate import CubicSpline

LOWEST, STEP, KNOTS = 226.0, 4.0, 30
OUT = Path(__file__).parents[1] / "rough_draw" / "core" / "physics" / "saturation.py"
PURE = ("R12", "R22", "R23", "R32", "R123", "R134a", "R152a", "R245fa", "R290", "R600a", "R717", "R744")
PURE = (*PURE, "R1233zd(E)", "R1234yf", "R1234ze(E)", "R1270", "R507A")
HEAD = '''"""Saturation of the refrigerants from reference equations of state: written by scripts/saturation."""

from __future__ import annotations

LOWEST = {lowest}
STEP = {step}
"""K: the first temperature of every row, and from one to the next."""

# ruff: noqa: E501
# fmt: off
SATURATION: dict[str, tuple[tuple[float, ...], tuple[float, ...], tuple[float, ...]]] = {{
'''


def fluid(name: str) -> str:
    """The library's name of a refrigerant of ours: pure fluids, and blends by their published composition."""
    plain = name.replace("-", "")
    return plain if plain in PURE else f"{plain}.mix"


def asked(name: str, kelvin: float) -> tuple[float, float, float] | None:
    """Bubble and dew pressure, Pa, and liquid density, kg/m³; None where the library finds none."""
    # Four seconds of loading, for those only who ask.
    import CoolProp.CoolProp as library

    found = []
    for what, quality in (("P", 0), ("P", 1), ("D", 0)):
        try:
            found.append(float(library.PropsSI(what, "T", kelvin, "Q", quality, fluid(name))))
        except ValueError:
            return None
    bubble, dew, density = found
    return (bubble, dew, density) if all(math.isfinite(x) for x in found) else None


def curve(name: str) -> tuple[CubicSpline, float]:
    """The three, as logarithms over 1/T, through every kelvin at which the library answers; and the highest of them.

    Its solver for blends fails at spots between others where it does not.
    """
    from scipy.interpolate import CubicSpline

    kelvins = [t for t in np.arange(LOWEST - 2.0, LOWEST + STEP * KNOTS, 1.0) if asked(name, t) is not None]
    values = np.log([asked(name, t) for t in kelvins])
    order = np.argsort(1.0 / np.array(kelvins))
    return CubicSpline(1.0 / np.array(kelvins)[order], values[order]), kelvins[-1]


def main() -> None:
    """Write the table: every row as far up as the library goes."""
    text = HEAD.format(lowest=LOWEST, step=STEP)
    for name in REFRIGERANTS:
        spline, top = curve(name)
        knots = [LOWEST + n * STEP for n in range(KNOTS) if LOWEST + n * STEP <= top]
        print(f"{name}: to {knots[-1]:.0f} K")
        text += f'    "{name}": (\n'
        for column in np.exp(spline([1.0 / t for t in knots])).T:
            figures = ", ".join(f"{x:.7g}" if x < 1e6 else f"{x:.0f}" for x in column)
            text += f"        ({figures}),\n"
        text += "    ),\n"
    OUT.write_text(text + "}\n# fmt: on\n")


if __name__ == "__main__":
    main()
