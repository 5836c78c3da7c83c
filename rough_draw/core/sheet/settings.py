"""How a person reads figures, and what the firm's time is worth."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from rough_draw.core.sheet.base import Long, Sheet, Text
from rough_draw.core.sheet.habits import Habits
from rough_draw.core.sheet.oil_rule import OilRule


class Settings(Sheet):
    """Units on screen, hourly rate for the worth of a purchase, minutes between sites.

    ``pressure``: of a vacuum, absolute; ``gauge``: above the air's; ``numbers``: how they are
    written (1,234.5; 1.234,5; 1 234,5); ``english``: the words of the trade here or there;
    ``firm`` and ``address``: as they stand on papers; ``oil_rule``: when a pump's oil is due;
    ``habits``: what a new sheet starts with where schools differ.
    """

    pressure: Literal["micron", "pa", "mbar", "torr", "inhg"] = "micron"
    temperature: Literal["c", "f"] = "c"
    flow: Literal["cfm", "l-min", "m3-h"] = "cfm"
    length: Literal["m", "ft"] = "m"
    mass: Literal["kg", "lb-oz"] = "kg"
    volume: Literal["l", "ft3"] = "l"
    gauge: Literal["psig", "bar", "kpa"] = "psig"
    barometer: Literal["hpa", "inhg"] = "hpa"
    capacity: Literal["kw", "tons", "btu-h"] = "kw"
    numbers: Literal["point", "comma", "space"] = "point"
    english: Literal["us", "uk"] = "us"
    hourly_rate: float = Field(60.0, ge=0, le=10_000)
    currency: Text = ""
    firm: Text = ""
    address: Long = ""
    travel_min: float = Field(15.0, ge=0, le=600)
    oil_rule: OilRule = OilRule()
    habits: Habits = Habits()
