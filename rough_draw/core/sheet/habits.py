"""Where schools differ on the order of touches: a choice for each, and the reason that its people give."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.base import Sheet

Ballast = Literal["10000", "5000", "1500", "seconds", "wet-only", "never"]


class Habits(Sheet):
    """How it is done here: on the sheet, so that the record says it.

    ``ballast``: the level (µ) at which the open ballast is closed, or another rule. ``check_hold``: a short hold at
    about 1,000 µ. ``valve_flush``: ball valves worked once near the target. ``first``: the service valve cracked first.
    """

    ballast: Ballast = "5000"
    check_hold: bool = False
    valve_flush: bool = True
    first: Literal["suction", "liquid"] = "suction"


@dataclass(frozen=True)
class Option:
    """One choice: its value in the sheet, in words, and why its people do it so."""

    value: str
    label: str
    why: str


@dataclass(frozen=True)
class Question:
    """What schools differ in: the field, the question, the choices."""

    field: str
    words: str
    options: tuple[Option, ...]


QUESTIONS: tuple[Question, ...] = (
    Question(
        "ballast",
        "Gas ballast, closed at",
        (
            Option("10000", "10,000 µ", "Most of the water is over by then, and the pump gets deep soonest."),
            Option("5000", "5,000 µ", "Half way: the boiling is nearly done."),
            Option("1500", "1,500 µ", "The oil is kept dry to the end; the last stretch is slower."),
            Option("seconds", "a few seconds", "Only to start the pump lightly; a dry system gives no water."),
            Option("wet-only", "only when wet", "Opened only where water is expected; closed at 5,000 µ."),
            Option("never", "never opened", "The oil is changed instead."),
        ),
    ),
    Question(
        "check_hold",
        "Check-hold at 1,000 µ",
        (
            Option("true", "yes, 2 min", "A leak shows before an hour is spent on it."),
            Option("false", "no", "The curve of the draw says as much, and nothing is stopped."),
        ),
    ),
    Question(
        "valve_flush",
        "Ball valves worked near the target",
        (
            Option("true", "yes, once", "The gas caught round each ball comes out now and not in the hold."),
            Option("false", "no", "Valves whose balls are vented need none, and each turn wears a seal."),
        ),
    ),
    Question(
        "first",
        "Service valve cracked first",
        (
            Option("suction", "suction", "Vapour comes first, and no liquid shoots through the line."),
            Option("liquid", "liquid", "The metering device throttles what comes; the suction side fills slowly."),
        ),
    ),
)


def ballast_level(habits: Habits, wet: bool) -> float | None:
    """Level, Pa, at which the ballast is closed; None where it is not opened at all.

    "A few seconds" closes at the first reading that a gauge gives, 100,000 µ. ``wet``: water is expected.
    """
    match habits.ballast:
        case "never":
            return None
        case "wet-only":
            return 5_000 * MICRON_PA if wet else None
        case "seconds":
            return 100_000 * MICRON_PA
        case figure:
            return float(figure) * MICRON_PA


def is_wet(condition: str, free_water_g: float | None) -> bool:
    """Whether water is expected in the system: it stood open for long, drew air, burnt, was flooded, or holds water."""
    return condition in ("leak-drawn-air", "compressor-burnt", "flooded") or bool(free_water_g)
