"""The grid of models that the accounts of a hold are weighed over: their shapes, and the priors of their amounts."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from rough_draw.core.catalogue.rig_parts import RUBBER_TAU
from rough_draw.core.hold.binning import Data
from rough_draw.core.hold.hypotheses import (
    BEND,
    BEND_LEAST,
    DYING,
    DYING_TAUS,
    EARLY,
    FILM,
    FILM_TAU,
    ROOT,
    ROOT_SHARES,
    RUBBER,
    SATURATION_SPREAD,
    SCALES,
    SETTLE_SPREAD,
    SETTLE_TAU,
    STRAIGHT,
    SUN,
    WALLS,
    WALLS_RATE,
    WALLS_SHARE,
    WALLS_TAU,
    WATER_SPREAD,
    WATER_TAU,
    rise_shape,
)
from rough_draw.core.physics.units import ATMOSPHERE_PA, MICRON_PA

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]

SETTLES = np.geomspace(6.0, 420.0, 12)
WATERS = np.geomspace(40.0, 6000.0, 22)
STEP_SIZE = 500.0 * MICRON_PA


@dataclass(frozen=True)
class Setting:
    """What is known beside the readings: saturation at the coldest spot and the air, Pa; s of pumping before."""

    saturation: float
    drawn: float
    atmosphere: float = ATMOSPHERE_PA


@dataclass(frozen=True, kw_only=True)
class Basis:
    """All shapes at the bins' times (n, m), and where each stands: settling, water, rises by (kind, scale), steps."""

    x: FloatArray
    settle: IntArray
    water: IntArray
    rises: dict[tuple[str, float], int]
    bend: int
    film: int
    early: tuple[int, ...]
    steps: tuple[int, ...]


def make_basis(data: Data, setting: Setting) -> Basis:
    """The shapes on this hold's bins."""
    t = data.time
    columns = [np.ones_like(t)]
    columns += [1.0 - np.exp(-t / tau) for tau in SETTLES]
    columns += [1.0 - np.exp(-t / tau) for tau in WATERS]
    rises: dict[tuple[str, float], int] = {}
    scales = [(STRAIGHT, 0.0), (WALLS, WALLS_TAU)]
    scales += [(ROOT, share * setting.drawn) for share in ROOT_SHARES] + [(DYING, t) for t in DYING_TAUS]
    scales.append((RUBBER, RUBBER_TAU.value))
    for kind, scale in scales:
        rises[(kind, scale)] = len(columns)
        columns.append(rise_shape(kind, t, scale))
    bend = len(columns)
    columns.append(bend_shape(t, data.span))
    columns.append(1.0 - np.exp(-t / FILM_TAU))
    early = tuple(range(len(columns), len(columns) + len(EARLY)))
    columns += [1.0 - np.exp(-t / tau) for tau, _, _ in EARLY]
    steps = tuple(range(len(columns), len(columns) + len(data.steps)))
    columns += [(t >= at).astype(float) for at in data.steps]
    n = SETTLES.size
    water = np.arange(1 + n, 1 + n + WATERS.size)
    return Basis(
        x=np.stack(columns, axis=1),
        settle=np.arange(1, 1 + n),
        water=water,
        rises=rises,
        bend=bend,
        film=bend + 1,
        early=early,
        steps=steps,
    )


def bend_shape(t: FloatArray, span: float) -> FloatArray:
    """A parabola through both ends of the hold, one quarter deep at its middle; it goes no further."""
    x = np.minimum(t / max(span, 1.0), 1.0)
    result: FloatArray = x * (1.0 - x)
    return result


@dataclass(frozen=True, kw_only=True)
class Model:
    """Models of one form over the grid: columns (n, k), prior means and precisions, log prior weight, and the
    shapes."""

    cols: IntArray
    mean: FloatArray
    precision: FloatArray
    weight: FloatArray
    rise: tuple[str, float] | None
    sun: FloatArray


@dataclass(frozen=True, kw_only=True)
class _Grid:
    """The shapes of one form, a row a model: its settling column and size, log prior weight; and with water its
    column, level and that level's spread, Pa."""

    weight: FloatArray
    settle: IntArray
    size: FloatArray
    water: IntArray
    level: FloatArray
    spread: FloatArray
    bound: FloatArray


def _grid(basis: Basis, data: Data, setting: Setting, water: bool, whole: float) -> _Grid:
    """Every settling time by every scale, and with water by every time and level of it."""
    m = MICRON_PA
    scales = [(s * m, w) for s, w in SCALES] + [(0.12 * whole, 0.15)]
    settle = np.arange(SETTLES.size)
    if water:
        settle, scales = settle[::2], [(160.0 * m, 0.6), (0.12 * whole + 40 * m, 0.4)]
    tau_prior = _normal(np.log(SETTLES[settle] / SETTLE_TAU) / SETTLE_SPREAD)
    tau_prior /= tau_prior.sum()
    # (settling, scale) and, with water, (time, level).
    a, s = (x.ravel() for x in np.meshgrid(np.arange(settle.size), np.arange(len(scales)), indexing="ij"))
    weight = np.log(tau_prior[a]) + np.log(np.array([w for _, w in scales])[s])
    size = np.array([x for x, _ in scales])[s]
    column = basis.settle[settle[a]]
    if not water:
        none = np.zeros(weight.size)
        return _Grid(
            weight=weight,
            settle=column,
            size=size,
            water=np.zeros(weight.size, dtype=np.int64),
            level=none,
            spread=none,
            bound=none,
        )
    levels, spreads, odds = _levels(data, setting)
    time_prior = _normal(np.log(WATERS / WATER_TAU) / WATER_SPREAD)
    time_prior /= time_prior.sum()
    # Levels outermost: neighbours then share the columns that need not be factored again.
    c, i, j = (
        x.ravel() for x in np.meshgrid(np.arange(levels.size), np.arange(a.size), np.arange(WATERS.size), indexing="ij")
    )
    # Evaporation faster than the settling beside it says the same twice.
    apart = WATERS[j] > 1.5 * SETTLES[settle[a[i]]]
    i, j, c = i[apart], j[apart], c[apart]
    return _Grid(
        weight=weight[i] + np.log(time_prior[j]) + np.log(odds[c]),
        settle=column[i],
        size=size[i],
        water=basis.water[j],
        level=levels[c],
        spread=spreads[c],
        bound=np.where(c > 0, levels[c], 0.1 * levels[c]),
    )


class _Columns:
    """Columns of a form, filled in their order, with the priors of their amounts."""

    def __init__(self, models: int, count: int) -> None:
        self.cols = np.zeros((models, count), dtype=np.int64)
        self.mean, self.precision = np.zeros((models, count)), np.zeros((models, count))
        self.filled = 0

    def add(self, column: int | IntArray, mean: float | FloatArray, precision: float | FloatArray) -> None:
        """The next column: which of the basis, and its prior."""
        k = self.filled
        self.cols[:, k], self.mean[:, k], self.precision[:, k] = column, mean, precision
        self.filled += 1


def make_models(
    basis: Basis, data: Data, setting: Setting, water: bool, rise: tuple[str, float] | None, bins: int
) -> Model:
    """The grid of one form. Order of columns: steps, walls, film, early, bend, sun, level, settling, water, rise
    (which must be last)."""
    whole = max(float(np.abs(data.pressure[:bins] - data.pressure[0]).max()), 20.0 * MICRON_PA)
    grid = _grid(basis, data, setting, water, whole)
    straight = rise is not None and rise[0] == STRAIGHT
    # Settling and level have a column each beside what is added by name.
    count = len(basis.steps) + 3 + len(EARLY) + (not straight) + 2 + water + (rise is not None)
    made = _Columns(grid.weight.size, count)
    for at in basis.steps:
        made.add(at, 0.0, STEP_SIZE**-2)
    # What water is bound comes off in more than one step.
    tail = WALLS_SHARE * grid.bound / WALLS_TAU
    made.add(basis.rises[(WALLS, WALLS_TAU)], WALLS_RATE[0], (WALLS_RATE[1] ** 2 + tail**2) ** -1)
    made.add(basis.film, FILM[0], FILM[1] ** -2)
    for at, (_, least, part) in zip(basis.early, EARLY, strict=True):
        made.add(at, 0.0, float(np.hypot(least, part * whole)) ** -2)
    share = float(data.time[bins - 1]) / max(data.span, 1.0)
    made.add(basis.bend, 0.0, (float(np.hypot(4.0 * BEND * whole, BEND_LEAST)) / max(share, 0.05) ** 2) ** -2)
    sun = drift_of(data, bins, grid.level)
    if not straight:
        # Beside a straight rise it cannot be told from it, and widens that one's error instead.
        made.add(basis.rises[(STRAIGHT, 0.0)], 0.0, sun**-2)
    made.add(0, 0.0, 0.0)
    made.add(grid.settle, 0.0, grid.size**-2)
    if water:
        made.add(grid.water, grid.level, grid.spread**-2)
    if rise is not None:
        made.add(basis.rises[rise], 0.0, 0.0)
    return Model(cols=made.cols, mean=made.mean, precision=made.precision, weight=grid.weight, rise=rise, sun=sun)


def drift_of(data: Data, bins: int, level: FloatArray) -> FloatArray:
    """One standard deviation, Pa/s, of what the sun does to a hold: gas by 0.35 %/K, ``level`` Pa of vapour by 6.5
    %/K."""
    span = max(float(data.time[bins - 1]), 900.0)
    gas = SUN / 290.0 * float(np.median(data.pressure[:bins])) + 0.5 * MICRON_PA
    result: FloatArray = np.hypot(gas, 0.065 * SUN * 0.6 * level) / span
    return result


def _levels(data: Data, setting: Setting) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Prior of the vapour's rise, Pa, as a sum of normals: half near saturation, half anywhere under it."""
    first = float(data.pressure[0])
    sat = setting.saturation
    # What stood there at first may be vapour already, or gas that stays.
    free = (max(sat - 0.5 * first, 0.2 * sat), float(np.hypot(SATURATION_SPREAD * sat, 0.4 * min(first, sat))))
    bound = np.geomspace(min(150.0 * MICRON_PA, 0.2 * sat), 0.75 * sat, 7)
    centre = np.concatenate([[free[0]], bound])
    width = np.concatenate([[free[1]], 0.4 * bound])
    odds = np.concatenate([[0.5], np.full(7, 0.5 / 7)])
    return centre, width, odds


def _normal(x: FloatArray) -> FloatArray:
    result: FloatArray = np.exp(-0.5 * x**2)
    return result
