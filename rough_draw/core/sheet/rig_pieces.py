"""The parts of a rig: pump, tees, hoses, manifold, tools, fittings, gauges, cylinders.

Each has one pointer: ``on`` names the part it is screwed to (toward the pump, or toward the port in a chain that stands
on a port), ``at`` the outlet there, ``port`` the service port its own end is screwed on. What older sheets do not say
has the default that they meant.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from rough_draw.core.catalogue.rig_parts import GAUGES, HOSE_SIZES, MANIFOLD_BORE, TOOL_BORE
from rough_draw.core.message import Name, message
from rough_draw.core.sheet.base import Sheet, Slug, Text, fault, one_of
from rough_draw.core.sheet.scope import PortSize

IntakeSize = Literal["1/4 in", "3/8 in", "1/2 in", "3/4 in"]
"""Fitting of a pump's intake."""
HoseSize = Annotated[str, one_of(HOSE_SIZES, "hose-size", "size")]


class Piece(Sheet):
    """What every part of a rig has: its id, where it is screwed on, and the kit it is taken from."""

    id: Slug
    name: Text = ""
    kit: int | None = Field(None, ge=1)
    on: Slug | None = None
    at: Slug = "end"
    port: Slug | None = None

    def called(self) -> Name:
        """Its own name, or what it is."""
        return self.name or message(f"part-{getattr(self, 'kind', 'hose')}")

    def outlets(self) -> tuple[str, ...]:
        """Outlets that other parts can be screwed on."""
        return ("end",)


class PumpPart(Piece):
    """A rotary-vane pump: plate displacement, stages, measured blank-off, oil, its own valve, its motor's current.

    ``intake``: the fitting that is used. ``dial``: a coarse needle of its own. A2L and A3 are two ratings.
    """

    kind: Literal["pump"] = "pump"
    plate_cfm: float = Field(5.0, ge=0.5, le=100)
    stages: Literal[1, 2] = 2
    blank_off_micron: float | None = Field(None, ge=1, le=20_000)
    oil: Literal["fresh", "used", "wet"] = "fresh"
    valve: bool = True
    ballast: bool = True
    intake: IntakeSize = "1/2 in"
    dial: bool = False
    rated_a2l: bool = True
    rated_a3: bool = True
    current_a: float | None = Field(None, gt=0, le=60)

    @model_validator(mode="before")
    @classmethod
    def _ratings(cls, values: object) -> object:
        """Older sheets had one rating for both."""
        if isinstance(values, dict) and "rated_a3" not in values and "rated_a2l" in values:
            return {**values, "rated_a3": values["rated_a2l"]}
        return values

    def outlets(self) -> tuple[str, ...]:
        """Its intake, and a small second place for a gauge."""
        return ("end", "side")


class TeePart(Piece):
    """A tee: one way in, ``ways`` out."""

    kind: Literal["tee"] = "tee"
    ways: Literal[2, 3] = 2

    def outlets(self) -> tuple[str, ...]:
        """Outlets by letter."""
        return ("a", "b", "c")[: self.ways]


class HosePart(Piece):
    """A hose by nominal bore, length, what it is made for, and age.

    ``depressor``: the pin that pushes a valve core is still in its system end. ``ball_end``: a ball valve there;
    ``low_loss``: an end that shuts itself off. ``size_far``: a tapered hose's bore toward the system. ``near_end``,
    ``far_end``: flare fittings narrower than the hose's own ends. ``rated_kpa``: the pressure it stands, gauge.
    """

    kind: Literal["hose"] = "hose"
    size: HoseSize = "3/8 in"
    size_far: HoseSize | None = None
    length_m: float = Field(1.5, ge=0.05, le=60)
    made_for: Literal["vacuum", "pressure"] = "vacuum"
    age: Literal["new", "used", "old"] = "used"
    depressor: bool = False
    ball_end: bool = False
    low_loss: bool = False
    near_end: PortSize | None = None
    far_end: PortSize | None = None
    rated_kpa: float | None = Field(None, gt=0, le=20_000)
    fits: PortSize = "1/4 in"


class ManifoldPart(Piece):
    """A manifold. ``inlet``: the place the pump's hose is on; each other place has its own valve but the centre.

    ``dials``: it shows positive pressure.
    """

    kind: Literal["manifold"] = "manifold"
    body: Annotated[str, one_of(MANIFOLD_BORE, "manifold", "body")] = "four-port"
    inlet: Literal["vacuum", "charge", "centre", "high", "low"] = "vacuum"
    dials: bool = True

    def places(self) -> tuple[str, ...]:
        """All its places, the inlet among them."""
        return ("low", "high", "centre") if self.body == "two-valve" else ("low", "high", "vacuum", "charge")

    def valved(self, place: str) -> bool:
        """Whether a valve stands between a place and the body: all but the centre of a two-valve manifold."""
        return place not in ("centre", "sensor")

    def outlets(self) -> tuple[str, ...]:
        """Places other than the inlet, and the small one for a built-in sensor."""
        return (*(p for p in self.places() if p != self.inlet), "sensor")

    @model_validator(mode="after")
    def _inlet(self) -> ManifoldPart:
        if self.inlet not in self.places():
            raise fault(f"rig.parts.{self.id}", "manifold-port", port=self.inlet)
        return self


class ToolPart(Piece):
    """A core tool: a ball valve that takes the core out under pressure or vacuum; its side port is by the port.

    It has no pin: a core left in the port under it keeps the port shut. ``plunger``: at the hose's end (the hose sits
    where it goes) or one of its own. ``side_core``: the side port has a core of its own, which must be pushed.
    """

    kind: Literal["tool"] = "tool"
    bore: Annotated[str, one_of(TOOL_BORE, "tool-bore", "size")] = "3/8 in"
    vacuum_rated: bool = True
    plunger: Literal["hose-end", "own"] = "hose-end"
    side_core: bool = False
    fits: PortSize = "1/4 in"

    def outlets(self) -> tuple[str, ...]:
        """Its side port; and its hose end where nothing nearer the pump is screwed on it."""
        return ("side",) if self.on is not None and self.port is not None else ("end", "side")


class AdapterPart(Piece):
    """A fitting from one size to another, or a coupling. ``depressor``: it pushes the core of what it is screwed on."""

    kind: Literal["adapter"] = "adapter"
    fits: PortSize = "5/16 in"
    depressor: bool = False


class ValvePart(Piece):
    """A plain ball valve in the line."""

    kind: Literal["valve"] = "valve"
    vacuum_rated: bool = True
    fits: PortSize = "1/4 in"


class GaugePart(Piece):
    """A micron gauge. ``make`` is its generic class; ``valve``: it has a shut-off of its own built in.

    ``offset_micron``: what it is known to read too high (or, under 0, too low). ``shows_kpa``: it shows positive
    pressure too, up to this, gauge. ``depressor``: it pushes a core in what it is screwed on.
    """

    kind: Literal["gauge"] = "gauge"
    make: Annotated[str, one_of(GAUGES, "gauge-class", "make")] = "thermistor"
    resolution_micron: float = Field(1.0, gt=0, le=1000)
    over_micron: float = Field(20_000.0, ge=1000, le=800_000)
    noise_pct: float = Field(0.4, ge=0, le=20)
    stands_kpa: float = Field(3500.0, gt=0, le=20_000)
    offset_micron: float = Field(0.0, ge=-5_000, le=5_000)
    shows_kpa: float | None = Field(None, gt=0, le=20_000)
    valve: bool = False
    depressor: bool = True
    fits: PortSize = "1/4 in"

    def outlets(self) -> tuple[str, ...]:
        """Nothing goes on behind a gauge."""
        return ()


class CylinderPart(Piece):
    """A refrigerant cylinder, on a scale or not. Its own valve is shut unless it is opened.

    ``dip_tube``: liquid comes when it stands upright; without one, only when it stands on its head; None is not known.
    ``net_kg``: the refrigerant in it.
    """

    kind: Literal["cylinder"] = "cylinder"
    on_scale: bool = True
    dip_tube: bool | None = None
    net_kg: float | None = Field(None, ge=0, le=2000)

    def outlets(self) -> tuple[str, ...]:
        """Nothing goes on behind a cylinder."""
        return ()


class NitrogenPart(Piece):
    """A nitrogen bottle with its regulator and relief. Shut unless it is opened."""

    kind: Literal["nitrogen"] = "nitrogen"

    def outlets(self) -> tuple[str, ...]:
        """Nothing goes on behind a bottle."""
        return ()


Part = Annotated[
    PumpPart
    | TeePart
    | HosePart
    | ManifoldPart
    | ToolPart
    | AdapterPart
    | ValvePart
    | GaugePart
    | CylinderPart
    | NitrogenPart,
    Field(discriminator="kind"),
]
