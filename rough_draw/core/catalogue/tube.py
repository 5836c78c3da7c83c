"""Copper tube for refrigeration: outside diameters and walls."""

from __future__ import annotations

from rough_draw.core.physics.units import INCH_M

_B280 = "ASTM B280 (annealed coils to 3/4 in, drawn lengths above)"
_EN = "EN 12735-1"

ACR_INCH: dict[str, tuple[float, float]] = {
    "1/4 in": (0.250, 0.030),
    "5/16 in": (0.3125, 0.032),
    "3/8 in": (0.375, 0.032),
    "1/2 in": (0.500, 0.032),
    "5/8 in": (0.625, 0.035),
    "3/4 in": (0.750, 0.042),
    "7/8 in": (0.875, 0.045),
    "1-1/8 in": (1.125, 0.050),
    "1-3/8 in": (1.375, 0.055),
    "1-5/8 in": (1.625, 0.060),
    "2-1/8 in": (2.125, 0.070),
    "2-5/8 in": (2.625, 0.080),
}
"""Outside diameter and wall, in, ASTM B280."""

ACR_METRIC: dict[str, tuple[float, float]] = {
    "6 mm": (6.0, 1.0),
    "8 mm": (8.0, 1.0),
    "10 mm": (10.0, 1.0),
    "12 mm": (12.0, 1.0),
    "15 mm": (15.0, 1.0),
    "16 mm": (16.0, 1.0),
    "18 mm": (18.0, 1.0),
    "22 mm": (22.0, 1.0),
    "28 mm": (28.0, 1.5),
    "35 mm": (35.0, 1.5),
    "42 mm": (42.0, 1.5),
    "54 mm": (54.0, 2.0),
}
"""Outside diameter and wall, mm, EN 12735-1."""

SIZES: tuple[str, ...] = (*ACR_INCH, *ACR_METRIC)


def bore(size: str) -> float:
    """Inside diameter, m, of a copper tube by its nominal size (a key of `ACR_INCH` or `ACR_METRIC`).

    Raises ValueError for a size not in the tables.
    """
    if size in ACR_INCH:
        od, wall = ACR_INCH[size]
        return (od - 2.0 * wall) * INCH_M
    if size in ACR_METRIC:
        od, wall = ACR_METRIC[size]
        return (od - 2.0 * wall) * 1e-3
    raise ValueError(f"no copper tube of size '{size}'; sizes are {', '.join(SIZES)}")


def source(size: str) -> str:
    """The standard that gives the size."""
    return _B280 if size in ACR_INCH else _EN
