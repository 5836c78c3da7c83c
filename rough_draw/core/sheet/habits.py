"""Where schools differ on the order of touches: a choice for each, and the reason that its people give."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rough_draw.core.message import Message, message
from rough_draw.core.message.figure import vacuum
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.sheet.base import Sheet

Ballast = Literal["10000", "5000", "1500", "seconds", "wet-only", "never"]


class Habits(Sheet):
    """How it is done here: on the sheet, so that the record says it.

    ``ballast``: the level (µ) at which the open ballast is closed, or another rule. ``check_hold``: a short hold at
    about 1,000 µ. ``valve_flush``: ball valves worked once near the target. ``first``: the service valve cracked first.
    ``gauge_off``: when the micron gauge comes off; ``liquid_hose``: when the hose at the liquid port does.
    """

    ballast: Ballast = "5000"
    check_hold: bool = False
    valve_flush: bool = True
    first: Literal["suction", "liquid"] = "suction"
    gauge_off: Literal["last", "first-pressure"] = "last"
    liquid_hose: Literal["last", "first-wisp"] = "last"


@dataclass(frozen=True)
class Option:
    """One choice: its value in the sheet, what it is called, and why its people do it so."""

    value: str
    label: Message
    why: Message


@dataclass(frozen=True)
class Question:
    """What schools differ in: the field, and its choices."""

    field: str
    values: tuple[str, ...]

    @property
    def words(self) -> Message:
        """What is asked."""
        return message(f"habit-{self.field}", level=vacuum(1_000 * MICRON_PA))

    @property
    def options(self) -> tuple[Option, ...]:
        """The choices."""
        return tuple(self._option(v) for v in self.values)

    def _option(self, value: str) -> Option:
        level = vacuum(float(value) * MICRON_PA) if value.isdigit() else vacuum(5_000 * MICRON_PA)
        told = f"habit-{self.field}-{value}"
        return Option(value, message(told, level=level), message(f"{told}.why", level=level))


QUESTIONS: tuple[Question, ...] = (
    Question("ballast", ("10000", "5000", "1500", "seconds", "wet-only", "never")),
    Question("check_hold", ("true", "false")),
    Question("valve_flush", ("true", "false")),
    Question("first", ("suction", "liquid")),
    Question("gauge_off", ("last", "first-pressure")),
    Question("liquid_hose", ("last", "first-wisp")),
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
