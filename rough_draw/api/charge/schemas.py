"""What the API says of charging and of the running system."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from rough_draw.api.said import Said
from rough_draw.api.schemas import Body
from rough_draw.core.charging.superheat import Judgement


class ScaleIn(Body):
    """Attach the simulated scale, or change its pace."""

    speed: int = Field(10, description="1, 10, 60 or 300 times real time")


class ScaleTouch(Body):
    """A touch at the cylinder or the unit while weighing in."""

    kind: Literal[
        "cylinder-open",
        "cylinder-throttle",
        "cylinder-shut",
        "cylinder-next",
        "compressor-on",
        "compressor-off",
        "scale-zero",
    ]


class CylinderOut(BaseModel):
    """A cylinder that was opened: kg before, after (None while it stands open), and what it gave."""

    start_kg: float
    end_kg: float | None
    given_kg: float


class ChargingOut(BaseModel):
    """Where the charge stands; ``start_kg`` and ``end_kg`` of the cylinder on the scale now.

    Weights kg, pressures Pa absolute, temperatures K, flow g/s.
    """

    to_weigh_kg: float | None
    words: Said
    liquid: Said
    phase: str
    order: Said
    why: Said
    added_kg: float | None
    left_kg: float | None
    stop_at_kg: float | None
    flow_g_s: float
    seconds: float | None
    cautions: list[Said]
    scale: bool
    stale: bool
    speed: float
    weight_kg: float | None
    start_kg: float | None
    end_kg: float | None
    cylinders: list[CylinderOut]
    valve: str
    running: bool
    hose_kg: float
    scale_simulated: bool
    bubble_gauge_pa: float | None
    dew_gauge_pa: float | None
    at: list[float]
    kg: list[float]


class RunningJudgedOut(BaseModel):
    """What one figure of the running readings is, against what it should be."""

    case: Judgement
    words: Said


class RunningOut(BaseModel):
    """One set of running readings, worked out. Temperatures °C, superheat and subcooling K."""

    dew_c: float | None
    bubble_c: float | None
    superheat: float | None
    subcooling: float | None
    judged: list[RunningJudgedOut]
    fault: Said


class RunningsOut(BaseModel):
    """The first readings and the later ones, and what they are measured against (K)."""

    first: RunningOut | None
    later: RunningOut | None
    superheat: tuple[float, float]
    subcooling: tuple[float, float]
