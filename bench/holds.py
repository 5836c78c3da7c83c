"""Holds made by simple physics in small steps, with known truth: for measuring the verdict.

Nothing here knows the accounts that are fitted. Gas evens out between three spaces; water evaporates from a pool that
cools itself and freezes, or comes off walls in two steps; refrigerant diffuses out of a layer of oil that has been
pumped on; hoses let gas through; a leak flows steadily; the sun moves the temperature; the gauge follows late,
drifts, scatters, rounds, is touched, loses readings and shows single bad ones.
"""

from __future__ import annotations

import random
from dataclasses import dataclass, field

import numpy as np
from numba import njit
from numpy.typing import NDArray

from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA, kelvin
from rough_draw.core.physics.water import saturation_pressure

FloatArray = NDArray[np.float64]
KINDS = {
    "tight": 0.40,
    "leak": 0.24,
    "slow-leak": 0.06,
    "water": 0.10,
    "ice": 0.04,
    "bound": 0.05,
    "refrigerant": 0.04,
    "leak-and-water": 0.04,
    "hose": 0.03,
}
LIMIT_MICRON = 500.0
DT = 0.5
CELLS = 40


@dataclass(frozen=True)
class Truth:
    """What is really so: leak µ/s, where all but the leak and hose would end µ, water, refrigerant, hose µ/s."""

    kind: str
    leak: float
    settles: float
    water: bool
    refrigerant: bool
    hose: float


@dataclass(frozen=True)
class Case:
    """A hold as it was read: times s, pressures Pa; what the sheet knows; the truth; how it goes on unseen."""

    time: FloatArray
    pressure: FloatArray
    volume: Quantity
    coldest: float
    quantum: float
    truth: Truth
    hose: Quantity | None
    drawn_s: float
    ran: bool
    touches: tuple[float, ...]
    after: FloatArray = field(repr=False)
    """What the gauge would go on to show, Pa, each second from the isolation on, unscattered and unrounded."""


@njit(cache=True)
def _psat(t: float) -> float:
    """Saturation, Pa, by Magnus' formula: not the relation of the core, within 0.5 % of it."""
    c = t - 273.15
    if c < 0.0:
        return 611.2 * np.exp(22.46 * c / (272.62 + c))
    return 611.2 * np.exp(17.62 * c / (243.12 + c))


@njit(cache=True)
def _run(
    steps: int,
    start: float,
    far: FloatArray,
    tau: FloatArray,
    leak: float,
    leak_far: bool,
    pool: FloatArray,
    walls: FloatArray,
    oil: FloatArray,
    hose: FloatArray,
    cold: float,
    sun: FloatArray,
) -> FloatArray:
    """Pressure, µ, in the gauge's space every half second."""
    out = np.empty(steps)
    # Gas (air) in the gauge's space and in two behind it, µ; shares of the whole volume.
    a, b, c = start, start + far[0], start + far[1]
    share = 1.0 / 3.0
    vapour = pool[4]
    water_t = pool[5]
    bound0, bound1 = 0.0, 0.0
    layer = np.empty(CELLS)
    for i in range(CELLS):
        layer[i] = oil[2 + i]
    given = 0.0
    for k in range(steps):
        t = k * DT
        warm = sun[0] * np.sin(np.pi * t / sun[1]) + sun[2] * t / 1200.0
        out[k] = (a + vapour + bound0 + bound1 + given) * (1.0 + warm / 290.0)
        ab = (b - a) / tau[0] * DT * share
        bc = (c - b) / tau[1] * DT * share
        a += ab / share
        b += (bc - ab) / share
        c -= bc / share
        if leak_far:
            c += leak * DT / share
        else:
            a += leak * DT
            b += leak * DT
            c += leak * DT
        through = (hose[0] + hose[1] / (1.0 + (t + hose[2]) / 600.0)) * DT
        a += through
        b += through
        c += through
        if pool[0] > 0.0:
            rate = max(0.0, (_psat(water_t) / 0.133322368 - vapour) / pool[0])
            vapour += rate * DT
            # Heat in from the wall less what evaporation takes.
            water_t += DT * ((cold + warm - water_t) / pool[1] - rate * pool[2])
        bound0 += (walls[0] - bound0) / walls[1] * DT
        bound1 += (walls[2] - bound1) / walls[3] * DT
        if oil[0] > 0.0:
            x = oil[0] * DT
            flux = layer[0] * oil[1] * DT
            given += flux
            old = layer[0]
            for i in range(CELLS):
                left = 0.0 if i == 0 else old
                right = layer[i + 1] if i + 1 < CELLS else layer[i]
                here = layer[i]
                layer[i] = here + x * (right - here) + (x * (left - here) if i else -2.0 * x * here)
                old = here
    return out


def _layer(diffusion: float, drawn: float) -> FloatArray:
    """What a layer of oil still holds by depth after ``drawn`` s with its surface pumped empty; ``diffusion`` 1/s."""
    c = np.ones(CELLS)
    dt = 0.2 / diffusion
    for _ in range(int(drawn / dt) + 1):
        left = np.concatenate([[-c[0]], c[:-1]])
        right = np.concatenate([c[1:], [c[-1]]])
        c = c + 0.2 * (left - 2 * c + right)
    return c


def _log(rng: random.Random, low: float, high: float) -> float:
    return float(np.exp(rng.uniform(np.log(low), np.log(high))))


@dataclass(kw_only=True)
class Inside:
    """What gives gas off: a leak µ/s, a pool, walls and oil as `_run` takes them; where all but the leak would end, µ,
    and whether water and refrigerant are in it."""

    leak: float
    pool: FloatArray
    walls: FloatArray
    oil: FloatArray
    settles: float
    water: bool = False
    refrigerant: bool = False


def _inside(rng: random.Random, kind: str, start: float, even: float, cold: float, drawn: float) -> Inside:
    """A system of this ``kind`` that begins at ``start`` µ, evens out at ``even`` µ and was drawn on for so many s."""
    left = max(0.0, LIMIT_MICRON * 0.88 - even)
    # Every system still gives a little off; a dry one stays under the limit with it.
    walls = np.array(
        [rng.uniform(0, 0.5) * left, _log(rng, 60, 500), rng.uniform(0, 0.4) * left, _log(rng, 1500, 9000)]
    )
    pool = np.zeros(6)
    pool[5] = cold
    one = Inside(leak=0.0, pool=pool, walls=walls, oil=np.zeros(2 + CELLS), settles=even + (walls[0] + walls[2]))
    if kind in ("leak", "slow-leak", "leak-and-water"):
        leaks = {"leak": _log(rng, 0.3, 20), "slow-leak": rng.uniform(0.05, 0.3), "leak-and-water": _log(rng, 0.5, 10)}
        one.leak = leaks[kind]
    if kind == "tight":
        one.leak = rng.choice([0.0, rng.uniform(0.0, 0.01)])
    if kind in ("water", "ice", "leak-and-water"):
        slow = _log(rng, 300, 1500) if kind == "ice" else _log(rng, 80, 900)
        heat = _log(rng, 10, 120)
        chill = rng.uniform(0.2, 3.0)
        level = float(_psat(cold)) / MICRON_PA
        one.pool = np.array([slow, heat, chill * slow / level / heat, 0.0, 0.5 * start, cold - chill])
        one.settles, one.water = start + level, True
    if kind == "bound":
        level = _log(rng, 1.5 * LIMIT_MICRON, 0.6 * float(_psat(cold)) / MICRON_PA + 400)
        fast = rng.uniform(0.5, 0.9)
        one.walls = np.array([fast * level, _log(rng, 100, 600), (1 - fast) * level, _log(rng, 1000, 4000)])
        one.settles, one.water = even + level, True
    if kind == "refrigerant":
        diffusion = 1.0 / (3600.0 * _log(rng, 3, 60)) * CELLS**2
        shape = _layer(diffusion, drawn)
        one.oil = np.concatenate([[diffusion, _log(rng, 0.4, 6.0) / shape[0]], shape])
        one.settles, one.refrigerant = 10_000.0, True
    return one


def one(seed: int, kind: str | None = None, minutes: float = 20.0, quantum: float | None = None) -> Case:
    """A hold of ``minutes`` by its number: any volume, temperature and gauge."""
    rng = random.Random(seed)
    kind = kind or rng.choices(list(KINDS), list(KINDS.values()))[0]
    volume = _log(rng, 0.8, 200.0)
    cold_c = rng.uniform(-12, -1) if kind == "ice" else rng.uniform(2, 32)
    cold = kelvin(cold_c)
    start = _log(rng, 50, 330)
    room = LIMIT_MICRON * 0.88 - start
    excess = rng.uniform(0, 1) ** 2 * min(room, 200.0)
    if rng.random() < 0.15:
        # The gauge's own space stands higher than the rest: it falls at first.
        excess = -rng.uniform(0.1, 0.4) * start
    far = np.array([excess * rng.uniform(0.6, 1.4), 0.0])
    far[1] = 3 * excess - far[0]
    tau = np.array([_log(rng, 3, 70), _log(rng, 3, 70)])
    drawn = 60.0 * _log(rng, 10, 150)
    x = _inside(rng, kind, start, start + excess, cold, drawn)
    hose_rate, hose_told, new = 0.0, None, (0.0, 0.0, 600.0)
    if kind == "hose" or rng.random() < 0.06:
        hose_rate = _log(rng, 0.05, 1.5)
        said = hose_rate * float(np.exp(rng.gauss(0, 0.4)))
        hose_told = Quantity(said, 0.4 * said, 2.5 * said, "µ/s", "what such hoses let in")
        new = (hose_rate * 0.9, hose_rate * 0.1 * (1 + drawn / 600), drawn)
    far_leak = rng.random() < 0.3
    sun = np.array([rng.gauss(0, 0.8) if rng.random() < 0.3 else 0.0, _log(rng, 600, 3000), rng.gauss(0, 0.3)])
    beyond = int((minutes * 60 + 3700) / DT)
    p = _run(beyond, start, far, tau, x.leak, far_leak, x.pool, x.walls, x.oil, np.array(new), cold, sun)
    # A new system holds no refrigerant, and the sheet says so.
    ran = kind == "refrigerant" or rng.random() < 0.6
    truth = Truth(kind, x.leak, x.settles, x.water, x.refrigerant, hose_rate)
    told = volume * float(np.exp(rng.gauss(0, 0.08)))
    size = Quantity(told * 1e-3, told * 0.85e-3, told * 1.15e-3, "m³", "from the sheet")
    q = quantum if quantum is not None else rng.choice([0.1, 1, 1, 1, 1, 5, 10, 25])
    t, shown, touches, after = _read(rng, p, minutes * 60.0, q)
    coldest = cold + rng.gauss(0, 0.4)
    return Case(t, shown * MICRON_PA, size, coldest, q, truth, hose_told, drawn, ran, touches, after * MICRON_PA)


def _read(
    rng: random.Random, p: FloatArray, span: float, q: float
) -> tuple[FloatArray, FloatArray, tuple[float, ...], FloatArray]:
    """The gauge's readings of a true curve (µ, each half second): times s, µ, when it was touched, and how it goes
    on."""
    noise = np.random.default_rng(rng.getrandbits(32))
    lag = _log(rng, 0.5, 12)
    relative, least = _log(rng, 0.0008, 0.006), rng.uniform(0.02, 0.6) * max(q, 0.3)
    drift = rng.gauss(0, 3.0) / 3600.0
    shown = np.empty(p.size)
    x = p[0]
    keep = np.exp(-DT / lag)
    for k in range(p.size):
        x = p[k] + (x - p[k]) * keep
        shown[k] = x
    at = np.arange(p.size) * DT
    shown = shown * (1.0 + rng.gauss(0, 0.015)) + drift * at
    touches: tuple[float, ...] = ()
    if rng.random() < 0.08:
        when = rng.uniform(0.15, 0.8) * span
        shown = shown + np.where(at >= when, rng.choice([-1, 1]) * _log(rng, 4, 60), 0.0)
        touches = (when,)
    after = shown[::2]
    n = int(span / DT) + 1
    at, shown = at[:n], shown[:n]
    step = rng.choice([1, 1, 1, 1, 2, 5, 10, 30])
    pick = at % step < 1e-9
    if rng.random() < 0.1:
        # Read each second at first, then when someone looks.
        pick &= (at < 0.3 * span) | (at % max(step, rng.choice([15, 30])) < 1e-9)
    if rng.random() < 0.2:
        gap = rng.uniform(0.1, 0.8) * span
        pick &= (at < gap) | (at > gap + rng.uniform(30, 200))
    t = at[pick]
    y = shown[pick] * (1 + relative * noise.normal(size=t.size)) + least * noise.normal(size=t.size)
    y = np.maximum(np.round(y / q) * q, q if q < 5 else 0.0)
    if rng.random() < 0.2:
        for _ in range(rng.randint(1, 3)):
            y[rng.randrange(t.size)] *= rng.choice([0.2, 0.5, 1.6, 8.0])
    return np.asarray(t, dtype=np.float64), np.asarray(y, dtype=np.float64), touches, after


def saturated(case: Case) -> float:
    """Saturation at the coldest spot as the sheet has it, Pa."""
    return saturation_pressure(case.coldest)
