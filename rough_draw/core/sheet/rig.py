"""The rig: pump, tees, hoses, manifold, tools, gauges, cylinders, each on the part before it.

A flat list with one pointer a part: ``on`` names the part it is screwed to (toward the pump, or toward the port
in a chain that stands on a port), ``at`` the outlet there, ``port`` the service port its own end is screwed on.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from rough_draw.core.catalogue.rig_parts import GAUGES, HOSE_SIZES, MANIFOLD_BORE, TOOL_BORE
from rough_draw.core.message import Name, message
from rough_draw.core.sheet.base import Sheet, Slug, Text, fault, unique
from rough_draw.core.sheet.scope import PortSize


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
    """A rotary-vane pump: plate displacement, stages, measured blank-off, oil, its own valve, its motor's current."""

    kind: Literal["pump"] = "pump"
    plate_cfm: float = Field(5.0, ge=0.5, le=100)
    stages: Literal[1, 2] = 2
    blank_off_micron: float | None = Field(None, ge=1, le=20_000)
    oil: Literal["fresh", "used", "wet"] = "fresh"
    valve: bool = True
    rated_a2l: bool = True
    current_a: float | None = Field(None, gt=0, le=60)

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

    ``depressor``: the pin that pushes a valve core is still in its system end. ``ball_end``: a ball valve there.
    """

    kind: Literal["hose"] = "hose"
    size: str = "3/8 in"
    length_m: float = Field(1.5, ge=0.05, le=60)
    made_for: Literal["vacuum", "pressure"] = "vacuum"
    age: Literal["new", "used", "old"] = "used"
    depressor: bool = False
    ball_end: bool = False
    fits: PortSize = "1/4 in"

    @field_validator("size")
    @classmethod
    def _known(cls, size: str) -> str:
        if size not in HOSE_SIZES:
            raise fault("", "hose-size", size=size, known=", ".join(HOSE_SIZES))
        return size


class ManifoldPart(Piece):
    """A manifold. ``inlet``: the place the pump's hose is on; each other place has its own valve but the centre."""

    kind: Literal["manifold"] = "manifold"
    body: str = "four-port"
    inlet: Literal["vacuum", "centre", "high", "low"] = "vacuum"

    @field_validator("body")
    @classmethod
    def _known(cls, body: str) -> str:
        if body not in MANIFOLD_BORE:
            raise fault("", "manifold", body=body, known=", ".join(MANIFOLD_BORE))
        return body

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
    """A core tool: a ball valve that takes the core out under pressure or vacuum; its side port is by the port."""

    kind: Literal["tool"] = "tool"
    bore: str = "3/8 in"
    vacuum_rated: bool = True
    fits: PortSize = "1/4 in"

    @field_validator("bore")
    @classmethod
    def _known(cls, bore: str) -> str:
        if bore not in TOOL_BORE:
            raise fault("", "tool-bore", size=bore, known=", ".join(TOOL_BORE))
        return bore

    def outlets(self) -> tuple[str, ...]:
        """Its side port; and its hose end where nothing nearer the pump is screwed on it."""
        return ("side",) if self.on is not None and self.port is not None else ("end", "side")


class AdapterPart(Piece):
    """A fitting from one size to another. ``depressor``: it pushes the core of the port it is screwed on."""

    kind: Literal["adapter"] = "adapter"
    fits: PortSize = "5/16 in"
    depressor: bool = False


class ValvePart(Piece):
    """A plain ball valve in the line."""

    kind: Literal["valve"] = "valve"
    vacuum_rated: bool = True
    fits: PortSize = "1/4 in"


class GaugePart(Piece):
    """A micron gauge. ``make`` is its generic class; ``valve``: it has a shut-off of its own built in."""

    kind: Literal["gauge"] = "gauge"
    make: str = "thermistor"
    resolution_micron: float = Field(1.0, gt=0, le=1000)
    over_micron: float = Field(20_000.0, ge=1000, le=800_000)
    noise_pct: float = Field(0.4, ge=0, le=20)
    stands_kpa: float = Field(3500.0, gt=0, le=20_000)
    valve: bool = False
    depressor: bool = True
    fits: PortSize = "1/4 in"

    @field_validator("make")
    @classmethod
    def _known(cls, make: str) -> str:
        if make not in GAUGES:
            raise fault("", "gauge-class", make=make, known=", ".join(GAUGES))
        return make

    def outlets(self) -> tuple[str, ...]:
        """Nothing goes on behind a gauge."""
        return ()


class CylinderPart(Piece):
    """A refrigerant cylinder, on a scale or not. Its own valve is shut unless it is opened."""

    kind: Literal["cylinder"] = "cylinder"
    on_scale: bool = True

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


class Cord(Sheet):
    """The extension cord to the pump. ``wire`` is an AWG number or mm², one way's length in m."""

    length_m: float = Field(15.0, gt=0, le=300)
    wire: str = "14 AWG"
    volts: float = Field(120.0, ge=90, le=480)


class Rig(Sheet):
    """Every part of the rig, and which ports have their core in."""

    pattern: Slug | None = None
    parts: tuple[Part, ...] = Field((), max_length=40)
    cores_in: tuple[Slug, ...] = Field((), max_length=12)
    cord: Cord | None = None

    @model_validator(mode="before")
    @classmethod
    def _filled(cls, values: object) -> object:
        """A rig without parts is the first pattern on a suction and a liquid port."""
        if isinstance(values, dict) and not values.get("parts"):
            from rough_draw.core.sheet.setups import first_rig

            return {**first_rig(), **{k: v for k, v in values.items() if k != "parts"}}
        return values

    @model_validator(mode="after")
    def _consistent(self) -> Rig:
        unique([p.id for p in self.parts], "rig.parts", "parts")
        pumps = [p.id for p in self.parts if p.kind == "pump"]
        if not pumps:
            raise fault("rig.parts", "no-pump")
        if len(pumps) > 1:
            raise fault(f"rig.parts.{pumps[1]}", "two-pumps")
        by_id = {p.id: p for p in self.parts}
        used: dict[tuple[str, str], str] = {}
        on_port: dict[str, str] = {}
        for p in self.parts:
            here = f"rig.parts.{p.id}"
            if p.on is not None:
                parent = by_id.get(p.on)
                if parent is None:
                    raise fault(here, "part-on-nothing", part=p.called(), on=p.on)
                if p.kind == "pump":
                    raise fault(here, "pump-first")
                if p.at not in parent.outlets():
                    offered = ", ".join(parent.outlets()) or "none"
                    raise fault(here, "no-outlet", part=p.called(), on=parent.called(), at=p.at, known=offered)
                if (p.on, p.at) in used:
                    raise fault(
                        here,
                        "same-outlet",
                        one=by_id[used[p.on, p.at]].called(),
                        two=p.called(),
                        at=p.at,
                        on=parent.called(),
                    )
                used[p.on, p.at] = p.id
            elif p.kind != "pump" and p.port is None:
                raise fault(here, "part-loose", part=p.called())
            if p.port is not None:
                if p.port in on_port:
                    raise fault(here, "port-taken", one=by_id[on_port[p.port]].called(), two=p.called(), port=p.port)
                on_port[p.port] = p.id
                if p.kind in ("pump", "tee", "manifold", "cylinder", "nitrogen"):
                    raise fault(here, "not-on-port", part=message(f"part-{p.kind}"))
        for p in self.parts:
            seen = {p.id}
            up = p
            while up.on is not None:
                up = by_id[up.on]
                if up.id in seen:
                    raise fault(f"rig.parts.{p.id}", "circle", part=p.called())
                seen.add(up.id)
        return self

    def get(self, name: str) -> Part | None:
        """A part by its id."""
        return next((p for p in self.parts if p.id == name), None)

    @property
    def pump(self) -> PumpPart:
        """The pump."""
        return next(p for p in self.parts if isinstance(p, PumpPart))

    @property
    def gauges(self) -> tuple[GaugePart, ...]:
        """Gauges in their order; the first is the one that is read."""
        return tuple(p for p in self.parts if isinstance(p, GaugePart))

    @property
    def gauge(self) -> GaugePart | None:
        """The gauge that is read, if there is one."""
        return self.gauges[0] if self.gauges else None

    def children(self, name: str) -> list[Part]:
        """Parts screwed on a part, in its outlets' order."""
        parent = self.get(name)
        order = parent.outlets() if parent else ()
        return sorted((p for p in self.parts if p.on == name), key=lambda p: order.index(p.at) if p.at in order else 9)

    def below(self, name: str) -> Iterator[Part]:
        """Every part that stands on a part, or on one that does, nearest first along each branch."""
        for child in self.children(name):
            yield child
            yield from self.below(child.id)

    def chain(self, part: Part) -> list[Part]:
        """Parts from the root (the pump, or the part on a port) down to ``part``, itself last."""
        found = [part]
        while found[-1].on is not None:
            up = self.get(found[-1].on)
            if up is None:
                break
            found.append(up)
        return found[::-1]

    def from_pump(self, part: Part) -> bool:
        """Whether the part hangs on the pump through other parts (not only on a port of its own)."""
        return self.chain(part)[0].kind == "pump"

    def pumped(self) -> list[Part]:
        """Parts by which the pump reaches a port, in the rig's order."""
        return [p for p in self.parts if p.port is not None and self.from_pump(p)]

    def on_port(self, port: str) -> Part | None:
        """The part screwed on a port."""
        return next((p for p in self.parts if p.port == port), None)

    def with_parts(self, parts: list[Part], **changes: object) -> Rig:
        """The rig with other parts, checked again; raises ValidationError."""
        return Rig.model_validate({**self.model_dump(), **changes, "parts": [p.model_dump() for p in parts]})
