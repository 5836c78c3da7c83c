"""The extension cord to the pump: what it drops running and starting, and which wire would do."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from rough_draw.core.catalogue.rig_parts import CURRENT_PER_CFM, STARTING_CURRENT
from rough_draw.core.message import Fault, Message, message
from rough_draw.core.message.figure import share
from rough_draw.core.sheet.rig import Cord, PumpPart

COPPER = 1.7241e-8
"""Resistivity of annealed copper at 20 °C, Ω·m (IEC 60028)."""
WIRES: tuple[str, ...] = ("18 AWG", "16 AWG", "14 AWG", "12 AWG", "10 AWG", "1.0 mm²", "1.5 mm²", "2.5 mm²", "4.0 mm²")
RUNNING, USABLE, STARTING = 0.03, 0.05, 0.15
"""Share of the voltage that may be lost: running well, running at all, starting (torque goes with its square)."""


@dataclass(frozen=True, kw_only=True)
class CordAnswer:
    """Drops as shares of the voltage, volts at the pump while it starts, the verdict, and the wire that would do."""

    running_a: float
    starting_a: float
    running_drop: float
    starting_drop: float
    volts_starting: float
    verdict: Literal["good", "usable", "no"]
    words: Message
    better: str | None


def wire_area(wire: str) -> float:
    """Copper section, m². AWG n: d = 0.127 mm · 92^((36 − n)/39) (ASTM B258); or mm² as written. ValueError else."""
    number, _, unit = wire.partition(" ")
    try:
        value = float(number)
    except ValueError:
        value = math.nan
    if unit == "AWG" and 0 <= value <= 30:
        diameter = 0.127e-3 * 92.0 ** ((36.0 - value) / 39.0)
        return float(0.25 * math.pi * diameter**2)
    if unit == "mm²" and 0.2 <= value <= 50:
        return value * 1e-6
    raise Fault(message("cord-no-wire", wire=wire))


def drop(length_m: float, wire: str, current_a: float) -> float:
    """Volts lost over a cord of ``length_m``, there and back: 2 L R I."""
    return 2.0 * length_m * COPPER / wire_area(wire) * current_a


def running_current(pump: PumpPart, volts: float) -> float:
    """The pump's current, A: from its plate, or an estimate by displacement, inversely with the voltage."""
    return pump.current_a if pump.current_a is not None else CURRENT_PER_CFM.value * pump.plate_cfm * 120.0 / volts


def _verdict(
    length_m: float, wire: str, volts: float, amps: float
) -> tuple[Literal["good", "usable", "no"], float, float]:
    run = drop(length_m, wire, amps) / volts
    start = drop(length_m, wire, amps * STARTING_CURRENT.value) / volts
    if run <= RUNNING and start <= STARTING:
        return "good", run, start
    return ("usable" if run <= USABLE and start <= 1.5 * STARTING else "no"), run, start


def check_of(cord: Cord | None, pump: PumpPart) -> CordAnswer | None:
    """The same for the cord of a sheet: None without one, and for a wire that nobody can read."""
    try:
        return check(cord, pump) if cord is not None else None
    except Fault:
        return None


def check(cord: Cord, pump: PumpPart) -> CordAnswer:
    """Judge a cord for a pump. Starting current is an estimate, several times running."""
    amps = running_current(pump, cord.volts)
    verdict, run, start = _verdict(cord.length_m, cord.wire, cord.volts, amps)
    family = [w for w in WIRES if w.split()[1] == cord.wire.split()[-1]]
    family.sort(key=wire_area)
    better = None
    if verdict != "good":
        better = next((w for w in family if _verdict(cord.length_m, w, cord.volts, amps)[0] == "good"), None)
    left = cord.volts * (1.0 - min(start, 1.0))
    then = "wire" if better else "none" if verdict == "good" else "nearer"
    words = message(
        f"cord-{verdict}", running=share(run), starting=share(min(start, 1.0)), then=then, wire=better or ""
    )
    return CordAnswer(
        running_a=amps,
        starting_a=amps * STARTING_CURRENT.value,
        running_drop=run,
        starting_drop=start,
        volts_starting=left,
        verdict=verdict,
        words=words,
        better=better,
    )
